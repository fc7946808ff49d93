using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;

namespace Aerarium.Benchmarks;

/// <summary>
/// One full evaluation of every country's return over the golden returns, in which every line is met, by turns with the same rules written out as straight-line C#
/// (<see cref="WrittenReturn"/>): how many times as long it takes, and what is allocated. That both come to the same figures and findings is checked first.
/// </summary>
public static class CountryEvaluations
{
    private const int Turns = 120, WarmUp = 60, Evaluations = 20;
    private static readonly DateOnly Day = new(2026, 6, 18);

    /// <summary>Times them; <paramref name="golden"/> is the folder of golden returns. What is written out is left in <paramref name="sources"/>, where it is given.</summary>
    public static void Run(string golden, string? sources)
    {
        foreach (var id in new[] { "ke/employment-income", "bb/individual", "ca/individual", "de/individual", "ph/individual-annual" })
        {
            var definition = Catalogue.Get(id, Catalogue.TypeOf(id).Years[^1]);
            definition.Evaluator.Compile();
            var written = new WrittenReturn(definition);
            if (sources is not null)
            {
                File.WriteAllText(Path.Combine(sources, $"{id.Replace('/', '-')}.cs"), written.Source);
            }

            var sheets = Load(golden, definition);
            var rules = sheets.Select(written.Of).ToList();
            foreach (var (sheet, straight) in sheets.Zip(rules))
            {
                definition.Evaluator.Figures(sheet);
                straight.Run();
                written.Compare(straight, sheet);
            }

            Time(definition, sheets, rules);
        }
    }

    private static void Time(Definition definition, IReadOnlyList<Sheet> sheets, IReadOnlyList<WrittenRules> rules)
    {
        var turns = new List<(double Straight, double Compiled)>();
        for (var turn = 0; turn < WarmUp + Turns; turn++)
        {
            turns.Add((Took(Straight), Took(Compiled)));
        }

        turns.RemoveRange(0, WarmUp);
        var before = GC.GetAllocatedBytesForCurrentThread();
        Compiled();
        var allocated = (GC.GetAllocatedBytesForCurrentThread() - before) / (Evaluations * sheets.Count);
        var ratios = turns.Select(t => t.Compiled / t.Straight).Order().ToList();
        Console.WriteLine(string.Create(
            CultureInfo.InvariantCulture,
            $"{definition.Id} {definition.Year}: {turns.Select(t => t.Compiled).Order().ElementAt(Turns / 2):0.0} microseconds in the median, {ratios[Turns / 2]:0.00} times the same rules written out as straight-line C# ({ratios[Turns / 4]:0.00} to {ratios[Turns * 3 / 4]:0.00} in the middle half of {Turns} turns); {allocated} bytes allocated"));

        double Took(Action evaluate)
        {
            var begun = Stopwatch.GetTimestamp();
            evaluate();
            return Stopwatch.GetElapsedTime(begun).TotalMicroseconds / (Evaluations * sheets.Count);
        }

        void Compiled()
        {
            for (var time = 0; time < Evaluations; time++)
            {
                foreach (var sheet in sheets)
                {
                    definition.Evaluator.Figures(sheet);
                }
            }
        }

        void Straight()
        {
            for (var time = 0; time < Evaluations; time++)
            {
                foreach (var rule in rules)
                {
                    rule.Run();
                }
            }
        }
    }

    /// <summary>The golden returns of a definition, loaded.</summary>
    private static List<Sheet> Load(string golden, Definition definition)
    {
        using var file = JsonDocument.Parse(File.ReadAllText(Path.Combine(golden, definition.Id, $"{definition.Year}.json")));
        return [.. file.RootElement.GetProperty("cases").EnumerateArray().Select(c =>
        {
            var sheet = new Sheet(definition);
            sheet.Load(c.GetProperty("entries").Deserialize<EntrySet>(JsonSerializerOptions.Web)!, Day);
            return sheet;
        })];
    }
}
