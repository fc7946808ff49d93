using System.Security.Claims;
using Aerarium.Core.Entries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Review;

/// <summary>A remark on a line.</summary>
/// <param name="Line">The line.</param>
/// <param name="Row">The row, or null.</param>
/// <param name="Words">What was said.</param>
/// <param name="Person">Who said it.</param>
/// <param name="At">When.</param>
/// <param name="SettledBy">Who settled it; null while it is open.</param>
public sealed record RemarkView(string Line, string? Row, string Words, string Person, string At, string? SettledBy);

/// <summary>A remark as typed.</summary>
public sealed record RemarkInput(string? Line, string? Row, string? Words);

/// <summary>The thread that is settled.</summary>
public sealed record SettledThread(string? Line, string? Row);

/// <summary>Remarks of preparer and approver: a thread for each line, open until somebody settles it.</summary>
internal static class RemarkEndpoints
{
    private const int LongestRemark = 2_000;

    public static void MapRemarks(this RouteGroupBuilder api)
    {
        var remarks = api.MapGroup("/returns/{id:long}/remarks").ReachesReturn().WithTags("Review");
        remarks.MapGet("", (long id, PracticeDatabase database) => database.Read(unit => List(unit, id)));
        remarks.MapPost("", AddAsync).RequireAuthorization(Policies.Prepare);
        remarks.MapPost("/settle", SettleAsync).RequireAuthorization(Policies.Prepare);
    }

    private static async Task<IReadOnlyList<RemarkView>> AddAsync(
        long id, RemarkInput typed, ClaimsPrincipal user, Workbench workbench, PracticeDatabase database, TimeProvider clock, LiveReturns live)
    {
        var words = EntryReader.Clean(typed.Words);
        if (words.Length is 0 or > LongestRemark)
        {
            throw PlainProblem.Refused($"Say something, in at most {LongestRemark} characters.");
        }

        var workspace = workbench.Open(id);
        var line = workspace.Definition.FindLine(typed.Line ?? "") ?? throw PlainProblem.NotFound($"The line '{typed.Line}'");
        if (line.Table is { } table && !workspace.PlacesOf(table.Key).ContainsKey(typed.Row ?? ""))
        {
            throw PlainProblem.NotFound("This row");
        }

        var row = line.Table is null ? "" : typed.Row!;
        return await ChangeAsync(id, line.Key, row, "remark", words, user, database, clock, live, (unit, caller, at) =>
            Remarks.Add(unit, id, new RemarkRecord { Line = line.Key, Row = row, Words = words, PersonId = caller.Id, PersonName = caller.Name, At = at }));
    }

    private static Task<IReadOnlyList<RemarkView>> SettleAsync(
        long id, SettledThread asked, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock, LiveReturns live) =>
        ChangeAsync(id, asked.Line ?? "", asked.Row ?? "", "settle-remarks", "settled", user, database, clock, live, (unit, caller, at) =>
        {
            if (Remarks.Settle(unit, id, asked.Line ?? "", asked.Row ?? "", caller.Name, at) == 0)
            {
                throw PlainProblem.NotFound("An open remark on this line");
            }
        });

    private static async Task<IReadOnlyList<RemarkView>> ChangeAsync(
        long id,
        string line,
        string row,
        string kind,
        string said,
        ClaimsPrincipal user,
        PracticeDatabase database,
        TimeProvider clock,
        LiveReturns live,
        Action<Unit, Caller, string> change)
    {
        var (caller, now) = (Caller.Of(user), clock.GetUtcNow());
        var list = database.Write(unit =>
        {
            change(unit, caller, Moments.Text(now));
            var record = Storage.Returns.Find(unit, id)!;
            Acts.Add(unit, caller.Act(kind, now) with { ReturnId = id, ClientId = record.ClientId, Line = line, Row = row.Length == 0 ? null : row, After = said });
            return List(unit, id);
        });
        await live.TellAsync(id, "remarks", [id, list]);
        return list;
    }

    public static IReadOnlyList<RemarkView> List(Unit unit, long id) =>
        [.. Remarks.Of(unit, id).Select(r => new RemarkView(r.Line, r.Row.Length == 0 ? null : r.Row, r.Words, r.PersonName, r.At, r.SettledBy))];
}
