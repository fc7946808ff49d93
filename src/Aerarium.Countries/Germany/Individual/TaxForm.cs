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
        Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxpayerForm taxpayer, IncomeForm income, CapitalForm capital, (ProvidentForm Own, ProvidentForm Spouse) provident, SpecialForm special, BurdensForm burdens,
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
        var before = Line("income-before-pension", Glossary.In("Income") + " before the subsidised pension", income.Total - losses + special.ChurchExcess - Deductions).Law("EStG s. 2(4)");
        var hardship = Line("hardship", Glossary.In("Hardship relief"), If(scope.AnyWages & income.Other > 0,
            If(income.Other <= law.HardshipLimit, income.Other, AtLeastZero((2 * new ParameterValue(law.HardshipLimit)) - income.Other)), 0)).Law("EStG s. 46(3), EStDV s. 70");
        var pension = Line("pension", Glossary.In("Subsidised private pension") + ", contributions and allowances", provident.Own.Pension + provident.Spouse.Pension).Law("EStG s. 10a(1), (3)").When(scope.SubsidisedPension);
        var allowances = Line("pension-allowances", "Allowances in their place", provident.Own.PensionAllowances + provident.Spouse.PensionAllowances).Law("EStG s. 10a(2)").When(scope.SubsidisedPension);
        var saved = Line("pension-saved", "Tax that the deduction saves", OnWholeEuro(before - hardship) - OnWholeEuro(before - hardship - pension)).Law("EStG s. 10a(2)").When(scope.SubsidisedPension);
        var pensionTaken = Line("pension-taken", "Subsidised pension deducted", If(saved > allowances, pension, 0)).Law("EStG s. 10a(2) s. 1").When(scope.SubsidisedPension);
        Note("pension-better", pensionTaken > 0, $"Deducting the subsidised pension saves {saved}, more than the allowances of {allowances}, which are added to the tax.", pension);
        Note("pension-allowances-better", pension > 0 & saved <= allowances, $"The allowances of {allowances} are worth more than the {saved} a deduction would save; they stay as they are.", pension);
        var net = Line("income", Glossary.In("Income"), before - pensionTaken).Law("EStG s. 2(4)").Subtotal();
        children.IncomeBefore.Is(net - hardship);
        Taxable = Line("taxable", Glossary.In("Taxable income"), AtLeastZero(net - hardship - children.Taken), DownToUnits).Law("EStG s. 2(5)").Final();
        Note("hardship", hardship > 0, $"Other income is small: {hardship} of it is not taxed.", hardship);

        Section(Glossary.In("Tax by the tariff"), "EStG s. 32a, 32b, 34", name: "tariff");
        Line("progression-rate", "Rate of the progression clause, in per cent", If(tax.Rate.Benefits > 0 & tax.Rate.OneFifth.Equals(0), tax.Rule.ProgressionRate(Taxable), 0)).Law("EStG s. 32b(2)");
        var byTariff = Line("by-tariff", Glossary.In("Tax by the tariff"), tax.Rule.On(Taxable)).Law("EStG s. 32a(1), (5)").Subtotal();

        var tariffOnCapital = Line("tariff-on-capital", "of which tax on capital income", byTariff - OnWholeEuro(Taxable - capital.ByTariff - capital.ByTariffOfSpouse)).Law("EStG s. 32d(6)").When(capital.AskedForTariff);
        var otherwise = Line("tariff-on-all-capital", "Tax by the tariff on all capital income", OnWholeEuro(Taxable + capital.AllTaxed) - byTariff).Law("EStG s. 32d(6)").When(scope.Capital & !capital.AskedForTariff);
        Note("tariff-better", scope.Capital & !capital.AskedForTariff & otherwise < capital.AllFlat, $"By the tariff all capital income would bear {otherwise}, at the flat rate {capital.AllFlat} with the surcharge; consider asking for the tariff.", otherwise);
        Warn("tariff-worse", capital.AskedForTariff & tariffOnCapital > capital.AllFlat, $"The tariff takes {tariffOnCapital} of the capital income, the flat rate {capital.AllFlat} with the surcharge; the authority then assesses it at the flat rate: choose that.", tariffOnCapital);

        Section("Credits and income tax", "EStG s. 34g, 35a, 31", name: "credits");
        var foreign = Line("foreign", "Foreign tax on capital income", Min(capital.Foreign, tariffOnCapital)).Law("EStG s. 32d(6) s. 2").When(capital.AskedForTariff);
        var party = Line("party", "Gifts to parties and voters' groups", AsFarAs(byTariff - foreign, Round(special.PartyCredit, UpToUnits))).Law("EStG s. 34g");
        var renovation = Entry("renovation", "Energy renovation of one's own home, credit of the year").OfOneYear().From("certificate of the installer").Law("EStG s. 35c");
        var renovated = Line("renovation-used", "of which used", AsFarAs(byTariff - foreign - party, Round(renovation, UpToUnits)));
        var work = Line("household", "Household work", AsFarAs(byTariff - foreign - party - renovated, Round(household.Credit, UpToUnits))).Law("EStG s. 35a");
        var credits = Line("credits", "Credits", foreign + party + renovated + work);
        var added = Line("pension-added", "Allowances of the subsidised pension, added", If(pensionTaken > 0, allowances, 0)).Law("EStG s. 2(6) s. 2").When(scope.SubsidisedPension);
        IncomeTax = Line("income-tax", Glossary.In("Income tax"), Round(byTariff - credits + children.BenefitOfTaken + added, UpToUnits) + capital.Flat).Law("EStG s. 2(6), 31 s. 4, 32d(3)").Final();
        Warn("credit-lost", Round(household.Credit, UpToUnits) > work & household.Credit > 0, "The tax is less than the credits; a part of the credit for household work is lost.", work);

        Section(Glossary.In("Solidarity surcharge") + " and " + Glossary.In("Church tax"), "SolZG s. 3, 4; church tax acts", name: "surcharges");
        var base_ = Line("surcharge-base", "Tax with all child allowances, less credits",
            AtLeastZero(OnWholeEuro(net - hardship - children.Allowances) - credits + added)).Law("SolZG s. 3(2); EStG s. 51a").Hint("without the tax on capital income at the flat rate");
        var limit = Line("surcharge-limit", "Limit", law.SurchargeLimit * persons).Law("SolZG s. 3(3)");
        var ofTariff = Line("surcharge-of-tariff", Glossary.In("Solidarity surcharge") + " on it", If(base_ <= limit, 0, Min(law.SurchargeRate * base_, law.SurchargeZone * (base_ - limit))), CutToCents).Law("SolZG s. 4");
        Surcharge = Line("surcharge", Glossary.In("Solidarity surcharge") + " in all", ofTariff + capital.Surcharge).Subtotal();
        var (rate, own, spouse) = (scope.ChurchRate(law), taxpayer.Member, scope.Joint & taxpayer.SpouseMember);
        var (ofOwn, ofSpouse) = (TaxRule.Single(law, AtLeastZero(income.Own)), TaxRule.Single(law, AtLeastZero(income.OfSpouse)));
        var share = Line("church-share", "Tax of church members", Decide("tax that falls to members", base_,
            (!own & !spouse, 0),
            (scope.Joint & own & !spouse, base_ * ofOwn / Max(ofOwn + ofSpouse, 1)),
            (scope.Joint & spouse & !own, base_ * ofSpouse / Max(ofOwn + ofSpouse, 1))), ToCents).Law("church tax acts (likely)");
        var churchOfTariff = Line("church-of-tariff", Glossary.In("Church tax") + " on it", rate * share * If(own & !scope.Joint, taxpayer.ChurchMonths.Or(12), 12) / 12, CutToCents).Law("church tax acts");
        ChurchTax = Line("church-tax", Glossary.In("Church tax") + " in all", churchOfTariff + capital.ChurchTax).Subtotal();
        Note("church-share", scope.Joint & ((own & !spouse) | (spouse & !own)), "Only one spouse is a member: the share is an estimate by the tariff on each one's income (likely).", share);
        Warn("withheld-without-church", !own & wages.Own.ChurchTax > 0, "Church tax was withheld, but no membership is entered.", taxpayer.Religion);
        Warn("church-without-withheld", own & taxpayer.ChurchMonths.IsBlank() & wages.Own.WageTax > 0 & wages.Own.ChurchTax.Equals(0), "A member all year, but no church tax was withheld; check the wage statements.", taxpayer.Religion);

        Amount OnWholeEuro(Amount taxable) => tax.Rule.On(Round(AtLeastZero(taxable), DownToUnits));
    }

    /// <summary>A credit as far as there is tax; what is left of it is lost.</summary>
    private static Amount AsFarAs(Amount tax, Amount credit) => If(credit > tax, tax, credit);
}
