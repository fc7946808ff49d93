using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>Sizes of taxpayers by gross sales of the year (EOPT; RR 8-2024): the two smallest have reduced charges.</summary>
public static class SizeOfTaxpayer
{
    /// <summary>The sizes.</summary>
    public static readonly IReadOnlyList<Choice> Sizes =
        [new("micro", "Micro, below 3 million"), new("small", "Small, below 20 million"), new("medium", "Medium, below 1,000 million"), new("large", "Large")];

    /// <summary>At which rates lateness is charged.</summary>
    public static ChargeRates Rates(ChoiceLine size, AnswerLine wilful) => new(!(size.Is("micro") | size.Is("small")), wilful);
}

/// <summary>At which rates lateness is charged.</summary>
/// <param name="Full">Whether the full rates of surcharge and interest hold.</param>
/// <param name="Wilful">Whether the surcharge of wilful neglect holds instead, which smaller taxpayers pay in full (NIRC s. 248(B); that it does not shrink is likely).</param>
public sealed record ChargeRates(Condition Full, Condition Wilful);

/// <summary>Surcharge and interest on tax that is paid late.</summary>
internal sealed class LateCharges(IncomeTaxLaw law, ChargeRates rates, Amount unpaid, DateOnly due, DateFormula paid)
{
    /// <summary>Surcharge (NIRC s. 248; EOPT).</summary>
    public Amount Surcharge => If(paid > due, If(rates.Wilful, law.SurchargeWilful * unpaid, If(rates.Full, law.Surcharge * unpaid, law.SurchargeSmall * unpaid)), 0);

    /// <summary>Days late, from the day after the due date to the day of payment.</summary>
    public Amount Days => DaysAfter(due, paid);

    /// <summary>Interest for days late, by a year of 365 days (NIRC s. 249; EOPT; the divisor in leap years is likely).</summary>
    public Amount InterestFor(Amount days) => If(rates.Full, law.Interest * unpaid, law.InterestSmall * unpaid) * days / 365;

    /// <summary>Both, as they are added to tax paid on a day after its own; <paramref name="form"/> holds what the return itself says of its first part.</summary>
    public IReadOnlyList<LateCharge> Added(ChargesForm form) =>
    [
        new("Surcharge", Round(Surcharge, ToUnits), "NIRC s. 248", form.Surcharge),
        new("Interest", Round(InterestFor(Days), ToUnits), "NIRC s. 249", form.Interest),
    ];
}
