using Aerarium.Core.Definitions;

namespace Aerarium.Core.Engine;

/// <summary>Where what is entered goes: from the box of a paper to the lines that are computed from it.</summary>
public static class Destinations
{
    /// <summary>For every line that is copied from a paper: the first lines outside its rows that are computed from it, in working order.</summary>
    public static IReadOnlyDictionary<Line, IReadOnlyList<Line>> Of(Definition definition)
    {
        var readers = definition.Lines.Where(l => l.Formula is not null)
            .SelectMany(reader => RuleOrder.LinesBeneath(reader.Formula!).Select(read => (Read: read, Reader: reader)))
            .ToLookup(pair => pair.Read, pair => pair.Reader);
        return definition.Lines.Where(l => l.CopiedFrom is not null).ToDictionary(l => l, IReadOnlyList<Line> (from) =>
        {
            var (ends, seen, walk) = (new SortedDictionary<int, Line>(), new HashSet<Line> { from }, new Queue<Line>([from]));
            while (walk.TryDequeue(out var line))
            {
                foreach (var reader in readers[line].Where(seen.Add))
                {
                    if (reader.Table is null)
                    {
                        ends[reader.Position] = reader;
                    }
                    else
                    {
                        walk.Enqueue(reader);
                    }
                }
            }

            return [.. ends.Values];
        });
    }
}
