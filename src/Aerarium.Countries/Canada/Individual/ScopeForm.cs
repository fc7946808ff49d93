using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>The answers that decide which forms and sections apply.</summary>
public sealed class ScopeForm : Form
{
    /// <summary>Provinces whose residents are covered.</summary>
    public static readonly IReadOnlyList<Choice> Provinces = [new("bc", "British Columbia"), new("ab", "Alberta"), new("on", "Ontario")];

    /// <summary>Province of residence on 31 December.</summary>
    public readonly ChoiceLine Province;

    /// <summary>The family.</summary>
    public readonly AnswerLine Spouse, Dependants;

    /// <summary>Kinds of income.</summary>
    public readonly AnswerLine Employment, Pension, Benefits, Investment, Gains, Home, Business, Rental, Other;

    /// <summary>What reduces the income.</summary>
    public readonly AnswerLine Retirement, WorkCosts, ChildCare, Carrying, Losses;

    /// <summary>First home savings account; null before there was one.</summary>
    public readonly AnswerLine? HomeSavings;

    /// <summary>What reduces the tax.</summary>
    public readonly AnswerLine Disability, Student, StudentTransfer, Medical, Gifts, Political, OtherAmounts;

    /// <summary>Other answers.</summary>
    public readonly AnswerLine Instalments, ForeignProperty, AuthorityInterest;

    /// <summary>Day of death in the year; blank for the living.</summary>
    public readonly DateLine DiedOn;

    /// <summary>The day by which the return is to be filed, worked out for the taxpayer.</summary>
    public readonly DateLine FilingDay;

    /// <summary>The day by which the balance is to be paid, worked out for the taxpayer.</summary>
    public readonly DateLine PaymentDay;

    /// <summary>Whether the taxpayer lives in a province.</summary>
    public Condition LivesIn(string province) => Province.Is(province);

    /// <summary>Declares the form.</summary>
    public ScopeForm(Definition definition, FederalLaw law)
        : base(definition, "scope", "Scope", "Answer once; forms and sections open and close with each answer.")
    {
        var year = law.Year;
        Section("The person and the year", "ITA 2, 150, 250");
        Province = Choice("province", $"Province of residence on 31 December {year}", Provinces).Required().FollowsClient("province");
        var resident = Answer("resident", $"Resident in Canada for the whole of {year}?").UsuallyYes().Required();
        Date("came-or-left", "Day of arrival in Canada, or of leaving it").OfOneYear().When(!resident & resident.IsFilled());
        var first = Answer("first-return", "First return in Canada?").OfOneYear().Required();
        var moved = Answer("moved", $"Moved from another province in {year}?").OfOneYear().Required();
        var movedFrom = Choice("moved-from", "Province left", EmploymentForm.Places).OfOneYear().When(moved).RequiredWhen(moved);
        Date("moved-on", "Day of the move").OfOneYear().When(moved).RequiredWhen(moved);
        Spouse = Answer("spouse", $"Married or living common-law on 31 December {year}?").Required();
        Dependants = Answer("dependants", "Children, or other relatives supported?").Required();

        Section("Income of the year");
        Employment = Answer("employment", "Paid by an employer?").Required().Hint("slip T4");
        Pension = Answer("pension", "Old age security, public plan benefits or another pension?").Required().Hint("slips T4A");
        Benefits = Answer("benefits", "Employment insurance, compensation or assistance received?").Required().Hint("slips T4E, T5007");
        Investment = Answer("investment", "Interest or dividends?").Required().Hint("slips T5, T3");
        Gains = Answer("gains", "Securities or property sold, the home apart?").Required().Hint("slip T5008");
        Home = Answer("home", "A home sold?").Required().Hint("every sale of a home is reported from 2016 on");
        Business = Answer("business", "Self-employed?").Required();
        Rental = Answer("rental", "Property let?").Required();
        Other = Answer("other-income", "Savings withdrawn, scholarships or other income?").Required().Hint("slips T4RSP, T4A");

        Section("What reduces the income");
        Retirement = Answer("retirement", "Contributions to retirement savings?").Required();
        HomeSavings = law.HomeSavingsYear is null ? null : Answer("home-savings", "A first home savings account?").Required();
        WorkCosts = Answer("work-costs", "Costs of working from home, or other employment expenses?").Required().Hint("with the employer's form T2200");
        ChildCare = Answer("child-care", "Child care paid so that a parent could work or study?").Required();
        Carrying = Answer("carrying", "Dues not on slips, or carrying charges of investments?").Required();
        Losses = Answer("losses", "Losses of earlier years to use?").Required();

        Section("What reduces the tax");
        Disability = Answer("disability", "Disability certified for the taxpayer?").Required().Hint("form T2201 approved");
        Student = Answer("student", "Tuition paid, or unused tuition of earlier years?").Required().Hint("slip T2202");
        StudentTransfer = Answer("student-transfer", "Tuition transferred by a child or grandchild?").Required();
        Medical = Answer("medical", "Medical expenses claimed?").Required();
        Gifts = Answer("gifts", "Gifts to charities, or carried from earlier years?").Required();
        Political = Answer("political", "Political contributions?").Required();
        OtherAmounts = Answer("other-amounts", "Home bought or made accessible, volunteer, student loan?").Required().Hint("first home; firefighter or searcher");

        Section("Payments and reports");
        Instalments = Answer("instalments", "Tax paid by instalments?").Required();
        ForeignProperty = Answer("foreign-property", $"Foreign property that cost more than {law.ForeignPropertyLimit.ValueInWords}?").Required().Hint("in all, at any time of the year");

        AuthorityInterest = Answer("authority-interest", "Interest received from the authority?").Required().Hint("on a refund, by the notice of assessment");

        var reported = Answer("foreign-property-reported", "Form T1135 prepared?").OfOneYear().When(ForeignProperty).RequiredWhen(ForeignProperty).Hint("filed apart from this return, by the same day");

        Section("Particular circumstances", "ITA 150(1)");
        DiedOn = Date("died-on", "Date of death").OfOneYear().From("death certificate").Hint("for a final return");
        var spouseInBusiness = Answer("spouse-in-business", "Spouse self-employed?").When(Spouse).RequiredWhen(!Business)
            .TiedTo(new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line("scope.business"));

        var diedLate = DiedOn.IsFilled() & DiedOn >= new DateOnly(year, 11, 1);
        var ordinary = If(Business | spouseInBusiness, law.FilingInBusiness, law.Filing.Day);
        FilingDay = Line("filing-day", "Return to be filed by", If(diedLate, Later(DiedOn.AddMonths(6), If(Business, law.FilingInBusiness, DiedOn.AddMonths(6))), ordinary)).Law("ITA 150(1)(b), (d)");
        PaymentDay = Line("payment-day", "Balance to be paid by", If(diedLate, DiedOn.AddMonths(6), law.Payment.Day)).Law("ITA 156.1(4), 248(1)");

        Section("Elections list and notices");
        var citizen = Answer("citizen", "Canadian citizen?").FollowsClient("citizen");
        Answer("elections-list", "Give name, address and date of birth to the list of electors?").When(citizen).OfOneYear();
        Answer("notices-online", "Notices by e-mail?").Hint("then no paper comes");

        Error("not-resident", resident.IsFilled() & !resident, "Somebody who came to or left Canada in the year, or does not live here, files another return, which is not covered here.", resident);
        Error("died-in-another-year", DiedOn.IsFilled() & (DiedOn < new DateOnly(year, 1, 1) | DiedOn > new DateOnly(year, 12, 31)), $"The final return is that of the year of death; {DiedOn} does not lie in {year}.", DiedOn);
        Error("foreign-property-report", reported.IsFilled() & !reported, $"Foreign property that cost more than {law.ForeignPropertyLimit} must be reported on form T1135, which is filed apart from this return: prepare it, and say so here.", reported);
        Error("moved-within-province", moved & Provinces.Select(p => movedFrom.Is(p.Code) & Province.Is(p.Code)).Aggregate((one, other) => one | other), "The province left is that of 31 December; correct one of them, or answer that there was no move.", movedFrom, Province);
        Note("moved", moved, "The province of 31 December taxes the whole year; moving expenses are not covered here.", moved);
        Note("first-return", first, "There is no notice of last year: no access code, and no unused room, tuition or losses, unless the client files older years too.", first);
        if (year == 2024)
        {
            Note("gains-relief", Gains | Home, "For 2024, those who report capital gains pay no late penalty and no interest before 2 June 2025.", Gains);
        }
    }
}
