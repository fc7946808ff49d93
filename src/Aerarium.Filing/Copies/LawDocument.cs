using System.Globalization;
using System.Net;
using System.Text;
using Aerarium.Core.Definitions;
using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace Aerarium.Filing;

/// <summary>The law of a return as articles (<see cref="LawBook"/>): a page of HTML that needs nothing else, or a paper of A4 with contents, page numbers and references that lead there.</summary>
public static class LawDocument
{
    private const string Style =
        """
        body { font: 11pt/1.45 Georgia, serif; color: #22272a; max-width: 46em; margin: 3em auto; padding: 0 1em; }
        h1 { font-size: 20pt; } h2 { font-size: 15pt; margin-top: 2.2em; border-bottom: 1px solid #22272a; } h3 { font-size: 12pt; margin: 1.6em 0 .4em; }
        .article { margin: .7em 0 .7em 3.4em; text-indent: -3.4em; } .article > * { text-indent: 0; } .no { display: inline-block; width: 3.4em; text-indent: 0; color: #667; }
        .small { font-size: 9pt; color: #556; } .unsure { color: #9b3b2e; } a { color: #2a6f66; text-decoration: none; } p { margin: .4em 0; }
        @media print { body { margin: 0; max-width: none; } h2 { break-before: page; } .article { break-inside: avoid; } }
        """;

    /// <summary>The document as a page of HTML.</summary>
    public static string Html(Definition definition)
    {
        var html = new StringBuilder();
        html.Append(CultureInfo.InvariantCulture, $"<!DOCTYPE html><html lang=\"en\"><head><meta charset=\"utf-8\"><title>{Text($"{definition.Title} {definition.Year}")}</title><style>{Style}</style></head><body>");
        var within = false;
        foreach (var paragraph in LawBook.Of(definition))
        {
            if (within && paragraph.Style != LawStyle.Beneath)
            {
                html.Append("</div>");
                within = false;
            }

            var words = string.Concat(paragraph.Words.Select(w => Written(w, paragraph.Style)));
            var (anchor, number) = (paragraph.Anchor is { } id ? $" id=\"{id}\"" : "", paragraph.Number);
            switch (paragraph.Style)
            {
                case LawStyle.Title:
                    html.Append(CultureInfo.InvariantCulture, $"<h1>{words}</h1>");
                    break;
                case LawStyle.Chapter:
                    html.Append(CultureInfo.InvariantCulture, $"<h2{anchor}>{(number is null ? "" : $"{number}. ")}{words}</h2>");
                    break;
                case LawStyle.Section:
                    html.Append(CultureInfo.InvariantCulture, $"<h3{anchor}>{words}</h3>");
                    break;
                case LawStyle.Article:
                    html.Append(CultureInfo.InvariantCulture, $"<div class=\"article\"{anchor}><span class=\"no\">{number}</span>{words}");
                    within = true;
                    break;
                case LawStyle.Beneath:
                    html.Append(CultureInfo.InvariantCulture, $"<div class=\"small\">{words}</div>");
                    break;
                default:
                    html.Append(CultureInfo.InvariantCulture, $"<p>{(number is null ? "" : $"{number}. ")}{words}</p>");
                    break;
            }
        }

        return html.Append(within ? "</div></body></html>" : "</body></html>").ToString();
    }

    /// <summary>The document as a paper (PDF, A4).</summary>
    /// <param name="definition">The return.</param>
    /// <param name="printed">The day it is printed.</param>
    public static byte[] Pdf(Definition definition, DateOnly printed)
    {
        PlexFonts.Use();
        List<LawParagraph> paragraphs = [.. LawBook.Of(definition)];
        using var measure = XGraphics.CreateMeasureContext(new XSize(LawPage.Width, LawPage.Height), XGraphicsUnit.Point, XPageDirection.Downwards);
        var pages = LawPage.Laid(paragraphs, measure);
        using var document = new PdfDocument();
        document.Info.Title = $"{definition.Title}, {Periods.InWords(definition.Year, definition.Period)}";
        document.Info.Creator = "Aerarium";
        document.Info.CreationDate = printed.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc);
        document.Options.CompressContentStreams = false;
        foreach (var _ in pages)
        {
            document.AddPage().Size = PdfSharp.PageSize.A4;
        }

        var numbers = pages.SelectMany((page, index) => page.Anchors.Select(anchor => (anchor, index + 1))).ToDictionary(a => a.anchor, a => a.Item2);
        foreach (var (page, index) in pages.Select((page, index) => (page, index)))
        {
            page.Draw(document.Pages[index], numbers, $"{document.Info.Title}. Printed {printed.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)}. Page {index + 1} of {pages.Count}.");
        }

        foreach (var chapter in paragraphs.Where(p => p.Style == LawStyle.Chapter))
        {
            document.Outlines.Add($"{chapter.Number} {chapter.Words[0].Text}".TrimStart(), document.Pages[numbers[chapter.Anchor!] - 1]);
        }

        using var bytes = new MemoryStream();
        document.Save(bytes);
        return bytes.ToArray();
    }

    private static string Written(LawWords words, LawStyle style)
    {
        var text = Text(words.Text);
        text = words.To is { } to ? $"<a href=\"#{to}\">{text}</a>" : words.Strong ? $"<strong>{text}</strong>" : words.Unsure ? $"<span class=\"unsure\">{text}</span>" : text;
        return style is LawStyle.Article or LawStyle.Section && words is { To: null, Strong: false } && words.Text.StartsWith(' ') ? $" <span class=\"small\">{text.TrimStart()}</span>" : text;
    }

    private static string Text(string? words) => WebUtility.HtmlEncode(words ?? "");
}
