using System.Globalization;
using PdfSharp.Drawing;
using PdfSharp.Pdf;
using PdfSharp.Pdf.IO;

namespace Aerarium.Filing;

/// <summary>A line of a paper: what it is called and what it says.</summary>
public sealed record PaperRow(string Label, string Text);

/// <summary>What a paper of one page says.</summary>
/// <param name="Practice">Name of the practice.</param>
/// <param name="Title">Heading.</param>
/// <param name="About">Whose, and which return.</param>
/// <param name="Rows">Its lines.</param>
/// <param name="Foot">A sentence beneath them.</param>
/// <param name="Printed">The day printed.</param>
public sealed record PaperFacts(string Practice, string Title, string About, IReadOnlyList<PaperRow> Rows, string Foot, DateOnly Printed)
{
    /// <summary>The modules of a QR code that is printed beside the lines, row by row; null for none.</summary>
    public IReadOnlyList<bool[]>? Code { get; init; }
}

/// <summary>Papers of one page for people and banks: an acknowledgement, a payment slip; and several papers in one file (PDF, A4).</summary>
public static class FilingPapers
{
    private const double Left = 48;
    private const double Right = 547;
    private const double LabelWidth = 172;

    private static readonly XBrush Ink = new XSolidBrush(XColor.FromArgb(0x22, 0x28, 0x2B));
    private static readonly XBrush Secondary = new XSolidBrush(XColor.FromArgb(0x52, 0x5A, 0x5D));
    private static readonly XPen Hairline = new(XColor.FromArgb(0xDD, 0xD8, 0xCC), 0.5);

    /// <summary>Draws a paper.</summary>
    public static byte[] Draw(PaperFacts facts)
    {
        PlexFonts.Use();
        using var document = new PdfDocument();
        document.Info.Title = $"{facts.Title}, {facts.About}";
        document.Info.Creator = "Aerarium";
        document.Info.CreationDate = facts.Printed.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc);
        document.Options.CompressContentStreams = false;
        var page = document.AddPage();
        page.Size = PdfSharp.PageSize.A4;
        using (var on = XGraphics.FromPdfPage(page))
        {
            var (title, text, small) = (PlexFonts.Of(17, true), PlexFonts.Of(10, false), PlexFonts.Of(7.5, false));
            on.DrawString(facts.Practice, text, Secondary, new XPoint(Left, 48));
            on.DrawString(facts.Title, title, Ink, new XPoint(Left, 84));
            on.DrawString(facts.About, text, Secondary, new XPoint(Left, 102));
            on.DrawLine(new XPen(XColor.FromArgb(0x22, 0x28, 0x2B), 1), Left, 112, Right, 112);
            var y = 134.0;
            foreach (var row in facts.Rows)
            {
                var (labels, lines) = (Broken(on, row.Label, text, LabelWidth - 10).ToList(), Broken(on, row.Text, text, Right - Left - LabelWidth).ToList());
                for (var line = 0; line < Math.Max(labels.Count, lines.Count); line++)
                {
                    on.DrawString(labels.ElementAtOrDefault(line) ?? "", text, Secondary, new XPoint(Left, y));
                    on.DrawString(lines.ElementAtOrDefault(line) ?? "", text, Ink, new XPoint(Left + LabelWidth, y));
                    y += 15;
                }

                on.DrawLine(Hairline, Left, y - 9, Right, y - 9);
                y += 6;
            }

            if (facts.Code is { } code)
            {
                Code(on, code, y + 6);
                y += 110;
            }

            foreach (var line in Broken(on, facts.Foot, text, Right - Left))
            {
                y += 15;
                on.DrawString(line, text, Secondary, new XPoint(Left, y));
            }

            on.DrawString($"Printed {facts.Printed.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)}.", small, Secondary, new XPoint(Left, 812));
        }

        return Bytes(document);
    }

    /// <summary>Several papers in one file, in order; the papers are our own.</summary>
    public static byte[] Together(IEnumerable<byte[]> papers)
    {
        using var whole = new PdfDocument();
        whole.Info.Creator = "Aerarium";
        foreach (var paper in papers)
        {
            using var stream = new MemoryStream(paper);
            using var one = PdfReader.Open(stream, PdfDocumentOpenMode.Import);
            foreach (var page in one.Pages)
            {
                whole.AddPage(page);
            }
        }

        return Bytes(whole);
    }

    private static void Code(XGraphics on, IReadOnlyList<bool[]> code, double top)
    {
        var size = 96.0 / code.Count;
        for (var row = 0; row < code.Count; row++)
        {
            for (var column = 0; column < code[row].Length; column++)
            {
                if (code[row][column])
                {
                    on.DrawRectangle(XBrushes.Black, Left + (column * size), top + (row * size), size + 0.05, size + 0.05);
                }
            }
        }
    }

    /// <summary>A text in lines that fit; a word that is too long by itself, as a fingerprint is, is cut where it must be.</summary>
    private static IEnumerable<string> Broken(XGraphics on, string text, XFont font, double width)
    {
        var line = "";
        foreach (var word in text.Split(' '))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (on.MeasureString(longer, font).Width <= width)
            {
                line = longer;
                continue;
            }

            if (line.Length > 0)
            {
                yield return line;
            }

            line = word;
            while (on.MeasureString(line, font).Width > width)
            {
                var fits = line.Length - 1;
                while (fits > 1 && on.MeasureString(line[..fits], font).Width > width)
                {
                    fits--;
                }

                yield return line[..fits];
                line = line[fits..];
            }
        }

        yield return line;
    }

    private static byte[] Bytes(PdfDocument document)
    {
        using var stream = new MemoryStream();
        document.Save(stream);
        return stream.ToArray();
    }
}
