using System.Globalization;
using System.Linq.Expressions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>A date written in a rule.</summary>
public sealed class FixedDate(DateOnly date) : DateFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [date];

    /// <inheritdoc />
    public override string Words => date.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) => date.DayNumber;

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"DATE({date.Year},{date.Month},{date.Day})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Constant(date.DayNumber);
}

/// <summary>The day on which the return is evaluated; passed in, never read from a clock.</summary>
public sealed class Today : DateFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    public override string Words => "today";

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) => sheet.Today;

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Today;

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => emitter.Today;
}

/// <summary>A date some years later.</summary>
public sealed class YearsLater(DateFormula date, int years) : DateFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [date];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [years];

    /// <inheritdoc />
    public override string Words => $"{years} years after {date.Words}";

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) => Shift(date.Evaluate(sheet), years);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"EDATE({date.Spreadsheet(cells)},{12 * years})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(YearsLater), nameof(Shift), [], date.Emit(emitter), Expression.Constant(years));

    /// <summary>Day number some years later; dates outside the calendar stay where they are.</summary>
    public static int Shift(int dayNumber, int years)
    {
        var from = DateOnly.FromDayNumber(dayNumber);
        return from.Year + years is > 0 and < 9999 ? from.AddYears(years).DayNumber : dayNumber;
    }
}

/// <summary>The earlier or the later of two dates.</summary>
public sealed class ExtremeDate(DateFormula left, DateFormula right, bool later) : DateFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [left, right];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [later];

    /// <inheritdoc />
    public override string Words => $"the {(later ? "later" : "earlier")} of {left.Words} and {right.Words}";

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) =>
        later ? Math.Max(left.Evaluate(sheet), right.Evaluate(sheet)) : Math.Min(left.Evaluate(sheet), right.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"{(later ? "MAX" : "MIN")}({left.Spreadsheet(cells)},{right.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(
            typeof(Math).GetMethod(later ? nameof(Math.Max) : nameof(Math.Min), [typeof(int), typeof(int)])!,
            left.Emit(emitter),
            right.Emit(emitter));
}

/// <summary>One date or another, by a condition.</summary>
public sealed class ChooseDate(Condition when, DateFormula then, DateFormula otherwise) : DateFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [when, then, otherwise];

    /// <inheritdoc />
    public override string Words => $"{then.Words} if {when.Words}, otherwise {otherwise.Words}";

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) => when.Holds(sheet) ? then.Evaluate(sheet) : otherwise.Evaluate(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"IF({when.Spreadsheet(cells)},{then.Spreadsheet(cells)},{otherwise.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Condition(when.Emit(emitter), then.Emit(emitter), otherwise.Emit(emitter));
}

/// <summary>How months between two dates are counted.</summary>
public enum MonthCount
{
    /// <summary>Calendar months touched by the span, both ends included; zero when it ends before it starts.</summary>
    Touched,

    /// <summary>Calendar months begun after the month of the first date; zero when the second is not later.</summary>
    BegunAfter,
}

/// <summary>A number of calendar months between two dates.</summary>
public sealed class Months(DateFormula from, DateFormula to, MonthCount count) : Amount
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [from, to];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [count];

    /// <inheritdoc />
    public override string Words =>
        count == MonthCount.Touched
            ? $"calendar months from {from.Words} to {to.Words}"
            : $"months begun after {from.Words} until {to.Words}, part months counted whole";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Between(from.Evaluate(sheet), to.Evaluate(sheet), count);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => InSheet(from.Spreadsheet(cells), to.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(Months), nameof(Between), [], from.Emit(emitter), to.Emit(emitter), Expression.Constant(count));

    private string InSheet(string first, string last) =>
        $"IF(OR({first}=0,{last}=0,{last}<{first}),0,(YEAR({last})-YEAR({first}))*12+MONTH({last})-MONTH({first}){(count == MonthCount.Touched ? "+1" : "")})";

    /// <summary>Months between two day numbers; zero when either is blank or the span is empty.</summary>
    public static decimal Between(int from, int to, MonthCount count)
    {
        if (from == 0 || to == 0 || to < from)
        {
            return 0;
        }

        var first = DateOnly.FromDayNumber(from);
        var last = DateOnly.FromDayNumber(to);
        return ((last.Year - first.Year) * 12) + last.Month - first.Month + (count == MonthCount.Touched ? 1 : 0);
    }
}

/// <summary>Days after one date until another, the last included; zero when either is blank or the span is empty.</summary>
public sealed class Days(DateFormula after, DateFormula until) : Amount
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [after, until];

    /// <inheritdoc />
    public override string Words => $"days after {after.Words} until {until.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Between(after.Evaluate(sheet), until.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => InSheet(after.Spreadsheet(cells), until.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(Days), nameof(Between), [], after.Emit(emitter), until.Emit(emitter));

    private static string InSheet(string first, string last) => $"IF(OR({first}=0,{last}<={first}),0,{last}-{first})";

    /// <summary>Days between two day numbers.</summary>
    public static decimal Between(int after, int until) => after == 0 || until <= after ? 0 : until - after;
}

/// <summary>The calendar year of a date; zero when blank.</summary>
public sealed class YearOf(DateFormula date) : Amount
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [date];

    /// <inheritdoc />
    public override string Words => $"year of {date.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Of(date.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => InSheet(date.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(YearOf), nameof(Of), [], date.Emit(emitter));

    private static string InSheet(string day) => $"IF({day}=0,0,YEAR({day}))";

    /// <summary>Calendar year of a day number, zero for day zero.</summary>
    public static decimal Of(int dayNumber) => dayNumber == 0 ? 0 : DateOnly.FromDayNumber(dayNumber).Year;
}
