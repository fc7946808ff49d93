using Aerarium.Core.Definitions;
using static Aerarium.Core.Definitions.Confidence;

namespace Aerarium.Countries.Kenya.Parameters;

/// <summary>
/// From which figures on an entry is questioned. None of them is law and none decides an amount; they are common
/// practice, no source, and the same for every year covered.
/// </summary>
public static class QuestioningThresholds
{
    private const string Practice = "common practice, no source";

    /// <summary>Part of the expected levy or contribution by which a certificate may differ.</summary>
    public static readonly Parameter ContributionTolerance = Parameter.Percent("tolerance for contributions on a certificate", 5, Practice, Likely);

    /// <summary>Cost below which a car's price is questioned.</summary>
    public static readonly Parameter CarCostLeast = Parameter.Money("cost of a car questioned below", 100_000, Practice, Likely);

    /// <summary>Engine size above which a car's engine is questioned, in cubic centimetres.</summary>
    public static readonly Parameter CarEngineMost = Parameter.Number("engine of a car questioned above, cc", 8_000, Practice, Likely);

    /// <summary>Difference from the certificate's total that is left alone: rounding.</summary>
    public static readonly Parameter CertificateTolerance = Parameter.Money("difference from the certificate left alone", 1, Practice, Likely);

    /// <summary>Unused retirement saving from which on it is worth telling the client.</summary>
    public static readonly Parameter RetirementRoom = Parameter.Money("unused retirement saving worth a note", 10_000, Practice, Likely);

    /// <summary>Taxable income from which on a return without insurance is worth a note.</summary>
    public static readonly Parameter InsuranceIncome = Parameter.Money("taxable income worth a note on insurance", 500_000, Practice, Likely);
}
