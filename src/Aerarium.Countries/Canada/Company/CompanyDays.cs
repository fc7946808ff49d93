using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>The days of a company's return, reckoned from the end of its period.</summary>
public static class CompanyDays
{
    /// <summary>Months after the period by which the return is filed (ITA 150(1)(a)).</summary>
    private const int FilingMonths = 6;

    /// <summary>Months after the period by which the balance is paid, and those of small businesses (ITA 157(1)(b)).</summary>
    private const int PaymentMonths = 2, PaymentMonthsOfSmall = 3;

    /// <summary>The day of filing where the period ends with the calendar year.</summary>
    public static Deadline Filing(int year) => new("filing", "Return to be filed", CanadaHolidays.Calendar.WorkingDayOnOrAfter(new DateOnly(year + 1, 6, 30)), "ITA 150(1)(a)", Confidence.Certain);

    /// <summary>The day of payment where the period ends with the calendar year.</summary>
    public static Deadline Payment(int year) => new(
        "payment", "Balance of tax to be paid", CanadaHolidays.Calendar.WorkingDayOnOrAfter(new DateOnly(year + 1, 3, 1).AddDays(-1)), "ITA 157(1)(b), 248(1) \"balance-due day\"", Confidence.Certain);

    /// <summary>The day by which the return of a period is filed.</summary>
    public static DateFormula FilingDay(DateFormula periodEnd, int year) => WorkingDay(MonthsAfter(periodEnd, FilingMonths), year);

    /// <summary>The day by which its balance is paid.</summary>
    public static DateFormula PaymentDay(DateFormula periodEnd, Condition smallBusiness, int year) =>
        WorkingDay(If(smallBusiness, MonthsAfter(periodEnd, PaymentMonthsOfSmall), MonthsAfter(periodEnd, PaymentMonths)), year);

    /// <summary>So many months after the end of a period: the last day of a month where the period ends with a month, otherwise the same day or the last of the month.</summary>
    private static DateFormula MonthsAfter(DateFormula periodEnd, int months) =>
        If(EndOfMonth(periodEnd).DiffersFrom(periodEnd), periodEnd.AddMonths(months), EndOfMonth(periodEnd.AddMonths(months)));

    private static DateFormula WorkingDay(DateFormula day, int year) => OrNextWorkingDay(day, CanadaHolidays.Calendar, year, year + 1);
}
