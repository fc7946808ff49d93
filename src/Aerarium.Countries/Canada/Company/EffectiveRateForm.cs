using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>
/// What part of the profit the tax of the period takes, Alberta's included, and why it is not the full rate: each difference with the tax it makes. Nothing is filed from here (common practice, no source).
/// </summary>
public sealed class EffectiveRateForm : Form
{
    private static readonly Rounding ToTenths = new(0.1m, RoundingMode.HalfUp), ToPlaces = new(0.0001m, RoundingMode.HalfUp);

    /// <summary>Declares the form.</summary>
    public EffectiveRateForm(Definition definition, CorporationLaw law, TaxPages pages, DepreciationForm depreciation, GainsForm gains, TaxForm tax, PoolsForm pools)
        : base(definition, "effective-rate", "Effective rate", "What part of the profit the tax takes, and what makes the difference from the full rate; it is not filed.")
    {
        var (scope, financial, reconciliation, gifts, dividends, losses, _, allocation) = pages;
        Section("Tax of the profit", name: "rate");
        var profit = Line("profit", "Profit before tax", financial[FinancialItems.BeforeTax]);
        var alberta = Entry("alberta", "Alberta tax").InWholeUnits().OfOneYear().When(scope.Alberta).TiedTo(definition.SamePeriod(CompanyAlberta.AlbertaReturn.ReturnId).Line("tax.tax")).From("Alberta return");
        var all = Line("tax", "Tax of the period, less the dividend refund", tax.PartOne + tax.Provinces + alberta + pools.PartFour - pools.Refund).Subtotal();
        NumberLine("percent", "Effective rate", If(profit > 0, Round(100 * all / Max(profit, 1), ToTenths), 0)).Unit("%");
        var known = alberta.IsFilled();
        var provinces = (law.BritishColumbiaRate * allocation.Share("bc")) + (law.OntarioRate * allocation.Share("on")) + If(known, law.AlbertaRate * allocation.Share("ab"), 0);
        var full = NumberLine("full-percent", "Full rate, federal and provincial", Round(100 * ((Amount)law.BaseRate - law.Abatement - law.RateReduction + provinces), ToPlaces)).Unit("%");
        Note("alberta-unknown", scope.Alberta & !known, "Alberta's tax is not known yet, and the rates are without it; open the Alberta return.", alberta);

        Section("What makes the difference", name: "differences");
        var atFull = Line("at-full", "Profit at the full rate", profit * full / 100, ToUnits);
        var allowance = Step("allowance", "Capital cost allowance in place of amortisation", financial[FinancialItems.Amortisation] + depreciation.Recapture - depreciation.Claimed - depreciation.Terminal);
        var denied = Step("denied", "Expenses that are not deducted", reconciliation.NotDeducted);
        var sold = Step("gains", "Gains and losses on property", gains.Taxable + reconciliation.Disposals);
        var given = Step("gifts", "Gifts deducted in another year than given", financial[FinancialItems.Gifts] - gifts.Deducted);
        var received = Step("dividends", "Dividends that are deducted", 0 - dividends.Deductible);
        var used = Step("losses", "Losses of other years used", 0 - losses.NonCapital - losses.Capital);
        var others = Step("others", "Reserves and other adjustments", reconciliation.OtherDifferences);
        var unused = Step("unused", "A loss of this year, without tax until it is used", tax.Taxable - reconciliation.NetIncome + gifts.Deducted + dividends.Deductible + losses.NonCapital + losses.Capital);
        var ofProvinces = (law.BritishColumbiaRate * allocation.Of("bc", tax.Taxable)) + (law.OntarioRate * allocation.Of("on", tax.Taxable)) + If(known, law.AlbertaRate * allocation.Of("ab", tax.Taxable), 0);
        var small = Line("small", "Small business deductions", (law.RateReduction * tax.Small) - tax.SmallDeduction + tax.Provinces + alberta - ofProvinces, ToUnits);
        var investment = Line("investment", "Investment income: refundable tax, no rate reduction", tax.Refundable + (law.RateReduction * (tax.Taxable - tax.Small - tax.FullRate)), ToUnits);
        var refunded = Line("refunded", "Part IV tax less the dividend refund", pools.PartFour - pools.Refund);
        AmountLine[] steps = [allowance, denied, sold, given, received, used, others, unused, small, investment, refunded];
        var rest = Line("rounding", "Rounding, and Alberta's differences", all - steps.Aggregate((Amount)atFull, (sum, step) => sum + step));
        Explain(atFull, [.. steps, rest], all);

        AmountLine Step(string name, string label, Amount difference) => Line(name, label, difference * full / 100, ToUnits);
    }
}
