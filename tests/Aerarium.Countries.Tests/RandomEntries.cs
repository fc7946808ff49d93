using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Tests;

/// <summary>Random returns of any definition, the same for the same seed: about half of the lines filled in, answers mostly yes, a few rows in every repeating section.</summary>
public static class RandomEntries
{
    public static EntrySet Of(Definition definition, int seed, int mostRows = 4)
    {
        var random = new Random(seed);
        var set = new EntrySet();
        foreach (var table in definition.Tables)
        {
            set.Rows[table.Key] = [.. Enumerable.Range(1, random.Next(0, mostRows + 1)).Select(row => new EntryRow($"r{row}"))];
        }

        foreach (var line in definition.Lines.Where(l => !l.IsComputed))
        {
            if (line.Table is null)
            {
                if (Value(line, random, set) is { } value)
                {
                    set.Values[line.Key] = value;
                }

                continue;
            }

            foreach (var row in set.Rows[line.Table.Key])
            {
                if (Value(line, random, set) is { } value)
                {
                    row.Values[line.Name] = value;
                }
            }
        }

        return set;
    }

    private static string? Value(Line line, Random random, EntrySet set)
    {
        if (random.Next(100) < (line.Form.Number == 0 ? 5 : 40))
        {
            return null;
        }

        return line.Kind switch
        {
            LineKind.Money => Figures.Canonical(Clamp(line, line.WholeUnits ? random.Next(0, 900_000) : random.Next(0, 90_000_000) / 100m)),
            LineKind.Count => Figures.Canonical(Math.Truncate(Clamp(line, random.Next(0, 4_000)))),
            LineKind.Number => Figures.Canonical(decimal.Round(Clamp(line, random.Next(0, 9_000_000) / 1_000m), line.Decimals)),
            LineKind.Answer => random.Next(100) < 70 ? "yes" : "no",
            LineKind.Choice => line.Choices![random.Next(line.Choices.Count)].Code,
            LineKind.Date => new DateOnly(definitionYear(line), 1, 1).AddDays(random.Next(0, 600)).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            LineKind.Row => set.Rows[line.Target!.Key] is { Count: > 0 } rows ? rows[random.Next(rows.Count)].Id : null,
            LineKind.Identifier => "20100456100000",
            _ => $"words {random.Next(3)}",
        };

        static int definitionYear(Line line) => line.Form.Definition.Year;
    }

    private static decimal Clamp(Line line, decimal amount) => Math.Clamp(amount, line.Least ?? amount, line.Most is { } most ? Math.Max(most, line.Least ?? 0) : Math.Max(amount, line.Least ?? amount));
}
