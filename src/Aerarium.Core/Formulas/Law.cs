using Aerarium.Core.Days;

namespace Aerarium.Core.Formulas;

/// <summary>The words in which rules are written: <c>using static Aerarium.Core.Formulas.Law;</c>.</summary>
public static class Law
{
    /// <summary>Nearest cent, halves up.</summary>
    public static readonly Rounding ToCents = Rounding.ToCents;

    /// <summary>Nearest whole unit of the currency, halves up.</summary>
    public static readonly Rounding ToUnits = new(1m, RoundingMode.HalfUp);

    /// <summary>The whole unit below.</summary>
    public static readonly Rounding DownToUnits = new(1m, RoundingMode.Down);

    /// <summary>The day of evaluation.</summary>
    public static readonly DateFormula OnToday = new Today();

    /// <summary>The least of several amounts.</summary>
    public static Amount Min(params Amount[] candidates) => new Extreme(candidates, greatest: false);

    /// <summary>The greatest of several amounts.</summary>
    public static Amount Max(params Amount[] candidates) => new Extreme(candidates, greatest: true);

    /// <summary>The amount, or zero where it would be negative.</summary>
    public static Amount AtLeastZero(Amount amount) => new Extreme([new Constant(0), amount], greatest: true);

    /// <summary>One amount when the condition holds, another when it does not.</summary>
    public static Amount If(Condition when, Amount then, Amount otherwise) => new Choose(when, then, otherwise);

    /// <summary>One date when the condition holds, another when it does not.</summary>
    public static DateFormula If(Condition when, DateFormula then, DateFormula otherwise) => new ChooseDate(when, then, otherwise);

    /// <summary>One text or code when the condition holds, another when it does not.</summary>
    public static TextFormula If(Condition when, TextFormula then, TextFormula otherwise) => new ChooseText(when, then, otherwise);

    /// <summary>Texts one after the other with something between them, blank ones left out.</summary>
    public static TextFormula Joined(string between, params TextFormula[] parts) => new JoinedText(between, parts);

    /// <summary>Rounds an amount in a named way.</summary>
    public static Amount Round(Amount amount, Rounding rounding) => new Rounded(amount, rounding);

    /// <summary>Tax by the slices of a schedule.</summary>
    public static Amount Progressive(RateSchedule schedule, Amount amount) => new Progressive(schedule, amount);

    /// <summary>Tax by the slices of a schedule whose edges are moved up by an amount, so that the first slice is so much wider.</summary>
    public static Amount ProgressiveMovedUp(RateSchedule schedule, Amount amount, Amount by) =>
        Progressive(schedule, AtLeastZero(amount - by)) + (schedule.FirstRate * AtLeastZero(Min(amount, by)));

    /// <summary>Tax by a tariff in zones.</summary>
    public static Amount ByZones(ZoneTariff tariff, Amount amount) => new ByZones(tariff, amount);

    /// <summary>The amount of the first case that applies, otherwise the last.</summary>
    public static Amount Decide(string label, Amount otherwise, params (Condition When, Amount Then)[] cases) =>
        new DecisionTable(label, [.. cases.Select(c => new DecisionCase(c.When, c.Then))], otherwise);

    /// <summary>The amount a table of steps fixes for a measure.</summary>
    public static Amount Step(StepTable table, Amount measure) => new Stepped(table, measure);

    /// <summary>The earlier of two dates.</summary>
    public static DateFormula Earlier(DateFormula left, DateFormula right) => new ExtremeDate(left, right, later: false);

    /// <summary>The later of two dates.</summary>
    public static DateFormula Later(DateFormula left, DateFormula right) => new ExtremeDate(left, right, later: true);

    /// <summary>Calendar months touched by a span, both ends included.</summary>
    public static Amount MonthsTouched(DateFormula from, DateFormula to) => new Months(from, to, MonthCount.Touched);

    /// <summary>Months begun after the month of the first date, until the second; a part month counts whole.</summary>
    public static Amount MonthsBegunAfter(DateFormula from, DateFormula to) => new Months(from, to, MonthCount.BegunAfter);

    /// <summary>Days after one date until another, the last included.</summary>
    public static Amount DaysAfter(DateFormula after, DateFormula until) => new Days(after, until);

    /// <summary>Days of a span, both ends included.</summary>
    public static Amount DaysOf(DateFormula from, DateFormula to) => new DaysOfSpan(from, to);

    /// <summary>
    /// The part of an amount for a whole period that falls to a span within it, by days, both ends included; nothing where the period has no days.
    /// It is not rounded.
    /// </summary>
    public static Amount ByDays(Amount amount, (DateFormula From, DateFormula To) span, (DateFormula From, DateFormula To) period) => If(
        DaysOf(period.From, period.To) > 0,
        amount * DaysOf(Later(span.From, period.From), Earlier(span.To, period.To)) / Max(DaysOf(period.From, period.To), 1),
        0);

    /// <summary>Whole years from one date until another, such as an age.</summary>
    public static Amount YearsFrom(DateFormula from, DateFormula until) => new WholeMonths(from, until, years: true);

    /// <summary>Whole months from one date until another.</summary>
    public static Amount MonthsFrom(DateFormula from, DateFormula until) => new WholeMonths(from, until, years: false);

    /// <summary>The last day of the month a date lies in.</summary>
    public static DateFormula EndOfMonth(DateFormula date) => new MonthEnd(date);

    /// <summary>A day, or the first working day after it by a calendar whose holidays are those of some years.</summary>
    public static DateFormula OrNextWorkingDay(DateFormula date, HolidayCalendar calendar, int firstYear, int lastYear) =>
        new WorkingDayOnOrAfter(date, calendar, firstYear, lastYear);

    /// <summary>Calendar year of a date.</summary>
    public static Amount Year(DateFormula date) => new YearOf(date);

    /// <summary>An amount multiplied by itself a whole number of times.</summary>
    public static Amount ToThePower(Amount factor, Amount times) => new Power(factor, times);

    /// <summary>The size of an amount without its sign.</summary>
    public static Amount Size(Amount amount) => new Magnitude(amount);
}
