using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Sheet = DocumentFormat.OpenXml.Spreadsheet.Sheet;

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
    private const uint Bold = 3;
    private const uint AsText = 2;

    private readonly Evaluation _evaluation;
    private readonly string _client;
    private readonly List<IReadOnlyList<string>> _lists = [];
    private readonly List<(string Name, Worksheet Sheet)> _sheets = [];

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
        Add("About", 1, [20, 90], said.Select(row => (IReadOnlyList<Cell>)[RowWorkbook.Text(row[0], Bold), RowWorkbook.Text(row[1], AsText)]), [], hidden: null);
    }

    private void Lines(Form form)
    {
        var lines = form.Sections.Where(s => s is not RepeatingSection).SelectMany(s => s.Lines).Where(Has).ToList();
        if (lines.Count == 0)
        {
            return;
        }

        string[] headings = ["No.", "Line", EntryHeading, "Unit", "Copied from", KeyHeading];
        Add(
            form.Title,
            1,
            [8, 48, 24, 10, 40, 10],
            lines.Select(line => (IReadOnlyList<Cell>)
            [
                RowWorkbook.Text(line.Number, AsText), RowWorkbook.Text(line.Label, AsText), Entered(line, _evaluation.Value(line)), RowWorkbook.Text(line.Unit ?? "", AsText),
                RowWorkbook.Text(line.CopiedFrom ?? "", AsText), RowWorkbook.Text(line.Key, AsText),
            ]).Prepend([.. headings.Select(h => RowWorkbook.Text(h, Bold))]),
            lines.Select((line, index) => Limit(line, $"C{index + 2}")),
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
        Add(
            table.Title,
            1,
            [.. columns.Select(c => c.Kind is LineKind.Text ? 30 : 17), 10],
            rows.Select((row, index) => (IReadOnlyList<Cell>)[.. columns.Select(c => Entered(c, OfRow(c, index))), RowWorkbook.Text(row.Id, AsText)])
                .Prepend([.. columns.Select(c => RowWorkbook.Text(c.Label, Bold)), RowWorkbook.Text(RowHeading + table.Key, Bold)]),
            columns.Select((line, column) => Limit(line, $"{RowWorkbook.Letters(column)}2:{RowWorkbook.Letters(column)}{rows.Count + SpareRows}")),
            hidden: columns.Count);
    }

    /// <summary>The value in a row; another row it points at by its number in that list.</summary>
    private string? OfRow(Line column, int row) =>
        column.Kind != LineKind.Row ? _evaluation.Value(column, row)
        : _evaluation.Code(column, row) is > 0 and var position ? position.ToString(CultureInfo.InvariantCulture) : null;

    private static Cell Entered(Line line, string? value) =>
        line.Choices?.FirstOrDefault(c => c.Code == value) is { } choice ? RowWorkbook.Text(choice.Label, AsText) : RowWorkbook.Written(line, value);

    /// <summary>What a spreadsheet lets into a cell: a pick list, or a number within the line's limits.</summary>
    private DataValidation? Limit(Line line, string cells)
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

    private void Add(string title, int frozen, IReadOnlyList<int> widths, IEnumerable<IReadOnlyList<Cell>> rows, IEnumerable<DataValidation?> limits, int? hidden)
    {
        var sheet = new Worksheet(
            new SheetViews(new SheetView(new Pane { VerticalSplit = frozen, TopLeftCell = $"A{frozen + 1}", ActivePane = PaneValues.BottomLeft, State = PaneStateValues.Frozen }) { WorkbookViewId = 0 }),
            new Columns(widths.Select((width, index) => new Column { Min = (uint)index + 1, Max = (uint)index + 1, Width = width, CustomWidth = true, Hidden = index == hidden ? true : null })),
            new SheetData(rows.Select((cells, index) => new Row(cells) { RowIndex = (uint)index + 1 })));
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
