using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>The pages tax is computed from.</summary>
public sealed record TaxPages(
    ScopeForm Scope, FinancialForm Financial, ReconciliationForm Reconciliation, GiftsForm Gifts, DividendsForm Dividends, LossesForm Losses, GroupForm Group, AllocationForm Allocation);

/// <summary>Taxable income, federal tax (Part I) and the tax of Ontario and British Columbia; Alberta's is on the return to its own authority.</summary>
public sealed class TaxForm : Form
{
    /// <summary>So much above the business limit, a salary or bonus is usually thought of; common practice, no source.</summary>
    private const int LittleAbove = 100_000;

    /// <summary>Taxable income, the amount small business rates apply to, and federal tax.</summary>
    public readonly AmountLine Taxable, Small, PartOne;

    /// <summary>Refundable tax on investment income, and the federal small business deduction.</summary>
    public readonly AmountLine Refundable, SmallDeduction;

    /// <summary>What is taxed at the full rate.</summary>
    public readonly AmountLine FullRate;

    /// <summary>Tax of the provinces on this return.</summary>
    public readonly AmountLine Provinces;

    /// <summary>Declares the form.</summary>
    public TaxForm(Definition definition, CorporationLaw law, TaxPages pages)
        : base(definition, "tax", "Taxable income and tax", "Taxable income, federal tax, tax of Ontario and British Columbia; in whole dollars.")
    {
        var (scope, financial, reconciliation, gifts, dividends, losses, group, allocation) = pages;
        var investment = dividends.InvestmentIncome;
        Section("Taxable income", "ITA 2(2), 110.1, 111, 112");
        var net = Line("net", "Net income for tax", reconciliation.NetIncome).Hint("line 300");
        var deducted = Line("deducted", "Gifts, dividends and losses deducted", gifts.Deducted + dividends.Deductible + losses.NonCapital + losses.Capital);
        Taxable = Line("taxable", "Taxable income", AtLeastZero(net - deducted)).Hint("line 360").Final();

        Section("Small business deduction", "ITA 125(1)", scope.Private, name: "small-business");
        var reckoned = Line("active-reckoned", "Net income less investment income and dividends", AtLeastZero(net - investment - dividends.Deductible));
        var activeGiven = Entry("active", "Active business income, if it differs").InWholeUnits().OfOneYear().Hint("line 400; blank: as above");
        var foreign = Entry("foreign-adjustment", "Taxable income that foreign tax credits shelter").InWholeUnits().OfOneYear().Hint("line 405");
        var claimed = Answer("claim-small", "Claim the small business deduction?").OfOneYear().UsuallyYes().Required();
        var active = Line("active-counted", "Active business income", activeGiven.Or(reckoned));
        Small = Line("small", "Amount the deduction is given for", If(claimed, AtLeastZero(Min(active, AtLeastZero(Taxable - foreign), group.Limit)), 0)).Law("ITA 125(1)").Subtotal();

        Section("Federal tax", "ITA 123 to 125", name: "federal");
        var basic = Line("base", "Base tax", law.BaseRate * Taxable, ToUnits).Law("ITA 123").Hint("line 550");
        Refundable = Line("refundable", "Refundable tax on investment income", If(scope.Private, Min(investment, AtLeastZero(Taxable - Small)) * law.RefundableThirds / 300, 0), ToUnits).Law("ITA 123.3").Hint("line 604");
        SmallDeduction = Line("deduction", "Small business deduction", law.SmallBusiness * Small, ToUnits).Law("ITA 125(1)").Hint("line 430");
        var abatement = Line("abatement", "Federal abatement", law.Abatement * Taxable, ToUnits).Law("ITA 124(1)").Hint("line 608");
        FullRate = Line("full-rate", "Income at the full rate", AtLeastZero(Taxable - Small - If(scope.Private, investment, 0))).Law("ITA 123.4(1)");
        var reduction = Line("reduction", "General rate reduction", law.RateReduction * FullRate, ToUnits).Law("ITA 123.4(2)").Hint("line 638");
        PartOne = Line("part-one", "Part I tax", AtLeastZero(basic + Refundable - SmallDeduction - abatement - reduction)).Hint("line 700").Final();

        Section("Ontario", "ON-TA 29, 31", scope.Ontario, name: "ontario");
        var smallOfOntario = Line("on-small", "Amount Ontario's deduction is given for", If(scope.Private & claimed, AtLeastZero(Min(active, Taxable, group.LimitOfOntario)), 0)).Law("ON-TA 31");
        var ofOntario = Line("on-income", "Taxable income of Ontario", allocation.Of("on", Taxable));
        var onTax = Line("on-before", "Tax", law.OntarioRate * ofOntario, ToUnits).Law("ON-TA 29");
        var onDeduction = Line("on-deduction", "Small business deduction", law.OntarioSmall * allocation.Of("on", smallOfOntario), ToUnits).Law("ON-TA 31");
        var ontario = Line("on-tax", "Ontario tax", onTax - onDeduction).Subtotal();

        Section("British Columbia", "BC-ITA 14, 16", scope.BritishColumbia, name: "british-columbia");
        var ofBritishColumbia = Line("bc-income", "Taxable income of British Columbia", allocation.Of("bc", Taxable));
        var smallOfBritishColumbia = Line("bc-small", "of which at the small business rate", allocation.Of("bc", Small));
        var britishColumbia = Line("bc-tax", "British Columbia tax",
            Round(law.BritishColumbiaSmall * smallOfBritishColumbia, ToUnits) + Round(law.BritishColumbiaRate * (ofBritishColumbia - smallOfBritishColumbia), ToUnits)).Subtotal();

        Section("Together", name: "together");
        Line("ab-income", "Taxable income of Alberta, taxed on the Alberta return", allocation.Of("ab", Taxable));
        Provinces = Line("provinces", "Tax of the provinces on this return", ontario + britishColumbia).Hint("line 760").Final();

        Note("above-limit", Small > 0 & Taxable > group.Limit & Taxable - group.Limit <= LittleAbove, $"Income is {Taxable - group.Limit} above the business limit; salary or bonus could bring it down to the limit.", Taxable);
        Warn("ontario-minimum-tax", scope.Ontario & financial[FinancialItems.Assets] >= law.OntarioMinimum.Assets & financial[FinancialItems.Revenue] >= law.OntarioMinimum.Revenue,
            "Assets and revenue are those of a company that Ontario's corporate minimum tax applies to; it is not computed here.", ontario);
    }
}

/// <summary>Refundable tax, the dividend refund and the pool from which eligible dividends are paid (schedules 3 and 53).</summary>
public sealed class PoolsForm : Form
{
    /// <summary>Part IV tax and the dividend refund.</summary>
    public readonly AmountLine PartFour, Refund;

    /// <summary>Declares the form.</summary>
    public PoolsForm(Definition definition, CorporationLaw law, ScopeForm scope, DividendsForm dividends, TaxForm tax)
        : base(definition, "pools", "Refundable tax", "Part IV tax, the two pools of refundable tax, the dividend refund, the general rate income pool.", scope.Private)
    {
        Section("Part IV tax", "ITA 186(1)");
        var onEligible = Line("part-four-eligible", "On eligible portfolio dividends", dividends.PortfolioEligible * law.DividendThirds / 300, ToUnits);
        var onOther = Line("part-four-other", "On other portfolio dividends", dividends.PortfolioOther * law.DividendThirds / 300, ToUnits);
        PartFour = Line("part-four", "Part IV tax", onEligible + onOther).Hint("line 712").Subtotal();

        Section("Pools of refundable tax", "ITA 129(4)");
        var eligibleOpening = Opening("eligible-opening", "Eligible pool at the beginning", "eligible-closing");
        var otherOpening = Opening("other-opening", "Non-eligible pool at the beginning", "other-closing");
        var addition = Line("other-addition", "Refundable part of the tax on investment income", Min(
            Round(dividends.InvestmentIncome * law.PoolThirds / 300, ToUnits),
            Round(AtLeastZero(tax.Taxable - tax.Small) * law.PoolThirds / 300, ToUnits),
            tax.PartOne)).Law("ITA 129(4) \"non-eligible refundable dividend tax on hand\"");
        var eligible = Line("eligible", "Eligible pool", eligibleOpening + onEligible);
        var other = Line("other", "Non-eligible pool", otherOpening + onOther + addition);

        Section("Dividend refund", "ITA 129(1)");
        var refundEligible = Line("refund-eligible", "On eligible dividends", Min(Round(dividends.PaidEligible * law.DividendThirds / 300, ToUnits), eligible));
        var onOtherPaid = Line("refund-other-most", "On other dividends, at most", dividends.PaidOther * law.DividendThirds / 300, ToUnits);
        var fromOther = Line("refund-other", "from the non-eligible pool", Min(onOtherPaid, other));
        var excess = Line("refund-excess", "the excess from the eligible pool", Min(onOtherPaid - fromOther, eligible - refundEligible));
        Refund = Line("refund", "Dividend refund", refundEligible + fromOther + excess).Hint("line 784").Final();
        Line("eligible-closing", "Eligible pool at the end", eligible - refundEligible - excess);
        Line("other-closing", "Non-eligible pool at the end", other - fromOther);

        Section("General rate income pool", "ITA 89(1)");
        var opening = Opening("general-opening", "At the beginning", "general-closing");
        var added = Line("general-added", "Part of the income at the full rate", law.EligiblePool * tax.FullRate, ToUnits);
        var received = Line("general-received", "Eligible dividends received", dividends.PortfolioEligible + 0);
        var closing = Line("general-closing", "At the end", opening + added + received - dividends.PaidEligible).Subtotal();
        Error("eligible-dividends-too-high", closing < 0, $"Eligible dividends of {dividends.PaidEligible} were paid, and the pool holds {opening + added + received}; the excess is taxed under Part III.1, which is not covered.", closing);

        AmountLine Opening(string name, string label, string closingLine) => Entry(name, label).InWholeUnits().OfOneYear().When(!scope.First).From("last return, schedule 53")
            .TiedTo(definition.PeriodBefore(CompanyReturn.ReturnId).Line($"{Key}.{closingLine}"));
    }
}
