using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Filing;

/// <summary>What a paragraph of the law is.</summary>
public enum LawStyle
{
    /// <summary>The name of the return.</summary>
    Title,

    /// <summary>A form, or what follows the forms; begins a page in print.</summary>
    Chapter,

    /// <summary>A section of a form.</summary>
    Section,

    /// <summary>An article: a line, a finding or a figure. What stands beneath it belongs to it.</summary>
    Article,

    /// <summary>Beneath an article.</summary>
    Beneath,

    /// <summary>Text by itself.</summary>
    Text,

    /// <summary>A line of the contents.</summary>
    Contents,
}

/// <summary>Words of a paragraph.</summary>
/// <param name="Text">The words.</param>
/// <param name="To">The anchor they lead to, or null.</param>
/// <param name="Strong">Whether they are stressed.</param>
/// <param name="Unsure">Whether they say that something is not certain.</param>
public sealed record LawWords(string Text, string? To = null, bool Strong = false, bool Unsure = false);

/// <summary>A paragraph.</summary>
/// <param name="Style">What it is.</param>
/// <param name="Words">Its words.</param>
/// <param name="Number">Its number, or null.</param>
/// <param name="Anchor">What leads to it, or null.</param>
public sealed record LawParagraph(LawStyle Style, IReadOnlyList<LawWords> Words, string? Number = null, string? Anchor = null);

/// <summary>
/// The law of a return and year as numbered articles, for a tax expert to read and sign: form by form each line with its rule in words, its section and the figures it rests on, the
/// findings with their conditions, then all figures. Drawn from the trees that compute, so that it cannot say anything else than they do.
/// </summary>
public static class LawBook
{
    private const string Figures = "figures";
    private const string NotCovered = "not-covered";

    /// <summary>The paragraphs, in order.</summary>
    public static IEnumerable<LawParagraph> Of(Definition definition)
    {
        var figures = LawFigures.Of(definition);
        var byLine = figures.SelectMany(f => f.UsedBy.Select(l => (Line: l, Figure: f))).ToLookup(p => p.Line, p => p.Figure);
        yield return Plain(LawStyle.Title, $"{definition.Title}, {Periods.InWords(definition.Year, definition.Period)}");
        var corrected = definition.Edition.Corrections.Count;
        yield return Plain(LawStyle.Text, $"The rules of this return as they are computed, with {figures.Count} figures of the law{(corrected == 0 ? "" : $", {corrected} of them corrected by the practice")}. Every article says its section; a figure that is not certain says so.");
        yield return new LawParagraph(LawStyle.Section, [new("Contents")], Anchor: "contents");
        foreach (var form in definition.Forms)
        {
            yield return new LawParagraph(LawStyle.Contents, [new(Named(form), AnchorOf(form))], $"{form.Number}");
        }

        yield return new LawParagraph(LawStyle.Contents, [new("Figures of the law", Figures)]);
        yield return new LawParagraph(LawStyle.Contents, [new("What is not covered", NotCovered)]);
        foreach (var paragraph in definition.Forms.SelectMany(form => OfForm(form, byLine)))
        {
            yield return paragraph;
        }

        yield return new LawParagraph(LawStyle.Chapter, [new("Figures of the law")], Anchor: Figures);
        foreach (var paragraph in figures.SelectMany(OfFigure))
        {
            yield return paragraph;
        }

        yield return new LawParagraph(LawStyle.Chapter, [new("What is not covered")], Anchor: NotCovered);
        foreach (var words in definition.NotCovered)
        {
            yield return Plain(LawStyle.Text, words);
        }
    }

    private static IEnumerable<LawParagraph> OfForm(Form form, ILookup<Line, LawFigure> figures)
    {
        yield return new LawParagraph(LawStyle.Chapter, [new(Named(form))], $"{form.Number}", AnchorOf(form));
        yield return Plain(LawStyle.Text, $"{form.About}{(form.When is { } when ? $" Applies if {when.Words}." : "")}");
        foreach (var section in form.Sections)
        {
            yield return new LawParagraph(LawStyle.Section, [new(section.Title), new($" {section.Law}")]);
            if (section.OwnCondition is { } own)
            {
                yield return Plain(LawStyle.Text, $"Applies if {own.Words}.");
            }

            foreach (var paragraph in section.LinesAsRead.SelectMany(line => OfLine(line, figures[line])))
            {
                yield return paragraph;
            }
        }

        var findings = form.Definition.Findings.Where(f => f.Lines.Count > 0 && f.Lines[0].Form == form && !f.Id.EndsWith(":missing", StringComparison.Ordinal)).ToList();
        if (findings.Count > 0)
        {
            yield return Plain(LawStyle.Section, "Findings");
        }

        foreach (var finding in findings)
        {
            yield return new LawParagraph(LawStyle.Article, [new(finding.Message.ToString())], finding.Severity.ToString().ToLowerInvariant());
            yield return Plain(LawStyle.Beneath, $"If {finding.When.Words}.");
        }
    }

    private static IEnumerable<LawParagraph> OfLine(Line line, IEnumerable<LawFigure> figures)
    {
        yield return new LawParagraph(LawStyle.Article, [new(line.Label, Strong: true), new($" {line.Law}")], line.Number, $"line-{line.Key}");
        yield return line.Formula is { } formula
            ? Plain(LawStyle.Beneath, $"{formula.Words}.")
            : Plain(LawStyle.Beneath, $"Entered{(line.CopiedFrom is { } paper ? $", from: {paper}" : "")}{(line.Hint is { } hint ? $"; {hint}" : "")}.");
        if (line.When is { } when)
        {
            yield return Plain(LawStyle.Beneath, $"Applies if {when.Words}.");
        }

        var beneath = line.Formula is null ? [] : RuleOrder.LinesBeneath(line.Formula);
        if (beneath.Count > 0)
        {
            yield return new LawParagraph(LawStyle.Beneath, [new("Rests on "), .. Listed(beneath, l => new LawWords($"{l.Number} {l.Label}", $"line-{l.Key}")), new(".")]);
        }

        foreach (var figure in figures)
        {
            yield return new LawParagraph(LawStyle.Beneath, [new($"{figure.Label}: {figure.Value}", $"figure-{figure.Key}"), new($", {figure.Source}"), .. Sure(figure)]);
        }
    }

    private static IEnumerable<LawParagraph> OfFigure(LawFigure figure)
    {
        yield return new LawParagraph(LawStyle.Article, [new(figure.Label, Strong: true), new(figure.Rows.Count == 0 ? $": {figure.Value}" : ":")], Anchor: $"figure-{figure.Key}");
        foreach (var row in figure.Rows)
        {
            yield return Plain(LawStyle.Beneath, $"{row.Range}: {row.Value}");
        }

        yield return new LawParagraph(LawStyle.Beneath, [new(figure.Source), .. Sure(figure)]);
        if (figure.UsedBy.Count > 0)
        {
            yield return new LawParagraph(LawStyle.Beneath, [new("Used by "), .. Listed(figure.UsedBy, l => new LawWords($"{l.Number} {l.Label}", $"line-{l.Key}"))]);
        }
    }

    private static IEnumerable<LawWords> Listed<T>(IEnumerable<T> items, Func<T, LawWords> words) =>
        items.SelectMany((item, index) => index == 0 ? [words(item)] : new[] { new LawWords(", "), words(item) });

    private static IEnumerable<LawWords> Sure(LawFigure figure)
    {
        if (figure.Confidence != Confidence.Certain)
        {
            yield return new LawWords($", {figure.Confidence.ToString().ToLowerInvariant()}", Unsure: true);
        }

        if (figure.Note is { } note)
        {
            yield return new LawWords($": {note}", Unsure: figure.Confidence != Confidence.Certain);
        }
    }

    private static LawParagraph Plain(LawStyle style, string words) => new(style, [new(words)]);

    private static string AnchorOf(Form form) => $"form-{form.Key}";

    private static string Named(Form form) => form.Beside is { } beside ? $"{form.Title}, {beside.Column.ToLowerInvariant()}" : form.Title;
}
