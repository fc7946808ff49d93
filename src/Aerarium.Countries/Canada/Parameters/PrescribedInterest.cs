using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Parameters;

/// <summary>
/// Interest on tax paid late: the rates prescribed quarter by quarter, compounded daily (ITA 161(1), 248(11); Income Tax Regulations 4301(a)). All from memory. Quarters with the same
/// rate stand together; those of a leap year have 366 days to the year. After <see cref="KnownUntil"/> no rate is known, and nothing is added for the days after it.
/// </summary>
public static class PrescribedInterest
{
    /// <summary>The first day a rate is held for.</summary>
    public static readonly DateOnly KnownFrom = new(2024, 1, 1);

    /// <summary>The last day a rate is held for.</summary>
    public static readonly DateOnly KnownUntil = new(2026, 6, 30);

    private static readonly (DateOnly From, DateOnly Until, Parameter Rate)[] Rates =
    [
        (new(2024, 1, 1), new(2024, 6, 30), Rate(10, Certain)),
        (new(2024, 7, 1), new(2024, 12, 31), Rate(9, Certain)),
        (new(2025, 1, 1), new(2025, 6, 30), Rate(8, Certain)),
        (new(2025, 7, 1), new(2025, 12, 31), Rate(7, Certain)),
        (new(2026, 1, 1), KnownUntil, Rate(7, Likely)),
    ];

    /// <summary>Interest on an amount for the days after one date until another, not rounded.</summary>
    /// <param name="amount">The amount, in Canadian dollars.</param>
    /// <param name="after">The day it was due; interest runs from the day after.</param>
    /// <param name="until">The day it is paid.</param>
    public static Amount On(Amount amount, DateFormula after, DateFormula until) => amount * (Growth(after, until) - 1);

    /// <summary>What an amount of one grows to.</summary>
    private static Amount Growth(DateFormula after, DateFormula until) => Rates
        .Select(r => ToThePower(1 + (new ParameterValue(r.Rate) / DaysInYear(r.From)), DaysAfter(Later(after, r.From.AddDays(-1)), Earlier(until, r.Until))))
        .Aggregate((one, next) => one * next);

    private static decimal DaysInYear(DateOnly day) => DateTime.IsLeapYear(day.Year) ? 366 : 365;

    private static Parameter Rate(decimal percent, Confidence confidence) => Parameter.Percent("prescribed rate of interest", percent, "Income Tax Regulations 4301(a)", confidence);
}
