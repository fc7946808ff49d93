using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;

namespace Aerarium.Benchmarks;

/// <summary>
/// One full evaluation of every country's return, in turns with Kenya's, over the golden returns, in which every line is met: time, time for each line that is computed, and what is allocated.
/// Kenya's is held against straight-line C# beside it; where a line of another country takes no longer, its return is as near to straight-line C# as Kenya's.
/// </summary>
public static class CountryEvaluations
{
    private const int Turns = 60, WarmUp = 20, Evaluations = 20;
    private static readonly DateOnly Day = new(2026, 6, 18);

    /// <summary>Times them; <paramref name="golden"/> is the folder of golden returns.</summary>
    public static void Run(string golden)
    {
        var returns = new[] { "ke/employment-income", "bb/individual", "ca/individual", "de/individual", "ph/individual-annual", "ca/accounts", "ca/company", "ca/company-alberta" }
            .Select(id => Load(golden, Catalogue.Get(id, Catalogue.TypeOf(id).Years[^1]))).ToList();
        var times = returns.Select(_ => new List<double>()).ToList();
        for (var turn = 0; turn < WarmUp + Turns; turn++)
        {
            for (var at = 0; at < returns.Count; at++)
            {
                var begun = Stopwatch.GetTimestamp();
                Evaluate(returns[at]);
                var took = Stopwatch.GetElapsedTime(begun).TotalMicroseconds / (Evaluations * returns[at].Sheets.Count);
                if (turn >= WarmUp)
                {
                    times[at].Add(took);
                }
            }
        }

        var kenya = PerLine(0);
        for (var at = 0; at < returns.Count; at++)
        {
            var before = GC.GetAllocatedBytesForCurrentThread();
            Evaluate(returns[at]);
            var allocated = (GC.GetAllocatedBytesForCurrentThread() - before) / (Evaluations * returns[at].Sheets.Count);
            Console.WriteLine(string.Create(
                CultureInfo.InvariantCulture,
                $"{returns[at].Definition.Id} {returns[at].Definition.Year}: {Median(at):0.0} microseconds in the median, {PerLine(at):0} nanoseconds for each of {returns[at].Computed:0} computed values, {PerLine(at) / kenya:0.00} times Kenya's; {allocated} bytes allocated"));
        }

        double Median(int at) => times[at].Order().ElementAt(Turns / 2);
        double PerLine(int at) => Median(at) * 1_000 / returns[at].Computed;
    }

    private static void Evaluate((Definition Definition, IReadOnlyList<Sheet> Sheets, double Computed) item)
    {
        for (var time = 0; time < Evaluations; time++)
        {
            foreach (var sheet in item.Sheets)
            {
                item.Definition.Evaluator.Run(sheet);
            }
        }
    }

    /// <summary>The golden returns of a definition, loaded; and how many values and findings are computed in one of them on average, row by row.</summary>
    private static (Definition Definition, IReadOnlyList<Sheet> Sheets, double Computed) Load(string golden, Definition definition)
    {
        definition.Evaluator.Compile();
        using var file = JsonDocument.Parse(File.ReadAllText(Path.Combine(golden, definition.Id, $"{definition.Year}.json")));
        var entries = file.RootElement.GetProperty("cases").EnumerateArray().Select(c => c.GetProperty("entries").Deserialize<EntrySet>(JsonSerializerOptions.Web)!).ToList();
        var scalar = definition.Lines.Count(l => l is { Table: null, IsComputed: true }) + definition.Findings.Count(f => f.Table is null);
        return (definition, [.. entries.Select(e =>
        {
            var sheet = new Sheet(definition);
            sheet.Load(e, Day);
            return sheet;
        })], scalar + entries.Average(e => definition.Tables.Sum(t => e.RowsOf(t.Key).Count * (t.Lines.Count(l => l.IsComputed) + definition.Findings.Count(f => f.Table == t)))));
    }
}
