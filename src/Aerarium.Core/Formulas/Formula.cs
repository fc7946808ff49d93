using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>
/// A node of an immutable formula tree. One tree serves evaluation (interpreted and compiled), dependency order,
/// derivation, reverse use and the description in words; nothing about a rule is written twice.
/// </summary>
public abstract class Formula
{
    /// <summary>The operands directly beneath this node, in written order.</summary>
    public abstract IReadOnlyList<Formula> Operands { get; }

    /// <summary>The formula in words, as it is printed in the Margin and by the command line.</summary>
    public abstract string Words { get; }

    /// <summary>The line this node refers to, when it is a reference to a line; otherwise null.</summary>
    public virtual Line? ReferredLine => null;

    /// <summary>The repeating section whose rows this node walks over, when it is an aggregate; otherwise null.</summary>
    public virtual RepeatingSection? WalksOver => null;

    /// <summary>What it takes from the law and another edition may say otherwise: a figure or a table; null for everything else.</summary>
    internal virtual object? OfLaw => null;

    /// <summary>What this node says beside its operands, by key, code and value and never by label; the basis of the figure revision.</summary>
    internal virtual IEnumerable<object> Facts => ReferredLine is { } line ? [line] : [];

    /// <summary>Writes the node as a spreadsheet formula (OpenFormula, ISO/IEC 26300); exact to the cent where binary floating point is not, by the roundings it places.</summary>
    public abstract string Spreadsheet(ICellNames cells);

    /// <summary>Translates the node into an expression over a <see cref="Sheet"/>.</summary>
    public abstract Expression Emit(Emitter emitter);

    /// <summary>The lines of which it asks whether they are filled in.</summary>
    internal virtual IEnumerable<Line> AsksWhetherFilled => [];

    /// <inheritdoc />
    public override string ToString() => Words;
}

/// <summary>
/// A formula whose value is an amount or a number (<see cref="decimal"/>). Blank reads as zero.
/// </summary>
public abstract class Amount : Formula
{
    /// <summary>The value on this sheet; for row formulas, in the row the sheet is standing on.</summary>
    public abstract decimal Evaluate(Sheet sheet);

    /// <summary>A constant. There is on purpose no conversion from floating point.</summary>
    public static implicit operator Amount(decimal value) => new Constant(value);

    /// <summary>A whole constant.</summary>
    public static implicit operator Amount(int value) => new Constant(value);

    /// <summary>A parameter of the law, with its source.</summary>
    public static implicit operator Amount(Parameter parameter) => new ParameterValue(parameter);

    /// <summary>Sum.</summary>
    public static Amount operator +(Amount left, Amount right) => new Sum(left, right, subtract: false);

    /// <summary>Difference.</summary>
    public static Amount operator -(Amount left, Amount right) => new Sum(left, right, subtract: true);

    /// <summary>Sign changed.</summary>
    public static Amount operator -(Amount operand) => new Sum(new Constant(0), operand, subtract: true);

    /// <summary>Product.</summary>
    public static Amount operator *(Amount left, Amount right) => new Product(left, right);

    /// <summary>Quotient; the rule must exclude a zero divisor, otherwise evaluation fails and names the line.</summary>
    public static Amount operator /(Amount left, Amount right) => new Quotient(left, right);

    /// <summary>Less than.</summary>
    public static Condition operator <(Amount left, Amount right) => new Comparison(left, right, Relation.Less);

    /// <summary>Greater than.</summary>
    public static Condition operator >(Amount left, Amount right) => new Comparison(left, right, Relation.Greater);

    /// <summary>At most.</summary>
    public static Condition operator <=(Amount left, Amount right) => new Comparison(left, right, Relation.AtMost);

    /// <summary>At least.</summary>
    public static Condition operator >=(Amount left, Amount right) => new Comparison(left, right, Relation.AtLeast);

    /// <summary>Equal. A method, because == would compare references and silently build a wrong rule.</summary>
    public Condition Equals(decimal value) => new Comparison(this, value, Relation.Equal);

    /// <summary>Different from.</summary>
    public Condition DiffersFrom(Amount other) => new Comparison(this, other, Relation.Different);
}

/// <summary>A formula that holds or does not.</summary>
public abstract class Condition : Formula
{
    /// <summary>Whether the condition holds on this sheet.</summary>
    public abstract bool Holds(Sheet sheet);

    /// <summary>Both hold.</summary>
    public static Condition operator &(Condition left, Condition right) => new Both(left, right);

    /// <summary>At least one holds.</summary>
    public static Condition operator |(Condition left, Condition right) => new Either(left, right);

    /// <summary>Does not hold.</summary>
    public static Condition operator !(Condition operand) => new Not(operand);

    private protected static NotSupportedException OnlyInFindings() => new("This condition is asked in findings only, and these are not part of the workings.");
}

/// <summary>A formula whose value is a calendar date, as a day number; blank reads as day zero.</summary>
public abstract class DateFormula : Formula
{
    /// <summary>The day number on this sheet (<see cref="DateOnly.DayNumber"/>), zero when blank.</summary>
    public abstract int Evaluate(Sheet sheet);

    /// <summary>A fixed date.</summary>
    public static implicit operator DateFormula(DateOnly date) => new FixedDate(date);

    /// <summary>Earlier than.</summary>
    public static Condition operator <(DateFormula left, DateFormula right) => new DateComparison(left, right, Relation.Less);

    /// <summary>Later than.</summary>
    public static Condition operator >(DateFormula left, DateFormula right) => new DateComparison(left, right, Relation.Greater);

    /// <summary>On or before.</summary>
    public static Condition operator <=(DateFormula left, DateFormula right) => new DateComparison(left, right, Relation.AtMost);

    /// <summary>On or after.</summary>
    public static Condition operator >=(DateFormula left, DateFormula right) => new DateComparison(left, right, Relation.AtLeast);

    /// <summary>Another date.</summary>
    public Condition DiffersFrom(DateFormula other) => new DateComparison(this, other, Relation.Different);

    /// <summary>The same day a number of years later (29 February becomes 28 February).</summary>
    public DateFormula AddYears(int years) => new YearsLater(this, years);

    /// <summary>The same day a number of months later, or earlier where it is negative; the last day of a month that is too short.</summary>
    public DateFormula AddMonths(int months) => new MonthsLater(this, months);

    /// <summary>A number of days later, or earlier where it is negative.</summary>
    public DateFormula AddDays(int days) => new DaysLater(this, days);
}

/// <summary>A formula whose value is a text, or the code of a choice; blank is no text.</summary>
public abstract class TextFormula : Formula
{
    /// <summary>The text on this sheet, null when blank; for row formulas, in the row the sheet is standing on.</summary>
    public abstract string? Evaluate(Sheet sheet);

    /// <summary>A text written in a rule.</summary>
    public static implicit operator TextFormula(string text) => new FixedText(text);

    /// <summary>Whether it is the same text or code as another; blanks are the same as nothing.</summary>
    public Condition SameAs(TextFormula other) => new SameText(this, other);
}

/// <summary>How two operands are compared.</summary>
public enum Relation
{
    /// <summary>Less than, earlier than.</summary>
    Less,

    /// <summary>At most, on or before.</summary>
    AtMost,

    /// <summary>Greater than, later than.</summary>
    Greater,

    /// <summary>At least, on or after.</summary>
    AtLeast,

    /// <summary>Equal.</summary>
    Equal,

    /// <summary>Different.</summary>
    Different,
}
