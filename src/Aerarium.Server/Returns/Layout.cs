using Aerarium.Core.Definitions;
using Aerarium.Countries;

namespace Aerarium.Server.Returns;

/// <summary>The forms of a return, as the Page draws them; what the authority holds is offered on <see cref="AuthorityForm"/>.</summary>
public sealed record Layout(
    string Id,
    int Year,
    string Title,
    string Country,
    string Currency,
    string Revision,
    IReadOnlyList<FormLayout> Forms,
    IReadOnlyList<KeyFigureLayout> Outcome,
    string? AuthorityForm);

/// <summary>A form.</summary>
public sealed record FormLayout(string Key, string Title, string About, int Number, IReadOnlyList<SectionLayout> Sections);

/// <summary>A section; with <see cref="Table"/> when it repeats.</summary>
public sealed record SectionLayout(int Position, string Title, string? Law, string? When, TableLayout? Table, IReadOnlyList<LineLayout> Lines);

/// <summary>What a repeating section adds.</summary>
public sealed record TableLayout(string Key, string RowLabel, string? NamedBy);

/// <summary>A line.</summary>
public sealed record LineLayout(
    string Key,
    string Name,
    string Number,
    string Label,
    LineKind Kind,
    bool Computed,
    string? Law,
    string? From,
    string? Hint,
    string? Unit,
    string? Target,
    bool MayBeRequired,
    bool UsuallyYes,
    LineRule Rule,
    IReadOnlyList<Choice>? Choices);

/// <summary>A figure of the Outcome strip.</summary>
public sealed record KeyFigureLayout(string Label, string Line, string Sign);

internal static class Layouts
{
    public static Layout Of(Definition definition) => new(
        definition.Id,
        definition.Year,
        definition.Title,
        definition.Country,
        definition.Currency,
        definition.Revision,
        [.. definition.Forms.Select(f => new FormLayout(f.Key, f.Title, f.About, f.Number, [.. f.Sections.Select(Of)]))],
        [.. definition.Outcome.Select(k => new KeyFigureLayout(k.Label, k.Line.Key, k.Sign))],
        Catalogue.TypeOf(definition.Id).Record?.Form);

    private static SectionLayout Of(Section section) => new(
        section.Position,
        section.Title,
        section.Law,
        section.When?.Words,
        section is RepeatingSection table ? new TableLayout(table.Key, table.RowLabel, table.NamedBy?.Key) : null,
        [.. section.Lines.Select(Of)]);

    private static LineLayout Of(Line line) => new(
        line.Key,
        line.Name,
        line.Number,
        line.Label,
        line.Kind,
        line.IsComputed,
        line.Law,
        line.CopiedFrom,
        line.Hint,
        line.Unit,
        line.Target?.Key,
        line.RequiredWhen is not null,
        line.UsuallyYes,
        line.Rule,
        line.Choices);
}
