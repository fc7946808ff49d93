using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Pay, one block for each employer's certificate.</summary>
public sealed class EmploymentForm : Form
{
    private sealed record Employer(AmountLine Income, AmountLine TaxDeducted);

    /// <summary>Pay and taxable benefits of all employers, and the tax they deducted.</summary>
    public readonly AmountLine Income, TaxDeducted;

    /// <summary>Declares the form.</summary>
    public EmploymentForm(Definition definition, ScopeForm scope)
        : base(definition, "employment", "Employment", "One block for each employer, copied from the annual certificate.", scope.Employment)
    {
        var employers = Repeating("employers", "Employers", "employer", row =>
        {
            var number = row.Text("number", "Employer's number").From("employer's certificate, employer's number").Required();
            row.NamedBy(row.Text("name", "Employer's name").From("employer's certificate, employer").Required());
            var pay = row.Entry("pay", "Pay").TakesMoreIncome().From("employer's certificate, gross pay").Required();
            var benefits = row.Entry("benefits", "Taxable benefits").From("employer's certificate, benefits");
            var tax = row.Entry("tax-deducted", "Tax deducted").From("employer's certificate, tax deducted").Required();
            row.Error("tax-above-pay", tax > pay, $"The tax of {tax} is higher than the pay of {pay}; check the certificate.", tax);
            row.Error("employer-twice", row.RepeatsEarlier(number), "This employer is entered twice; keep one block for each certificate.", number);
            return new Employer(row.Line("income", "Pay and benefits", pay + benefits).Subtotal(), tax);
        }, "ITA");

        Section("All employers", "ITA");
        Income = Line("income", "Employment income", employers.Sum(e => e.Income)).Subtotal();
        TaxDeducted = Line("tax-deducted", "Tax deducted by employers", employers.Sum(e => e.TaxDeducted));

        Error("no-employer", scope.Employment & employers.RowCount.Equals(0), "Add each employer of the year from its certificate, or answer in Scope that there was none.", scope.Employment);
        Note("several-employers", employers.RowCount > 1, "With several employers the tax deducted may be too little: each may have given the allowance and the lower band.", Income);
    }
}
