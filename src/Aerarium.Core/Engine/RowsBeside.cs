using Aerarium.Core.Definitions;

namespace Aerarium.Core.Engine;

/// <summary>A row of this year beside the row of last year that it goes on from.</summary>
/// <param name="Now">Index of the row this year; null when it is gone.</param>
/// <param name="Before">Index of the row last year; null when it is new.</param>
public sealed record RowBeside(int? Now, int? Before);

/// <summary>
/// Finds the rows of last year that rows of this year go on from: the same employer, payer, loan. A row goes on from the one with the same
/// identifier, otherwise the same name, otherwise, where the section names its rows by nothing, the one it was taken over from. Of several rows
/// with the same identifier or name, those with most in common (codes, dates, answers) belong together.
/// </summary>
public static class RowsBeside
{
    /// <summary>The rows of a repeating section of two years: this year's in order, then those that are gone. Rows match on canonical texts.</summary>
    public static IReadOnlyList<RowBeside> Of(RepeatingSection table, Evaluation now, Evaluation before)
    {
        var earlier = before.Definition.FindTable(table.Key);
        var (rows, past) = (now.RowsOf(table), earlier is null ? [] : before.RowsOf(earlier));
        var of = new int?[rows.Count];
        var taken = new bool[past.Count];
        var naming = table.Lines.Where(l => l.Kind == LineKind.Identifier).Take(1).Concat(table.NamedBy is { } name ? [name] : []).Distinct().ToList();
        var lasting = table.Lines.Where(l => !l.IsComputed && !l.IsNumber).Select(l => l.Name).ToList();
        foreach (var column in naming)
        {
            Match(row => row.Values.GetValueOrDefault(column.Name));
        }

        Match(row => naming.Any(column => row.Values.ContainsKey(column.Name)) ? null : row.Id);
        return
        [
            .. of.Select((place, row) => new RowBeside(row, place)),
            .. Enumerable.Range(0, past.Count).Where(place => !taken[place]).Select(place => new RowBeside(null, place)),
        ];

        void Match(Func<Entries.EntryRow, string?> by)
        {
            var open = past.Index().Where(p => !taken[p.Index] && by(p.Item) is not null).ToLookup(p => by(p.Item)!, p => p.Index);
            var pairs = rows.Index().Where(r => of[r.Index] is null && by(r.Item) is not null)
                .SelectMany(r => open[by(r.Item)!].Select(place => (Row: r.Index, Place: place, Common: lasting.Count(c => Same(r.Item, past[place], c)))))
                .OrderByDescending(p => p.Common).ThenBy(p => p.Row).ThenBy(p => p.Place);
            foreach (var (row, place, _) in pairs)
            {
                if (of[row] is null && !taken[place])
                {
                    (of[row], taken[place]) = (place, true);
                }
            }
        }
    }

    private static bool Same(Entries.EntryRow one, Entries.EntryRow other, string column) =>
        one.Values.TryGetValue(column, out var value) && other.Values.GetValueOrDefault(column) == value;
}
