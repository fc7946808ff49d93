using System.Globalization;
using System.Net;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Filing;

/// <summary>
/// The law of a return and year as numbered articles, for a tax expert to read and sign: form by form each line with its rule in words, its section and the figures it rests on, then the
/// findings with their conditions. Drawn from the trees that compute, so that it cannot say anything else than they do.
/// </summary>
public static class LawDocument
{
    private const string Style =
        """
        body { font: 11pt/1.45 Georgia, serif; color: #22272a; max-width: 46em; margin: 3em auto; padding: 0 1em; }
        h1 { font-size: 20pt; } h2 { font-size: 15pt; margin-top: 2.2em; border-bottom: 1px solid #22272a; } h3 { font-size: 12pt; margin: 1.6em 0 .4em; }
        .article { margin: .7em 0 .7em 3.4em; text-indent: -3.4em; } .article > * { text-indent: 0; } .no { display: inline-block; width: 3.4em; text-indent: 0; color: #667; }
        .rule, .rests, .figures { margin-left: 0; } .small { font-size: 9pt; color: #556; } .unsure { color: #9b3b2e; } a { color: #2a6f66; text-decoration: none; }
        table { border-collapse: collapse; font-size: 9.5pt; margin: .4em 0; } td, th { text-align: left; vertical-align: top; padding: .15em 1.2em .15em 0; border-bottom: 1px solid #ddd; }
        @media print { body { margin: 0; max-width: none; } h2 { break-before: page; } .article { break-inside: avoid; } }
        """;

    /// <summary>The document as a page of HTML that needs nothing else.</summary>
    public static string Html(Definition definition)
    {
        var figures = LawFigures.Of(definition);
        var byLine = figures.SelectMany(f => f.UsedBy.Select(l => (Line: l, Figure: f))).ToLookup(p => p.Line, p => p.Figure);
        var html = new StringBuilder();
        html.Append(CultureInfo.InvariantCulture, $"<!DOCTYPE html><html lang=\"en\"><head><meta charset=\"utf-8\"><title>{Text($"{definition.Title} {definition.Year}")}</title><style>{Style}</style></head><body>");
        html.Append(CultureInfo.InvariantCulture, $"<h1>{Text(definition.Title)}, {Text(Periods.InWords(definition.Year, definition.Period))}</h1>");
        html.Append(CultureInfo.InvariantCulture, $"<p>The rules of this return as they are computed, with {figures.Count} figures of the law. Every article says its section; a figure that is not certain says so.</p><h2 id=\"contents\">Contents</h2><ol>");
        foreach (var form in definition.Forms)
        {
            html.Append(CultureInfo.InvariantCulture, $"<li value=\"{form.Number}\"><a href=\"#form-{form.Key}\">{Text(Named(form))}</a></li>");
        }

        html.Append("</ol><p><a href=\"#figures\">Figures of the law</a>, <a href=\"#not-covered\">What is not covered</a></p>");
        foreach (var form in definition.Forms)
        {
            Form(html, form, byLine);
        }

        Table(html, figures);
        html.Append("<h2 id=\"not-covered\">What is not covered</h2><ul>");
        foreach (var words in definition.NotCovered)
        {
            html.Append(CultureInfo.InvariantCulture, $"<li>{Text(words)}</li>");
        }

        return html.Append("</ul></body></html>").ToString();
    }

    private static void Form(StringBuilder html, Form form, ILookup<Line, LawFigure> figures)
    {
        html.Append(CultureInfo.InvariantCulture, $"<h2 id=\"form-{form.Key}\">{form.Number}. {Text(Named(form))}</h2><p>{Text(form.About)}");
        html.Append(form.When is { } when ? $" Applies if {Text(when.Words)}.</p>" : "</p>");
        foreach (var section in form.Sections)
        {
            html.Append(CultureInfo.InvariantCulture, $"<h3>{Text(section.Title)} <span class=\"small\">{Text(section.Law)}</span></h3>");
            if (section.OwnCondition is { } own)
            {
                html.Append(CultureInfo.InvariantCulture, $"<p class=\"small\">Applies if {Text(own.Words)}.</p>");
            }

            foreach (var line in section.LinesAsRead)
            {
                Article(html, line, figures[line]);
            }
        }

        var findings = form.Definition.Findings.Where(f => f.Lines.Count > 0 && f.Lines[0].Form == form && !f.Id.EndsWith(":missing", StringComparison.Ordinal)).ToList();
        if (findings.Count > 0)
        {
            html.Append("<h3>Findings</h3>");
        }

        foreach (var finding in findings)
        {
            html.Append(CultureInfo.InvariantCulture, $"<div class=\"article\"><span class=\"no\">{finding.Severity.ToString().ToLowerInvariant()}</span>{Text(finding.Message.ToString())}<div class=\"small\">If {Text(finding.When.Words)}.</div></div>");
        }
    }

    private static void Article(StringBuilder html, Line line, IEnumerable<LawFigure> figures)
    {
        html.Append(CultureInfo.InvariantCulture, $"<div class=\"article\" id=\"line-{line.Key}\"><span class=\"no\">{line.Number}</span><strong>{Text(line.Label)}</strong> <span class=\"small\">{Text(line.Law)}</span>");
        html.Append(line.Formula is { } formula ? $"<div class=\"rule\">{Text(formula.Words)}.</div>"
            : $"<div class=\"small\">Entered{(line.CopiedFrom is { } paper ? $", from: {Text(paper)}" : "")}{(line.Hint is { } hint ? $"; {Text(hint)}" : "")}.</div>");
        if (line.When is { } when)
        {
            html.Append(CultureInfo.InvariantCulture, $"<div class=\"small\">Applies if {Text(when.Words)}.</div>");
        }

        var beneath = line.Formula is null ? [] : RuleOrder.LinesBeneath(line.Formula);
        if (beneath.Count > 0)
        {
            html.Append(CultureInfo.InvariantCulture, $"<div class=\"small rests\">Rests on {string.Join(", ", beneath.Select(l => $"<a href=\"#line-{l.Key}\">{l.Number} {Text(l.Label)}</a>"))}.</div>");
        }

        foreach (var figure in figures)
        {
            html.Append(CultureInfo.InvariantCulture, $"<div class=\"small figures\"><a href=\"#figure-{figure.Key}\">{Text(figure.Label)}: {Text(figure.Value)}</a>, {Text(figure.Source)}{Sure(figure)}</div>");
        }

        html.Append("</div>");
    }

    private static void Table(StringBuilder html, IReadOnlyList<LawFigure> figures)
    {
        html.Append("<h2 id=\"figures\">Figures of the law</h2><table><tr><th>Figure</th><th>Value</th><th>Section</th><th>Used by</th></tr>");
        foreach (var figure in figures)
        {
            html.Append(CultureInfo.InvariantCulture, $"<tr id=\"figure-{figure.Key}\"><td>{Text(figure.Label)}</td><td>{(figure.Rows.Count == 0 ? Text(figure.Value) : string.Join("<br>", figure.Rows.Select(r => $"{Text(r.Range)}: {Text(r.Value)}")))}</td>");
            html.Append(CultureInfo.InvariantCulture, $"<td>{Text(figure.Source)}{Sure(figure)}</td><td>{string.Join(", ", figure.UsedBy.Select(l => $"<a href=\"#line-{l.Key}\">{l.Number}</a>"))}</td></tr>");
        }

        html.Append("</table>");
    }

    private static string Sure(LawFigure figure) => figure.Confidence == Confidence.Certain && figure.Note is null ? ""
        : $" <span class=\"unsure\">{figure.Confidence.ToString().ToLowerInvariant()}{(figure.Note is { } note ? $": {Text(note)}" : "")}</span>";

    private static string Named(Form form) => form.Beside is { } beside ? $"{form.Title}, {beside.Column.ToLowerInvariant()}" : form.Title;

    private static string Text(string? words) => WebUtility.HtmlEncode(words ?? "");
}
