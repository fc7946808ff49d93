using Aerarium.Core.Entries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Law;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Approval;

/// <summary>An entry that is different from what was frozen.</summary>
public sealed record ChangedSince(string Line, string? Row, string Label, string? Was, string? Now);

/// <summary>Handing over, approving, returning with a remark. What is approved is frozen; any later change withdraws it.</summary>
public sealed class ApprovalDesk(PracticeDatabase database, Workbench workbench, LawNote law, TimeProvider clock)
{
    /// <summary>Hands a return over for approval.</summary>
    public void HandOver(long id, Caller caller) => Change(id, caller, "hand-over", (unit, workspace, _) =>
    {
        if (workspace.Record.Stage is not (Stage.Open or Stage.Rejected))
        {
            throw PlainProblem.Conflict("This return has been handed over already.");
        }

        RequireClean(workspace);
        Approvals.Add(unit, new ApprovalRecord
        {
            ReturnId = id,
            State = "handed-over",
            HandedOverBy = caller.Id,
            HandedOverAt = Now,
            Revision = workspace.Record.Revision,
            FigureRevision = workspace.Definition.FigureRevision,
        });
        return (Stage.Waiting, null);
    });

    /// <summary>
    /// Approves and freezes a return; where the practice asks for a second signature, the first one only signs. Whoever signs must not
    /// have prepared it, unless the practice does without four eyes.
    /// </summary>
    public void Approve(long id, Caller caller)
    {
        if (database.Read(ApprovalRules.Of).LawVerified)
        {
            RequireVerified(law.Of(id, CancellationToken.None));
        }

        Change(id, caller, "approve", (unit, workspace, approval) => Signed(unit, workspace, approval, id, caller));
    }

    /// <summary>Approval waits for the figures of the law that are not certain and do something to this return.</summary>
    private static void RequireVerified(LawNoteView note)
    {
        var moving = note.Uncertain.Where(f => f.Moves is not (null or "0")).Select(f => f.Label).ToList();
        if (moving.Count > 0)
        {
            throw PlainProblem.Conflict(
                $"By the practice's rule approval waits until the figures of the law that are not certain and change the balance are verified: {string.Join(", ", moving)}. Verify them in Law, against a printed source.");
        }
    }

    private (string Stage, string? Said) Signed(Unit unit, Workspace workspace, ApprovalRecord? approval, long id, Caller caller)
    {
        RequireWaiting(workspace);
        if (WhyNot(unit, id, caller, approval!) is { } reason)
        {
            throw new PlainProblem(StatusCodes.Status403Forbidden, reason);
        }

        RequireClean(workspace);
        if (Remarks.OpenOf(unit, id) is > 0 and var remarks)
        {
            throw PlainProblem.Conflict($"{remarks} {(remarks == 1 ? "remark is" : "remarks are")} open; answer and settle {(remarks == 1 ? "it" : "them")} in Review first.");
        }

        var needsSecond = ApprovalRules.Of(unit).NeedSecond(workspace.Record.Definition, workspace.Evaluation.Balance);
        if (needsSecond && approval!.ApprovedBy is null)
        {
            Approvals.Change(unit, approval with { ApprovedBy = caller.Id, ApprovedAt = Now });
            return (Stage.Waiting, "first signature");
        }

        var frozen = FrozenReturn.Of(workspace.Evaluation, workspace.Today).Write();
        Approvals.Change(unit, approval! with
        {
            State = "approved",
            ApprovedBy = needsSecond ? approval!.ApprovedBy : caller.Id,
            ApprovedAt = needsSecond ? approval!.ApprovedAt : Now,
            SecondBy = needsSecond ? caller.Id : null,
            SecondAt = needsSecond ? Now : null,
            EntriesSha256 = Artefacts.Keep(unit, frozen, "application/json", Now),
        });
        return (Stage.Approved, null);
    }

    /// <summary>Gives a return back to its preparer with a remark.</summary>
    public void GiveBack(long id, Caller caller, string remark)
    {
        var said = EntryReader.Clean(remark);
        if (said.Length < 3)
        {
            throw PlainProblem.Refused("Say in a remark what is to be changed.");
        }

        Change(id, caller, "give-back", (unit, workspace, approval) =>
        {
            if (workspace.Record.Stage is not (Stage.Waiting or Stage.Approved))
            {
                throw PlainProblem.Conflict("This return is not waiting for approval.");
            }

            Approvals.Change(unit, approval! with { State = "returned", Remark = said });
            return (Stage.Open, said);
        });
    }

    /// <summary>Why a person may not approve a return, or null.</summary>
    public static string? WhyNot(Unit unit, long id, Caller caller, ApprovalRecord approval) =>
        !caller.Roles.Contains(Roles.Approver) ? "Only an approver approves returns."
        : approval.ApprovedBy == caller.Id && approval.State == "handed-over" ? "You have signed; a second approver signs too."
        : !ApprovalRules.Of(unit).FourEyes ? null
        : approval.HandedOverBy == caller.Id ? "You handed this return over; somebody else approves it."
        : Acts.ChangedEntries(unit, id, caller.Id) ? "You entered figures on this return; somebody else approves it."
        : null;

    /// <summary>What has changed since a return was frozen, line by line; nothing when it was never frozen.</summary>
    public static IReadOnlyList<ChangedSince> ChangedSince(Unit unit, Workspace workspace, ApprovalRecord? approval)
    {
        if (approval?.EntriesSha256 is null)
        {
            return [];
        }

        var (was, now) = (Flat(Frozen(unit, approval).Entries), Flat(workspace.EntrySet));
        return
        [
            .. was.Keys.Union(now.Keys).Where(place => was.GetValueOrDefault(place) != now.GetValueOrDefault(place)).Order().Select(place => new ChangedSince(
                place.Line, place.Row.Length == 0 ? null : place.Row, workspace.Definition.FindLine(place.Line)?.Label ?? place.Line, was.GetValueOrDefault(place), now.GetValueOrDefault(place))),
        ];
    }

    private static Dictionary<(string Line, string Row), string> Flat(EntrySet entries) =>
        entries.Values.Select(v => ((v.Key, ""), v.Value))
            .Concat(entries.Rows.SelectMany(t => t.Value.SelectMany(row => row.Values.Select(v => (($"{t.Key}.{v.Key}", row.Id), v.Value)))))
            .ToDictionary(v => v.Item1, v => v.Value);

    /// <summary>The frozen entries of an approval.</summary>
    public static FrozenReturn Frozen(Unit unit, ApprovalRecord approval) =>
        FrozenReturn.Read(Artefacts.Get(unit, approval.EntriesSha256!));

    private string Now => Moments.Text(clock.GetUtcNow());

    private static void RequireWaiting(Workspace workspace)
    {
        if (workspace.Record.Stage != Stage.Waiting)
        {
            throw PlainProblem.Conflict("This return is not waiting for approval; it must be handed over first.");
        }
    }

    private static void RequireClean(Workspace workspace)
    {
        if (workspace.Errors > 0)
        {
            throw PlainProblem.Conflict($"{workspace.Errors} {(workspace.Errors == 1 ? "error is" : "errors are")} left; correct them in Review first.");
        }

        if (workspace.OpenWarnings > 0)
        {
            throw PlainProblem.Conflict($"{workspace.OpenWarnings} {(workspace.OpenWarnings == 1 ? "warning is" : "warnings are")} left; correct them, or accept them with a reason.");
        }
    }

    private void Change(long id, Caller caller, string kind, Func<Unit, Workspace, ApprovalRecord?, (string Stage, string? Remark)> change)
    {
        database.Write(unit =>
        {
            var workspace = workbench.Open(unit, id);
            var (stage, remark) = change(unit, workspace, Approvals.Latest(unit, id));
            Storage.Returns.SetStage(unit, id, stage);
            Acts.Add(unit, caller.Act(kind, clock.GetUtcNow()) with
            {
                ReturnId = id,
                ClientId = workspace.Record.ClientId,
                Before = workspace.Record.Stage,
                After = remark ?? stage,
            });
        });
        workbench.Forget(id);
    }
}
