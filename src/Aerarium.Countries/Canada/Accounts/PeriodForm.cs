using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Accounts;

/// <summary>The accounting period, which follows the one before, and who prepared the statements.</summary>
public sealed class PeriodForm : Form
{
    /// <summary>Who looked at the statements.</summary>
    public static readonly IReadOnlyList<Choice> Assurances = [new("audit", "Audited"), new("review", "Reviewed"), new("compilation", "Compiled"), new("none", "None of these")];

    /// <summary>First and last day of the period.</summary>
    public readonly DateLine Begin, End;

    /// <summary>The day by which the return that rests on the accounts is filed.</summary>
    public readonly DateLine FilingDay;

    /// <summary>Whether it is the first period.</summary>
    public readonly AnswerLine First;

    /// <summary>Declares the form.</summary>
    public PeriodForm(Definition definition, int year)
        : base(definition, "scope", "Scope", "The accounting period; the year of these accounts is the calendar year in which it ends.")
    {
        var longest = new CorporationLaw(year).LongestPeriod;
        var lastYear = definition.PeriodBefore(AccountsReturn.ReturnId);
        Section("Accounting period", "ITA 249.1(1)");
        First = Answer("first", "First period of the company?").OfOneYear().Required();
        Begin = Date("begin", "First day").TiedTo(lastYear.Line("scope.next-begin")).OfOneYear().Required();
        End = Date("end", "Last day").TiedTo(lastYear.Line("scope.next-end")).OfOneYear().Required();
        var known = Begin.IsFilled() & End.IsFilled();
        var days = NumberLine("days", "Days", If(known, DaysOf(Begin, End), 0));
        FilingDay = Line("filing-day", "Return to be filed by", CompanyDays.FilingDay(End, year)).Law("ITA 150(1)(a)");
        Line("next-begin", "Next period begins on", End.AddDays(1));
        Line("next-end", "and ends on", If(EndOfMonth(End).DiffersFrom(End), End.AddMonths(12), EndOfMonth(End.AddMonths(12))));
        Error("ends-before-it-begins", known & End < Begin, $"The period ends on {End}, before it begins; check both days.", End);
        Error("too-long", known & days > longest, $"The period has {days} days; a tax year has at most 53 weeks, {longest} days. Divide it: each part has accounts and returns of its own (ITA 249.1(1)).", End);
        Error("ends-in-another-year", End.IsFilled() & (End < new DateOnly(year, 1, 1) | End > new DateOnly(year, 12, 31)), $"These are the accounts of a period that ends in {year}; {End} does not. Open those of the other year.", End);

        Section("The statements");
        Choice("assurance", "Looked at by an accountant", Assurances).Required();
        Text("accountant", "Accountant's name");
    }
}
