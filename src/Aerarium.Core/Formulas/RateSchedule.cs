using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>One slice of a progressive schedule.</summary>
/// <param name="From">Lower edge, exclusive.</param>
/// <param name="To">Upper edge, inclusive; null for the last slice.</param>
/// <param name="Rate">Rate as a fraction: 0.25 is 25%.</param>
public sealed record Band(decimal From, decimal? To, decimal Rate);

/// <summary>A progressive schedule of rates by slices, as a statute prints it.</summary>
public sealed class RateSchedule
{
    /// <summary>A schedule of slices.</summary>
    /// <param name="label">Its name.</param>
    /// <param name="source">Statutory source.</param>
    /// <param name="confidence">How sure the source is.</param>
    /// <param name="slices">Width of each slice (null for the rest) and its rate in per cent.</param>
    /// <exception cref="RuleException">The slices are not positive, or the last one is not open.</exception>
    public RateSchedule(string label, string source, Confidence confidence, params (decimal? Width, decimal RatePercent)[] slices)
    {
        Label = label;
        Source = source;
        Confidence = confidence;
        var bands = new List<Band>();
        var edge = 0m;
        foreach (var (width, rate) in slices)
        {
            if (bands.Count > 0 && bands[^1].To is null)
            {
                throw new RuleException($"Schedule '{label}': only the last slice may be open.");
            }

            if (width is <= 0)
            {
                throw new RuleException($"Schedule '{label}': a slice must be wider than zero.");
            }

            bands.Add(new Band(edge, width is null ? null : edge + width, rate / 100m));
            edge += width ?? 0m;
        }

        if (bands.Count == 0 || bands[^1].To is not null)
        {
            throw new RuleException($"Schedule '{label}': the last slice must be open.");
        }

        Bands = bands;
        _edges = [.. bands.Select(b => b.From)];
        _rates = [.. bands.Select(b => b.Rate)];
        _below = new decimal[_edges.Length];
        for (var index = 1; index < _edges.Length; index++)
        {
            _below[index] = _below[index - 1] + ((_edges[index] - _edges[index - 1]) * _rates[index - 1]);
        }
    }

    private readonly decimal[] _edges;
    private readonly decimal[] _rates;
    private readonly decimal[] _below;

    /// <summary>Name of the schedule.</summary>
    public string Label { get; }

    /// <summary>Statutory source.</summary>
    public string Source { get; }

    /// <summary>How sure the source is.</summary>
    public Confidence Confidence { get; }

    /// <summary>The slices, lowest first.</summary>
    public IReadOnlyList<Band> Bands { get; }

    /// <summary>The rate of the lowest slice.</summary>
    public Parameter FirstRate => Parameter.Percent($"lowest rate of {Label}", Bands[0].Rate * 100, Source, Confidence);

    /// <summary>Tax on an amount: each slice at its own rate, unrounded; zero for amounts of zero or less.</summary>
    public decimal Apply(decimal amount)
    {
        if (amount <= 0)
        {
            return 0;
        }

        var index = _edges.Length - 1;
        while (amount <= _edges[index])
        {
            index--;
        }

        return _below[index] + ((amount - _edges[index]) * _rates[index]);
    }
}

/// <summary>A progressive schedule applied to an amount.</summary>
public sealed class Progressive(RateSchedule schedule, Amount operand) : Amount
{
    /// <summary>The schedule.</summary>
    public RateSchedule Schedule { get; } = schedule;

    /// <summary>What it is applied to.</summary>
    public Amount Operand { get; } = operand;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Operand];

    /// <inheritdoc />
    internal override object? OfLaw => Schedule;

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Schedule];

    /// <inheritdoc />
    public override string Words => $"{Schedule.Label} applied to {Operand.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Schedule.Apply(Operand.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Tax(Schedule, Operand.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(emitter.OfLaw(this, Schedule), nameof(RateSchedule.Apply), [], Operand.Emit(emitter));
}
