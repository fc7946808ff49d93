using System.Globalization;
using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>A number written in a rule.</summary>
public sealed class Constant(decimal value) : Amount
{
    /// <summary>The number.</summary>
    public decimal Value { get; } = value;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Value];

    /// <inheritdoc />
    public override string Words => Figures.Plain(Value);

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Value;

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => Value < 0 ? $"({Figures.Canonical(Value)})" : Figures.Canonical(Value);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Constant(Value);
}

/// <summary>A parameter of the law used in a formula; derivations show its name, source and confidence.</summary>
public sealed class ParameterValue(Parameter parameter) : Amount
{
    /// <summary>The parameter.</summary>
    public Parameter Parameter { get; } = parameter;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    internal override object? OfLaw => Parameter;

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Parameter];

    /// <inheritdoc />
    public override string Words => $"{Parameter.Label} ({Parameter.ValueInWords})";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Parameter.Value;

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Of(Parameter);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => emitter.OfLaw(this, Parameter.Value);
}

/// <summary>A sum or a difference of two operands.</summary>
public sealed class Sum(Amount left, Amount right, bool subtract) : Amount
{
    /// <summary>Left operand.</summary>
    public Amount Left { get; } = left;

    /// <summary>Right operand.</summary>
    public Amount Right { get; } = right;

    /// <summary>True for a difference.</summary>
    public bool Subtract { get; } = subtract;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Left, Right];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Subtract];

    /// <inheritdoc />
    public override string Words => $"{Left.Words} {(Subtract ? "-" : "+")} {(Subtract && Right is Sum ? $"({Right.Words})" : Right.Words)}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) =>
        Subtract ? Left.Evaluate(sheet) - Right.Evaluate(sheet) : Left.Evaluate(sheet) + Right.Evaluate(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"({Left.Spreadsheet(cells)}{(Subtract ? "-" : "+")}{Right.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter)
    {
        if (Subtract)
        {
            return Expression.Subtract(Left.Emit(emitter), Right.Emit(emitter));
        }

        var total = Expression.Variable(typeof(decimal), "total");
        List<Expression> statements = [];
        foreach (var (index, summand) in Summands().Index())
        {
            var value = summand.Emit(emitter);
            statements.Add(index == 0 ? Expression.Assign(total, value) : Added(total, value));
        }

        return Expression.Block([total], [.. statements, total]);
    }

    /// <summary>Adds an amount to a running total; most lines of a form are blank, and a blank one costs no addition of decimals.</summary>
    internal static Expression Added(ParameterExpression total, Expression value)
    {
        var summand = Expression.Variable(typeof(decimal), "summand");
        return Expression.Block(
            [summand],
            Expression.Assign(summand, value),
            Expression.IfThen(
                RelationWords.Emit(Relation.Different, summand, Expression.Constant(0m)),
                Expression.Assign(total, Expression.Add(total, summand))));
    }

    private IEnumerable<Amount> Summands() =>
        Left is Sum { Subtract: false } sum ? sum.Summands().Append(Right) : [Left, Right];
}

/// <summary>A product of two operands.</summary>
public sealed class Product(Amount left, Amount right) : Amount
{
    /// <summary>Left factor.</summary>
    public Amount Left { get; } = left;

    /// <summary>Right factor.</summary>
    public Amount Right { get; } = right;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Left, Right];

    /// <inheritdoc />
    public override string Words => $"{Factor(Left)} x {Factor(Right)}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Left.Evaluate(sheet) * Right.Evaluate(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"({Left.Spreadsheet(cells)}*{Right.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Multiply(Left.Emit(emitter), Right.Emit(emitter));

    private static string Factor(Amount operand) => operand is Sum or Choose ? $"({operand.Words})" : operand.Words;
}

/// <summary>A quotient of two operands.</summary>
public sealed class Quotient(Amount left, Amount right) : Amount
{
    /// <summary>Dividend.</summary>
    public Amount Left { get; } = left;

    /// <summary>Divisor.</summary>
    public Amount Right { get; } = right;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Left, Right];

    /// <inheritdoc />
    public override string Words => $"{(Left is Sum ? $"({Left.Words})" : Left.Words)} / {(Right is Sum or Product ? $"({Right.Words})" : Right.Words)}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Left.Evaluate(sheet) / Right.Evaluate(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"({Left.Spreadsheet(cells)}/{Right.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Divide(Left.Emit(emitter), Right.Emit(emitter));
}

/// <summary>The least or the greatest of several operands.</summary>
public sealed class Extreme(IReadOnlyList<Amount> candidates, bool greatest) : Amount
{
    /// <summary>The amounts compared.</summary>
    public IReadOnlyList<Amount> Candidates { get; } = candidates;

    /// <summary>True for the greatest, false for the least.</summary>
    public bool Greatest { get; } = greatest;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => Candidates;

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Greatest];

    /// <inheritdoc />
    public override string Words =>
        Greatest && Candidates is [Constant { Value: 0 }, var only]
            ? $"{only.Words}, not below zero"
            : $"the {(Greatest ? "greatest" : "least")} of ({string.Join("; ", Candidates.Select(c => c.Words))})";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet)
    {
        var best = Candidates[0].Evaluate(sheet);
        for (var index = 1; index < Candidates.Count; index++)
        {
            var candidate = Candidates[index].Evaluate(sheet);
            best = Greatest ? Math.Max(best, candidate) : Math.Min(best, candidate);
        }

        return best;
    }

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"{(Greatest ? "MAX" : "MIN")}({string.Join(",", Candidates.Select(c => c.Spreadsheet(cells)))})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter)
    {
        if (Greatest && Candidates is [Constant { Value: 0 }, var only])
        {
            var amount = Expression.Variable(typeof(decimal), "amount");
            return Expression.Block(
                [amount],
                Expression.Assign(amount, only.Emit(emitter)),
                Expression.Condition(
                    RelationWords.Emit(Relation.Less, amount, Expression.Constant(0m)), Expression.Constant(0m), amount));
        }

        var method = typeof(Math).GetMethod(Greatest ? nameof(Math.Max) : nameof(Math.Min), [typeof(decimal), typeof(decimal)])!;
        return Candidates.Skip(1).Aggregate(
            Candidates[0].Emit(emitter),
            (best, candidate) => Expression.Call(method, best, candidate.Emit(emitter)));
    }
}

/// <summary>The size of an operand without its sign.</summary>
public sealed class Magnitude(Amount operand) : Amount
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [operand];

    /// <inheritdoc />
    public override string Words => $"size of ({operand.Words})";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Math.Abs(operand.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"ABS({operand.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(Math), nameof(Math.Abs), [], operand.Emit(emitter));
}

/// <summary>How a rule rounds. The mode is always named; there is no default.</summary>
public enum RoundingMode
{
    /// <summary>To the nearest unit, halves away from zero.</summary>
    HalfUp,

    /// <summary>Down towards zero.</summary>
    Down,

    /// <summary>Up, away from zero.</summary>
    Up,
}

/// <summary>A rounding that the law or the official form prescribes.</summary>
/// <param name="Unit">The unit rounded to: 0.01 for cents, 1, 10 ...</param>
/// <param name="Mode">The mode.</param>
public sealed record Rounding(decimal Unit, RoundingMode Mode)
{
    /// <summary>Nearest cent, halves up.</summary>
    public static readonly Rounding ToCents = new(0.01m, RoundingMode.HalfUp);

    /// <summary>The rounding in words.</summary>
    public string Words =>
        (Unit == 0.01m ? "to the cent" : Unit == 1 ? "to the whole unit" : $"to {Figures.Plain(Unit)}")
        + Mode switch { RoundingMode.HalfUp => ", half up", RoundingMode.Down => ", down", _ => ", up" };

    /// <summary>Rounds an amount to the unit in the named mode.</summary>
    public decimal Apply(decimal value)
    {
        if (Unit == 0.01m && Mode == RoundingMode.HalfUp)
        {
            return NearestCent(value);
        }

        var units = value / Unit;
        return Unit * Mode switch
        {
            RoundingMode.HalfUp => Math.Round(units, 0, MidpointRounding.AwayFromZero),
            RoundingMode.Down => Math.Truncate(units),
            _ => units < 0 ? Math.Floor(units) : Math.Ceiling(units),
        };
    }

    /// <summary>
    /// The same in a spreadsheet, where numbers are binary: an amount is first brought to a few decimals more than the unit has, so
    /// that a half which binary numbers miss by a hair is still a half.
    /// </summary>
    internal string Spreadsheet(string amount)
    {
        var decimals = Unit == 0.01m ? 2 : Unit == 1 ? 0 : -1;
        if (decimals >= 0)
        {
            return Mode switch
            {
                RoundingMode.HalfUp => $"ROUND(ROUND({amount},{decimals + 4}),{decimals})",
                RoundingMode.Down => $"ROUNDDOWN(ROUND({amount},{decimals + 6}),{decimals})",
                _ => $"ROUNDUP(ROUND({amount},{decimals + 6}),{decimals})",
            };
        }

        var unit = Figures.Canonical(Unit);
        return Mode switch
        {
            RoundingMode.HalfUp => $"(ROUND(ROUND({amount}/{unit},6),0)*{unit})",
            RoundingMode.Down => $"(ROUNDDOWN(ROUND({amount}/{unit},6),0)*{unit})",
            _ => $"(ROUNDUP(ROUND({amount}/{unit},6),0)*{unit})",
        };
    }

    /// <summary>To the nearest cent, halves away from zero; an amount without parts of a cent is left as it is.</summary>
    public static decimal NearestCent(decimal value) =>
        value.Scale <= 2 ? value : Math.Round(value, 2, MidpointRounding.AwayFromZero);
}

/// <summary>An operand rounded as the law says.</summary>
public sealed class Rounded(Amount operand, Rounding rounding) : Amount
{
    /// <summary>What is rounded.</summary>
    public Amount Operand { get; } = operand;

    /// <summary>How.</summary>
    public Rounding Rounding { get; } = rounding;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Operand];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Rounding.Unit, Rounding.Mode];

    /// <inheritdoc />
    public override string Words => $"{Operand.Words}, rounded {Rounding.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Rounding.Apply(Operand.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => Rounding.Spreadsheet(Operand.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Rounding == Rounding.ToCents
            ? Expression.Call(typeof(Rounding), nameof(Rounding.NearestCent), [], Operand.Emit(emitter))
            : Expression.Call(Expression.Constant(Rounding), nameof(Rounding.Apply), [], Operand.Emit(emitter));
}

/// <summary>One amount or another, by a condition; only the branch that applies is evaluated.</summary>
public sealed class Choose(Condition when, Amount then, Amount otherwise) : Amount
{
    /// <summary>The condition.</summary>
    public Condition When { get; } = when;

    /// <summary>The amount when it holds.</summary>
    public Amount Then { get; } = then;

    /// <summary>The amount when it does not.</summary>
    public Amount Otherwise { get; } = otherwise;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [When, Then, Otherwise];

    /// <inheritdoc />
    public override string Words => $"if {When.Words}: {Then.Words}; otherwise {Otherwise.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => When.Holds(sheet) ? Then.Evaluate(sheet) : Otherwise.Evaluate(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"IF({When.Spreadsheet(cells)},{Then.Spreadsheet(cells)},{Otherwise.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Condition(When.Emit(emitter), Then.Emit(emitter), Otherwise.Emit(emitter));
}

/// <summary>The amount a table of the law gives for a code (a fixed rate by kind, for example); zero while no code is chosen.</summary>
public sealed class Lookup(ChoiceLine choice, IReadOnlyDictionary<string, Parameter> table) : Amount
{
    private readonly decimal[] _byPosition =
        [0m, .. choice.Line.Choices!.Select(c => table.TryGetValue(c.Code, out var parameter) ? parameter.Value : 0m)];

    /// <summary>The code line.</summary>
    public ChoiceLine Choice { get; } = choice;

    /// <summary>The table of the law: codes and their amounts.</summary>
    public IReadOnlyDictionary<string, Parameter> Table { get; } = table;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Choice];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [.. Table.SelectMany(t => (object[])[t.Key, t.Value])];

    /// <inheritdoc />
    public override string Words => $"rate fixed for {Choice.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => _byPosition[sheet.CodeOf(Choice.Line)];

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Rate(this);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.ArrayIndex(Expression.Constant(_byPosition), emitter.CodeOf(Choice.Line));
}

/// <summary>Figures in neutral writing, for words in formulas and messages.</summary>
public static class Figures
{
    private static readonly CultureInfo Neutral = CultureInfo.InvariantCulture;

    /// <summary>Grouped by thousands with a decimal point, without superfluous decimals: 1,234.5.</summary>
    public static string Plain(decimal value) => value.ToString("#,##0.##########", Neutral);

    /// <summary>As money: whole amounts without decimals, others with two: 1,234 or 1,234.50.</summary>
    public static string Money(decimal value) =>
        value == decimal.Truncate(value) ? value.ToString("#,##0", Neutral) : value.ToString("#,##0.00", Neutral);

    /// <summary>Canonical text for storage and interchange: no grouping, no trailing zeros, decimal point.</summary>
    public static string Canonical(decimal value) => value.ToString("0.############################", Neutral);
}

/// <summary>An amount multiplied by itself a whole number of times, such as growth compounded day by day.</summary>
public sealed class Power(Amount factor, Amount times) : Amount
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [factor, times];

    /// <inheritdoc />
    public override string Words => $"({factor.Words}) to the power of {times.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Raise(factor.Evaluate(sheet), times.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"POWER({factor.Spreadsheet(cells)},{times.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(Power), nameof(Raise), [], factor.Emit(emitter), times.Emit(emitter));

    /// <summary>The factor multiplied by itself; one for less than one time. Parts of a time are left out.</summary>
    public static decimal Raise(decimal factor, decimal times)
    {
        var (result, square) = (1m, factor);
        for (var left = (int)Math.Clamp(times, 0, MostTimes); left > 0; left >>= 1)
        {
            result *= (left & 1) == 1 ? square : 1m;
            square *= left > 1 ? square : 1m;
        }

        return result;
    }

    private const int MostTimes = 10_000;
}
