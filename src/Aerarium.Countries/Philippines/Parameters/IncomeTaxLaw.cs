using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;
using static Aerarium.Core.Definitions.Figure;

namespace Aerarium.Countries.Philippines.Parameters;

/// <summary>
/// The figures of the law for the returns of an individual, each with its history by taxable year, the calendar year.
/// Amounts in Philippine pesos. National Internal Revenue Code of 1997 as amended is NIRC; RA 10963 is TRAIN; RA 11976, in
/// force 22 January 2024, is EOPT; Revenue Regulations are RR. All from memory of the statutes; the confidence says how far
/// each may be relied on.
/// </summary>
public sealed class IncomeTaxLaw : LawInForce
{
    private IncomeTaxLaw(int year)
        : base(year)
    {
    }

    /// <summary>The years covered, from the first of TRAIN: quarterly returns and lists of tax withheld.</summary>
    public static readonly IReadOnlyList<int> Years = [.. Enumerable.Range(2018, 9)];

    /// <summary>The years of annual returns: those that have ended.</summary>
    public static readonly IReadOnlyList<int> AnnualYears = [.. Years.SkipLast(1)];

    /// <summary>The law of a year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public static IncomeTaxLaw For(int year) => Years.Contains(year)
        ? new IncomeTaxLaw(year)
        : throw new ArgumentOutOfRangeException(nameof(year), year, $"Philippines, returns of individuals cover {Years[0]} to {Years[^1]}.");

    /// <summary>The graduated table.</summary>
    public RateSchedule Table => InForce(new DatedTable<RateSchedule>("graduated-table")
        .From(2018, new RateSchedule(
            "graduated table", "NIRC s. 24(A)(2)(a), TRAIN, 2018 to 2022", Certain,
            (250_000, 0), (150_000, 20), (400_000, 25), (1_200_000, 30), (6_000_000, 32), (null, 35)))
        .From(2023, new RateSchedule(
            "graduated table", "NIRC s. 24(A)(2)(a), TRAIN, from 2023", Certain,
            (250_000, 0), (150_000, 15), (400_000, 20), (1_200_000, 25), (6_000_000, 30), (null, 35))));

    /// <summary>Ceiling of benefits that are exempt, one for all employers together.</summary>
    public Parameter BenefitsExempt => InForce(Money("benefits-exempt", "exempt benefits, ceiling", "NIRC s. 32(B)(7)(e), TRAIN")
        .From(2018, 90_000, Certain));

    /// <summary>The rate on gross sales or receipts.</summary>
    public Parameter EightPerCent => InForce(Percent("eight-per-cent", "rate on sales and receipts", "NIRC s. 24(A)(2)(b), (c); RR 8-2018")
        .From(2018, 8, Certain));

    /// <summary>What is taken off sales and receipts first, for the purely self-employed.</summary>
    public Parameter EightPerCentReduction => InForce(Money("eight-per-cent-reduction", "reduction of sales and receipts", "NIRC s. 24(A)(2)(b); RR 8-2018")
        .From(2018, 250_000, Certain));

    /// <summary>Up to which gross sales and receipts that rate is open.</summary>
    public Parameter EightPerCentCeiling => InForce(Money("eight-per-cent-ceiling", "ceiling of sales and receipts", "NIRC s. 24(A)(2)(b), 109(BB)")
        .From(2018, 3_000_000, Certain));

    /// <summary>The tax on gross sales of who is not registered for value-added tax and has not chosen 8%; filed by quarters, and counted where choices are compared.</summary>
    public Parameter PercentageTax => InForce(Percent("percentage-tax", "percentage tax on gross sales", "NIRC s. 116; RA 11534 (CREATE) s. 13")
        .From(2018, 3, Certain).From(2020, 1, Certain).From(2023, 3, Certain));

    /// <summary>The same until 30 June of the year; its rate changed on 1 July 2020 and on 1 July 2023.</summary>
    public Parameter PercentageTaxToJune => InForce(Percent("percentage-tax-to-june", "percentage tax on gross sales until 30 June", "NIRC s. 116; RA 11534 (CREATE) s. 13")
        .From(2018, 3, Certain).From(2021, 1, Certain).From(2024, 3, Certain));

    /// <summary>Whether services are taxed by their sales, on invoice, and no longer by receipts (EOPT; the first period is likely).</summary>
    public bool ServicesBySales => Year >= 2024;

    /// <summary>The percentage tax on the gross sales of a quarter.</summary>
    public Parameter PercentageTaxOf(int quarter) => PercentageTaxChangesInJuly && quarter <= 2 ? PercentageTaxToJune : PercentageTax;

    /// <summary>Whether the rate of the percentage tax changed in the middle of the year (RA 11534 (CREATE) s. 13: 1% from 1 July 2020 to 30 June 2023).</summary>
    public bool PercentageTaxChangesInJuly => Year is 2020 or 2023;

    /// <summary>The optional standard deduction.</summary>
    public Parameter StandardDeduction => InForce(Percent("standard-deduction", "optional standard deduction", "NIRC s. 34(L); RR 16-2008")
        .From(2018, 40, Certain));

    /// <summary>Entertainment: part of net sales of goods.</summary>
    public Parameter EntertainmentGoods => InForce(Percent("entertainment-goods", "entertainment, part of net sales of goods", "RR 10-2002")
        .From(2018, 0.5m, Certain));

    /// <summary>Entertainment: part of net revenue of services.</summary>
    public Parameter EntertainmentServices => InForce(Percent("entertainment-services", "entertainment, part of net revenue of services", "RR 10-2002")
        .From(2018, 1, Certain));

    /// <summary>By how much of interest income under final tax an interest expense is cut.</summary>
    public Parameter InterestCut => InForce(Percent("interest-cut", "interest cut, part of interest under final tax", "NIRC s. 34(B)(1), CREATE")
        .From(2018, 33, Likely)
        .From(2020, 20, Likely));

    /// <summary>The same of interest income until 30 June of the year; the part changed on 1 July 2020.</summary>
    public Parameter InterestCutToJune => InForce(Percent("interest-cut-to-june", "interest cut, part of interest under final tax until 30 June", "NIRC s. 34(B)(1)")
        .From(2018, 33, Likely)
        .For(2020, 33, Unsure, "That each half of {year} has its own part, by the day the interest was received, is unsure.")
        .From(2021, 20, Likely));

    /// <summary>Whether the part by which interest is cut changed in the middle of the year (CREATE, on 1 July 2020).</summary>
    public bool InterestCutChangesInJuly => Year == 2020;

    /// <summary>Contributions with a limit: part of business income before them.</summary>
    public Parameter ContributionsLimit => InForce(Percent("contributions-limit", "contributions, part of income before them", "NIRC s. 34(H)(1)")
        .From(2018, 10, Certain, "Taken before loss carry-over and special deductions: unsure."));

    /// <summary>Whether an expense subject to withholding is deducted only where tax was withheld: until the Ease of Paying Taxes Act, in force 22 January 2024.</summary>
    public bool WithholdingIsACondition => Year <= 2023;

    /// <summary>What is deducted of the pay of senior citizens besides the pay itself.</summary>
    public Parameter SeniorPayExtra => InForce(Percent("senior-pay-extra", "additional deduction for the pay of senior citizens", "RA 9994")
        .From(2018, 15, Likely));

    /// <summary>What is deducted of the pay of persons with disability besides the pay itself.</summary>
    public Parameter DisabledPayExtra => InForce(Percent("disabled-pay-extra", "additional deduction for the pay of persons with disability", "RA 7277")
        .From(2018, 25, Likely));

    /// <summary>Limit of free legal assistance, part of professional receipts.</summary>
    public Parameter LegalAidShare => InForce(Percent("legal-aid-share", "free legal assistance, part of professional receipts", "RA 9999")
        .From(2018, 10, Likely));

    /// <summary>What is deducted of contributions to adopted schools besides the contribution itself.</summary>
    public Parameter SchoolGiftsExtra => InForce(Percent("school-gifts-extra", "additional deduction for contributions to adopted schools", "RA 8525")
        .From(2018, 50, Likely));

    /// <summary>Above which tax due it may be paid in two parts.</summary>
    public Parameter InstalmentFrom => InForce(Money("instalment-from", "tax due above which two parts are allowed", "NIRC s. 56(A)(2)")
        .From(2018, 2_000, Certain));

    /// <summary>The most that may be left for the second part.</summary>
    public Parameter InstalmentShare => InForce(Percent("instalment-share", "second part, most of the tax due", "NIRC s. 56(A)(2); the form")
        .From(2018, 50, Likely));

    /// <summary>Surcharge for filing or paying late, in full and for micro and small taxpayers.</summary>
    public Parameter Surcharge => InForce(Percent("surcharge", "surcharge", "NIRC s. 248")
        .From(2018, 25, Certain));

    /// <summary>Surcharge for wilful neglect to file, or for a false or fraudulent return.</summary>
    public Parameter SurchargeWilful => InForce(Percent("surcharge-wilful", "surcharge for wilful neglect", "NIRC s. 248(B)")
        .From(2018, 50, Certain));

    /// <summary>Surcharge of micro and small taxpayers.</summary>
    public Parameter SurchargeSmall => InForce(Percent("surcharge-small", "surcharge of micro and small taxpayers", "EOPT; RR 6-2024")
        .From(2018, 25, Unsure, "Whether a return of {year} paid now has the lower rate of micro and small taxpayers is unsure; the full rate is used.", label: "surcharge", source: "NIRC s. 248")
        .From(2024, 10, Certain));

    /// <summary>Interest a year on the unpaid tax.</summary>
    public Parameter Interest => InForce(Percent("interest", "interest a year", "NIRC s. 249")
        .From(2018, 12, Certain));

    /// <summary>Interest of micro and small taxpayers.</summary>
    public Parameter InterestSmall => InForce(Percent("interest-small", "interest a year of micro and small taxpayers", "EOPT; RR 6-2024")
        .From(2018, 12, Unsure, "Whether a return of {year} paid now has the lower rate of micro and small taxpayers is unsure; the full rate is used.", label: "interest a year", source: "NIRC s. 249")
        .From(2024, 6, Certain));

    /// <summary>Following years in which a loss may be used.</summary>
    public Parameter LossYears => InForce(Number("loss-years", "years a loss may be used", "NIRC s. 34(D)(3)")
        .From(2018, 3, Certain, "For individuals: likely."));

    /// <summary>The same for losses of 2020 and 2021.</summary>
    public Parameter LossYearsOf2020And2021 => InForce(Number("loss-years-of-2020-and-2021", "years a loss of 2020 or 2021 may be used", "RA 11494; RR 25-2020")
        .From(2021, 5, Certain, "For individuals: likely."));

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

    /// <summary>Day by which the percentage tax of a quarter is filed and paid: the 25th day after the quarter, or the working day after it.</summary>
    public Deadline OfPercentageTax(int quarter, string act) => new(
        act,
        act == "payment" ? "Percentage tax to be paid" : "Percentage tax return to be filed",
        PhilippinesHolidays.Calendar.WorkingDayOnOrAfter(new DateOnly(Year, 3 * quarter, 1).AddMonths(1).AddDays(24)),
        "NIRC s. 128(A)",
        Certain);
}
