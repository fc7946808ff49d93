namespace Aerarium.StandIn.Philippines;

/// <summary>The arithmetic of an individual's annual return, in one or two columns, as the Philippines' simulated authority checks it.</summary>
public sealed class IndividualAnnualRules : IDocumentRules
{
    private const decimal BenefitsCeiling = 90_000;

    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Taxpayer/Tin", "Taxpayer/Name", "Header/TaxableYear", "Header/Kind", "Representative/Tin");

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(["Result/TaxDue", "Result/Credits", "Result/Balance"], "Result/Credits", "Result/Balance");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document)
    {
        decimal Both(string name) => document.Amount($"Computation/{name}") + document.Amount($"SpouseColumn/Computation/{name}");
        (string Path, decimal Expected, string Rule)[] together =
        [
            ("Result/TaxDue", Both("TaxDue"), "the sum of both columns"),
            ("Result/Credits", Both("Credits"), "the sum of both columns"),
            ("Result/Balance", Both("Balance"), "the sum of both columns"),
            ("Result/PayableNow", Math.Max(0, document.Amount("Result/Balance")) - Both("SecondPart"), "the balance less the second parts"),
        ];
        return
        [
            .. Columns(document).SelectMany(column => Column(document, column)),
            .. together.Select(c => document.Differs(c.Path, c.Expected, c.Rule)).OfType<Reason>(),
        ];
    }

    /// <inheritdoc />
    public IEnumerable<Reason> Unsupported(Document document, AcceptedBefore accepted) => Columns(document)
        .SelectMany(column => SupportedCredits.Missing(document, accepted, column, quarter: 4, ("WithheldLastQuarter", "QuarterlyPaid", "WithheldQuarters")));

    /// <summary>The columns of a return: the taxpayer's, and a spouse's where there is one.</summary>
    internal static string[] Columns(Document document) => document.Text("SpouseColumn/Tin") is null ? [""] : ["", "SpouseColumn/"];

    private static IEnumerable<Reason> Column(Document document, string column)
    {
        decimal Of(string name) => document.Amount($"{column}Computation/{name}");
        decimal Employers(string name) => document.Sum($"{column}Compensation/Employer", name);
        var exempt = Math.Min(BenefitsCeiling, Employers("Benefits")) + Employers("ExemptBesides");
        (string Path, decimal Expected, string Rule)[] checks =
        [
            ("Compensation/Gross", Employers("Gross"), "the sum over employers"),
            ("Compensation/Exempt", exempt, "benefits up to their ceiling, and what is exempt besides"),
            ("Compensation/Taxable", Math.Max(0, Employers("Gross") - exempt), "gross less exempt"),
            ("Computation/TaxDue", Of("TaxByTable") + Of("TaxOfEightPerCent") + Of("TaxOfSpecialRates"), "the sum of the taxes"),
            ("Computation/WithheldEmployers", Employers("TaxWithheld"), "the sum over employers"),
            ("Computation/Credits", Of("PriorExcess") + Of("QuarterlyPaid") + Of("WithheldQuarters") + Of("WithheldLastQuarter") + Of("WithheldEmployers") + Of("ForeignCredit")
                + Of("PaidWithEarlier") + document.Sum($"{column}Computation/OtherCredit", "Amount"), "the sum of the credits"),
            ("Computation/Balance", Of("TaxDue") - Of("Credits"), "tax due less credits"),
        ];
        foreach (var reason in checks.Select(c => document.Differs(column + c.Path, c.Expected, c.Rule)).OfType<Reason>())
        {
            yield return reason;
        }

        var (second, due) = (Of("SecondPart"), Of("TaxDue"));
        if (second > 0 && (due <= 2_000 || second > Math.Floor(due / 2)))
        {
            yield return new Reason("SECOND-PART", document.Path($"{column}Computation/SecondPart"), "The second part is more than half of the tax due, or the tax due is too small to be paid in two parts.");
        }
    }
}
