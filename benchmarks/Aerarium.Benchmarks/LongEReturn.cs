using System.Diagnostics;
using System.Globalization;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Filing;

namespace Aerarium.Benchmarks;

/// <summary>Writing an e-return of 2,000 and of 20,000 rows of ten fields: the second takes about ten times as long, not a hundred or a thousand.</summary>
internal static class LongEReturn
{
    private const int Fields = 10;

    public static void Run()
    {
        var (few, many) = (Best(2_000), Best(20_000));
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"an e-return written: 2,000 rows {few:N0} ms, 20,000 rows {many:N0} ms, {many / few:0.0} times as long"));
    }

    private static double Best(int rows)
    {
        var definition = Catalogue.Get("ke/employment-income", 2025);
        var section = definition.FindTable("employment.employers")!;
        var columns = section.Lines.Where(l => !l.IsComputed).Take(Fields).ToList();
        var entries = new EntrySet
        {
            Rows =
            {
                [section.Key] = [.. Enumerable.Range(1, rows).Select(row => new EntryRow($"r{row}")
                {
                    Values = columns.ToDictionary(c => c.Name, _ => row.ToString(CultureInfo.InvariantCulture)),
                })],
            },
        };
        var evaluation = definition.Evaluate(entries, new DateOnly(2026, 6, 18));
        return Enumerable.Range(0, 3).Min(_ =>
        {
            var watch = Stopwatch.StartNew();
            var writer = new EReturnWriter(evaluation, "urn:benchmark", "Return");
            writer.Rows("Row", section.Key, () =>
            {
                foreach (var (index, column) in columns.Index())
                {
                    writer.Line($"Field{index}", column.Name);
                }
            });
            writer.Finish();
            return watch.Elapsed.TotalMilliseconds;
        });
    }
}
