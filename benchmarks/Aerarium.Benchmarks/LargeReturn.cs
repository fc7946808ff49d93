using System.Diagnostics;
using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Benchmarks;

/// <summary>A made-up return of the size of a large company's: 3,000 lines, 30 tables, 3,000 findings.</summary>
public static class LargeReturn
{
    private const int FormCount = 30, LinesOfForm = 90, Columns = 10, Rows = 20;

    /// <summary>Times building it, its first evaluation, and later ones interpreted and compiled.</summary>
    public static void Run()
    {
        _ = new Large();
        var building = Stopwatch.GetTimestamp();
        var definition = new Large();
        var built = Stopwatch.GetElapsedTime(building);
        var entries = Entries(definition);
        var first = Time(() => definition.Evaluate(entries, new DateOnly(2026, 6, 18)));
        var compiling = Stopwatch.GetTimestamp();
        definition.Evaluator.Compile();
        var compiled = Stopwatch.GetElapsedTime(compiling);
        var later = new List<double>();
        Evaluation? before = null;
        for (var turn = 0; turn < 60; turn++)
        {
            var edited = entries.With("form-1.entry-0", $"{turn}");
            later.Add(Time(() => before = definition.Evaluate(edited, new DateOnly(2026, 6, 18), before)));
        }

        later = [.. later.Skip(20).Order()];
        Console.WriteLine(string.Create(
            CultureInfo.InvariantCulture,
            $"a return of {definition.Lines.Count} lines, {definition.Tables.Count} tables, {definition.Findings.Count} findings, {before!.Findings.Count} of them there: built in {built.TotalMilliseconds:0} ms, first evaluation {first:0.0} ms, later {later[later.Count / 2]:0.00} ms in the median and {later[^2]:0.00} at the 95th percentile; compiled in the background in {compiled.TotalMilliseconds:0} ms"));
    }

    private static double Time(Action act)
    {
        var begun = Stopwatch.GetTimestamp();
        act();
        return Stopwatch.GetElapsedTime(begun).TotalMilliseconds;
    }

    private static EntrySet Entries(Definition definition)
    {
        var set = new EntrySet();
        foreach (var line in definition.Lines.Where(l => l is { Table: null, IsComputed: false }))
        {
            set.Values[line.Key] = line.Kind == LineKind.Answer ? "yes" : $"{line.Slot % 997}";
        }

        foreach (var table in definition.Tables)
        {
            set.Rows[table.Key] = [.. Enumerable.Range(0, Rows).Select(row => new EntryRow($"r{row}") { Values = table.Lines.Where(l => !l.IsComputed).ToDictionary(l => l.Name, l => $"{(row * 31) + l.Slot}") })];
        }

        return set;
    }

    private sealed class Large : Definition
    {
        public Large()
            : base("zz/large", 2025)
        {
            LargeForm? before = null;
            for (var form = 0; form < FormCount; form++)
            {
                before = new LargeForm(this, form, before);
            }

            Seal(new KeyFigure("Total", before!.Total.Line, ""));
        }

        public override string Title => "Large";

        public override string Country => "Zedland";

        public override string Currency => "ZZD";

        public override IReadOnlyList<Deadline> Deadlines => [];
    }

    private sealed class LargeForm : Form
    {
        public LargeForm(Definition definition, int number, LargeForm? before)
            : base(definition, $"form-{number}", $"Form {number}", "")
        {
            Section("Lines");
            var asked = Answer("asked", "Asked?").Required();
            var entries = Enumerable.Range(0, LinesOfForm / 2).Select(n => Entry($"entry-{n}", $"Entry {n}").Required()).ToList();
            var computed = new List<AmountLine>();
            foreach (var (index, entry) in entries.Index())
            {
                var last = index == 0 ? before?.Total ?? (Amount)entry : computed[^1];
                computed.Add(Line($"line-{index}", $"Line {index}", Law.If(asked, Law.Min(last + entry, 1_000_000), Law.Max(last - entry, 0)), Law.ToCents));
                Error($"form-{number}-error-{index}", entry > computed[^1], $"{entry} is more than {computed[^1]}; correct it.", entry);
                Warn($"form-{number}-warning-{index}", entry > 500, $"{entry} is much; look at it again.", entry);
            }

            var rows = Repeating("rows", "Rows", "row", row =>
            {
                var cells = Enumerable.Range(0, Columns / 2).Select(n => row.Entry($"cell-{n}", $"Cell {n}")).ToList();
                return cells.Select((cell, n) => row.Line($"sum-{n}", $"Sum {n}", n == 0 ? cell : cell + cells[n - 1])).Last();
            });
            Section("Total");
            Total = Line("total", "Total", computed[^1] + rows.Sum(r => r));
        }

        public AmountLine Total { get; }
    }
}
