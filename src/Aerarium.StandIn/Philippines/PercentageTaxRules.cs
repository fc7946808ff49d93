using System.Globalization;

namespace Aerarium.StandIn.Philippines;

/// <summary>The arithmetic of the percentage tax of a quarter, as the Philippines' simulated authority checks it: 3% of gross sales, and 1% from July 2020 to June 2023.</summary>
public sealed class PercentageTaxRules : IDocumentRules
{
    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Taxpayer/Tin", "Taxpayer/Name", "Header/TaxableYear", "Header/Kind", "Representative/Tin", "Header/Quarter");

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(["Result/Tax", "Result/Credits", "Result/Balance"], "Result/Credits", "Result/Balance");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document)
    {
        decimal Sales(string name) => document.Amount($"Sales/{name}");
        decimal Result(string name) => document.Amount($"Result/{name}");
        var month = (12 * int.Parse(document.Text("Header/TaxableYear")!, CultureInfo.InvariantCulture)) + (3 * int.Parse(document.Text("Header/Quarter")!, CultureInfo.InvariantCulture));
        var lastToJune = month - ((month - 1) % 12) + 5;
        var tax = (RateIn(month) * (Sales("Goods") + Sales("Services") + Sales("Before") - Sales("BeforeToJune"))) + (RateIn(lastToJune) * Sales("BeforeToJune"));
        (string Path, decimal Expected, string Rule)[] checks =
        [
            ("Sales/Gross", Sales("Goods") + Sales("Services") + Sales("Before"), "the sum of the sales"),
            ("Result/Tax", decimal.Round(tax, 0, MidpointRounding.AwayFromZero), "the sales at the rate of their time"),
            ("Result/Credits", Result("Withheld") + Result("PaidWithEarlier"), "the sum of the credits"),
            ("Result/Balance", Result("Tax") - Result("Credits"), "tax less credits"),
            ("Result/PayableNow", Math.Max(0, Result("Balance")), "the balance, if it is to be paid"),
        ];
        return checks.Select(c => document.Differs(c.Path, c.Expected, c.Rule)).OfType<Reason>();
    }

    /// <summary>The rate of a month, counted from the year nought.</summary>
    private static decimal RateIn(int month) => month > (12 * 2020) + 6 && month <= (12 * 2023) + 6 ? 0.01m : 0.03m;
}
