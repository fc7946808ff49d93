using System.Diagnostics;
using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;

namespace Aerarium.Benchmarks;

/// <summary>
/// The findings of a list of 5,000 certificates, in which many rows have something to find: after an edit of one row, and from
/// nothing but the entries, as when the list is opened for the first time.
/// </summary>
internal static class ListFindings
{
    private const int Rows = 5_000;
    private const int Times = 200;
    private const int WarmUp = 200;
    private static readonly DateOnly Today = new(2026, 6, 18);

    public static void Run()
    {
        var definition = Catalogue.Get("ph/withholding-credits", 2025, "q1");
        definition.Evaluator.Compile();
        var table = definition.FindTable("list.rows")!;
        var before = definition.Evaluate(new EntrySet { Rows = { [table.Key] = [.. Enumerable.Range(0, Rows).Select(n => Certificate(n, 3_000))] } }, Today);
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"a list of {Rows:N0} rows with {before.Findings.Count:N0} findings"));

        var edits = Measure(time =>
        {
            var rows = before.Entries.RowsOf(table.Key).ToList();
            rows[time * 71 % Rows] = Certificate(time * 71 % Rows, 3_000 + time);
            var entries = before.Entries.WithRows(table.Key, rows);
            return () => before = definition.Evaluate(entries, Today, before);
        });
        Console.WriteLine($"its findings after an edit of one row: {edits}");

        var anew = Measure(_ => () => definition.Evaluate(before.Entries, Today));
        Console.WriteLine($"its findings from the entries alone: {anew}");
    }

    /// <summary>A certificate; every tenth has a tax that is not that of its code, every fiftieth stands there twice.</summary>
    private static EntryRow Certificate(int number, decimal paid) => new($"r{number}")
    {
        Values =
        {
            ["payor-tin"] = (600_000_000 + (number % 50 == 3 ? number - 1 : number)).ToString(CultureInfo.InvariantCulture) + "00000",
            ["payor"] = $"Payer {number}",
            ["code"] = "WI010",
            ["total"] = paid.ToString(CultureInfo.InvariantCulture),
            ["withheld"] = (number % 10 == 0 ? paid * 0.10m : paid * 0.05m).ToString(CultureInfo.InvariantCulture),
            ["received"] = "yes",
        },
    };

    private static string Measure(Func<int, Func<Evaluation>> prepare)
    {
        var times = new List<double>();
        for (var time = 0; time < WarmUp + Times; time++)
        {
            var work = prepare(time);
            var watch = Stopwatch.StartNew();
            _ = work().Findings.Count;
            if (time >= WarmUp)
            {
                times.Add(watch.Elapsed.TotalMilliseconds);
            }
        }

        times.Sort();
        return string.Create(CultureInfo.InvariantCulture, $"median {times[Times / 2]:0.0} ms, 95th percentile {times[Times * 95 / 100]:0.0} ms, worst {times[^1]:0.0} ms of {Times}");
    }
}
