using System.Security.Claims;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Review;

/// <summary>Accepts a warning with a reason.</summary>
public sealed record AcceptFinding(string Finding, string? Row, string Reason);

/// <summary>Reopens an accepted warning.</summary>
public sealed record ReopenFinding(string Finding, string? Row);

internal static class ReviewEndpoints
{
    private const int LongestReason = 500;

    public static void MapReview(this RouteGroupBuilder api)
    {
        var review = api.MapGroup("/returns/{id:long}/findings").ReachesReturn().WithTags("Review");
        review.MapPost("/accept", Accept).RequireAuthorization(Policies.Prepare);
        review.MapPost("/reopen", (long id, ReopenFinding asked, ClaimsPrincipal user, Workbench workbench, PracticeDatabase database, TimeProvider clock) =>
            ChangeAsync(id, Caller.Of(user), workbench, database, clock, "reopen-finding", asked.Finding, asked.Row, null, unit =>
                Acceptances.Remove(unit, id, asked.Finding, asked.Row ?? ""))).RequireAuthorization(Policies.Prepare);
    }

    private static Task<FindingsView> Accept(
        long id, AcceptFinding asked, ClaimsPrincipal user, Workbench workbench, PracticeDatabase database, TimeProvider clock)
    {
        var reason = EntryReader.Clean(asked.Reason);
        if (reason.Length is < 3 or > LongestReason)
        {
            throw PlainProblem.Refused($"Give a reason of 3 to {LongestReason} characters; it stays with the return.");
        }

        var caller = Caller.Of(user);
        var finding = workbench.Open(id).Findings.FirstOrDefault(f => f.Id == asked.Finding && f.Row == asked.Row)
            ?? throw PlainProblem.NotFound("This finding");
        if (finding.Severity != Severity.Warning)
        {
            throw PlainProblem.Refused(finding.Severity == Severity.Error ? "An error cannot be accepted; it must be corrected." : "A note needs no acceptance.");
        }

        return ChangeAsync(id, caller, workbench, database, clock, "accept-finding", asked.Finding, asked.Row, reason, unit =>
            Acceptances.Put(unit, id, new AcceptanceRecord(finding.Id, finding.Row ?? "", finding.Message, reason, caller.Name, Moments.Text(clock.GetUtcNow()))));
    }

    private static async Task<FindingsView> ChangeAsync(
        long id,
        Caller caller,
        Workbench workbench,
        PracticeDatabase database,
        TimeProvider clock,
        string kind,
        string finding,
        string? row,
        string? reason,
        Action<Unit> change)
    {
        database.Write(unit =>
        {
            var workspace = workbench.Open(unit, id);
            if (!Stage.CanChange(workspace.Record.Stage))
            {
                throw PlainProblem.Conflict("This return has been sent; its findings stay as they are.");
            }

            change(unit);
            Acts.Add(unit, caller.Act(kind, clock.GetUtcNow()) with
            {
                ReturnId = id,
                ClientId = workspace.Record.ClientId,
                Line = finding,
                Row = row,
                After = reason,
            });
        });
        var after = workbench.Refresh(id);
        await workbench.TellFindingsAsync(after);
        return after.FindingsInView();
    }
}
