using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;

namespace Aerarium.Countries.Kenya.Parameters;

/// <summary>
/// The figures of the law for the return of a resident individual with employment income: one record per year of
/// income. Amounts in Kenya shillings. Income Tax Act (Cap. 470) is ITA; Tax Procedures Act, 2015 is TPA; Tax Laws
/// (Amendment) Act, 2024, in force 27 December 2024, is TLAA 2024; Affordable Housing Act, 2024 is AHA. All from memory
/// of the statutes; the confidence says how far each may be relied on.
/// </summary>
public sealed record EmploymentIncomeLaw
{
    /// <summary>Year of income: the calendar year (ITA s. 2).</summary>
    public required int Year { get; init; }

    /// <summary>
    /// Whether the rules changed during the year, with the December payroll: 2024 only. Then limits are counted per
    /// month before and after, and contributions are split.
    /// </summary>
    public required bool ChangesInDecember { get; init; }

    // Tax and reliefs

    /// <summary>Annual bands of tax, resident individual.</summary>
    public required RateSchedule Bands { get; init; }

    /// <summary>Personal relief for a full year.</summary>
    public required Parameter PersonalRelief { get; init; }

    /// <summary>Personal relief for one month of a shorter period.</summary>
    public required Parameter PersonalReliefMonth { get; init; }

    /// <summary>Rate of insurance relief.</summary>
    public required Parameter InsuranceReliefRate { get; init; }

    /// <summary>Limit of insurance relief for the year.</summary>
    public required Parameter InsuranceReliefLimit { get; init; }

    /// <summary>Rate of affordable housing relief, in years that have it.</summary>
    public Parameter? HousingReliefRate { get; init; }

    /// <summary>Limit of affordable housing relief, in years that have it.</summary>
    public Parameter? HousingReliefLimit { get; init; }

    /// <summary>Rate of post-retirement medical fund relief, in years that have it.</summary>
    public Parameter? MedicalReliefRate { get; init; }

    /// <summary>Limit of post-retirement medical fund relief, in years that have it.</summary>
    public Parameter? MedicalReliefLimit { get; init; }

    // Deductions

    /// <summary>Part of pensionable pay that may be contributed.</summary>
    public required Parameter PensionShare { get; init; }

    /// <summary>Limit of own retirement contributions for the year.</summary>
    public required Parameter PensionLimit { get; init; }

    /// <summary>The same for one month.</summary>
    public required Parameter PensionLimitMonth { get; init; }

    /// <summary>The same for one month before the change in December, in the year it changed.</summary>
    public Parameter? PensionLimitMonthBefore { get; init; }

    /// <summary>Limit of interest on the loan for one's home, for the year.</summary>
    public required Parameter MortgageLimit { get; init; }

    /// <summary>The same for one month.</summary>
    public required Parameter MortgageLimitMonth { get; init; }

    /// <summary>The same for one month before the change in December, in the year it changed.</summary>
    public Parameter? MortgageLimitMonthBefore { get; init; }

    /// <summary>Whether a loan to build one's home qualifies.</summary>
    public required bool ConstructionQualifies { get; init; }

    /// <summary>Limit of post-retirement medical fund contributions deducted, one month.</summary>
    public required Parameter MedicalLimitMonth { get; init; }

    /// <summary>The same for the year.</summary>
    public required Parameter MedicalLimit { get; init; }

    /// <summary>Part of an employee's pay taken as affordable housing levy; used to question a certificate, never to compute one.</summary>
    public required Parameter LevyRate { get; init; }

    /// <summary>Part of an employee's pay taken as social health insurance; used to question a certificate.</summary>
    public required Parameter HealthInsuranceRate { get; init; }

    /// <summary>Least social health insurance contribution for a month; used to question a certificate.</summary>
    public required Parameter HealthInsuranceLeastMonth { get; init; }

    // Benefits in kind

    /// <summary>Part of the car's cost that counts for a month.</summary>
    public required Parameter CarCostRate { get; init; }

    /// <summary>Fixed monthly rate of a saloon, hatchback or estate by engine size.</summary>
    public required StepTable SaloonRates { get; init; }

    /// <summary>Fixed monthly rate of a pick-up or panel van by engine size.</summary>
    public required StepTable PickUpRates { get; init; }

    /// <summary>Fixed monthly rate of a four-wheel utility vehicle.</summary>
    public required Parameter UtilityRate { get; init; }

    /// <summary>Part of pay that housing is worth at least.</summary>
    public required Parameter HousingShare { get; init; }

    /// <summary>The same for an agricultural employee required to live on the farm.</summary>
    public required Parameter HousingShareAgricultural { get; init; }

    /// <summary>Minor benefits below this total are exempt; from it on, all of them are taxable.</summary>
    public required Parameter MinorBenefitsLimit { get; init; }

    // Disability

    /// <summary>Income exempt for a person holding an exemption certificate, one month.</summary>
    public required Parameter DisabilityExemptionMonth { get; init; }

    /// <summary>Limit of home and personal care deducted, one month.</summary>
    public required Parameter CareLimitMonth { get; init; }

    // Dates and charges

    /// <summary>Day by which the balance is to be paid.</summary>
    public required Deadline Payment { get; init; }

    /// <summary>Day by which the return is to be filed.</summary>
    public required Deadline Filing { get; init; }

    /// <summary>Late filing, share of the tax payable under the return.</summary>
    public required Parameter LateFilingRate { get; init; }

    /// <summary>Late filing, least amount.</summary>
    public required Parameter LateFilingLeast { get; init; }

    /// <summary>Late payment, share of the unpaid tax.</summary>
    public required Parameter LatePaymentRate { get; init; }

    /// <summary>Late payment interest for each month begun.</summary>
    public required Parameter InterestRateMonth { get; init; }

    /// <summary>The years covered.</summary>
    public static readonly IReadOnlyList<int> Years = [2024, 2025];

    /// <summary>The record of a year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public static EmploymentIncomeLaw For(int year) => year switch
    {
        2024 => IncomeOf2024,
        2025 => IncomeOf2025,
        _ => throw new ArgumentOutOfRangeException(nameof(year), year, "Kenya, employment income covers the years of income 2024 and 2025."),
    };

    private static readonly RateSchedule BandsFromJuly2023 = new(
        "bands of tax",
        "ITA s. 34, Third Schedule Head B para. 1; TLAA (No. 2) 2020; Finance Act 2023",
        Certain,
        (288_000, 10),
        (100_000, 25),
        (5_612_000, 30),
        (3_600_000, 32.5m),
        (null, 35));

    private static readonly StepTable PrescribedSaloonRates = new(
        "fixed monthly rate by engine size, saloon, hatchback or estate",
        "Prescribed rates under ITA s. 5(2B)",
        Likely,
        (1_200, 3_600),
        (1_500, 4_200),
        (1_750, 5_800),
        (2_000, 7_200),
        (3_000, 8_600),
        (null, 14_400));

    private static readonly StepTable PrescribedPickUpRates = new(
        "fixed monthly rate by engine size, pick-up or panel van",
        "Prescribed rates under ITA s. 5(2B)",
        Likely,
        (1_750, 3_600),
        (null, 4_200));

    private static readonly EmploymentIncomeLaw IncomeOf2024 = new()
    {
        Year = 2024,
        ChangesInDecember = true,

        Bands = BandsFromJuly2023,
        PersonalRelief = Parameter.Money("personal relief for the year", 28_800, "ITA s. 30, Third Schedule Head A", Certain),
        PersonalReliefMonth = Parameter.Money("personal relief for a month", 2_400, "ITA s. 30, Third Schedule Head A", Unsure, "Counting months of a shorter period is not settled."),
        InsuranceReliefRate = Parameter.Percent("rate of insurance relief", 15, "ITA s. 31", Certain),
        InsuranceReliefLimit = Parameter.Money("limit of insurance relief", 60_000, "ITA s. 31", Certain),
        HousingReliefRate = Parameter.Percent("rate of affordable housing relief", 15, "ITA s. 30A; AHA 2024; repealed by TLAA 2024", Certain, "Levy paid 19 March to the November payroll: likely."),
        HousingReliefLimit = Parameter.Money("limit of affordable housing relief", 108_000, "ITA s. 30A; AHA 2024", Certain),
        MedicalReliefRate = Parameter.Percent("rate of post-retirement medical fund relief", 15, "ITA s. 30B, Finance Act 2023; repealed by TLAA 2024", Likely),
        MedicalReliefLimit = Parameter.Money("limit of post-retirement medical fund relief", 60_000, "ITA s. 30B, Finance Act 2023", Likely),

        PensionShare = Parameter.Percent("part of pensionable pay", 30, "ITA s. 22A", Certain),
        PensionLimit = Parameter.Money("limit for the year 2024", 250_000, "ITA s. 22A, 22B; TLAA 2024", Unsure, "20,000 a month to November and 30,000 for December; other readings are 240,000 and 360,000."),
        PensionLimitMonth = Parameter.Money("limit for December 2024", 30_000, "ITA s. 22A, 22B; TLAA 2024", Likely),
        PensionLimitMonthBefore = Parameter.Money("limit a month to November 2024", 20_000, "ITA s. 22A, 22B", Certain),
        MortgageLimit = Parameter.Money("limit for the year 2024", 305_000, "ITA s. 15(3)(b); TLAA 2024", Unsure, "25,000 a month to November and 30,000 for December; other readings are 300,000 and 360,000."),
        MortgageLimitMonth = Parameter.Money("limit for December 2024", 30_000, "ITA s. 15(3)(b); TLAA 2024", Likely),
        MortgageLimitMonthBefore = Parameter.Money("limit a month to November 2024", 25_000, "ITA s. 15(3)(b)", Certain),
        ConstructionQualifies = false,
        MedicalLimitMonth = Parameter.Money("limit for December 2024", 15_000, "ITA s. 15; TLAA 2024", Likely),
        MedicalLimit = Parameter.Money("limit for the year 2024", 15_000, "ITA s. 15; TLAA 2024", Likely, "Contributions of December only."),
        LevyRate = Parameter.Percent("affordable housing levy, part of gross pay", 1.5m, "AHA 2024 s. 4", Certain),
        HealthInsuranceRate = Parameter.Percent("social health insurance, part of gross pay", 2.75m, "Social Health Insurance Act 2023, regulations", Certain),
        HealthInsuranceLeastMonth = Parameter.Money("least social health insurance contribution a month", 300, "Social Health Insurance Act 2023, regulations", Certain),

        CarCostRate = Parameter.Percent("part of the car's cost for a month", 2, "ITA s. 5(2B)", Certain),
        SaloonRates = PrescribedSaloonRates,
        PickUpRates = PrescribedPickUpRates,
        UtilityRate = Parameter.Money("fixed monthly rate, four-wheel utility vehicle", 7_200, "Prescribed rates under ITA s. 5(2B)", Likely),
        HousingShare = Parameter.Percent("part of pay and benefits", 15, "ITA s. 5(3)", Certain, "Beside a fair market rent, whether the 15 per cent applies is unsure."),
        HousingShareAgricultural = Parameter.Percent("part of pay and benefits, agricultural employee", 10, "ITA s. 5(3)(c)", Certain),
        MinorBenefitsLimit = Parameter.Money("minor benefits exempt below", 36_000, "ITA s. 5(2)(b)", Unsure, "Raised on 27 December 2024; the figure for 2024 as a whole is unsure."),

        DisabilityExemptionMonth = Parameter.Money("income exempt for a month", 150_000, "Persons with Disabilities (Income Tax Deductions and Exemptions) Order 2010, L.N. 36/2010", Certain),
        CareLimitMonth = Parameter.Money("limit of home and personal care for a month", 50_000, "L.N. 36/2010", Likely),

        Payment = new Deadline("payment", "Balance of tax to be paid", new DateOnly(2025, 4, 30), "ITA s. 92", Certain),
        Filing = new Deadline("filing", "Return to be filed", new DateOnly(2025, 6, 30), "ITA s. 52B", Certain),
        LateFilingRate = Parameter.Percent("late filing, part of the tax payable", 5, "TPA s. 83(1)", Likely),
        LateFilingLeast = Parameter.Money("late filing, least amount", 2_000, "TPA s. 83(1)", Certain),
        LatePaymentRate = Parameter.Percent("late payment, part of the unpaid tax", 5, "TPA s. 83A", Certain),
        InterestRateMonth = Parameter.Percent("interest for a month", 1, "TPA s. 38", Certain),
    };

    private static readonly EmploymentIncomeLaw IncomeOf2025 = new()
    {
        Year = 2025,
        ChangesInDecember = false,

        Bands = BandsFromJuly2023,
        PersonalRelief = Parameter.Money("personal relief for the year", 28_800, "ITA s. 30, Third Schedule Head A", Certain),
        PersonalReliefMonth = Parameter.Money("personal relief for a month", 2_400, "ITA s. 30, Third Schedule Head A", Unsure, "Counting months of a shorter period is not settled."),
        InsuranceReliefRate = Parameter.Percent("rate of insurance relief", 15, "ITA s. 31", Certain),
        InsuranceReliefLimit = Parameter.Money("limit of insurance relief", 60_000, "ITA s. 31", Certain),

        PensionShare = Parameter.Percent("part of pensionable pay", 30, "ITA s. 22A", Certain),
        PensionLimit = Parameter.Money("limit for the year 2025", 360_000, "ITA s. 22A, 22B; TLAA 2024", Certain),
        PensionLimitMonth = Parameter.Money("limit for a month", 30_000, "ITA s. 22A, 22B; TLAA 2024", Certain),
        MortgageLimit = Parameter.Money("limit for the year 2025", 360_000, "ITA s. 15(3)(b); TLAA 2024", Certain),
        MortgageLimitMonth = Parameter.Money("limit for a month", 30_000, "ITA s. 15(3)(b); TLAA 2024", Certain),
        ConstructionQualifies = true,
        MedicalLimitMonth = Parameter.Money("limit for a month", 15_000, "ITA s. 15; TLAA 2024", Certain),
        MedicalLimit = Parameter.Money("limit for the year 2025", 180_000, "ITA s. 15; TLAA 2024", Certain),
        LevyRate = Parameter.Percent("affordable housing levy, part of gross pay", 1.5m, "AHA 2024 s. 4", Certain),
        HealthInsuranceRate = Parameter.Percent("social health insurance, part of gross pay", 2.75m, "Social Health Insurance Act 2023, regulations", Certain),
        HealthInsuranceLeastMonth = Parameter.Money("least social health insurance contribution a month", 300, "Social Health Insurance Act 2023, regulations", Certain),

        CarCostRate = Parameter.Percent("part of the car's cost for a month", 2, "ITA s. 5(2B)", Certain),
        SaloonRates = PrescribedSaloonRates,
        PickUpRates = PrescribedPickUpRates,
        UtilityRate = Parameter.Money("fixed monthly rate, four-wheel utility vehicle", 7_200, "Prescribed rates under ITA s. 5(2B)", Likely),
        HousingShare = Parameter.Percent("part of pay and benefits", 15, "ITA s. 5(3)", Certain, "Beside a fair market rent, whether the 15 per cent applies is unsure."),
        HousingShareAgricultural = Parameter.Percent("part of pay and benefits, agricultural employee", 10, "ITA s. 5(3)(c)", Certain),
        MinorBenefitsLimit = Parameter.Money("minor benefits exempt below", 60_000, "ITA s. 5(2)(b); TLAA 2024", Certain, "A total of exactly this amount is taxable: likely."),

        DisabilityExemptionMonth = Parameter.Money("income exempt for a month", 150_000, "Persons with Disabilities (Income Tax Deductions and Exemptions) Order 2010, L.N. 36/2010", Certain),
        CareLimitMonth = Parameter.Money("limit of home and personal care for a month", 50_000, "L.N. 36/2010", Likely),

        Payment = new Deadline("payment", "Balance of tax to be paid", new DateOnly(2026, 4, 30), "ITA s. 92", Certain),
        Filing = new Deadline("filing", "Return to be filed", new DateOnly(2026, 6, 30), "ITA s. 52B", Certain),
        LateFilingRate = Parameter.Percent("late filing, part of the tax payable", 5, "TPA s. 83(1)", Likely),
        LateFilingLeast = Parameter.Money("late filing, least amount", 2_000, "TPA s. 83(1)", Certain),
        LatePaymentRate = Parameter.Percent("late payment, part of the unpaid tax", 5, "TPA s. 83A", Certain),
        InterestRateMonth = Parameter.Percent("interest for a month", 1, "TPA s. 38", Certain),
    };
}
