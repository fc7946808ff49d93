using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>
/// Tax on a taxable income: by the tariff, for a couple on half of it and doubled (EStG s. 32a(5)), with the one-fifth method (EStG s. 34(1)) or the progression clause (EStG s. 32b).
/// Both together are not covered.
/// </summary>
/// <param name="law">The law.</param>
/// <param name="splitting">Whether the tariff is applied to half of the income and doubled.</param>
/// <param name="oneFifth">What the one-fifth method taxes.</param>
/// <param name="benefits">Benefits that raise the rate.</param>
public sealed class TaxRule(IncomeTaxLaw law, Condition splitting, Amount oneFifth, Amount benefits)
{
    private static readonly Rounding RatePlaces = new(0.0001m, RoundingMode.Down);

    /// <summary>The tariff alone, cut to whole euro.</summary>
    public Amount ByTariff(Amount taxable) => If(splitting, 2 * Single(law, taxable / 2), Single(law, taxable));

    /// <summary>The tariff of one person, on whole euro, cut to whole euro.</summary>
    public static Amount Single(IncomeTaxLaw law, Amount taxable) => Round(ByZones(law.Tariff, Round(taxable, DownToUnits)), DownToUnits);

    /// <summary>Per cent, cut to four places, at which the progression clause taxes.</summary>
    public Amount ProgressionRate(Amount taxable) => Round(100 * ByTariff(taxable + benefits) / Max(taxable + benefits, 1), RatePlaces);

    /// <summary>The tax on a taxable income of whole euro.</summary>
    public Amount On(Amount taxable)
    {
        var rest = taxable - oneFifth;
        return Decide("income tax", ByTariff(taxable),
            (oneFifth > 0 & rest > 0, ByTariff(rest) + (5 * (ByTariff(rest + (oneFifth / 5)) - ByTariff(rest)))),
            (oneFifth > 0, 5 * ByTariff(taxable / 5)),
            (benefits > 0, Round(taxable * ProgressionRate(taxable) / 100, DownToUnits)));
    }
}
