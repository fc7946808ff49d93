using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>A range of a schedule or table that is laid over the law.</summary>
/// <param name="UpTo">Upper edge, inclusive; null for the last range.</param>
/// <param name="Value">The rate of the range in per cent, or the amount fixed for it.</param>
public sealed record LawRange(decimal? UpTo, decimal Value);

/// <summary>What a figure or table of the law is taken to say in place of what the product's law says.</summary>
/// <param name="Figure">Key of the figure, as <see cref="LawFigures"/> names it.</param>
/// <param name="Value">Value of a single figure, a rate in per cent; null for a table.</param>
/// <param name="Ranges">Ranges of a schedule or table, lowest first; none for a single figure.</param>
/// <param name="Source">Where it stands, for a correction that counts; null for a value that is only tried. A figure with a source is certain.</param>
public sealed record LawCorrection(string Figure, decimal? Value, IReadOnlyList<LawRange> Ranges, string? Source = null)
{
    /// <summary>What it says, in words: 25%, or the ranges of a table.</summary>
    public string InWords(bool rate)
    {
        var unit = rate ? "%" : "";
        return Value is { } value ? $"{Figures.Plain(value)}{unit}"
            : string.Join("; ", Ranges.Select(r => $"{(r.UpTo is { } edge ? $"up to {Figures.Plain(edge)}" : "above")}: {Figures.Plain(r.Value)}{unit}"));
    }
}

/// <summary>
/// The product's law with corrections laid over it. A definition is built under one edition and keeps it; labels, limits and conditions that name a
/// corrected figure follow it, and no formula is edited.
/// </summary>
public sealed class LawEdition
{
    private const decimal Whole = 100;

    /// <summary>No figure of the law is larger.</summary>
    private const decimal Largest = 1_000_000_000_000;

    [ThreadStatic]
    private static LawEdition? building;

    [ThreadStatic]
    private static HashSet<string>? laidOver;

    private readonly Dictionary<string, LawCorrection> _corrections;

    /// <summary>An edition.</summary>
    /// <exception cref="RuleException">A figure is corrected twice, or with neither a value nor ranges, or with both.</exception>
    public LawEdition(IReadOnlyList<LawCorrection> corrections)
    {
        foreach (var correction in corrections)
        {
            if (correction.Value is null == (correction.Ranges.Count == 0))
            {
                throw new RuleException($"'{correction.Figure}': give either a value or the ranges of a table.");
            }
        }

        if (corrections.GroupBy(c => c.Figure).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw new RuleException($"'{twice.Key}' is given twice; keep one of them.");
        }

        _corrections = corrections.ToDictionary(c => c.Figure);
    }

    /// <summary>What is laid over the law.</summary>
    public IReadOnlyCollection<LawCorrection> Corrections => _corrections.Values;

    /// <summary>This edition with further corrections; one of the same figure takes the place of what is here.</summary>
    /// <exception cref="RuleException">A figure is corrected twice, or with neither a value nor ranges, or with both.</exception>
    public LawEdition With(IReadOnlyList<LawCorrection> further) =>
        new([.. _corrections.Values.Where(c => further.All(f => f.Figure != c.Figure)), .. further]);

    /// <summary>This edition without the corrections of some figures.</summary>
    public LawEdition Without(IReadOnlyCollection<string> figures) => new([.. _corrections.Values.Where(c => !figures.Contains(c.Figure))]);

    /// <summary>Tells editions apart: the same corrections give the same text.</summary>
    public string Key => string.Join('|', _corrections.Values.OrderBy(c => c.Figure, StringComparer.Ordinal).Select(c =>
        $"{c.Figure}={(c.Value is { } value ? Figures.Plain(value) : string.Join(',', c.Ranges.Select(r => $"{(r.UpTo is { } edge ? Figures.Plain(edge) : "")}:{Figures.Plain(r.Value)}")))}@{c.Source}"));

    /// <summary>The law as the product states it.</summary>
    public static LawEdition AsWritten { get; } = new([]);

    /// <summary>The edition under which a definition is being built on this thread.</summary>
    internal static LawEdition BeingBuilt => building ?? AsWritten;

    /// <summary>Builds a definition under this edition.</summary>
    /// <exception cref="RuleException">
    /// A correction names no figure of the return or one that cannot be given another value, has another shape than its figure, or is out of range; the
    /// message says which and what to do.
    /// </exception>
    public Definition Build(Func<Definition> create)
    {
        var (before, beforeLaidOver) = (building, laidOver);
        (building, laidOver) = (this, []);
        try
        {
            var definition = create();
            var labels = LawFigures.Of(definition).ToDictionary(f => f.Key, f => f.Label);
            foreach (var figure in _corrections.Keys)
            {
                if (!labels.TryGetValue(figure, out var label))
                {
                    throw new RuleException($"'{figure}' is no figure of {definition.Id} {definition.Year}; 'law {definition.Id} {definition.Year}' lists their keys.");
                }

                if (!laidOver.Contains(figure) || labels.ContainsKey($"{figure}-2"))
                {
                    throw new RuleException($"{label}: no other value can be tried; {(laidOver.Contains(figure) ? "several figures go by this name" : "it stands in a rule, not among the dated figures")}.");
                }
            }

            return definition;
        }
        finally
        {
            (building, laidOver) = (before, beforeLaidOver);
        }
    }

    /// <summary>A figure with what this edition says of it.</summary>
    /// <exception cref="RuleException">The correction has another shape, or is out of range.</exception>
    internal Parameter LaidOver(Parameter parameter, int year)
    {
        if (CorrectionOf(parameter, year) is not { } correction)
        {
            return parameter;
        }

        if (correction.Value is not { } value)
        {
            throw new RuleException($"{parameter.Label}: this is a single figure; give a value, not ranges.");
        }

        InRange(parameter.Label, value, parameter.Kind == ParameterKind.Rate, parameter.Kind == ParameterKind.Rate ? parameter.Value * Whole : parameter.Value);
        var laid = parameter with { Value = parameter.Kind == ParameterKind.Rate ? value / Whole : value };
        return correction.Source is not { } source ? laid : laid with
        {
            Source = source,
            Confidence = Confidence.Certain,
            Note = $"The product's law says {parameter.ValueInWords}.",
        };
    }

    /// <summary>A table with what this edition says of it.</summary>
    /// <exception cref="RuleException">The correction has another shape, is out of range, or its edges do not rise to an open last range.</exception>
    internal T LaidOver<T>(T table, int year)
        where T : class
    {
        if (table is not (RateSchedule or ZoneTariff or StepTable) || CorrectionOf(table, year) is not { } correction)
        {
            return table;
        }

        var label = table switch { RateSchedule schedule => schedule.Label, StepTable steps => steps.Label, _ => ((ZoneTariff)(object)table).Label };
        if (table is ZoneTariff)
        {
            throw new RuleException($"{label}: no other value can be tried; it is a tariff of formulas.");
        }

        if (correction.Ranges.Count == 0)
        {
            throw new RuleException($"{label}: this is a table; give its ranges, each with its upper edge and value, the last without an edge.");
        }

        var edges = correction.Ranges.Select(r => r.UpTo).ToList();
        if (edges[..^1].FindIndex(e => e is null) is >= 0 and var without)
        {
            throw new RuleException($"{label}: give range {without + 1} an upper edge; only the last range has none.");
        }

        if (edges[^1] is not null)
        {
            throw new RuleException($"{label}: add a last range without an upper edge, for all that is above {Figures.Plain(edges[^1]!.Value)}.");
        }

        for (var at = 0; at < edges.Count - 1; at++)
        {
            if (edges[at] > Largest)
            {
                throw new RuleException($"{label}: range {at + 1} ends at {Figures.Plain(edges[at]!.Value)}, larger than any figure of the law; check for digits too many.");
            }

            if (edges[at] <= (at == 0 ? 0 : edges[at - 1]))
            {
                throw new RuleException($"{label}: range {at + 1} ends at {Figures.Plain(edges[at]!.Value)}, which is not above {Figures.Plain(at == 0 ? 0 : edges[at - 1]!.Value)}; the edges must rise.");
            }
        }

        foreach (var range in correction.Ranges)
        {
            InRange(label, range.Value, table is RateSchedule, 0);
        }

        var (source, known) = (correction.Source, correction.Source is not null);
        return (T)(object)(table switch
        {
            RateSchedule schedule => new RateSchedule(
                schedule.Label, source ?? schedule.Source, known ? Confidence.Certain : schedule.Confidence, [.. correction.Ranges.Select((r, at) => (r.UpTo - (at == 0 ? 0 : edges[at - 1]), r.Value))]),
            StepTable steps => new StepTable(steps.Label, source ?? steps.Source, known ? Confidence.Certain : steps.Confidence, [.. correction.Ranges.Select(r => (r.UpTo, r.Value))]),
            _ => throw new NotSupportedException($"A table of type {table.GetType().Name}."),
        });
    }

    private LawCorrection? CorrectionOf(object fact, int year)
    {
        if (_corrections.Count == 0 || !_corrections.TryGetValue(LawFigures.NameOf(fact, year), out var correction))
        {
            return null;
        }

        laidOver?.Add(correction.Figure);
        return correction;
    }

    /// <summary>A rate lies between 0 and 100% unless the law's own lies outside; an amount is not negative unless the law's own is, and none is beyond all measure.</summary>
    private static void InRange(string label, decimal value, bool rate, decimal written)
    {
        if (value < 0 && written >= 0)
        {
            throw new RuleException($"{label}: {Figures.Plain(value)} is below zero.");
        }

        if (value > Largest)
        {
            throw new RuleException($"{label}: {Figures.Plain(value)} is larger than any figure of the law; check for digits too many.");
        }

        if (rate && value > Whole && written <= Whole)
        {
            throw new RuleException($"{label}: a rate of {Figures.Plain(value)}% is above 100%; rates are given in per cent.");
        }
    }
}
