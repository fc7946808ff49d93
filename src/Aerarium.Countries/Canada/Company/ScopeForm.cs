using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>The period and the answers that decide which schedules apply.</summary>
public sealed class ScopeForm : Form
{
    /// <summary>What kind of corporation it is at the end of the period.</summary>
    public static readonly IReadOnlyList<Choice> Types =
    [
        new("ccpc", "Canadian-controlled private corporation"), new("other-private", "Other private corporation"), new("public", "Public corporation"),
        new("controlled-by-public", "Controlled by a public corporation"), new("other", "Other corporation"),
    ];

    /// <summary>First and last day of the period.</summary>
    public readonly DateLine Begin, End;

    /// <summary>Days of the period, both ends included.</summary>
    public readonly AmountLine Days;

    /// <summary>Whether the period is shorter than twelve months; one of 52 weeks is not.</summary>
    public readonly AnswerLine Short;

    /// <summary>What the company is.</summary>
    public readonly AnswerLine First, Private, Associated, AssociatedLastYear;

    /// <summary>Where it has establishments.</summary>
    public readonly AnswerLine BritishColumbia, Alberta, Ontario;

    /// <summary>What happened.</summary>
    public readonly AnswerLine Depreciable, Investments, DividendsPaid, Gifts, Losses, CapitalGains, Instalments;

    /// <summary>The day by which the return is filed.</summary>
    public readonly DateLine FilingDay;

    /// <summary>In how many of the covered provinces it has an establishment.</summary>
    public readonly AmountLine Provinces;

    /// <summary>Declares the form.</summary>
    public ScopeForm(Definition definition, CorporationLaw law)
        : base(definition, "scope", "Scope", "Answer once; schedules open and close with each answer. The year is the calendar year in which the period ends.")
    {
        var accounts = definition.SamePeriod(AccountsReturn.ReturnId);
        Section("The period", "ITA 249, 249.1(1)");
        Begin = Date("begin", "First day").OfOneYear().Required().TiedTo(accounts.Line("scope.begin"));
        End = Date("end", "Last day").OfOneYear().Required().TiedTo(accounts.Line("scope.end"));
        var known = Begin.IsFilled() & End.IsFilled();
        Days = NumberLine("days", "Days", If(known, DaysOf(Begin, End), 0));
        Short = Line("short", "Shorter than twelve months", law.IsShort(Begin, End, Days)).Law("ITR 1100(3)");
        First = Answer("first", "First return of the company?").OfOneYear().Required().TiedTo(accounts.Line("scope.first"));
        Date("incorporated-on", "Incorporated on").When(First).RequiredWhen(First).FollowsClient("incorporated-on");
        Answer("final", "Last return, after a dissolution?").OfOneYear().Required();
        FilingDay = Line("filing-day", "Return to be filed by", CompanyDays.FilingDay(End, law.Year)).Law("ITA 150(1)(a)");

        Section("The company", "ITA 89(1), 125(7), 256");
        Choice("type", "Kind of corporation at the end of the period", Types).Required().FollowsClient("corporation-type");
        Private = Answer("ccpc", "Canadian-controlled private corporation throughout the period?").UsuallyYes().Required().Hint("only such a company has the small business deduction");
        Associated = Answer("associated", "Associated with other companies?").Required().Hint("they share the business limit");
        AssociatedLastYear = Answer("associated-last-year", "Associated in the period before?").OfOneYear().When(!Associated).RequiredWhen(!Associated & !First);
        var special = Answer("special", "Personal services or specified investment business, or a professional corporation with a partnership?").Required();
        var resident = Answer("resident", "Resident in Canada, with accounts in Canadian dollars?").UsuallyYes().Required();

        Section("Establishments in the period", "ITR 400, 402");
        BritishColumbia = Answer("bc", "British Columbia?").Required();
        Alberta = Answer("ab", "Alberta?").Required().Hint("a return to Alberta's own authority, also without tax");
        Ontario = Answer("on", "Ontario?").Required();
        var elsewhere = Answer("elsewhere", "Anywhere else?").Required();
        Provinces = NumberLine("provinces", "Provinces with an establishment", If(BritishColumbia, 1, 0) + If(Alberta, 1, 0) + If(Ontario, 1, 0));

        Section("Schedules");
        Depreciable = Answer("depreciable", "Depreciable property?").UsuallyYes().Required();
        Investments = Answer("investments", "Income from property, or dividends received?").Required();
        CapitalGains = Answer("capital-gains", "Capital property sold at a gain or a loss?").Required();
        DividendsPaid = Answer("dividends-paid", "Dividends paid?").Required();
        Gifts = Answer("gifts", "Gifts to charities, or carried from earlier years?").Required();
        Losses = Answer("losses", "Losses of other years to use?").Required();
        Instalments = Answer("instalments", "Tax paid by instalments?").Required();
        Answer("foreign-property", $"Foreign property that cost more than {new FederalLaw(law.Year).ForeignPropertyLimit.ValueInWords}?").Required().Hint("form T1135 is filed apart");

        Error("ends-before-it-begins", known & End < Begin, $"The period ends on {End}, before it begins; check both days.", End);
        Error("period-too-long", known & Days > law.LongestPeriod, $"The period has {Days} days; a tax year has at most {law.LongestPeriod}. File two returns (ITA 249.1(1)).", End);
        Error("ends-in-another-year", End.IsFilled() & (End < new DateOnly(law.Year, 1, 1) | End > new DateOnly(law.Year, 12, 31)), $"This is the return of a period that ends in {law.Year}; {End} does not.", End);
        var before = Date("end-before", "The period before ended on").OfOneYear().When(!First).TiedTo(definition.PeriodBefore(CompanyReturn.ReturnId).Line("scope.end"));
        Warn("period-does-not-follow", before.IsFilled() & Begin.IsFilled() & Begin.DiffersFrom(before.AddDays(1)), $"The period begins on {Begin}, and the one before ended on {before}; a period follows the one before.", Begin);
        Error("elsewhere", elsewhere, "Establishments in other provinces or abroad are not covered; their tax is worked out by hand and filed otherwise.", elsewhere);
        Error("no-establishment", Provinces.Equals(0) & BritishColumbia.IsFilled() & Alberta.IsFilled() & Ontario.IsFilled(), "Say in which province the company has an establishment; without one the tax of the provinces is not covered.", BritishColumbia);
        Error("special-business", special, "Personal services and specified investment businesses have rates of their own, which are not covered here.", special);
        Error("not-resident", resident.IsFilled() & !resident, "A company that is not resident, or keeps its accounts in another currency, is not covered here.", resident);
        var there = Answer("alberta-prepared", "Alberta return prepared?").OfOneYear().When(Alberta).TiedTo(definition.SamePeriod(CompanyAlberta.AlbertaReturn.ReturnId).Line("scope.establishment"));
        Error("alberta-return", Alberta & (there.IsBlank() | !there), "An Alberta return is needed: open it beside this one. Both are filled from the same entries, and each goes to its own authority.", Alberta);
    }
}
