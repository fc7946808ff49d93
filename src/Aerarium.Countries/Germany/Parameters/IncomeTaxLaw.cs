using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;
using static Aerarium.Core.Definitions.Figure;

namespace Aerarium.Countries.Germany.Parameters;

/// <summary>
/// The figures of the income tax of an employee, each with its history by tax year, the calendar year. Amounts in euro. EStG is the income tax act, SolZG the act on the solidarity
/// surcharge, AO the fiscal code. All from memory of the statutes; the confidence says how far each may be relied on.
/// </summary>
/// <param name="year">Tax year.</param>
public sealed class IncomeTaxLaw(int year) : LawInForce(year)
{
    /// <summary>The years covered.</summary>
    public static readonly IReadOnlyList<int> Years = [2022, 2023, 2024, 2025];

    // Tariff

    /// <summary>The tariff of EStG s. 32a(1): amounts are whole euro, the tax is cut to whole euro.</summary>
    public ZoneTariff Tariff => InForce(new DatedTable<ZoneTariff>("tariff")
        .From(2022, Zones("Tax Relief Act 2022", 10_347, (14_926, 1_088.67m), (58_596, 206.43m, 869.32m), 9_336.45m, 17_671.20m))
        .From(2023, Zones("Inflation Compensation Act", 10_908, (15_999, 979.18m), (62_809, 192.59m, 966.53m), 9_972.98m, 18_307.73m))
        .From(2024, Zones("Act on exempting the subsistence minimum 2024", 11_784, (17_005, 954.80m), (66_760, 181.19m, 991.21m), 10_636.31m, 18_971.06m))
        .From(2025, Zones("Tax Development Act", 12_096, (17_443, 932.30m), (68_480, 176.64m, 1_015.13m), 10_911.92m, 19_246.67m)));

    private const decimal TopZone = 277_825;

    private static ZoneTariff Zones(string act, decimal free, (decimal UpTo, decimal Rise) second, (decimal UpTo, decimal Rise, decimal From) third, decimal lessOf42, decimal lessOf45) => new(
        "income tax tariff", $"EStG s. 32a(1); {act}", Certain,
        TariffZone.Free(free),
        new(second.UpTo, free, 10_000, second.Rise, 1_400, 0),
        new(third.UpTo, second.UpTo, 10_000, third.Rise, 2_397, third.From),
        TariffZone.Flat(TopZone, 0.42m, lessOf42),
        TariffZone.Flat(null, 0.45m, lessOf45));

    /// <summary>Income on which nothing is due.</summary>
    public Parameter BasicAllowance => Parameter.Money("basic allowance", Tariff.Zones[0].UpTo!.Value, Tariff.Source, Tariff.Confidence);

    /// <summary>Income tax up to which there is no solidarity surcharge, of one person; a couple assessed together has twice as much.</summary>
    public Parameter SurchargeLimit => InForce(Money("surcharge-limit", "limit of the solidarity surcharge", "SolZG s. 3(3)").From(2022, 16_956, Certain).From(2023, 17_543, Certain).From(2024, 18_130, Certain).From(2025, 19_950, Certain));

    /// <summary>Rate of the solidarity surcharge.</summary>
    public Parameter SurchargeRate => InForce(Percent("surcharge-rate", "solidarity surcharge", "SolZG s. 4").From(2022, 5.5m, Certain));

    /// <summary>The surcharge is never more than this part of the tax above the limit.</summary>
    public Parameter SurchargeZone => InForce(Percent("surcharge-zone", "solidarity surcharge on what is above the limit", "SolZG s. 4").From(2022, 11.9m, Certain));

    /// <summary>Church tax in Baden-Wuerttemberg and Bavaria.</summary>
    public Parameter ChurchTaxSouth => InForce(Percent("church-tax-south", "church tax in Baden-Wuerttemberg and Bavaria", "church tax acts of the states").From(2022, 8, Certain));

    /// <summary>Church tax in all other states.</summary>
    public Parameter ChurchTax => InForce(Percent("church-tax", "church tax", "church tax acts of the states").From(2022, 9, Certain));

    // Employment

    /// <summary>Lump sum for employment expenses.</summary>
    public Parameter LumpSum => InForce(Money("lump-sum", "employee lump sum", "EStG s. 9a no. 1a").From(2022, 1_200, Certain).From(2023, 1_230, Certain));

    /// <summary>Commuting: for each of the first kilometres.</summary>
    public Parameter NearKilometre => InForce(Money("near-kilometre", "commuting, each of the first 20 km", "EStG s. 9(1) s. 3 no. 4").From(2022, 0.30m, Certain));

    /// <summary>Commuting: for each further kilometre.</summary>
    public Parameter FarKilometre => InForce(Money("far-kilometre", "commuting, each further km", "EStG s. 9(1) s. 3 no. 4").From(2022, 0.38m, Certain));

    /// <summary>Kilometres at the lower rate.</summary>
    public Parameter NearKilometres => InForce(Number("near-kilometres", "first kilometres", "EStG s. 9(1) s. 3 no. 4").From(2022, 20, Certain));

    /// <summary>Most of a year's commuting other than by own or provided car.</summary>
    public Parameter CommutingCap => InForce(Money("commuting-cap", "commuting without a car, at most", "EStG s. 9(1) s. 3 no. 4").From(2022, 4_500, Certain));

    /// <summary>Commuting of the severely disabled by car, for each kilometre of distance: there and back.</summary>
    public Parameter DisabledKilometre => InForce(Money("disabled-kilometre", "commuting of the severely disabled, each km of distance", "EStG s. 9(2) s. 3").From(2022, 0.60m, Certain));

    /// <summary>Home office, a day.</summary>
    public Parameter HomeOfficeDay => InForce(Money("home-office-day", "home office, a day", "EStG s. 4(5) no. 6c").From(2022, 5, Certain, source: "EStG s. 4(5) no. 6b as it was").From(2023, 6, Certain));

    /// <summary>Days of home office that count in a year.</summary>
    public Parameter HomeOfficeDays => InForce(Number("home-office-days", "days of home office, at most", "EStG s. 4(5) no. 6c").From(2022, 120, Certain, source: "EStG s. 4(5) no. 6b as it was").From(2023, 210, Certain));

    /// <summary>Lump sum of a workroom that is the centre of all work, for a year; null before it existed.</summary>
    public Parameter? WorkroomLumpSum => InForceOrNone(Money("workroom-lump-sum", "workroom, lump sum of a year", "EStG s. 4(5) no. 6b").From(2023, 1_260, Certain));

    /// <summary>Most for a workroom where the employer has none; null once only the day allowance was left.</summary>
    public Parameter? WorkroomMost => InForceOrNone(Money("workroom-most", "workroom where no other workplace is there, at most", "EStG s. 4(5) no. 6b as it was").From(2022, 1_250, Certain).RepealedFrom(2023));

    /// <summary>Net price up to which work equipment is written off at once.</summary>
    public Parameter AtOnce => InForce(Money("at-once", "net price written off at once", "EStG s. 9(1) no. 7, 6(2)").From(2022, 800, Certain));

    /// <summary>Account fee accepted without receipts.</summary>
    public Parameter AccountFee => InForce(Money("account-fee", "account fee without receipts", Practice).From(2022, 16, Likely));

    /// <summary>Work equipment accepted without receipts.</summary>
    public Parameter EquipmentWithoutReceipts => InForce(Money("equipment-without-receipts", "work equipment without receipts", Practice).From(2022, 110, Likely));

    /// <summary>Part of telephone and internet bills accepted without a record.</summary>
    public Parameter TelephoneShare => InForce(Percent("telephone-share", "telephone and internet without a record", "LStR 9.1(5)").From(2022, 20, Certain));

    /// <summary>Most of it in a month.</summary>
    public Parameter TelephoneMonth => InForce(Money("telephone-month", "telephone and internet without a record, a month at most", "LStR 9.1(5)").From(2022, 20, Certain));

    /// <summary>Travel on duty by car, a kilometre driven; also a trip home from a second household is counted by distance.</summary>
    public Parameter TravelKilometre => InForce(Money("travel-kilometre", "travel by car, a km driven", "EStG s. 9(1) no. 4a").From(2022, 0.30m, Certain));

    /// <summary>Meals: more than eight hours, the day of arrival, the day of departure.</summary>
    public Parameter MealsOfPart => InForce(Money("meals-of-part", "meals, part of a day", "EStG s. 9(4a)").From(2022, 14, Certain));

    /// <summary>Meals: a whole day.</summary>
    public Parameter MealsOfDay => InForce(Money("meals-of-day", "meals, a whole day", "EStG s. 9(4a)").From(2022, 28, Certain));

    /// <summary>Part of a whole day's meals taken off for a breakfast provided.</summary>
    public Parameter BreakfastShare => InForce(Percent("breakfast-share", "taken off for a breakfast", "EStG s. 9(4a) s. 8").From(2022, 20, Certain));

    /// <summary>Part of a whole day's meals taken off for a lunch or dinner provided.</summary>
    public Parameter MealShare => InForce(Percent("meal-share", "taken off for a lunch or dinner", "EStG s. 9(4a) s. 8").From(2022, 40, Certain));

    /// <summary>Night of a professional driver in the vehicle.</summary>
    public Parameter DriverNight => InForce(Money("driver-night", "night in the vehicle", "EStG s. 9(1) no. 5b").From(2022, 8, Certain).From(2024, 9, Certain));

    /// <summary>Lodging of a second household in Germany, a month at most.</summary>
    public Parameter LodgingMonth => InForce(Money("lodging-month", "lodging of a second household, a month at most", "EStG s. 9(1) no. 5").From(2022, 1_000, Certain));

    /// <summary>
    /// Lump sums of a removal, by the day before the furniture is loaded, latest first (BUKG s. 10): for the person entitled, for each other person of the household, and for somebody without a
    /// dwelling of one's own before and after.
    /// </summary>
    public static readonly IReadOnlyList<(DateOnly From, Parameter Entitled, Parameter Other, Parameter WithoutDwelling)> Removal =
    [
        RemovalFrom(new(2024, 3, 1), 964, 643, 193, "Ministry letter of 28 December 2023", Likely, "A later rise is possible."),
        RemovalFrom(new(2022, 4, 1), 886, 590, 177, "Ministry letter of 21 July 2021", Certain, null),
        RemovalFrom(DateOnly.MinValue, 870, 580, 174, "Ministry letter of 21 July 2021", Likely, null),
    ];

    private static (DateOnly From, Parameter Entitled, Parameter Other, Parameter WithoutDwelling) RemovalFrom(DateOnly from, decimal entitled, decimal other, decimal without, string letter, Confidence confidence, string? note) =>
        (from,
            Parameter.Money("removal, person entitled", entitled, $"BUKG s. 10; {letter}", confidence, note),
            Parameter.Money("removal, each other person", other, $"BUKG s. 10; {letter}", confidence, note),
            Parameter.Money("removal, without a dwelling", without, $"BUKG s. 10; {letter}", confidence, note));

    /// <summary>Days of work a year that are usual with a five-day week; more are asked about.</summary>
    public Parameter UsualDays => InForce(Number("usual-days", "usual days of work", Practice).From(2022, 230, Likely));

    /// <summary>Days of work a year that are asked about with any week.</summary>
    public Parameter MostDays => InForce(Number("most-days", "days of work that are asked about", Practice).From(2022, 280, Likely));

    /// <summary>Kilometres and days above which a way to work is asked about.</summary>
    public Parameter LongWay => InForce(Number("long-way", "kilometres and days that are asked about", Practice).From(2022, 100, Likely));

    /// <summary>By how much the contributions of employer and employee to the pension scheme may differ before that is asked about.</summary>
    public Parameter PensionTolerance => InForce(Percent("pension-tolerance", "tolerance for pension contributions", Practice).From(2022, 5, Likely));

    private const string Practice = "common practice, no source";

    // Deductions

    /// <summary>Lump sum for special expenses, of one person; a couple assessed together has twice as much.</summary>
    public Parameter SpecialLumpSum => InForce(Money("special-lump-sum", "special-expense lump sum", "EStG s. 10c").From(2022, 36, Certain));

    /// <summary>Most of the old-age contributions, of one person.</summary>
    public Parameter OldAgeCap => InForce(Money("old-age-cap", "old-age contributions, at most", "EStG s. 10(3)").From(2022, 25_639, Certain).From(2023, 26_528, Certain).From(2024, 27_566, Certain).From(2025, 29_344, Certain));

    /// <summary>Part of the old-age contributions that is deducted.</summary>
    public Parameter OldAgeShare => InForce(Percent("old-age-share", "old-age contributions, part that is deducted", "EStG s. 10(3) s. 4, 6").From(2022, 94, Certain).From(2023, 100, Certain));

    /// <summary>Most of other provident expenses where somebody else bears a part of the health insurance.</summary>
    public Parameter OtherCap => InForce(Money("other-cap", "other provident expenses with a subsidy, at most", "EStG s. 10(4)").From(2022, 1_900, Certain));

    /// <summary>The same where one bears it alone.</summary>
    public Parameter OtherCapAlone => InForce(Money("other-cap-alone", "other provident expenses without a subsidy, at most", "EStG s. 10(4)").From(2022, 2_800, Certain));

    /// <summary>Part of the health contribution that buys sickness pay.</summary>
    public Parameter SicknessPay => InForce(Percent("sickness-pay", "part for sickness pay", "EStG s. 10(1) no. 3a s. 4").From(2022, 4, Certain));

    /// <summary>Donations to charities, most of the total income.</summary>
    public Parameter DonationShare => InForce(Percent("donation-share", "donations, part of the total income at most", "EStG s. 10b(1)").From(2022, 20, Certain));

    /// <summary>A gift for which a bank statement is proof enough.</summary>
    public Parameter SimpleProof => InForce(Money("simple-proof", "gift with a bank statement as proof", "EStDV s. 50(4)").From(2022, 300, Certain));

    /// <summary>Gifts to parties, of one person, half of which reduces the tax; as much again is a special expense.</summary>
    public Parameter PartyGifts => InForce(Money("party-gifts", "gifts to parties that reduce the tax by half", "EStG s. 34g, 10b(2)").From(2022, 1_650, Certain));

    /// <summary>Part of gifts to parties that reduces the tax.</summary>
    public Parameter PartyShare => InForce(Percent("party-share", "gifts to parties, part that reduces the tax", "EStG s. 34g").From(2022, 50, Certain));

    /// <summary>Maintenance of a divorced or separated spouse, at most, without the spouse's basic insurance.</summary>
    public Parameter MaintenanceMost => InForce(Money("maintenance-most", "maintenance of a divorced spouse, at most", "EStG s. 10(1a) no. 1").From(2022, 13_805, Certain));

    /// <summary>First vocational training or degree, of one person.</summary>
    public Parameter FirstTraining => InForce(Money("first-training", "first training, at most", "EStG s. 10(1) no. 7").From(2022, 6_000, Certain));

    /// <summary>Part of childcare that is deducted.</summary>
    public Parameter ChildcareShare => InForce(Number("childcare-share", "childcare, part that is deducted", "EStG s. 10(1) no. 5").From(2022, 2m / 3, Certain).From(2025, 0.8m, Certain));

    /// <summary>Childcare of a child, at most.</summary>
    public Parameter ChildcareMost => InForce(Money("childcare-most", "childcare of a child, at most", "EStG s. 10(1) no. 5").From(2022, 4_000, Certain).From(2025, 4_800, Certain));

    /// <summary>Age at which childcare ends.</summary>
    public Parameter ChildcareAge => InForce(Number("childcare-age", "age at which childcare ends", "EStG s. 10(1) no. 5").From(2022, 14, Certain));

    /// <summary>Age from which a child in training away from home has an amount.</summary>
    public Parameter AwayAge => InForce(Number("away-age", "age of a child in training away", "EStG s. 33a(2)").From(2022, 18, Certain));

    /// <summary>Part of school fees.</summary>
    public Parameter SchoolShare => InForce(Percent("school-share", "school fees, part that is deducted", "EStG s. 10(1) no. 9").From(2022, 30, Certain));

    /// <summary>School fees of a child, at most.</summary>
    public Parameter SchoolMost => InForce(Money("school-most", "school fees of a child, at most", "EStG s. 10(1) no. 9").From(2022, 5_000, Certain));

    /// <summary>Relief of a lone parent with one child.</summary>
    public Parameter LoneParent => InForce(Money("lone-parent", "lone-parent relief", "EStG s. 24b").From(2022, 4_008, Certain).From(2023, 4_260, Certain));

    /// <summary>For each further child.</summary>
    public Parameter LoneParentChild => InForce(Money("lone-parent-child", "lone-parent relief, each further child", "EStG s. 24b").From(2022, 240, Certain));

    /// <summary>Relief for age, part of the income, by the year in which somebody first qualifies.</summary>
    public StepTable AgeShare => new("relief for age, per cent by the first year", "EStG s. 24a; Growth Opportunities Act", Certain,
        [.. Enumerable.Range(2005, 16).Select(y => ((decimal?)y, 40m - (1.6m * (y - 2005)))), (2021, 15.2m), (2022, 14.4m), (2023, 14.0m), (2024, 13.6m), (null, 13.2m)]);

    /// <summary>Relief for age, at most, by the year in which somebody first qualifies.</summary>
    public StepTable AgeMost => new("relief for age, at most by the first year", "EStG s. 24a; Growth Opportunities Act", Certain,
        [.. Enumerable.Range(2005, 16).Select(y => ((decimal?)y, 1_900m - (76m * (y - 2005)))), (2021, 722), (2022, 684), (2023, 665), (2024, 646), (null, 627)]);

    /// <summary>Age that must be completed before the year for the relief.</summary>
    public Parameter AgeForRelief => InForce(Number("age-for-relief", "age for the relief", "EStG s. 24a").From(2022, 64, Certain));

    /// <summary>Most that a mini-job pays in a year; above it there are contributions.</summary>
    public Parameter MiniJobYear => InForce(Money("mini-job-year", "pay of a mini-job in the year", "SGB IV s. 8").From(2022, 5_610, Certain).From(2023, 6_240, Certain).From(2024, 6_456, Certain).From(2025, 6_672, Certain));

    /// <summary>Energy lump sum, taxable; null except in 2022.</summary>
    public Parameter? EnergyLumpSum => InForceOrNone(Money("energy-lump-sum", "energy lump sum", "EStG s. 112 to 122").From(2022, 300, Certain).RepealedFrom(2023));

    /// <summary>Wage above which a registered allowance, or a minimum provident allowance that was too high, makes the return compulsory: of somebody assessed alone.</summary>
    public Parameter RegisteredAlone => InForce(Money("registered-alone", "wage with a registered allowance, alone", "EStG s. 46(2) no. 3, 4").From(2022, 13_150, Certain).From(2023, 12_174, Certain).From(2024, 13_050, Certain).From(2025, 13_362, Certain));

    /// <summary>The same of a couple assessed together.</summary>
    public Parameter RegisteredJoint => InForce(Money("registered-joint", "wages with a registered allowance, joint", "EStG s. 46(2) no. 3, 4").From(2022, 24_950, Certain).From(2023, 23_118, Certain).From(2024, 24_870, Certain).From(2025, 25_494, Certain));

    // Capital income

    /// <summary>Saver's allowance, of one person; a couple assessed together has twice as much.</summary>
    public Parameter SaverAllowance => InForce(Money("saver-allowance", "saver's allowance", "EStG s. 20(9)").From(2022, 801, Certain).From(2023, 1_000, Certain));

    /// <summary>What capital income is divided by for its tax, before church tax: a quarter of it is tax.</summary>
    public Parameter CapitalDivisor => InForce(Number("capital-divisor", "capital income for one euro of tax", "EStG s. 32d(1)").From(2022, 4, Certain));

    // Subsidised private pension

    /// <summary>Contributions and allowances of one contract holder that are deducted at most.</summary>
    public Parameter PensionMost => InForce(Money("pension-most", "subsidised private pension, at most", "EStG s. 10a(1)").From(2022, 2_100, Certain));

    /// <summary>Basic allowance of a contract holder.</summary>
    public Parameter PensionBasic => InForce(Money("pension-basic", "basic allowance", "EStG s. 84").From(2022, 175, Certain));

    /// <summary>Allowance for a child born in 2008 or later.</summary>
    public Parameter PensionChild => InForce(Money("pension-child", "allowance for a child born since 2008", "EStG s. 85").From(2022, 300, Certain));

    /// <summary>Allowance for a child born before 2008.</summary>
    public Parameter PensionOlderChild => InForce(Money("pension-older-child", "allowance for a child born before 2008", "EStG s. 85").From(2022, 185, Certain));

    /// <summary>Part of last year's pensionable wage that is paid, allowances included, for the full allowances.</summary>
    public Parameter PensionShare => InForce(Percent("pension-share", "of last year's wage for the full allowances", "EStG s. 86(1)").From(2022, 4, Certain));

    /// <summary>What is paid oneself at least for the full allowances.</summary>
    public Parameter PensionLeast => InForce(Money("pension-least", "own payment at least", "EStG s. 86(1) s. 4").From(2022, 60, Certain));

    // Children

    /// <summary>Allowances for a child of both parents together, of a year.</summary>
    public Parameter ChildAllowance => InForce(Money("child-allowance", "child allowances, both parents", "EStG s. 32(6)").From(2022, 8_548, Certain).From(2023, 8_952, Certain).From(2024, 9_540, Certain).From(2025, 9_600, Certain));

    /// <summary>Child benefit of a month, by how many older children there are.</summary>
    public StepTable ChildBenefit => InForce(new DatedTable<StepTable>("child-benefit")
        .From(2022, new StepTable("child benefit, a month", "EStG s. 66", Certain, (1, 219), (2, 225), (null, 250)))
        .From(2023, new StepTable("child benefit, a month", "EStG s. 66", Certain, (null, 250)))
        .From(2025, new StepTable("child benefit, a month", "EStG s. 66", Certain, (null, 255))));

    /// <summary>One payment for each child, counted as child benefit; null except in 2022.</summary>
    public Parameter? ChildBonus => InForceOrNone(Money("child-bonus", "child bonus", "EStG s. 66").From(2022, 100, Certain).RepealedFrom(2023));

    /// <summary>A child above 18 in training who lives away, of a year.</summary>
    public Parameter ChildAway => InForce(Money("child-away", "child in training living away", "EStG s. 33a(2)").From(2022, 924, Certain).From(2023, 1_200, Certain));

    // Burdens

    /// <summary>Reasonable own share of one person, by slices of the total income.</summary>
    public RateSchedule OwnShareSingle => OwnShare("one person", 5, 6, 7);

    /// <summary>Of a couple without children.</summary>
    public RateSchedule OwnShareCouple => OwnShare("a couple", 4, 5, 6);

    /// <summary>With one or two children.</summary>
    public RateSchedule OwnShareChildren => OwnShare("one or two children", 2, 3, 4);

    /// <summary>With three children or more.</summary>
    public RateSchedule OwnShareManyChildren => OwnShare("three children or more", 1, 1, 2);

    private static RateSchedule OwnShare(string whose, decimal low, decimal middle, decimal high) =>
        new($"reasonable own share of {whose}", "EStG s. 33(3); BFH VI R 75/14", Certain, (15_340, low), (35_790, middle), (null, high));

    /// <summary>Disability lump sum by degree.</summary>
    public static readonly IReadOnlyDictionary<string, Parameter> Disability = new (string Degree, decimal Amount)[]
        { ("20", 384), ("30", 620), ("40", 860), ("50", 1_140), ("60", 1_440), ("70", 1_780), ("80", 2_120), ("90", 2_460), ("100", 2_840), ("helpless", 7_400) }
        .ToDictionary(d => d.Degree, d => Parameter.Money($"disability lump sum, {d.Degree}", d.Amount, "EStG s. 33b(3)", Certain));

    /// <summary>Lump sum of an unpaid carer by degree of care.</summary>
    public static readonly IReadOnlyDictionary<string, Parameter> Carer = new (string Degree, decimal Amount)[] { ("2", 600), ("3", 1_100), ("4", 1_800) }
        .ToDictionary(d => d.Degree, d => Parameter.Money($"carer's lump sum, degree {d.Degree}", d.Amount, "EStG s. 33b(6)", Certain));

    /// <summary>Lump sum for travel of somebody with a degree of 80, or of 70 with mark G.</summary>
    public Parameter WalkingTravel => InForce(Money("walking-travel", "lump sum for travel", "EStG s. 33(2a)").From(2022, 900, Certain));

    /// <summary>Lump sum for travel of somebody with mark aG, Bl, TBl or H.</summary>
    public Parameter MobilityTravel => InForce(Money("mobility-travel", "lump sum for travel, mark aG, Bl, TBl or H", "EStG s. 33(2a)").From(2022, 4_500, Certain));

    /// <summary>Lump sum of survivors.</summary>
    public Parameter Survivor => InForce(Money("survivor", "survivor's lump sum", "EStG s. 33b(4)").From(2022, 370, Certain));

    /// <summary>Own income of a supported relative that does no harm, of a year.</summary>
    public Parameter RelativeIncome => InForce(Money("relative-income", "supported relative's own income without effect", "EStG s. 33a(1)").From(2022, 624, Certain));

    // Credits

    /// <summary>Part of household work that reduces the tax.</summary>
    public Parameter HouseholdShare => InForce(Percent("household-share", "household work, part that reduces the tax", "EStG s. 35a").From(2022, 20, Certain));

    /// <summary>Credit for a mini-job in the household, at most.</summary>
    public Parameter MiniJobMost => InForce(Money("mini-job-most", "mini-job in the household, at most", "EStG s. 35a(1)").From(2022, 510, Certain));

    /// <summary>Credit for household services, at most.</summary>
    public Parameter ServicesMost => InForce(Money("services-most", "household services, at most", "EStG s. 35a(2)").From(2022, 4_000, Certain));

    /// <summary>Credit for craftsmen, at most.</summary>
    public Parameter CraftsmenMost => InForce(Money("craftsmen-most", "craftsmen, at most", "EStG s. 35a(3)").From(2022, 1_200, Certain));

    /// <summary>Other income without withholding up to which an employee is not taxed on it; up to twice as much there is a part of the relief.</summary>
    public Parameter HardshipLimit => InForce(Money("hardship-limit", "other income without effect", "EStG s. 46(3); EStDV s. 70").From(2022, 410, Certain));

    // Days and charges

    /// <summary>The day by which somebody without an adviser files.</summary>
    public Deadline Filing => new("filing", "Return to be filed", OrNextWorkingDay(Year switch
    {
        2022 => new DateOnly(2023, 9, 30),
        2023 => new DateOnly(2024, 8, 31),
        _ => new DateOnly(Year + 1, 7, 31),
    }), "AO s. 149(2); EGAO art. 97 s. 36(3)", Certain);

    /// <summary>The day by which an adviser files (AO s. 149(3); EGAO art. 97 s. 36(3)).</summary>
    public DateOnly FilingAdvised => OrNextWorkingDay(Year switch
    {
        2022 => new DateOnly(2024, 7, 31),
        2023 => new DateOnly(2025, 5, 31),
        2024 => new DateOnly(2026, 4, 30),
        _ => new DateOnly(2027, 2, 28),
    });

    /// <summary>The last day of a return that nobody must file: four years after the year (AO s. 169(2) no. 2, 170(1)).</summary>
    public DateOnly Voluntary => OrNextWorkingDay(new DateOnly(Year + 4, 12, 31));

    /// <summary>Months after the year from which the surcharge for lateness is automatic.</summary>
    public Parameter SurchargeAutomatic => InForce(Number("late-automatic", "months until the late surcharge is automatic", "AO s. 152(2); EGAO art. 97 s. 36").From(2022, 19, Certain).From(2023, 17, Certain).From(2024, 16, Certain).From(2025, 14, Certain));

    /// <summary>Late surcharge for a month begun, part of what is assessed less what was paid.</summary>
    public Parameter LateShare => InForce(Percent("late-share", "late surcharge, a month", "AO s. 152(5)").From(2022, 0.25m, Certain));

    /// <summary>Late surcharge for a month begun, at least.</summary>
    public Parameter LateLeast => InForce(Money("late-least", "late surcharge, a month at least", "AO s. 152(5)").From(2022, 25, Certain));

    /// <summary>Late surcharge, at most.</summary>
    public Parameter LateMost => InForce(Money("late-most", "late surcharge, at most", "AO s. 152(10)").From(2022, 25_000, Certain));

    /// <summary>The day from which tax bears interest (AO s. 233a(2); EGAO art. 97 s. 36(3)).</summary>
    public DateOnly InterestFrom => Year switch
    {
        2022 => new DateOnly(2024, 9, 1),
        2023 => new DateOnly(2025, 7, 1),
        2024 => new DateOnly(2026, 6, 1),
        _ => new DateOnly(2027, 4, 1),
    };

    /// <summary>Interest for a full month.</summary>
    public Parameter InterestMonth => InForce(Percent("interest-month", "interest, a full month", "AO s. 238(1a)").From(2022, 0.15m, Certain));

    /// <summary>The base of interest is cut to a multiple of it.</summary>
    public Parameter InterestStep => InForce(Money("interest-step", "base of interest, cut to a multiple of", "AO s. 238(2)").From(2022, 50, Certain));

    /// <summary>Interest below it is not set.</summary>
    public Parameter InterestLeast => InForce(Money("interest-least", "interest, at least", "AO s. 239(2)").From(2022, 10, Certain));

    /// <summary>Prepayments of a year below it are not set.</summary>
    public Parameter PrepaymentYear => InForce(Money("prepayment-year", "prepayments of a year, at least", "EStG s. 37(5)").From(2022, 400, Certain));

    /// <summary>Nor below it for a quarter.</summary>
    public Parameter PrepaymentQuarter => InForce(Money("prepayment-quarter", "prepayment of a quarter, at least", "EStG s. 37(5)").From(2022, 100, Certain));

    private static DateOnly OrNextWorkingDay(DateOnly day) => GermanyHolidays.Federal.WorkingDayOnOrAfter(day);
}
