using System.Security.Claims;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Approval;

/// <summary>Where approval stands.</summary>
/// <param name="Stage">Stage of the return.</param>
/// <param name="State">handed-over, approved, returned, withdrawn; null before the first hand-over.</param>
/// <param name="HandedOverBy">Who handed it over.</param>
/// <param name="HandedOverAt">When.</param>
/// <param name="ApprovedBy">Who approved it.</param>
/// <param name="ApprovedAt">When.</param>
/// <param name="Remark">Remark of the approver, or why it was withdrawn.</param>
/// <param name="Errors">Errors that block handing over.</param>
/// <param name="Warnings">Warnings that block handing over.</param>
/// <param name="WhyNotMe">Why the person asking may not approve; null when they may.</param>
/// <param name="Declarations">Lines of the declaration and what they say.</param>
/// <param name="SecondBy">Who signed second.</param>
/// <param name="SecondAt">When.</param>
/// <param name="NeedsSecond">Whether the practice asks for a second signature on this return.</param>
/// <param name="ClientMustAccept">Whether nothing is sent before the client has accepted.</param>
/// <param name="Client">How the client's acceptance stands; null when the client was not asked.</param>
/// <param name="Changed">What has changed since the return was frozen.</param>
public sealed record ApprovalView(
    string Stage,
    string? State,
    string? HandedOverBy,
    string? HandedOverAt,
    string? ApprovedBy,
    string? ApprovedAt,
    string? Remark,
    int Errors,
    int Warnings,
    string? WhyNotMe,
    IReadOnlyList<DeclarationLine> Declarations,
    string? SecondBy,
    string? SecondAt,
    bool NeedsSecond,
    bool ClientMustAccept,
    AskedClient? Client,
    IReadOnlyList<ChangedSince> Changed);

/// <summary>How the client's acceptance stands.</summary>
public sealed record AskedClient(string AskedBy, string AskedAt, string ExpiresAt, string? Answer, string? Name, string? Remark, string? AnsweredAt);

/// <summary>A line of the declaration.</summary>
public sealed record DeclarationLine(string Line, string Label, string? Value);

/// <summary>A remark.</summary>
public sealed record Remark(string Text);

internal static class ApprovalEndpoints
{
    public static void MapApproval(this RouteGroupBuilder api)
    {
        var approval = api.MapGroup("/returns/{id:long}/approval").ReachesReturn().WithTags("Approval");
        approval.MapGet("", View);
        approval.MapPost("/hand-over", (long id, ClaimsPrincipal user, ApprovalDesk desk, Workbench workbench, PracticeDatabase database, LiveReturns live) =>
            DoAsync(id, user, workbench, database, live, caller => desk.HandOver(id, caller))).RequireAuthorization(Policies.Prepare);
        approval.MapPost("/approve", (long id, ClaimsPrincipal user, ApprovalDesk desk, Workbench workbench, PracticeDatabase database, LiveReturns live) =>
            DoAsync(id, user, workbench, database, live, caller => desk.Approve(id, caller))).RequireAuthorization(Policies.Approve);
        approval.MapPost("/give-back", (long id, Remark remark, ClaimsPrincipal user, ApprovalDesk desk, Workbench workbench, PracticeDatabase database, LiveReturns live) =>
            DoAsync(id, user, workbench, database, live, caller => desk.GiveBack(id, caller, remark.Text))).RequireAuthorization(Policies.Approve);
    }

    private static async Task<ApprovalView> DoAsync(
        long id, ClaimsPrincipal user, Workbench workbench, PracticeDatabase database, LiveReturns live, Action<Caller> act)
    {
        act(Caller.Of(user));
        await live.TellStatusAsync(id);
        return View(id, user, workbench, database);
    }

    private static ApprovalView View(long id, ClaimsPrincipal user, Workbench workbench, PracticeDatabase database)
    {
        var workspace = workbench.Open(id);
        return database.Read(unit =>
        {
            var latest = Approvals.Latest(unit, id);
            string? NameOf(long? person) => person is { } known ? People.Find(unit, known)?.Name : null;
            var declaration = workspace.Definition.Forms[^1];
            var rules = ApprovalRules.Of(unit);
            var asked = latest is null ? null : ClientAcceptances.Latest(unit, latest.Id);
            return new ApprovalView(
                workspace.Record.Stage,
                latest?.State,
                NameOf(latest?.HandedOverBy),
                latest?.HandedOverAt,
                NameOf(latest?.ApprovedBy),
                latest?.ApprovedAt,
                latest?.Remark,
                workspace.Errors,
                workspace.OpenWarnings,
                latest is null ? null : ApprovalDesk.WhyNot(unit, id, Caller.Of(user), latest),
                [.. declaration.Sections.SelectMany(s => s.Lines).Select(l => new DeclarationLine(l.Key, l.Label, workspace.Evaluation.Value(l)))],
                NameOf(latest?.SecondBy),
                latest?.SecondAt,
                rules.NeedSecond(workspace.Record.Definition, workspace.Evaluation.Balance),
                rules.ClientAccepts,
                asked is null ? null : new AskedClient(asked.AskedBy, asked.AskedAt, asked.ExpiresAt, asked.Answer, asked.Name, asked.Remark, asked.AnsweredAt),
                ApprovalDesk.ChangedSince(unit, workspace, latest));
        });
    }
}
