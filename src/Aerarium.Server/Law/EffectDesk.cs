using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Desk;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Law;

/// <summary>What if the law said something else. With nothing given it is the law in force: what would change are returns approved or filed under an earlier edition of it.</summary>
/// <param name="Changes">Figures and what they are to say.</param>
/// <param name="Without">Keys of figures whose corrections are left off.</param>
/// <param name="Among">Name of a list the person keeps on the Desk; null for every return.</param>
public sealed record LawScenario(IReadOnlyList<LawChangeTyped>? Changes, IReadOnlyList<string>? Without = null, string? Among = null);

/// <summary>A scenario that was kept.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Definition">The return whose law it changes.</param>
/// <param name="Year">The year.</param>
/// <param name="Period">The period.</param>
/// <param name="Changes">What it changes.</param>
public sealed record KeptScenario(string Name, string Definition, int Year, string Period, IReadOnlyList<LawChangeTyped> Changes);

/// <summary>A return that a scenario moves.</summary>
/// <param name="ReturnId">The return.</param>
/// <param name="Client">Its client.</param>
/// <param name="Stage">Its stage.</param>
/// <param name="Filed">Whether it is filed, so that only an amended return could follow.</param>
/// <param name="Approved">Whether it is approved and not filed, so that it keeps the law it was approved under until it is opened again.</param>
/// <param name="Before">The balance under the law as it is.</param>
/// <param name="After">The balance under the scenario.</param>
/// <param name="Difference">How much more is to pay; less where negative.</param>
/// <param name="FindingsAdded">Errors and warnings that the scenario adds.</param>
/// <param name="FindingsGone">Errors and warnings that it takes away.</param>
public sealed record MovedReturn(long ReturnId, string Client, string Stage, bool Filed, bool Approved, string Before, string After, string Difference, int FindingsAdded, int FindingsGone);

/// <summary>What a scenario does to a part of the practice's returns.</summary>
/// <param name="Total">How many returns of that kind, year and period there are within reach.</param>
/// <param name="Checked">How many were computed in this part.</param>
/// <param name="Next">From which id on the next part begins, or null when all are done.</param>
/// <param name="Moved">Those that move.</param>
public sealed record LawEffect(int Total, int Checked, long? Next, IReadOnlyList<MovedReturn> Moved);

/// <summary>What another value of the law would do to the practice's returns; nothing is changed by asking.</summary>
internal sealed class EffectDesk(PracticeDatabase database, KeptListDesk kept, TimeProvider clock)
{
    private const int MostReturns = 20_000;

    /// <summary>Returns computed for one request, so that asking can be stopped and the server answers others meanwhile.</summary>
    private const int Part = 1_000;

    private const int ReadTogether = 100;

    public static void Map(RouteGroupBuilder api)
    {
        var law = api.MapGroup("/law/{country}/{name}/{year:int}").WithTags("Law").ReachesPractice();
        law.MapPost("/effect", (string country, string name, int year, string? period, long? after, LawScenario asked, ClaimsPrincipal user, EffectDesk desk, CancellationToken stopped) =>
            desk.EffectOn(LawDesk.Find($"{country}/{name}", year, period), asked, after ?? 0, Caller.Of(user), stopped)).RequireAuthorization(Policies.Prepare);
        law.MapPost("/effect.csv", (string country, string name, int year, string? period, LawScenario asked, ClaimsPrincipal user, EffectDesk desk, CancellationToken stopped) =>
            Results.File(desk.Csv(LawDesk.Find($"{country}/{name}", year, period), asked, Caller.Of(user), stopped), "text/csv; charset=utf-8", "effect.csv"))
            .RequireAuthorization(Policies.Prepare).Produces(StatusCodes.Status200OK, contentType: "text/csv");
        law.MapPost("/effect.xlsx", (string country, string name, int year, string? period, LawScenario asked, ClaimsPrincipal user, EffectDesk desk, CancellationToken stopped) =>
            Results.File(desk.Workbook(LawDesk.Find($"{country}/{name}", year, period), asked, Caller.Of(user), stopped), RowWorkbook.MediaType, "effect.xlsx"))
            .RequireAuthorization(Policies.Prepare).Produces(StatusCodes.Status200OK, contentType: RowWorkbook.MediaType);
        var scenarios = api.MapGroup("/law-scenarios").WithTags("Law").ReachesPractice();
        scenarios.MapGet("", (ClaimsPrincipal user, EffectDesk desk) => desk.Scenarios(Caller.Of(user)));
        scenarios.MapPut("/{name}", (string name, KeptScenario scenario, ClaimsPrincipal user, EffectDesk desk) => desk.Keep(name, scenario, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        scenarios.MapDelete("/{name}", (string name, ClaimsPrincipal user, EffectDesk desk) => desk.Forget(name, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
    }

    /// <summary>What a scenario does to the returns after an id, as many as one request takes.</summary>
    /// <exception cref="PlainProblem">The scenario does not fit the law; the message says which figure and what to do.</exception>
    public LawEffect EffectOn(Definition definition, LawScenario asked, long after, Caller caller, CancellationToken stopped)
    {
        var under = Under(definition, asked);
        var all = ReturnsOf(definition, asked, caller);
        var part = all.Where(id => id > after).Take(Part).ToList();
        return new LawEffect(all.Count, part.Count, part.Count > 0 && part[^1] != all[^1] ? part[^1] : null, Moved(part, under, stopped));
    }

    /// <summary>Every return that moves with both balances, as CSV.</summary>
    /// <exception cref="PlainProblem">The scenario does not fit the law.</exception>
    public byte[] Csv(Definition definition, LawScenario asked, Caller caller, CancellationToken stopped) => CsvFile.Of(AllMoved(definition, asked, caller, stopped).Select(m => new
    {
        m.Client,
        Return = definition.Title,
        Year = Periods.InWords(definition.Year, definition.Period),
        m.Stage,
        Filed = YesNo(m.Filed),
        Approved = YesNo(m.Approved),
        Balance = m.Before,
        BalanceUnderScenario = m.After,
        m.Difference,
        m.FindingsAdded,
        m.FindingsGone,
    }));

    /// <summary>The same as a workbook, summed beneath.</summary>
    /// <exception cref="PlainProblem">The scenario does not fit the law.</exception>
    public byte[] Workbook(Definition definition, LawScenario asked, Caller caller, CancellationToken stopped) => TableWorkbook.Draw(
        $"{definition.Title} {Periods.InWords(definition.Year, definition.Period)}",
        [
            new("Client"), new("Stage"), new("Filed"), new("Approved"), new("Balance", Amounts: true), new("Balance under the scenario", Amounts: true), new("Difference", Amounts: true),
            new("Findings added", Amounts: true), new("Findings gone", Amounts: true),
        ],
        [
            .. AllMoved(definition, asked, caller, stopped).Select(m => (IReadOnlyList<object>)
            [
                m.Client, m.Stage, YesNo(m.Filed), YesNo(m.Approved), Amount(m.Before), Amount(m.After), Amount(m.Difference), (decimal)m.FindingsAdded, (decimal)m.FindingsGone,
            ]),
        ]);

    private static string YesNo(bool holds) => holds ? "yes" : "no";

    private static decimal Amount(string canonical) => decimal.Parse(canonical, CultureInfo.InvariantCulture);

    private List<MovedReturn> AllMoved(Definition definition, LawScenario asked, Caller caller, CancellationToken stopped)
    {
        var under = Under(definition, asked);
        return Moved(ReturnsOf(definition, asked, caller), under, stopped);
    }

    /// <summary>The scenarios somebody kept, by name.</summary>
    public IReadOnlyList<KeptScenario> Scenarios(Caller caller) =>
        database.Read(unit => KeptLists.Of(unit, caller.Id, KeptLists.Law).Select(k => JsonSerializer.Deserialize<KeptScenario>(k.Query)! with { Name = k.Name }).ToList());

    /// <summary>Keeps a scenario under a name; one of that name is replaced.</summary>
    /// <exception cref="PlainProblem">It does not fit the law, or the name is blank or too long.</exception>
    public IReadOnlyList<KeptScenario> Keep(string name, KeptScenario scenario, Caller caller)
    {
        _ = Under(LawDesk.Find(scenario.Definition, scenario.Year, scenario.Period), new LawScenario(scenario.Changes));
        kept.Keep(KeptLists.Law, name, scenario with { Name = "" }, caller);
        return Scenarios(caller);
    }

    /// <summary>Forgets a scenario.</summary>
    /// <exception cref="PlainProblem">There is none of that name.</exception>
    public IReadOnlyList<KeptScenario> Forget(string name, Caller caller)
    {
        kept.Forget(KeptLists.Law, name, caller);
        return Scenarios(caller);
    }

    /// <summary>The returns of the kind, year and period that somebody may see; of a list kept on the Desk where one is named.</summary>
    /// <exception cref="PlainProblem">There is no such list.</exception>
    private List<long> ReturnsOf(Definition definition, LawScenario asked, Caller caller) => database.Read(unit =>
    {
        var all = asked.Among is null ? new DeskQuery { List = "all" }
            : KeptLists.Of(unit, caller.Id, KeptLists.Desk).FirstOrDefault(k => k.Name == asked.Among) is { } list ? JsonSerializer.Deserialize<DeskQuestion>(list.Query)!.Query()
            : throw PlainProblem.NotFound($"The list '{asked.Among}'");
        if ((all.Definition ?? definition.Id, all.Year ?? definition.Year) != (definition.Id, definition.Year))
        {
            return [];
        }

        var query = all with { Definition = definition.Id, Year = definition.Year, Period = definition.Period };
        return DeskLists.Ids(unit, query, caller.Reach, clock.Today().ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), MostReturns).Order().ToList();
    });

    /// <summary>Those of some returns that move, in their order. Their entries are read together, and the processors share the work; what else the server is asked is answered meanwhile.</summary>
    private List<MovedReturn> Moved(IReadOnlyList<long> ids, Definition under, CancellationToken stopped)
    {
        var today = clock.Today();
        var moved = ids.Chunk(ReadTogether).AsParallel().AsOrdered().WithCancellation(stopped).SelectMany(part =>
        {
            var (contents, laws) = database.Read(unit =>
            {
                var read = ReturnContents.Of(unit, part);
                return (read, read.Select(r => r.Record).DistinctBy(r => r.LawEdition).ToDictionary(r => r.LawEdition, r => PracticeDefinitions.Of(unit, r)));
            });
            var (outlines, then) = (laws.ToDictionary(l => l.Key, l => new Outline(l.Value)), new Outline(under));
            return contents.Select(c => Moved(c, laws[c.Record.LawEdition], outlines[c.Record.LawEdition], then, today)).OfType<MovedReturn>().ToList();
        });
        return [.. moved];
    }

    /// <summary>A return under its own law and under the scenario; null where nothing that anybody acts on differs.</summary>
    private static MovedReturn? Moved(ReturnContents contents, Definition law, Outline now, Outline then, DateOnly today)
    {
        var record = contents.Record;
        var entries = Workspace.EntrySetOf(law, contents.Rows, contents.Entries);
        var (before, after) = (now.Of(entries, today), then.Of(entries, today));
        if (now.Balance == then.Balance && before.SetEquals(after))
        {
            return null;
        }

        return new MovedReturn(
            record.Id,
            contents.Client,
            record.Stage,
            !Stage.CanChange(record.Stage),
            record.Stage == Stage.Approved,
            Figures.Canonical(now.Balance),
            Figures.Canonical(then.Balance),
            Figures.Canonical(then.Balance - now.Balance),
            after.Count(f => !before.Contains(f)),
            before.Count(f => !after.Contains(f)));
    }

    /// <summary>The law in force with a scenario laid over it.</summary>
    /// <exception cref="PlainProblem">The scenario does not fit the law.</exception>
    private Definition Under(Definition written, LawScenario asked)
    {
        var (now, corrected) = database.Read(unit => (
            PracticeDefinitions.InForce(unit, written.Id, written.Year, written.Period), LawEditions.Latest(unit, written.Id, written.Year, written.Period) is not null));
        var (changes, without) = (asked.Changes ?? [], asked.Without ?? []);
        return LawChanges.Under(now, edition =>
        {
            var rest = edition.Without([.. without]);
            return changes.Count == 0 && corrected ? rest : rest.With(LawChanges.Read(now, changes));
        });
    }
}
