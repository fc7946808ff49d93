using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>What returns that are neither approved nor filed do when the law they are computed by has become another: they follow it, and each says so.</summary>
internal static class FollowedLaw
{
    /// <summary>Notes in each return that it follows the law; one that was handed over is open again, since its approver would see other figures than were handed over.</summary>
    /// <param name="unit">The unit of work in which the law became another.</param>
    /// <param name="moved">The returns that follow.</param>
    /// <param name="caller">Who turned it on.</param>
    /// <param name="now">When.</param>
    /// <param name="figure">The figure, or what else became other.</param>
    /// <param name="was">What it said before, or null.</param>
    /// <param name="says">What it says now, or null.</param>
    public static void Note(Unit unit, IReadOnlyList<ReturnRecord> moved, Caller caller, DateTimeOffset now, string figure, string? was, string? says)
    {
        foreach (var item in moved)
        {
            if (item.Stage == Stage.Waiting)
            {
                Approvals.Change(unit, Approvals.Latest(unit, item.Id)! with { State = "withdrawn", Remark = $"Withdrawn: the law became another ({figure})." });
                Storage.Returns.SetStage(unit, item.Id, Stage.Open);
                Acts.Add(unit, caller.Act("approval-withdrawn", now) with { ReturnId = item.Id, ClientId = item.ClientId, Before = item.Stage, After = Stage.Open });
            }

            Acts.Add(unit, caller.Act("law-follows", now) with { ReturnId = item.Id, ClientId = item.ClientId, Line = figure, Before = was, After = says });
        }
    }
}
