using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;
using static Aerarium.Core.Definitions.Figure;

namespace Aerarium.Countries.Kenya.Parameters;

/// <summary>
/// The figures of the law for the return of a resident individual with employment income, each with its history by year of income, the calendar year
/// (ITA s. 2). Amounts in Kenya shillings. Income Tax Act (Cap. 470) is ITA; Tax Procedures Act, 2015 is TPA; Tax Laws
/// (Amendment) Act, 2024, in force 27 December 2024, is TLAA 2024; Affordable Housing Act, 2024 is AHA. All from memory
/// of the statutes; the confidence says how far each may be relied on.
/// </summary>
public sealed class EmploymentIncomeLaw : LawInForce
{
    private EmploymentIncomeLaw(int year)
        : base(year)
    {
    }

    /// <summary>The years covered.</summary>
    public static readonly IReadOnlyList<int> Years = [2022, 2023, 2024, 2025];

    /// <summary>The law of a year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public static EmploymentIncomeLaw For(int year) => Years.Contains(year)
        ? new EmploymentIncomeLaw(year)
        : throw new ArgumentOutOfRangeException(nameof(year), year, "Kenya, employment income covers the years of income 2022 to 2025.");

    /// <summary>
    /// Whether the rules changed during the year, with the December payroll: 2024 only. Then limits are counted per
    /// month before and after, and contributions are split.
    /// </summary>
    public bool ChangesInDecember => Year == 2024;

    /// <summary>Whether the two upper bands began in the middle of the year: 2023 only. Then tax above their edge can be computed in several ways.</summary>
    public bool UpperBandsBeginInJuly => Year == 2023;

    /// <summary>Whether social health insurance and the housing levy are set against tax or income: from 2024 on.</summary>
    public bool HasSocialContributions => Year >= 2024;

    /// <summary>Whether contributions to the national hospital fund count as premiums: until the fund ended in 2024.</summary>
    public bool HospitalFundCounts => Year <= 2024;

    /// <summary>Whether what is paid for a day of travel on duty without proof was raised during the year, on 1 July: 2025 only.</summary>
    public bool SubsistenceChangesInJuly => Year == 2025;

    /// <summary>Whether a loan to build one's home qualifies.</summary>
    public bool ConstructionQualifies => Year >= 2025;

    // Tax and reliefs

    /// <summary>Annual bands of tax, resident individual.</summary>
    public RateSchedule Bands => InForce(new DatedTable<RateSchedule>("bands")
        .From(2022, new RateSchedule(
            "bands of tax", "ITA s. 34, Third Schedule Head B para. 1; TLAA (No. 2) 2020", Certain,
            (288_000, 10), (100_000, 25), (null, 30)))
        .From(2023, new RateSchedule(
            "bands of tax, the upper two averaged over the year", "ITA s. 34, Third Schedule Head B para. 1; Finance Act 2023, from 1 July 2023", Unsure,
            (288_000, 10), (100_000, 25), (5_612_000, 30), (3_600_000, 31.25m), (null, 32.5m)))
        .From(2024, new RateSchedule(
            "bands of tax", "ITA s. 34, Third Schedule Head B para. 1; TLAA (No. 2) 2020; Finance Act 2023", Certain,
            (288_000, 10), (100_000, 25), (5_612_000, 30), (3_600_000, 32.5m), (null, 35))));

    /// <summary>Taxable income above which the method for the year the upper bands began is not settled.</summary>
    public Parameter? UpperBandsEdge => InForceOrNone(Money("upper-bands-edge", "taxable income above which the upper bands begin", "ITA s. 34; Finance Act 2023")
        .For(2023, 6_000_000, Certain));

    /// <summary>Personal relief for a full year.</summary>
    public Parameter PersonalRelief => InForce(Money("personal-relief", "personal relief for the year", "ITA s. 30, Third Schedule Head A")
        .From(2022, 28_800, Certain));

    /// <summary>Personal relief for one month of a shorter period.</summary>
    public Parameter PersonalReliefMonth => InForce(Money("personal-relief-month", "personal relief for a month", "ITA s. 30, Third Schedule Head A")
        .From(2022, 2_400, Unsure, "Counting months of a shorter period is not settled."));

    /// <summary>Rate of insurance relief.</summary>
    public Parameter InsuranceReliefRate => InForce(Percent("insurance-relief-rate", "rate of insurance relief", "ITA s. 31")
        .From(2022, 15, Certain));

    /// <summary>Limit of insurance relief for the year.</summary>
    public Parameter InsuranceReliefLimit => InForce(Money("insurance-relief-limit", "limit of insurance relief", "ITA s. 31")
        .From(2022, 60_000, Certain));

    /// <summary>Rate of affordable housing relief, in years that have it.</summary>
    public Parameter? HousingReliefRate => InForceOrNone(Percent("housing-relief-rate", "rate of affordable housing relief", "ITA s. 30A; AHA 2024; repealed by TLAA 2024")
        .From(2024, 15, Certain, "Levy paid 19 March to the November payroll: likely.")
        .RepealedFrom(2025));

    /// <summary>Limit of affordable housing relief, in years that have it.</summary>
    public Parameter? HousingReliefLimit => InForceOrNone(Money("housing-relief-limit", "limit of affordable housing relief", "ITA s. 30A; AHA 2024")
        .From(2024, 108_000, Certain)
        .RepealedFrom(2025));

    /// <summary>Rate of post-retirement medical fund relief, in years that have it.</summary>
    public Parameter? MedicalReliefRate => InForceOrNone(Percent("medical-relief-rate", "rate of post-retirement medical fund relief", "ITA s. 30B, Finance Act 2023; repealed by TLAA 2024")
        .From(2024, 15, Likely)
        .RepealedFrom(2025));

    /// <summary>Limit of post-retirement medical fund relief, in years that have it.</summary>
    public Parameter? MedicalReliefLimit => InForceOrNone(Money("medical-relief-limit", "limit of post-retirement medical fund relief", "ITA s. 30B, Finance Act 2023")
        .From(2024, 60_000, Likely)
        .RepealedFrom(2025));

    // Deductions

    /// <summary>Part of pensionable pay that may be contributed.</summary>
    public Parameter PensionShare => InForce(Percent("pension-share", "part of pensionable pay", "ITA s. 22A")
        .From(2022, 30, Certain));

    /// <summary>Limit of own retirement contributions for the year.</summary>
    public Parameter PensionLimit => InForce(Money("pension-limit", "limit for the year {year}", "ITA s. 22A, 22B; TLAA 2024")
        .From(2022, 240_000, Certain)
        .From(2024, 250_000, Unsure, "20,000 a month to November and 30,000 for December; other readings are 240,000 and 360,000.")
        .From(2025, 360_000, Certain));

    /// <summary>The same for one month.</summary>
    public Parameter PensionLimitMonth => InForce(Money("pension-limit-month", "limit for a month", "ITA s. 22A, 22B; TLAA 2024")
        .From(2022, 20_000, Certain)
        .From(2024, 30_000, Likely, label: "limit for December {year}")
        .From(2025, 30_000, Certain));

    /// <summary>The same for one month before the change in December, in the year it changed.</summary>
    public Parameter? PensionLimitMonthBefore => InForceOrNone(Money("pension-limit-month-before", "limit a month to November {year}", "ITA s. 22A, 22B")
        .From(2024, 20_000, Certain)
        .RepealedFrom(2025));

    /// <summary>Limit of interest on the loan for one's home, for the year.</summary>
    public Parameter MortgageLimit => InForce(Money("mortgage-limit", "limit for the year {year}", "ITA s. 15(3)(b); TLAA 2024")
        .From(2022, 300_000, Certain)
        .From(2024, 305_000, Unsure, "25,000 a month to November and 30,000 for December; other readings are 300,000 and 360,000.")
        .From(2025, 360_000, Certain));

    /// <summary>The same for one month.</summary>
    public Parameter MortgageLimitMonth => InForce(Money("mortgage-limit-month", "limit for a month", "ITA s. 15(3)(b); TLAA 2024")
        .From(2022, 25_000, Certain)
        .From(2024, 30_000, Likely, label: "limit for December {year}")
        .From(2025, 30_000, Certain));

    /// <summary>The same for one month before the change in December, in the year it changed.</summary>
    public Parameter? MortgageLimitMonthBefore => InForceOrNone(Money("mortgage-limit-month-before", "limit a month to November {year}", "ITA s. 15(3)(b)")
        .From(2024, 25_000, Certain)
        .RepealedFrom(2025));

    /// <summary>Limit of post-retirement medical fund contributions deducted, one month; none before 2024.</summary>
    public Parameter? MedicalLimitMonth => InForceOrNone(Money("medical-limit-month", "limit for a month", "ITA s. 15; TLAA 2024")
        .From(2024, 15_000, Likely, label: "limit for December {year}")
        .From(2025, 15_000, Certain));

    /// <summary>The same for the year.</summary>
    public Parameter? MedicalLimit => InForceOrNone(Money("medical-limit", "limit for the year {year}", "ITA s. 15; TLAA 2024")
        .From(2024, 15_000, Likely, "Contributions of December only.")
        .From(2025, 180_000, Certain));

    /// <summary>Part of an employee's pay taken as affordable housing levy; used to question a certificate, never to compute one.</summary>
    public Parameter? LevyRate => InForceOrNone(Percent("levy-rate", "affordable housing levy, part of gross pay", "AHA 2024 s. 4")
        .From(2024, 1.5m, Certain));

    /// <summary>Part of an employee's pay taken as social health insurance; used to question a certificate.</summary>
    public Parameter? HealthInsuranceRate => InForceOrNone(Percent("health-insurance-rate", "social health insurance, part of gross pay", "Social Health Insurance Act 2023, regulations")
        .From(2024, 2.75m, Certain));

    /// <summary>Least social health insurance contribution for a month; used to question a certificate.</summary>
    public Parameter? HealthInsuranceLeastMonth => InForceOrNone(Money("health-insurance-least-month", "least social health insurance contribution a month", "Social Health Insurance Act 2023, regulations")
        .From(2024, 300, Certain));

    // Benefits in kind

    /// <summary>Part of the car's cost that counts for a month.</summary>
    public Parameter CarCostRate => InForce(Percent("car-cost-rate", "part of the car's cost for a month", "ITA s. 5(2B)")
        .From(2022, 2, Likely)
        .From(2023, 2, Certain));

    /// <summary>Fixed monthly rate of a saloon, hatchback or estate by engine size.</summary>
    public StepTable SaloonRates => InForce(new DatedTable<StepTable>("saloon-rates").From(2022, new StepTable(
        "fixed monthly rate by engine size, saloon, hatchback or estate", "Prescribed rates under ITA s. 5(2B)", Likely,
        (1_200, 3_600), (1_500, 4_200), (1_750, 5_800), (2_000, 7_200), (3_000, 8_600), (null, 14_400))));

    /// <summary>Fixed monthly rate of a pick-up or panel van by engine size.</summary>
    public StepTable PickUpRates => InForce(new DatedTable<StepTable>("pick-up-rates").From(2022, new StepTable(
        "fixed monthly rate by engine size, pick-up or panel van", "Prescribed rates under ITA s. 5(2B)", Likely,
        (1_750, 3_600), (null, 4_200))));

    /// <summary>Fixed monthly rate of a four-wheel utility vehicle.</summary>
    public Parameter UtilityRate => InForce(Money("utility-rate", "fixed monthly rate, four-wheel utility vehicle", "Prescribed rates under ITA s. 5(2B)")
        .From(2022, 7_200, Likely));

    /// <summary>Part of pay that housing is worth at least.</summary>
    public Parameter HousingShare => InForce(Percent("housing-share", "part of pay and benefits", "ITA s. 5(3)")
        .From(2022, 15, Likely, "Beside a fair market rent, whether the 15 per cent applies is unsure.")
        .From(2023, 15, Certain, "Beside a fair market rent, whether the 15 per cent applies is unsure."));

    /// <summary>The same for an agricultural employee required to live on the farm.</summary>
    public Parameter HousingShareAgricultural => InForce(Percent("housing-share-agricultural", "part of pay and benefits, agricultural employee", "ITA s. 5(3)(c)")
        .From(2022, 10, Likely)
        .From(2023, 10, Certain));

    /// <summary>Minor benefits below this total are exempt; from it on, all of them are taxable.</summary>
    public Parameter MinorBenefitsLimit => InForce(Money("minor-benefits-limit", "minor benefits exempt below", "ITA s. 5(2)(b); TLAA 2024")
        .From(2022, 36_000, Certain, "A total of exactly this amount is taxable: likely.", source: "ITA s. 5(2)(b)")
        .From(2024, 36_000, Unsure, "Raised on 27 December 2024; the figure for 2024 as a whole is unsure.", source: "ITA s. 5(2)(b)")
        .From(2025, 60_000, Certain, "A total of exactly this amount is taxable: likely."));

    /// <summary>Minor benefits exempt below this total in the year it was raised, where the new figure is read as that of the whole year.</summary>
    public Parameter? MinorBenefitsLimitRaised => InForceOrNone(Money("minor-benefits-limit-raised", "minor benefits exempt below, from 27 December {year}", "ITA s. 5(2)(b); TLAA 2024")
        .For(2024, 60_000, Unsure, "Whether it holds for 2024 as a whole is unsure."));

    /// <summary>Part of the cost of furniture that counts for a month.</summary>
    public Parameter FurnitureRate => InForce(Percent("furniture-rate", "part of the cost of furniture for a month", "Prescribed rates under ITA s. 5(2)")
        .From(2022, 1, Likely));

    /// <summary>Part of the telephone bill that counts as private.</summary>
    public Parameter TelephoneShare => InForce(Percent("telephone-share", "part of the telephone bill", "Prescribed rates under ITA s. 5(2)")
        .From(2022, 30, Likely));

    /// <summary>Electricity from the employer's own or a communal supply, least for a month.</summary>
    public Parameter ElectricityMonth => InForce(Money("electricity-month", "electricity for a month", "Prescribed rates under ITA s. 5(2)")
        .From(2022, 1_500, Likely));

    /// <summary>The same for an agricultural employee.</summary>
    public Parameter ElectricityMonthAgricultural => InForce(Money("electricity-month-agricultural", "electricity for a month, agricultural employee", "Prescribed rates under ITA s. 5(2)")
        .From(2022, 900, Likely));

    /// <summary>Water from the employer's own or a communal supply, least for a month.</summary>
    public Parameter WaterMonth => InForce(Money("water-month", "water for a month", "Prescribed rates under ITA s. 5(2)")
        .From(2022, 500, Likely));

    /// <summary>The same for an agricultural employee.</summary>
    public Parameter WaterMonthAgricultural => InForce(Money("water-month-agricultural", "water for a month, agricultural employee", "Prescribed rates under ITA s. 5(2)")
        .From(2022, 200, Likely));

    /// <summary>Meals provided by employers, exempt up to this amount for the year.</summary>
    public Parameter MealsExempt => InForce(Money("meals-exempt", "meals exempt up to, for the year", "ITA s. 5(4)(f)")
        .From(2022, 48_000, Likely)
        .From(2025, 60_000, Likely, source: "ITA s. 5(4)(f); TLAA 2024"));

    /// <summary>What is paid for a day of travel on duty and taken to be spent on it.</summary>
    public Parameter SubsistenceDay => InForce(Money("subsistence-day", "travel on duty, repaid for a day", "ITA s. 5(2)(a)")
        .From(2022, 2_000, Likely)
        .From(2025, 2_000, Likely, label: "travel on duty, repaid for a day to June {year}"));

    /// <summary>The same from 1 July, in the year it was raised.</summary>
    public Parameter? SubsistenceDayFromJuly => InForceOrNone(Money("subsistence-day-from-july", "travel on duty, repaid for a day from 1 July {year}", "ITA s. 5(2)(a); Finance Act 2025")
        .For(2025, 10_000, Likely));

    // Disability

    /// <summary>Income exempt for a person holding an exemption certificate, one month.</summary>
    public Parameter DisabilityExemptionMonth => InForce(Money(
            "disability-exemption-month", "income exempt for a month", "Persons with Disabilities (Income Tax Deductions and Exemptions) Order 2010, L.N. 36/2010")
        .From(2022, 150_000, Likely)
        .From(2023, 150_000, Certain));

    /// <summary>Limit of home and personal care deducted, one month.</summary>
    public Parameter CareLimitMonth => InForce(Money("care-limit-month", "limit of home and personal care for a month", "L.N. 36/2010")
        .From(2022, 50_000, Likely));

    // Dates and charges

    /// <summary>Day by which the balance is to be paid.</summary>
    public Deadline Payment => new("payment", "Balance of tax to be paid", new DateOnly(Year + 1, 4, 30), "ITA s. 92", Certain);

    /// <summary>Day by which the return is to be filed.</summary>
    public Deadline Filing => new("filing", "Return to be filed", new DateOnly(Year + 1, 6, 30), "ITA s. 52B", Certain);

    /// <summary>Late filing, share of the tax payable under the return.</summary>
    public Parameter LateFilingRate => InForce(Percent("late-filing-rate", "late filing, part of the tax payable", "TPA s. 83(1)")
        .From(2022, 5, Likely));

    /// <summary>Late filing, least amount.</summary>
    public Parameter LateFilingLeast => InForce(Money("late-filing-least", "late filing, least amount", "TPA s. 83(1)")
        .From(2022, 2_000, Certain));

    /// <summary>Late payment, share of the unpaid tax.</summary>
    public Parameter LatePaymentRate => InForce(Percent("late-payment-rate", "late payment, part of the unpaid tax", "TPA s. 83A")
        .From(2022, 5, Certain));

    /// <summary>Late payment interest for each month begun.</summary>
    public Parameter InterestRateMonth => InForce(Percent("interest-rate-month", "interest for a month", "TPA s. 38")
        .From(2022, 1, Certain));
}
