using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>
/// Looks for returns that follow each other in a circle: a line tied to another return whose figure needs a line that is tied back. Ties to earlier
/// years never come round again; the others are followed from line to line, over people as well, for the spouse of one's spouse is oneself.
/// </summary>
public static class TieCircles
{
    /// <summary>Follows every tie of a definition.</summary>
    /// <param name="start">The definition.</param>
    /// <param name="find">Another definition by id, year and period; null when it is not covered.</param>
    /// <exception cref="RuleException">The returns run in a circle, told by labels; or a tie names a line or column that does not exist.</exception>
    public static void Check(Definition start, Func<string, int, string, Definition?> find)
    {
        var done = new HashSet<(Definition, Line, string)>();
        foreach (var line in start.Lines)
        {
            Visit(new Place(start, line, ""), []);
        }

        void Visit(Place place, List<Place> path)
        {
            var again = path.FindIndex(p => p.Definition == place.Definition && p.Line == place.Line && p.Person == place.Person);
            if (again >= 0)
            {
                throw new RuleException($"The returns run in a circle: {string.Join(" follows ", path.Skip(again).Append(place).Select(p => p.Label))}.");
            }

            if (!done.Add((place.Definition, place.Line, place.Person)))
            {
                return;
            }

            path.Add(place);
            foreach (var needed in place.Line.Formula is { } formula ? Needs(formula) : [])
            {
                Visit(place with { Line = needed }, path);
            }

            if (place.Line.OpenWhen is { } when)
            {
                foreach (var needed in Needs(when))
                {
                    Visit(place with { Line = needed }, path);
                }
            }

            foreach (var (tied, keys) in TiesOf(place.Line).Where(t => t.Return.YearsBack == 0))
            {
                if (find(tied.Definition, place.Definition.Year, tied.Period) is { } other)
                {
                    foreach (var key in keys)
                    {
                        Visit(new Place(other, other.LineOf(key), PersonAt(place.Person, tied.Relation)), path);
                    }
                }
            }

            path.RemoveAt(path.Count - 1);
        }
    }

    /// <summary>What a line takes from other returns, its column's rows included.</summary>
    private static IEnumerable<(TiedReturn Return, IReadOnlyList<string> Lines)> TiesOf(Line line)
    {
        foreach (var tie in line.Ties)
        {
            yield return (tie.Return, tie.Lines);
        }

        if (line.Table?.RowTie is { } rows && rows.Columns.FirstOrDefault(c => c.Column == line.Name) is { } column)
        {
            var single = rows.AndSingle is { } one && one.AmountIn == line.Name ? [one.Line] : (string[])[];
            yield return (rows.Return, [.. column.From.Concat(rows.LeftOutAtZero is { } left ? [left] : (string[])[]).Select(name => $"{rows.Rows}.{name}"), .. single]);
        }
    }

    private static IEnumerable<Line> Needs(Formula formula) =>
        formula.ReferredLine is { } line ? [line]
        : formula is SectionIsOpen { Section.When: { } when } ? Needs(when)
        : (formula.WalksOver?.When is { } walked ? Needs(walked) : []).Concat(formula.Operands.SelectMany(Needs));

    private static string PersonAt(string person, string? relation) => (person, relation) switch
    {
        (_, null) => person,
        ("spouse", "spouse") or ("child", "parent") or ("parent", "child") => "",
        ("", _) => relation,
        _ => $"{person}'s {relation}",
    };

    private sealed record Place(Definition Definition, Line Line, string Person)
    {
        public string Label =>
            $"'{Line.Label}' of {Definition.Title} {Periods.InWords(Definition.Year, Definition.Period)}{(Person.Length == 0 ? "" : $" of the {Person}")}";
    }
}
