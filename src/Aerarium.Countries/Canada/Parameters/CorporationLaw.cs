using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;
using static Aerarium.Core.Definitions.Figure;

namespace Aerarium.Countries.Canada.Parameters;

/// <summary>
/// The figures of the income tax on corporations, federal and of the provinces, each with its history by the calendar year in which a period ends. Amounts in Canadian dollars. ITA is the Income Tax Act,
/// ITR its regulations, ON-TA the Taxation Act, 2007 (Ontario), BC-ITA the Income Tax Act (British Columbia), ACTA the Alberta Corporate Tax Act. All from memory of the statutes.
/// </summary>
/// <param name="year">Calendar year in which the period ends.</param>
public sealed class CorporationLaw(int year) : LawInForce(year)
{
    // Period

    /// <summary>Most days of a tax year: 53 weeks.</summary>
    public Parameter LongestPeriod => InForce(Number("longest-period", "days of 53 weeks", "ITA 249.1(1)").From(2023, 371, Certain));

    /// <summary>Days of a year of 52 weeks, which is not reckoned as a short one.</summary>
    public Parameter WholePeriod => InForce(Number("whole-period", "days of 52 weeks", "ITR 1100(3)").From(2024, 364, Likely));

    /// <summary>Whether a period is reckoned as a short one: less than twelve months and less than 52 weeks.</summary>
    public Condition IsShort(DateLine begin, DateLine end, AmountLine days) => begin.IsFilled() & end.IsFilled() & end < begin.AddMonths(12).AddDays(-1) & days < WholePeriod;

    // Federal

    /// <summary>Base rate.</summary>
    public Parameter BaseRate => InForce(Percent("base-rate", "base rate", "ITA 123").From(2024, 38, Certain));

    /// <summary>Abatement for income earned in a province.</summary>
    public Parameter Abatement => InForce(Percent("abatement", "federal abatement", "ITA 124(1)").From(2024, 10, Certain));

    /// <summary>Reduction of the general rate.</summary>
    public Parameter RateReduction => InForce(Percent("rate-reduction", "general rate reduction", "ITA 123.4").From(2024, 13, Certain));

    /// <summary>Small business deduction.</summary>
    public Parameter SmallBusiness => InForce(Percent("small-business", "small business deduction", "ITA 125(1.1)").From(2024, 19, Certain));

    /// <summary>Business limit of a whole year.</summary>
    public Parameter BusinessLimit => InForce(Money("business-limit", "business limit", "ITA 125(2)").From(2024, 500_000, Certain));

    /// <summary>Days of a year for which the business limit is whole: 51 weeks.</summary>
    public Parameter WholeLimitDays => InForce(Number("whole-limit-days", "days of 51 weeks", "ITA 125(5)(b)").From(2024, 357, Certain));

    /// <summary>Days by which amounts of a short year are reckoned.</summary>
    public Parameter YearDays => InForce(Number("year-days", "days of a year", "ITA 125(5)(b); ITR 1100(3)").From(2024, 365, Certain));

    /// <summary>Taxable capital from which the business limit shrinks.</summary>
    public Parameter CapitalFrom => InForce(Money("capital-from", "taxable capital from which the limit shrinks", "ITA 125(5.1)(a)").From(2024, 10_000_000, Certain));

    /// <summary>Part of the capital above it.</summary>
    public Parameter CapitalShare => InForce(Percent("capital-share", "part of the capital above it", "ITA 125(5.1)(a)").From(2024, 0.225m, Certain));

    /// <summary>What that part is divided by; periods that begin on 7 April 2022 or later.</summary>
    public Parameter CapitalDivisor => InForce(Money("capital-divisor", "divisor of the capital reduction", "ITA 125(5.1)(a)").From(2024, 90_000, Certain));

    /// <summary>Investment income from which the business limit shrinks.</summary>
    public Parameter PassiveFrom => InForce(Money("passive-from", "investment income from which the limit shrinks", "ITA 125(5.1)(b)").From(2024, 50_000, Certain));

    /// <summary>How much of the limit each dollar above it takes.</summary>
    public Parameter PassiveFactor => InForce(Number("passive-factor", "limit lost for each dollar above it", "ITA 125(5.1)(b)").From(2024, 5, Certain));

    /// <summary>Refundable tax on investment income, in thirds of a per cent: 10 2/3%.</summary>
    public Parameter RefundableThirds => InForce(Number("refundable-thirds", "refundable tax on investment income, thirds of a per cent", "ITA 123.3").From(2024, 32, Certain));

    /// <summary>Refundable part of the tax on investment income, in thirds of a per cent: 30 2/3%.</summary>
    public Parameter PoolThirds => InForce(Number("pool-thirds", "refundable part of investment income, thirds of a per cent", "ITA 129(4)").From(2024, 92, Certain));

    /// <summary>Tax on portfolio dividends and rate of the dividend refund, in thirds of a per cent: 38 1/3%.</summary>
    public Parameter DividendThirds => InForce(Number("dividend-thirds", "tax on portfolio dividends, thirds of a per cent", "ITA 186, 129(1)").From(2024, 115, Certain));

    /// <summary>What full-rate income adds to the pool from which eligible dividends are paid.</summary>
    public Parameter EligiblePool => InForce(Percent("eligible-pool", "addition to the general rate income pool", "ITA 89(1) \"general rate income pool\"").From(2024, 72, Certain));

    /// <summary>Part of net income up to which gifts count.</summary>
    public Parameter GiftLimit => InForce(Percent("gift-limit", "gifts, at most of net income", "ITA 110.1(1)").From(2024, 75, Certain));

    /// <summary>Years for which gifts are carried forward.</summary>
    public Parameter GiftYears => InForce(Number("gift-years", "years gifts are carried forward", "ITA 110.1(1)").From(2024, 5, Certain));

    /// <summary>Years for which a non-capital loss is carried forward.</summary>
    public Parameter LossYears => InForce(Number("loss-years", "years a non-capital loss is carried forward", "ITA 111(1)(a)").From(2024, 20, Certain));

    /// <summary>Part of capital gains that is taxed.</summary>
    public Parameter Inclusion => InForce(Percent("inclusion", "inclusion of capital gains", "ITA 38").From(2024, 50, Certain));

    /// <summary>Part of meals and entertainment that is not deducted.</summary>
    public Parameter MealsDenied => InForce(Percent("meals-denied", "meals and entertainment not deducted", "ITA 67.1").From(2024, 50, Certain));

    /// <summary>Instalments are not asked for up to this tax.</summary>
    public Parameter InstalmentFree => InForce(Money("instalment-free", "tax up to which no instalments are due", "ITA 157(2.1)").From(2024, 3_000, Certain));

    // Capital cost allowance

    /// <summary>Rates of the classes.</summary>
    public static IReadOnlyDictionary<string, Parameter> ClassRates { get; } = new (string Class, decimal Rate)[]
    {
        ("1", 4), ("1-6", 6), ("1-10", 10), ("8", 20), ("10", 30), ("10.1", 30), ("12", 100), ("14.1", 5), ("43", 30), ("50", 55), ("53", 50),
    }.ToDictionary(c => c.Class, c => Parameter.Percent($"rate of class {c.Class}", c.Rate, "ITR 1100(1)(a), Schedule II", Certain));

    /// <summary>What incentive property adds to the base in its first year, while the increase is not suspended.</summary>
    public Parameter Incentive => InForce(Percent("incentive", "increase of the base for incentive property", "ITR 1100(2)")
        .From(2024, 50, Likely, "Used before 2024, or acquired from 2025 on; the second was announced on 16 December 2024 and its enactment is not verified."));

    /// <summary>Part of other additions that is left out in their first year.</summary>
    public Parameter HalfYear => InForce(Percent("half-year", "half-year rule", "ITR 1100(2)").From(2024, 50, Certain));

    /// <summary>Increased in their first year again: additions acquired from this day on; announced on 16 December 2024, enactment not verified (likely). ITR 1100(2).</summary>
    public static readonly DateOnly ReinstatedFrom = new(2025, 1, 1);

    /// <summary>The increase of the first year is suspended for property used from this day on (certain). ITR 1100(2).</summary>
    public static readonly DateOnly SuspendedFrom = new(2024, 1, 1);

    /// <summary>Computers acquired from this day on may be deducted in full (unsure: asked for each addition). ITR 1100(2), proposal of 16 April 2024.</summary>
    public static readonly DateOnly ProductiveFrom = new(2024, 4, 16);

    /// <summary>Property acquired after this day, and used before 2024, may be expensed at once (certain). ITR 1104(3.1).</summary>
    public static readonly DateOnly ImmediateAfter = new(2021, 4, 18);

    /// <summary>Small tools of class 12 cost less than this; they know no half-year rule.</summary>
    public Parameter SmallTool => InForce(Money("small-tool", "cost of a small tool, below", "ITR Schedule II, class 12").From(2024, 500, Certain));

    /// <summary>Immediate expensing of a group in a year.</summary>
    public Parameter ImmediateLimit => InForce(Money("immediate-limit", "immediate expensing, at most", "ITR 1104(3.1)").From(2024, 1_500_000, Certain));


    /// <summary>Cost of a passenger vehicle of class 10.1, before sales tax, at most, by the year in which it is acquired.</summary>
    public IReadOnlyList<(int Year, Parameter Amount)> Ceilings { get; } = [.. new[] { 2023, 2024, 2025 }.Select(acquired =>
        (acquired, Money("vehicle-ceiling", "cost of a passenger vehicle, at most, acquired in {year}", "ITR 7307(1)").From(2023, 36_000, Certain).From(2024, 37_000, Certain).From(2025, 38_000, Certain).In(acquired)))];

    // Provinces

    /// <summary>Ontario's rate.</summary>
    public Parameter OntarioRate => InForce(Percent("ontario-rate", "Ontario, general rate", "ON-TA 29").From(2024, 11.5m, Certain));

    /// <summary>Ontario's small business deduction.</summary>
    public Parameter OntarioSmall => InForce(Percent("ontario-small", "Ontario, small business deduction", "ON-TA 31").From(2024, 8.3m, Certain));

    /// <summary>British Columbia's rate.</summary>
    public Parameter BritishColumbiaRate => InForce(Percent("bc-rate", "British Columbia, general rate", "BC-ITA 14").From(2024, 12, Certain));

    /// <summary>British Columbia's rate on the small business amount.</summary>
    public Parameter BritishColumbiaSmall => InForce(Percent("bc-small", "British Columbia, rate of small businesses", "BC-ITA 16").From(2024, 2, Certain));

    /// <summary>Alberta's rate.</summary>
    public Parameter AlbertaRate => InForce(Percent("alberta-rate", "Alberta, general rate", "ACTA 21").From(2024, 8, Certain));

    /// <summary>Alberta's small business deduction.</summary>
    public Parameter AlbertaSmall => InForce(Percent("alberta-small", "Alberta, small business deduction", "ACTA 22").From(2024, 6, Certain));

    /// <summary>Alberta asks for no instalments up to this tax.</summary>
    public Parameter AlbertaInstalmentFree => InForce(Money("alberta-instalment-free", "Alberta tax up to which no instalments are due", "ACTA 38").From(2024, 2_000, Likely));

    /// <summary>Assets and revenue from which Ontario's minimum tax applies.</summary>
    public (Parameter Assets, Parameter Revenue) OntarioMinimum => (
        InForce(Money("ontario-minimum-assets", "assets from which Ontario's minimum tax applies", "ON-TA 54").From(2024, 50_000_000, Likely)),
        InForce(Money("ontario-minimum-revenue", "revenue from which Ontario's minimum tax applies", "ON-TA 54").From(2024, 100_000_000, Likely)));
}
