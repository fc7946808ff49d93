using System.Diagnostics;
using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Tests;
using Aerarium.Filing;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Sheet = DocumentFormat.OpenXml.Spreadsheet.Sheet;

namespace Aerarium.Countries.Tests;

/// <summary>
/// The workings recalculated by an independent program, LibreOffice Calc: random returns of every kind are written without any
/// computed value, opened there, and every computed line is compared with the engine to the cent.
/// </summary>
public sealed class WorkingsTests : IDisposable
{
    private const int ReturnsOfEachKind = 6;
    private const int FewerOfLongOnes = 2;
    private const int OneOfCompanies = 1;

    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-workings").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private static readonly (string Id, int Year, string Period)[] Kinds =
    [
        ("ke/employment-income", 2024, ""), ("ke/employment-income", 2025, ""), ("ph/individual-annual", 2021, ""), ("ph/individual-annual", 2025, ""),
        ("ph/individual-quarterly", 2025, "q1"), ("ph/individual-quarterly", 2025, "q3"), ("ph/withholding-credits", 2025, "q2"),
        ("ca/individual", 2024, ""), ("ca/individual", 2025, ""), ("ca/accounts", 2025, ""), ("ca/company", 2025, ""),
    ];

    [Fact]
    public void LibreOffice_comes_to_the_same_cents_on_every_line()
    {
        var today = new DateOnly(2026, 6, 18);
        var drawn = new Dictionary<string, Evaluation>();
        foreach (var (kind, number) in Kinds.SelectMany(k => Enumerable.Range(0, k.Id.StartsWith("ca/individual", StringComparison.Ordinal) ? FewerOfLongOnes : k.Id.StartsWith("ca/", StringComparison.Ordinal) ? OneOfCompanies : ReturnsOfEachKind).Select(n => (k, n))))
        {
            var definition = Catalogue.Get(kind.Id, kind.Year, kind.Period);
            var evaluation = definition.Evaluate(RandomEntries.Of(definition, (number * 7_919) + kind.Year), today);
            var name = $"{kind.Id.Replace('/', '-')}-{kind.Year}{kind.Period}-{number}";
            File.WriteAllBytes(Path.Combine(_folder, $"{name}.xlsx"), Workings.Draw(evaluation, new WorkingsFacts("Practice", "Client", today)));
            drawn[name] = evaluation;
        }

        // Pages with rows within, and computed texts, codes, days and answers, which no return so far has all of.
        var smallholding = new Smallholding();
        foreach (var number in Enumerable.Range(1, ReturnsOfEachKind))
        {
            var evaluation = smallholding.Evaluate(RandomEntries.Of(smallholding, number), today);
            File.WriteAllBytes(Path.Combine(_folder, $"smallholding-{number}.xlsx"), Workings.Draw(evaluation, new WorkingsFacts("Practice", "Client", today)));
            drawn[$"smallholding-{number}"] = evaluation;
        }

        Recalculate();
        var (compared, filled, wrong) = (0, 0, new List<string>());
        foreach (var (name, evaluation) in drawn)
        {
            var sheets = ReadSheets(Path.Combine(_folder, "out", $"{name}.xlsx"));
            var cells = new WorkingsCells(evaluation);
            foreach (var line in evaluation.Definition.Lines.Where(l => l.IsComputed))
            {
                var count = line.Table is null ? 1 : evaluation.IsOpen(line.Section) ? cells.CountOf(line.Table) : 0;
                for (var row = 0; row < count; row++)
                {
                    var (at, column) = line.Table is null ? (cells.RowOf(line), WorkingsCells.CountsColumn) : (cells.RowOf(line.Table, row), cells.ColumnOf(line));
                    var cell = sheets[cells.SheetOf(line.Form)].GetValueOrDefault((at, column));
                    if (!line.IsNumber)
                    {
                        var expected = line.Kind == LineKind.Date ? evaluation.Value(line, row) is null ? "" : $"{evaluation.Code(line, row) - new DateOnly(1899, 12, 30).DayNumber}" : Expected(evaluation, line, row);
                        if ((cell is double day ? $"{day}" : cell as string ?? "") != expected)
                        {
                            wrong.Add($"{name} {line.Key} row {row}: engine '{expected}', LibreOffice '{cell}'");
                        }

                        continue;
                    }

                    var there = cell is double number ? (decimal)number : cell is null or "" ? 0m : decimal.MinValue;
                    compared++;
                    filled += there != 0 ? 1 : 0;
                    if (Math.Abs(there - evaluation.Amount(line, row)) > 0.005m)
                    {
                        wrong.Add($"{name} {line.Key} row {row}: engine {evaluation.Amount(line, row)}, LibreOffice {cell ?? "blank"}");
                    }
                }
            }
        }

        Assert.True(wrong.Count == 0, $"{wrong.Count} of {compared} differ: {string.Join("; ", wrong.Take(12))}");
        Assert.True(compared > 4_000 && filled > 1_500, $"Only {compared} lines were compared, {filled} of them not zero.");
    }

    /// <summary>A text or code as it is; an answer even where nothing beneath it is filled in, when the engine calls it blank.</summary>
    private static string Expected(Evaluation evaluation, Line line, int row) =>
        line.Kind == LineKind.Answer ? evaluation.IsOpen(line, row) ? evaluation.Code(line, row) != 0 ? "yes" : "no" : "" : evaluation.Value(line, row) ?? "";

    /// <summary>Nothing in the file is a computed value: whoever opens it computes.</summary>
    [Fact]
    public void No_computed_value_is_written()
    {
        var definition = Catalogue.Get("ph/individual-annual", 2025);
        var file = Workings.Draw(definition.Evaluate(RandomEntries.Of(definition, 3), new DateOnly(2026, 6, 18)), new WorkingsFacts("Practice", "=1+1", new DateOnly(2026, 6, 18)));
        using var document = SpreadsheetDocument.Open(new MemoryStream(file), false);
        var cells = document.WorkbookPart!.WorksheetParts.SelectMany(p => p.Worksheet!.Descendants<Cell>()).ToList();
        Assert.Contains(cells, c => c.CellFormula is not null);
        Assert.All(cells.Where(c => c.CellFormula is not null), c => Assert.Null(c.CellValue));
        Assert.DoesNotContain(cells, c => c.CellFormula?.Text.Contains("=1+1", StringComparison.Ordinal) == true);
    }

    private void Recalculate()
    {
        var start = new ProcessStartInfo("soffice") { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in new[] { $"-env:UserInstallation=file://{_folder}/profile", "--headless", "--convert-to", "xlsx", "--outdir", Path.Combine(_folder, "out") })
        {
            start.ArgumentList.Add(argument);
        }

        foreach (var file in Directory.GetFiles(_folder, "*.xlsx"))
        {
            start.ArgumentList.Add(file);
        }

        using var process = Process.Start(start)!;
        var errors = process.StandardError.ReadToEndAsync();
        process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        Assert.True(process.ExitCode == 0, errors.Result);
    }

    /// <summary>Values by sheet and cell: numbers, errors by their name, texts only as far as they are empty or not.</summary>
    private static Dictionary<string, Dictionary<(int Row, int Column), object>> ReadSheets(string path)
    {
        using var document = SpreadsheetDocument.Open(path, false);
        var book = document.WorkbookPart!;
        return book.Workbook!.Descendants<Sheet>().ToDictionary(sheet => sheet.Name!.Value!, sheet =>
            ((WorksheetPart)book.GetPartById(sheet.Id!.Value!)).Worksheet!.Descendants<Cell>().ToDictionary(c => Place(c.CellReference!.Value!), Value));

        static object Value(Cell cell)
        {
            var text = cell.CellValue?.Text ?? "";
            return cell.DataType is null || cell.DataType.Value == CellValues.Number
                ? text.Length == 0 ? "" : double.Parse(text, CultureInfo.InvariantCulture)
                : text;
        }

        static (int Row, int Column) Place(string reference)
        {
            var letters = reference.TakeWhile(char.IsLetter).ToList();
            return (int.Parse(reference.AsSpan(letters.Count), CultureInfo.InvariantCulture), letters.Aggregate(0, (number, letter) => (number * 26) + letter - 'A' + 1) - 1);
        }
    }
}
