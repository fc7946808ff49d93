using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Rules that the federal tax and the provinces' share, each with figures of its own.</summary>
internal static class CreditWords
{
    /// <summary>The age amount: the full amount less 15% of the net income above a threshold, from the age of 65.</summary>
    public static Amount AgeAmount(FederalLaw law, Amount age, Amount netIncome, Amount full, Amount threshold) =>
        If(age >= law.SeniorAge, Round(AtLeastZero(full - (law.AgeTaper * AtLeastZero(netIncome - threshold))), ToCents), 0);

    /// <summary>Taxable income that amounts can absorb; above the first bracket, the tax at the lowest rate.</summary>
    public static Amount Absorbing(Amount taxable, Amount firstBracketTop, Amount tax, Amount lowestRate) => If(taxable <= firstBracketTop, taxable, Round(tax / lowestRate, ToCents));

    /// <summary>Political contributions: three quarters of the first part, half of the second, a third of the rest, up to the most.</summary>
    public static Amount PoliticalCredit(FederalLaw law, Amount paid, Amount first, Amount second, Amount most) =>
        Round(Min(most, (law.PoliticalFirstRate * Min(paid, first)) + (law.PoliticalSecondRate * AtLeastZero(Min(paid, second) - first)) + (AtLeastZero(paid - second) / 3)), ToCents);
}
