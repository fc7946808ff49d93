namespace Aerarium.StandIn.Philippines;

/// <summary>The arithmetic of an individual's quarterly return, in one or two columns, as the Philippines' simulated authority checks it.</summary>
public sealed class IndividualQuarterlyRules : IDocumentRules
{
    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Taxpayer/Tin", "Taxpayer/Name", "Header/TaxableYear", "Header/Kind", "Representative/Tin", "Header/Quarter");

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(["Result/TaxDue", "Result/Credits", "Result/Balance"], "Result/Credits", "Result/Balance");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document)
    {
        var balance = document.Amount("Computation/Balance") + document.Amount("SpouseColumn/Computation/Balance");
        (string Path, decimal Expected, string Rule)[] checks =
        [
            .. IndividualAnnualRules.Columns(document).SelectMany(column => Column(document, column)),
            ("Result/Balance", balance, "the sum of both columns"),
            ("Result/PayableNow", Math.Max(0, document.Amount("Result/Balance")), "the balance, if it is to be paid"),
        ];
        return checks.Select(c => document.Differs(c.Path, c.Expected, c.Rule)).OfType<Reason>();
    }

    /// <inheritdoc />
    public IEnumerable<Reason> Unsupported(Document document, AcceptedBefore accepted) => IndividualAnnualRules.Columns(document).SelectMany(column => SupportedCredits.Missing(
        document, accepted, column, int.Parse(document.Text("Header/Quarter")!, System.Globalization.CultureInfo.InvariantCulture), ("WithheldThisQuarter", "PaidBefore", "WithheldBefore")));

    private static (string Path, decimal Expected, string Rule)[] Column(Document document, string column)
    {
        decimal Of(string name) => document.Amount($"{column}Computation/{name}");
        return
        [
            ($"{column}Computation/Credits", Of("PriorExcess") + Of("PaidBefore") + Of("WithheldBefore") + Of("WithheldThisQuarter") + Of("ForeignCredit") + Of("PaidWithEarlier")
                + document.Sum($"{column}Computation/OtherCredit", "Amount"), "the sum of the credits"),
            ($"{column}Computation/Balance", Of("TaxDue") - Of("Credits"), "tax due less credits"),
        ];
    }
}
