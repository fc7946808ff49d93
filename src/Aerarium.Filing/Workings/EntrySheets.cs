using System.Globalization;
using Aerarium.Core.Definitions;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Sheet = DocumentFormat.OpenXml.Spreadsheet.Sheet;

namespace Aerarium.Filing;

/// <summary>The sheets of a workbook in which entries are filled elsewhere: cells with what is entered, pick lists and limits, and the codes the lists are drawn from.</summary>
internal sealed class EntrySheets
{
    /// <summary>Style of a heading.</summary>
    public const uint AsHeading = 3;

    /// <summary>Style of a text.</summary>
    public const uint AsText = 2;

    private readonly List<IReadOnlyList<string>> _lists = [];
    private readonly List<(string Name, Worksheet Sheet)> _sheets = [];

    /// <summary>The workbook.</summary>
    public byte[] Save()
    {
        using var memory = new MemoryStream();
        using (var file = SpreadsheetDocument.Create(memory, SpreadsheetDocumentType.Workbook))
        {
            var book = file.AddWorkbookPart();
            book.AddNewPart<WorkbookStylesPart>().Stylesheet = RowWorkbook.Styles();
            var codes = new Worksheet(new SheetData(Enumerable.Range(0, _lists.Select(l => l.Count).DefaultIfEmpty(0).Max()).Select(row => new Row(
                _lists.Select((list, column) => row < list.Count ? RowWorkbook.At(RowWorkbook.Text(list[row], AsText), $"{RowWorkbook.Letters(column)}{row + 1}") : null).OfType<Cell>())
            {
                RowIndex = (uint)row + 1,
            })));
            var sheets = new Sheets();
            foreach (var ((name, sheet), index) in _sheets.Append(("Codes", codes)).Select((s, index) => (s, index)))
            {
                var part = book.AddNewPart<WorksheetPart>();
                part.Worksheet = sheet;
                sheets.Append(new Sheet { Id = book.GetIdOfPart(part), SheetId = (uint)index + 1, Name = name });
            }

            book.Workbook = new Workbook(new BookViews(new WorkbookView { ActiveTab = 1 }), sheets);
        }

        return memory.ToArray();
    }

    /// <summary>A cell with what is entered on a line; a choice by its label.</summary>
    public static Cell Entered(Line line, string? value) =>
        line.Choices?.FirstOrDefault(c => c.Code == value) is { } choice ? RowWorkbook.Text(choice.Label, AsText) : RowWorkbook.Written(line, value);

    /// <summary>What a spreadsheet lets into a cell: a pick list, or a number within the line's limits.</summary>
    public DataValidation? Limit(Line line, string cells)
    {
        var where = new ListValue<StringValue> { InnerText = cells };
        if (line.Choices is not null || line.Kind == LineKind.Answer)
        {
            var offers = RowWorkbook.OffersOf(line);
            var list = _lists.FindIndex(l => l.SequenceEqual(offers));
            if (list < 0)
            {
                list = _lists.Count;
                _lists.Add(offers);
            }

            return new DataValidation
            {
                Type = DataValidationValues.List,
                AllowBlank = true,
                ShowErrorMessage = false,
                SequenceOfReferences = where,
                Formula1 = new Formula1($"Codes!${RowWorkbook.Letters(list)}$1:${RowWorkbook.Letters(list)}${offers.Count}"),
            };
        }

        if (!line.IsNumber || (line.Least is null && line.MayBeNegative))
        {
            return null;
        }

        var (least, most) = (line.Least ?? 0, line.Most);
        return new DataValidation
        {
            Type = line.Kind == LineKind.Count ? DataValidationValues.Whole : DataValidationValues.Decimal,
            Operator = most is null ? DataValidationOperatorValues.GreaterThanOrEqual : DataValidationOperatorValues.Between,
            AllowBlank = true,
            ShowErrorMessage = true,
            ErrorTitle = "Not a value of this line",
            Error = most is null ? $"Enter a number of {line.Write(least)} or more." : $"Enter a number between {line.Write(least)} and {line.Write(most.Value)}.",
            SequenceOfReferences = where,
            Formula1 = new Formula1(least.ToString(CultureInfo.InvariantCulture)),
            Formula2 = most is null ? null : new Formula2(most.Value.ToString(CultureInfo.InvariantCulture)),
        };
    }

    /// <summary>Adds a sheet.</summary>
    /// <param name="title">Its name, cut and numbered where it must be.</param>
    /// <param name="frozen">Rows that stay in sight.</param>
    /// <param name="widths">Widths of the columns.</param>
    /// <param name="rows">Cells, row by row.</param>
    /// <param name="limits">What cells take.</param>
    /// <param name="hidden">Column that is not shown, or null.</param>
    /// <param name="hiddenRow">Whether the first row is not shown.</param>
    public void Add(string title, int frozen, IReadOnlyList<int> widths, IEnumerable<IReadOnlyList<Cell>> rows, IEnumerable<DataValidation?> limits, int? hidden, bool hiddenRow = false)
    {
        var sheet = new Worksheet(
            new SheetViews(new SheetView(new Pane { VerticalSplit = frozen, TopLeftCell = $"A{frozen + 1}", ActivePane = PaneValues.BottomLeft, State = PaneStateValues.Frozen }) { WorkbookViewId = 0 }),
            new Columns(widths.Select((width, index) => new Column { Min = (uint)index + 1, Max = (uint)index + 1, Width = width, CustomWidth = true, Hidden = index == hidden ? true : null })),
            new SheetData(rows.Select((cells, index) => new Row(cells) { RowIndex = (uint)index + 1, Hidden = hiddenRow && index == 0 ? true : null })));
        var found = limits.OfType<DataValidation>().ToList();
        if (found.Count > 0)
        {
            sheet.Append(new DataValidations(found));
        }

        _sheets.Add((Unique(RowWorkbook.SheetName(title)), sheet));
    }

    private string Unique(string name)
    {
        var found = name;
        for (var number = 2; _sheets.Any(s => s.Name.Equals(found, StringComparison.OrdinalIgnoreCase)); number++)
        {
            var end = $" ({number})";
            found = (name.Length + end.Length > 31 ? name[..(31 - end.Length)] : name) + end;
        }

        return found;
    }
}
