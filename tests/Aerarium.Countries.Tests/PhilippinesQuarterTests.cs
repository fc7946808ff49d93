using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Countries.Philippines.IndividualQuarterly;
using Aerarium.Countries.Philippines.Parameters;
using Aerarium.Countries.Philippines.WithholdingCredits;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>Cases of the quarterly return; what a quarter before showed is carried over as ties would carry it.</summary>
public sealed class QuarterCase(int year, int quarter)
    : ReturnCase<QuarterCase>(Catalogue.Get(IndividualQuarterlyReturn.ReturnId, year, $"q{quarter}"), new DateOnly(year, (3 * quarter) + 1, 20))
{
    public QuarterCase Business(string method, decimal services) => Scope("business").With("business.method", method).With("business.services", services);

    public QuarterCase After(Evaluation? before)
    {
        if (before is null)
        {
            return this;
        }

        foreach (var (line, source) in new[]
        {
            ("tax.gross-before", "tax.gross-to-date"), ("tax.net-before", "tax.net-to-date"), ("tax.income-before", "tax.income-to-date"),
        })
        {
            With(line, before.Amount(source));
        }

        var (paid, withheld) = before.Definition.Period == "q1" ? (0, 0) : (before.Amount("balance.paid-before"), before.Amount("balance.withheld-before"));
        return With("balance.paid-before", paid + before.Amount("balance.payable")).With("balance.withheld-before", withheld + before.Amount("balance.withheld-quarter"));
    }
}

/// <summary>Worked computations EX-B1 to B6 of the law sheet, constructed from NIRC s. 24(A), 74 and RR 8-2018, from memory.</summary>
public class PhilippinesQuarterTests
{
    private static Evaluation Quarter(int year, int quarter, Evaluation? before, string method, decimal services, decimal withheld = 0, Func<QuarterCase, QuarterCase>? more = null)
    {
        var entered = new QuarterCase(year, quarter).Business(method, services).After(before).With("balance.withheld-quarter", withheld);
        return (more?.Invoke(entered) ?? entered).Evaluate();
    }

    /// <summary>EX-B1: 8%, not mixed.</summary>
    [Fact]
    public void Eight_per_cent_over_three_quarters()
    {
        var first = Quarter(2025, 1, null, "eight", 200_000, 10_000);
        var second = Quarter(2025, 2, first, "eight", 300_000, 15_000);
        var third = Quarter(2025, 3, second, "eight", 450_000, 22_500);
        Assert.Equal([(0m, -10_000m), (20_000m, -5_000m), (56_000m, 8_500m)], new[] { first, second, third }.Select(q => (q.Amount("tax.due"), q.Balance)));
    }

    /// <summary>EX-B2: itemised, beginning with a loss.</summary>
    [Fact]
    public void Graduated_and_itemised_over_three_quarters()
    {
        static QuarterCase First(QuarterCase q) => q.With("business.cost", 300_000).Row("deductions.expenses", ("kind", "miscellaneous"), ("amount", 180_000));
        var first = Quarter(2025, 1, null, "itemised", 400_000, 8_000, First);
        var second = Quarter(2025, 2, first, "itemised", 400_000, 18_000);
        var third = Quarter(2025, 3, second, "itemised", 450_000, 20_000);
        Assert.Equal(-80_000, first.Amount("tax.income-to-date"));
        Assert.Equal([(0m, -8_000m), (10_500m, -15_500m), (96_500m, 50_500m)], new[] { first, second, third }.Select(q => (q.Amount("tax.due"), q.Balance)));
    }

    /// <summary>EX-B3: the standard deduction, rounded in each quarter, on the older table.</summary>
    [Fact]
    public void The_standard_deduction_is_rounded_each_quarter()
    {
        var first = Quarter(2021, 1, null, "standard", 333_333);
        var second = Quarter(2021, 2, first, "standard", 444_444);
        Assert.Equal((133_333m, 0m), (first.Amount("tax.standard-deduction"), first.Amount("tax.due")));
        Assert.Equal((177_778m, 466_666m, 46_667m), (second.Amount("tax.standard-deduction"), second.Amount("tax.taxable"), second.Amount("tax.due")));
    }

    /// <summary>EX-B4: 8% beside compensation has no reduction.</summary>
    [Fact]
    public void Eight_per_cent_of_mixed_income_has_no_reduction()
    {
        static QuarterCase Mixed(QuarterCase q) => q.Scope("compensation");
        var first = Quarter(2025, 1, null, "eight", 100_000, more: Mixed);
        var second = Quarter(2025, 2, first, "eight", 150_006, more: Mixed);
        Assert.Equal((8_000m, 20_000m, 12_000m), (first.Balance, second.Amount("tax.due"), second.Balance));
    }

    /// <summary>EX-B5: passing the ceiling makes the year graduated; what was paid at 8% is credited.</summary>
    [Fact]
    public void Who_passes_the_ceiling_is_graduated_for_the_whole_year()
    {
        var first = Quarter(2025, 1, null, "eight", 900_000);
        var second = Quarter(2025, 2, first, "eight", 1_100_000);
        var third = Quarter(2025, 3, second, "eight", 1_200_000, more: q => q.With("tax.cost-to-date", 1_600_000));
        Assert.Equal((52_000m, 88_000m), (first.Balance, second.Balance));
        Assert.Equal((1_600_000m, 302_500m, 162_500m), (third.Amount("tax.taxable"), third.Amount("tax.due"), third.Balance));
        Assert.Contains(third.Findings, f => f.Id == "ceiling-passed");
    }

    /// <summary>EX-B6: last year's excess.</summary>
    [Fact]
    public void Last_years_excess_is_credited()
    {
        var first = Quarter(2025, 1, null, "itemised", 420_000, 4_000, q => q.With("balance.prior-excess", 30_000));
        Assert.Equal((26_500m, -7_500m), (first.Amount("tax.due"), first.Balance));
    }

    /// <summary>Due dates of the law sheet (NIRC s. 74), moved to the next working day.</summary>
    [Theory]
    [InlineData(2018, "2018-05-15", "2018-08-15", "2018-11-15")]
    [InlineData(2019, "2019-05-15", "2019-08-15", "2019-11-15")]
    [InlineData(2020, "2020-05-15", "2020-08-17", "2020-11-16")]
    [InlineData(2022, "2022-05-16", "2022-08-15", "2022-11-15")]
    [InlineData(2023, "2023-05-15", "2023-08-15", "2023-11-15")]
    [InlineData(2026, "2026-05-15", "2026-08-17", "2026-11-16")]
    [InlineData(2021, "2021-05-17", "2021-08-16", "2021-11-15")]
    [InlineData(2024, "2024-05-15", "2024-08-15", "2024-11-15")]
    [InlineData(2025, "2025-05-15", "2025-08-15", "2025-11-17")]
    public void Quarters_are_due_on_the_fifteenth_or_the_working_day_after(int year, params string[] days) =>
        Assert.Equal(days.Select(DateOnly.Parse), Enumerable.Range(1, 3).Select(q => IncomeTaxLaw.For(year).OfQuarter(q, "filing").Day));

    /// <summary>The first quarter has the rates of the first half.</summary>
    [Theory]
    [InlineData(2020, 3_000, 9_010)]
    [InlineData(2023, 1_000, 9_400)]
    public void The_first_quarter_is_before_the_change(int year, decimal percentageTax, decimal interestAllowed)
    {
        var evaluation = Quarter(year, 1, null, "itemised", 100_000, 0, q => q.With("business.vat-registered", "no").With("business.other-percentage-tax", "no")
            .With("deductions.interest", 10_000).With("deductions.interest-final-tax", 3_000));
        Assert.Equal((percentageTax, interestAllowed), (evaluation.Definition.OtherTaxes.Single().Amount.Evaluate(evaluation.Sheet), evaluation.Amount("deductions.interest-allowed")));
    }

    /// <summary>The third quarter's tax to date is what the annual return would say if the year ended there, within any method.</summary>
    [Fact]
    public void The_sum_of_the_quarters_is_the_year() => Gen.Select(
        Gen.Int[0, 900_000].Array[3, 3], Gen.Int[0, 2].Select(i => new[] { "eight", "standard", "itemised" }[i]), Gen.Int[0, 2].Select(i => new[] { 2020, 2023, 2025 }[i])).Sample(
        (sales, method, year) =>
        {
            Evaluation? before = null;
            foreach (var quarter in new[] { 1, 2, 3 })
            {
                before = Quarter(year, quarter, before, method, sales[quarter - 1]);
            }

            // The standard deduction is rounded in each quarter, so the year may differ by up to two pesos of income, hence at most one of tax.
            var annual = new PhilippinesCase(year).Business(method, sales.Sum()).Evaluate().Amount("tax.due");
            return Math.Abs(annual - before!.Amount("tax.due")) <= (method == "standard" ? 1 : 0);
        },
        iter: 200);
}

/// <summary>Cases of the list of tax withheld.</summary>
public sealed class ListCase(int year = 2025, string quarter = "q1")
    : ReturnCase<ListCase>(Catalogue.Get(WithholdingCreditsReturn.ReturnId, year, quarter), new DateOnly(year, 6, 1))
{
    public ListCase Certificate(string code, decimal payment, decimal withheld, string payor = "005512300-00000", params (string, object)[] more) =>
        Row("list.rows", [("payor-tin", payor), ("payor", "Coral Window"), ("code", code), ("total", payment), ("withheld", withheld), .. more]);
}

/// <summary>Worked computations EX-C1 to C6 of the law sheet; rates of RR 2-98 s. 2.57.2 as amended, from memory.</summary>
public class WithholdingCreditsTests
{
    /// <summary>EX-C1, and EX-C4.</summary>
    [Fact]
    public void Rates_follow_from_the_codes_and_the_credit_is_in_whole_pesos()
    {
        var list = new ListCase().Certificate("WI010", 125_000, 6_250).Certificate("WI010", 83_333.33m, 4_166.67m).Certificate("WI100", 60_000, 3_000).Certificate("WI120", 448_000.50m, 8_960.01m).Evaluate();
        Assert.Equal((716_333.83m, 22_376.68m, 22_376.68m, 22_377m), (list.Amount("list.payments"), list.Amount("list.implied"), list.Amount("list.withheld"), list.Amount("list.credit")));
        var goods = new ListCase().Certificate("WI158", 310_000, 3_100).Certificate("WI160", 95_500.50m, 1_910.01m).Evaluate();
        Assert.Equal((5_010.01m, 5_010.01m), (goods.Amount("list.implied"), goods.Amount("list.withheld")));
        Assert.DoesNotContain(goods.Findings, f => f.Id == "rate-mismatch");
    }

    /// <summary>EX-C2.</summary>
    [Fact]
    public void A_wrong_code_shows_at_once_as_a_mismatch()
    {
        var list = new ListCase().Certificate("WI011", 150_000, 7_500).Evaluate();
        Assert.Equal((15_000m, -7_500m), (list.Amount("list.rows.implied"), list.Amount("list.rows.difference")));
        Assert.Contains(list.Findings, f => f.Id == "rate-mismatch" && f.Row == "1" && f.Message.Contains("15,000"));
    }

    /// <summary>EX-C3: an online marketplace withholds 1% of one half.</summary>
    /// <summary>A row in error counts in no total, and so in no return the list feeds, until it is corrected; the warning says how much waits.</summary>
    [Theory]
    [InlineData("payor-tin", "not a number")]
    [InlineData("code", null)]
    [InlineData("withheld", 20_000)]
    [InlineData("total", 0)]
    [InlineData("month-1", 1)]
    public void A_row_in_error_counts_nowhere(string column, object? value)
    {
        ListCase Two(params (string, object)[] more) => new ListCase().Certificate("WI010", 10_000, 500).Row(
            "list.rows", [.. new Dictionary<string, object?> { ["payor-tin"] = "600000100-00000", ["payor"] = "Reef", ["code"] = "WI010", ["total"] = 8_000, ["withheld"] = 400 }
                .Where(c => more.All(m => m.Item1 != c.Key)).Select(c => (c.Key, c.Value!)), .. more.Where(m => m.Item2 is not "")]);
        var (sound, faulty) = (Two().Evaluate(), Two((column, value ?? "")).Evaluate());
        Assert.Equal((18_000, 900, 900, 0), (sound.Amount("list.payments"), sound.Amount("list.withheld"), sound.Amount("list.credit"), sound.Amount("list.left-out")));
        Assert.DoesNotContain(sound.Findings, f => f.Id == "rows-left-out");
        Assert.Equal((10_000, 500, 500), (faulty.Amount("list.payments"), faulty.Amount("list.withheld"), faulty.Amount("list.credit")));
        Assert.Equal(column == "withheld" ? 20_000 : 400, faulty.Amount("list.left-out"));
        Assert.Contains(faulty.Findings, f => f.Id == "rows-left-out");
    }

    [Fact]
    public void A_marketplace_withholds_of_one_half() => Assert.Equal(3_712.50m, new ListCase().Certificate("WI760", 742_500, 3_712.50m).Evaluate().Amount("list.rows.implied"));

    [Fact]
    public void A_code_that_was_not_yet_in_use_is_not_offered() =>
        Assert.DoesNotContain(Catalogue.Get(WithholdingCreditsReturn.ReturnId, 2021, "q1").LineOf("list.rows.code").Choices!, c => c.Code == "WI760");

    /// <summary>EX-C5 and EX-C6: 49 centavos drop, 50 rise.</summary>
    [Theory]
    [InlineData(7_620.49, 7_620)]
    [InlineData(7_620.50, 7_621)]
    [InlineData(10_416.67, 10_417)]
    [InlineData(8_960.01, 8_960)]
    [InlineData(7_333.49, 7_333)]
    public void The_credit_is_rounded_once(decimal withheld, decimal credit) => Assert.Equal(credit, new ListCase().Certificate("WI100", 200_000, withheld).Evaluate().Amount("list.credit"));

    [Fact]
    public void A_list_without_certificates_is_no_list()
    {
        Assert.Contains(new ListCase().Evaluate().Findings, f => f.Id == "no-certificates");
        Assert.DoesNotContain(new ListCase().Certificate("WI010", 100, 5).Evaluate().Findings, f => f.Id == "no-certificates");
    }

    public static TheoryData<string, string, ListCase> Rows_that_are_questioned => new()
    {
        { "E16", "payor-is-payee", new ListCase().With("payee.tin", "00551230000000").Certificate("WI010", 100, 5) },
        { "E17", "amount-not-valid", new ListCase().Certificate("WI010", 0, 5) },
        { "E18", "not-creditable", new ListCase().Certificate("other", 100, 3, more: [("another-code", "WV020"), ("typed-rate", 3)]) },
        { "E19", "list.rows.code:missing", new ListCase().Row("list.rows", ("payor-tin", "005512300-00000"), ("total", 100)) },
        { "E19", "list.rows.payor-tin:missing", new ListCase().Row("list.rows", ("code", "WI010"), ("total", 100)) },
        { "E20", "withheld-exceeds-payment", new ListCase().Certificate("WI010", 100, 101) },
        { "W02", "perhaps-twice", new ListCase().Certificate("WI010", 100, 5).Certificate("WI100", 100, 5).Certificate("WI010", 100, 5) },
        { "W03", "two-sizes-wi010", new ListCase().Certificate("WI010", 100, 5).Certificate("WI011", 100, 10) },
        { "W04", "nothing-withheld", new ListCase().Certificate("WI010", 100, 0) },
        { "W05", "certificate-missing", new ListCase().Certificate("WI010", 100, 5, more: [("received", "no")]) },
        { "W06", "code-of-smaller-payee", new ListCase().With("payee.vat-registered", "yes").Certificate("WI010", 100, 5) },
        { "W21", "payor-is-spouse", new ListCase().With("payee.spouse-tin", "00551230000000").Certificate("WI010", 100, 5) },
        { "own", "months-differ-from-total", new ListCase().Certificate("WI010", 100, 5, more: [("month-1", 40), ("month-3", 50)]) },
        { "own", "unknown-code", new ListCase().Certificate("other", 100, 3, more: [("another-code", "WI999"), ("typed-rate", 3)]) },
    };

    /// <summary>The findings of the law sheet, by their ids there.</summary>
    [Theory]
    [MemberData(nameof(Rows_that_are_questioned))]
    public void Every_finding_of_the_list_is_raised_where_it_belongs(string rule, string finding, ListCase entered)
    {
        Assert.NotEmpty(rule);
        Assert.Contains(entered.Evaluate().Findings, f => f.Id == finding);
        Assert.DoesNotContain(new ListCase().Certificate("WI010", 100, 5, more: [("received", "yes")]).With("payee.vat-registered", "no").Evaluate().Findings, f => f.Id == finding);
    }

    [Fact]
    public void Of_the_same_certificate_only_the_later_row_is_questioned()
    {
        var rows = new ListCase().Certificate("WI010", 100, 5).Certificate("WI010", 100, 5).Certificate("WI010", 100, 5.01m).Evaluate().Findings.Where(f => f.Id == "perhaps-twice").Select(f => f.Row);
        Assert.Equal(["2"], rows);
    }

    [Fact]
    public void The_order_of_certificates_never_matters() => Gen.Select(Gen.Int[1, 9_999_999], Gen.Int[0, 20]).Array[2, 30].Sample(
        rows =>
        {
            Evaluation Listed(IEnumerable<(int Cents, int Code)> order)
            {
                var entered = new ListCase();
                foreach (var (cents, code) in order)
                {
                    entered.Certificate(WithholdingCodes.All[code].Code, cents / 100m, Math.Round(cents / 2000m, 2));
                }

                return entered.Evaluate();
            }

            var (one, other) = (Listed(rows), Listed(rows.Reverse()));
            return new[] { "list.payments", "list.implied", "list.withheld", "list.credit" }.All(l => one.Amount(l) == other.Amount(l)) && one.Findings.Count == other.Findings.Count;
        },
        iter: 50);

    /// <summary>Which returns an edit of a list must be carried into: the year follows its payments, the quarter its credit, nobody a payer's name.</summary>
    [Fact]
    public void A_return_follows_only_the_lines_it_is_tied_to()
    {
        var list = new TiedReturn(WithholdingCreditsReturn.ReturnId, 0, "q1");
        var (year, quarter) = (Catalogue.Get("ph/individual-annual", 2025), Catalogue.Get(IndividualQuarterlyReturn.ReturnId, 2025, "q1"));
        Assert.Equal((true, false), Follow("list.payments"));
        Assert.Equal((false, true), Follow("list.credit"));
        Assert.Equal((false, false), Follow("list.rows.payor"));
        Assert.True(year.Follows(new TiedReturn(year.Id, 1), new HashSet<string> { "scope.losses" }));

        (bool, bool) Follow(string line) => (year.Follows(list, new HashSet<string> { line }), quarter.Follows(list, new HashSet<string> { line }));
    }
}
