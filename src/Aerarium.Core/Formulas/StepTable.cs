using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>A table that fixes one amount for a whole range, such as a monthly rate by engine size.</summary>
public sealed class StepTable
{
    private readonly decimal[] _edges;
    private readonly decimal[] _amounts;

    /// <summary>A table of steps.</summary>
    /// <param name="label">Its name.</param>
    /// <param name="source">Statutory source.</param>
    /// <param name="confidence">How sure the source is.</param>
    /// <param name="steps">Upper edge of each range, inclusive (null for the last), and the amount fixed for it.</param>
    /// <exception cref="RuleException">The ranges do not rise, or the last is not open.</exception>
    public StepTable(string label, string source, Confidence confidence, params (decimal? UpTo, decimal Amount)[] steps)
    {
        if (steps.Length == 0 || steps[^1].UpTo is not null || steps[..^1].Any(s => s.UpTo is null)
            || steps[..^1].Zip(steps[..^1].Skip(1)).Any(pair => pair.First.UpTo >= pair.Second.UpTo))
        {
            throw new RuleException($"Table '{label}': the ranges must rise and only the last may be open.");
        }

        Label = label;
        Source = source;
        Confidence = confidence;
        _edges = [.. steps[..^1].Select(s => s.UpTo!.Value)];
        _amounts = [.. steps.Select(s => s.Amount)];
    }

    /// <summary>Name of the table.</summary>
    public string Label { get; }

    /// <summary>Statutory source.</summary>
    public string Source { get; }

    /// <summary>How sure the source is.</summary>
    public Confidence Confidence { get; }

    /// <summary>Upper edge of each range, null for the last, and the amount fixed for it.</summary>
    public IReadOnlyList<(decimal? UpTo, decimal Amount)> Steps => [.. _amounts.Select((amount, index) => (index < _edges.Length ? _edges[index] : (decimal?)null, amount))];

    /// <summary>The ranges in words: up to 1,200: 3,600; ...</summary>
    public string Words =>
        string.Join("; ", _amounts.Select((amount, index) =>
            (index < _edges.Length ? $"up to {Figures.Plain(_edges[index])}" : "above") + $": {Figures.Plain(amount)}"));

    /// <summary>The amount fixed for a measure.</summary>
    public decimal Apply(decimal measure)
    {
        var index = 0;
        while (index < _edges.Length && measure > _edges[index])
        {
            index++;
        }

        return _amounts[index];
    }
}

/// <summary>A step table applied to a measure.</summary>
public sealed class Stepped(StepTable table, Amount measure) : Amount
{
    /// <summary>The table.</summary>
    public StepTable Table { get; } = table;

    /// <summary>What it is applied to.</summary>
    public Amount Measure { get; } = measure;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Measure];

    /// <inheritdoc />
    internal override object? OfLaw => Table;

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Table];

    /// <inheritdoc />
    public override string Words => $"{Table.Label} for {Measure.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Table.Apply(Measure.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Step(Table, Measure.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(emitter.OfLaw(this, Table), nameof(StepTable.Apply), [], Measure.Emit(emitter));
}
