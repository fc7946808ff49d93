using System.Text.RegularExpressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;

namespace Aerarium.Server.Returns;

/// <summary>The forms of a return, as the Page draws them; what the authority holds and payers state is offered on <see cref="GatherForms"/>, what a group has agreed on <see cref="AgreementForm"/>.</summary>
public sealed record Layout(
    string Id,
    int Year,
    string Title,
    string Country,
    string Currency,
    string Revision,
    IReadOnlyList<FormLayout> Forms,
    IReadOnlyList<KeyFigureLayout> Outcome,
    IReadOnlyList<string> GatherForms,
    IReadOnlyList<string> NotCovered,
    string BalanceLabel,
    string OverpaidLabel,
    string? AgreementForm);

/// <summary>How numbers are written.</summary>
/// <param name="Decimal">Mark before the decimals.</param>
/// <param name="Group">Mark between groups.</param>
/// <param name="HigherGroups">Digits of every group but the lowest, which has three.</param>
public sealed record NumberLayout(string Decimal, string Group, int HigherGroups)
{
    /// <summary>How numbers are written.</summary>
    public static NumberLayout Of(NumberWriting numbers) => new($"{numbers.Decimal}", $"{numbers.Group}", numbers.HigherGroups);
}

/// <summary>A form.</summary>
/// <param name="Key">Key.</param>
/// <param name="Title">Title.</param>
/// <param name="About">One sentence.</param>
/// <param name="Number">Printed number.</param>
/// <param name="Beside">The form in whose parallel column it is shown, or null; its sections and lines are the same, in the same order.</param>
/// <param name="Column">What that column is called, or null.</param>
/// <param name="FirstColumn">What the column it stands beside is called, or null.</param>
/// <param name="When">When the form opens, in a sentence; null for always.</param>
/// <param name="OpenedBy">Key of the one question of Scope that opens it; null where it is always there or rests on more.</param>
/// <param name="Explained">How one of its lines comes about from another, to be drawn; null where nothing is.</param>
/// <param name="Sections">Sections.</param>
public sealed record FormLayout(
    string Key, string Title, string About, int Number, string? Beside, string? Column, string? FirstColumn, string? When, string? OpenedBy, ExplanationLayout? Explained, IReadOnlyList<SectionLayout> Sections);

/// <summary>How a line comes about from another, by the keys of lines.</summary>
/// <param name="From">Where it starts.</param>
/// <param name="Steps">What is added or taken away, one after the other.</param>
/// <param name="To">What it comes to.</param>
public sealed record ExplanationLayout(string From, IReadOnlyList<string> Steps, string To);

/// <summary>A section; with <see cref="Table"/> when it repeats, and with the one question of Scope that opens it.</summary>
public sealed record SectionLayout(string Key, string Title, string? Law, string? When, string? OpenedBy, TableLayout? Table, IReadOnlyList<LineLayout> Lines);

/// <summary>What a repeating section adds.</summary>
/// <param name="Key">Key.</param>
/// <param name="RowLabel">What one row is called.</param>
/// <param name="NamedBy">The column that names a row.</param>
/// <param name="Grid">Whether its rows are many, so that it is shown as a grid.</param>
/// <param name="Parts">What each of its rows consists of when it is a page of its own; empty otherwise.</param>
/// <param name="OfPage">For rows within a page: the column that says which page they belong to; null otherwise.</param>
/// <param name="MapsTo">The column that says where a row goes; null where rows go nowhere else.</param>
/// <param name="Splits">The column that points at the row of another section of which its rows are parts; null for rows of their own.</param>
/// <param name="AddedUpOn">The form on which rows are added up by where they go; null where they are not.</param>
/// <param name="ListedBy">The choice each of whose codes has a line of its own to be filled; null where rows are added one by one.</param>
/// <param name="KnownBy">The column by which a file of rows is held against those that are here; null where a file adds rows.</param>
public sealed record TableLayout(string Key, string RowLabel, string? NamedBy, bool Grid, IReadOnlyList<PagePartLayout> Parts, string? OfPage, string? KnownBy, string? MapsTo, string? Splits, string? AddedUpOn, string? ListedBy);

/// <summary>A part of a page that repeats.</summary>
/// <param name="Title">Heading.</param>
/// <param name="Law">Section of the law.</param>
/// <param name="Lines">Keys of its lines.</param>
/// <param name="Rows">Key of the repeating section whose rows stand here, those that belong to the page; null for lines.</param>
public sealed record PagePartLayout(string Title, string? Law, IReadOnlyList<string> Lines, string? Rows);

/// <summary>A line; <see cref="Into"/> holds the keys of the lines outside its rows that are computed from what a paper says here, and is empty for lines that no paper has.</summary>
public sealed record LineLayout(
    string Key,
    string Name,
    string Number,
    string Label,
    LineKind Kind,
    bool IsYear,
    bool Computed,
    string? Law,
    string? From,
    IReadOnlyList<string> Into,
    string? Hint,
    string? Unit,
    string? Target,
    bool MayBeRequired,
    bool UsuallyYes,
    bool Conditional,
    LineRule Rule,
    IReadOnlyList<Choice>? Choices,
    int LongestText,
    bool CountsAttachments,
    string? ProposedBy,
    string? Overrides,
    OverrideLayout? Override);

/// <summary>What may replace a computed amount.</summary>
/// <param name="Amount">Key of the entry with the amount.</param>
/// <param name="Reason">Key of the entry with the reason.</param>
/// <param name="Judgement">Whose judgement may differ, and by which section of the law.</param>
public sealed record OverrideLayout(string Amount, string Reason, string Judgement);

/// <summary>A figure of the Outcome strip.</summary>
public sealed record KeyFigureLayout(string Label, string Line, string Sign);

internal static partial class Layouts
{
    public static Layout Of(Definition definition) => Of(definition, Destinations.Of(definition));

    private static Layout Of(Definition definition, IReadOnlyDictionary<Line, IReadOnlyList<Line>> into) => new(
        definition.Id,
        definition.Year,
        definition.Title,
        definition.Country,
        definition.Currency,
        definition.FigureRevision,
        [.. definition.Forms.Select(f => Of(f, into))],
        [.. definition.Outcome.Select(k => new KeyFigureLayout(k.Label, k.Line.Key, k.Sign))],
        [.. (Catalogue.TypeOf(definition.Id).Record?.Statements ?? []).Select(s => definition.FindTable(s.Section)?.Form.Key).OfType<string>().Distinct()],
        definition.NotCovered,
        definition.BalanceWords.ToPay,
        definition.BalanceWords.Overpaid,
        Catalogue.TypeOf(definition.Id).Agreement is { } agreement ? definition.LineOf(agreement.Line).Form.Key : null);

    private static FormLayout Of(Form form, IReadOnlyDictionary<Line, IReadOnlyList<Line>> into) => new(
        form.Key,
        form.Title,
        form.About,
        form.Number,
        form.Beside?.First.Key,
        form.Beside?.Column,
        form.Beside?.FirstColumn,
        Opens(form.OpensFor, form.When),
        OpenedBy(form.When),
        form.Explained is { } explained ? new ExplanationLayout(explained.From.Key, [.. explained.Steps.Select(s => s.Key)], explained.To.Key) : null,
        [.. form.Sections.Select(s => Of(s, into))]);

    private static SectionLayout Of(Section section, IReadOnlyDictionary<Line, IReadOnlyList<Line>> into) => new(
        section.Key,
        section.Title,
        section.Law,
        Opens(section.OpensFor ?? (section.OwnCondition is null ? section.Form.OpensFor : null), section.OwnCondition ?? section.When),
        OpenedBy(section.OwnCondition ?? section.When),
        section is RepeatingSection table ? Of(table) : null,
        [.. section.LinesAsRead.Select(l => Of(l, into))]);

    /// <summary>When a form or section opens, in a sentence; null for always.</summary>
    private static string? Opens(string? opensFor, Core.Formulas.Condition? when) =>
        when is null ? null
        : opensFor is not null ? $"Opens for {opensFor}."
        : $"Opens when {Answered().Replace(when.Words, "‘$1’ is answered yes")}.";

    private static string? OpenedBy(Core.Formulas.Condition? when) => when is AnswerLine { Line: { Form.Number: 0 } question } ? question.Key : null;

    [GeneratedRegex("'([^']+(?:'s [^']+)?)' is yes")]
    private static partial Regex Answered();

    private static TableLayout Of(RepeatingSection table) => new(
        table.Key,
        table.RowLabel,
        table.NamedBy?.Key,
        table.IsGrid,
        [.. table.Parts.Select(p => new PagePartLayout(p.Title, p.Law, [.. p.Lines.Select(l => l.Key)], p.Rows?.Key))],
        table.OfPage?.Line.Key,
        table.KnownBy?.Key,
        table.MapsTo?.Key,
        table.Splits?.Key,
        table.MapsTo is null ? null : table.Form.Definition.Lines.FirstOrDefault(l => l.Form != table.Form && l.Formula is { } formula && AddsUp(formula, table))?.Form.Key,
        table.ListedBy?.Key);

    private static bool AddsUp(Formula formula, RepeatingSection table) => (formula is Tallied tallied && tallied.Tally.Section == table) || formula.Operands.Any(o => AddsUp(o, table));

    private static LineLayout Of(Line line, IReadOnlyDictionary<Line, IReadOnlyList<Line>> into) => new(
        line.Key,
        line.Name,
        line.Number,
        line.Label,
        line.Kind,
        line.IsYear,
        line.IsComputed,
        line.Law,
        line.CopiedFrom,
        into.TryGetValue(line, out var ends) ? [.. ends.Select(l => l.Key)] : [],
        line.Hint,
        line.Unit,
        line.Target?.Key,
        line.RequiredWhen is not null,
        line.UsuallyYes,
        line.When is not null,
        line.Rule,
        line.Choices,
        line.LongestText,
        line.CountsAttachments,
        line.ProposedBy?.Key,
        line.Overrides?.Key,
        line.Override is { } replaced ? new OverrideLayout(replaced.Amount.Key, replaced.Reason.Key, replaced.Judgement) : null);
}
