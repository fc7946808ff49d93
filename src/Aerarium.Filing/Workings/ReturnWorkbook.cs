using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using DocumentFormat.OpenXml.Spreadsheet;
using static Aerarium.Filing.EntrySheets;

namespace Aerarium.Filing;

/// <summary>
/// All entries of a return as an XLSX workbook (ECMA-376) to be filled elsewhere and brought back: a sheet for each form with its lines, a sheet for
/// each repeating section with its rows, pick lists and limits in the cells. Lines and rows are known again by keys in a hidden column, so that
/// headings, order and labels may be changed. Texts are written as texts and never as formulas.
/// </summary>
public sealed class ReturnWorkbook
{
    /// <summary>Heading of the hidden column that holds the keys of lines.</summary>
    public const string KeyHeading = "Key";

    /// <summary>Heading of the column that is filled in.</summary>
    public const string EntryHeading = "Entry";

    /// <summary>What stands before the key of a repeating section in the heading of the hidden column of its rows.</summary>
    public const string RowHeading = "Row of ";

    private const int SpareRows = 500;
    private readonly Evaluation _evaluation;
    private readonly string _client;
    private readonly EntrySheets _sheets = new();

    private ReturnWorkbook(Evaluation evaluation, string client)
    {
        _evaluation = evaluation;
        _client = client;
    }

    /// <summary>Draws the workbook.</summary>
    /// <param name="evaluation">The return.</param>
    /// <param name="client">Name of the client.</param>
    public static byte[] Draw(Evaluation evaluation, string client) => new ReturnWorkbook(evaluation, client).Draw();

    /// <summary>The lines a workbook has: what people enter, apart from what is counted from attached documents.</summary>
    public static bool Has(Line line) => !line.IsComputed && !line.CountsAttachments;

    private byte[] Draw()
    {
        About();
        foreach (var form in _evaluation.Definition.Forms)
        {
            Lines(form);
            foreach (var table in form.Sections.OfType<RepeatingSection>())
            {
                Rows(table);
            }
        }

        return _sheets.Save();
    }

    private void About()
    {
        var definition = _evaluation.Definition;
        string[][] said =
        [
            ["Client", _client],
            ["Return", $"{definition.Title} {Periods.InWords(definition.Year, definition.Period)}"],
            ["How", "Fill in the column Entry of each form, and a row for each item of a list. Leave blank what does not change; a blank cell changes nothing."],
            ["Bring it back", "Open the return, Review, Entries as a workbook. It is tried first and reported by sheet, row and column."],
        ];
        _sheets.Add("About", 1, [20, 90], said.Select(row => (IReadOnlyList<Cell>)[RowWorkbook.Text(row[0], AsHeading), RowWorkbook.Text(row[1], AsText)]), [], hidden: null);
    }

    private void Lines(Form form)
    {
        var lines = form.Sections.Where(s => s is not RepeatingSection).SelectMany(s => s.Lines).Where(Has).ToList();
        if (lines.Count == 0)
        {
            return;
        }

        string[] headings = ["No.", "Line", EntryHeading, "Unit", "Copied from", KeyHeading];
        _sheets.Add(
            form.Title,
            1,
            [8, 48, 24, 10, 40, 10],
            lines.Select(line => (IReadOnlyList<Cell>)
            [
                RowWorkbook.Text(line.Number, AsText), RowWorkbook.Text(line.Label, AsText), Entered(line, _evaluation.Value(line)), RowWorkbook.Text(line.Unit ?? "", AsText),
                RowWorkbook.Text(line.CopiedFrom ?? "", AsText), RowWorkbook.Text(line.Key, AsText),
            ]).Prepend([.. headings.Select(h => RowWorkbook.Text(h, AsHeading))]),
            lines.Select((line, index) => _sheets.Limit(line, $"C{index + 2}")),
            hidden: 5);
    }

    private void Rows(RepeatingSection table)
    {
        var columns = table.Lines.Where(Has).ToList();
        if (columns.Count == 0)
        {
            return;
        }

        var rows = _evaluation.RowsOf(table);
        _sheets.Add(
            table.Title,
            1,
            [.. columns.Select(c => c.Kind is LineKind.Text ? 30 : 17), 10],
            rows.Select((row, index) => (IReadOnlyList<Cell>)[.. columns.Select(c => Entered(c, OfRow(_evaluation, c, index))), RowWorkbook.Text(row.Id, AsText)])
                .Prepend([.. columns.Select(c => RowWorkbook.Text(c.Label, AsHeading)), RowWorkbook.Text(RowHeading + table.Key, AsHeading)]),
            columns.Select((line, column) => _sheets.Limit(line, $"{RowWorkbook.Letters(column)}2:{RowWorkbook.Letters(column)}{rows.Count + SpareRows}")),
            hidden: columns.Count);
    }

    /// <summary>The value in a row; another row it points at by its number in that list.</summary>
    internal static string? OfRow(Evaluation evaluation, Line column, int row) =>
        column.Kind != LineKind.Row ? evaluation.Value(column, row)
        : evaluation.Code(column, row) is > 0 and var position ? position.ToString(CultureInfo.InvariantCulture) : null;
}
