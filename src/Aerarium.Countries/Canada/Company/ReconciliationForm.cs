using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>From the profit of the accounts to net income for tax, line by line (schedule 1).</summary>
public sealed class ReconciliationForm : Form
{
    private sealed record Other(AmountLine Added, AmountLine Deducted);

    /// <summary>Net income for tax, a loss if negative (line 300).</summary>
    public readonly AmountLine NetIncome;

    /// <summary>Expenses of the accounts that are never deducted; losses less gains on disposals in the accounts; reserves and other adjustments.</summary>
    public readonly Amount NotDeducted, Disposals, OtherDifferences;

    /// <summary>Declares the form.</summary>
    public ReconciliationForm(Definition definition, CorporationLaw law, ScopeForm scope, FinancialForm financial, DepreciationForm depreciation, GainsForm gains)
        : base(definition, "reconciliation", "Net income for tax", "From the profit of the accounts to net income for tax; each line says where it comes from.")
    {
        Section("Profit of the accounts", "ITA 9");
        var profit = Line("profit", "Net income after tax by the accounts", financial[FinancialItems.Profit]).Hint("item 9999");

        Section("Added", "ITA 18, 12, 67");
        var current = Line("current-tax", "Income tax, current", financial[FinancialItems.CurrentTax]).Hint("line 101").Law("ITA 18(1)(t)");
        var deferred = Line("deferred-tax", "Income tax, deferred", financial[FinancialItems.DeferredTax]).Hint("line 102").Law("ITA 18(1)(t)");
        var taxInterest = Added("tax-interest", "Interest and penalties on taxes", "103", "ITA 18(1)(t)");
        var amortisation = Line("amortisation", "Amortisation in the accounts", financial[FinancialItems.Amortisation]).Hint("lines 104, 106").Law("ITA 18(1)(b)");
        var recapture = Line("recapture", "Recapture of capital cost allowance", depreciation.Recapture).Hint("line 107").Law("ITA 13(1)");
        var lossOnDisposal = Added("disposal-loss", "Loss on disposal of assets in the accounts", "111", "ITA 18(1)(b)");
        var donations = Line("donations", "Gifts to charities in the accounts", financial[FinancialItems.Gifts]).Hint("line 112").Law("ITA 110.1");
        var taxableGains = Line("taxable-gains", "Taxable capital gains", gains.Taxable).Hint("line 113").Law("ITA 38");
        var political = Added("political", "Political contributions", "114", "ITA 18(1)(n)");
        var club = Added("club", "Club dues and fees", "120", "ITA 18(1)(l)");
        var meals = Line("meals", "Half of meals and entertainment", law.MealsDenied * AtLeastZero(financial[FinancialItems.Meals]), ToUnits).Hint("line 121").Law("ITA 67.1");
        var fines = Added("fines", "Fines and penalties", "128", "ITA 67.6");
        var insurance = Added("life-insurance", "Life insurance premiums", "", "ITA 18(1)(a)");
        var reservesClosing = Added("reserves-closing", "Reserves of the accounts at the end", "", "ITA 18(1)(e)");

        Section("Deducted", "ITA 20, 40");
        var gainOnDisposal = Added("disposal-gain", "Gain on disposal of assets in the accounts", "401", "ITA 39");
        var allowance = Line("allowance", "Capital cost allowance", depreciation.Claimed).Hint("line 403").Law("ITA 20(1)(a)");
        var terminal = Line("terminal", "Terminal losses", depreciation.Terminal).Hint("line 404").Law("ITA 20(16)");
        var reservesOpening = Added("reserves-opening", "Reserves of the accounts at the beginning", "", "ITA 18(1)(e)");

        var others = Repeating("others", "Other adjustments", "adjustment", row =>
        {
            row.NamedBy(row.Text("reason", "What, and why").Required());
            var added = row.Entry("added", "Added").InWholeUnits();
            var deducted = row.Entry("deducted", "Deducted").InWholeUnits();
            row.Error("other-empty", added.IsBlank() & deducted.IsBlank(), "Enter what is added or deducted.", added);
            return new Other(added, deducted);
        }).AsGrid();

        Section("Net income for tax", "ITA 3", name: "net-income");
        var add = Line("added", "Added", current + deferred + taxInterest + amortisation + recapture + lossOnDisposal + donations + taxableGains + political + club + meals + fines + insurance + reservesClosing + others.Sum(o => o.Added));
        var deduct = Line("deducted", "Deducted", gainOnDisposal + allowance + terminal + reservesOpening + others.Sum(o => o.Deducted));
        (NotDeducted, Disposals) = (taxInterest + political + club + meals + fines + insurance, lossOnDisposal - gainOnDisposal);
        OtherDifferences = reservesClosing - reservesOpening + others.Sum(o => o.Added) - others.Sum(o => o.Deducted);
        NetIncome = Line("net", "Net income for tax, or a loss if negative", profit + add - deduct).Hint("line 300").Final();

        Warn("gain-without-schedule", gainOnDisposal > 0 & scope.CapitalGains.IsFilled() & !scope.CapitalGains, $"A gain of {gainOnDisposal} in the accounts is deducted; say in Scope whether capital property was sold, or enter the disposal with its class.", gainOnDisposal);

        AmountLine Added(string name, string label, string line, string section)
        {
            var entry = Entry(name, label).InWholeUnits().OfOneYear().Law(section);
            return line.Length == 0 ? entry : entry.Hint($"line {line}");
        }
    }
}
