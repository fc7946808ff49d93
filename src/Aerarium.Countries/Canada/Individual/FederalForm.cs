using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>The pages that credits come from.</summary>
public sealed record CreditPages(FamilyForm Family, BenefitsForm Benefits, EmploymentForm Employment, ContributionsForm Contributions, TuitionForm Tuition, MedicalForm Medical, GiftsForm Gifts);

/// <summary>Federal tax: by brackets, less credits in the order of ITA 118.92.</summary>
public sealed class FederalForm : Form
{
    /// <summary>Contributions and premiums that are credited, for the provinces too.</summary>
    public readonly AmountLine Contributions;

    /// <summary>Interest on student loans, for the province too.</summary>
    public readonly AmountLine StudentLoan;

    /// <summary>Whether disability is certified for the taxpayer.</summary>
    public readonly Condition Disabled;

    /// <summary>Medical expenses that count federally.</summary>
    public readonly AmountLine Medical;

    /// <summary>Gross federal tax, net federal tax, and federal tax before political contributions.</summary>
    public readonly AmountLine Gross, Net, Basic;

    /// <summary>What the spouse leaves unused, federal.</summary>
    public readonly AmountLine FromSpouse;

    /// <summary>Credit amounts.</summary>
    public readonly AmountLine Amounts;

    /// <summary>Declares the form.</summary>
    public FederalForm(Definition definition, FederalLaw law, ScopeForm scope, TaxpayerForm taxpayer, IncomeForm income, CreditPages from, InvestmentsForm investments)
        : base(definition, "federal", "Federal tax", "Tax by brackets, less credits; the order of the credits is that of the law.")
    {
        var net = income.Net;
        Section("Tax on taxable income", "ITA 117(2)");
        Gross = Line("gross", "Federal tax on taxable income", Progressive(law.Brackets, income.Taxable), ToCents).Law("ITA 117(2); Part A").Subtotal();

        Section("Personal amounts", "ITA 118");
        var basic = Line("basic-amount", "Basic personal amount", If(
            net <= law.TaperFrom, law.Basic,
            If(net >= law.TaperTo, law.BasicLeast, law.Basic - ((law.Basic + (Amount)0 - law.BasicLeast) * (net - law.TaperFrom) / (law.TaperTo + (Amount)0 - law.TaperFrom)))), ToCents).Law("ITA 118(1)B(c), 118(1.1); line 30000");
        var age = law.Age is { } fullAge
            ? Line("age-amount", "Age amount", CreditWords.AgeAmount(law, taxpayer.Age, net, fullAge, law.AgeThreshold!)).Law("ITA 118(2); line 30100")
            : Entry("age-amount", "Age amount, amount allowed").OfOneYear().Law("ITA 118(2); line 30100").When(taxpayer.Age >= law.SeniorAge);
        var addition = law.InfirmAddition is { } infirm ? infirm : (Amount)0;
        var spouse = Line("spouse-amount", "Spouse or common-law partner amount", If(
            from.Family.ClaimsSpouse, AtLeastZero(basic + If(from.Family.SpouseInfirm, addition, 0) - taxpayer.SpouseIncome), 0)).Law("ITA 118(1)B(a); line 30300");
        var eligible = Line("eligible-dependant", "Amount for an eligible dependant", If(
            from.Family.ClaimsEligible, AtLeastZero(basic + If(from.Family.EligibleInfirm > 0, addition, 0) - from.Family.EligibleIncome), 0)).Law("ITA 118(1)B(b); line 30400");
        var caregiver = Line("caregiver", "Caregiver amounts for infirm adults", from.Family.Caregiver).Law("line 30450");
        var infirmChildren = Line("infirm-children", "Amounts for infirm children", from.Family.InfirmChildren).Law("line 30500");

        Section("Contributions, employment, pension", "ITA 118.7, 118(10), 118(3)");
        Contributions = Line("contributions", "Pension plan contributions and insurance premiums",
            from.Contributions.BaseCredit + from.Contributions.SelfCredit + from.Contributions.PremiumCredit + from.Contributions.ParentalCredit).Law("lines 30800, 31000, 31200, 31205");
        var employment = Line("employment-amount", "Canada employment amount", Min(law.Employment, AtLeastZero(from.Employment.Income))).Law("ITA 118(10); line 31260");
        var pension = Line("pension-amount", "Pension income amount", Min(law.Pension, from.Benefits.Eligible)).Law("ITA 118(3); line 31400");

        Section("Home, volunteers", "ITA 118.05, 118.041, 118.06, 118.07", scope.OtherAmounts, name: "home-and-volunteers");
        var bought = Date("home-bought", "First home bought on").OfOneYear().From("closing statement");
        var sharedWith = Entry("home-shared", "of the amount, claimed by another buyer").OfOneYear().When(bought.IsFilled());
        var home = Line("home-buyers", "Home buyers' amount", If(bought.IsFilled(), AtLeastZero(law.HomeBuyers - sharedWith), 0)).Law("ITA 118.05; line 31270");
        var access = Entry("accessibility-costs", "Costs of making the home accessible").OfOneYear().From("invoices");
        var accessibility = Line("accessibility", "Home accessibility amount", Min(law.HomeAccessibility, access)).Law("ITA 118.041; line 31285");
        var hours = Answer("volunteer", $"Volunteer firefighter or searcher for {law.VolunteerHours.ValueInWords} hours?").OfOneYear();
        var volunteer = Line("volunteer-amount", "Volunteer amount", If(hours, law.Volunteer, 0)).Law("ITA 118.06, 118.07; lines 31220, 31240");
        Error("home-bought-in-another-year", bought.IsFilled() & Year(bought).DiffersFrom(law.Year), $"The home was not bought in {law.Year}; the amount belongs to the year of purchase.", bought);

        Section("Disability", "ITA 118.3", scope.Disability | scope.Dependants, name: "disability");
        var certified = Answer("certificate", "Certificate T2201 approved for the year?").OfOneYear().When(scope.Disability).RequiredWhen(scope.Disability);
        Disabled = scope.Disability & certified;
        var disability = law.Disability is { } amount
            ? Line("disability-amount", "Disability amount", If(Disabled, amount, 0)).Law("ITA 118.3; line 31600")
            : Entry("disability-amount", "Disability amount, amount allowed").OfOneYear().When(scope.Disability).Law("ITA 118.3; line 31600");
        var transferred = Line("disability-transferred", "Disability amounts of dependants", from.Family.DisabilityTransferred).Law("line 31800");
        Error("disability-not-certified", certified.IsFilled() & !certified, "The disability amount needs an approved certificate T2201: apply for it, or answer no in Scope.", certified);

        Section("Tuition and transfers", "ITA 118.5 to 118.9");
        var beforeTuition = Line("before-tuition", "Amounts that rank before tuition",
            basic + age + spouse + eligible + caregiver + infirmChildren + Contributions + employment + pension + home + accessibility + volunteer + disability + transferred).Law("ITA 118.92");
        from.Tuition.Federal.Before.Is(beforeTuition);
        from.Tuition.Federal.Absorbing.Is(CreditWords.Absorbing(income.Taxable, law.FirstBracketTop, Gross, law.CreditRate));
        var tuition = Line("tuition", "Tuition of the taxpayer", from.Tuition.Federal.Claimed).Law("line 32300");
        var received = Entry("tuition-received", "Tuition transferred by a child or grandchild").OfOneYear().When(scope.StudentTransfer).MustAgreeWithin(0).Law("ITA 118.9; line 32400")
            .From("slip T2202, designation").TiedTo(IndividualReturn.FromStudent("tuition.federal-to-parent"));
        FromSpouse = Entry("from-spouse", "Amounts the spouse does not use").OfOneYear().When(scope.Spouse).Law("ITA 118.8; line 32600").TiedTo(IndividualReturn.OfSpouse("federal.left-for-spouse"));

        Section("Medical expenses, student loan", "ITA 118.2, 118.62");
        var threshold = Line("medical-threshold", "Threshold: the share of net income, at most the amount of the year", Min(Round(law.MedicalShare * net, ToCents), law.MedicalCap)).Law("ITA 118.2(1)C");
        Medical = Line("medical", "Medical expenses above the threshold",
            AtLeastZero(from.Medical.Claimed - threshold) + from.Medical.OfRelatives(law, law.MedicalCap)).Law("ITA 118.2(1); line 33200");
        StudentLoan = Entry("student-loan", "Interest on student loans").OfOneYear().When(scope.OtherAmounts).From("lender's statement").Law("ITA 118.62; line 31900");
        Note("medical-below-threshold", from.Medical.Claimed > 0 & Medical.Equals(0),
            $"Medical expenses of {from.Medical.Claimed} do not exceed the threshold of {threshold}: nothing is credited here.", Medical);
        Note("medical-on-lower-income", from.Medical.Claimed > 0 & scope.Spouse & taxpayer.SpouseIncome < net,
            $"The spouse has the lower net income, {taxpayer.SpouseIncome} against {net}: medical expenses may give more there, as far as there is tax to reduce. Compare in the household.", Medical);

        Section("Credits", "ITA 118, 118.1, 121");
        Amounts = Line("amounts", "Credit amounts", beforeTuition + tuition + received + FromSpouse + Medical + StudentLoan).Law("line 33500").Subtotal();
        var credits = Line("credits", "Credits on amounts", law.CreditRate * Amounts, ToCents).Law("line 33800");
        var gifts = from.Gifts.Claimed;
        var firstGifts = Min(gifts, law.FirstGifts);
        var topGifts = Line("gifts-top", "Gifts out of top-bracket income", Min(AtLeastZero(gifts - law.FirstGifts), AtLeastZero(income.Taxable - law.TopBracketStart))).Law("ITA 118.1(3)");
        var giftCredit = Line("gift-credit", "Credit on gifts",
            Round(law.CreditRate * firstGifts, ToCents) + Round(law.GiftsTopRate * topGifts, ToCents) + Round(law.GiftsRate * (gifts - firstGifts - topGifts), ToCents)).Law("ITA 118.1(3); line 34900");
        var dividendCredit = Line("dividend-credit", "Credit on dividends",
            Round(law.EligibleCredit * investments.EligibleDividends, ToCents) + Round(law.OtherCredit * investments.OtherDividends, ToCents)).Law("ITA 121; line 40425");
        var topUp = law.TopUpRate is null
            ? (Amount)0
            : Entry("top-up", "Top-up of credits, amount allowed").OfOneYear().When(Amounts > law.FirstBracketTop).Law("Budget of 4 November 2025; line 34990")
                .Hint($"{law.TopUpRate.ValueInWords} of the amounts above {law.FirstBracketTop.ValueInWords}: unsure whether enacted");
        Basic = Line("basic-tax", "Basic federal tax", AtLeastZero(Gross - credits - giftCredit - dividendCredit - topUp)).Law("line 42900").Subtotal();

        Section("Political contributions", "ITA 127(3)", scope.Political);
        var political = Entry("political", "Contributions to federal parties and candidates").OfOneYear().From("official receipts").Law("line 40900");
        var politicalCredit = Line("political-credit", "Credit on political contributions", CreditWords.PoliticalCredit(law, political, law.PoliticalFirst, law.PoliticalSecond, law.PoliticalMost)).Law("ITA 127(3); line 41000");

        Section("Net federal tax", "ITA 117 to 127");
        Net = Line("net-tax", "Net federal tax", AtLeastZero(Basic - politicalCredit)).Law("line 42000").Final();

        Section("Left for the spouse", "ITA 118.8", scope.Spouse);
        Line("left-for-spouse", "Amounts the taxpayer does not use", AtLeastZero(
            age + infirmChildren + pension + disability + from.Tuition.Federal.ToSpouse - AtLeastZero(from.Tuition.Federal.Absorbing - basic - Contributions - employment - from.Tuition.Federal.Claimed))).Law("ITA 118.8");

        Error("no-spouse-amount", from.Family.ClaimsSpouse & spouse.Equals(0),
            $"No spouse amount is available: the spouse's net income of {taxpayer.SpouseIncome} is not below {basic}. Answer that it is not claimed.", spouse);
        if (law.TopUpRate is not null)
        {
            Warn("top-up", Amounts > law.FirstBracketTop, $"Credit amounts of {Amounts} are above {law.FirstBracketTop}: a top-up credit of {law.TopUpRate} on the rest may apply. Check whether it was enacted and enter what is allowed.", Amounts);
        }

        Note("gift-credit-lost", giftCredit > 0 & Gross - credits - giftCredit - dividendCredit < 0,
            $"The credits are {credits + giftCredit + dividendCredit - Gross} above the tax: carry gifts forward, or let the spouse claim them.", giftCredit);
        if (law.MinimumTaxExemption is { } exemption)
        {
            Warn("minimum-tax", (law.MinimumTaxRate * AtLeastZero(income.Taxable + income.TaxableGains - investments.GrossUp + (law.MinimumTaxAddition * (income.Carrying + income.OtherLosses)) - exemption)) - (law.MinimumTaxCredits * credits) - (law.MinimumTaxGifts * giftCredit) > Basic,
                "Minimum tax may apply; it is not computed here. Work it out by form T691.", Net);
        }
    }
}
