using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;
using static Aerarium.Core.Definitions.Figure;

namespace Aerarium.Countries.Barbados.Parameters;

/// <summary>
/// The figures of the law for the return of a resident individual, each with its history by income year, the calendar year. Amounts in Barbados dollars.
/// Income Tax Act (Cap. 73) is ITA. All from memory of the statute; the confidence says how far each may be relied on. What is unsure is not computed from:
/// the preparer enters the amount, beside the figure as a hint.
/// </summary>
public sealed class IncomeTaxLaw : LawInForce
{
    private const string HalfYears = "The rates changed on 1 July; the mean of the two halves, for comparison only.";

    private IncomeTaxLaw(int year)
        : base(year)
    {
    }

    /// <summary>The years covered.</summary>
    public static readonly IReadOnlyList<int> Years = [2018, 2019, 2020, 2021, 2022, 2023, 2024, 2025];

    /// <summary>The law of a year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public static IncomeTaxLaw For(int year) => Years.Contains(year)
        ? new IncomeTaxLaw(year)
        : throw new ArgumentOutOfRangeException(nameof(year), year, "Barbados, resident individual covers the income years 2018 to 2025.");

    /// <summary>Whether the rates of the year are sure enough to compute the tax; in 2018 and 2019 they changed on 1 July, and the tax is entered.</summary>
    public bool ComputesTax => Year >= 2020;

    /// <summary>Whether allowances and credits are only assumed to be those of the year before.</summary>
    public bool AllowancesAreAssumed => Year >= 2025;

    // Rates

    /// <summary>Bands of tax on taxable income; before 2020 a mean that serves as a hint.</summary>
    public RateSchedule Bands => InForce(new DatedTable<RateSchedule>("bands")
        .From(2018, new RateSchedule("mean of the bands of 2018", $"ITA; 2018 budget. {HalfYears}", Unsure, (35_000, 16), (40_000, 33.5m), (null, 36.75m)))
        .From(2019, new RateSchedule("mean of the bands of 2019", $"ITA; budgets of 2018 and 2019. {HalfYears}", Unsure, (35_000, 14.25m), (15_000, 23), (25_000, 33.5m), (null, 36.75m)))
        .From(2020, new RateSchedule("bands of tax", "ITA, amendments of 2019", Certain, (50_000, 12.5m), (null, 28.5m))));

    /// <summary>Special rate on the rent of a residential property.</summary>
    public Parameter RentalRate => InForce(Percent("rental-rate", "special rate on residential rent", "ITA")
        .From(2018, 15, Likely, "Whether it is charged on the net or the gross rent is unsure."));

    // Allowances

    /// <summary>Personal allowance.</summary>
    public Parameter PersonalAllowance => InForce(Money("personal-allowance", "personal allowance", "ITA")
        .From(2018, 25_000, Certain)
        .From(2025, 25_000, Likely, "Assumed to be that of 2024."));

    /// <summary>Allowance of a person who receives a pension and has reached the age.</summary>
    public Parameter PensionerAllowance => InForce(Money("pensioner-allowance", "pensioner's allowance", "ITA")
        .From(2018, 40_000, Certain, "Whether it is limited to the pension received is unsure; it is not limited here.")
        .From(2025, 40_000, Unsure, "45,000 for 2025 was recalled once; confirm with the year's guide."));

    /// <summary>Age from which the pensioner's allowance is given.</summary>
    public Parameter PensionerAge => InForce(Number("pensioner-age", "age of a pensioner", "ITA")
        .From(2018, 60, Likely, "Reached by 31 December of the year: unsure."));

    /// <summary>Allowance for a spouse with little income; entered by the preparer.</summary>
    public Parameter SpouseAllowance => InForce(Money("spouse-allowance", "allowance for a spouse", "ITA")
        .From(2018, 3_000, Likely, "How the spouse's income reduces it is unsure: enter the amount allowed."));

    /// <summary>Income of a spouse above which the allowance is to be looked at.</summary>
    public Parameter SpouseIncomeTest => InForce(Money("spouse-income-test", "income of the spouse", "ITA")
        .From(2018, 800, Likely));

    /// <summary>Children for whom an allowance is given at most.</summary>
    public Parameter MostChildren => InForce(Number("most-children", "children at most", "ITA")
        .From(2018, 2, Unsure, "Whether the allowance is in force in each year is unsure: enter the amount allowed."));

    /// <summary>Age below which a child counts.</summary>
    public Parameter ChildAge => InForce(Number("child-age", "age of a child", "ITA")
        .From(2018, 18, Unsure));

    /// <summary>Age to which a child in education counts.</summary>
    public Parameter StudentAge => InForce(Number("student-age", "age of a child in education", "ITA")
        .From(2018, 25, Unsure));

    // Deductions

    /// <summary>Limit of energy-saving works for a year.</summary>
    public Parameter EnergyLimit => InForce(Money("energy-limit", "limit of energy-saving works for a year", "ITA, amendments")
        .From(2018, 10_000, Likely, "Which share of the cost counts is unsure: enter the deductible cost."));

    /// <summary>Years for which energy-saving works are deducted.</summary>
    public Parameter EnergyYears => InForce(Number("energy-years", "years of energy-saving works", "ITA, amendments")
        .From(2018, 5, Likely));

    /// <summary>Amount of the deduction for a medical examination; a hint.</summary>
    public Parameter MedicalLimit => InForce(Money("medical-limit", "medical examination, at most", "ITA")
        .From(2018, 750, Unsure));

    /// <summary>Age above which a medical examination is deducted; a hint.</summary>
    public Parameter MedicalAge => InForce(Number("medical-age", "age for a medical examination", "ITA")
        .From(2018, 40, Unsure));

    /// <summary>Union and statutory dues from which a ceiling may apply; a hint.</summary>
    public Parameter DuesCeiling => InForce(Money("dues-ceiling", "possible ceiling of union and statutory dues", "ITA")
        .From(2018, 240, Unsure));

    // Credits

    /// <summary>Reverse credit; a hint.</summary>
    public Parameter ReverseCredit => InForce(Money("reverse-credit", "reverse credit", "ITA")
        .From(2018, 1_300, Likely, "Conditions and first year of the limit of 25,000 are unsure: enter the credit allowed."));

    /// <summary>Assessable income up to which the reverse credit may be due; a hint.</summary>
    public Parameter ReverseCreditLimit => InForce(Money("reverse-credit-limit", "assessable income for the reverse credit", "ITA")
        .From(2018, 25_000, Likely));

    /// <summary>Assessable income up to which the compensatory credit may be due; a hint.</summary>
    public Parameter CompensatoryLimit => InForce(Money("compensatory-limit", "assessable income for the compensatory credit", "ITA")
        .From(2018, 35_000, Unsure));

    // Days and charges

    /// <summary>Day by which the return is to be filed.</summary>
    public Deadline Filing => new("filing", "Return to be filed", new DateOnly(Year + 1, 4, 30), "ITA", Certain);

    /// <summary>Day by which the balance is to be paid.</summary>
    public Deadline Payment => new("payment", "Balance of tax to be paid", new DateOnly(Year + 1, 4, 30), "ITA", Certain);

    /// <summary>Penalty for filing late, the fixed part; shown, never added.</summary>
    public Parameter LateFilingFixed => InForce(Money("late-filing-fixed", "late filing, fixed part", "ITA")
        .From(2018, 500, Unsure));

    /// <summary>Penalty for filing late, part of the tax unpaid; shown, never added.</summary>
    public Parameter LateFilingShare => InForce(Percent("late-filing-share", "late filing, part of the tax unpaid", "ITA")
        .From(2018, 10, Unsure));

    /// <summary>Interest on tax and penalty for a month; shown, never added.</summary>
    public Parameter LateInterestMonth => InForce(Percent("late-interest-month", "interest for a month", "ITA")
        .From(2018, 1, Unsure));
}
