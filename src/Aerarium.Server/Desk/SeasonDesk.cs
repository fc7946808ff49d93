using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Desk;

/// <summary>How many returns took between so many and so many days from opening to filing.</summary>
/// <param name="From">Fewest days.</param>
/// <param name="To">Most days; null for all beyond.</param>
/// <param name="Returns">How many.</param>
public sealed record SeasonSpan(int From, int? To, long Returns);

/// <summary>What comparing alternatives found in the returns of one kind.</summary>
/// <param name="Title">The return.</param>
/// <param name="Currency">Its currency.</param>
/// <param name="Compared">Returns in which something is chosen that another choice would tax otherwise.</param>
/// <param name="Found">By how much the choices made cost less than the dearest that were open, canonical.</param>
/// <param name="Missed">Returns in which a cheaper choice is open.</param>
/// <param name="Left">What that would still save, canonical.</param>
public sealed record FoundTax(string Title, string Currency, int Compared, string Found, int Missed, string Left);

/// <summary>The season in charts.</summary>
/// <param name="From">First day of the months shown.</param>
/// <param name="To">Their last day.</param>
/// <param name="Stages">Returns by the month in which they fall due, and stage.</param>
/// <param name="Spans">Returns by days from opening to filing.</param>
/// <param name="MedianDays">The median of those days; null while nothing was filed.</param>
/// <param name="Found">What alternatives found, by kind of return.</param>
/// <param name="Looked">How many returns were compared for that: the latest, where there are more than a request takes.</param>
/// <param name="All">Whether those are all.</param>
public sealed record SeasonView(
    DateOnly From, DateOnly To, IReadOnlyList<SeasonStage> Stages, IReadOnlyList<SeasonSpan> Spans, int? MedianDays, IReadOnlyList<FoundTax> Found, int Looked, bool All);

/// <summary>The practice's season in charts: by stage, from opening to filing, and what comparing alternatives found.</summary>
internal sealed class SeasonDesk(PracticeDatabase database, TimeProvider clock)
{
    private const int MonthsBefore = 11;
    private const int MonthsAfter = 6;
    private const int MostCompared = 2_000;
    private const int ReadTogether = 100;
    private static readonly (int From, int? To)[] Spans = [(0, 3), (4, 7), (8, 14), (15, 30), (31, 60), (61, null)];

    /// <summary>Returns with something to choose.</summary>
    private static readonly IReadOnlyList<string> Elective = [.. Catalogue.Returns.Where(t => Catalogue.Get(t.Id, t.Years[^1], t.Periods[0]).Lines.Any(l => l.IsElective)).Select(t => t.Id)];

    public static void Map(RouteGroupBuilder api) =>
        api.MapGet("/desk/season", (ClaimsPrincipal user, SeasonDesk desk, CancellationToken stopped) => desk.Of(Caller.Of(user).Reach, stopped)).ReachesPractice().WithTags("Desk");

    /// <summary>The season of the returns somebody may see.</summary>
    public SeasonView Of(Reach reach, CancellationToken stopped)
    {
        var today = clock.Today();
        var first = new DateOnly(today.Year, today.Month, 1);
        var (from, to) = (first.AddMonths(-MonthsBefore), first.AddMonths(MonthsAfter + 1).AddDays(-1));
        var (start, end) = (Text(from), Text(to));
        var (stages, days, ids) = database.Read(unit => (
            Season.Stages(unit, reach, start, end), Season.DaysToFiling(unit, reach, start, end), Season.Of(unit, Elective, reach, start, end, MostCompared + 1)));
        return new SeasonView(
            from,
            to,
            stages,
            [.. Spans.Select(s => new SeasonSpan(s.From, s.To, days.Where(d => d.Days >= s.From && d.Days <= (s.To ?? int.MaxValue)).Sum(d => d.Returns)))],
            Median(days),
            Found([.. ids.Take(MostCompared)], today, stopped),
            Math.Min(ids.Count, MostCompared),
            ids.Count <= MostCompared);
    }

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static int? Median(IReadOnlyList<SeasonDays> days)
    {
        var (half, seen) = ((days.Sum(d => d.Returns) + 1) / 2, 0L);
        return (int?)days.FirstOrDefault(d => (seen += d.Returns) >= half)?.Days;
    }

    /// <summary>By kind of return what the choices made cost less than the dearest open one, and what a cheaper one would still save.</summary>
    private IReadOnlyList<FoundTax> Found(IReadOnlyList<long> ids, DateOnly today, CancellationToken stopped) =>
    [
        .. ids.Chunk(ReadTogether).AsParallel().WithCancellation(stopped).SelectMany(part => database.Read(unit => ReturnContents.Of(unit, part).Select(c => (Law: PracticeDefinitions.Of(unit, c.Record), c)).ToList()))
            .Select(r => (r.Law.Title, r.Law.Currency, Spread: SpreadOf(r.Law.Evaluate(Workspace.EntrySetOf(r.Law, r.c.Rows, r.c.Entries), today), today)))
            .Where(r => r.Spread.Dearest > 0 || r.Spread.Cheapest > 0)
            .GroupBy(r => (r.Title, r.Currency))
            .Select(g => new FoundTax(
                g.Key.Title, g.Key.Currency, g.Count(), Figures.Canonical(g.Sum(r => r.Spread.Dearest)), g.Count(r => r.Spread.Cheapest > 0), Figures.Canonical(g.Sum(r => r.Spread.Cheapest))))
            .OrderBy(f => f.Title, StringComparer.Ordinal),
    ];

    /// <summary>How far the choice made lies below the dearest open one and above the cheapest; of several lines with choices the one that moves most, so that nothing is counted twice.</summary>
    private static (decimal Dearest, decimal Cheapest) SpreadOf(Evaluation evaluation, DateOnly today) =>
        Alternatives.Of(evaluation, today).Where(e => e.Chosen is not null).Select(e =>
        {
            var (chosen, costs) = (e.Chosen!.Cost, e.Choices.Where(c => c.IsOpen || c.Chosen).Select(c => c.Cost).ToList());
            return (Dearest: costs.Max() - chosen, Cheapest: chosen - costs.Min());
        }).OrderByDescending(s => s.Dearest + s.Cheapest).FirstOrDefault();
}
