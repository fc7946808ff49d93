using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Desk;
using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.Extensions.Caching.Memory;

namespace Aerarium.Server.Law;

/// <summary>A range of a table as typed.</summary>
/// <param name="UpTo">Upper edge, inclusive; blank in the last range.</param>
/// <param name="Value">The rate in per cent, or the amount.</param>
public sealed record LawRangeTyped(string? UpTo, string? Value);

/// <summary>A figure of the law and what it is to say, as typed.</summary>
/// <param name="Figure">Key of the figure.</param>
/// <param name="Value">Another value; null for a table.</param>
/// <param name="Ranges">Other ranges of a table; null for a single figure.</param>
public sealed record LawChangeTyped(string? Figure, string? Value, IReadOnlyList<LawRangeTyped>? Ranges);

/// <summary>What if the law said something else: figures and what they are to say.</summary>
public sealed record LawScenario(IReadOnlyList<LawChangeTyped>? Changes);

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
/// <param name="Before">The balance under the law as it is.</param>
/// <param name="After">The balance under the scenario.</param>
/// <param name="Difference">How much more is to pay; less where negative.</param>
/// <param name="FindingsAdded">Errors and warnings that the scenario adds.</param>
/// <param name="FindingsGone">Errors and warnings that it takes away.</param>
public sealed record MovedReturn(long ReturnId, string Client, string Stage, bool Filed, string Before, string After, string Difference, int FindingsAdded, int FindingsGone);

/// <summary>What a scenario does to a part of the practice's returns.</summary>
/// <param name="Total">How many returns of that kind, year and period there are within reach.</param>
/// <param name="Checked">How many were computed in this part.</param>
/// <param name="Next">From which id on the next part begins, or null when all are done.</param>
/// <param name="Moved">Those that move.</param>
public sealed record LawEffect(int Total, int Checked, long? Next, IReadOnlyList<MovedReturn> Moved);

/// <summary>What another value of the law would do to the practice's returns; nothing is changed by asking.</summary>
internal sealed class EffectDesk(PracticeDatabase database, Workbench workbench, KeptListDesk kept, TimeProvider clock) : IDisposable
{
    private const int MostReturns = 20_000;
    private const int MostChanges = 50;
    private const int MostRanges = 40;

    /// <summary>Returns computed for one request, so that asking can be stopped and the server answers others meanwhile.</summary>
    private const int Part = 100;

    private const int EditionsKept = 8;

    private readonly MemoryCache _editions = new(new MemoryCacheOptions { SizeLimit = EditionsKept });

    public static void Map(RouteGroupBuilder api)
    {
        var law = api.MapGroup("/law/{country}/{name}/{year:int}").WithTags("Law").ReachesPractice();
        law.MapPost("/effect", (string country, string name, int year, string? period, long? after, LawScenario asked, ClaimsPrincipal user, EffectDesk desk, CancellationToken stopped) =>
            desk.EffectOn(LawDesk.Find($"{country}/{name}", year, period), asked, after ?? 0, Caller.Of(user), stopped)).RequireAuthorization(Policies.Prepare);
        law.MapPost("/effect.csv", (string country, string name, int year, string? period, LawScenario asked, ClaimsPrincipal user, EffectDesk desk, CancellationToken stopped) =>
            Results.File(desk.Csv(LawDesk.Find($"{country}/{name}", year, period), asked, Caller.Of(user), stopped), "text/csv; charset=utf-8", "effect.csv"))
            .RequireAuthorization(Policies.Prepare).Produces(StatusCodes.Status200OK, contentType: "text/csv");
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
        var all = ReturnsOf(definition, caller);
        var part = all.Where(id => id > after).Take(Part).ToList();
        var moved = part.Select(id => Moved(id, definition, under, stopped)).OfType<MovedReturn>().ToList();
        return new LawEffect(all.Count, part.Count, part.Count > 0 && part[^1] != all[^1] ? part[^1] : null, moved);
    }

    /// <summary>Every return within reach with both balances, for a spreadsheet.</summary>
    /// <exception cref="PlainProblem">The scenario does not fit the law.</exception>
    public byte[] Csv(Definition definition, LawScenario asked, Caller caller, CancellationToken stopped)
    {
        var under = Under(definition, asked);
        return CsvFile.Of(ReturnsOf(definition, caller).Select(id => Moved(id, definition, under, stopped)).OfType<MovedReturn>().Select(m => new
        {
            m.Client,
            Return = definition.Title,
            Year = Periods.InWords(definition.Year, definition.Period),
            m.Stage,
            Filed = m.Filed ? "yes" : "no",
            Balance = m.Before,
            BalanceUnderScenario = m.After,
            m.Difference,
            m.FindingsAdded,
            m.FindingsGone,
        }));
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

    /// <inheritdoc />
    public void Dispose() => _editions.Dispose();

    private List<long> ReturnsOf(Definition definition, Caller caller)
    {
        var query = new DeskQuery { List = "all", Definition = definition.Id, Year = definition.Year };
        return database.Read(unit => DeskLists.Ids(unit, query, caller.Reach, clock.Today().ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), MostReturns)
            .Where(id => Storage.Returns.Find(unit, id)!.Period == definition.Period).Order().ToList());
    }

    /// <summary>A return under both laws; null where nothing that anybody acts on differs.</summary>
    private MovedReturn? Moved(long id, Definition definition, Definition under, CancellationToken stopped)
    {
        stopped.ThrowIfCancellationRequested();
        var workspace = workbench.Open(id);
        var evaluation = under.Evaluate(workspace.EntrySet, workspace.Today);
        var (before, after) = (Told(workspace.Evaluation), Told(evaluation));
        var (balance, moved) = (workspace.Evaluation.Balance, evaluation.Balance);
        if (balance == moved && before.SetEquals(after))
        {
            return null;
        }

        return new MovedReturn(
            id,
            database.Read(unit => Storage.Clients.NameOf(unit, workspace.Record.ClientId)),
            workspace.Record.Stage,
            !Stage.CanChange(workspace.Record.Stage),
            Figures.Canonical(balance),
            Figures.Canonical(moved),
            Figures.Canonical(moved - balance),
            after.Count(f => !before.Contains(f)),
            before.Count(f => !after.Contains(f)));
    }

    /// <summary>Which errors and warnings stand, and where.</summary>
    private static HashSet<(string Id, string? Row)> Told(Evaluation evaluation) =>
        [.. evaluation.Findings.Where(f => f.Severity != Severity.Note).Select(f => (f.Id, f.Row))];

    /// <summary>The definition under a scenario; the last few are kept, so that a practice's returns are computed part by part.</summary>
    private Definition Under(Definition definition, LawScenario asked)
    {
        var edition = Read(definition, asked);
        var key = (definition, JsonSerializer.Serialize(edition.Corrections));
        if (_editions.TryGetValue(key, out Definition? known))
        {
            return known!;
        }

        try
        {
            return _editions.Set(key, Catalogue.Under(edition, definition), new MemoryCacheEntryOptions { Size = 1 });
        }
        catch (RuleException refused)
        {
            throw Refused(refused.Message);
        }
    }

    /// <summary>A refusal that begins with the label of its figure.</summary>
    private static PlainProblem Refused(string message) => PlainProblem.Refused(message[..1].ToUpperInvariant() + message[1..]);

    /// <exception cref="PlainProblem">Something is not a number, or nothing is changed.</exception>
    private static LawEdition Read(Definition definition, LawScenario asked)
    {
        var changes = asked.Changes ?? [];
        if (changes.Count is 0 or > MostChanges || changes.Any(c => c?.Figure is null || c.Ranges is { Count: > MostRanges }))
        {
            throw PlainProblem.Refused($"Give between 1 and {MostChanges} figures another value, tables of at most {MostRanges} ranges.");
        }

        var labels = LawFigures.Of(definition).ToDictionary(f => f.Key, f => f.Label);
        try
        {
            return new LawEdition([.. changes.Select(c => new LawCorrection(
                c.Figure!,
                c.Ranges is null ? Number(c, c.Value, "") : null,
                [.. (c.Ranges ?? []).Select((r, at) => new LawRange(
                    string.IsNullOrWhiteSpace(r?.UpTo) ? null : Number(c, r.UpTo, $", upper edge of range {at + 1}"), Number(c, r?.Value, $", range {at + 1}")))]))]);
        }
        catch (RuleException refused)
        {
            throw Refused(refused.Message);
        }

        decimal Number(LawChangeTyped change, string? typed, string where)
        {
            var (label, text) = (labels.GetValueOrDefault(change.Figure!, change.Figure!), (typed ?? "").Trim().TrimEnd('%').Trim());
            if (text.Length == 0)
            {
                throw Refused($"{label}{where}: type a number.");
            }

            var (number, problem) = Arithmetic.Compute(text, definition.Numbers, toCents: false);
            return number ?? throw Refused($"{label}{where}: {problem}");
        }
    }
}
