using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Pensions, one row for each certificate.</summary>
public sealed class PensionsForm : Form
{
    private sealed record Pension(AmountLine Amount, AmountLine TaxDeducted);

    /// <summary>Taxable pensions, and the tax deducted from them.</summary>
    public readonly AmountLine Income, TaxDeducted;

    /// <summary>Declares the form.</summary>
    public PensionsForm(Definition definition, ScopeForm scope)
        : base(definition, "pensions", "Pensions", "One row for each pension certificate.", scope.Pension)
    {
        var pensions = Repeating("pensions", "Pensions", "pension", row =>
        {
            var payer = row.Text("payer", "Payer").From("pension certificate, payer").Required();
            row.NamedBy(payer);
            var amount = row.Entry("amount", "Taxable pension").TakesMoreIncome().From("pension certificate, amount").Required();
            var tax = row.Entry("tax-deducted", "Tax deducted").From("pension certificate, tax deducted");
            row.Error("tax-above-pension", tax > amount, $"The tax of {tax} is higher than the pension of {amount}; check the certificate.", tax);
            row.Error("pension-twice", row.RepeatsEarlier(payer), "A pension of this payer is entered twice; keep one row for each certificate.", payer);
            return new Pension(amount, tax);
        }, "ITA");

        Section("All pensions", "ITA");
        Income = Line("income", "Pension income", pensions.Sum(p => p.Amount)).Subtotal();
        TaxDeducted = Line("tax-deducted", "Tax deducted from pensions", pensions.Sum(p => p.TaxDeducted));

        Error("no-pension", scope.Pension & pensions.RowCount.Equals(0), "Add each pension from its certificate, or answer in Scope that there was none.", scope.Pension);
    }
}
