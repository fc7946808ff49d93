using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>
/// One figure of the law with its history: from which year on it has which value, where that stands, and how sure we are. A year that changes nothing is not
/// named; a year that does is one line more. Labels, sources and notes may say <c>{year}</c>.
/// </summary>
/// <example><code>Figure.Money("personal-relief", "personal relief for the year", "ITA s. 30").From(2017, 28_800, Certain)</code></example>
public sealed class Figure
{
    private readonly List<Dated> _history = [];
    private readonly ParameterKind _kind;

    private Figure(string key, string label, string source, ParameterKind kind)
    {
        (Key, Label, Source, _kind) = (key, label, source, kind);
    }

    /// <summary>Stable key, kebab-case.</summary>
    public string Key { get; }

    /// <summary>What it is, as derivations print it.</summary>
    public string Label { get; }

    /// <summary>Statute and section, unless a value names another.</summary>
    public string Source { get; }

    /// <summary>An amount of money.</summary>
    public static Figure Money(string key, string label, string source) => new(key, label, source, ParameterKind.Amount);

    /// <summary>A rate; its values are given in per cent.</summary>
    public static Figure Percent(string key, string label, string source) => new(key, label, source, ParameterKind.Rate);

    /// <summary>A plain number.</summary>
    public static Figure Number(string key, string label, string source) => new(key, label, source, ParameterKind.Number);

    /// <summary>The value from a year on, until the next that is named.</summary>
    /// <exception cref="RuleException">The year is not later than the one named before it.</exception>
    public Figure From(int year, decimal value, Confidence confidence, string? note = null, string? label = null, string? source = null) =>
        Add(new Dated(year, null, value, confidence, note, label, source));

    /// <summary>The value of one year only; what held before it holds again afterwards.</summary>
    /// <exception cref="RuleException">The year is named already.</exception>
    public Figure For(int year, decimal value, Confidence confidence, string? note = null, string? label = null, string? source = null) =>
        Add(new Dated(year, year, value, confidence, note, label, source));

    /// <summary>From this year on the law knows the figure no longer.</summary>
    public Figure RepealedFrom(int year) => Add(new Dated(year, null, null, Confidence.Certain, null, null, null));

    /// <summary>The figure of a year.</summary>
    /// <exception cref="RuleException">The law has none for that year, or none is known here.</exception>
    public Parameter In(int year) => InOrNone(year) ?? throw new RuleException($"The figure '{Key}' has no value for {year}.");

    /// <summary>The figure of a year; null where the law has none.</summary>
    public Parameter? InOrNone(int year)
    {
        var dated = _history.Find(d => d.Until == year) ?? _history.FindLast(d => d.Until is null && d.From <= year);
        return dated?.Value is not { } value ? null
            : new Parameter(
                InYear(dated.Label ?? Label, year),
                _kind == ParameterKind.Rate ? value / 100m : value,
                _kind,
                InYear(dated.Source ?? Source, year),
                dated.Confidence,
                dated.Note is { } note ? InYear(note, year) : null)
            {
                Key = Key,
            };
    }

    private Figure Add(Dated dated)
    {
        if (_history.Exists(d => d.Until is null == dated.Until is null && (dated.Until is null ? d.From >= dated.From : d.From == dated.From)))
        {
            throw new RuleException($"The figure '{Key}' has more than one value for {dated.From}, or its years do not rise.");
        }

        _history.Add(dated);
        return this;
    }

    private static string InYear(string text, int year) => text.Replace("{year}", $"{year}", StringComparison.Ordinal);

    private sealed record Dated(int From, int? Until, decimal? Value, Confidence Confidence, string? Note, string? Label, string? Source);
}

/// <summary>The law of one return as it is in force in a year: a class per return whose members are the figures of the law, each with its history.</summary>
/// <param name="year">Tax year.</param>
public abstract class LawInForce(int year)
{
    private readonly LawEdition _edition = LawEdition.BeingBuilt;

    /// <summary>Tax year.</summary>
    public int Year { get; } = year;

    /// <summary>The figure of this year.</summary>
    /// <exception cref="RuleException">The law has none for this year, or none is known here.</exception>
    protected Parameter InForce(Figure figure) => _edition.LaidOver(figure.In(Year), Year);

    /// <summary>The figure of this year; null where the law has none.</summary>
    protected Parameter? InForceOrNone(Figure figure) => figure.InOrNone(Year) is { } parameter ? _edition.LaidOver(parameter, Year) : null;

    /// <summary>The table of this year.</summary>
    /// <exception cref="RuleException">None had begun.</exception>
    protected T InForce<T>(DatedTable<T> table)
        where T : class => _edition.LaidOver(table.In(Year), Year);
}

/// <summary>A table of the law with its history, a schedule of rates for example: the one of a year is the last that began.</summary>
/// <param name="key">Stable key, kebab-case.</param>
public sealed class DatedTable<T>(string key)
    where T : class
{
    private readonly List<(int From, T Table)> _history = [];

    /// <summary>The table from a year on.</summary>
    /// <exception cref="RuleException">The year is not later than the one named before it.</exception>
    public DatedTable<T> From(int year, T table)
    {
        if (_history is [.., var (last, _)] && last >= year)
        {
            throw new RuleException($"The table '{key}' is given for {year} after {last}; the years must rise.");
        }

        _history.Add((year, table));
        return this;
    }

    /// <summary>The table of a year.</summary>
    /// <exception cref="RuleException">None had begun.</exception>
    public T In(int year) => _history.FindLast(h => h.From <= year).Table ?? throw new RuleException($"The table '{key}' has none for {year}.");
}
