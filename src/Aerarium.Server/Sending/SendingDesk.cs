using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Server.Kept;
using Aerarium.Server.Paying;
using Aerarium.Server.Practice;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Sending;

/// <summary>A reason of a rejection with the line it belongs to.</summary>
public sealed record RejectionReason(string Code, string Message, string? Line, string? Row, string? LineLabel);

/// <summary>
/// Queues sendings and carries them to an answer. The idempotency key is fixed and stored before the first attempt, so
/// that a crash at any point repeats the same filing instead of making another.
/// </summary>
public sealed class SendingDesk(
    PracticeDatabase database,
    Workbench workbench,
    Ties ties,
    EReturnBuilding building,
    ReturnPapers papers,
    AuthorityClient authority,
    AuthorityConsent consent,
    AuthorityMail mail,
    AuthorityCertificate seal,
    TimeProvider clock,
    Random chance,
    IConfiguration settings,
    LiveReturns live)
{
    private static readonly TimeSpan AskAgain = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan LongestWait = TimeSpan.FromMinutes(10);

    private readonly TimeSpan _chaseAfter = TimeSpan.FromSeconds(settings.GetValue("Mail:ChaseAfterSeconds", 7 * 24 * 3600d));

    private readonly TimeSpan _silentAfter = TimeSpan.FromSeconds(settings.GetValue("Mail:SilentAfterSeconds", 3 * 24 * 3600d));

    /// <summary>Queues the built return for sending.</summary>
    /// <exception cref="PlainProblem">It is not built, has faults, or was sent already.</exception>
    public void Queue(long id, Caller caller)
    {
        database.Write(unit =>
        {
            var workspace = workbench.Open(unit, id);
            var approval = Approvals.Latest(unit, id);
            var built = BuiltReturns.Latest(unit, id);
            if (Sendings.OfReturn(unit, id).FirstOrDefault(s => s.State is "queued" or "pending" or "accepted") is { } earlier)
            {
                throw PlainProblem.Conflict(earlier.State == "accepted"
                    ? $"This return was accepted as {earlier.Acknowledgement}; it is not filed twice."
                    : "This return is on its way already; it is not filed twice.");
            }

            if (workspace.Record.Stage != Stage.Approved || approval is not { State: "approved" } || built?.ApprovalId != approval.Id)
            {
                throw PlainProblem.Conflict("Build the approved return first; figures that changed after the file was built are never sent.");
            }

            var asked = ClientAcceptances.Latest(unit, approval.Id);
            if (asked is { Answer: not "accepted" } or null && (asked is not null || ApprovalRules.Of(unit).ClientAccepts))
            {
                throw PlainProblem.Conflict(asked switch
                {
                    null => "The client has to accept this return before it is sent; ask on the Approve page.",
                    { Answer: "refused" } => $"The client, {asked.Name}, refused this return: {asked.Remark}",
                    _ => "The client was asked and has not answered yet; nothing is sent before.",
                });
            }

            if (JsonSerializer.Deserialize<List<BuildFault>>(built.Faults)!.Count > 0)
            {
                throw PlainProblem.Conflict("The e-return breaks the authority's schema; correct the lines named and build again.");
            }

            if (EReturnForm.Chosen(unit, workspace.Record.Definition).CheckedBeforehand)
            {
                var reasons = built.CheckReasons is null ? throw PlainProblem.Conflict("Have the e-return checked by the authority's rules first.") : JsonSerializer.Deserialize<List<AuthorityReason>>(built.CheckReasons)!;
                if (reasons.Count > 0)
                {
                    throw PlainProblem.Conflict("The authority's rules refuse this e-return; correct the lines named, have it approved and build it again.");
                }
            }

            var now = Moments.Text(clock.GetUtcNow());
            Sendings.Add(unit, new SendingRecord
            {
                ReturnId = id,
                BuiltId = built.Id,
                IdempotencyKey = $"{built.EreturnSha256[..24]}-{built.Id}",
                State = "queued",
                NextAttemptAt = now,
                CreatedBy = caller.Id,
                CreatedAt = now,
            });
            Storage.Returns.SetStage(unit, id, Stage.Sent);
            PaymentDesk.KeepUnpaid(unit, id);
            Acts.Add(unit, caller.Act("send", clock.GetUtcNow()) with { ReturnId = id, ClientId = workspace.Record.ClientId, After = built.EreturnSha256 });
        });
        workbench.Forget(id);
    }

    /// <summary>Takes every sending that is due one step further; one failure never stops the others.</summary>
    public async Task WorkAsync(CancellationToken cancellation)
    {
        foreach (var sending in database.Read(unit => Sendings.Due(unit, Moments.Text(clock.GetUtcNow()))))
        {
            await StepAsync(sending, cancellation);
            await live.TellStatusAsync(sending.ReturnId, cancellation);
        }
    }

    /// <summary>Asks after a sending at once.</summary>
    public void Chase(long id, Caller caller) => database.Write(unit =>
    {
        if (Sendings.OfReturn(unit, id).FirstOrDefault(s => s.State is "queued" or "pending") is not { } open)
        {
            throw PlainProblem.Conflict("Nothing is on its way for this return.");
        }

        Sendings.Change(unit, open with { NextAttemptAt = Moments.Text(clock.GetUtcNow()) });
        Acts.Add(unit, caller.Act("chase", clock.GetUtcNow()) with { ReturnId = id });
    });

    private async Task StepAsync(SendingRecord sending, CancellationToken cancellation)
    {
        SignedAnswer answer;
        try
        {
            if (database.Read(unit => TypeOf(unit, sending)).Mapping.Channel == Channel.Mail)
            {
                await MailAsync(sending, cancellation);
                return;
            }

            answer = sending.State == "queued"
                ? await SubmitAsync(sending, cancellation)
                : await authority.StatusAsync(sending.IdempotencyKey, cancellation) ?? await SubmitAsync(sending, cancellation);
            await seal.RequireGenuineAsync(answer, DocumentOf(sending), cancellation);
        }
        catch (AuthorityUnavailableException problem)
        {
            // Twice as long every time, up to a limit; half of it by chance, so that many that failed together do not come back together.
            var longest = Math.Min(LongestWait.TotalSeconds, Math.Pow(2, Math.Min(20, sending.Attempts)));
            var wait = problem.Wait ?? TimeSpan.FromSeconds((longest / 2) + (longest / 2 * chance.NextDouble()));
            database.Write(unit => Sendings.Change(unit, sending with
            {
                Attempts = sending.Attempts + 1,
                Problem = problem.Message,
                NextAttemptAt = Moments.Text(clock.GetUtcNow() + wait),
            }));
            return;
        }

        Take(sending with { Attempts = sending.Attempts + 1 }, answer);
    }

    /// <summary>Takes an answer that came by mail; false when nothing was sent under that key.</summary>
    /// <exception cref="AuthorityUnavailableException">The answer is not the authority's, or about another document.</exception>
    public async Task<bool> AnsweredAsync(string key, SignedAnswer answer, MailInWords reply)
    {
        if (database.Read(unit => Sendings.FindByKey(unit, key)) is not { } sending)
        {
            return false;
        }

        if (sending.State is "queued" or "pending")
        {
            await seal.RequireGenuineAsync(answer, DocumentOf(sending), CancellationToken.None);
            Take(sending with { Reply = JsonSerializer.Serialize(reply, JsonSerializerOptions.Web) }, answer);
            await live.TellStatusAsync(sending.ReturnId);
        }

        return true;
    }

    /// <summary>Whether a mail was sent and nothing has come back for longer than answers take.</summary>
    public bool IsSilent(Unit unit, SendingRecord sending) =>
        sending is { State: "pending", SentAt: { } sentAt } && TypeOf(unit, sending).Mapping.Channel == Channel.Mail
        && clock.GetUtcNow() - DateTimeOffset.Parse(sentAt, System.Globalization.CultureInfo.InvariantCulture) > _silentAfter;

    private static Countries.ReturnType TypeOf(Unit unit, SendingRecord sending) => TypeOf(Storage.Returns.Find(unit, sending.ReturnId)!);

    private static Countries.ReturnType TypeOf(ReturnRecord record) => Countries.Catalogue.TypeOf(record.Definition);

    /// <summary>Sends the mail, or the same mail again when somebody chases it or nothing has come back for long.</summary>
    private async Task MailAsync(SendingRecord sending, CancellationToken cancellation)
    {
        var letter = database.Read(unit => EReturnBuilding.LetterOf(unit, BuiltReturns.Find(unit, sending.BuiltId)!, sending.IdempotencyKey));
        database.Faults.Reach(FaultPoints.BeforeMail);
        var left = await mail.SendAsync(letter, cancellation);
        database.Faults.Reach(FaultPoints.AfterMail);
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            // The answer may have come while the mail was on its way; then there is nothing left to wait for.
            if (Sendings.Find(unit, sending.Id) is { State: "queued" or "pending" } still)
            {
                Sendings.Change(unit, still with
                {
                    State = "pending",
                    Attempts = still.Attempts + 1,
                    Problem = null,
                    Letter = JsonSerializer.Serialize(left, JsonSerializerOptions.Web),
                    SentAt = Moments.Text(now),
                    NextAttemptAt = Moments.Text(now + (_chaseAfter * Math.Pow(2, Math.Min(4, still.Attempts)))),
                });
            }
        });
    }

    private string DocumentOf(SendingRecord sending) => database.Read(unit => BuiltReturns.Find(unit, sending.BuiltId)!.EreturnSha256);

    private void Take(SendingRecord sending, SignedAnswer came)
    {
        var answer = came.Answer;
        var next = sending with { Submission = answer.Number, Problem = null };
        switch (answer.Status)
        {
            case "accepted":
                Finish(next with { State = "accepted", Acknowledgement = answer.Acknowledgement }, came, Stage.Accepted, "accepted", answer.Acknowledgement);
                break;
            case "rejected":
                Finish(next with { State = "rejected", Reasons = JsonSerializer.Serialize(answer.Reasons ?? []) }, came, Stage.Rejected, "rejected", answer.Reasons is [_] ? "1 reason" : $"{answer.Reasons?.Count ?? 0} reasons");
                break;
            default:
                database.Write(unit => Sendings.Change(unit, next with { State = "pending", NextAttemptAt = Moments.Text(clock.GetUtcNow() + AskAgain) }));
                break;
        }
    }

    private async Task<SignedAnswer> SubmitAsync(SendingRecord sending, CancellationToken cancellation)
    {
        var (practice, document, signature, agent, country) = database.Read(unit =>
        {
            var built = BuiltReturns.Find(unit, sending.BuiltId)!;
            return (
                Practices.Find(unit)!,
                Artefacts.Get(unit, built.EreturnSha256),
                built.Signature,
                building.AgentOf(unit, built),
                Countries.Catalogue.CountryOf(Storage.Returns.Find(unit, sending.ReturnId)!.Definition));
        });
        if (!await authority.RegisterAsync(agent, practice.Name, practice.Certificate, await consent.AuthorizationAsync(country, cancellation), cancellation))
        {
            consent.Refused(country);
            throw new AuthorityUnavailableException("The authority does not take the practice's consent, or its user name and secret. Connect it on the Practice page; the sending goes on by itself.");
        }

        database.Faults.Reach(FaultPoints.BeforeSubmit);
        var answer = await authority.SubmitAsync(sending.IdempotencyKey, document, signature, cancellation);
        database.Faults.Reach(FaultPoints.AfterSubmit);
        return answer;
    }

    private void Finish(SendingRecord sending, SignedAnswer answer, string stage, string kind, string? after)
    {
        var now = Moments.Text(clock.GetUtcNow());
        database.Faults.Reach(FaultPoints.BeforeAnswer);
        database.Write(unit =>
        {
            var (copy, acknowledgement) = PapersOf(unit, sending);
            Sendings.Change(unit, sending with
            {
                // The mail may have been noted as sent after the answer was begun to be taken.
                Letter = Sendings.Find(unit, sending.Id)!.Letter ?? sending.Letter,
                CopySha256 = copy is null ? null : Artefacts.Keep(unit, copy, "application/pdf", now),
                AcknowledgementSha256 = acknowledgement is null ? null : Artefacts.Keep(unit, acknowledgement, "application/pdf", now),
                AnsweredAt = now,
                ReceiptSha256 = Artefacts.Keep(unit, answer.Bytes, "application/json", now),
                ReceiptSignature = answer.Signature,
            });
            Storage.Returns.SetStage(unit, sending.ReturnId, stage);
            PaymentDesk.KeepUnpaid(unit, sending.ReturnId);
            Acts.Add(unit, new ActRecord { At = now, PersonName = "authority", Kind = kind, ReturnId = sending.ReturnId, After = after });
        });
        database.Faults.Reach(FaultPoints.AfterAnswer);
        workbench.Forget(sending.ReturnId);
        ties.LookAgain(sending.ReturnId);
    }

    /// <summary>The printed copy with the number on it, and the acknowledgement for people, of what was accepted.</summary>
    private (byte[]? Copy, byte[]? Acknowledgement) PapersOf(Unit unit, SendingRecord sending)
    {
        if (sending.State != "accepted")
        {
            return (null, null);
        }

        var built = BuiltReturns.Find(unit, sending.BuiltId)!;
        var evaluation = EReturnBuilding.EvaluationOf(unit, built);
        var facts = ReturnPapers.FactsOf(unit, Storage.Returns.Find(unit, sending.ReturnId)!, Approvals.Find(unit, built.ApprovalId), clock.Today(), sending.Acknowledgement);
        return (PrintedCopy.Draw(evaluation, facts), papers.Acknowledgement(unit, sending, evaluation));
    }

    /// <summary>Reasons of a rejection with the lines they belong to.</summary>
    public IReadOnlyList<RejectionReason> ReasonsOf(Unit unit, SendingRecord sending)
    {
        if (sending.Reasons is null)
        {
            return [];
        }

        return building.InWords(unit, BuiltReturns.Find(unit, sending.BuiltId)!, JsonSerializer.Deserialize<List<AuthorityReason>>(sending.Reasons)!);
    }
}

/// <summary>Works through the queue in the background, from where it stood before a restart.</summary>
internal sealed class BackgroundSender(SendingDesk desk, After.AfterDesk after, KeptReturns files, ILogger<BackgroundSender> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(400);
    private const int RoundsBetweenAsking = 5;

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        for (var round = 0; !stoppingToken.IsCancellationRequested; round++)
        {
            var asks = round % RoundsBetweenAsking == 0;
            try
            {
                await desk.WorkAsync(stoppingToken);
                if (asks)
                {
                    await after.WorkAsync(stoppingToken);
                }

                files.CloseForgotten();
                foreach (var kept in files.All)
                {
                    using (PracticeDatabase.WorkIn(kept))
                    {
                        await desk.WorkAsync(stoppingToken);
                        if (asks)
                        {
                            await after.WorkAsync(stoppingToken);
                        }
                    }
                }

                await Task.Delay(Pause, stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception problem)
            {
                log.LogError(problem, "A sending failed unexpectedly; it stays in the queue");
                await Task.Delay(TimeSpan.FromSeconds(5), stoppingToken);
            }
        }
    }
}
