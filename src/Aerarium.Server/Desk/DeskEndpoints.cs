using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server.Desk;

/// <summary>A return on the Desk.</summary>
/// <param name="Id">Return.</param>
/// <param name="ClientId">Client.</param>
/// <param name="Client">Name of the client.</param>
/// <param name="Group">Group of the client, or null.</param>
/// <param name="Title">Title of the return.</param>
/// <param name="Year">Tax year.</param>
/// <param name="Kind">Original or amended.</param>
/// <param name="Stage">Stage as stored.</param>
/// <param name="StageLabel">Stage in words.</param>
/// <param name="Step">How many of five steps are done.</param>
/// <param name="Due">Day by which it is to be filed.</param>
/// <param name="DaysLeft">Days until then; negative when late.</param>
/// <param name="Errors">Errors left.</param>
/// <param name="Warnings">Warnings left.</param>
/// <param name="Balance">Balance, canonical.</param>
/// <param name="Charges">Penalty and interest run so far, canonical; zero once it is filed.</param>
/// <param name="Unpaid">What is left to pay of a filed return, canonical.</param>
/// <param name="Currency">Currency.</param>
/// <param name="Holder">Who holds it.</param>
/// <param name="NextAct">What to do next.</param>
/// <param name="Place">Where that is done: scope, fill, review, approve, send.</param>
/// <param name="Tags">Tags.</param>
/// <param name="Beside">How the return of the same period to another authority stands, in words; null where there is none.</param>
public sealed record DeskItem(
    long Id,
    long ClientId,
    string Client,
    string? Group,
    string Title,
    int Year,
    string Period,
    string Kind,
    string Stage,
    string StageLabel,
    int Step,
    string Due,
    int DaysLeft,
    int Errors,
    int Warnings,
    string Balance,
    string Charges,
    string Unpaid,
    string Currency,
    string Holder,
    string NextAct,
    string Place,
    IReadOnlyList<string> Tags,
    string? Beside);

/// <summary>Which returns are asked for, and in which order; what is left out is open returns by group.</summary>
public sealed record DeskQuestion
{
    /// <summary>The list: open, not-started, waiting, approved, sent, rejected, overdue, accepted, unpaid, all.</summary>
    public string? List { get; init; }

    /// <summary>Words that must all be found in client, identifier, group, year, period or title.</summary>
    public string? Search { get; init; }

    /// <summary>Whether, where nothing has these words, a longer one may have a typo. Batches never take a list so found.</summary>
    public bool? Typos { get; init; }

    /// <summary>Held by this person.</summary>
    public long? HolderId { get; init; }

    /// <summary>Carrying this tag.</summary>
    public string? Tag { get; init; }

    /// <summary>Of this return type.</summary>
    public string? Definition { get; init; }

    /// <summary>Of this tax year.</summary>
    public long? Year { get; init; }

    /// <summary>The order: group, client, due, stage, findings, balance, holder, year.</summary>
    public string? Order { get; init; }

    /// <summary>Whether it is turned round.</summary>
    public bool? Descending { get; init; }

    private static readonly IReadOnlyDictionary<string, string> Titles = Catalogue.Returns.ToDictionary(r => r.Id, r => r.Title);

    /// <summary>The query.</summary>
    /// <exception cref="PlainProblem">There is no such list or order.</exception>
    public DeskQuery Query() => new()
    {
        List = OneOf(DeskLists.Names, List ?? "open", "list"),
        Search = Search,
        Titles = Titles,
        HolderId = HolderId,
        Tag = Tag,
        Definition = Definition,
        Year = Year,
        Order = OneOf(DeskLists.Orders, Order ?? "group", "order"),
        Descending = Descending ?? false,
    };

    private static string OneOf(IReadOnlyCollection<string> names, string name, string what) =>
        names.Contains(name) ? name : throw PlainProblem.Refused($"There is no {what} '{name}'; there are {string.Join(", ", names)}.");
}

/// <summary>A page of a list.</summary>
/// <param name="Total">How many returns the list has.</param>
/// <param name="Items">Those of this page.</param>
public sealed record DeskPage(long Total, IReadOnlyList<DeskItem> Items);

/// <summary>The Desk as a whole: how many returns stand where, the season, and what lists can be cut by.</summary>
public sealed record DeskSummary(
    DeskCounts Counts, IReadOnlyList<DeskWeek> Weeks, IReadOnlyList<string> Tags, IReadOnlyList<DeskHolder> Holders, IReadOnlyList<KeptList> KeptLists);

/// <summary>Somebody who can hold returns.</summary>
public sealed record DeskHolder(long Id, string Name);

/// <summary>A list kept under a name.</summary>
public sealed record KeptList(string Name, DeskQuestion Question);

internal static class DeskEndpoints
{
    private const int MostRows = 200;
    private const int MostExported = 20_000;
    private const int WeeksBefore = 6;
    private const int WeeksAfter = 5;
    private const int SoonDays = 14;

    public static void MapDesk(this RouteGroupBuilder api)
    {
        var desk = api.MapGroup("/desk").ReachesPractice().WithTags("Desk");
        desk.MapGet("", (
            [AsParameters] DeskQuestion asked, int? offset, int? limit, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var query = asked.Query();
            var (today, reach) = (clock.Today(), Caller.Of(user).Reach);
            return database.Read(unit =>
            {
                var total = DeskLists.Count(unit, query, reach, Text(today));
                if (total == 0 && asked.Typos == true)
                {
                    query = query with { Typos = true };
                    total = DeskLists.Count(unit, query, reach, Text(today));
                }

                return new DeskPage(
                    total,
                    [
                        .. DeskLists.Page(unit, query, reach, Text(today), Math.Max(0, offset ?? 0), Math.Clamp(limit ?? MostRows, 1, MostRows), total)
                            .Select(r => Item(unit, r, today)),
                    ]);
            });
        });
        desk.MapGet("/summary", (ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var (today, caller) = (clock.Today(), Caller.Of(user));
            var monday = today.AddDays(-(((int)today.DayOfWeek + 6) % 7));
            return database.Read(unit => new DeskSummary(
                DeskLists.Counts(unit, caller.Reach, Text(today), Text(today.AddDays(SoonDays))),
                DeskLists.Weeks(unit, caller.Reach, Text(monday.AddDays(-7 * WeeksBefore)), Text(monday.AddDays((7 * WeeksAfter) + 6))),
                Tags.All(unit, caller.Reach),
                [.. People.All(unit).Where(p => p.Active == 1 && p.RoleList.Any(Policies.RolesByPolicy[Policies.Prepare].Contains)).Select(p => new DeskHolder(p.Id, p.Name))],
                [.. KeptLists.Of(unit, caller.Id, KeptLists.Desk).Select(k => new KeptList(k.Name, JsonSerializer.Deserialize<DeskQuestion>(k.Query)!))]));
        });
        desk.MapGet("/export.csv", (
            [AsParameters] DeskQuestion asked, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var query = asked.Query();
            var today = clock.Today();
            var items = database.Read(unit => DeskLists.Page(unit, query, Caller.Of(user).Reach, Text(today), 0, MostExported).Select(r => Item(unit, r, today)).ToList());
            return Results.File(Csv(items), "text/csv; charset=utf-8", $"desk-{query.List}-{Text(today)}.csv");
        }).Produces(StatusCodes.Status200OK, contentType: "text/csv");
        desk.MapPut("/lists/{name}", (string name, [FromBody] DeskQuestion asked, ClaimsPrincipal user, KeptListDesk lists) =>
        {
            asked.Query();
            lists.Keep(KeptLists.Desk, name, asked, Caller.Of(user));
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Own);
        desk.MapDelete("/lists/{name}", (string name, ClaimsPrincipal user, KeptListDesk lists) =>
        {
            lists.Forget(KeptLists.Desk, name, Caller.Of(user));
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Own);
        api.MapReminders();
        LikelyRefunds.Map(api);
        SeasonDesk.Map(api);
        api.MapBatches();
        api.MapDeadlines();
    }

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static byte[] Csv(IEnumerable<DeskItem> items) => CsvFile.Of(items.Select(i => new
    {
        i.Client,
        i.Group,
        Return = i.Title,
        i.Year,
        i.Period,
        i.Kind,
        Stage = i.StageLabel,
        i.Due,
        i.DaysLeft,
        i.Errors,
        i.Warnings,
        i.Balance,
        i.Charges,
        i.Unpaid,
        i.Currency,
        i.Holder,
        Tags = string.Join(' ', i.Tags),
        i.NextAct,
        i.Beside,
    }));

    private static DeskItem Item(Unit unit, DeskRecord r, DateOnly today)
    {
        var definition = Catalogue.Get(r.Definition, r.Year, r.Period);
        var filed = Catalogue.TypeOf(r.Definition).IsFiled;
        var (label, step, next, place) = r.Stage switch
        {
            Stage.Open when r.Started == 0 => ("not started", 0, "answer scope", "scope"),
            Stage.Open when r.Errors > 0 => ("fill", 2, r.Errors == 1 ? "correct 1 error" : $"correct {r.Errors} errors", "review"),
            Stage.Open when r.Warnings > 0 => ("review", 3, r.Warnings == 1 ? "decide 1 warning" : $"decide {r.Warnings} warnings", "review"),
            Stage.Open => ("review", 3, "hand over", "approve"),
            Stage.Waiting => ("waiting for approval", 4, "approve", "approve"),
            Stage.Approved when !filed => ("approved", 5, "returns follow it", "approve"),
            Stage.Approved => ("approved", 4, "build and send", "send"),
            Stage.Sent => ("sent, not answered", 5, "wait for the answer", "send"),
            Stage.Rejected => ("rejected", 3, "see reasons", "send"),
            _ when r.Unpaid != "0" => ("accepted", 5, "see it paid", "after"),
            _ => ("accepted", 5, "parcel", "send"),
        };
        var due = DateOnly.ParseExact(r.Due, "yyyy-MM-dd", CultureInfo.InvariantCulture);
        return new DeskItem(
            r.Id,
            r.ClientId,
            r.ClientName,
            r.ClientGroup,
            definition.Title,
            (int)r.Year,
            r.Period,
            r.Kind,
            r.Stage,
            label,
            step,
            r.Due,
            due.DayNumber - today.DayNumber,
            (int)r.Errors,
            (int)r.Warnings,
            r.Balance,
            r.Stage is Stage.Sent or Stage.Accepted ? "0" : r.Charges,
            r.Stage is Stage.Sent or Stage.Accepted ? r.Unpaid : "0",
            definition.Currency,
            r.Holder,
            next,
            place,
            r.Tags?.Split(',') ?? [],
            BesideReturn.Of(unit, r.ClientId, r.Definition, r.Year, r.Period)?.Words);
    }
}
