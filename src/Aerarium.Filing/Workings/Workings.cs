using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using Parameter = Aerarium.Core.Definitions.Parameter;
using Sheet = DocumentFormat.OpenXml.Spreadsheet.Sheet;

namespace Aerarium.Filing;

/// <summary>What the workings say beside the return itself.</summary>
/// <param name="Practice">Name of the practice.</param>
/// <param name="Client">Name of the client.</param>
/// <param name="Today">Day of evaluation.</param>
public sealed record WorkingsFacts(string Practice, string Client, DateOnly Today);

/// <summary>
/// The whole return as a workbook with live formulas (XLSX, ECMA-376): a sheet for each form, the law as ranges, sources and sections
/// of law beside the lines. Formulas are written without their values, so that whoever opens it computes them; they come to the same
/// cents as the return, for amounts up to about 1,000,000,000.
/// </summary>
public static class Workings
{
    private const uint Plain = 0, Bold = 1, Money = 2, EnteredMoney = 3, EnteredText = 4, Day = 5, EnteredDay = 6, Faint = 7, BoldMoney = 8, Wrapped = 9, EnteredNumber = 10;

    /// <summary>The day from which spreadsheets count days.</summary>
    private static readonly DateOnly FirstDay = new(1899, 12, 30);

    /// <summary>Draws the workbook.</summary>
    public static byte[] Draw(Evaluation evaluation, WorkingsFacts facts)
    {
        var cells = new WorkingsCells(evaluation);
        var forms = evaluation.Definition.Forms.Select(form => (form, Sheet: FormSheet(evaluation, cells, form))).ToList();

        // Helper columns are known only once every formula has been written, and may themselves ask for more.
        var drawn = new HashSet<HelperColumn>();
        while (cells.Helpers.FirstOrDefault(h => !drawn.Contains(h)) is { } helper)
        {
            drawn.Add(helper);
            var sheet = forms.First(f => f.form == helper.Section.Form).Sheet;
            sheet.Put(cells.HeadingOf(helper.Section) + 1, cells.ColumnOf(helper), Text("helper", Faint));
            for (var row = 0; row < cells.CountOf(helper.Section); row++)
            {
                sheet.Put(cells.RowOf(helper.Section, row), cells.ColumnOf(helper), Calculated($"ROUND({helper.Formula(row)},8)", Money));
            }
        }

        using var memory = new MemoryStream();
        using (var file = SpreadsheetDocument.Create(memory, SpreadsheetDocumentType.Workbook))
        {
            var book = file.AddWorkbookPart();
            book.AddNewPart<WorkbookStylesPart>().Stylesheet = Styles();
            var sheets = new Sheets();
            uint number = 1;
            foreach (var (form, sheet) in forms)
            {
                Append(cells.SheetOf(form), sheet);
            }

            Append(LawSheet.Name, LawOf(cells.Law, evaluation.Definition, facts));
            book.Workbook = new Workbook(new BookViews(new WorkbookView()), sheets, new CalculationProperties { FullCalculationOnLoad = true });

            void Append(string name, SheetDraft draft)
            {
                var part = book.AddNewPart<WorksheetPart>();
                part.Worksheet = draft.Worksheet();
                sheets.Append(new Sheet { Id = book.GetIdOfPart(part), SheetId = number++, Name = name });
            }
        }

        return memory.ToArray();
    }

    private static SheetDraft FormSheet(Evaluation evaluation, WorkingsCells cells, Form form)
    {
        var sheet = new SheetDraft([8, 46, 17, 17, 60, 34]);
        sheet.Put(1, 0, Text($"{form.Title}, {evaluation.Definition.Title} {Periods.InWords(evaluation.Definition.Year, evaluation.Definition.Period)}", Bold));
        sheet.Put(2, 0, Text(form.About, Faint));
        foreach (var section in form.Sections)
        {
            var heading = cells.HeadingOf(section);
            sheet.Put(heading, 0, Text(section.Title, Bold));
            if (section.When is not null)
            {
                sheet.Put(heading, WorkingsCells.EnteredColumn, Text("applies", Faint));
                sheet.Put(heading, WorkingsCells.CountsColumn, Calculated(cells.Write(section.When, form), Plain));
            }

            if (section.Law is { } law)
            {
                sheet.Put(heading, 5, Text(law, Faint));
            }

            if (section is RepeatingSection table)
            {
                Rows(evaluation, cells, sheet, table);
                continue;
            }

            foreach (var line in section.Lines)
            {
                var row = cells.RowOf(line);
                sheet.Put(row, 0, Text(line.Number, Faint));
                sheet.Put(row, 1, Text(line.Label, line.Rule == LineRule.None ? Plain : Bold));
                if (!line.IsComputed)
                {
                    sheet.Put(row, WorkingsCells.EnteredColumn, Given(evaluation, line, evaluation.Sheet.GivenFilled[line.Slot], evaluation.Sheet.GivenAmounts[line.Slot], evaluation.Sheet.GivenCodes[line.Slot], evaluation.Sheet.GivenTexts[line.Slot]));
                }

                sheet.Put(row, WorkingsCells.CountsColumn, Calculated(Counts(cells, line, $"C{row}", null, 0), line.IsComputed && line.Rule != LineRule.None ? BoldMoney : StyleOf(line)));
                sheet.Put(row, 4, Text(line.Formula?.Words ?? line.CopiedFrom ?? "", Wrapped));
                sheet.Put(row, 5, Text(line.Law ?? "", Faint));
            }
        }

        return sheet;
    }

    private static void Rows(Evaluation evaluation, WorkingsCells cells, SheetDraft sheet, RepeatingSection table)
    {
        var titles = cells.HeadingOf(table) + 1;
        foreach (var line in table.Lines)
        {
            sheet.Put(titles, cells.ColumnOf(line), Text(line.Label, Bold));
            if (!line.IsComputed)
            {
                sheet.Put(titles, cells.ColumnOf(line) - 1, Text("entered", Faint));
            }
        }

        var rows = evaluation.Sheet.Rows(table);
        for (var row = 0; row < cells.CountOf(table); row++)
        {
            var at = cells.RowOf(table, row);
            sheet.Put(at, 0, new Cell(new CellValue(row + 1)));
            foreach (var line in table.Lines)
            {
                var column = cells.ColumnOf(line);
                var (given, slot) = (rows.BlockOf(row).Given, rows.PlaceOf(row, line.Slot));
                if (!line.IsComputed)
                {
                    sheet.Put(at, column - 1, Given(evaluation, line, given.Filled[slot], given.Amounts[slot], given.Codes[slot], given.Texts[slot]));
                }

                sheet.Put(at, column, Calculated(Counts(cells, line, $"{RowWorkbook.Letters(column - 1)}{at}", table, row), StyleOf(line)));
            }
        }
    }

    /// <summary>What counts of a line: of an entry what was entered, of a computed line its formula; nothing where the line does not apply.</summary>
    private static string Counts(WorkingsCells cells, Line line, string entered, RepeatingSection? table, int row)
    {
        var value = line.Formula is { } formula ? Held(formula, cells.Write(formula, line.Form, table, row)) : $"IF({entered}=\"\",\"\",{entered})";
        return line.OpenWhen is { } when ? $"IF({cells.Write(when, line.Form, table, row)},{value},\"\")" : value;
    }

    /// <summary>What a computed line holds: an amount without what binary fractions add, yes or no, a day unless it is blank, a text.</summary>
    private static string Held(Core.Formulas.Formula formula, string written) => formula switch
    {
        Amount => $"ROUND({written},8)",
        Condition => $"IF({written},\"yes\",\"no\")",
        DateFormula => $"IF({written}=0,\"\",{written})",
        _ => written,
    };

    private static Cell? Given(Evaluation evaluation, Line line, bool filled, decimal amount, int code, string? text) => !filled ? null : line.Kind switch
    {
        LineKind.Money => new Cell(new CellValue(amount)) { StyleIndex = EnteredMoney },
        LineKind.Count or LineKind.Number => new Cell(new CellValue(amount)) { StyleIndex = EnteredNumber },
        LineKind.Date => new Cell(new CellValue(code - FirstDay.DayNumber)) { StyleIndex = EnteredDay },
        LineKind.Answer => Text(code != 0 ? "yes" : "no", EnteredText),
        LineKind.Row => new Cell(new CellValue(code)) { StyleIndex = EnteredText },
        _ => Text(text ?? "", EnteredText),
    };

    private static SheetDraft LawOf(LawSheet law, Definition definition, WorkingsFacts facts)
    {
        var sheet = new SheetDraft([54, 20, 16, 16, 50]);
        sheet.Put(1, 0, Text($"{definition.Title} {Periods.InWords(definition.Year, definition.Period)}: {facts.Client}, prepared by {facts.Practice}", Bold));
        sheet.Put(2, 0, Text("The law this return rests on. What is entered stands on a coloured ground; everything else is computed from it.", Faint));
        sheet.Put(3, 0, Text("Day of evaluation", Plain));
        sheet.Put(3, 1, new Cell(new CellValue(facts.Today.DayNumber - FirstDay.DayNumber)) { StyleIndex = EnteredDay });
        foreach (var (column, title) in new[] { "Figure of the law", "Value", "", "", "Source, and how sure it is" }.Index())
        {
            sheet.Put(5, column, Text(title, Bold));
        }

        foreach (var (item, row) in law.Contents)
        {
            switch (item)
            {
                case Parameter parameter:
                    sheet.Put(row, 0, Text(parameter.Label, Plain));
                    sheet.Put(row, 1, Number(parameter.Value));
                    sheet.Put(row, 4, Text(SourceOf(parameter.Source, parameter.Confidence, parameter.Note), Faint));
                    break;
                case RateSchedule schedule:
                    Head(row, schedule.Label, SourceOf(schedule.Source, schedule.Confidence, null), "over", "rate", "rise of rate");
                    foreach (var (index, band) in schedule.Bands.Index())
                    {
                        sheet.Put(row + 1 + index, 1, Number(band.From));
                        sheet.Put(row + 1 + index, 2, Number(band.Rate));
                        sheet.Put(row + 1 + index, 3, Number(band.Rate - (index == 0 ? 0 : schedule.Bands[index - 1].Rate)));
                    }

                    break;
                case ZoneTariff tariff:
                    Head(row, $"{tariff.Label}. {SourceOf(tariff.Source, tariff.Confidence, null)}", "linear", "up to", "start", "unit");
                    foreach (var (column, title) in new[] { "quadratic", "linear", "constant" }.Index())
                    {
                        sheet.Put(row, 4 + column, Text(title, Faint));
                    }

                    foreach (var (index, zone) in tariff.Zones.Index())
                    {
                        sheet.Put(row + 1 + index, 1, zone.UpTo is { } edge ? Number(edge) : Text("above", Faint));
                        foreach (var (column, value) in new[] { zone.Start, zone.Unit, zone.Quadratic, zone.Linear, zone.Constant }.Index())
                        {
                            sheet.Put(row + 1 + index, 2 + column, Number(value));
                        }
                    }

                    break;
                case StepTable table:
                    Head(row, table.Label, SourceOf(table.Source, table.Confidence, null), "up to", "amount", "");
                    foreach (var (index, step) in table.Steps.Index())
                    {
                        sheet.Put(row + 1 + index, 1, step.UpTo is { } edge ? Number(edge) : Text("above", Faint));
                        sheet.Put(row + 1 + index, 2, Number(step.Amount));
                    }

                    break;
                case IReadOnlyDictionary<string, Parameter> byCode:
                    Head(row, "Rates by code", "", "rate", "", "");
                    foreach (var (index, (code, parameter)) in byCode.Index())
                    {
                        sheet.Put(row + 1 + index, 0, Text(code, Plain));
                        sheet.Put(row + 1 + index, 1, Number(parameter.Value));
                        sheet.Put(row + 1 + index, 4, Text(SourceOf(parameter.Source, parameter.Confidence, parameter.Note), Faint));
                    }

                    break;
                default:
                    throw new NotSupportedException($"{item.GetType().Name} has no place on the sheet with the law.");
            }
        }

        return sheet;

        void Head(int row, string label, string source, string second, string third, string fourth)
        {
            foreach (var (column, text) in new[] { label, second, third, fourth, source }.Index())
            {
                sheet.Put(row, column, Text(text, column == 0 ? Bold : Faint));
            }
        }
    }

    private static string SourceOf(string source, Confidence confidence, string? note) =>
        $"{source} ({confidence.ToString().ToLowerInvariant()}){(note is null ? "" : $". {note}")}";

    private static uint StyleOf(Line line) => line.Kind switch { LineKind.Money => Money, LineKind.Date => Day, _ => Plain };

    private static Cell Number(decimal value) => new(new CellValue(value));

    private static Cell Calculated(string formula, uint style) => new(new CellFormula(formula)) { StyleIndex = style };

    private static Cell Text(string text, uint style) =>
        new(new InlineString(new Text(text) { Space = SpaceProcessingModeValues.Preserve })) { DataType = CellValues.InlineString, StyleIndex = style };

    private static Stylesheet Styles() => new(
        new NumberingFormats(new NumberingFormat { NumberFormatId = 164, FormatCode = "yyyy-mm-dd" }),
        new Fonts(new Font(), new Font(new Bold()), new Font(new Color { Rgb = "FF525A5D" })),
        new Fills(
            new Fill(new PatternFill { PatternType = PatternValues.None }),
            new Fill(new PatternFill { PatternType = PatternValues.Gray125 }),
            new Fill(new PatternFill(new ForegroundColor { Rgb = "FFE6EFED" }) { PatternType = PatternValues.Solid })),
        new Borders(new Border(), new Border(new TopBorder { Style = BorderStyleValues.Thin })),
        new CellFormats(
            new CellFormat(),
            new CellFormat { FontId = 1, ApplyFont = true },
            new CellFormat { NumberFormatId = 4, ApplyNumberFormat = true },
            new CellFormat { NumberFormatId = 4, ApplyNumberFormat = true, FillId = 2, ApplyFill = true },
            new CellFormat { NumberFormatId = 49, ApplyNumberFormat = true, FillId = 2, ApplyFill = true },
            new CellFormat { NumberFormatId = 164, ApplyNumberFormat = true },
            new CellFormat { NumberFormatId = 164, ApplyNumberFormat = true, FillId = 2, ApplyFill = true },
            new CellFormat { FontId = 2, ApplyFont = true },
            new CellFormat { NumberFormatId = 4, ApplyNumberFormat = true, FontId = 1, ApplyFont = true, BorderId = 1, ApplyBorder = true },
            new CellFormat { FontId = 2, ApplyFont = true, Alignment = new Alignment { WrapText = true, Vertical = VerticalAlignmentValues.Top }, ApplyAlignment = true },
            new CellFormat { FillId = 2, ApplyFill = true }));

    /// <summary>A sheet while cells are put on it in any order.</summary>
    private sealed class SheetDraft(double[] widths)
    {
        private readonly SortedDictionary<int, SortedDictionary<int, Cell>> _rows = [];

        public void Put(int row, int column, Cell? cell)
        {
            if (cell is null)
            {
                return;
            }

            if (!_rows.TryGetValue(row, out var cells))
            {
                _rows[row] = cells = [];
            }

            cell.CellReference = string.Create(CultureInfo.InvariantCulture, $"{RowWorkbook.Letters(column)}{row}");
            cells[column] = cell;
        }

        public Worksheet Worksheet() => new(
            new SheetProperties(new PageSetupProperties { FitToPage = true }),
            new SheetViews(new SheetView(new Pane { VerticalSplit = 2, TopLeftCell = "A3", ActivePane = PaneValues.BottomLeft, State = PaneStateValues.Frozen }) { WorkbookViewId = 0 }),
            new Columns(widths.Select((width, index) => new Column { Min = (uint)index + 1, Max = (uint)index + 1, Width = width, CustomWidth = true })),
            new SheetData(_rows.Select(r => new Row(r.Value.Values) { RowIndex = (uint)r.Key })),
            new PageSetup { Orientation = OrientationValues.Landscape, FitToWidth = 1, FitToHeight = 0 });
    }
}
