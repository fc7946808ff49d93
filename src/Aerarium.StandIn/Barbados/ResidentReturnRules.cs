using System.Globalization;

namespace Aerarium.StandIn.Barbados;

/// <summary>The arithmetic of a resident individual's return as Barbados' simulated authority checks it: from the lines of the document, not from the product's rules.</summary>
public sealed class ResidentReturnRules : IDocumentRules
{
    private const decimal Band = 50_000, LowerRate = 0.125m, UpperRate = 0.285m, RentRate = 0.15m, Allowance = 25_000, PensionerAllowance = 40_000;
    private const int PensionerAge = 60, FirstComputedYear = 2020;

    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Taxpayer/Number", "Taxpayer/Name", "Header/IncomeYear", "Header/Kind", "Agent/Number");

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(
        ["Computation/Assessable", "Computation/Deductions", "Computation/Allowance", "Computation/Taxable", "Computation/TaxLessCredits", "Computation/AlreadyPaid", "Computation/Balance"],
        "Computation/AlreadyPaid",
        "Computation/Balance");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document)
    {
        decimal Of(string name) => document.Amount($"Computation/{name}");
        decimal Deducted(string name) => document.Amount($"Deductions/{name}");
        var year = int.Parse(document.Text(Header.Year)!, CultureInfo.InvariantCulture);
        var losses = document.Sum("Income/LossOfEarlierYear", "Used");
        var energyCost = document.Sum("Deductions/EnergyWork", "Cost") + Deducted("EnergyBroughtForward");
        var energyYear = document.Amount("Deductions/EnergyYear");
        var foreignShare = Of("Assessable") > 0 ? decimal.Round(Of("Tax") * Of("Foreign") / Of("Assessable"), 2, MidpointRounding.AwayFromZero) : 0;
        List<(string Path, decimal Expected, string Rule)> checks =
        [
            ("Computation/Employment", document.Sum("Income/Employer", "Pay") + document.Sum("Income/Employer", "Benefits"), "the pay and benefits of all employers"),
            ("Computation/Pension", document.Sum("Income/Pension", "Amount"), "the sum of the pensions"),
            ("Computation/Business", Math.Max(0, Math.Max(0, document.Sum("Income/Business", "Turnover") - document.Sum("Income/Business/Expense", "Amount")) - losses), "turnover less expenses and losses used"),
            ("Computation/Foreign", document.Sum("Income/Foreign", "Income"), "the sum of the sources abroad"),
            ("Computation/Assessable", Of("Employment") + Of("Pension") + Of("Business") + Of("Foreign") + Of("Investment"), "the sum of the kinds of income"),
            ("Deductions/Energy", energyYear is >= 1 and <= 5 ? Math.Min(energyCost, 10_000) : 0, "the cost of energy-saving works up to 10,000"),
            ("Computation/Deductions",
                Deducted("DuesTotal") + Deducted("Energy") + Deducted("Gifts") + Deducted("Agriculture") + Deducted("Culture") + Deducted("Medical") + Deducted("DomesticWorker")
                    + Deducted("PensionPlan") + Deducted("Spouse") + Deducted("Children"),
                "the sum of the deductions"),
            ("Computation/Allowance", Of("Pension") > 0 && AgeAtYearEnd(document, year) >= PensionerAge ? PensionerAllowance : Allowance, "the personal allowance"),
            ("Computation/Taxable", Math.Max(0, Of("Assessable") - Of("Deductions") - Of("Allowance")), "assessable income less deductions and allowance"),
            ("Computation/RentalTax", decimal.Round(document.Sum("ResidentialRent/Property", "Taxed") * RentRate, 2, MidpointRounding.AwayFromZero), "15% of the rent taxed"),
            ("Computation/ForeignCredit", Math.Min(document.Sum("Income/Foreign", "Tax"), foreignShare), "foreign tax up to the tax on that income"),
            ("Computation/TaxLessCredits", Of("Tax") + Of("RentalTax") - Of("ForeignCredit") - Of("ReverseCredit") - Of("CompensatoryCredit") - Of("CurrencyCredit"), "tax less credits"),
            ("Computation/DeductedAtSource", document.Sum("Income/Employer", "TaxDeducted") + document.Sum("Income/Pension", "TaxDeducted"), "the tax deducted by payers"),
            ("Computation/Prepaid", document.Sum("Payments/Payment", "Amount"), "the sum of the payments"),
            ("Computation/AlreadyPaid", Of("DeductedAtSource") + Of("Prepaid"), "tax deducted and payments"),
            ("Computation/Balance", Of("TaxLessCredits") - Of("AlreadyPaid"), "tax less credits less what is already paid"),
        ];
        if (year >= FirstComputedYear)
        {
            var tax = (Math.Min(Of("Taxable"), Band) * LowerRate) + (Math.Max(0, Of("Taxable") - Band) * UpperRate);
            checks.Add(("Computation/Tax", decimal.Round(tax, 2, MidpointRounding.AwayFromZero), "the tax by the bands"));
        }

        foreach (var (path, expected, rule) in checks)
        {
            if (document.Differs(path, expected, rule) is { } reason)
            {
                yield return reason;
            }
        }

        if (document.Text("Header/Resident") != "true")
        {
            yield return new Reason("RESIDENCE", document.Path("Header/Resident"), "This return is for residents.");
        }

        if (Of("Balance") < 0 && document.Text("RefundAccount/AccountNumber") is null)
        {
            yield return new Reason("ACCOUNT", document.Path("Computation/Balance"), "A refund needs a bank account.");
        }
    }

    private static int AgeAtYearEnd(Document document, int year) =>
        year - int.Parse(document.Text("Taxpayer/BirthDate")![..4], CultureInfo.InvariantCulture);
}
