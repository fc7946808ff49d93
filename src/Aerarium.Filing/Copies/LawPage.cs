using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace Aerarium.Filing;

/// <summary>A page of the law in print: lines of words that fit, where each stands, and where what they lead to is.</summary>
internal sealed class LawPage
{
    /// <summary>Width of A4, in points.</summary>
    public const double Width = 595;

    /// <summary>Height of A4, in points.</summary>
    public const double Height = 842;

    private const double Left = 52;
    private const double Right = 543;
    private const double Top = 56;
    private const double Bottom = 790;
    private const double Indent = 46;
    private const double LinesKeptTogether = 3;

    private static readonly XBrush Ink = new XSolidBrush(XColor.FromArgb(0x22, 0x28, 0x2B));
    private static readonly XBrush Secondary = new XSolidBrush(XColor.FromArgb(0x52, 0x5A, 0x5D));
    private static readonly XBrush Link = new XSolidBrush(XColor.FromArgb(0x2A, 0x6F, 0x66));
    private static readonly XBrush Brick = new XSolidBrush(XColor.FromArgb(0x9B, 0x3B, 0x2E));

    private readonly List<Placed> _placed = [];

    /// <summary>What stands here that something leads to.</summary>
    public List<string> Anchors { get; } = [];

    /// <summary>Lays paragraphs out, page after page. A chapter begins a page, and a heading or the first lines of an article are not left alone at its foot.</summary>
    public static IReadOnlyList<LawPage> Laid(IReadOnlyList<LawParagraph> paragraphs, XGraphics measure)
    {
        var (pages, y) = (new List<LawPage> { new() }, Top);
        foreach (var paragraph in paragraphs)
        {
            var (size, leading, before) = LookOf(paragraph.Style);
            var indent = paragraph.Style is LawStyle.Article or LawStyle.Beneath or LawStyle.Contents ? Indent : 0;
            var number = paragraph.Style == LawStyle.Chapter && paragraph.Number is { } chapter ? $"{chapter}. " : "";
            List<LawWords> words = number.Length == 0 ? [.. paragraph.Words] : [new(number), .. paragraph.Words];
            var lines = Broken(words, paragraph.Style, size, Right - Left - indent - (paragraph.Style == LawStyle.Contents ? Indent : 0), measure);
            var least = paragraph.Style is LawStyle.Article or LawStyle.Section ? LinesKeptTogether * leading : leading;
            if (y > Top && (paragraph.Style == LawStyle.Chapter || y + before + least > Bottom))
            {
                pages.Add(new LawPage());
                y = Top;
            }

            y += y > Top ? before : 0;
            if (paragraph.Anchor is { } anchor)
            {
                pages[^1].Anchors.Add(anchor);
            }

            for (var index = 0; index < lines.Count; index++)
            {
                if (y + leading > Bottom)
                {
                    pages.Add(new LawPage());
                    y = Top;
                }

                y += leading;
                if (index == 0 && indent > 0 && paragraph.Number is { } at)
                {
                    pages[^1]._placed.Add(new Placed(at, Left, y, size, false, Secondary, null));
                }

                pages[^1]._placed.AddRange(lines[index].Select(piece => piece with { X = piece.X + Left + indent, Y = y }));
                if (index == lines.Count - 1 && paragraph.Style == LawStyle.Contents)
                {
                    pages[^1]._placed.Add(new Placed("", Right, y, size, false, Secondary, paragraph.Words[0].To) { IsPageNumber = true });
                }
            }
        }

        return pages;
    }

    /// <summary>Draws the page.</summary>
    /// <param name="page">An empty page.</param>
    /// <param name="pageOf">The number of the page on which an anchor stands.</param>
    /// <param name="foot">A line at its foot.</param>
    public void Draw(PdfPage page, IReadOnlyDictionary<string, int> pageOf, string foot)
    {
        using var on = XGraphics.FromPdfPage(page);
        on.DrawString(foot, PlexFonts.Of(7.5, false), Secondary, new XPoint(Left, Height - 30));
        foreach (var piece in _placed)
        {
            var font = PlexFonts.Of(piece.Size, piece.Strong);
            if (piece.IsPageNumber)
            {
                var number = $"{pageOf[piece.To!]}";
                on.DrawString(number, font, piece.Brush, new XPoint(piece.X - on.MeasureString(number, font).Width, piece.Y));
                continue;
            }

            on.DrawString(piece.Text, font, piece.Brush, new XPoint(piece.X, piece.Y));
        }

        foreach (var link in _placed.Where(p => p.To is not null && !p.IsPageNumber).GroupBy(p => (p.To, p.Y)))
        {
            var (first, last) = (link.First(), link.Last());
            var end = last.X + on.MeasureString(last.Text, PlexFonts.Of(last.Size, last.Strong)).Width;
            page.AddDocumentLink(new PdfRectangle(new XRect(first.X, Height - first.Y - 2, end - first.X, first.Size + 2)), pageOf[link.Key.To!]);
        }
    }

    private static (double Size, double Leading, double Before) LookOf(LawStyle style) => style switch
    {
        LawStyle.Title => (18, 24, 0),
        LawStyle.Chapter => (14, 20, 0),
        LawStyle.Section => (11, 15, 12),
        LawStyle.Article => (9.5, 13, 7),
        LawStyle.Beneath => (8.5, 11.5, 1),
        LawStyle.Contents => (9.5, 15, 0),
        _ => (9.5, 13, 4),
    };

    /// <summary>Words in lines that fit. What is longer than a line by itself stands in one that is too long.</summary>
    private static List<List<Placed>> Broken(IReadOnlyList<LawWords> words, LawStyle style, double size, double width, XGraphics measure)
    {
        var heading = style is LawStyle.Title or LawStyle.Chapter or LawStyle.Section;
        var (lines, x) = (new List<List<Placed>> { new() }, 0.0);
        foreach (var run in words)
        {
            var strong = run.Strong || (heading && !run.Text.StartsWith(' '));
            var font = PlexFonts.Of(size, strong);
            var brush = run.Unsure ? Brick : run.To is not null ? Link : style == LawStyle.Beneath || (run.Text.StartsWith(' ') && !strong) ? Secondary : Ink;
            foreach (var piece in run.Text.Split(' ').SelectMany((word, index) => index == 0 ? [word] : new[] { " ", word }).Where(p => p.Length > 0))
            {
                var wide = measure.MeasureString(piece == " " ? "i" : piece, font).Width;
                if (piece == " ")
                {
                    x += x > 0 ? wide : 0;
                    continue;
                }

                if (x > 0 && x + wide > width)
                {
                    lines.Add([]);
                    x = 0;
                }

                lines[^1].Add(new Placed(piece, x, 0, size, strong, brush, run.To));
                x += wide;
            }
        }

        return lines;
    }

    private sealed record Placed(string Text, double X, double Y, double Size, bool Strong, XBrush Brush, string? To)
    {
        /// <summary>Whether it is the number of the page that <see cref="To"/> stands on, drawn to end at its place.</summary>
        public bool IsPageNumber { get; init; }
    }
}
