using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>Income from property, dividends received and paid (schedules 3 and 7).</summary>
public sealed class DividendsForm : Form
{
    private sealed record Received(AmountLine Deductible, AmountLine PortfolioEligible, AmountLine PortfolioOther);

    /// <summary>Aggregate investment income.</summary>
    public readonly AmountLine InvestmentIncome;

    /// <summary>Taxable dividends deductible.</summary>
    public readonly AmountLine Deductible;

    /// <summary>Portfolio dividends by kind.</summary>
    public readonly AmountLine PortfolioEligible, PortfolioOther;

    /// <summary>Dividends paid by kind.</summary>
    public readonly AmountLine PaidEligible, PaidOther;

    /// <summary>Declares the form.</summary>
    public DividendsForm(Definition definition, CorporationLaw law, ScopeForm scope, GainsForm gains, FinancialForm financial)
        : base(definition, "dividends", "Investments and dividends", "Income from property, dividends received, dividends paid.")
    {
        var received = Repeating("received", "Dividends received", "dividend", row =>
        {
            row.NamedBy(row.Text("payer", "Paid by").From("slip T5").Required());
            row.Identifier("payer-bn", "Its business number", CanadaIdentifiers.BusinessNumber);
            var eligible = row.Answer("eligible", "Eligible dividend?").Required();
            var connected = row.Answer("connected", "From a connected company?").Required().Hint("more than a tenth of votes and value");
            var amount = row.Entry("amount", "Amount").InWholeUnits().From("slip T5").Required();
            return new Received(
                row.Line("deductible", "Deductible", amount + 0).Law("ITA 112(1)"),
                row.Line("portfolio-eligible", "Portfolio, eligible", If(!connected & eligible, amount, 0)).Law("ITA 186(1)"),
                row.Line("portfolio-other", "Portfolio, other", If(!connected & !eligible, amount, 0)).Law("ITA 186(1)"));
        }, "ITA 112, 186", scope.Investments).AsGrid();

        Section("Investment income", "ITA 129(4)", name: "investment-income");
        var property = Entry("property", "Income from property, expenses deducted").InWholeUnits().OfOneYear().When(scope.Investments).RequiredWhen(scope.Investments).From("accounts").Hint("interest, rents; dividends apart");
        var losses = Entry("property-losses", "Net capital losses of other years and losses from property").InWholeUnits().OfOneYear().When(scope.Investments | scope.CapitalGains);
        InvestmentIncome = Line("aggregate", "Aggregate investment income", If(scope.Investments | scope.CapitalGains, AtLeastZero(gains.Taxable + property - losses), 0)).Subtotal();

        Section("Dividends received", "ITA 112, 186", scope.Investments, name: "received-totals");
        Deductible = Line("deductible", "Taxable dividends deductible", received.Sum(r => r.Deductible)).Hint("line 320");
        PortfolioEligible = Line("portfolio-eligible", "Portfolio dividends, eligible", received.Sum(r => r.PortfolioEligible));
        PortfolioOther = Line("portfolio-other", "Portfolio dividends, other", received.Sum(r => r.PortfolioOther));

        Section("Dividends paid", "ITA 89(14), 129(1)", scope.DividendsPaid, name: "paid");
        PaidEligible = Entry("paid-eligible", "Eligible dividends paid").InWholeUnits().OfOneYear().Required("Enter the eligible dividends paid; zero if there were none.").From("minutes");
        PaidOther = Entry("paid-other", "Other taxable dividends paid").InWholeUnits().OfOneYear().Required("Enter the other dividends paid; zero if there were none.").From("minutes");
        Error("dividends-not-entered", financial[FinancialItems.Dividends] > 0 & scope.DividendsPaid.IsFilled() & !scope.DividendsPaid, $"The accounts declare dividends of {financial[FinancialItems.Dividends]}; say in Scope that dividends were paid, and enter them.", financial[FinancialItems.Dividends], scope.DividendsPaid);
        Warn("dividends-differ", scope.DividendsPaid & (PaidEligible + PaidOther).DiffersFrom(financial[FinancialItems.Dividends]), $"Dividends of {PaidEligible + PaidOther} were paid, and the accounts declare {financial[FinancialItems.Dividends]}.", PaidOther);
        Note("investment-income", InvestmentIncome > law.PassiveFrom, $"Investment income above {law.PassiveFrom} shrinks next year's business limit by {law.PassiveFactor} for each dollar above it.", InvestmentIncome);
    }
}
