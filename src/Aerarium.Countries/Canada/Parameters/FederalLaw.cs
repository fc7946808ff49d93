using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;
using static Aerarium.Core.Definitions.Figure;

namespace Aerarium.Countries.Canada.Parameters;

/// <summary>
/// The figures of the federal income tax on individuals, each with its history by tax year, the calendar year. Amounts in Canadian dollars. ITA is the Income Tax Act,
/// R.S.C. 1985, c. 1 (5th Supp.). All from memory of the statute and its indexation, written down twice and compared; the confidence says how far each may be relied on.
/// A figure that is not known for a year is not there, and what rests on it is entered.
/// </summary>
/// <param name="year">Tax year.</param>
public sealed class FederalLaw(int year) : LawInForce(year)
{
    // Tax

    /// <summary>Tax by brackets of taxable income.</summary>
    public RateSchedule Brackets => InForce(new DatedTable<RateSchedule>("brackets")
        .From(2016, Of2016To2024(45_282, 90_563, 140_388, 200_000))
        .From(2023, Of2016To2024(53_359, 106_717, 165_430, 235_675))
        .From(2024, Of2016To2024(55_867, 111_733, 173_205, 246_752))
        .From(2025, new RateSchedule("federal brackets", "ITA 117(2), 117.1; Bill C-4, 45th Parliament", Certain,
            (57_375, 14.5m), (57_375, 20.5m), (63_132, 26), (75_532, 29), (null, 33))));

    private static RateSchedule Of2016To2024(decimal first, decimal second, decimal third, decimal fourth) => new("federal brackets", "ITA 117(2), 117.1", Certain,
        (first, 15), (second - first, 20.5m), (third - second, 26), (fourth - third, 29), (null, 33));

    /// <summary>Top of the first bracket.</summary>
    public Parameter FirstBracketTop => Parameter.Money("top of the first bracket", Brackets.Bands[0].To!.Value, Brackets.Source, Brackets.Confidence);

    /// <summary>Where the top bracket starts.</summary>
    public Parameter TopBracketStart => Parameter.Money("start of the top bracket", Brackets.Bands[^1].From, Brackets.Source, Brackets.Confidence);

    /// <summary>Rate at which amounts become credits.</summary>
    public Parameter CreditRate => InForce(Percent("credit-rate", "rate of credits", "ITA 248(1) \"appropriate percentage\"").From(2016, 15, Certain).From(2025, 14.5m, Certain));

    /// <summary>Rate of the credit that keeps 15% on amounts above the first bracket; null before 2025.</summary>
    public Parameter? TopUpRate => InForceOrNone(Percent("top-up-rate", "top-up of credits", "Budget of 4 November 2025")
        .From(2025, 0.5m, Likely, "Whether it was enacted, and whether the first 200 of gifts counts, is unsure."));

    // Personal amounts

    /// <summary>Basic personal amount, at most.</summary>
    public Parameter Basic => InForce(Money("basic", "basic personal amount", "ITA 118(1)B(c), 118(1.1)")
        .From(2016, 11_474, Certain).From(2023, 15_000, Certain).From(2024, 15_705, Certain).From(2025, 16_129, Certain));

    /// <summary>Basic personal amount, at least; the same as the most where it does not taper.</summary>
    public Parameter BasicLeast => InForce(Money("basic-least", "basic personal amount of the highest incomes", "ITA 118(1.1)")
        .From(2016, 11_474, Certain).From(2023, 13_520, Certain).From(2024, 14_156, Certain).From(2025, 14_538, Certain));

    /// <summary>Net income at which the basic amount begins to taper.</summary>
    public Parameter TaperFrom => InForce(Money("taper-from", "start of the taper of the basic amount", "ITA 118(1.1)")
        .From(2016, 140_388, Certain).From(2023, 165_430, Certain).From(2024, 173_205, Certain).From(2025, 177_882, Certain));

    /// <summary>Net income at which the basic amount is down to its least.</summary>
    public Parameter TaperTo => InForce(Money("taper-to", "end of the taper of the basic amount", "ITA 118(1.1)")
        .From(2016, 200_000, Certain).From(2023, 235_675, Certain).From(2024, 246_752, Certain).From(2025, 253_414, Certain));

    /// <summary>Addition for an infirm spouse or dependant, and the amount for an infirm child under 18.</summary>
    public Parameter? InfirmAddition => InForceOrNone(Money("infirm-addition", "addition for an infirm person", "ITA 118(1)B")
        .From(2023, 2_499, Certain).From(2024, 2_616, Certain).From(2025, 2_687, Certain));

    /// <summary>Caregiver amount for an infirm adult dependant, at most.</summary>
    public Parameter? Caregiver => InForceOrNone(Money("caregiver", "caregiver amount, at most", "ITA 118(1)B(d)")
        .From(2023, 7_999, Likely).From(2024, 8_375, Certain).From(2025, 8_601, Certain));

    /// <summary>Net income of the dependant from which the caregiver amount shrinks.</summary>
    public Parameter? CaregiverThreshold => InForceOrNone(Money("caregiver-threshold", "income threshold of the caregiver amount", "ITA 118(1)B(d)")
        .From(2023, 18_783, Likely).From(2024, 19_666, Certain).From(2025, 20_197, Certain));

    /// <summary>Age amount, at most.</summary>
    public Parameter? Age => InForceOrNone(Money("age", "age amount, at most", "ITA 118(2)").From(2023, 8_396, Certain).From(2024, 8_790, Certain).From(2025, 9_028, Certain));

    /// <summary>Net income from which the age amount shrinks.</summary>
    public Parameter? AgeThreshold => InForceOrNone(Money("age-threshold", "threshold of the age amount", "ITA 118(2)")
        .From(2023, 42_335, Certain).From(2024, 44_325, Certain).From(2025, 45_522, Certain));

    /// <summary>By how much of the income above the threshold the age amount shrinks; the provinces have the same share.</summary>
    public Parameter AgeTaper => InForce(Percent("age-taper", "taper of the age amount", "ITA 118(2)").From(2016, 15, Certain));

    /// <summary>Age from which the age amount is given.</summary>
    public Parameter SeniorAge => InForce(Number("senior-age", "age for the age amount", "ITA 118(2)").From(2016, 65, Certain));

    /// <summary>Pension income amount, at most.</summary>
    public Parameter Pension => InForce(Money("pension", "pension income amount, at most", "ITA 118(3)").From(2016, 2_000, Certain));

    /// <summary>Canada employment amount, at most.</summary>
    public Parameter Employment => InForce(Money("employment", "Canada employment amount", "ITA 118(10)")
        .From(2016, 1_161, Certain).From(2023, 1_368, Certain).From(2024, 1_433, Certain).From(2025, 1_471, Certain));

    /// <summary>Disability amount.</summary>
    public Parameter? Disability => InForceOrNone(Money("disability", "disability amount", "ITA 118.3").From(2023, 9_428, Certain).From(2024, 9_872, Certain).From(2025, 10_138, Certain));

    /// <summary>Supplement to the disability amount of a child.</summary>
    public Parameter? DisabilityOfChild => InForceOrNone(Money("disability-of-child", "supplement for a disabled child", "ITA 118.3").From(2023, 5_500, Certain).From(2024, 5_758, Certain).From(2025, 5_914, Certain));

    /// <summary>Home buyers' amount.</summary>
    public Parameter HomeBuyers => InForce(Money("home-buyers", "home buyers' amount", "ITA 118.05").From(2016, 5_000, Certain).From(2023, 10_000, Certain));

    /// <summary>Home accessibility expenses, at most.</summary>
    public Parameter HomeAccessibility => InForce(Money("home-accessibility", "home accessibility expenses, at most", "ITA 118.041").From(2016, 10_000, Certain).From(2023, 20_000, Certain));

    /// <summary>Amount for a volunteer firefighter or search-and-rescue volunteer.</summary>
    public Parameter Volunteer => InForce(Money("volunteer", "volunteer firefighter or search-and-rescue amount", "ITA 118.06, 118.07").From(2016, 3_000, Certain).From(2024, 6_000, Certain));

    /// <summary>Hours a volunteer needs.</summary>
    public Parameter VolunteerHours => InForce(Number("volunteer-hours", "hours of a volunteer", "ITA 118.06, 118.07").From(2016, 200, Certain));

    // Medical expenses, gifts, dividends, political contributions

    /// <summary>Share of net income that medical expenses must exceed.</summary>
    public Parameter MedicalShare => InForce(Percent("medical-share", "share of net income medical expenses must exceed", "ITA 118.2(1)").From(2016, 3, Certain));

    /// <summary>Most that medical expenses must exceed.</summary>
    public Parameter MedicalCap => InForce(Money("medical-cap", "threshold of medical expenses, at most", "ITA 118.2(1)")
        .From(2016, 2_237, Certain).From(2023, 2_635, Certain).From(2024, 2_759, Certain).From(2025, 2_834, Certain));

    /// <summary>Part of gifts credited at the lowest rate; the provinces have the same.</summary>
    public Parameter FirstGifts => InForce(Money("first-gifts", "first part of gifts", "ITA 118.1(3)").From(2016, 200, Certain));

    /// <summary>Rate of gifts above the first part.</summary>
    public Parameter GiftsRate => InForce(Percent("gifts-rate", "credit on gifts above the first part", "ITA 118.1(3)").From(2016, 29, Certain));

    /// <summary>Rate of gifts above the first part, as far as income lies in the top bracket.</summary>
    public Parameter GiftsTopRate => InForce(Percent("gifts-top-rate", "credit on gifts out of top-bracket income", "ITA 118.1(3)").From(2016, 33, Certain));

    /// <summary>Gifts that count in a year, as a share of net income.</summary>
    public Parameter GiftsLimit => InForce(Percent("gifts-limit", "gifts counted, share of net income", "ITA 118.1(1)").From(2016, 75, Certain));

    /// <summary>Years for which gifts are carried forward.</summary>
    public Parameter GiftsYears => InForce(Number("gifts-years", "years gifts are carried forward", "ITA 118.1(1)").From(2016, 5, Certain));

    /// <summary>By how much eligible dividends are grossed up.</summary>
    public Parameter EligibleGrossUp => InForce(Percent("eligible-gross-up", "gross-up of eligible dividends", "ITA 82(1)").From(2016, 38, Certain));

    /// <summary>By how much other dividends are grossed up.</summary>
    public Parameter OtherGrossUp => InForce(Percent("other-gross-up", "gross-up of other dividends", "ITA 82(1)").From(2016, 17, Likely).From(2023, 15, Certain));

    /// <summary>Credit on the taxable amount of eligible dividends.</summary>
    public Parameter EligibleCredit => InForce(Percent("eligible-credit", "credit on eligible dividends", "ITA 121").From(2016, 15.0198m, Certain));

    /// <summary>Credit on the taxable amount of other dividends.</summary>
    public Parameter OtherCredit => InForce(Percent("other-credit", "credit on other dividends", "ITA 121").From(2016, 10.5217m, Likely).From(2023, 9.0301m, Certain));

    /// <summary>Political contributions credited at the highest rate.</summary>
    public Parameter PoliticalFirst => InForce(Money("political-first", "first part of political contributions", "ITA 127(3)").From(2016, 400, Certain));

    /// <summary>Political contributions credited at the middle rate reach to here.</summary>
    public Parameter PoliticalSecond => InForce(Money("political-second", "second part of political contributions, up to", "ITA 127(3)").From(2016, 750, Certain));

    /// <summary>Rate on the first part of political contributions; the provinces have the same.</summary>
    public Parameter PoliticalFirstRate => InForce(Percent("political-first-rate", "credit on the first part of political contributions", "ITA 127(3)").From(2016, 75, Certain));

    /// <summary>Rate on the second part of political contributions; a third of the rest is credited. The provinces have the same.</summary>
    public Parameter PoliticalSecondRate => InForce(Percent("political-second-rate", "credit on the second part of political contributions", "ITA 127(3)").From(2016, 50, Certain));

    /// <summary>Political contribution credit, at most.</summary>
    public Parameter PoliticalMost => InForce(Money("political-most", "political contribution credit, at most", "ITA 127(3)").From(2016, 650, Certain));

    // Income and deductions

    /// <summary>Part of a gain that is taxed.</summary>
    public Parameter Inclusion => InForce(Percent("inclusion", "part of a gain that is taxed", "ITA 38").From(2016, 50, Certain)
        .From(2024, 50, Certain, "The increase to two thirds that was proposed for 2024 was cancelled on 21 March 2025."));

    /// <summary>Cost and proceeds of personal-use property, at least.</summary>
    public Parameter PersonalUseFloor => InForce(Money("personal-use-floor", "cost and proceeds of personal-use property, at least", "ITA 46(1)").From(2016, 1_000, Certain));

    /// <summary>Days of ownership below which the gain on housing is business income; null before the rule.</summary>
    public Parameter? FlippingDays => InForceOrNone(Number("flipping-days", "days of ownership", "ITA 12(12) to (14)").From(2023, 365, Certain));

    /// <summary>Retirement savings dollar limit.</summary>
    public Parameter RetirementLimit => InForce(Money("retirement-limit", "retirement savings dollar limit", "ITA 146(1), 147.1")
        .From(2016, 25_370, Certain).From(2023, 30_780, Certain).From(2024, 31_560, Certain).From(2025, 32_490, Certain));

    /// <summary>Retirement savings room out of the income earned in the year before.</summary>
    public Parameter RetirementShare => InForce(Percent("retirement-share", "room out of last year's earned income", "ITA 146(1)").From(2016, 18, Certain));

    /// <summary>Contributions above the limit that are not taxed.</summary>
    public Parameter RetirementCushion => InForce(Money("retirement-cushion", "over-contribution without tax", "ITA 204.1, 204.2").From(2016, 2_000, Certain));

    /// <summary>Tax on over-contributions for a month.</summary>
    public Parameter RetirementMonthlyTax => InForce(Percent("retirement-monthly-tax", "tax on over-contributions for a month", "ITA 204.1").From(2016, 1, Certain));

    /// <summary>First home savings room of a year; null before the account existed.</summary>
    public Parameter? HomeSavingsYear => InForceOrNone(Money("home-savings-year", "first home savings room of a year", "ITA 146.6").From(2023, 8_000, Certain));

    /// <summary>First home savings contributions in a lifetime; null before the account existed.</summary>
    public Parameter? HomeSavingsLifetime => InForceOrNone(Money("home-savings-lifetime", "first home savings in a lifetime", "ITA 146.6").From(2023, 40_000, Certain));

    /// <summary>Hours in a week, by which a shared work space counts.</summary>
    public static Parameter WeekHours => Parameter.Number("hours of a week", 168, "ITA 8(13); guidance", Certain);

    /// <summary>Part of meals and entertainment that counts as an expense.</summary>
    public Parameter MealsShare => InForce(Percent("meals-share", "meals and entertainment counted", "ITA 67.1").From(2016, 50, Certain));

    /// <summary>Part of a pension that can be given to the spouse.</summary>
    public Parameter PensionShared => InForce(Percent("pension-shared", "pension that can be given to the spouse", "ITA 60.03").From(2016, 50, Certain));

    /// <summary>Years for which losses are carried forward.</summary>
    public Parameter LossYears => InForce(Number("loss-years", "years losses are carried forward", "ITA 111(1)(a)").From(2016, 20, Certain));

    /// <summary>Age from which the lower limit of child care holds.</summary>
    public Parameter ChildCareAge => InForce(Number("child-care-age", "age of the lower child-care limit", "ITA 63(3)").From(2016, 7, Certain));

    /// <summary>Age to which child care counts for a child who is not infirm.</summary>
    public Parameter ChildCareLastAge => InForce(Number("child-care-last-age", "last age of child care", "ITA 63(3)").From(2016, 16, Certain));

    /// <summary>Child-care costs of a child under 7, at most.</summary>
    public Parameter ChildCareYoung => InForce(Money("child-care-young", "child care under 7, at most", "ITA 63").From(2016, 8_000, Certain));

    /// <summary>Child-care costs of a child from 7 to 16, at most.</summary>
    public Parameter ChildCareOlder => InForce(Money("child-care-older", "child care from 7 to 16, at most", "ITA 63").From(2016, 5_000, Certain));

    /// <summary>Child-care costs of a disabled child, at most.</summary>
    public Parameter ChildCareDisabled => InForce(Money("child-care-disabled", "child care of a disabled child, at most", "ITA 63").From(2016, 11_000, Certain));

    /// <summary>Old age security is repaid from this income on; null where it is not known.</summary>
    public Parameter? OldAgeThreshold => InForceOrNone(Money("old-age-threshold", "threshold of the old age security repayment", "ITA 180.2").From(2023, 86_912, Certain).From(2024, 90_997, Certain).From(2025, 93_454, Certain));

    /// <summary>Old age security repaid, as a share of the income above the threshold.</summary>
    public Parameter OldAgeRate => InForce(Percent("old-age-rate", "repayment of old age security", "ITA 180.2").From(2016, 15, Certain));

    /// <summary>Employment insurance benefits are repaid from this income on; null where it is not known.</summary>
    public Parameter? BenefitThreshold => InForceOrNone(Money("benefit-threshold", "threshold of the employment insurance repayment", "Employment Insurance Act 145")
        .From(2023, 76_875, Certain).From(2024, 79_000, Certain).From(2025, 82_125, Certain));

    /// <summary>Employment insurance benefits repaid.</summary>
    public Parameter BenefitRate => InForce(Percent("benefit-rate", "repayment of employment insurance benefits", "Employment Insurance Act 145").From(2016, 30, Certain));

    // Students

    /// <summary>Most of a year's tuition that can be transferred, less what the student uses.</summary>
    public Parameter TuitionTransfer => InForce(Money("tuition-transfer", "transfer of a year's tuition, at most", "ITA 118.81, 118.9").From(2016, 5_000, Certain));

    /// <summary>Fees of one institution must exceed this.</summary>
    public Parameter TuitionLeast => InForce(Money("tuition-least", "fees of one institution must exceed", "ITA 118.5").From(2016, 100, Certain));

    /// <summary>Education amount for a month of full-time study; null once it was abolished.</summary>
    public Parameter? EducationFull => InForceOrNone(Money("education-full", "education amount, month full-time", "ITA 118.6, repealed").From(2016, 400, Certain).RepealedFrom(2017));

    /// <summary>Education amount for a month of part-time study; null once it was abolished.</summary>
    public Parameter? EducationPart => InForceOrNone(Money("education-part", "education amount, month part-time", "ITA 118.6, repealed").From(2016, 120, Certain).RepealedFrom(2017));

    /// <summary>Textbook amount for a month of full-time study; null once it was abolished.</summary>
    public Parameter? TextbookFull => InForceOrNone(Money("textbook-full", "textbook amount, month full-time", "ITA 118.6(2.1), repealed").From(2016, 65, Certain).RepealedFrom(2017));

    /// <summary>Textbook amount for a month of part-time study; null once it was abolished.</summary>
    public Parameter? TextbookPart => InForceOrNone(Money("textbook-part", "textbook amount, month part-time", "ITA 118.6(2.1), repealed").From(2016, 20, Certain).RepealedFrom(2017));

    /// <summary>Share of tuition that the training credit may cover; null before the credit existed.</summary>
    public Parameter? TrainingShare => InForceOrNone(Percent("training-share", "training credit, share of tuition", "ITA 122.91").From(2023, 50, Certain));

    // Refundable medical supplement

    /// <summary>Refundable medical supplement, at most; null where it is not known.</summary>
    public Parameter? SupplementMost => InForceOrNone(Money("supplement-most", "refundable medical supplement, at most", "ITA 122.51").From(2024, 1_464, Likely).From(2025, 1_504, Likely));

    /// <summary>Share of medical expenses that is refunded.</summary>
    public Parameter SupplementShare => InForce(Percent("supplement-share", "medical expenses refunded", "ITA 122.51").From(2016, 25, Likely));

    /// <summary>Income from work that the supplement needs; null where it is not known.</summary>
    public Parameter? SupplementEarned => InForceOrNone(Money("supplement-earned", "income from work for the supplement", "ITA 122.51").From(2024, 4_275, Likely).From(2025, 4_390, Likely));

    /// <summary>Family net income from which the supplement shrinks; null where it is not known.</summary>
    public Parameter? SupplementThreshold => InForceOrNone(Money("supplement-threshold", "threshold of the supplement", "ITA 122.51").From(2024, 32_419, Likely).From(2025, 33_294, Likely));

    /// <summary>By how much of the income above the threshold the supplement shrinks.</summary>
    public Parameter SupplementTaper => InForce(Percent("supplement-taper", "taper of the supplement", "ITA 122.51").From(2016, 5, Likely));

    // Workers benefit, ITA 122.7. Alberta has figures of its own, which are not held here.

    /// <summary>Share of the income from work that the benefit grows by.</summary>
    public Parameter WorkersShare => InForce(Percent("workers-share", "growth of the workers benefit", "ITA 122.7(2)").From(2024, 27, Likely));

    /// <summary>Income from work from which the benefit begins.</summary>
    public Parameter WorkersFrom => InForce(Money("workers-from", "income from work for the workers benefit", "ITA 122.7(2)").From(2024, 3_000, Likely));

    /// <summary>Benefit of somebody without spouse and children, at most; null where it is not known.</summary>
    public Parameter? WorkersAlone => InForceOrNone(Money("workers-alone", "workers benefit of one person, at most", "ITA 122.7(2), 117.1").From(2024, 1_590, Likely).From(2025, 1_633, Likely));

    /// <summary>Benefit of a family, at most.</summary>
    public Parameter? WorkersFamily => InForceOrNone(Money("workers-family", "workers benefit of a family, at most", "ITA 122.7(2), 117.1").From(2024, 2_739, Likely).From(2025, 2_813, Likely));

    /// <summary>Net income of one person from which the benefit shrinks.</summary>
    public Parameter? WorkersAloneThreshold => InForceOrNone(Money("workers-alone-threshold", "threshold of the workers benefit, one person", "ITA 122.7(2), 117.1").From(2024, 26_149, Likely).From(2025, 26_855, Likely));

    /// <summary>Net income of a family from which the benefit shrinks.</summary>
    public Parameter? WorkersFamilyThreshold => InForceOrNone(Money("workers-family-threshold", "threshold of the workers benefit, family", "ITA 122.7(2), 117.1").From(2024, 29_833, Likely).From(2025, 30_639, Likely));

    /// <summary>By how much of the income above the threshold the benefit shrinks.</summary>
    public Parameter WorkersTaper => InForce(Percent("workers-taper", "taper of the workers benefit", "ITA 122.7(2)").From(2024, 15, Likely));

    /// <summary>Age on 31 December from which somebody without a family has the benefit; from memory of ITA 122.7(1), not in the sheet.</summary>
    public Parameter WorkersAge => InForce(Number("workers-age", "age for the workers benefit", "ITA 122.7(1)").From(2024, 19, Likely));

    // Balance, days, charges

    /// <summary>Balances up to this are neither charged nor refunded.</summary>
    public Parameter SmallBalance => InForce(Money("small-balance", "balance neither charged nor refunded", "ITA 161.3, 164(1.2)").From(2016, 2, Likely));

    /// <summary>Net tax owing above which instalments are asked for.</summary>
    public Parameter InstalmentThreshold => InForce(Money("instalment-threshold", "net tax owing above which instalments are asked for", "ITA 155 to 156.1").From(2016, 3_000, Certain));

    /// <summary>Cost of foreign property above which it is reported.</summary>
    public Parameter ForeignPropertyLimit => InForce(Money("foreign-property", "cost of foreign property", "ITA 233.3").From(2016, 100_000, Certain));

    /// <summary>Rate of the minimum tax.</summary>
    public Parameter MinimumTaxRate => InForce(Percent("minimum-tax-rate", "minimum tax", "ITA 127.51").From(2024, 20.5m, Likely));

    /// <summary>Part of the credits on amounts that counts against the minimum tax.</summary>
    public Parameter MinimumTaxCredits => InForce(Percent("minimum-tax-credits", "credits counted against the minimum tax", "ITA 127.531").From(2024, 50, Likely));

    /// <summary>Part of the credit on gifts that counts against the minimum tax.</summary>
    public Parameter MinimumTaxGifts => InForce(Percent("minimum-tax-gifts", "gift credit counted against the minimum tax", "ITA 127.531").From(2024, 80, Likely));

    /// <summary>Part of interest, employment expenses and losses that the minimum tax does not allow.</summary>
    public Parameter MinimumTaxAddition => InForce(Percent("minimum-tax-addition", "deductions added back for the minimum tax", "ITA 127.52").From(2024, 50, Likely));

    /// <summary>Exemption of the minimum tax; null where it is not known.</summary>
    public Parameter? MinimumTaxExemption => InForceOrNone(Money("minimum-tax-exemption", "exemption of the minimum tax", "ITA 127.53").From(2024, 173_205, Likely).From(2025, 177_882, Likely));

    /// <summary>Day by which a return is filed and the balance paid.</summary>
    public Deadline Payment => new("payment", "Balance of tax to be paid", OrNextWorkingDay(new DateOnly(Year + 1, 4, 30)), "ITA 156.1(4), 248(1) \"balance-due day\"", Certain);

    /// <summary>Day by which a return is filed.</summary>
    public Deadline Filing => new("filing", "Return to be filed", OrNextWorkingDay(new DateOnly(Year + 1, 4, 30)), "ITA 150(1)(d)(i)", Certain);

    /// <summary>Day by which a return is filed where the taxpayer or the spouse carries on a business.</summary>
    public DateOnly FilingInBusiness => OrNextWorkingDay(new DateOnly(Year + 1, 6, 15));

    /// <summary>Last day of retirement savings contributions for the year: the 60th day after its end.</summary>
    public DateOnly LastContribution => OrNextWorkingDay(new DateOnly(Year, 12, 31).AddDays(60));

    /// <summary>Last day of gifts for the year; money given until 28 February 2025 counts for 2024 (announced on 30 December 2024).</summary>
    public DateOnly LastGift => Year == 2024 ? new DateOnly(2025, 2, 28) : new DateOnly(Year, 12, 31);

    /// <summary>Penalty for filing late, part of the unpaid balance.</summary>
    public Parameter LatePenalty => InForce(Percent("late-penalty", "penalty for filing late", "ITA 162(1)").From(2016, 5, Certain));

    /// <summary>Penalty for each complete month late.</summary>
    public Parameter LatePenaltyMonth => InForce(Percent("late-penalty-month", "penalty for a month late", "ITA 162(1)").From(2016, 1, Certain));

    /// <summary>Months for which the penalty grows.</summary>
    public Parameter LatePenaltyMonths => InForce(Number("late-penalty-months", "months of the penalty, at most", "ITA 162(1)").From(2016, 12, Certain));

    /// <summary>Penalty for filing late where the return was demanded and a penalty was charged in one of the three years before.</summary>
    public Parameter RepeatedPenalty => InForce(Percent("repeated-penalty", "penalty for filing late again", "ITA 162(2)").From(2016, 10, Certain));

    /// <summary>That penalty for each complete month late.</summary>
    public Parameter RepeatedPenaltyMonth => InForce(Percent("repeated-penalty-month", "penalty for a month late, again", "ITA 162(2)").From(2016, 2, Certain));

    /// <summary>Months for which that penalty grows.</summary>
    public Parameter RepeatedPenaltyMonths => InForce(Number("repeated-penalty-months", "months of the repeated penalty, at most", "ITA 162(2)").From(2016, 20, Certain));

    /// <summary>
    /// The day until which those who report capital gains of 2024 are charged neither penalty nor interest (announced on 31 January 2025); null for other years. Whether the day itself
    /// is within is unsure; for filing it is taken as within, interest runs from it.
    /// </summary>
    public DateOnly? GainsRelief => Year == 2024 ? new DateOnly(2025, 6, 2) : null;

    /// <summary>The days of the year's instalments.</summary>
    public (DateOnly March, DateOnly June, DateOnly September, DateOnly December) InstalmentDays =>
        (OrNextWorkingDay(new DateOnly(Year, 3, 15)), OrNextWorkingDay(new DateOnly(Year, 6, 15)), OrNextWorkingDay(new DateOnly(Year, 9, 15)), OrNextWorkingDay(new DateOnly(Year, 12, 15)));

    /// <summary>Interest on instalments up to this is not charged; from memory of ITA 161(2.1), not in the sheet.</summary>
    public Parameter InstalmentInterestFree => InForce(Money("instalment-interest-free", "interest on instalments that is not charged", "ITA 161(2.1)").From(2016, 25, Likely));

    /// <summary>Penalty on instalments, part of their interest.</summary>
    public Parameter InstalmentPenalty => InForce(Percent("instalment-penalty", "penalty on instalments", "ITA 163.1").From(2016, 50, Certain));

    /// <summary>Interest on instalments above which the penalty is charged.</summary>
    public Parameter InstalmentPenaltyFrom => InForce(Money("instalment-penalty-from", "interest on instalments without a penalty", "ITA 163.1").From(2016, 1_000, Certain));

    /// <summary>Part of the interest that would run without any instalment, up to which there is no penalty.</summary>
    public Parameter InstalmentPenaltyShare => InForce(Percent("instalment-penalty-share", "part of the interest without instalments", "ITA 163.1").From(2016, 25, Certain));

    /// <summary>Penalty for designating a home late, for a month.</summary>
    public Parameter LateDesignationMonth => InForce(Money("late-designation-month", "late designation of a home, for a month", "ITA 220(3.5)").From(2016, 100, Certain));

    /// <summary>Penalty for designating a home late, at most.</summary>
    public Parameter LateDesignationMost => InForce(Money("late-designation-most", "late designation of a home, at most", "ITA 220(3.5)").From(2016, 8_000, Certain));

    private static DateOnly OrNextWorkingDay(DateOnly day) => CanadaHolidays.Calendar.WorkingDayOnOrAfter(day);
}
