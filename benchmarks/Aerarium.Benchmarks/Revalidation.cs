using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Filing;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Sheet = DocumentFormat.OpenXml.Spreadsheet.Sheet;

namespace Aerarium.Benchmarks;

/// <summary>
/// 10,000 returns revalidated on two threads: entries read, everything evaluated, findings with their messages. Beside it the same
/// returns by straight-line C#, which has the figures but no findings; and the workings of the same return with the changed
/// entries of every one, for a spreadsheet engine to do the same formulas.
/// </summary>
internal static class Revalidation
{
    private const int Returns = 10_000;
    private const int Threads = 2;
    private static readonly DateOnly Today = new(2026, 3, 1);

    private sealed record Inputs(decimal Basic, decimal Tax, decimal Interest);

    public static void Run(string folder)
    {
        var definition = Catalogue.Get("ke/employment-income", 2025);
        definition.Evaluator.Compile();
        var random = new Random(20_260_301);
        var inputs = Enumerable.Range(0, Returns).Select(_ => new Inputs(random.Next(400_000, 9_000_000), random.Next(0, 2_000_000), random.Next(0, 900_000))).ToList();
        var entries = inputs.Select(EntriesOf).ToList();
        var expected = new decimal[Returns];
        var findings = 0;

        var engine = Best(() => Measure(at =>
        {
            var evaluation = definition.Evaluate(entries[at], Today);
            expected[at] = evaluation.Balance;
            Interlocked.Add(ref findings, evaluation.Findings.Count);
        }));
        var straight = Best(() => Measure(at =>
        {
            var line = Straight(inputs[at]);
            if (line.Run() != expected[at])
            {
                throw new InvalidOperationException($"Return {at}: {line.Balance} by straight-line C#, {expected[at]} by the engine.");
            }
        }));
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"10,000 returns revalidated, {Threads} threads: engine {engine:N0} returns a second, straight-line C# without findings {straight:N0}, {straight / engine:0.0} times as many"));
        Write(Path.Combine(folder, "workings.json"), definition, inputs, expected, engine);
    }

    private static double Best(Func<double> measure) => Enumerable.Range(0, 5).Max(_ => measure());

    private static double Measure(Action<int> one)
    {
        var watch = Stopwatch.StartNew();
        Parallel.For(0, Returns, new ParallelOptions { MaxDegreeOfParallelism = Threads }, one);
        return Returns / watch.Elapsed.TotalSeconds;
    }

    private static EntrySet EntriesOf(Inputs input)
    {
        var set = EvaluationBenchmark.Case();
        Set(set, "employment.employers", "basic-pay", input.Basic);
        Set(set, "employment.employers", "tax-deducted", input.Tax);
        Set(set, "deductions.loans", "interest", input.Interest);
        return set;
    }

    private static void Set(EntrySet set, string section, string column, decimal value) =>
        set.Rows[section][0].Values[column] = value.ToString(CultureInfo.InvariantCulture);

    private static StraightLine Straight(Inputs input)
    {
        var line = new StraightLine();
        EvaluationBenchmark.Fill(line);
        line.Employers[0].Basic = input.Basic;
        line.Employers[0].Tax = input.Tax;
        line.Interest = [input.Interest];
        return line;
    }

    private static void Write(string path, Definition definition, List<Inputs> inputs, decimal[] expected, double engine)
    {
        var evaluation = definition.Evaluate(EntriesOf(inputs[0]), Today);
        var cells = new WorkingsCells(evaluation);
        int[] Entered(string section, string column)
        {
            var line = definition.LineOf($"{section}.{column}");
            return [cells.RowOf(line.Table!, 0) - 1, cells.ColumnOf(line) - 1];
        }

        var (employment, deductions) = (definition.LineOf("employment.employers.basic-pay").Form, definition.LineOf("deductions.loans.interest").Form);
        var model = new
        {
            engine,
            sheets = SheetsOf(Workings.Draw(evaluation, new WorkingsFacts("Practice", "Client", Today))),
            balance = new { sheet = cells.SheetOf(definition.Balance.Form), at = new[] { cells.RowOf(definition.Balance) - 1, WorkingsCells.CountsColumn } },
            inputs = new[]
            {
                new { sheet = cells.SheetOf(employment), at = Entered("employment.employers", "basic-pay"), values = inputs.Select(i => i.Basic).ToList() },
                new { sheet = cells.SheetOf(employment), at = Entered("employment.employers", "tax-deducted"), values = inputs.Select(i => i.Tax).ToList() },
                new { sheet = cells.SheetOf(deductions), at = Entered("deductions.loans", "interest"), values = inputs.Select(i => i.Interest).ToList() },
            },
            expected,
        };
        File.WriteAllText(path, JsonSerializer.Serialize(model));
    }

    /// <summary>The cells of every sheet, row by row: formulas with their equals sign, numbers, texts.</summary>
    private static Dictionary<string, List<List<object?>>> SheetsOf(byte[] workbook)
    {
        using var document = SpreadsheetDocument.Open(new MemoryStream(workbook), false);
        var book = document.WorkbookPart!;
        return book.Workbook!.Descendants<Sheet>().ToDictionary(sheet => sheet.Name!.Value!, sheet =>
        {
            var rows = new List<List<object?>>();
            foreach (var cell in ((WorksheetPart)book.GetPartById(sheet.Id!.Value!)).Worksheet!.Descendants<Cell>())
            {
                var reference = cell.CellReference!.Value!;
                var letters = reference.TakeWhile(char.IsLetter).ToList();
                var column = letters.Aggregate(0, (number, letter) => (number * 26) + letter - 'A' + 1) - 1;
                var row = int.Parse(reference.AsSpan(letters.Count), CultureInfo.InvariantCulture) - 1;
                while (rows.Count <= row)
                {
                    rows.Add([]);
                }

                while (rows[row].Count <= column)
                {
                    rows[row].Add(null);
                }

                rows[row][column] = cell.CellFormula is { } formula ? $"={formula.Text}"
                    : cell.InlineString is { } text ? text.InnerText
                    : cell.CellValue is { } value ? decimal.Parse(value.Text, NumberStyles.Float, CultureInfo.InvariantCulture)
                    : null;
            }

            return rows;
        });
    }
}
