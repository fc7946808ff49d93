using Aerarium.Core.Definitions;
using static Aerarium.Core.Definitions.Confidence;
using static Aerarium.Core.Definitions.Figure;

namespace Aerarium.Countries.Canada.Parameters;

/// <summary>
/// Contributions to the pension plans and premiums of employment insurance, by year. CPP is the Canada Pension Plan, QPP that of Quebec. Sources: CPP 8, 11.1, 11.2,
/// 16 to 20; ITA 60(e), 60(e.1), 118.7; Employment Insurance Act (EIA) 66 to 68, 96. From memory.
/// </summary>
/// <param name="year">Tax year.</param>
public sealed class PensionAndInsuranceLaw(int year) : LawInForce(year)
{
    /// <summary>Whether the figures of the year are known; where they are not, contributions are taken as the slips have them.</summary>
    public bool IsKnown => Year >= 2023;

    /// <summary>First ceiling of pensionable earnings (YMPE).</summary>
    public Parameter FirstCeiling => InForce(Money("first-ceiling", "first ceiling of pensionable earnings", "CPP 18").From(2023, 66_600, Certain).From(2024, 68_500, Certain).From(2025, 71_300, Certain));

    /// <summary>Second ceiling of pensionable earnings (YAMPE); null before there was one.</summary>
    public Parameter? SecondCeiling => InForceOrNone(Money("second-ceiling", "second ceiling of pensionable earnings", "CPP 18.1").From(2024, 73_200, Certain).From(2025, 81_200, Certain));

    /// <summary>Earnings on which nothing is contributed.</summary>
    public Parameter Exemption => InForce(Money("exemption", "basic exemption", "CPP 20").From(2023, 3_500, Certain));

    /// <summary>Employee's base rate.</summary>
    public Parameter BaseRate => InForce(Percent("base-rate", "base rate of the CPP", "CPP 11.1").From(2023, 4.95m, Certain));

    /// <summary>Employee's base rate in Quebec.</summary>
    public Parameter QuebecBaseRate => InForce(Percent("quebec-base-rate", "base rate of the QPP", "QPP").From(2023, 5.4m, Certain));

    /// <summary>Employee's first additional rate.</summary>
    public Parameter FirstRate => InForce(Percent("first-rate", "first additional rate", "CPP 11.1").From(2023, 1, Certain));

    /// <summary>Employee's second additional rate, between the ceilings.</summary>
    public Parameter SecondRate => InForce(Percent("second-rate", "second additional rate", "CPP 11.2").From(2023, 4, Certain));

    /// <summary>Most of an employee's base and first additional contributions for a year.</summary>
    public Parameter MostContribution => InForce(Money("most-contribution", "contributions of an employee, at most", "CPP").From(2023, 3_754.45m, Certain).From(2024, 3_867.50m, Certain).From(2025, 4_034.10m, Certain));

    /// <summary>Most of an employee's contributions in Quebec.</summary>
    public Parameter MostQuebecContribution => InForce(Money("most-quebec-contribution", "contributions of an employee in Quebec, at most", "QPP").From(2023, 4_038.40m, Certain).From(2024, 4_160, Certain).From(2025, 4_339.20m, Certain));

    /// <summary>Most of an employee's second additional contributions.</summary>
    public Parameter MostSecond => InForce(Money("most-second", "second contributions, at most", "CPP 11.2").From(2023, 0, Certain).From(2024, 188, Certain).From(2025, 396, Certain));

    /// <summary>Premium rate of employment insurance.</summary>
    public Parameter PremiumRate => InForce(Percent("premium-rate", "premium rate", "EIA 66").From(2023, 1.63m, Certain).From(2024, 1.66m, Certain).From(2025, 1.64m, Certain));

    /// <summary>Premium rate of employment in Quebec.</summary>
    public Parameter QuebecPremiumRate => InForce(Percent("quebec-premium-rate", "premium rate in Quebec", "EIA 69").From(2023, 1.27m, Likely).From(2024, 1.32m, Certain).From(2025, 1.31m, Certain));

    /// <summary>Insurable earnings, at most.</summary>
    public Parameter MostInsurable => InForce(Money("most-insurable", "insurable earnings, at most", "EIA 4").From(2023, 61_500, Certain).From(2024, 63_200, Certain).From(2025, 65_700, Certain));

    /// <summary>Insurable earnings up to which all premiums are refunded.</summary>
    public Parameter SmallEarnings => InForce(Money("small-earnings", "insurable earnings up to which premiums are refunded", "EIA 96").From(2023, 2_000, Certain));

    /// <summary>Premium of the parental insurance of Quebec, at most; null where it is not known.</summary>
    public Parameter? MostParental => InForceOrNone(Money("most-parental", "parental insurance premium, at most", "Quebec parental insurance plan").From(2024, 464.36m, Likely).From(2025, 484.12m, Likely));
}
