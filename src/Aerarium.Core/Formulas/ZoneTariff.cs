using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>
/// A zone of a tariff: for an amount x up to its upper edge the tax is (<paramref name="Quadratic"/> y + <paramref name="Linear"/>) y + <paramref name="Constant"/>, where y is
/// (x - <paramref name="Start"/>) / <paramref name="Unit"/>. A zone with one rate throughout has no quadratic part, starts at zero and has unit one.
/// </summary>
/// <param name="UpTo">Upper edge, inclusive; null for the last zone.</param>
/// <param name="Start">What is taken off the amount first.</param>
/// <param name="Unit">By what the rest is divided.</param>
/// <param name="Quadratic">Factor of the square.</param>
/// <param name="Linear">Factor of y.</param>
/// <param name="Constant">What is added.</param>
public sealed record TariffZone(decimal? UpTo, decimal Start, decimal Unit, decimal Quadratic, decimal Linear, decimal Constant)
{
    /// <summary>A zone in which nothing is due.</summary>
    public static TariffZone Free(decimal upTo) => new(upTo, 0, 1, 0, 0, 0);

    /// <summary>A zone of one rate, given as a fraction, less a fixed amount.</summary>
    public static TariffZone Flat(decimal? upTo, decimal rate, decimal less) => new(upTo, 0, 1, 0, rate, -less);

    /// <summary>The tax on an amount of this zone, unrounded.</summary>
    public decimal Apply(decimal amount)
    {
        var y = (amount - Start) / Unit;
        return (((Quadratic * y) + Linear) * y) + Constant;
    }

    /// <summary>The formula as a statute prints it.</summary>
    public string Words
    {
        get
        {
            var y = Start == 0 && Unit == 1 ? "x" : $"(x - {Figures.Plain(Start)}) / {Figures.Plain(Unit)}";
            var growing = Quadratic == 0 ? $"{Figures.Plain(Linear)} y" : $"({Figures.Plain(Quadratic)} y + {Figures.Plain(Linear)}) y";
            return (Quadratic, Linear, Constant) == (0m, 0m, 0m) ? "nothing" : $"{growing} {(Constant < 0 ? "-" : "+")} {Figures.Plain(Math.Abs(Constant))}, y = {y}";
        }
    }
}

/// <summary>A tariff in zones with a formula each, as some statutes print it instead of slices.</summary>
public sealed class ZoneTariff
{
    /// <summary>A tariff.</summary>
    /// <param name="label">Its name.</param>
    /// <param name="source">Statutory source.</param>
    /// <param name="confidence">How sure the source is.</param>
    /// <param name="zones">The zones, lowest first.</param>
    /// <exception cref="RuleException">The edges do not rise, the last zone is not open, or a unit is zero.</exception>
    public ZoneTariff(string label, string source, Confidence confidence, params TariffZone[] zones)
    {
        if (zones.Length == 0 || zones[^1].UpTo is not null || zones[..^1].Any(z => z.UpTo is null) || zones.Any(z => z.Unit == 0)
            || zones[..^1].Zip(zones[..^1].Skip(1)).Any(pair => pair.First.UpTo >= pair.Second.UpTo))
        {
            throw new RuleException($"Tariff '{label}': the edges must rise, only the last zone may be open, and no unit may be zero.");
        }

        (Label, Source, Confidence, Zones) = (label, source, confidence, zones);
    }

    /// <summary>Name of the tariff.</summary>
    public string Label { get; }

    /// <summary>Statutory source.</summary>
    public string Source { get; }

    /// <summary>How sure the source is.</summary>
    public Confidence Confidence { get; }

    /// <summary>The zones, lowest first.</summary>
    public IReadOnlyList<TariffZone> Zones { get; }

    /// <summary>The zone an amount lies in.</summary>
    public TariffZone ZoneOf(decimal amount)
    {
        var index = 0;
        while (Zones[index].UpTo is { } edge && amount > edge)
        {
            index++;
        }

        return Zones[index];
    }

    /// <summary>Tax on an amount, unrounded.</summary>
    public decimal Apply(decimal amount) => ZoneOf(amount).Apply(amount);
}

/// <summary>A tariff in zones applied to an amount.</summary>
public sealed class ByZones(ZoneTariff tariff, Amount operand) : Amount
{
    /// <summary>The tariff.</summary>
    public ZoneTariff Tariff { get; } = tariff;

    /// <summary>What it is applied to.</summary>
    public Amount Operand { get; } = operand;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Operand];

    /// <inheritdoc />
    internal override object? OfLaw => Tariff;

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Tariff];

    /// <inheritdoc />
    public override string Words => $"{Tariff.Label} applied to {Operand.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Tariff.Apply(Operand.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Zones(Tariff, Operand.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(emitter.OfLaw(this, Tariff), nameof(ZoneTariff.Apply), [], Operand.Emit(emitter));
}

/// <summary>A table of the law looked up by range, with several columns: each column is a table of steps of its own.</summary>
public sealed class RangeTable
{
    private readonly Dictionary<string, StepTable> _columns;

    /// <summary>A table.</summary>
    /// <param name="label">Its name.</param>
    /// <param name="source">Statutory source.</param>
    /// <param name="confidence">How sure the source is.</param>
    /// <param name="columns">Names of the columns.</param>
    /// <param name="rows">Upper edge of each range, inclusive (null for the last), and what stands in each column.</param>
    /// <exception cref="RuleException">A row has more or fewer columns, the ranges do not rise, or the last is not open.</exception>
    public RangeTable(string label, string source, Confidence confidence, IReadOnlyList<string> columns, params (decimal? UpTo, decimal[] Values)[] rows)
    {
        if (rows.FirstOrDefault(r => r.Values.Length != columns.Count) is { Values: not null } wrong)
        {
            throw new RuleException($"Table '{label}': the row up to {wrong.UpTo?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "above"} has {wrong.Values.Length} columns instead of {columns.Count}.");
        }

        _columns = columns.Index().ToDictionary(
            c => c.Item, c => new StepTable($"{label}, {c.Item}", source, confidence, [.. rows.Select(r => (r.UpTo, r.Values[c.Index]))]));
    }

    /// <summary>A column of the table.</summary>
    /// <exception cref="RuleException">There is no such column.</exception>
    public StepTable this[string column] =>
        _columns.TryGetValue(column, out var table) ? table : throw new RuleException($"There is no column '{column}'; the columns are {string.Join(", ", _columns.Keys)}.");
}

/// <summary>A case of a decision table.</summary>
/// <param name="When">When it applies.</param>
/// <param name="Then">The amount then.</param>
public sealed record DecisionCase(Condition When, Amount Then);

/// <summary>Cases read from top to bottom: the amount of the first that applies, or the last amount when none does.</summary>
public sealed class DecisionTable(string label, IReadOnlyList<DecisionCase> cases, Amount otherwise) : Amount
{
    /// <summary>What is decided.</summary>
    public string Label { get; } = label;

    /// <summary>The cases, in order.</summary>
    public IReadOnlyList<DecisionCase> Cases { get; } = cases;

    /// <summary>The amount when no case applies.</summary>
    public Amount Otherwise { get; } = otherwise;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [.. Cases.SelectMany(c => (Formula[])[c.When, c.Then]), Otherwise];

    /// <inheritdoc />
    public override string Words => $"{Label}: {string.Join("; ", Cases.Select(c => $"{c.Then.Words} if {c.When.Words}"))}; otherwise {Otherwise.Words}";

    /// <summary>Position of the case that applies; one after the last when none does.</summary>
    public int Applies(Sheet sheet)
    {
        var index = 0;
        while (index < Cases.Count && !Cases[index].When.Holds(sheet))
        {
            index++;
        }

        return index;
    }

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Applies(sheet) is var index && index < Cases.Count ? Cases[index].Then.Evaluate(sheet) : Otherwise.Evaluate(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) =>
        Cases.Reverse().Aggregate(Otherwise.Spreadsheet(cells), (rest, c) => $"IF({c.When.Spreadsheet(cells)},{c.Then.Spreadsheet(cells)},{rest})");

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Cases.Reverse().Aggregate(Otherwise.Emit(emitter), (rest, c) => Expression.Condition(c.When.Emit(emitter), c.Then.Emit(emitter), rest));
}
