using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>
/// Pension plan contributions and insurance premiums: what was required of the year's earnings, what was paid too much, what is credited and what is deducted; what the
/// self-employed owe.
/// </summary>
public sealed class ContributionsForm : Form
{
    /// <summary>Contributions credited: of employment and of self-employment.</summary>
    public readonly AmountLine BaseCredit, SelfCredit;

    /// <summary>Contributions of self-employment that are deducted.</summary>
    public readonly AmountLine SelfDeduction;

    /// <summary>Enhanced contributions of employment that are deducted; nothing before there were any.</summary>
    public readonly Amount Enhanced = 0;

    /// <summary>What the self-employed owe.</summary>
    public readonly AmountLine SelfPayable;

    /// <summary>Premiums credited: employment insurance and parental insurance.</summary>
    public readonly AmountLine PremiumCredit, ParentalCredit;

    /// <summary>What was paid too much and is refunded.</summary>
    public readonly AmountLine PlanOverpaid, PremiumsOverpaid;

    /// <summary>Declares the form.</summary>
    public ContributionsForm(Definition definition, PensionAndInsuranceLaw law, ScopeForm scope, TaxpayerForm taxpayer, EmploymentForm employment, AmountLine profit)
        : base(definition, "contributions", "Pension plan and insurance", "Worked out from the slips and the profit: credited, deducted, overpaid, owed.", scope.Employment | scope.Business)
    {
        var (start, end) = (new DateOnly(law.Year, 1, 1), new DateOnly(law.Year, 12, 31));
        Section("Months in which contributions are made", "CPP 13, 19");
        var stopped = Date("stopped-on", "Contributions stopped on").OfOneYear().Hint("election to stop between 65 and 69, or a disability pension began");
        var from = Later(start, EndOfMonth(taxpayer.BirthDate.AddYears(18)).AddDays(1));
        var seventy = EndOfMonth(taxpayer.BirthDate.AddYears(70));
        var until = Earlier(Earlier(end, seventy), Earlier(stopped.Or(end), scope.DiedOn.Or(end)));
        var months = NumberLine("months", "Months", If(taxpayer.BirthDate.IsFilled(), MonthsTouched(from, until), 12)).Unit("months");

        if (!law.IsKnown)
        {
            Section("Contributions and premiums as the slips have them", "ITA 118.7", name: "as-on-slips");
            BaseCredit = Line("base-credit", "CPP and QPP contributions credited", employment.Plan + employment.Quebec).Law("ITA 118.7; line 30800");
            PremiumCredit = Line("premium-credit", "Employment insurance premiums credited", employment.Premiums).Law("ITA 118.7; line 31200");
            ParentalCredit = Line("parental-credit", "Parental insurance premiums credited", employment.Parental).Law("line 31205");
            PlanOverpaid = Entry("plan-overpaid", "Contributions overpaid").OfOneYear().Law("line 44800");
            PremiumsOverpaid = Entry("premiums-overpaid", "Premiums overpaid").OfOneYear().Law("line 45000");
            SelfPayable = Entry("self-payable", "Contributions on self-employment").OfOneYear().Law("line 42100");
            SelfCredit = Line("self-credit", "Half of them, credited", SelfPayable * 0.5m, ToCents).Law("line 31000");
            SelfDeduction = Line("self-deduction", "The rest of them, deducted", SelfPayable - SelfCredit).Law("line 22200");
            Warn("contributions-unchecked", BaseCredit + PremiumCredit + SelfPayable > 0, $"Ceilings and rates of {law.Year} are not held here: contributions and premiums are taken as the slips have them. Check that none was overpaid.", BaseCredit);
            return;
        }

        var quebecOnly = employment.Quebec > 0 & employment.Plan.Equals(0);
        var baseRate = If(quebecOnly, law.QuebecBaseRate, law.BaseRate);

        Section("Pension plan, employment", "CPP 8, 16 to 20; ITA 118.7, 60(e.1)", scope.Employment, name: "plan");
        var firstCeiling = Line("first-ceiling", "First ceiling, for the months", law.FirstCeiling * months / 12, ToCents).Law("CPP 18");
        var secondCeiling = law.SecondCeiling is { } upper ? Line("second-ceiling", "Second ceiling, for the months", upper * months / 12, ToCents).Law("CPP 18.1") : null;
        var exemption = Line("exemption", "Basic exemption, for the months", law.Exemption * months / 12, ToCents).Law("CPP 20");
        var contributory = Line("contributory", "Earnings contributions are made on", AtLeastZero(Min(employment.Pensionable, firstCeiling) - exemption)).Law("CPP 16");
        var requiredBase = Line("required-base", "Required: base", contributory * baseRate, ToCents);
        var requiredFirst = Line("required-first", "Required: first additional", contributory * law.FirstRate, ToCents);
        var requiredSecond = secondCeiling is null ? (Amount)0 : Line("required-second", "Required: second additional", AtLeastZero(Min(employment.Pensionable, secondCeiling) - firstCeiling) * law.SecondRate, ToCents);
        var paidFirst = Line("paid-first", "Paid: base and first additional", employment.Plan + employment.Quebec);
        var paidSecond = Line("paid-second", "Paid: second additional", employment.Second + employment.QuebecSecond);
        var paidBase = Line("paid-base", "of which base", paidFirst * baseRate / (baseRate + law.FirstRate), ToCents);
        PlanOverpaid = Line("plan-overpaid", "Contributions overpaid", AtLeastZero(paidFirst + paidSecond - requiredBase - requiredFirst - requiredSecond)).Law("CPP 38; line 44800");
        BaseCredit = Line("base-credit", "Contributions credited", Min(paidBase, requiredBase)).Law("ITA 118.7; line 30800").Subtotal();
        Enhanced = Line("enhanced", "Enhanced contributions deducted", AtLeastZero(Min(paidFirst + paidSecond - BaseCredit - PlanOverpaid, requiredFirst + requiredSecond))).Law("ITA 60(e.1); line 22215").Subtotal();

        Section("Insurance premiums", "Employment Insurance Act 66 to 68, 96", scope.Employment, name: "premiums");
        var inQuebec = employment.QuebecInsurable > 0 & employment.QuebecInsurable >= employment.Insurable;
        var required = Line("premiums-required", "Premiums required",
            If(employment.Insurable <= law.SmallEarnings, 0,
                Min(Round(Min(employment.Insurable, law.MostInsurable) * If(inQuebec, law.QuebecPremiumRate, law.PremiumRate), ToCents), employment.Insurable - law.SmallEarnings))).Law("EIA 96");
        PremiumsOverpaid = Line("premiums-overpaid", "Premiums overpaid", AtLeastZero(employment.Premiums - required)).Law("EIA 96; line 45000");
        PremiumCredit = Line("premium-credit", "Premiums credited", Min(employment.Premiums, required)).Law("ITA 118.7; line 31200").Subtotal();
        ParentalCredit = Line("parental-credit", "Parental insurance premiums credited", law.MostParental is { } most ? Min(employment.Parental, most) : employment.Parental).Law("ITA 118.7; line 31205");

        Section("Pension plan, self-employment", "CPP 8, 10, 11.1, 11.2; ITA 60(e)", scope.Business, name: "self");
        var earnings = Line("self-earnings", "Profit from self-employment", AtLeastZero(profit));
        var selfFirst = Line("self-first-ceiling", "First ceiling, for the months", law.FirstCeiling * months / 12, ToCents);
        var selfSecond = law.SecondCeiling is { } upperOfSelf ? Line("self-second-ceiling", "Second ceiling, for the months", upperOfSelf * months / 12, ToCents) : null;
        var selfExemption = Line("self-exemption", "Basic exemption, for the months", law.Exemption * months / 12, ToCents);
        var used = Line("self-used", "Earnings contributed on as an employee", paidFirst / (baseRate + law.FirstRate), ToCents);
        var selfContributory = Line("self-contributory", "Profit contributions are made on",
            If(earnings > 0, Min(earnings, AtLeastZero(Min(employment.Pensionable + earnings, selfFirst) - selfExemption - used)), 0)).Law("CPP 10, 13");
        var selfBase = Line("self-base", "Base", selfContributory * (law.BaseRate * (Amount)2), ToCents);
        var selfAdded = Line("self-added", "First additional", selfContributory * (law.FirstRate * (Amount)2), ToCents);
        var selfUpper = selfSecond is null ? (Amount)0 : Line("self-upper", "Second additional", Min(earnings, AtLeastZero(Min(employment.Pensionable + earnings, selfSecond) - Max(selfFirst, employment.Pensionable))) * (law.SecondRate * (Amount)2), ToCents);
        SelfPayable = Line("self-payable", "Contributions on self-employment", selfBase + selfAdded + selfUpper).Law("line 42100").Subtotal();
        SelfCredit = Line("self-credit", "Half of the base, credited", selfBase * 0.5m, ToCents).Law("ITA 118.7; line 31000");
        SelfDeduction = Line("self-deduction", "The rest, deducted", SelfPayable - SelfCredit).Law("ITA 60(e), (e.1); line 22200");

        Error("two-plans", employment.Plan > 0 & employment.Quebec > 0, "Contributions to both CPP and QPP in one year need a calculation by hand, which is not covered here: work lines 30800, 22215 and 44800 out by form RC381.", BaseCredit);
        Error("two-premium-rates", employment.QuebecInsurable > 0 & employment.QuebecInsurable < employment.Insurable, "Work in Quebec and elsewhere in one year has two premium rates, which is not covered here: work line 45000 out by hand.", PremiumCredit);
        Note("overpaid", PlanOverpaid > 0 | PremiumsOverpaid > 0, $"Overpaid: contributions of {PlanOverpaid} and premiums of {PremiumsOverpaid}; both are refunded with this return.", PlanOverpaid);
    }
}
