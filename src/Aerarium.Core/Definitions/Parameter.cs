using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>How sure we are that a parameter states the law of its year.</summary>
public enum Confidence
{
    /// <summary>Known beyond reasonable doubt.</summary>
    Certain,

    /// <summary>Believed, not yet held against the gazetted text.</summary>
    Likely,

    /// <summary>Must be held against the gazetted text before anybody relies on it.</summary>
    Unsure,
}

/// <summary>How a parameter's value is read.</summary>
public enum ParameterKind
{
    /// <summary>An amount of money.</summary>
    Amount,

    /// <summary>A rate; stored as a fraction, printed in per cent.</summary>
    Rate,

    /// <summary>A plain number, of months for example.</summary>
    Number,
}

/// <summary>A figure of the law for one year: its value, the section it stands in, and how sure we are.</summary>
/// <param name="Label">What it is, as derivations print it.</param>
/// <param name="Value">The value; rates as fractions.</param>
/// <param name="Kind">How the value is read.</param>
/// <param name="Source">Statute and section.</param>
/// <param name="Confidence">How sure we are.</param>
/// <param name="Note">What a reader must know when the figure is not certain.</param>
public sealed record Parameter(string Label, decimal Value, ParameterKind Kind, string Source, Confidence Confidence, string? Note = null)
{
    /// <summary>An amount of money.</summary>
    public static Parameter Money(string label, decimal value, string source, Confidence confidence, string? note = null) =>
        new(label, value, ParameterKind.Amount, source, confidence, note);

    /// <summary>A rate, given in per cent.</summary>
    public static Parameter Percent(string label, decimal percent, string source, Confidence confidence, string? note = null) =>
        new(label, percent / 100m, ParameterKind.Rate, source, confidence, note);

    /// <summary>A plain number.</summary>
    public static Parameter Number(string label, decimal value, string source, Confidence confidence, string? note = null) =>
        new(label, value, ParameterKind.Number, source, confidence, note);

    /// <summary>Stable key where the figure has a history; null for one that stands in a rule alone.</summary>
    public string? Key { get; init; }

    /// <summary>The value as printed: 15% or 28,800.</summary>
    public string ValueInWords => Kind == ParameterKind.Rate ? $"{Figures.Plain(Value * 100m)}%" : Figures.Plain(Value);

    /// <summary>Product of a parameter and an amount.</summary>
    public static Amount operator *(Parameter parameter, Amount amount) => new ParameterValue(parameter) * amount;

    /// <summary>Sum of a parameter and an amount.</summary>
    public static Amount operator +(Parameter parameter, Amount amount) => new ParameterValue(parameter) + amount;
}
