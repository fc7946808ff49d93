using System.Globalization;
using System.Linq.Expressions;
using Aerarium.Core.Days;
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

/// <summary>A date some months later, or earlier.</summary>
public sealed class MonthsLater(DateFormula date, int months) : DateFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [date];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [months];

    /// <inheritdoc />
    public override string Words => ShiftWords.Of(months, "month", date);

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) => Shift(date.Evaluate(sheet), months);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => ShiftWords.UnlessBlank(date.Spreadsheet(cells), day => $"EDATE({day},{months})");

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(MonthsLater), nameof(Shift), [], date.Emit(emitter), Expression.Constant(months));

    /// <summary>Day number some months later; blank stays blank, and dates outside the calendar stay where they are.</summary>
    public static int Shift(int dayNumber, int months)
    {
        var from = DateOnly.FromDayNumber(dayNumber);
        return dayNumber != 0 && (from.Year * 12) + from.Month + months is > 12 and < 9999 * 12 ? from.AddMonths(months).DayNumber : dayNumber;
    }
}

/// <summary>A date some days later, or earlier.</summary>
public sealed class DaysLater(DateFormula date, int days) : DateFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [date];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [days];

    /// <inheritdoc />
    public override string Words => ShiftWords.Of(days, "day", date);

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) => Shift(date.Evaluate(sheet), days);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => ShiftWords.UnlessBlank(date.Spreadsheet(cells), day => $"({day}+{days})");

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(DaysLater), nameof(Shift), [], date.Emit(emitter), Expression.Constant(days));

    /// <summary>Day number some days later; blank stays blank, and dates outside the calendar stay where they are.</summary>
    public static int Shift(int dayNumber, int days) =>
        dayNumber != 0 && (long)dayNumber + days is > 0 and var shifted && shifted <= DateOnly.MaxValue.DayNumber ? (int)shifted : dayNumber;
}

/// <summary>The last day of the month a date lies in; blank stays blank.</summary>
public sealed class MonthEnd(DateFormula date) : DateFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [date];

    /// <inheritdoc />
    public override string Words => $"the end of the month of {date.Words}";

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) => Of(date.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => ShiftWords.UnlessBlank(date.Spreadsheet(cells), day => $"EOMONTH({day},0)");

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(MonthEnd), nameof(Of), [], date.Emit(emitter));

    /// <summary>Day number of the last day of the month.</summary>
    public static int Of(int dayNumber)
    {
        var day = DateOnly.FromDayNumber(dayNumber);
        return dayNumber == 0 ? 0 : dayNumber + DateTime.DaysInMonth(day.Year, day.Month) - day.Day;
    }
}

/// <summary>
/// Whole months, or whole years of twelve, that have passed from one date until another: an age. Somebody born on 29 February is a year
/// older on 1 March of other years. Zero when either is blank or the span is empty.
/// </summary>
public sealed class WholeMonths(DateFormula from, DateFormula until, bool years) : Amount
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [from, until];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [years];

    /// <inheritdoc />
    public override string Words => $"whole {(years ? "years" : "months")} from {from.Words} until {until.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Between(from.Evaluate(sheet), until.Evaluate(sheet), years);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => InSheet(from.Spreadsheet(cells), until.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(WholeMonths), nameof(Between), [], from.Emit(emitter), until.Emit(emitter), Expression.Constant(years));

    private string InSheet(string first, string last)
    {
        var passed = $"((YEAR({last})-YEAR({first}))*12+MONTH({last})-MONTH({first})-IF(DAY({last})<DAY({first}),1,0))";
        return $"IF(OR({first}=0,{last}=0,{last}<{first}),0,{(years ? $"INT({passed}/12)" : passed)})";
    }

    /// <summary>Whole months or years between two day numbers.</summary>
    public static decimal Between(int from, int until, bool years)
    {
        if (from == 0 || until == 0 || until < from)
        {
            return 0;
        }

        var (first, last) = (DateOnly.FromDayNumber(from), DateOnly.FromDayNumber(until));
        var passed = ((last.Year - first.Year) * 12) + last.Month - first.Month - (last.Day < first.Day ? 1 : 0);
        return years ? passed / 12 : passed;
    }
}

/// <summary>Days of a span, both ends included; zero when either is blank or the span is empty.</summary>
public sealed class DaysOfSpan(DateFormula from, DateFormula to) : Amount
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [from, to];

    /// <inheritdoc />
    public override string Words => $"days from {from.Words} to {to.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Of(from.Evaluate(sheet), to.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => InSheet(from.Spreadsheet(cells), to.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(DaysOfSpan), nameof(Of), [], from.Emit(emitter), to.Emit(emitter));

    private static string InSheet(string first, string last) => $"IF(OR({first}=0,{last}=0,{last}<{first}),0,{last}-{first}+1)";

    /// <summary>Days of a span between two day numbers.</summary>
    public static decimal Of(int from, int to) => from == 0 || to == 0 || to < from ? 0 : to - from + 1;
}

internal static class ShiftWords
{
    public static string Of(int by, string unit, DateFormula date) =>
        $"{Math.Abs(by)} {unit}{(Math.Abs(by) == 1 ? "" : "s")} {(by < 0 ? "before" : "after")} {date.Words}";

    public static string UnlessBlank(string day, Func<string, string> shifted) => $"IF({day}=0,0,{shifted(day)})";
}

/// <summary>A day itself, or the first working day after it; blank stays blank. Holidays are those of the years named.</summary>
public sealed class WorkingDayOnOrAfter(DateFormula date, HolidayCalendar calendar, int firstYear, int lastYear) : DateFormula
{
    private readonly DateOnly[] _holidays =
        [.. Enumerable.Range(firstYear, lastYear - firstYear + 1).SelectMany(year => calendar.Holidays.Select(h => h.Day(year))).Distinct().Order()];

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [date];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [_holidays];

    /// <summary>The working days of the country.</summary>
    internal HolidayCalendar Calendar => calendar;

    /// <inheritdoc />
    public override string Words => $"{date.Words}, or the next working day";

    /// <inheritdoc />
    public override int Evaluate(Sheet sheet) => Of(date.Evaluate(sheet), _holidays);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) =>
        ShiftWords.UnlessBlank(date.Spreadsheet(cells), day => $"WORKDAY({day}-1,1,{{{string.Join(',', _holidays.Select(h => h.DayNumber - DayNumberOfSerialZero))}}})");

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(WorkingDayOnOrAfter), nameof(Of), [], date.Emit(emitter), Expression.Constant(_holidays));

    /// <summary>Day number of the working day on or after a day.</summary>
    public static int Of(int dayNumber, DateOnly[] holidays)
    {
        if (dayNumber == 0)
        {
            return 0;
        }

        var day = DateOnly.FromDayNumber(dayNumber);
        while (day.DayOfWeek is DayOfWeek.Saturday or DayOfWeek.Sunday || Array.BinarySearch(holidays, day) >= 0)
        {
            day = day.AddDays(1);
        }

        return day.DayNumber;
    }

    private static readonly int DayNumberOfSerialZero = new DateOnly(1899, 12, 30).DayNumber;
}
