using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;

namespace Aerarium.Countries.Philippines.Parameters;

/// <summary>
/// The figures of the law for the annual return of an individual: one record per taxable year, the calendar year.
/// Amounts in Philippine pesos. National Internal Revenue Code of 1997 as amended is NIRC; RA 10963 is TRAIN; RA 11976, in
/// force 22 January 2024, is EOPT; Revenue Regulations are RR. All from memory of the statutes; the confidence says how far
/// each may be relied on.
/// </summary>
public sealed record IncomeTaxLaw
{
    /// <summary>Taxable year.</summary>
    public required int Year { get; init; }

    /// <summary>The graduated table.</summary>
    public required RateSchedule Table { get; init; }

    /// <summary>Ceiling of benefits that are exempt, one for all employers together.</summary>
    public Parameter BenefitsExempt { get; init; } = Parameter.Money("exempt benefits, ceiling", 90_000, "NIRC s. 32(B)(7)(e), TRAIN", Certain);

    /// <summary>The rate on gross sales or receipts.</summary>
    public Parameter EightPerCent { get; init; } = Parameter.Percent("rate on sales and receipts", 8, "NIRC s. 24(A)(2)(b), (c); RR 8-2018", Certain);

    /// <summary>What is taken off sales and receipts first, for the purely self-employed.</summary>
    public Parameter EightPerCentReduction { get; init; } = Parameter.Money("reduction of sales and receipts", 250_000, "NIRC s. 24(A)(2)(b); RR 8-2018", Certain);

    /// <summary>Up to which gross sales and receipts that rate is open.</summary>
    public Parameter EightPerCentCeiling { get; init; } = Parameter.Money("ceiling of sales and receipts", 3_000_000, "NIRC s. 24(A)(2)(b), 109(BB)", Certain);

    /// <summary>The optional standard deduction.</summary>
    public Parameter StandardDeduction { get; init; } = Parameter.Percent("optional standard deduction", 40, "NIRC s. 34(L); RR 16-2008", Certain);

    /// <summary>Entertainment: part of net sales of goods.</summary>
    public Parameter EntertainmentGoods { get; init; } = Parameter.Percent("entertainment, part of net sales of goods", 0.5m, "RR 10-2002", Certain);

    /// <summary>Entertainment: part of net revenue of services.</summary>
    public Parameter EntertainmentServices { get; init; } = Parameter.Percent("entertainment, part of net revenue of services", 1, "RR 10-2002", Certain);

    /// <summary>By how much of interest income under final tax an interest expense is cut.</summary>
    public Parameter InterestCut { get; init; } = Parameter.Percent("interest cut, part of interest under final tax", 20, "NIRC s. 34(B)(1), CREATE", Likely);

    /// <summary>Contributions with a limit: part of business income before them.</summary>
    public Parameter ContributionsLimit { get; init; } = Parameter.Percent(
        "contributions, part of income before them", 10, "NIRC s. 34(H)(1)", Certain, "Taken before loss carry-over and special deductions: unsure.");

    /// <summary>Above which tax due it may be paid in two parts.</summary>
    public Parameter InstalmentFrom { get; init; } = Parameter.Money("tax due above which two parts are allowed", 2_000, "NIRC s. 56(A)(2)", Certain);

    /// <summary>The most that may be left for the second part.</summary>
    public Parameter InstalmentShare { get; init; } = Parameter.Percent("second part, most of the tax due", 50, "NIRC s. 56(A)(2); the form", Likely);

    /// <summary>Surcharge for filing or paying late, in full and for micro and small taxpayers.</summary>
    public Parameter Surcharge { get; init; } = Parameter.Percent("surcharge", 25, "NIRC s. 248", Certain);

    /// <summary>Surcharge of micro and small taxpayers.</summary>
    public required Parameter SurchargeSmall { get; init; }

    /// <summary>Interest a year on the unpaid tax.</summary>
    public Parameter Interest { get; init; } = Parameter.Percent("interest a year", 12, "NIRC s. 249", Certain);

    /// <summary>Interest of micro and small taxpayers.</summary>
    public required Parameter InterestSmall { get; init; }

    /// <summary>Following years in which a loss may be used.</summary>
    public Parameter LossYears { get; init; } = Parameter.Number("years a loss may be used", 3, "NIRC s. 34(D)(3)", Certain, "For individuals: likely.");

    /// <summary>The same for losses of 2020 and 2021.</summary>
    public Parameter LossYearsOf2020And2021 { get; init; } = Parameter.Number("years a loss of 2020 or 2021 may be used", 5, "RA 11494; RR 25-2020", Certain, "For individuals: likely.");

    /// <summary>Day by which the return is filed and the first part paid: 15 April, or the working day after it.</summary>
    public Deadline Filing => new(
        "filing", "Return to be filed", PhilippinesHolidays.Calendar.WorkingDayOnOrAfter(new DateOnly(Year + 1, 4, 15)), "NIRC s. 51(C)", Certain);

    /// <summary>The same day for paying.</summary>
    public Deadline Payment => new(
        "payment", "Tax, or its first part, to be paid", PhilippinesHolidays.Calendar.WorkingDayOnOrAfter(new DateOnly(Year + 1, 4, 15)), "NIRC s. 56(A)(1)", Certain);

    /// <summary>Day by which the second part is paid: 15 October, or the working day after it.</summary>
    public Deadline SecondPart => new(
        "second-payment", "Second part to be paid", PhilippinesHolidays.Calendar.WorkingDayOnOrAfter(new DateOnly(Year + 1, 10, 15)), "NIRC s. 56(A)(2)", Certain);

    /// <summary>Day by which a quarter's return is filed and paid: the 15th of May, August or November, or the working day after it. The fourth quarter is in the annual return.</summary>
    public Deadline OfQuarter(int quarter, string act) => new(
        act,
        act == "payment" ? "Tax of the quarter to be paid" : "Quarterly return to be filed",
        PhilippinesHolidays.Calendar.WorkingDayOnOrAfter(new DateOnly(Year, (3 * quarter) + 2, 15)),
        "NIRC s. 74",
        Certain);

    /// <summary>The years covered.</summary>
    public static readonly IReadOnlyList<int> Years = [2021, 2024, 2025];

    /// <summary>The record of a year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public static IncomeTaxLaw For(int year) => year switch
    {
        2021 => Of2021,
        2024 => Of2024,
        2025 => Of2024 with { Year = 2025 },
        _ => throw new ArgumentOutOfRangeException(nameof(year), year, "Philippines, annual return of individuals covers 2021, 2024 and 2025."),
    };

    private static readonly RateSchedule TableTo2022 = new(
        "graduated table", "NIRC s. 24(A)(2)(a), TRAIN, 2018 to 2022", Certain,
        (250_000, 0), (150_000, 20), (400_000, 25), (1_200_000, 30), (6_000_000, 32), (null, 35));

    private static readonly RateSchedule TableFrom2023 = new(
        "graduated table", "NIRC s. 24(A)(2)(a), TRAIN, from 2023", Certain,
        (250_000, 0), (150_000, 15), (400_000, 20), (1_200_000, 25), (6_000_000, 30), (null, 35));

    private static readonly IncomeTaxLaw Of2021 = new()
    {
        Year = 2021,
        Table = TableTo2022,
        SurchargeSmall = Parameter.Percent("surcharge", 25, "NIRC s. 248", Unsure, "Whether a return of 2021 paid now has the lower rate of micro and small taxpayers is unsure; the full rate is used."),
        InterestSmall = Parameter.Percent("interest a year", 12, "NIRC s. 249", Unsure, "Whether a return of 2021 paid now has the lower rate of micro and small taxpayers is unsure; the full rate is used."),
    };

    private static readonly IncomeTaxLaw Of2024 = new()
    {
        Year = 2024,
        Table = TableFrom2023,
        SurchargeSmall = Parameter.Percent("surcharge of micro and small taxpayers", 10, "EOPT; RR 6-2024", Certain),
        InterestSmall = Parameter.Percent("interest a year of micro and small taxpayers", 6, "EOPT; RR 6-2024", Certain),
    };
}
