using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.PercentageTax;

/// <summary>The tax of the quarter, what payers have withheld of it, and what is to pay.</summary>
public sealed class PercentageTaxForm : QuarterPaidForm
{
    /// <summary>The tax, credits, the balance.</summary>
    public readonly AmountLine Tax, Credits, Balance;

    /// <summary>Declares the form.</summary>
    public PercentageTaxForm(Definition definition, IncomeTaxLaw law, PercentageTaxScopeForm scope, TaxpayerForm taxpayer, SalesForm sales, DateOnly due)
        : base(definition, "result", "Percentage tax", "Tax on gross sales and receipts, less what was withheld or paid.")
    {
        Section("Tax", "NIRC s. 116");
        Tax = Line("tax", "Percentage tax", sales.Tax, ToUnits).Law("NIRC s. 116").Subtotal();

        Section("Credits");
        var withheld = Entry("withheld", "Percentage tax withheld by payers").InWholeUnits().From("certificates of percentage tax withheld").Law("RR 2-98 s. 5.116 (likely)");
        var earlier = Entry("paid-with-earlier", "Paid with the return that is amended").InWholeUnits().From("earlier return").When(taxpayer.Amended).RequiredWhen(taxpayer.Amended);
        Credits = Line("credits", "Credits", withheld + earlier).Subtotal();

        Section("Balance");
        Balance = Line("balance", "Balance: to pay, or overpaid if negative", Tax - Credits).Law("NIRC s. 128(A)").Final();
        Warn("withheld-exceeds-tax", withheld > Tax, $"More was withheld than the tax of {Tax}: check that the certificates are of percentage tax, and of this quarter.", withheld);
        PaidBy(law, due, Balance, scope.Late);
    }
}
