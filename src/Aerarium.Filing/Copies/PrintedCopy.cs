using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace Aerarium.Filing;

/// <summary>What the printed copy says beside the figures.</summary>
/// <param name="Practice">Name of the practice.</param>
/// <param name="Client">Name of the client.</param>
/// <param name="Kind">Original or amended.</param>
/// <param name="ApprovedBy">Who approved it and when; null prints a draft mark on every page.</param>
/// <param name="Printed">The day printed.</param>
/// <param name="Acknowledgement">The number under which the authority accepted the return; null before it did.</param>
public sealed record PrintedCopyFacts(string Practice, string Client, string Kind, string? ApprovedBy, DateOnly Printed, string? Acknowledgement = null);

/// <summary>The printed copy of a return (PDF, A4): ledger pages of every section that applies, drawn from the same evaluation as the screen.</summary>
public sealed class PrintedCopy
{
    private const double Left = 48;
    private const double Right = 547;
    private const double Top = 92;
    private const double Bottom = 782;
    private const double Row = 16;

    /// <summary>Width of the column of amounts at the right, where another stands beside it.</summary>
    private const double Second = 110;

    private static readonly XColor Ink = XColor.FromArgb(0x22, 0x28, 0x2B);
    private static readonly XColor Secondary = XColor.FromArgb(0x52, 0x5A, 0x5D);
    private static readonly XColor Hairline = XColor.FromArgb(0xDD, 0xD8, 0xCC);
    private static readonly XColor Bronze = XColor.FromArgb(0x8A, 0x64, 0x28);

    private readonly Evaluation _evaluation;
    private readonly PrintedCopyFacts _facts;
    private readonly PdfDocument _document = new();
    private readonly XFont _title = PlexFonts.Of(15, true);
    private readonly XFont _heading = PlexFonts.Of(10.5, true);
    private readonly XFont _text = PlexFonts.Of(9, false);
    private readonly XFont _strong = PlexFonts.Of(9, true);
    private readonly XFont _small = PlexFonts.Of(7.5, false);
    private XGraphics? _page;
    private double _y;

    private readonly Form? _only;

    private PrintedCopy(Evaluation evaluation, PrintedCopyFacts facts, Form? only)
    {
        _evaluation = evaluation;
        _facts = facts;
        _only = only;
    }

    /// <summary>Draws the copy.</summary>
    public static byte[] Draw(Evaluation evaluation, PrintedCopyFacts facts)
    {
        PlexFonts.Use();
        return new PrintedCopy(evaluation, facts, null).Draw();
    }

    /// <summary>Draws one form by itself, with its parallel column beside it: statements with last year's.</summary>
    public static byte[] DrawForm(Evaluation evaluation, PrintedCopyFacts facts, Form form)
    {
        PlexFonts.Use();
        return new PrintedCopy(evaluation, facts, form).Draw();
    }

    private byte[] Draw()
    {
        var definition = _evaluation.Definition;
        _document.Info.Title = $"{definition.Title} {definition.Year}, {_facts.Client}";
        _document.Info.Creator = "Aerarium";
        _document.Info.CreationDate = _facts.Printed.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc);
        // Content streams are left uncompressed: the library ends its compressed ones in a way that qpdf warns about.
        _document.Options.CompressContentStreams = false;
        NewPage();
        if (_only is null)
        {
            Outcome();
        }

        foreach (var form in definition.Forms.Where(f => (_only is null || f == _only) && f.Sections.Any(Prints)))
        {
            Room(Row * 5);
            _y += 10;
            Write(form.Number == 0 ? form.Title : $"{form.Number}  {form.Title}", _title, Ink, Left, _y);
            _y += 20;
            var beside = _only is null ? null : definition.Forms.FirstOrDefault(f => f.Beside?.First == form);
            foreach (var (index, section) in form.Sections.Index().Where(s => Prints(s.Item) || (beside is not null && Prints(beside.Sections[s.Index]))))
            {
                Print(section, beside?.Sections[index]);
            }
        }

        _page?.Dispose();
        Number();
        using var stream = new MemoryStream();
        _document.Save(stream);
        return stream.ToArray();
    }

    private bool Prints(Section section) =>
        _evaluation.IsOpen(section) && section is not RepeatingSection { OfPage: not null }
        && (section is RepeatingSection table ? _evaluation.RowsOf(table).Count > 0 : section.Lines.Any(l => _evaluation.Value(l) is not null));

    private void Outcome()
    {
        foreach (var (figure, amount) in _evaluation.Outcome)
        {
            var final = figure.Line == _evaluation.Definition.Balance;
            var label = final ? (amount < 0 ? _evaluation.Definition.BalanceWords.Overpaid : _evaluation.Definition.BalanceWords.ToPay) : figure.Label;
            Room(Row);
            Write(label, final ? _strong : _text, Ink, Left, _y);
            Amount(figure.Line.Kind != LineKind.Money ? _evaluation.Definition.Numbers.Write(amount) : Money(final ? Math.Abs(amount) : amount), final, final ? LineRule.Final : LineRule.None);
        }

        _y += 8;
    }

    private void Print(Section section, Section? beside)
    {
        Room(Row * 3);
        Write(section.Title, _heading, Ink, Left, _y);
        if (beside?.Form.Beside is { } columns)
        {
            Write(columns.FirstColumn, _small, Secondary, Right - Measure(columns.FirstColumn, _small), _y);
            Write(columns.Column, _small, Secondary, Right - Second - Measure(columns.Column, _small), _y);
        }
        else if (section.Law is not null)
        {
            Write(section.Law, _small, Secondary, Right - Measure(section.Law, _small), _y);
        }

        _y += 5;
        _page!.DrawLine(new XPen(Ink, 0.8), Left, _y, Right, _y);
        _y += 12;
        if (section is RepeatingSection { IsGrid: true } grid)
        {
            Grid(grid, [.. Enumerable.Range(0, _evaluation.RowsOf(grid).Count)]);
        }
        else if (section is RepeatingSection table)
        {
            for (var row = 0; row < _evaluation.RowsOf(table).Count; row++)
            {
                RowHead(table, row, row + 1);
                if (table.IsPages)
                {
                    PageOf(table, row);
                }
                else
                {
                    Lines(section.LinesAsRead, row);
                }
            }
        }
        else if (beside is null)
        {
            Lines(section.LinesAsRead, 0);
        }
        else
        {
            Columns(section.LinesAsRead.Zip(beside.LinesAsRead));
        }

        _y += 6;
    }

    /// <summary>Lines with those of the parallel column beside them; what is blank in both is left out.</summary>
    private void Columns(IEnumerable<(Line First, Line Second)> lines)
    {
        foreach (var (line, other) in lines)
        {
            var (value, otherValue) = (_evaluation.Value(line), _evaluation.Value(other));
            if (value is null && otherValue is null)
            {
                continue;
            }

            Room(Row);
            Write(Fit(line.Label, _text, 290), line.Rule == LineRule.None ? _text : _strong, Ink, Left, _y);
            if (otherValue is not null)
            {
                var shown = Fit(Shown(other, 0, otherValue), _text, Second - 10);
                Write(shown, _text, Secondary, Right - Second - Measure(shown, _text), _y);
            }

            Amount(value is null ? "" : Shown(line, 0, value), line.Rule != LineRule.None, line.Rule);
        }
    }

    /// <summary>A page that repeats: its parts under their headings, and the rows within it.</summary>
    private void PageOf(RepeatingSection pages, int page)
    {
        foreach (var part in pages.Parts)
        {
            var within = part.Rows is { OfPage: { Line: var of } } rows
                ? Enumerable.Range(0, _evaluation.RowsOf(rows).Count).Where(row => _evaluation.Code(of, row) == page + 1).ToList()
                : [];
            if (within.Count == 0 && part.Lines.All(l => _evaluation.Value(l, page) is null))
            {
                continue;
            }

            Room(Row * 2);
            Write(part.Title, _strong, Secondary, Left, _y);
            _y += Row;
            Lines(part.Lines, page);
            if (within.Count > 0 && part.Rows!.IsGrid)
            {
                Grid(part.Rows, within);
                within = [];
            }

            foreach (var (number, row) in within.Index())
            {
                RowHead(part.Rows!, row, number + 1);
                Lines(part.Rows!.LinesAsRead.Where(l => l != part.Rows.OfPage!.Line), row);
            }

            _y += 4;
        }
    }

    private void RowHead(RepeatingSection table, int row, int number)
    {
        Room(Row * 2);
        Write($"{char.ToUpperInvariant(table.RowLabel[0])}{table.RowLabel[1..]} {number}: {_evaluation.OwnName(table, row)}", _strong, Ink, Left, _y);
        _y += Row;
    }

    /// <summary>Many rows: one line each, under column heads that are drawn again on every page; amounts are never shortened.</summary>
    private void Grid(RepeatingSection section, IReadOnlyList<int> rows)
    {
        const double numbers = 26, gap = 5, widestHead = 52;
        var columns = section.Lines.Where(l => l != section.OfPage?.Line && rows.Any(row => _evaluation.Value(l, row) is not null)).ToList();
        var amounts = columns.Where(IsNumber).ToDictionary(l => l, l => Math.Max(Math.Min(Measure(l.Label, _small), widestHead), rows.Max(row => Measure(InGrid(l, row), _small))) + gap);
        var left = (Right - Left - numbers - amounts.Values.Sum()) / Math.Max(1, columns.Sum(Weight));
        var widths = columns.Select(l => IsNumber(l) ? amounts[l] : Weight(l) * left).ToList();
        Heads();
        foreach (var (number, row) in rows.Index())
        {
            if (_y + Row > Bottom)
            {
                Room(Row * 2);
                Heads();
            }

            Write($"{number + 1}", _small, Secondary, Left, _y);
            Across((line, width) => Fit(InGrid(line, row), _small, width - gap), Ink);
        }

        void Heads() => Across((line, width) => Fit(line.Label, _small, width - gap), Secondary);

        void Across(Func<Line, double, string> cell, XColor colour)
        {
            var x = Left + numbers;
            for (var column = 0; column < columns.Count; column++)
            {
                var text = cell(columns[column], widths[column]);
                Write(text, _small, colour, IsNumber(columns[column]) ? x + widths[column] - gap - Measure(text, _small) : x, _y);
                x += widths[column];
            }

            _page!.DrawLine(new XPen(Hairline, 0.5), Left, _y + 4.5, Right, _y + 4.5);
            _y += Row;
        }

        static bool IsNumber(Line line) => line.IsNumber;

        static double Weight(Line line) => line.Kind switch { _ when line.IsNumber => 0, LineKind.Text => 3, LineKind.Identifier => 2.4, LineKind.Answer => 0.8, _ => 1.4 };
    }

    private string InGrid(Line line, int row) => _evaluation.Value(line, row) is not { } value ? "" : line.Kind == LineKind.Choice && line.Table!.OfPage is null ? value : Shown(line, row, value);

    private void Lines(IEnumerable<Line> lines, int row)
    {
        foreach (var line in lines)
        {
            if (_evaluation.Value(line, row) is not { } value)
            {
                continue;
            }

            Room(Row);
            Write(line.Number, _small, Secondary, Left, _y);
            Write(Fit(line.Label, _text, 330), line.Rule == LineRule.None ? _text : _strong, Ink, Left + 34, _y);
            Amount(Shown(line, row, value), line.Rule != LineRule.None, line.Rule);
        }
    }

    private string Shown(Line line, int row, string value) => line.Kind switch
    {
        LineKind.Money => Money(_evaluation.Amount(line, row)),
        LineKind.Count or LineKind.Number => $"{line.Write(_evaluation.Amount(line, row))}{(line.Unit is null ? "" : $" {line.Unit}")}",
        LineKind.Choice => line.Choices!.First(c => c.Code == value).Label,
        LineKind.Date => DateOnly.ParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture).ToString("d MMM yyyy", CultureInfo.InvariantCulture),
        LineKind.Row => _evaluation.RowName(line.Target!, _evaluation.Code(line, row) - 1),
        _ => value,
    };

    private string Money(decimal amount)
    {
        var text = _evaluation.Definition.Numbers.Write(Math.Abs(amount), "#,##0.00");
        return amount < 0 ? $"({text})" : text;
    }

    private void Amount(string text, bool strong, LineRule rule)
    {
        var font = strong ? _strong : _text;
        var shown = Fit(text, font, 190);
        Write(shown, font, rule == LineRule.Final ? Bronze : Ink, Right - Measure(shown, font), _y);
        if (rule != LineRule.None)
        {
            _page!.DrawLine(new XPen(Ink, 0.6), Right - 80, _y - 10, Right, _y - 10);
        }

        if (rule == LineRule.Final)
        {
            _page!.DrawLine(new XPen(Ink, 0.6), Right - 80, _y + 3.5, Right, _y + 3.5);
            _page.DrawLine(new XPen(Ink, 0.6), Right - 80, _y + 5.5, Right, _y + 5.5);
        }
        else
        {
            _page!.DrawLine(new XPen(Hairline, 0.5), Left, _y + 4.5, Right, _y + 4.5);
        }

        _y += Row;
    }

    private void Room(double height)
    {
        if (_y + height > Bottom)
        {
            _page?.Dispose();
            NewPage();
        }
    }

    private void NewPage()
    {
        var page = _document.AddPage();
        page.Size = PdfSharp.PageSize.A4;
        _page = XGraphics.FromPdfPage(page);
        if (_facts.ApprovedBy is null)
        {
            var state = _page.Save();
            _page.RotateAtTransform(-52, new XPoint(297, 421));
            var mark = PlexFonts.Of(96, true);
            _page.DrawString("DRAFT", mark, new XSolidBrush(XColor.FromArgb(28, 0x8A, 0x64, 0x28)), new XPoint(297 - (_page.MeasureString("DRAFT", mark).Width / 2), 450));
            _page.Restore(state);
        }

        var definition = _evaluation.Definition;
        Write(_facts.Client, _title, Ink, Left, 46);
        Write($"{definition.Title} {Periods.InWords(definition.Year, definition.Period)}, {_facts.Kind}. Amounts in {definition.Currency}.", _text, Secondary, Left, 62);
        Write(_facts.Practice, _text, Secondary, Right - Measure(_facts.Practice, _text), 46);
        var stands = _facts.Acknowledgement is { } number ? $"Accepted by the authority as {number}" : _facts.ApprovedBy ?? "Draft, not approved";
        Write(stands, _text, Bronze, Right - Measure(stands, _text), 62);
        _page.DrawLine(new XPen(Ink, 1), Left, 70, Right, 70);
        _y = Top;
    }

    private void Number()
    {
        for (var index = 0; index < _document.PageCount; index++)
        {
            using var page = XGraphics.FromPdfPage(_document.Pages[index]);
            _page = page;
            var text = $"Page {index + 1} of {_document.PageCount}";
            Write(text, _small, Secondary, Right - Measure(text, _small), 812);
            Write($"Printed {_facts.Printed.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)}. Rules {_evaluation.Definition.FigureRevision[..12]}.", _small, Secondary, Left, 812);
        }
    }

    private string Fit(string text, XFont font, double width)
    {
        if (Measure(text, font) <= width)
        {
            return text;
        }

        var shorter = text;
        while (shorter.Length > 1 && Measure(shorter + "...", font) > width)
        {
            shorter = shorter[..^1];
        }

        return shorter + "...";
    }

    private double Measure(string text, XFont font) => _page!.MeasureString(text, font).Width;

    private void Write(string text, XFont font, XColor colour, double x, double y) =>
        _page!.DrawString(text, font, new XSolidBrush(colour), new XPoint(x, y));
}
