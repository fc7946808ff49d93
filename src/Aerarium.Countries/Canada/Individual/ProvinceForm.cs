using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>What a province's tax is worked out from.</summary>
public sealed record ProvincePages(ScopeForm Scope, TaxpayerForm Taxpayer, IncomeForm Income, FederalForm Federal, CreditPages Credits, InvestmentsForm Investments);

/// <summary>The steps every province has: tax by brackets, amounts with figures of its own, credits. What follows is each province's own.</summary>
public abstract class ProvinceForm : Form
{
    /// <summary>Tax of the province, line 42800.</summary>
    public AmountLine Tax { get; protected set; } = null!;

    /// <summary>Tax on taxable income.</summary>
    protected AmountLine Gross { get; private set; } = null!;

    /// <summary>Credit amounts apart from gifts.</summary>
    protected AmountLine Amounts { get; private set; } = null!;

    /// <summary>Tax less credits on amounts and gifts, never below zero.</summary>
    protected AmountLine AfterCredits { get; private set; } = null!;

    /// <summary>Credit on dividends.</summary>
    protected AmountLine DividendCredit { get; private set; } = null!;

    /// <summary>Declares the form.</summary>
    protected ProvinceForm(Definition definition, (string Key, string Code, string Name) province, FederalLaw federal, ProvinceLaw law, ProvincePages from, TuitionOfTax tuition, Parameter? topGiftsRate, Parameter? topStart)
        : base(definition, province.Key, $"{province.Name} tax", $"For residents of {province.Name} on 31 December: tax by brackets, less credits.", from.Scope.LivesIn(province.Code))
    {
        var (key, _, name) = province;
        var (net, taxable) = (from.Income.Net, from.Income.Taxable);
        var family = from.Credits.Family;
        if (!law.ComputesTax)
        {
            DeclareEntered(name, federal, law, from, tuition);
            return;
        }

        Section("Tax on taxable income", law.Brackets.Source);
        Gross = Line("gross", $"{name} tax on taxable income", Progressive(law.Brackets, taxable), ToCents).Law(law.Brackets.Source).Subtotal();

        Section("Amounts", law.Brackets.Source);
        var basic = Line("basic-amount", "Basic amount", law.Basic).Law("line 58040");
        var age = Line("age-amount", "Age amount", CreditWords.AgeAmount(federal, from.Taxpayer.Age, net, law.Age, law.AgeThreshold)).Law("line 58080");
        var spouse = Line("spouse-amount", "Spouse or common-law partner amount", If(family.ClaimsSpouse, Min(law.SpouseMost, AtLeastZero(law.SpouseBase - from.Taxpayer.SpouseIncome)), 0)).Law("line 58120");
        var eligible = Line("eligible-dependant", "Amount for an eligible dependant", If(family.ClaimsEligible, Min(law.SpouseMost, AtLeastZero(law.SpouseBase - family.EligibleIncome)), 0)).Law("line 58160");
        var contributions = Line("contributions", "Pension plan contributions and insurance premiums", from.Federal.Contributions).Law("lines 58240, 58300");
        var pension = Line("pension-amount", "Pension income amount", Min(law.Pension, from.Credits.Benefits.Eligible)).Law("line 58360");
        var disability = Line("disability-amount", "Disability amount", If(from.Federal.Disabled, law.Disability, 0)).Law("line 58440");
        var disabilityTransferred = Line("disability-transferred", "Disability amounts of dependants", family.ProvincialDisabilityTransferred).Law("line 58480");
        var beforeTuition = Line("before-tuition", "Amounts that rank before tuition", basic + age + spouse + eligible + contributions + pension + disability + disabilityTransferred).Subtotal();
        tuition.Before.Is(beforeTuition);
        tuition.Absorbing.Is(CreditWords.Absorbing(taxable, law.FirstBracketTop, Gross, law.CreditRate));
        var own = Line("tuition", "Tuition of the taxpayer", tuition.Claimed).Law("line 58560");
        Amount received = 0;
        if (key == "bc")
        {
            received = Entry("tuition-received", "Tuition transferred by a child or grandchild").OfOneYear().When(from.Scope.StudentTransfer).MustAgreeWithin(0).Law("line 58600")
                .From("designation").TiedTo(IndividualReturn.FromStudent("tuition.bc-to-parent"));
        }

        var fromSpouse = Entry("from-spouse", "Amounts the spouse does not use").OfOneYear().When(from.Scope.Spouse).Law("line 58640").TiedTo(IndividualReturn.OfSpouse($"{key}.left-for-spouse"));
        var medical = Line("medical", "Medical expenses above the threshold",
            AtLeastZero(from.Credits.Medical.Claimed - Min(Round(federal.MedicalShare * net, ToCents), law.MedicalCap)) + from.Credits.Medical.OfRelatives(federal, law.MedicalCap)).Law("lines 58689 to 58769");
        var studentLoan = Line("student-loan", "Interest on student loans", from.Federal.StudentLoan).Law("line 58520");
        Amounts = Line("amounts", "Credit amounts", beforeTuition + own + received + fromSpouse + medical + studentLoan).Law("line 58800").Subtotal();

        Section("Credits", law.Brackets.Source);
        var credits = Line("credits", "Credits on amounts", law.CreditRate * Amounts, ToCents).Law("line 58840");
        var gifts = from.Credits.Gifts.Claimed;
        var firstGifts = Min(gifts, federal.FirstGifts);
        var topGifts = topGiftsRate is null ? (Amount)0 : Min(AtLeastZero(gifts - federal.FirstGifts), AtLeastZero(taxable - topStart!));
        var topCredit = topGiftsRate is null ? (Amount)0 : Round(topGiftsRate * topGifts, ToCents);
        var giftCredit = Line("gift-credit", "Credit on gifts", Round(law.FirstGiftsRate * firstGifts, ToCents) + topCredit + Round(law.GiftsRate * (gifts - firstGifts - topGifts), ToCents)).Law("line 58969");
        AfterCredits = Line("after-credits", "Tax less credits", AtLeastZero(Gross - credits - giftCredit)).Subtotal();
        DividendCredit = Line("dividend-credit", "Credit on dividends",
            Round(law.EligibleCredit * from.Investments.EligibleDividends, ToCents) + Round(law.OtherCredit * from.Investments.OtherDividends, ToCents)).Law("line 61520");

        Section("Left for the spouse", law.Brackets.Source, from.Scope.Spouse);
        Line("left-for-spouse", "Amounts the taxpayer does not use", AtLeastZero(
            age + pension + disability + tuition.ToSpouse - AtLeastZero(tuition.Absorbing - basic - contributions - tuition.Claimed)));
    }

    private void DeclareEntered(string name, FederalLaw federal, ProvinceLaw law, ProvincePages from, TuitionOfTax tuition)
    {
        Section("Tax", law.Act);
        var entered = Entry("tax-entered", $"{name} tax").OfOneYear().From("year's form 428").Law("line 42800");
        Error($"{Key}-by-hand", When! & entered.IsBlank() & from.Income.Taxable > 0, $"The tables of {name} for {law.Year} are not held here: work its tax out by the year's form 428 and enter it.", entered);
        Tax = Line("tax", $"{name} tax, as entered", entered).Law("line 42800").Final();
        if (law is OntarioLaw { KnowsTuition: true } ontario)
        {
            var gross = Line("gross", "Ontario tax by brackets, for tuition", Progressive(ontario.Brackets, from.Income.Taxable), ToCents);
            tuition.Before.Is(Line("before-tuition", "Amounts that rank before tuition",
                ontario.Basic + CreditWords.AgeAmount(federal, from.Taxpayer.Age, from.Income.Net, ontario.Age, ontario.AgeThreshold)
                + If(from.Credits.Family.ClaimsSpouse, Min(ontario.SpouseMost, AtLeastZero(ontario.SpouseBase - from.Taxpayer.SpouseIncome)), 0)
                + If(from.Credits.Family.ClaimsEligible, Min(ontario.SpouseMost, AtLeastZero(ontario.SpouseBase - from.Credits.Family.EligibleIncome)), 0)
                + from.Federal.Contributions));
            tuition.Absorbing.Is(CreditWords.Absorbing(from.Income.Taxable, ontario.FirstBracketTop, gross, ontario.CreditRate));
            Entry("tuition-received", "Tuition transferred by a child or grandchild").OfOneYear().When(from.Scope.StudentTransfer).MustAgreeWithin(0)
                .TiedTo(IndividualReturn.FromStudent("tuition.ontario-to-parent"));
        }
        else
        {
            tuition.Before.Is(Entry("before-tuition", "Amounts that rank before tuition").OfOneYear().When(from.Scope.Student).From("year's form 428"));
            tuition.Absorbing.Is(from.Income.Taxable);
        }
    }
}

/// <summary>Ontario: surtax, reduction, low-income credit and health premium.</summary>
public sealed class OntarioForm : ProvinceForm
{
    /// <summary>Declares the form.</summary>
    public OntarioForm(Definition definition, FederalLaw federal, OntarioLaw law, ProvincePages from)
        : base(definition, ("ontario", "on", "Ontario"), federal, law, from, from.Credits.Tuition.Ontario, null, null)
    {
        if (!law.ComputesTax)
        {
            return;
        }

        var net = from.Income.Net;
        var family = from.Credits.Family;
        Section("Surtax", "Taxation Act, 2007 (Ontario)");
        var surtax = Line("surtax", "Surtax",
            Round(law.FirstSurtax * AtLeastZero(AfterCredits - law.FirstSurtaxFrom), ToCents) + Round(law.SecondSurtax * AtLeastZero(AfterCredits - law.SecondSurtaxFrom), ToCents));
        var afterDividends = Line("after-dividends", "Tax and surtax less the credit on dividends", AtLeastZero(AfterCredits + surtax - DividendCredit)).Subtotal();

        Section("Reduction and low-income credit", "Taxation Act, 2007 (Ontario)");
        var reduction = Line("reduction", "Tax reduction", Min(afterDividends, AtLeastZero((2 * (law.Reduction + (law.ReductionOfChild * family.CountedChildren))) - afterDividends)));
        var reduced = Line("reduced", "Tax less the reduction", afterDividends - reduction);
        var pay = from.Credits.Employment.Income;
        var alone = Round(law.LowIncomeTaper * AtLeastZero(net - law.LowIncomeAlone), ToCents);
        var couple = If(from.Scope.Spouse, Round(law.LowIncomeTaper * AtLeastZero(net + from.Taxpayer.SpouseIncome - law.LowIncomeCouple), ToCents), 0);
        var lowIncome = Line("low-income", "Low-income individuals and families credit",
            If(pay > 0 & reduced > 0, Min(reduced, AtLeastZero(Min(law.LowIncomeMost, Round(law.LowIncomeShare * pay, ToCents)) - Max(alone, couple))), 0));

        Section("Health premium and tax", "Taxation Act, 2007 (Ontario)");
        var premium = Line("health-premium", "Health premium", Progressive(law.HealthPremium, from.Income.Taxable), ToCents);
        Tax = Line("tax", "Ontario tax", reduced - lowIncome + premium).Law("line 42800").Final();

        Warn("children-on-lower-return", from.Scope.LivesIn("on") & from.Scope.Spouse & family.CountedChildren > 0 & net < from.Taxpayer.SpouseIncome,
            $"Ontario counts the children on the return of the spouse with the higher net income: {from.Taxpayer.SpouseIncome} against {net} here.", reduction);
        Note("children-not-counted", from.Scope.LivesIn("on") & from.Scope.Dependants & from.Scope.Spouse & net > from.Taxpayer.SpouseIncome & family.CountedChildren.Equals(0),
            "This is the return of the spouse with the higher net income: children of 18 or under count here for Ontario's reduction. Say so at each child.", reduction);
    }
}

/// <summary>British Columbia: reduction, political contributions, renter's credit.</summary>
public sealed class BritishColumbiaForm : ProvinceForm
{
    /// <summary>Renter's credit, refunded.</summary>
    public AmountLine Renters { get; private set; } = null!;

    /// <summary>Declares the form.</summary>
    public BritishColumbiaForm(Definition definition, FederalLaw federal, BritishColumbiaLaw law, ProvincePages from)
        : base(definition, ("bc", "bc", "British Columbia"), federal, law, from, from.Credits.Tuition.BritishColumbia, law.ComputesTax ? law.GiftsTopRate : null, law.ComputesTax ? law.TopBracketStart : null)
    {
        if (!law.ComputesTax)
        {
            Renters = Entry("renters-credit", "Renter's credit, amount allowed").OfOneYear();
            return;
        }

        var net = from.Income.Net;
        Section("Reduction and political contributions", "Income Tax Act (BC)");
        var afterDividends = Line("after-dividends", "Tax less the credit on dividends", AtLeastZero(AfterCredits - DividendCredit)).Subtotal();
        var reduction = Line("reduction", "Tax reduction", Min(afterDividends, AtLeastZero(law.Reduction - Round(law.ReductionTaper * AtLeastZero(net - law.ReductionThreshold), ToCents))));
        var political = Entry("political", "Contributions to parties and candidates of the province").OfOneYear().When(from.Scope.Political).From("official receipts").Law("line 60400");
        var politicalCredit = Line("political-credit", "Credit on political contributions", CreditWords.PoliticalCredit(federal, political, law.PoliticalFirst, law.PoliticalSecond, law.PoliticalMost));
        Tax = Line("tax", "British Columbia tax", AtLeastZero(afterDividends - reduction - politicalCredit)).Law("line 42800").Final();

        Section("Renter's credit", "Income Tax Act (BC)");
        var rents = Answer("rents", "Rented a home in British Columbia for six months or more?").OfOneYear().RequiredWhen(net > 0).Hint("one claim for each household");
        var address = Text("rented-address", "Address rented").OfOneYear().When(rents).RequiredWhen(rents);
        Renters = Line("renters-credit", "Renter's credit",
            If(rents, AtLeastZero(law.RentersCredit - Round(law.RentersTaper * AtLeastZero(net + If(from.Scope.Spouse, from.Taxpayer.SpouseIncome, 0) - law.RentersThreshold), ToCents)), 0));
        Note("renters-credit-once", rents & from.Scope.Spouse & address.IsFilled(), "Only one of the household claims the renter's credit.", rents);
    }
}

/// <summary>Alberta: supplemental credit and political contributions.</summary>
public sealed class AlbertaForm : ProvinceForm
{
    /// <summary>Declares the form.</summary>
    public AlbertaForm(Definition definition, FederalLaw federal, AlbertaLaw law, ProvincePages from)
        : base(definition, ("alberta", "ab", "Alberta"), federal, law, from, from.Credits.Tuition.Alberta, null, null)
    {
        if (!law.ComputesTax)
        {
            return;
        }

        Section("Supplemental credit and political contributions", "Alberta Personal Income Tax Act");
        var supplemental = law.SupplementalRate is { } rate
            ? Line("supplemental", "Supplemental credit", rate * AtLeastZero(Amounts - law.SupplementalFrom), ToCents)
            : (Amount)0;
        var political = Entry("political", "Contributions to parties and candidates of the province").OfOneYear().When(from.Scope.Political).From("official receipts").Law("line 60010");
        var politicalCredit = Line("political-credit", "Credit on political contributions", CreditWords.PoliticalCredit(federal, political, law.PoliticalFirst, law.PoliticalSecond, law.PoliticalMost));
        Tax = Line("tax", "Alberta tax", AtLeastZero(AtLeastZero(AfterCredits - DividendCredit - supplemental) - politicalCredit)).Law("line 42800").Final();
    }
}
