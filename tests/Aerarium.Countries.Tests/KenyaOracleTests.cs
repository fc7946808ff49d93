using System.Globalization;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>Random returns, computed by the engine and by the oracle.</summary>
public class KenyaOracleTests
{
    private static readonly string[] Questions =
        ["employer-car", "employer-housing", "retirement-outside-payroll", "mortgage", "insurance", "other-tax-paid", "disability", "employer-benefits", "readings", "medical-fund"];

    private static readonly Gen<decimal> Pay = Gen.Frequency(
        (6, Gen.Int[0, 3_000_000].Select(i => (decimal)i)),
        (2, Gen.Int[0, 20_000_000].Select(i => i / 1m)),
        (2, Gen.Int[0, 300_000_000].Select(i => i / 100m)));

    private static readonly Gen<decimal> Little = Gen.Int[0, 50_000_000].Select(i => i / 100m);

    private static readonly Gen<(string, object)[]> Employer =
        from basic in Pay
        from amounts in Little.Array[9]
        from months in Gen.Int[1, 12]
        from housingClass in Gen.Int[0, 4]
        from arrangement in Gen.Int[0, 2]
        from housed in Gen.Int[0, 12]
        from benefits in Gen.Int[0, 200_000].Array[7]
        from counts in Gen.Int[0, 12].Array[5]
        select Cells(basic, amounts, months, housingClass, arrangement, housed).Concat(Benefits(benefits, counts)).ToArray();

    private static readonly Gen<(string, object)[]> Car =
        from provider in Gen.Int[1, 3]
        from leased in Gen.Bool
        from body in Gen.Int[0, 2]
        from cc in Gen.Int[600, 5_000]
        from cost in Little
        from months in Gen.Int[1, 12]
        from determined in Gen.Int[0, 5]
        select (List<(string, object)>)
        [
            ("provided-by", provider), ("arrangement", leased ? "leased" : "owned"), ("body", new[] { "saloon", "pick-up", "utility" }[body]), ("engine-cc", cc),
            ("cost", cost), ("lease-cost", cost), ("months", months), .. determined == 0 ? [("determined-value", (object)1_000)] : Array.Empty<(string, object)>(),
        ] into cells
        select cells.ToArray();

    private static (string, object)[] Benefits(int[] amounts, int[] counts) =>
    [
        ("furniture-cost", amounts[0] * 10), ("furniture-months", counts[0]), ("telephone-bill", amounts[1]), ("electricity-months", counts[1]), ("electricity-cost", amounts[2] / 8),
        ("water-months", counts[2]), ("water-cost", amounts[3] / 20), ("domestic-staff", amounts[4]), ("meals", amounts[5] / 2), ("subsistence", amounts[6]), ("subsistence-days", counts[3] * 5),
        .. counts[4] == 0 ? Array.Empty<(string, object)>() : [("first-month", counts[4])],
    ];

    private static (string, object)[] Cells(decimal basic, decimal[] amounts, int months, int housingClass, int arrangement, int housed)
    {
        var classes = new[] { null, "ordinary", "service-director", "other-director", "agricultural" };
        var arrangements = new[] { "lease", "related-lease", "owned" };
        List<(string, object)> cells =
        [
            ("basic-pay", basic), ("months", months), ("bonus", amounts[0]), ("other-benefits", amounts[1]), ("minor-benefits", decimal.Truncate(amounts[2] / 5)),
            ("retirement-contributions", amounts[3]), ("pensionable-pay", basic), ("tax-deducted", amounts[4]),
        ];
        if (classes[housingClass] is { } known)
        {
            cells.AddRange([
                ("housing-class", known), ("housing-arrangement", arrangements[arrangement]), ("months-housed", housed), ("rent-by-employer", amounts[5]),
                ("market-rent", amounts[6]), ("rent-by-employee", decimal.Truncate(amounts[7] / 10)), ("director-other-income", amounts[8]),
            ]);
        }

        return [.. cells];
    }

    [Theory]
    [InlineData(2022)]
    [InlineData(2023)]
    [InlineData(2024)]
    [InlineData(2025)]
    public void Engine_and_oracle_agree_to_the_cent(int year)
    {
        var generated =
            from employers in Employer.Array[1, 3]
            from cars in Car.Array[0, 3]
            from yes in Gen.Bool.Array[Questions.Length]
            from amounts in Little.Array[12]
            from fromMonth in Gen.Int[0, 30]
            from length in Gen.Int[0, 40]
            from readings in Gen.Int[0, 2].Array[6]
            select (employers, cars, yes, amounts, fromMonth, length, readings);
        generated.Sample(
            g =>
            {
                var kenya = Build(year, g.employers, g.cars, g.yes, g.amounts, g.fromMonth, g.length);
                Read(kenya, year, g.readings);
                var evaluation = kenya.Evaluate();
                var expected = KenyaOracle.Compute(year, kenya.Entries);
                var computed = new KenyaOracle.Result(
                    evaluation.Amount("employment.gross"),
                    evaluation.Amount("employment.income"),
                    evaluation.Amount("deductions.total"),
                    evaluation.Amount("deductions.taxable-income"),
                    evaluation.Amount("tax.tax"),
                    evaluation.Amount("tax.net-tax"),
                    evaluation.Balance);
                Assert.Equal(expected, computed);
            },
            iter: 1_500);
    }

    private static readonly (string Line, string[] Codes)[] Readings =
    [
        ("housing-share", ["rents"]), ("pension-limit", ["before", "after"]), ("mortgage-limit", ["before", "after"]), ("minor-benefits", ["after"]), ("december", ["before"]),
        ("health-insurance", ["no-relief"]),
    ];

    private static void Read(KenyaCase kenya, int year, int[] chosen)
    {
        foreach (var (index, (line, codes)) in Readings.Index().Where(r => r.Index == 0 || year == 2024))
        {
            if (chosen[index] > 0 && chosen[index] <= codes.Length)
            {
                kenya.With($"readings.{line}", codes[chosen[index] - 1]);
            }
        }
    }

    private static KenyaCase Build(
        int year, (string, object)[][] employers, (string, object)[][] cars, bool[] yes, decimal[] amounts, int fromMonth, int length)
    {
        var kenya = new KenyaCase(year);
        var asked = year < 2024 ? Questions[..^1] : Questions;
        kenya.Scope([.. asked.Where((_, index) => yes[index])]).With("scope.employers", "several");
        for (var index = 0; index < employers.Length; index++)
        {
            (string, object)[] contributions = year < 2024 ? [] : year == 2024
                ? [("health-insurance-before-december", amounts[0]), ("health-insurance-december", amounts[1]), ("housing-levy-before-december", amounts[2]), ("housing-levy-december", amounts[3])]
                : [("health-insurance", amounts[0]), ("housing-levy", amounts[1])];
            kenya.Row("employment.employers", [.. employers[index], .. contributions]);
        }

        foreach (var car in cars)
        {
            var provider = (int)car[0].Item2;
            kenya.Row("employment.cars", [("provided-by", Math.Min(provider, employers.Length).ToString(CultureInfo.InvariantCulture)), .. car[1..]]);
        }

        var start = new DateOnly(year - 1, 1, 1).AddMonths(fromMonth);
        if (year >= 2024)
        {
            kenya.Row("deductions.medical-funds", year == 2024
                ? [("contributions-before-december", amounts[6]), ("contributions-december", decimal.Truncate(amounts[7] / 20))]
                : [("contributions", amounts[6])]);
        }

        if (year <= 2024)
        {
            kenya.With("tax.hospital-fund", decimal.Truncate(amounts[11] / 20));
        }

        return kenya
            .Row("deductions.funds", ("contributions", amounts[4]))
            .Row("deductions.loans", ("interest", amounts[5]))
            .Row("tax.policies", ("kind", "life"), ("commencement", "2015-01-01"), ("premium", amounts[8]))
            .Row("balance.payments", ("amount", amounts[9]))
            .With("employment.disability-from", start.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture))
            .With("employment.disability-to", start.AddMonths(length).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture))
            .With("employment.care-paid", amounts[10]);
    }
}
