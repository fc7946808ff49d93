using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>From the total income to the tax: provident expenses, taxable income, tariff, credits, solidarity surcharge and church tax.</summary>
public sealed class TaxForm : Form
{
    private static readonly Rounding UpToUnits = new(1m, RoundingMode.Up);
    private static readonly Rounding CutToCents = new(0.01m, RoundingMode.Down);

    /// <summary>Taxable income, income tax, solidarity surcharge, church tax.</summary>
    public readonly AmountLine Deductions, Taxable, IncomeTax, Surcharge, ChurchTax;

    /// <summary>Declares the form.</summary>
    public TaxForm(
        Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxpayerForm taxpayer, IncomeForm income, (ProvidentForm Own, ProvidentForm Spouse) provident, SpecialForm special, BurdensForm burdens,
        ChildrenForm children, HouseholdWorkForm household, (TaxRule Rule, RateForm Rate) tax, (WageForm Own, WageForm Spouse) wages)
        : base(definition, "tax", "Tax", "Taxable income, the tariff, credits, solidarity surcharge and church tax; an estimate, the notice decides.")
    {
        var persons = If(scope.Joint, 2, 1);
        Section(Glossary.In("Provident expenses"), "EStG s. 10(3), (4)", name: "provident");
        var contributions = Line("old-age", Glossary.In("Old-age contributions") + ", employers' included", provident.Own.OldAge + provident.Spouse.OldAge);
        var capped = Line("old-age-capped", "up to the cap, part that is deducted", law.OldAgeShare * Min(contributions, law.OldAgeCap * persons), ToCents).Law("EStG s. 10(3) s. 1 to 6");
        var oldAge = Line("old-age-deducted", "less employers' contributions", AtLeastZero(capped - provident.Own.OfEmployer - provident.Spouse.OfEmployer)).Law("EStG s. 10(3) s. 5");
        var basic = Line("basic", "Basic health and care insurance", provident.Own.Basic + provident.Spouse.Basic);
        var other = Line("other-insurance", "Other insurance", provident.Own.Other + provident.Spouse.Other);
        var cap = Line("other-cap", "Together at most, unless the basic part is more", provident.Own.Cap + provident.Spouse.Cap).Law("EStG s. 10(4)");
        var otherDeducted = Line("other-deducted", "Deducted", Max(basic, Min(basic + other, cap))).Law("EStG s. 10(4) s. 4");
        var providentDeducted = Line("provident-deducted", Glossary.In("Provident expenses") + " deducted", oldAge + otherDeducted).Subtotal();
        Note("other-no-effect", other > 0 & basic >= cap, "Other insurance has no effect this year: the basic insurance alone is above the cap.", other);

        Section(Glossary.In("Taxable income"), "EStG s. 2(4), (5)", name: "taxable");
        var losses = Entry("losses", "Losses of earlier years").OfOneYear().From("separate notice").Hint("EStG s. 10d, as far as used now");
        Deductions = Line("deductions", "Special and provident expenses, burdens", special.Allowed + providentDeducted + burdens.Allowed);
        var net = Line("income", Glossary.In("Income"), income.Total - losses + special.ChurchExcess - Deductions).Law("EStG s. 2(4)").Subtotal();
        var hardship = Line("hardship", Glossary.In("Hardship relief"), If(scope.AnyWages & income.Other > 0,
            If(income.Other <= law.HardshipLimit, income.Other, AtLeastZero((2 * new ParameterValue(law.HardshipLimit)) - income.Other)), 0)).Law("EStG s. 46(3), EStDV s. 70");
        children.IncomeBefore.Is(net - hardship);
        Taxable = Line("taxable", Glossary.In("Taxable income"), AtLeastZero(net - hardship - children.Taken), DownToUnits).Law("EStG s. 2(5)").Final();
        Note("hardship", hardship > 0, $"Other income is small: {hardship} of it is not taxed.", hardship);

        Section(Glossary.In("Tax by the tariff"), "EStG s. 32a, 32b, 34", name: "tariff");
        Line("progression-rate", "Rate of the progression clause, in per cent", If(tax.Rate.Benefits > 0 & tax.Rate.OneFifth.Equals(0), tax.Rule.ProgressionRate(Taxable), 0)).Law("EStG s. 32b(2)");
        var byTariff = Line("by-tariff", Glossary.In("Tax by the tariff"), tax.Rule.On(Taxable)).Law("EStG s. 32a(1), (5)").Subtotal();

        Section("Credits and income tax", "EStG s. 34g, 35a, 31", name: "credits");
        var party = Line("party", "Gifts to parties and voters' groups", AsFarAs(byTariff, Round(special.PartyCredit, UpToUnits))).Law("EStG s. 34g");
        var renovation = Entry("renovation", "Energy renovation of one's own home, credit of the year").OfOneYear().From("certificate of the installer").Law("EStG s. 35c");
        var renovated = Line("renovation-used", "of which used", AsFarAs(byTariff - party, Round(renovation, UpToUnits)));
        var work = Line("household", "Household work", AsFarAs(byTariff - party - renovated, Round(household.Credit, UpToUnits))).Law("EStG s. 35a");
        var credits = Line("credits", "Credits", party + renovated + work);
        IncomeTax = Line("income-tax", Glossary.In("Income tax"), byTariff - credits + children.BenefitOfTaken, UpToUnits).Law("EStG s. 2(6), 31 s. 4").Final();
        Warn("credit-lost", Round(household.Credit, UpToUnits) > work & household.Credit > 0, "The tax is less than the credits; a part of the credit for household work is lost.", work);

        Section(Glossary.In("Solidarity surcharge") + " and " + Glossary.In("Church tax"), "SolZG s. 3, 4; church tax acts", name: "surcharges");
        var base_ = Line("surcharge-base", "Tax with all child allowances, less credits",
            AtLeastZero(tax.Rule.On(Round(AtLeastZero(net - hardship - children.Allowances), DownToUnits)) - credits)).Law("SolZG s. 3(2); EStG s. 51a");
        var limit = Line("surcharge-limit", "Limit", law.SurchargeLimit * persons).Law("SolZG s. 3(3)");
        Surcharge = Line("surcharge", Glossary.In("Solidarity surcharge"), If(base_ <= limit, 0, Min(law.SurchargeRate * base_, law.SurchargeZone * (base_ - limit))), CutToCents).Law("SolZG s. 4").Subtotal();
        var rate = If(scope.State.Is("bw") | scope.State.Is("by"), law.ChurchTaxSouth, law.ChurchTax);
        var (own, spouse) = (taxpayer.Religion.IsFilled() & !taxpayer.Religion.Is("none"), scope.Joint & taxpayer.SpouseReligion.IsFilled() & !taxpayer.SpouseReligion.Is("none"));
        var (ofOwn, ofSpouse) = (TaxRule.Single(law, AtLeastZero(income.Own)), TaxRule.Single(law, AtLeastZero(income.OfSpouse)));
        var share = Line("church-share", "Tax that falls to members", Decide("tax that falls to members", base_,
            (!own & !spouse, 0),
            (scope.Joint & own & !spouse, base_ * ofOwn / Max(ofOwn + ofSpouse, 1)),
            (scope.Joint & spouse & !own, base_ * ofSpouse / Max(ofOwn + ofSpouse, 1))), ToCents).Law("church tax acts (likely)");
        ChurchTax = Line("church-tax", Glossary.In("Church tax"), rate * share * If(own & !scope.Joint, taxpayer.ChurchMonths.Or(12), 12) / 12, CutToCents).Law("church tax acts").Subtotal();
        Note("church-share", scope.Joint & ((own & !spouse) | (spouse & !own)), "Only one spouse is a member: the share is an estimate by the tariff on each one's income (likely).", share);
        Warn("withheld-without-church", !own & wages.Own.ChurchTax > 0, "Church tax was withheld, but no membership is entered.", taxpayer.Religion);
        Warn("church-without-withheld", own & taxpayer.ChurchMonths.IsBlank() & wages.Own.WageTax > 0 & wages.Own.ChurchTax.Equals(0), "A member all year, but no church tax was withheld; check the wage statements.", taxpayer.Religion);
    }

    /// <summary>A credit as far as there is tax; what is left of it is lost.</summary>
    private static Amount AsFarAs(Amount tax, Amount credit) => If(credit > tax, tax, credit);
}
