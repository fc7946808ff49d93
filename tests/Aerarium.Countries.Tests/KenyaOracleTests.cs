using System.Globalization;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>Random returns, computed by the engine and by the oracle.</summary>
public class KenyaOracleTests
{
    private static readonly string[] Questions =
        ["employer-car", "employer-housing", "retirement-outside-payroll", "mortgage", "medical-fund", "insurance", "other-tax-paid", "disability"];

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
        select Cells(basic, amounts, months, housingClass, arrangement, housed);

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
            select (employers, cars, yes, amounts, fromMonth, length);
        generated.Sample(
            g =>
            {
                var kenya = Build(year, g.employers, g.cars, g.yes, g.amounts, g.fromMonth, g.length);
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

    private static KenyaCase Build(
        int year, (string, object)[][] employers, (string, object)[][] cars, bool[] yes, decimal[] amounts, int fromMonth, int length)
    {
        var kenya = new KenyaCase(year);
        kenya.Scope([.. Questions.Where((_, index) => yes[index])]);
        for (var index = 0; index < employers.Length; index++)
        {
            (string, object)[] contributions = year == 2024
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
        return kenya
            .Row("deductions.funds", ("contributions", amounts[4]))
            .Row("deductions.loans", ("interest", amounts[5]))
            .Row("deductions.medical-funds", year == 2024
                ? [("contributions-before-december", amounts[6]), ("contributions-december", decimal.Truncate(amounts[7] / 20))]
                : [("contributions", amounts[6])])
            .Row("tax.policies", ("kind", "life"), ("commencement", "2015-01-01"), ("premium", amounts[8]))
            .Row("balance.payments", ("amount", amounts[9]))
            .With("employment.disability-from", start.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture))
            .With("employment.disability-to", start.AddMonths(length).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture))
            .With("employment.care-paid", amounts[10]);
    }
}
