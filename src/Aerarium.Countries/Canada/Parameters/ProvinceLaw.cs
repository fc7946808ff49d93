using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Figure;

namespace Aerarium.Countries.Canada.Parameters;

/// <summary>The figures that every province has; amounts in Canadian dollars.</summary>
/// <param name="year">Tax year.</param>
public abstract class ProvinceLaw(int year) : LawInForce(year)
{
    /// <summary>The act.</summary>
    public abstract string Act { get; }

    /// <summary>Whether the tax of the year can be computed; otherwise it is entered.</summary>
    public virtual bool ComputesTax => Year >= 2024;

    /// <summary>Tax by brackets of taxable income.</summary>
    public abstract RateSchedule Brackets { get; }

    /// <summary>Top of the first bracket.</summary>
    public Parameter FirstBracketTop => Parameter.Money("top of the first bracket", Brackets.Bands[0].To!.Value, Brackets.Source, Brackets.Confidence);

    /// <summary>Rate at which amounts become credits.</summary>
    public abstract Parameter CreditRate { get; }

    /// <summary>Basic amount.</summary>
    public abstract Parameter Basic { get; }

    /// <summary>What the amount for a spouse or eligible dependant is reckoned from.</summary>
    public abstract Parameter SpouseBase { get; }

    /// <summary>Amount for a spouse or eligible dependant, at most.</summary>
    public abstract Parameter SpouseMost { get; }

    /// <summary>Age amount, at most.</summary>
    public abstract Parameter Age { get; }

    /// <summary>Net income from which the age amount shrinks.</summary>
    public abstract Parameter AgeThreshold { get; }

    /// <summary>Pension income amount, at most.</summary>
    public abstract Parameter Pension { get; }

    /// <summary>Disability amount.</summary>
    public abstract Parameter Disability { get; }

    /// <summary>Most that medical expenses must exceed.</summary>
    public abstract Parameter MedicalCap { get; }

    /// <summary>Credit on the first part of gifts.</summary>
    public abstract Parameter FirstGiftsRate { get; }

    /// <summary>Credit on gifts above the first part.</summary>
    public abstract Parameter GiftsRate { get; }

    /// <summary>Credit on the taxable amount of eligible dividends.</summary>
    public abstract Parameter EligibleCredit { get; }

    /// <summary>Credit on the taxable amount of other dividends.</summary>
    public abstract Parameter OtherCredit { get; }
}

/// <summary>Ontario: Taxation Act, 2007, Part II, and its indexation (4.5% for 2024, 2.8% for 2025); section numbers not verified. From memory.</summary>
/// <param name="year">Tax year.</param>
public sealed class OntarioLaw(int year) : ProvinceLaw(year)
{
    private const string Statute = "Taxation Act, 2007 (Ontario)";
    private const string OneRecollection = "Remembered once.";

    /// <summary>Whether tuition of the year itself is credited; abolished for studies after 4 September 2017.</summary>
    public bool CreditsTuition => Year <= 2016;

    /// <summary>Whether the figures that tuition rests on are known.</summary>
    public bool KnowsTuition => Year is 2016 or >= 2024;

    /// <inheritdoc />
    public override string Act => Statute;

    /// <inheritdoc />
    public override RateSchedule Brackets => InForce(new DatedTable<RateSchedule>("ontario-brackets")
        .From(2016, Of(41_536, 83_075)).From(2024, Of(51_446, 102_894)).From(2025, Of(52_886, 105_775)));

    private static RateSchedule Of(decimal first, decimal second) => new("Ontario brackets", Statute, Confidence.Certain,
        (first, 5.05m), (second - first, 9.15m), (150_000 - second, 11.16m), (70_000, 12.16m), (null, 13.16m));

    /// <inheritdoc />
    public override Parameter CreditRate => InForce(Percent("ontario-credit-rate", "rate of Ontario credits", Statute).From(2016, 5.05m, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Basic => InForce(Money("ontario-basic", "Ontario basic amount", Statute).From(2016, 10_011, Confidence.Certain).From(2024, 12_399, Confidence.Certain).From(2025, 12_747, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter SpouseBase => InForce(Money("ontario-spouse-base", "base of the Ontario spouse amount", Statute).From(2016, 9_350, Confidence.Likely, OneRecollection)
        .From(2024, 11_581, Confidence.Certain).From(2025, 11_905, Confidence.Likely, "It could be 11,906."));

    /// <inheritdoc />
    public override Parameter SpouseMost => InForce(Money("ontario-spouse-most", "Ontario spouse amount, at most", Statute).From(2016, 8_500, Confidence.Likely, OneRecollection)
        .From(2024, 10_528, Confidence.Certain).From(2025, 10_823, Confidence.Likely));

    /// <inheritdoc />
    public override Parameter Age => InForce(Money("ontario-age", "Ontario age amount, at most", Statute).From(2016, 4_888, Confidence.Likely, OneRecollection).From(2024, 6_054, Confidence.Certain).From(2025, 6_223, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter AgeThreshold => InForce(Money("ontario-age-threshold", "threshold of the Ontario age amount", Statute).From(2016, 36_387, Confidence.Likely, OneRecollection)
        .From(2024, 45_068, Confidence.Certain).From(2025, 46_330, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Pension => InForce(Money("ontario-pension", "Ontario pension income amount, at most", Statute).From(2024, 1_714, Confidence.Certain).From(2025, 1_762, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Disability => InForce(Money("ontario-disability", "Ontario disability amount", Statute).From(2024, 10_017, Confidence.Certain).From(2025, 10_298, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter MedicalCap => InForce(Money("ontario-medical-cap", "Ontario threshold of medical expenses, at most", Statute).From(2024, 2_806, Confidence.Certain).From(2025, 2_885, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter FirstGiftsRate => InForce(Percent("ontario-first-gifts", "Ontario credit on the first part of gifts", Statute).From(2024, 5.05m, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter GiftsRate => InForce(Percent("ontario-gifts", "Ontario credit on gifts above it", Statute).From(2024, 11.16m, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter EligibleCredit => InForce(Percent("ontario-eligible", "Ontario credit on eligible dividends", Statute).From(2024, 10, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter OtherCredit => InForce(Percent("ontario-other", "Ontario credit on other dividends", Statute).From(2024, 2.9863m, Confidence.Certain));

    /// <summary>Most of a year's tuition and education that could be transferred, less own use.</summary>
    public Parameter TuitionTransfer => InForce(Money("ontario-tuition-transfer", "Ontario transfer of a year's tuition, at most", Statute).From(2016, 6_922, Confidence.Certain).RepealedFrom(2018));

    /// <summary>Education amount for a month of full-time study.</summary>
    public Parameter EducationFull => InForce(Money("ontario-education-full", "Ontario education amount, month full-time", Statute).From(2016, 539, Confidence.Likely, OneRecollection).RepealedFrom(2018));

    /// <summary>Education amount for a month of part-time study.</summary>
    public Parameter EducationPart => InForce(Money("ontario-education-part", "Ontario education amount, month part-time", Statute).From(2016, 161, Confidence.Likely, OneRecollection).RepealedFrom(2018));

    /// <summary>Tax above which the first surtax is charged.</summary>
    public Parameter FirstSurtaxFrom => InForce(Money("first-surtax-from", "first surtax, on tax above", Statute).From(2024, 5_554, Confidence.Certain).From(2025, 5_710, Confidence.Certain));

    /// <summary>Tax above which the second surtax is charged.</summary>
    public Parameter SecondSurtaxFrom => InForce(Money("second-surtax-from", "second surtax, on tax above", Statute).From(2024, 7_108, Confidence.Certain).From(2025, 7_307, Confidence.Certain));

    /// <summary>Rate of the first surtax.</summary>
    public Parameter FirstSurtax => InForce(Percent("first-surtax", "first surtax", Statute).From(2024, 20, Confidence.Certain));

    /// <summary>Rate of the second surtax.</summary>
    public Parameter SecondSurtax => InForce(Percent("second-surtax", "second surtax", Statute).From(2024, 36, Confidence.Certain));

    /// <summary>Tax reduction of everybody.</summary>
    public Parameter Reduction => InForce(Money("ontario-reduction", "Ontario tax reduction, basic", Statute).From(2024, 286, Confidence.Certain).From(2025, 294, Confidence.Certain));

    /// <summary>Tax reduction for each child and infirm dependant.</summary>
    public Parameter ReductionOfChild => InForce(Money("ontario-reduction-child", "Ontario tax reduction, for a child", Statute).From(2024, 529, Confidence.Certain).From(2025, 544, Confidence.Certain));

    /// <summary>Age a child must not have passed on 31 December.</summary>
    public Parameter ReductionAge => InForce(Number("ontario-reduction-age", "age of a child, at most", Statute).From(2024, 18, Confidence.Certain));

    /// <summary>Low-income individuals and families credit, at most.</summary>
    public Parameter LowIncomeMost => InForce(Money("low-income-most", "low-income credit, at most", Statute).From(2024, 875, Confidence.Certain));

    /// <summary>Low-income credit, as a share of employment income.</summary>
    public Parameter LowIncomeShare => InForce(Percent("low-income-share", "low-income credit, of employment income", Statute).From(2024, 5.05m, Confidence.Certain));

    /// <summary>By how much of the income above the thresholds the low-income credit shrinks.</summary>
    public Parameter LowIncomeTaper => InForce(Percent("low-income-taper", "taper of the low-income credit", Statute).From(2024, 5, Confidence.Certain));

    /// <summary>Own net income from which the low-income credit shrinks.</summary>
    public Parameter LowIncomeAlone => InForce(Money("low-income-alone", "threshold of the low-income credit", Statute).From(2024, 32_500, Confidence.Certain));

    /// <summary>Net income of a couple from which the low-income credit shrinks.</summary>
    public Parameter LowIncomeCouple => InForce(Money("low-income-couple", "threshold of the low-income credit, couple", Statute).From(2024, 65_000, Confidence.Certain));

    /// <summary>The health premium, a rate on each slice of taxable income: it rises over short stretches and stands still between them.</summary>
    public RateSchedule HealthPremium => new("Ontario health premium", "Income Tax Act (Ontario); unchanged since 2004", Confidence.Certain,
        (20_000, 0), (5_000, 6), (11_000, 0), (2_500, 6), (9_500, 0), (600, 25), (23_400, 0), (600, 25), (127_400, 0), (600, 25), (null, 0));
}

/// <summary>British Columbia: Income Tax Act (BC) and its indexation (5.0% for 2024, 2.8% for 2025); section numbers not verified. From memory.</summary>
/// <param name="year">Tax year.</param>
public sealed class BritishColumbiaLaw(int year) : ProvinceLaw(year)
{
    private const string Statute = "Income Tax Act (BC)";

    /// <inheritdoc />
    public override string Act => Statute;

    /// <inheritdoc />
    public override RateSchedule Brackets => InForce(new DatedTable<RateSchedule>("bc-brackets")
        .From(2024, Of(47_937, 95_875, 110_076, 133_664, 181_232, 252_752)).From(2025, Of(49_279, 98_560, 113_158, 137_407, 186_306, 259_829)));

    private static RateSchedule Of(decimal first, decimal second, decimal third, decimal fourth, decimal fifth, decimal sixth) => new("British Columbia brackets", Statute, Confidence.Certain,
        (first, 5.06m), (second - first, 7.7m), (third - second, 10.5m), (fourth - third, 12.29m), (fifth - fourth, 14.7m), (sixth - fifth, 16.8m), (null, 20.5m));

    /// <summary>Where the top bracket starts.</summary>
    public Parameter TopBracketStart => Parameter.Money("start of the top British Columbia bracket", Brackets.Bands[^1].From, Brackets.Source, Brackets.Confidence);

    /// <inheritdoc />
    public override Parameter CreditRate => InForce(Percent("bc-credit-rate", "rate of British Columbia credits", Statute).From(2024, 5.06m, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Basic => InForce(Money("bc-basic", "British Columbia basic amount", Statute).From(2024, 12_580, Confidence.Certain).From(2025, 12_932, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter SpouseBase => InForce(Money("bc-spouse-base", "base of the British Columbia spouse amount", Statute).From(2024, 11_849, Confidence.Certain).From(2025, 12_181, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter SpouseMost => InForce(Money("bc-spouse-most", "British Columbia spouse amount, at most", Statute).From(2024, 10_772, Confidence.Certain).From(2025, 11_073, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Age => InForce(Money("bc-age", "British Columbia age amount, at most", Statute).From(2024, 5_641, Confidence.Certain).From(2025, 5_799, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter AgeThreshold => InForce(Money("bc-age-threshold", "threshold of the British Columbia age amount", Statute).From(2024, 41_993, Confidence.Certain).From(2025, 43_169, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Pension => InForce(Money("bc-pension", "British Columbia pension income amount, at most", Statute).From(2024, 1_000, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Disability => InForce(Money("bc-disability", "British Columbia disability amount", Statute).From(2024, 9_435, Confidence.Certain).From(2025, 9_699, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter MedicalCap => InForce(Money("bc-medical-cap", "British Columbia threshold of medical expenses, at most", Statute)
        .From(2024, 2_616, Confidence.Likely, "Remembered a second time as 2,605; the index of the age threshold favours 2,616.")
        .From(2025, 2_689, Confidence.Likely, "Remembered a second time as 2,678; the index of the age threshold favours 2,689."));

    /// <inheritdoc />
    public override Parameter FirstGiftsRate => InForce(Percent("bc-first-gifts", "British Columbia credit on the first part of gifts", Statute).From(2024, 5.06m, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter GiftsRate => InForce(Percent("bc-gifts", "British Columbia credit on gifts above it", Statute).From(2024, 16.8m, Confidence.Certain));

    /// <summary>Credit on gifts out of income in the top bracket.</summary>
    public Parameter GiftsTopRate => InForce(Percent("bc-gifts-top", "British Columbia credit on gifts out of top-bracket income", Statute).From(2024, 20.5m, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter EligibleCredit => InForce(Percent("bc-eligible", "British Columbia credit on eligible dividends", Statute).From(2024, 12, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter OtherCredit => InForce(Percent("bc-other", "British Columbia credit on other dividends", Statute).From(2024, 1.96m, Confidence.Certain));

    /// <summary>Tax reduction, at most.</summary>
    public Parameter Reduction => InForce(Money("bc-reduction", "British Columbia tax reduction, at most", Statute).From(2024, 547, Confidence.Certain).From(2025, 562, Confidence.Certain));

    /// <summary>Net income from which the tax reduction shrinks.</summary>
    public Parameter ReductionThreshold => InForce(Money("bc-reduction-threshold", "threshold of the tax reduction", Statute).From(2024, 24_338, Confidence.Certain).From(2025, 25_020, Confidence.Certain));

    /// <summary>By how much of the income above the threshold the tax reduction shrinks.</summary>
    public Parameter ReductionTaper => InForce(Percent("bc-reduction-taper", "taper of the tax reduction", Statute).From(2024, 3.56m, Confidence.Certain));

    /// <summary>Most of a year's tuition that can be transferred, less own use.</summary>
    public Parameter TuitionTransfer => InForce(Money("bc-tuition-transfer", "British Columbia transfer of a year's tuition, at most", Statute).From(2024, 5_000, Confidence.Certain));

    /// <summary>Renter's credit, at most.</summary>
    public Parameter RentersCredit => InForce(Money("bc-renters", "renter's credit, at most", Statute).From(2024, 400, Confidence.Likely));

    /// <summary>Family net income from which the renter's credit shrinks.</summary>
    public Parameter RentersThreshold => InForce(Money("bc-renters-threshold", "threshold of the renter's credit", Statute).From(2024, 63_000, Confidence.Likely).From(2025, 64_764, Confidence.Likely));

    /// <summary>By how much of the income above the threshold the renter's credit shrinks.</summary>
    public Parameter RentersTaper => InForce(Percent("bc-renters-taper", "taper of the renter's credit", Statute).From(2024, 2, Confidence.Likely));

    /// <summary>Political contributions credited at the highest rate.</summary>
    public Parameter PoliticalFirst => InForce(Money("bc-political-first", "first part of political contributions", Statute).From(2024, 100, Confidence.Certain));

    /// <summary>Political contributions credited at the middle rate reach to here.</summary>
    public Parameter PoliticalSecond => InForce(Money("bc-political-second", "second part of political contributions, up to", Statute).From(2024, 550, Confidence.Certain));

    /// <summary>Political contribution credit, at most.</summary>
    public Parameter PoliticalMost => InForce(Money("bc-political-most", "political contribution credit, at most", Statute).From(2024, 500, Confidence.Certain));
}

/// <summary>Alberta: Personal Income Tax Act and its indexation (4.2% for 2024, 2.0% for 2025); section numbers not verified. From memory.</summary>
/// <param name="year">Tax year.</param>
public sealed class AlbertaLaw(int year) : ProvinceLaw(year)
{
    private const string Statute = "Alberta Personal Income Tax Act";

    /// <inheritdoc />
    public override string Act => Statute;

    /// <inheritdoc />
    public override RateSchedule Brackets => InForce(new DatedTable<RateSchedule>("alberta-brackets")
        .From(2024, new RateSchedule("Alberta brackets", Statute, Confidence.Certain, (148_269, 10), (29_653, 12), (59_308, 13), (118_615, 14), (null, 15)))
        .From(2025, new RateSchedule("Alberta brackets", Statute, Confidence.Certain, (60_000, 8), (91_234, 10), (30_247, 12), (60_493, 13), (120_987, 14), (null, 15))));

    /// <inheritdoc />
    public override Parameter CreditRate => InForce(Percent("alberta-credit-rate", "rate of Alberta credits", Statute).From(2024, 10, Confidence.Certain).From(2025, 8, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Basic => InForce(Money("alberta-basic", "Alberta basic amount", Statute).From(2024, 21_885, Confidence.Certain).From(2025, 22_323, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter SpouseBase => InForce(Money("alberta-spouse-base", "base of the Alberta spouse amount", Statute).From(2024, 21_885, Confidence.Certain).From(2025, 22_323, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter SpouseMost => InForce(Money("alberta-spouse-most", "Alberta spouse amount, at most", Statute).From(2024, 21_885, Confidence.Certain).From(2025, 22_323, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Age => InForce(Money("alberta-age", "Alberta age amount, at most", Statute).From(2024, 6_099, Confidence.Likely).From(2025, 6_221, Confidence.Likely));

    /// <inheritdoc />
    public override Parameter AgeThreshold => InForce(Money("alberta-age-threshold", "threshold of the Alberta age amount", Statute)
        .From(2024, 45_400, Confidence.Likely, "Remembered a second time as 45,409.").From(2025, 46_308, Confidence.Likely, "Remembered a second time as 46,317."));

    /// <inheritdoc />
    public override Parameter Pension => InForce(Money("alberta-pension", "Alberta pension income amount, at most", Statute).From(2024, 1_685, Confidence.Certain).From(2025, 1_719, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter Disability => InForce(Money("alberta-disability", "Alberta disability amount", Statute).From(2024, 16_882, Confidence.Likely).From(2025, 17_219, Confidence.Likely));

    /// <inheritdoc />
    public override Parameter MedicalCap => InForce(Money("alberta-medical-cap", "Alberta threshold of medical expenses, at most", Statute)
        .From(2024, 2_828, Confidence.Likely, "Give or take 1.").From(2025, 2_884, Confidence.Likely, "Give or take 1."));

    /// <inheritdoc />
    public override Parameter FirstGiftsRate => InForce(Percent("alberta-first-gifts", "Alberta credit on the first part of gifts", Statute).From(2024, 60, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter GiftsRate => InForce(Percent("alberta-gifts", "Alberta credit on gifts above it", Statute).From(2024, 21, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter EligibleCredit => InForce(Percent("alberta-eligible", "Alberta credit on eligible dividends", Statute).From(2024, 8.12m, Confidence.Certain));

    /// <inheritdoc />
    public override Parameter OtherCredit => InForce(Percent("alberta-other", "Alberta credit on other dividends", Statute).From(2024, 2.18m, Confidence.Certain));

    /// <summary>Rate of the supplemental credit; null before there was a bracket below 10%.</summary>
    public Parameter? SupplementalRate => InForceOrNone(Percent("alberta-supplemental", "supplemental credit", Statute).From(2025, 2, Confidence.Likely));

    /// <summary>Credit amounts above which the supplemental credit is given.</summary>
    public Parameter SupplementalFrom => InForce(Money("alberta-supplemental-from", "supplemental credit, on amounts above", Statute).From(2025, 60_000, Confidence.Likely));

    /// <summary>Political contributions credited at the highest rate.</summary>
    public Parameter PoliticalFirst => InForce(Money("alberta-political-first", "first part of political contributions", Statute).From(2024, 200, Confidence.Certain));

    /// <summary>Political contributions credited at the middle rate reach to here.</summary>
    public Parameter PoliticalSecond => InForce(Money("alberta-political-second", "second part of political contributions, up to", Statute).From(2024, 1_100, Confidence.Certain));

    /// <summary>Political contribution credit, at most.</summary>
    public Parameter PoliticalMost => InForce(Money("alberta-political-most", "political contribution credit, at most", Statute).From(2024, 1_000, Confidence.Certain));
}
