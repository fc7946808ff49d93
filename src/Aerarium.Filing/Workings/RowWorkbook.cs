using System.Globalization;
using Aerarium.Core.Definitions;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Aerarium.Filing;

/// <summary>
/// Rows of a repeating section as an XLSX workbook (ECMA-376): headings, one row each, and the codes of choices as pick lists from a
/// second sheet. Texts are written as texts and never as formulas, so that nothing in a cell is ever carried out.
/// </summary>
public static class RowWorkbook
{
    /// <summary>Media type of the workbook.</summary>
    public const string MediaType = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    private const int PickListRows = 5_000;

    /// <summary>Draws the workbook.</summary>
    /// <param name="title">Name of the sheet.</param>
    /// <param name="columns">The columns, in order.</param>
    /// <param name="rows">Canonical values of each row, in the order of the columns.</param>
    public static byte[] Draw(string title, IReadOnlyList<Line> columns, IEnumerable<IEnumerable<string?>> rows)
    {
        using var memory = new MemoryStream();
        using (var file = SpreadsheetDocument.Create(memory, SpreadsheetDocumentType.Workbook))
        {
            var book = file.AddWorkbookPart();
            book.AddNewPart<WorkbookStylesPart>().Stylesheet = Styles();
            var main = book.AddNewPart<WorksheetPart>();
            var codes = book.AddNewPart<WorksheetPart>();
            var picked = columns.Where(c => c.Choices is not null || c.Kind == LineKind.Answer).ToList();
            codes.Worksheet = new Worksheet(CodeRows(picked));
            main.Worksheet = new Worksheet(
                new SheetViews(new SheetView(new Pane { VerticalSplit = 1, TopLeftCell = "A2", ActivePane = PaneValues.BottomLeft, State = PaneStateValues.Frozen }) { WorkbookViewId = 0 }),
                new Columns(columns.Select((c, index) => new Column { Min = (uint)index + 1, Max = (uint)index + 1, Width = c.Kind is LineKind.Text ? 30 : 17, CustomWidth = true, Style = StyleOf(c) })),
                Data(columns, rows));
            if (picked.Count > 0)
            {
                main.Worksheet.Append(PickLists(columns, picked));
            }

            book.Workbook = new Workbook(
                new BookViews(new WorkbookView()),
                new Sheets(
                    new Sheet { Id = book.GetIdOfPart(main), SheetId = 1, Name = SheetName(title) },
                    new Sheet { Id = book.GetIdOfPart(codes), SheetId = 2, Name = "Codes" }));
        }

        return memory.ToArray();
    }

    /// <summary>The letters of a column, from zero.</summary>
    internal static string Letters(int column)
    {
        var letters = "";
        for (var rest = column + 1; rest > 0; rest = (rest - 1) / 26)
        {
            letters = (char)('A' + ((rest - 1) % 26)) + letters;
        }

        return letters;
    }

    /// <summary>A name a workbook takes for a sheet: at most 31 characters, none of them a mark with a meaning.</summary>
    internal static string SheetName(string title)
    {
        var name = string.Concat(title.Select(c => c is ':' or '/' or '?' or '*' or '[' or ']' or '\\' ? ' ' : c));
        return name.Length <= 31 ? name : name[..31].TrimEnd();
    }

    private static SheetData Data(IReadOnlyList<Line> columns, IEnumerable<IEnumerable<string?>> rows) => new(
    [
        new Row(columns.Select(c => Text(c.Label, 3))) { RowIndex = 1 },
        .. rows.Select((row, index) => new Row(row.Select((value, column) => Written(columns[column], value)).OfType<Cell>()) { RowIndex = (uint)index + 2 }),
    ]);

    internal static Cell Written(Line line, string? value) =>
        value is null ? new Cell { StyleIndex = StyleOf(line) }
        : line.IsNumber ? new Cell(new CellValue(decimal.Parse(value, CultureInfo.InvariantCulture))) { StyleIndex = StyleOf(line) }
        : Text(value, StyleOf(line));

    internal static Cell Text(string text, uint style) => new(new InlineString(new Text(text) { Space = SpaceProcessingModeValues.Preserve })) { DataType = CellValues.InlineString, StyleIndex = style };

    private static uint StyleOf(Line line) => line.Kind switch
    {
        LineKind.Money => 1,
        LineKind.Text or LineKind.Identifier or LineKind.Choice or LineKind.Date => 2,
        _ => 0,
    };

    private static SheetData CodeRows(List<Line> picked)
    {
        var lists = picked.Select(OffersOf).ToList();
        return new SheetData(Enumerable.Range(0, lists.Count == 0 ? 0 : lists.Max(l => l.Count)).Select(row =>
            new Row(lists.Select((list, column) => row < list.Count ? At(Text(list[row], 2), $"{Letters(column)}{row + 1}") : null).OfType<Cell>()) { RowIndex = (uint)row + 1 }));
    }

    internal static Cell At(Cell cell, string reference)
    {
        cell.CellReference = reference;
        return cell;
    }

    internal static IReadOnlyList<string> OffersOf(Line line) => line.Choices is { } choices ? [.. choices.Select(c => c.Label)] : ["yes", "no"];

    private static DataValidations PickLists(IReadOnlyList<Line> columns, List<Line> picked) => new(columns
        .Select((line, column) => (line, column, list: picked.IndexOf(line)))
        .Where(c => c.list >= 0)
        .Select(c => new DataValidation
        {
            Type = DataValidationValues.List,
            AllowBlank = true,
            ShowErrorMessage = false,
            SequenceOfReferences = new ListValue<StringValue> { InnerText = $"{Letters(c.column)}2:{Letters(c.column)}{PickListRows}" },
            Formula1 = new Formula1($"Codes!${Letters(c.list)}$1:${Letters(c.list)}${OffersOf(c.line).Count}"),
        }));

    internal static Stylesheet Styles() => new(
        new Fonts(new Font(), new Font(new Bold())),
        new Fills(new Fill(new PatternFill { PatternType = PatternValues.None }), new Fill(new PatternFill { PatternType = PatternValues.Gray125 })),
        new Borders(new Border()),
        new CellFormats(
            new CellFormat(),
            new CellFormat { NumberFormatId = 4, ApplyNumberFormat = true },
            new CellFormat { NumberFormatId = 49, ApplyNumberFormat = true },
            new CellFormat { FontId = 1, ApplyFont = true }));
}
