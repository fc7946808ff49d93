using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Tests.Golden;

/// <summary>
/// Makes golden returns: of many random returns those few that together show every outcome that any of them shows; then single entries at other
/// values that show what is still missing; then, between two values of one entry at which a rule goes different ways, the two neighbouring values where
/// it turns. The same definition gives the same file.
/// </summary>
internal static class GoldenMaker
{
    private const int Tries = 1_000;
    private const int MostCases = 16;

    /// <summary>Cases from which entries are moved over edges; the first show the most.</summary>
    private const int Moved = 7;
    private static readonly decimal[] Reaches = [0, 3, 2_000, 260_000, 2_500_000, 40_000_000];

    public static GoldenFile Make(Definition definition)
    {
        var outcomes = new Outcomes(definition);
        var cases = Cases(definition, outcomes);
        var golden = new GoldenFile([.. cases.Select(c => GoldenFile.CaseOf(definition, c))], []);
        golden.Edges.AddRange(Missing(definition, outcomes, cases).Concat(Edges(definition, outcomes, cases)).Select(e => golden.EdgeOf(definition, e)));
        return golden;
    }

    private static List<EntrySet> Cases(Definition definition, Outcomes outcomes)
    {
        var tried = Enumerable.Range(0, Tries).Select(seed => Varied(definition, seed)).Select(entries => (Entries: entries, Seen: outcomes.Of(definition.Evaluate(entries, GoldenFile.Day)))).ToList();
        var chosen = new List<EntrySet>();
        var shown = new HashSet<string>();
        while (chosen.Count < MostCases && tried.MaxBy(t => t.Seen.Count(s => !shown.Contains(s))) is var best && best.Seen.Any(s => !shown.Contains(s)))
        {
            chosen.Add(best.Entries);
            shown.UnionWith(best.Seen);
        }

        return chosen;
    }

    /// <summary>A random return; some are all small, some large, some full, some nearly empty.</summary>
    private static EntrySet Varied(Definition definition, int seed)
    {
        var entries = RandomEntries.Of(definition, seed, mostRows: 1 + (seed % 3));
        var scale = (seed % 5) switch { 0 => 0.01m, 1 => 0.2m, 2 => 1m, 3 => 3m, _ => 12m };
        var random = new Random(seed);
        foreach (var line in definition.Lines.Where(l => l is { IsComputed: false, Kind: LineKind.Money }))
        {
            Scale(line, line.Table is null ? entries.Values : null, line.Key);
            foreach (var row in line.Table is null ? [] : entries.RowsOf(line.Table.Key))
            {
                Scale(line, row.Values, line.Name);
            }
        }

        return entries;

        void Scale(Line line, Dictionary<string, string>? values, string key)
        {
            if (values?.GetValueOrDefault(key) is { } typed && random.Next(4) > 0)
            {
                var amount = decimal.Parse(typed, CultureInfo.InvariantCulture) * scale;
                values[key] = Figures.Canonical(line.WholeUnits ? Math.Truncate(amount) : Math.Round(amount, 2));
            }
        }
    }

    /// <summary>Single entries at values of their kind that random returns seldom have: other years, codes, identifiers that break their rule, blanks.</summary>
    private static List<GoldenEdge> Missing(Definition definition, Outcomes outcomes, List<EntrySet> cases)
    {
        var shown = cases.SelectMany(c => outcomes.Of(definition.Evaluate(c, GoldenFile.Day))).ToHashSet();
        var found = new List<GoldenEdge>();
        foreach (var (number, entries) in cases.Index())
        {
            foreach (var line in definition.Lines.Where(l => !l.IsComputed && l.Overrides is null))
            {
                foreach (var row in line.Table is null ? (string?[])[null] : [.. entries.RowsOf(line.Table.Key).Select(r => r.Id)])
                {
                    foreach (var value in Unusual(definition, line, entries))
                    {
                        var there = outcomes.Of(definition.Evaluate(GoldenFile.With(definition, entries, line.Key, row, value), GoldenFile.Day)).Where(t => !shown.Contains(t)).ToList();
                        if (there.Count > 0)
                        {
                            shown.UnionWith(there);
                            found.Add(new GoldenEdge(there.Find(t => !char.IsAsciiDigit(t[0])) ?? line.Key, number, line.Key, row, [value], []));
                        }
                    }
                }
            }
        }

        return found;
    }

    private static IEnumerable<string> Unusual(Definition definition, Line line, EntrySet entries) => line.Kind switch
    {
        LineKind.Answer => ["yes", "no", ""],
        LineKind.Choice => line.Choices!.Select(c => c.Code).Append(""),
        LineKind.Date => [.. new[] { 1940, 1959, 2001, 2010, definition.Year, definition.Year + 1 }.SelectMany(year => (string[])[$"{year}-01-01", $"{year}-06-30", $"{year}-12-31"]), ""],
        LineKind.Identifier => ["A001100210N", "20100456100000", "X", ""],
        LineKind.Row => entries.RowsOf(line.Target!.Key).Select(r => r.Id).Append(""),
        LineKind.Text => ["words 1", ""],
        _ => [.. new decimal[] { 0, 1, 5, definition.Year - 5, definition.Year - 3, definition.Year - 1, definition.Year, 100_000, 30_000_000 }
            .Where(v => v >= (line.Least ?? 0) && v <= (line.Most ?? decimal.MaxValue)).Select(Written), ""],
    };

    private static List<GoldenEdge> Edges(Definition definition, Outcomes outcomes, List<EntrySet> cases)
    {
        var found = new Dictionary<string, GoldenEdge>();
        foreach (var (number, entries) in cases.Take(Moved).Index())
        {
            var here = outcomes.Of(definition.Evaluate(entries, GoldenFile.Day));
            foreach (var (line, row, value) in Numbers(definition, entries))
            {
                foreach (var reach in Reaches.Where(r => r != value && r >= (line.Least ?? 0) && r <= (line.Most ?? decimal.MaxValue)))
                {
                    var there = outcomes.Of(Evaluated(definition, entries, line, row, reach));
                    foreach (var turned in there.Except(here).Where(t => char.IsAsciiDigit(t[0]) && !found.ContainsKey(t)).ToList())
                    {
                        var (before, after) = Turn(definition, outcomes, entries, line, row, value, reach, turned);
                        found[turned] = new GoldenEdge(
                            outcomes.PlaceOf(int.Parse(turned.Split(' ')[0], CultureInfo.InvariantCulture)), number, line.Key, row, [Written(before), Written(after)], []);
                    }
                }
            }
        }

        // Several rules often turn at one place.
        return [.. found.Values.DistinctBy(e => (e.Case, e.Line, e.Row, string.Join("|", e.Values))).OrderBy(e => e.Rule, StringComparer.Ordinal).ThenBy(e => e.Case)];
    }

    /// <summary>The last value on this side at which an outcome is not there, and the next, at which it is; in whole numbers or cents.</summary>
    private static (decimal Before, decimal After) Turn(
        Definition definition, Outcomes outcomes, EntrySet entries, Line line, string? row, decimal without, decimal with, string outcome)
    {
        var unit = line.Kind == LineKind.Count || line.WholeUnits ? 1m : 0.01m;
        while (Math.Abs(with - without) > unit)
        {
            var middle = Math.Truncate((without + with) / 2 / unit) * unit;
            if (middle == without || middle == with)
            {
                break;
            }

            (without, with) = outcomes.Of(Evaluated(definition, entries, line, row, middle)).Contains(outcome) ? (without, middle) : (middle, with);
        }

        return (without, with);
    }

    private static Core.Engine.Evaluation Evaluated(Definition definition, EntrySet entries, Line line, string? row, decimal value) =>
        definition.Evaluate(GoldenFile.With(definition, entries, line.Key, row, Written(value)), GoldenFile.Day);

    private static string Written(decimal value) => Figures.Canonical(value);

    private static IEnumerable<(Line Line, string? Row, decimal Value)> Numbers(Definition definition, EntrySet entries)
    {
        foreach (var line in definition.Lines.Where(l => l is { IsComputed: false, Kind: LineKind.Money or LineKind.Count }))
        {
            if (line.Table is null)
            {
                yield return (line, null, Number(entries.Values.GetValueOrDefault(line.Key)));
            }
            else if (entries.RowsOf(line.Table.Key) is [var first, ..])
            {
                yield return (line, first.Id, Number(first.Values.GetValueOrDefault(line.Name)));
            }
        }
    }

    private static decimal Number(string? value) => value is null ? 0 : decimal.Parse(value, CultureInfo.InvariantCulture);
}
