using Aerarium.Core.Engine;
using Aerarium.Countries.Philippines.Parameters;
using Aerarium.Countries.Philippines.PercentageTax;

namespace Aerarium.Countries.Tests;

/// <summary>Cases of the percentage tax of a quarter, owed by default and not late.</summary>
public sealed class PercentageTaxCase : ReturnCase<PercentageTaxCase>
{
    public PercentageTaxCase(int year, int quarter)
        : base(Catalogue.Get(PercentageTaxReturn.ReturnId, year, Core.Definitions.Periods.Quarter(quarter)), IncomeTaxLaw.For(year).OfPercentageTax(quarter, "payment").Day) =>
        With("scope.vat-registered", "no").With("scope.other-percentage-tax", "no").With("scope.eight", "no").With("scope.late", "no");

    public PercentageTaxCase Sales(decimal services, decimal goods = 0) => With("sales.services", services).With("sales.goods", goods);

    /// <summary>8% was elected, and its ceiling is passed in this quarter; the sales of the quarters before.</summary>
    public PercentageTaxCase Passed(decimal before) => With("scope.eight", "yes").With("scope.passed", "yes").With("sales.before", before);
}

/// <summary>
/// The percentage tax of NIRC s. 116 by the law sheet's addition: 3% of gross sales, 1% from 1 July 2020 to 30 June 2023 (CREATE s. 13), due on the 25th day after
/// the quarter (s. 128(A)); owed on all sales of the year by who loses the right to 8% (RR 8-2018). Cases constructed from the rules.
/// </summary>
public class PercentageTaxTests
{
    private static bool Finds(PercentageTaxCase entered, string finding) => entered.Evaluate().Findings.Any(f => f.Id == finding);

    [Theory]
    [InlineData(2018, 1, 30_000)]
    [InlineData(2020, 2, 30_000)]
    [InlineData(2020, 3, 10_000)]
    [InlineData(2021, 1, 10_000)]
    [InlineData(2022, 4, 10_000)]
    [InlineData(2023, 2, 10_000)]
    [InlineData(2023, 3, 30_000)]
    [InlineData(2024, 4, 30_000)]
    [InlineData(2026, 1, 30_000)]
    public void Each_quarter_has_the_rate_of_its_time(int year, int quarter, decimal tax)
    {
        var evaluation = new PercentageTaxCase(year, quarter).Sales(600_000, 400_000).With("result.withheld", 4_000).Evaluate();
        Assert.Equal((1_000_000, tax, tax - 4_000), (evaluation.Amount("sales.gross"), evaluation.Amount("result.tax"), evaluation.Balance));
    }

    /// <summary>49 centavos down, 50 up: 3% of 16 is 0.48, of 17 is 0.51.</summary>
    [Theory]
    [InlineData(16, 0)]
    [InlineData(17, 1)]
    [InlineData(50, 2)]
    public void The_tax_is_in_whole_pesos(decimal sales, decimal tax) => Assert.Equal(tax, new PercentageTaxCase(2025, 1).Sales(sales).Evaluate().Amount("result.tax"));

    /// <summary>Who passes the ceiling owes the tax on the year's sales so far; where the rate changed in July, on each part at its own.</summary>
    [Theory]
    [InlineData(2025, 3, 2_500_000, 0, 3_300_000 * 0.03)]
    [InlineData(2022, 3, 2_500_000, 0, 3_300_000 * 0.01)]
    [InlineData(2020, 2, 2_500_000, 0, 3_300_000 * 0.03)]
    [InlineData(2020, 3, 2_500_000, 2_500_000, (800_000 * 0.01) + (2_500_000 * 0.03))]
    [InlineData(2023, 4, 2_500_000, 1_500_000, (1_800_000 * 0.03) + (1_500_000 * 0.01))]
    public void Who_loses_the_right_to_eight_per_cent_owes_it_on_the_sales_of_the_year(int year, int quarter, decimal before, decimal toJune, decimal tax)
    {
        var entered = new PercentageTaxCase(year, quarter).Sales(800_000).Passed(before);
        Assert.Equal(year is 2020 or 2023 && quarter > 2, entered.Evaluate().Definition.FindLine("sales.before-to-june") is not null);
        entered = toJune > 0 ? entered.With("sales.before-to-june", toJune) : entered;
        Assert.Equal((3_300_000, tax), (entered.Evaluate().Amount("sales.gross"), entered.Evaluate().Amount("result.tax")));
        if (toJune > 0)
        {
            Assert.False(Finds(entered.With("sales.before-to-june", before), "before-to-june"));
            Assert.True(Finds(entered.With("sales.before-to-june", before + 1), "before-to-june"));
        }
    }

    [Fact]
    public void Who_owes_none_is_told_so()
    {
        Assert.DoesNotContain(new PercentageTaxCase(2025, 2).Sales(1).Evaluate().Findings, f => f.Id is "no-percentage-tax" or "other-not-covered" or "not-due" or "no-sales");
        Assert.True(Finds(new PercentageTaxCase(2025, 2).With("scope.vat-registered", "yes"), "no-percentage-tax"));
        Assert.True(Finds(new PercentageTaxCase(2025, 2).With("scope.other-percentage-tax", "yes"), "other-not-covered"));
        Assert.True(Finds(new PercentageTaxCase(2025, 2).With("scope.eight", "yes").With("scope.passed", "no"), "not-due"));
        Assert.False(Finds(new PercentageTaxCase(2025, 2).Passed(1), "not-due"));
        Assert.True(Finds(new PercentageTaxCase(2025, 2).Sales(0), "no-sales"));
        Assert.False(Finds(new PercentageTaxCase(2025, 2).Sales(3_000_000), "above-ceiling"));
        Assert.True(Finds(new PercentageTaxCase(2025, 2).Sales(2_999_999, 2), "above-ceiling"));
        Assert.False(Finds(new PercentageTaxCase(2025, 2).Sales(1_000).With("result.withheld", 30), "withheld-exceeds-tax"));
        Assert.True(Finds(new PercentageTaxCase(2025, 2).Sales(1_000).With("result.withheld", 31), "withheld-exceeds-tax"));
    }

    /// <summary>Surcharge 25% and interest 12% a year, 10% and 6% for micro and small taxpayers (NIRC s. 248, 249; EOPT): 3,000 paid 73 days late.</summary>
    [Theory]
    [InlineData("medium", 750, 72)]
    [InlineData("micro", 300, 36)]
    public void Being_late_costs_what_it_costs_for_income_tax(string size, decimal surcharge, decimal interest)
    {
        var evaluation = new PercentageTaxCase(2025, 1).Sales(100_000).With("scope.late", "yes").With("result.size", size).With("charges.paid-on", "2025-07-07").Evaluate();
        Assert.Equal((surcharge, interest, 3_000 + surcharge + interest), (evaluation.Amount("charges.surcharge"), evaluation.Amount("charges.interest"), evaluation.Amount("charges.total-with-charges")));
    }

    /// <summary>The 25th day after the quarter, or the working day after it (NIRC s. 128(A)); days of the week by the calendar.</summary>
    [Theory]
    [InlineData(2018, "2018-04-25", "2018-07-25", "2018-10-25", "2019-01-25")]
    [InlineData(2020, "2020-04-27", "2020-07-27", "2020-10-26", "2021-01-25")]
    [InlineData(2025, "2025-04-25", "2025-07-25", "2025-10-27", "2026-01-26")]
    [InlineData(2026, "2026-04-27", "2026-07-27", "2026-10-26", "2027-01-25")]
    public void It_is_due_on_the_twenty_fifth_or_the_working_day_after(int year, params string[] days) =>
        Assert.Equal(days.Select(DateOnly.Parse), Enumerable.Range(1, 4).Select(q => IncomeTaxLaw.For(year).OfPercentageTax(q, "filing").Day));

    /// <summary>Sales follow the income tax return of the same quarter; the fourth has none.</summary>
    [Fact]
    public void Sales_follow_the_quarterly_income_tax_return()
    {
        Assert.Equal([("ph/individual-quarterly", 0, "q3")], Catalogue.Get(PercentageTaxReturn.ReturnId, 2025, "q3").TiedReturns.Select(t => (t.Definition, t.YearsBack, t.Period)));
        Assert.Empty(Catalogue.Get(PercentageTaxReturn.ReturnId, 2025, "q4").TiedReturns);
    }

    [Theory]
    [InlineData(2018, 1)]
    [InlineData(2020, 3)]
    [InlineData(2023, 4)]
    [InlineData(2026, 1)]
    public void Xmllint_finds_the_e_return_valid(int year, int quarter)
    {
        var entered = new PercentageTaxCase(year, quarter).Sales(800_000).With("taxpayer.tin", "20100990000000").With("taxpayer.name", "Hiraya Lindenau").With("taxpayer.kind", "original").With("taxpayer.district-office", "039")
            .With("taxpayer.citizenship", "Filipino").With("taxpayer.address", "17 Lighthouse Road").With("result.withheld", 30_000).With("declaration.true-and-complete", "yes").With("declaration.name", "Hiraya").With("declaration.capacity", "taxpayer")
            .With("declaration.date", "2026-04-10").With("declaration.agent-tin", "30077001900000").With("declaration.agent-name", "Practice").With("declaration.contact-name", "T").With("declaration.contact-phone", "0900");
        entered = quarter > 1 ? entered.Passed(2_500_000) : entered;
        Xmllint.FindsValid(new PercentageTaxEReturn(), (quarter > 2 ? entered.With("sales.before-to-june", 1_000_000) : entered).Evaluate());
    }
}
