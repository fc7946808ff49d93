using System.Security.Claims;
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

/// <summary>
/// Holds everything a practice keeps against what it was when it was written: acts against their chain, files against their hashes, entries
/// against the seal in the Ledger, figures against the rules, e-returns against the frozen returns, receipts against the authority's signature.
/// </summary>
public sealed class Verification(PracticeDatabase database, TimeProvider clock)
{
    /// <summary>Verifies the practice, and notes that it was.</summary>
    public IReadOnlyList<VerificationCheck> Run(Caller caller)
    {
        var checks = database.Read<IReadOnlyList<VerificationCheck>>(unit =>
        {
            var returns = Storage.Returns.All(unit);
            return [ActsOf(unit), FilesOf(unit), EntriesOf(unit, returns), FiguresOf(unit, returns), PaymentsOf(unit, returns), .. ApprovedOf(unit), ReceiptsOf(unit)];
        });
        var wrong = checks.Sum(c => c.Wrong.Count);
        database.Write(unit => Acts.Add(unit, caller.Act("verify", clock.GetUtcNow()) with { After = wrong == 0 ? "everything holds" : $"{wrong} things do not hold" }));
        return checks;
    }

    private static VerificationCheck ActsOf(Unit unit)
    {
        var broken = Acts.FirstBroken(unit);
        return new("acts follow each other in an unbroken chain", (int)Acts.Count(unit), broken is null ? [] : [$"The chain breaks at act {broken}: it, or one before it, was altered."]);
    }

    private static VerificationCheck FilesOf(Unit unit)
    {
        var wrong = new List<string>();
        var count = 0;
        foreach (var (sha256, content) in Artefacts.All(unit))
        {
            count++;
            if (Hash(content) != sha256)
            {
                wrong.Add($"The file {sha256[..12]} was altered{UsedBy(unit, sha256)}.");
            }
        }

        wrong.AddRange(Artefacts.Missing(unit).Select(sha256 => $"The file {sha256[..12]} is missing{UsedBy(unit, sha256)}."));
        return new("files have the hashes they were kept under", count, wrong);
    }

    private static VerificationCheck EntriesOf(Unit unit, IReadOnlyList<ReturnRecord> returns)
    {
        var (count, wrong) = (0, new List<string>());
        foreach (var record in returns)
        {
            if (EntrySeal.Latest(unit, record.Id) is not { } seal)
            {
                continue;
            }

            count++;
            if (seal.ToString() != EntrySeal.OfStored(unit, record.Id).ToString())
            {
                wrong.Add($"Return {record.Id}: its entries are not those of its last edit{Differing(unit, record)}.");
            }
        }

        return new("returns hold the entries of their last edit", count, wrong);
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

    private static VerificationCheck FiguresOf(Unit unit, IReadOnlyList<ReturnRecord> returns)
    {
        var (count, wrong) = (0, new List<string>());
        foreach (var record in returns.Where(r => r.CheckedOn.Length > 0))
        {
            var day = DateOnly.ParseExact(record.CheckedOn, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
            var evaluation = On(record).Evaluation;
            count++;
            foreach (var (what, kept, computed) in new[] { ("balance", record.Balance, evaluation.Balance), ("penalty and interest", record.Charges, evaluation.RunningCharges) })
            {
                if (kept != Figures.Canonical(computed))
                {
                    wrong.Add($"Return {record.Id}: the {what} kept for lists is {kept}, the rules give {Figures.Canonical(computed)}.");
                }
            }

            Workspace On(ReturnRecord item) => Workspace.Load(unit, item, Catalogue.Get(item.Definition, item.Year, item.Period), day, On);
        }

        return new("returns have the figures that the rules give", count, wrong);
    }

    private static VerificationCheck PaymentsOf(Unit unit, IReadOnlyList<ReturnRecord> returns)
    {
        var (count, wrong) = (0, new List<string>());
        foreach (var record in returns)
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
            count += kept.Count;
            wrong.AddRange(kept.Where(p => !noted.Remove(p)).Select(p => $"Return {record.Id}: the payment of {p} was never noted."));
            wrong.AddRange(noted.Select(p => $"Return {record.Id}: the payment of {p} is gone."));
        }

        return new("payments are those that were noted", count, wrong);
    }

    private static IEnumerable<VerificationCheck> ApprovedOf(Unit unit)
    {
        var (figures, signers, files) = (new List<string>(), new List<string>(), new List<string>());
        var (frozen, built) = (0, 0);
        foreach (var approval in Approvals.Frozen(unit))
        {
            var acts = Acts.OfReturn(unit, approval.ReturnId);
            foreach (var person in new[] { approval.ApprovedBy, approval.SecondBy }.OfType<long>().Where(p => !acts.Any(a => a.Kind == "approve" && a.PersonId == p)))
            {
                signers.Add($"Return {approval.ReturnId}: {People.Find(unit, person)?.Name ?? $"person {person}"} stands as having approved it, and no act says so.");
            }

            if (Read(unit, approval.EntriesSha256!) is not { } content)
            {
                continue;
            }

            var was = FrozenReturn.Read(content);
            if (Catalogue.Find(was.Definition, was.Year, was.Period, out _) is not { } definition || definition.Revision != was.RuleRevision)
            {
                continue;
            }

            frozen++;
            var evaluation = definition.Evaluate(was.Entries, was.Day);
            if (!FrozenReturn.FiguresOf(evaluation).SequenceEqual(was.Figures))
            {
                figures.Add($"Return {approval.ReturnId}: the figures frozen with its approval are not those that the rules give.");
            }

            foreach (var one in BuiltReturns.OfApproval(unit, approval.Id))
            {
                built++;
                if (Read(unit, one.EreturnSha256) is { } file && !IsBuiltFrom(file, evaluation))
                {
                    files.Add($"Return {approval.ReturnId}: the e-return built on {one.BuiltAt[..10]} is not what the frozen return gives.");
                }
            }
        }

        yield return new("frozen returns have the figures that the rules give", frozen, figures);
        yield return new("approvals are those the Ledger tells of", frozen, signers);
        yield return new("e-returns are what the frozen returns give, byte for byte", built, files);
    }

    private static bool IsBuiltFrom(byte[] file, Evaluation evaluation)
    {
        var again = Catalogue.TypeOf(evaluation.Definition.Id).EReturn.InFormOf(file).Write(evaluation).Content;
        return EReturnFormat.Of(file) == EReturnFormat.Xml ? XmlSignature.Unsigned(again).AsSpan().SequenceEqual(XmlSignature.Unsigned(file)) : again.AsSpan().SequenceEqual(file);
    }

    private static VerificationCheck ReceiptsOf(Unit unit)
    {
        var (count, wrong) = (0, new List<string>());
        foreach (var sending in Sendings.Answered(unit).Where(s => s.ReceiptSignature is not null))
        {
            if (Read(unit, sending.ReceiptSha256!) is not { } receipt)
            {
                continue;
            }

            count++;
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
        }

        return new("receipts are signed by the authority and about the file sent", count, wrong);
    }

    /// <summary>A file as it is kept; null when it is missing or altered, which is told once, with the files.</summary>
    private static byte[]? Read(Unit unit, string sha256) => Artefacts.Find(unit, sha256) is { } content && Hash(content) == sha256 ? content : null;

    private static string UsedBy(Unit unit, string sha256) => Artefacts.UsedBy(unit, sha256) is { Count: > 0 } uses ? $": {string.Join(", ", uses)}" : "";

    private static string Hash(byte[] content) => Convert.ToHexStringLower(SHA256.HashData(content));
}

internal static class VerificationEndpoints
{
    public static void MapVerification(this RouteGroupBuilder api)
    {
        api.MapGet("/acts/verification", (PracticeDatabase database) => database.Read(unit => new ChainView(Acts.Count(unit), Acts.FirstBroken(unit)))).ReachesPractice().WithTags("Practice");
        api.MapPost("/acts/verification", (ClaimsPrincipal user, Verification verification) => verification.Run(Caller.Of(user)))
            .ReachesPractice().WithTags("Practice").RequireAuthorization(Policies.Manage);
    }
}
