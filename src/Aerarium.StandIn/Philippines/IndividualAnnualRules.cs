namespace Aerarium.StandIn.Philippines;

/// <summary>The arithmetic of an individual's annual return as the Philippines' simulated authority checks it.</summary>
public sealed class IndividualAnnualRules : IDocumentRules
{
    private const decimal BenefitsCeiling = 90_000;

    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Taxpayer/Tin", "Taxpayer/Name", "Header/TaxableYear", "Header/Kind", "Representative/Tin");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document)
    {
        decimal Of(string name) => document.Amount($"Computation/{name}");
        var exempt = Math.Min(BenefitsCeiling, document.Sum("Compensation/Employer", "Benefits")) + document.Sum("Compensation/Employer", "ExemptBesides");
        (string Path, decimal Expected, string Rule)[] checks =
        [
            ("Compensation/Gross", document.Sum("Compensation/Employer", "Gross"), "the sum over employers"),
            ("Compensation/Exempt", exempt, "benefits up to their ceiling, and what is exempt besides"),
            ("Compensation/Taxable", Math.Max(0, document.Sum("Compensation/Employer", "Gross") - exempt), "gross less exempt"),
            ("Computation/TaxDue", Of("TaxByTable") + Of("TaxOfEightPerCent"), "the sum of both taxes"),
            ("Computation/WithheldEmployers", document.Sum("Compensation/Employer", "TaxWithheld"), "the sum over employers"),
            ("Computation/Credits", Of("PriorExcess") + Of("QuarterlyPaid") + Of("WithheldQuarters") + Of("WithheldLastQuarter") + Of("WithheldEmployers") + Of("ForeignCredit")
                + Of("PaidWithEarlier") + document.Sum("Computation/OtherCredit", "Amount"), "the sum of the credits"),
            ("Computation/Balance", Of("TaxDue") - Of("Credits"), "tax due less credits"),
        ];
        return checks.Select(c => document.Differs(c.Path, c.Expected, c.Rule)).OfType<Reason>().Concat(SecondPart(document));
    }

    private static IEnumerable<Reason> SecondPart(Document document)
    {
        var (second, due) = (document.Amount("Computation/SecondPart"), document.Amount("Computation/TaxDue"));
        if (second > 0 && (due <= 2_000 || second > Math.Floor(due / 2)))
        {
            yield return new Reason("SECOND-PART", document.Path("Computation/SecondPart"), "The second part is more than half of the tax due, or the tax due is too small to be paid in two parts.");
        }
    }
}
