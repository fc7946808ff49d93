using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Local interest and dividends; what was taxed finally at source does not count.</summary>
public sealed class InvestmentsForm : Form
{
    private sealed record Investment(AmountLine Counts);

    /// <summary>Investment income that is taxed here.</summary>
    public readonly AmountLine Income;

    /// <summary>Declares the form.</summary>
    public InvestmentsForm(Definition definition, ScopeForm scope)
        : base(definition, "investments", "Investments", "Interest and dividends of local payers.", scope.Investment)
    {
        var investments = Repeating("investments", "Interest and dividends", "payer", row =>
        {
            row.NamedBy(row.Text("payer", "Bank or company").From("bank statement").Required());
            row.Choice("kind", "Kind", [new("interest", "Interest"), new("dividend", "Dividend")]).Required();
            var amount = row.Entry("amount", "Amount").From("bank statement").Required();
            var taxed = row.Answer("taxed-at-source", "Tax taken finally at source?").UsuallyYes().Required().Law("ITA (likely)");
            row.Warn("taxed-twice", taxed & amount > 0, $"The tax on {amount} was taken at source and is final for a resident: it does not count here. Do not tax it twice.", taxed);
            return new Investment(row.Line("counts", "Counts as income", If(taxed, 0, amount)));
        }, "ITA");

        Section("All investments", "ITA");
        Income = Line("income", "Investment income", investments.Sum(i => i.Counts)).Subtotal();
        Error("no-investment", scope.Investment & investments.RowCount.Equals(0), "Add interest and dividends payer by payer, or answer in Scope that there were none.", scope.Investment);
    }
}
