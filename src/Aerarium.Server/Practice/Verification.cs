using System.Security.Cryptography;
using System.Text.Json;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>One thing that was verified.</summary>
/// <param name="What">What it is, in words.</param>
/// <param name="Count">How many of it were looked at.</param>
/// <param name="Wrong">What does not hold, each in words; empty when all does.</param>
public sealed record VerificationCheck(string What, int Count, IReadOnlyList<string> Wrong);

/// <summary>How far a verification has come.</summary>
/// <param name="What">What is looked at now.</param>
/// <param name="Done">How many of it were looked at.</param>
/// <param name="Total">How many there are.</param>
/// <param name="Checks">What was verified before.</param>
public sealed record VerificationProgress(string What, int Done, int Total, IReadOnlyList<VerificationCheck> Checks);

/// <summary>
/// Holds everything a practice keeps against what it was when it was written: acts against their chain, files against their hashes, entries
/// against the seal in the Ledger, figures against the rules, e-returns against the frozen returns, receipts against the authority's signature.
/// It is done piece by piece, so that it can be watched and stopped, and keeps nobody from writing.
/// </summary>
public sealed class Verification(PracticeDatabase database, TimeProvider clock)
{
    private const string Chain = "acts follow each other in an unbroken chain";
    private const int AtOnce = 20;
    private const int ActsAtOnce = 20_000;

    /// <summary>Verifies the practice, and notes that it was.</summary>
    /// <exception cref="OperationCanceledException">It was stopped.</exception>
    public IReadOnlyList<VerificationCheck> Run(Caller caller, Action<VerificationProgress>? tell = null, CancellationToken stop = default)
    {
        var run = new Pass(database, tell ?? (_ => { }), stop);
        run.Whole("the database file is whole", DatabaseCheck.Damage);
        run.Whole("records refer to what is there", DatabaseCheck.Dangling);
        run.Guarded(Chain, () => ActsOf(run));
        run.Each("files have the hashes they were kept under", Artefacts.All, FileHolds);
        run.Whole("files that something refers to are there", unit => [.. Artefacts.Missing(unit).Select(sha256 => $"The file {sha256[..12]} is missing{UsedBy(unit, sha256)}.")]);
        run.Each("returns hold the entries of their last edit", Storage.Returns.All, EntriesHold);
        run.Each("returns have the figures that the rules give", Storage.Returns.All, FiguresHold);
        run.Each("payments are those that were recorded", Storage.Returns.All, PaymentsHold);
        run.Each("approvals are those the Ledger tells of", Approvals.Frozen, SignersHold);
        run.Each("frozen returns have the figures that the rules give", Approvals.Frozen, FrozenFiguresHold);
        run.Each("e-returns are what the frozen returns give, byte for byte", Approvals.Frozen, BuiltFilesHold);
        run.Each<SendingRecord>("receipts are signed by the authority and about the file sent", unit => [.. Sendings.Answered(unit).Where(s => s.ReceiptSignature is not null)], ReceiptHolds);

        var wrong = run.Checks.Sum(c => c.Wrong.Count);
        run.Guarded("this verification is noted in the Ledger", () =>
            database.Write(unit => Acts.Add(unit, caller.Act("verify", clock.GetUtcNow()) with { After = wrong == 0 ? "everything holds" : $"{wrong} things do not hold" })));
        return run.Checks;
    }

    private void ActsOf(Pass run)
    {
        var total = (int)database.Read(Acts.Count);
        var walk = new ChainWalk(ChainPlace.Beginning, null, false);
        for (var done = 0; !walk.AtEnd; done += ActsAtOnce)
        {
            run.Tell(Chain, Math.Min(done, total), total);
            walk = database.Read(unit => ActChain.Follow(unit, walk.To, ActsAtOnce));
        }

        run.Add(new(Chain, total, walk.Broken is null ? [] : [$"The chain breaks at act {walk.Broken}: it, or one before it, was altered."]));
        if (walk.Broken is null)
        {
            database.Write(unit => ActChain.Prove(unit, walk.To, whole: true, Moments.Text(clock.GetUtcNow())));
        }
    }

    private static int FileHolds(Unit unit, string sha256, List<string> wrong)
    {
        if (Artefacts.Find(unit, sha256) is { } content && Hash(content) != sha256)
        {
            wrong.Add($"The file {sha256[..12]} was altered{UsedBy(unit, sha256)}.");
        }

        return 1;
    }

    private static int EntriesHold(Unit unit, ReturnRecord record, List<string> wrong)
    {
        if (EntrySeal.Latest(unit, record.Id) is not { } seal)
        {
            return 0;
        }

        if (seal.ToString() != EntrySeal.OfStored(unit, record.Id).ToString())
        {
            wrong.Add($"Return {record.Id}: its entries are not those of its last edit{Differing(unit, record)}.");
        }

        return 1;
    }

    /// <summary>Where the entries differ from what the acts say was typed, as far as the acts say it one by one.</summary>
    private static string Differing(Unit unit, ReturnRecord record)
    {
        var typed = new Dictionary<(string, string), string?>();
        foreach (var act in Acts.OfReturn(unit, record.Id).Where(a => a.Kind == "entry"))
        {
            typed[(act.Line!, act.Row ?? "")] = act.After;
        }

        var differing = Storage.Returns.Entries(unit, record.Id)
            .Where(e => typed.TryGetValue((e.Line, e.Row), out var after) && after != e.Value)
            .Select(e => $"{e.Line}{(e.Row.Length == 0 ? "" : $" in row {e.Row}")} is {e.Value ?? "blank"}, the Ledger says {typed[(e.Line, e.Row)] ?? "blank"}").ToList();
        return differing.Count == 0 ? "" : $": {string.Join("; ", differing)}";
    }

    private static int FiguresHold(Unit unit, ReturnRecord record, List<string> wrong)
    {
        if (record.CheckedOn.Length == 0)
        {
            return 0;
        }

        var day = DateOnly.ParseExact(record.CheckedOn, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        var evaluation = On(record).Evaluation;
        foreach (var (what, kept, computed) in new[] { ("balance", record.Balance, evaluation.Balance), ("penalty and interest", record.Charges, evaluation.RunningCharges) })
        {
            if (kept != Figures.Canonical(computed))
            {
                wrong.Add($"Return {record.Id}: the {what} kept for lists is {kept}, the rules give {Figures.Canonical(computed)}.");
            }
        }

        return 1;

        Workspace On(ReturnRecord item) => Load(item, source => Load(source, open: null));

        Workspace Load(ReturnRecord item, Func<ReturnRecord, Workspace>? open) => Workspace.Load(unit, item, PracticeDefinitions.Of(unit, item), day, open);
    }

    private static int PaymentsHold(Unit unit, ReturnRecord record, List<string> wrong)
    {
        var noted = new List<string>();
        foreach (var act in Acts.OfReturn(unit, record.Id).Where(a => a.Kind == "payment"))
        {
            if (act.After is { } added)
            {
                noted.Add(added);
            }
            else
            {
                noted.Remove(act.Before!);
            }
        }

        var kept = Payments.Of(unit, record.Id).Select(p => $"{p.Amount} on {p.PaidOn}, {p.Reference}").ToList();
        wrong.AddRange(kept.Where(p => !noted.Remove(p)).Select(p => $"Return {record.Id}: the payment of {p} was never noted."));
        wrong.AddRange(noted.Select(p => $"Return {record.Id}: the payment of {p} is gone."));
        return kept.Count;
    }

    private static int SignersHold(Unit unit, ApprovalRecord approval, List<string> wrong)
    {
        var acts = Acts.OfReturn(unit, approval.ReturnId);
        foreach (var person in new[] { approval.ApprovedBy, approval.SecondBy }.OfType<long>().Where(p => !acts.Any(a => a.Kind == "approve" && a.PersonId == p)))
        {
            wrong.Add($"Return {approval.ReturnId}: {People.Find(unit, person)?.Name ?? $"person {person}"} stands as having approved it, and no act says so.");
        }

        return 1;
    }

    private static int FrozenFiguresHold(Unit unit, ApprovalRecord approval, List<string> wrong)
    {
        if (Thawed(unit, approval) is not { } frozen)
        {
            return 0;
        }

        if (!FrozenReturn.FiguresOf(frozen.Evaluation).SequenceEqual(frozen.Was.Figures))
        {
            wrong.Add($"Return {approval.ReturnId}: the figures frozen with its approval are not those that the rules give.");
        }

        return 1;
    }

    private static int BuiltFilesHold(Unit unit, ApprovalRecord approval, List<string> wrong)
    {
        var built = BuiltReturns.OfApproval(unit, approval.Id);
        if (built.Count == 0 || Thawed(unit, approval) is not { } frozen)
        {
            return 0;
        }

        foreach (var one in built)
        {
            if (Read(unit, one.EreturnSha256) is { } file && !IsBuiltFrom(file, frozen.Evaluation))
            {
                wrong.Add($"Return {approval.ReturnId}: the e-return built on {one.BuiltAt[..10]} is not what the frozen return gives.");
            }
        }

        return built.Count;
    }

    /// <summary>What was frozen with an approval and its evaluation; null when the file is gone or altered, which is told once, or the rules have changed since.</summary>
    private static (FrozenReturn Was, Evaluation Evaluation)? Thawed(Unit unit, ApprovalRecord approval)
    {
        if (Read(unit, approval.EntriesSha256!) is not { } content)
        {
            return null;
        }

        var was = FrozenReturn.Read(content);
        return Catalogue.Find(was.Definition, was.Year, was.Period, out _) is not null && PracticeDefinitions.Of(unit, was) is var definition && definition.FigureRevision == was.FigureRevision
            ? (was, definition.Evaluate(was.Entries, was.Day))
            : null;
    }

    private static bool IsBuiltFrom(byte[] file, Evaluation evaluation)
    {
        var again = Catalogue.TypeOf(evaluation.Definition.Id).Mapping.InFormOf(file).Write(evaluation).Content;
        return EReturnFormat.SaysTheSame(file, again);
    }

    private static int ReceiptHolds(Unit unit, SendingRecord sending, List<string> wrong)
    {
        if (Read(unit, sending.ReceiptSha256!) is not { } receipt)
        {
            return 0;
        }

        using var authority = JsonSignature.Signer(sending.ReceiptSignature!, receipt);
        using var said = JsonDocument.Parse(receipt);
        if (authority is null)
        {
            wrong.Add($"Return {sending.ReturnId}: the authority's signature on its receipt does not hold.");
        }
        else if (said.RootElement.TryGetProperty("sha256", out var about) && about.GetString() != BuiltReturns.Find(unit, sending.BuiltId)!.EreturnSha256)
        {
            wrong.Add($"Return {sending.ReturnId}: its receipt is about another file.");
        }
        else if (said.RootElement.TryGetProperty("acknowledgement", out var number) && number.GetString() != sending.Acknowledgement)
        {
            wrong.Add($"Return {sending.ReturnId}: the acknowledgement kept is {sending.Acknowledgement}, the receipt says {number.GetString()}.");
        }

        return 1;
    }

    /// <summary>A file as it is kept; null when it is missing or altered, which is told once, with the files.</summary>
    private static byte[]? Read(Unit unit, string sha256) => Artefacts.Find(unit, sha256) is { } content && Hash(content) == sha256 ? content : null;

    private static string UsedBy(Unit unit, string sha256) => Artefacts.UsedBy(unit, sha256) is { Count: > 0 } uses ? $": {string.Join(", ", uses)}" : "";

    private static string Hash(byte[] content) => Convert.ToHexStringLower(SHA256.HashData(content));

    /// <summary>One pass over the practice: check after check, each in pieces, with a word on how far it has come.</summary>
    private sealed class Pass(PracticeDatabase database, Action<VerificationProgress> tell, CancellationToken stop)
    {
        private readonly List<VerificationCheck> _checks = [];

        public IReadOnlyList<VerificationCheck> Checks => _checks;

        public void Tell(string what, int done, int total)
        {
            stop.ThrowIfCancellationRequested();
            tell(new VerificationProgress(what, done, total, [.. _checks]));
        }

        public void Add(VerificationCheck check) => _checks.Add(check);

        /// <summary>A check that is made in one piece.</summary>
        public void Whole(string what, Func<Unit, IReadOnlyList<string>> wrong) => Guarded(what, () =>
        {
            Tell(what, 0, 1);
            var found = database.Read(unit =>
            {
                // Looking through a large file takes seconds, and nobody waits for that after saying stop.
                using (stop.Register(unit.Interrupt))
                {
                    return wrong(unit);
                }
            });
            stop.ThrowIfCancellationRequested();
            Add(new VerificationCheck(what, 1, found));
        });

        /// <summary>Part of the pass that a damaged file may end: that is then told, and the pass goes on.</summary>
        public void Guarded(string what, Action check)
        {
            try
            {
                check();
            }
            catch (Exception problem) when (problem is not OperationCanceledException)
            {
                stop.ThrowIfCancellationRequested();
                Add(new VerificationCheck(what, 0, [$"This cannot be found out: {problem.Message}"]));
            }
        }

        /// <summary>A check of many things; each says how many it counts for, and what does not hold.</summary>
        public void Each<T>(string what, Func<Unit, IReadOnlyList<T>> list, Func<Unit, T, List<string>, int> look) => Guarded(what, () =>
        {
            var (done, count, wrong, things) = (0, 0, new List<string>(), database.Read(list));
            foreach (var piece in things.Chunk(AtOnce))
            {
                Tell(what, done, things.Count);
                count += database.Read(unit => piece.Sum(thing => Looked(unit, thing)));
                done += piece.Length;
            }

            Add(new VerificationCheck(what, count, wrong));

            int Looked(Unit unit, T thing)
            {
                try
                {
                    return look(unit, thing, wrong);
                }
                catch (Exception problem) when (problem is not OperationCanceledException)
                {
                    // What is damaged is read with whatever failure it comes to; the check goes on with the next thing.
                    wrong.Add($"{(thing is ReturnRecord record ? $"Return {record.Id}" : "Something")} cannot be read: {problem.Message}");
                    return 1;
                }
            }
        });
    }
}
