using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Aerarium.Filing;

/// <summary>A column of a table: its heading, and whether it holds amounts, which are summed beneath.</summary>
public sealed record TableColumn(string Heading, bool Amounts = false);

/// <summary>
/// A table as an XLSX workbook (ECMA-376): headings that stay in sight, one row each, amounts as numbers and summed by a formula of the sheet. Texts are written as texts and
/// never as formulas.
/// </summary>
public static class TableWorkbook
{
    private const uint Heading = 3;
    private const uint Money = 1;
    private const uint Words = 2;

    /// <summary>Draws the workbook.</summary>
    /// <param name="title">Name of the sheet.</param>
    /// <param name="columns">The columns, in order.</param>
    /// <param name="rows">A cell for each column: an amount in columns of amounts, otherwise what is written as text.</param>
    public static byte[] Draw(string title, IReadOnlyList<TableColumn> columns, IReadOnlyList<IReadOnlyList<object>> rows)
    {
        using var memory = new MemoryStream();
        using (var file = SpreadsheetDocument.Create(memory, SpreadsheetDocumentType.Workbook))
        {
            var book = file.AddWorkbookPart();
            book.AddNewPart<WorkbookStylesPart>().Stylesheet = RowWorkbook.Styles();
            var sheet = book.AddNewPart<WorksheetPart>();
            sheet.Worksheet = new Worksheet(
                new SheetViews(new SheetView(new Pane { VerticalSplit = 1, TopLeftCell = "A2", ActivePane = PaneValues.BottomLeft, State = PaneStateValues.Frozen }) { WorkbookViewId = 0 }),
                new Columns(columns.Select((c, index) => new Column { Min = (uint)index + 1, Max = (uint)index + 1, Width = c.Amounts ? 17 : 28, CustomWidth = true })),
                new SheetData([
                    new Row(columns.Select(c => RowWorkbook.Text(c.Heading, Heading))),
                    .. rows.Select(row => new Row(row.Select(Written))),
                    new Row(columns.Select((c, index) => Beneath(c, index, rows.Count))),
                ]));
            book.Workbook = new Workbook(
                new BookViews(new WorkbookView()),
                new Sheets(new Sheet { Id = book.GetIdOfPart(sheet), SheetId = 1, Name = RowWorkbook.SheetName(title) }),
                new CalculationProperties { FullCalculationOnLoad = true });
        }

        return memory.ToArray();
    }

    private static Cell Written(object value) => value is decimal amount ? new Cell(new CellValue(amount)) { StyleIndex = Money } : RowWorkbook.Text($"{value}", Words);

    private static Cell Beneath(TableColumn column, int index, int rows)
    {
        var letters = RowWorkbook.Letters(index);
        return column.Amounts ? new Cell(new CellFormula($"SUM({letters}2:{letters}{rows + 1})")) { StyleIndex = Money } : RowWorkbook.Text(index == 0 ? "Together" : "", Heading);
    }
}
