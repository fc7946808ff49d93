using Aerarium.Core.Engine;

namespace Aerarium.Countries.Tests;

/// <summary>
/// The law of companies in Canada, held against the worked examples of the practice's own sheet (constructed from the statutes, from memory) and against figures published with two federal budgets, as named.
/// </summary>
public class CompanyLawTests
{
    private static decimal Of(Evaluation evaluation, string line) => evaluation.Amount(line);

    /// <summary>C1: Ontario, calendar 2024, statements that balance; four classes; meals, gifts, a fine.</summary>
    [Fact]
    public void Statements_of_an_Ontario_company_lead_to_its_tax()
    {
        var of = new CompanyCase(2024, "on").Scope("gifts", "dividends-paid").With("gifts.of-year", 3_000).With("dividends.paid-eligible", 0).With("dividends.paid-other", 30_000)
            .Items(("1001", 48_200), ("1060", 61_500), ("1120", 39_800), ("1484", 2_500), ("2008", 150_000), ("2009", -62_000), ("2620", 44_300), ("2680", 7_600), ("2780", 4_000 + 12_000), ("3140", 27_150), ("3500", 100), ("3660", 41_000), ("3700", 30_000))
            .Items(("8000", 820_000), ("8300", 35_000), ("8320", 310_000), ("8500", 39_800), ("8670", 22_000), ("8523", 5_200), ("8522", 3_000), ("9060", 331_750), ("9990", 19_000))
            .With("reconciliation.fines", 450)
            .Class("8", 30_000).Bought("8", 10_000, "2024-05-01").Class("10", 24_000).Class("50", 4_000).Bought("50", 6_000, "2024-02-01").Class("12").Bought("12", 1_200, "2024-03-01").Evaluate();
        Assert.Equal((240_000, 0, 305_200, 152_850, 133_850), (Of(of, "financial.item-2599"), Of(of, "financial.difference"), Of(of, "financial.item-8518"), Of(of, "financial.item-9970"), Of(of, "financial.item-9999")));
        Assert.Equal((21_900, 159_000, 156_000), (Of(of, "depreciation.claimed"), Of(of, "reconciliation.net"), Of(of, "tax.taxable")));
        Assert.Equal((59_280, 29_640, 15_600, 14_040), (Of(of, "tax.base"), Of(of, "tax.deduction"), Of(of, "tax.abatement"), Of(of, "tax.part-one")));
        Assert.Equal((17_940, 12_948, 4_992, 19_032), (Of(of, "tax.on-before"), Of(of, "tax.on-deduction"), Of(of, "tax.on-tax"), Of(of, "balance.payable")));
    }

    /// <summary>C2: British Columbia 2025, income above the limit.</summary>
    [Fact]
    public void Income_above_the_limit_is_taxed_at_the_general_rate()
    {
        var of = new CompanyCase(2025, "bc").Income(640_000).Evaluate();
        Assert.Equal((243_200, 95_000, 64_000, 18_200, 66_000), (Of(of, "tax.base"), Of(of, "tax.deduction"), Of(of, "tax.abatement"), Of(of, "tax.reduction"), Of(of, "tax.part-one")));
        Assert.Equal((26_800, 92_800), (Of(of, "tax.bc-tax"), Of(of, "balance.payable")));
    }

    /// <summary>The business limit by taxable capital, published with the federal budget of 2022, and by investment income, with that of 2018 (both from memory); edges beside them.</summary>
    [Theory]
    [InlineData(30_000_000, 0, 250_000)]
    [InlineData(12_000_000, 0, 475_000)]
    [InlineData(10_000_000, 0, 500_000)]
    [InlineData(50_000_000, 0, 0)]
    [InlineData(60_000_000, 0, 0)]
    [InlineData(0, 75_000, 375_000)]
    [InlineData(0, 100_000, 250_000)]
    [InlineData(0, 150_000, 0)]
    [InlineData(0, 50_000, 500_000)]
    [InlineData(0, 50_001, 499_995)]
    [InlineData(12_000_000, 75_000, 375_000)]
    public void The_business_limit_shrinks(int capital, int investment, int limit) =>
        Assert.Equal(limit, Of(new CompanyCase(2024, "on").With("group.capital-before", capital).With("group.investment-before", investment).Evaluate(), "group.limit"));

    /// <summary>C4: Ontario ignores the reduction for investment income.</summary>
    [Fact]
    public void Ontario_goes_by_the_limit_before_investment_income()
    {
        var of = new CompanyCase(2024, "on").Income(420_000).With("group.investment-before", 90_000).Evaluate();
        Assert.Equal((300_000, 45_000, 13_440, 58_440), (Of(of, "tax.small"), Of(of, "tax.part-one"), Of(of, "tax.on-tax"), Of(of, "balance.payable")));
    }

    /// <summary>C5: a period of 153 days.</summary>
    [Fact]
    public void A_short_period_has_its_part_of_limit_and_allowance()
    {
        var of = new CompanyCase(2024, "bc").Period("2024-04-01", "2024-08-31").Income(240_000).Evaluate();
        Assert.Equal((153, 209_589, 39_822, 24_000, 3_953, 23_425), (Of(of, "scope.days"), Of(of, "group.limit"), Of(of, "tax.deduction"), Of(of, "tax.abatement"), Of(of, "tax.reduction"), Of(of, "tax.part-one")));
        Assert.Equal((7_841, 31_266), (Of(of, "tax.bc-tax"), Of(of, "balance.payable")));
        var classes = new CompanyCase(2024, "bc").Period("2024-04-01", "2024-08-31").Class("8").Bought("8", 40_000, "2024-05-02").Class("50").Bought("50", 9_000, "2024-05-02").Evaluate();
        Assert.Equal(3_353 + 2_075, Of(classes, "depreciation.claimed"));
    }

    /// <summary>Fifty-one weeks have the whole limit; fifty-two weeks are no short period.</summary>
    [Fact]
    public void Fifty_one_weeks_are_a_whole_year_for_the_limit()
    {
        Assert.Equal((500_000, 487_671), (Of(new CompanyCase(2024, "on").Period("2024-01-10", "2024-12-31").Evaluate(), "group.limit"), Of(new CompanyCase(2024, "on").Period("2024-01-11", "2024-12-31").Evaluate(), "group.limit")));
        decimal Claimed(string begin) => Of(new CompanyCase(2025, "on").Period(begin, "2025-12-31").Class("8", 10_000).Evaluate(), "depreciation.claimed");
        Assert.Equal((2_000, 1_989), (Claimed("2025-01-02"), Claimed("2025-01-03")));
    }

    /// <summary>C6: increase of the first year, half-year rule, recapture, immediate expensing.</summary>
    [Fact]
    public void Classes_of_depreciable_property()
    {
        CompanyCase Ontario() => new(2024, "on");
        Assert.Equal(21_300, Of(Ontario().Class("10", 50_000).Bought("10", 20_000, "2023-06-01").Sold("10", 6_000).Evaluate(), "depreciation.claimed"));
        Assert.Equal(11_400, Of(Ontario().Class("8", 50_000).Bought("8", 20_000, "2024-06-01", ("from-related", "yes")).Sold("8", 6_000).Evaluate(), "depreciation.claimed"));
        Assert.Equal(3_500, Of(Ontario().Class("10", 9_000).Sold("10", 12_500).Evaluate(), "depreciation.recapture"));
        var expensed = Ontario().Class("8", 10_000).Bought("8", 20_000, "2023-06-01", ("designated", "yes")).Bought("8", 8_000, "2024-06-01").Evaluate();
        Assert.Equal((23_600, 14_400), (Of(expensed, "depreciation.claimed"), expensed.Amount("depreciation.classes.closing", 0)));
    }

    /// <summary>First-year treatment by day of acquisition and use (ITR 1100(2)): increased, at the rate, halved; class 12 is never increased.</summary>
    [Theory]
    [InlineData("8", "2023-12-31", "no", 3_000)]
    [InlineData("8", "2024-01-01", "no", 2_000)]
    [InlineData("8", "2024-12-31", "no", 2_000)]
    [InlineData("8", "2024-12-31", "yes", 1_000)]
    [InlineData("12", "2023-12-31", "no", 10_000)]
    [InlineData("12", "2024-06-01", "yes", 5_000)]
    [InlineData("10.1", "2024-06-01", "no", 3_000)]
    public void First_year_of_an_addition(string of, string day, string related, int claimed) =>
        Assert.Equal(claimed, Of(new CompanyCase(2024, "on").Class(of).Bought(of, 10_000, day, ("from-related", related)).Evaluate(), "depreciation.claimed"));

    [Fact]
    public void Additions_of_2025_are_increased_again() =>
        Assert.Equal((2_000, 3_000), (
            Of(new CompanyCase(2025, "on").Class("8").Bought("8", 10_000, "2024-12-31", ("in-use", "2025-01-05")).Evaluate(), "depreciation.claimed"),
            Of(new CompanyCase(2025, "on").Class("8").Bought("8", 10_000, "2025-01-01").Evaluate(), "depreciation.claimed")));

    [Fact]
    public void A_passenger_vehicle_has_a_ceiling_and_no_recapture()
    {
        decimal Counted(string day) => new CompanyCase(2025, "on").Class("10.1").Bought("10.1", 60_000, day).Evaluate().Amount("depreciation.additions.counted", 0);
        Assert.Equal((36_000, 37_000, 38_000), (Counted("2023-12-31"), Counted("2024-12-31"), Counted("2025-01-01")));
        var sold = new CompanyCase(2024, "on").Class("10.1", 20_000, left: false).Sold("10.1", 30_000).Evaluate();
        Assert.Equal((3_000, 0, 0, 0), (Of(sold, "depreciation.claimed"), Of(sold, "depreciation.recapture"), Of(sold, "depreciation.terminal"), sold.Amount("depreciation.classes.closing", 0)));
    }

    /// <summary>Of class 10.1 each vehicle is a class of its own (ITR 1101(1af)): the one that is sold has half a claim, the other its own.</summary>
    [Fact]
    public void Each_passenger_vehicle_has_a_class_of_its_own()
    {
        CompanyCase Two(params (string, object)[] second) => new CompanyCase(2024, "on").Class("10.1", 20_000, true, ("asset", "V1")).Class("10.1", 10_000, false, second)
            .Row("depreciation.disposals", ("number", "V2"), ("description", "Van"), ("class", "10.1"), ("proceeds", 4_000));
        var of = Two(("asset", "V2")).Bought("10.1", 60_000, "2024-05-01", ("number", "V1")).Evaluate();
        Assert.Equal((17_100, 1_500, 18_600), (of.Amount("depreciation.classes.claimed", 0), of.Amount("depreciation.classes.claimed", 1), Of(of, "depreciation.claimed")));
        Assert.DoesNotContain(of.Findings, f => f.Id is "class-twice" or "which-asset" or "addition-without-class" or "disposal-without-class");
        CompanyCase.Turns("which-asset", Two(), Two(("asset", "V2")));
        CompanyCase.Turns("class-twice", Two(("asset", "V1")), Two(("asset", "V2")));
        CompanyCase.Turns("disposal-without-class", Two(("asset", "V3")), Two(("asset", "V2")));
    }

    /// <summary>Classes at their rates: buildings by their use, leasehold improvements by the lease, another class at its own.</summary>
    [Theory]
    [InlineData("1", null, 0, 4_000)]
    [InlineData("1-6", null, 0, 6_000)]
    [InlineData("1-10", null, 0, 10_000)]
    [InlineData("13", "by-lease", 12_500, 12_500)]
    [InlineData("13", "by-lease", 100_001, 100_000)]
    [InlineData("other", "rate", 7.5, 7_500)]
    public void Classes_have_their_rates(string of, string? column, double given, int claimed) =>
        Assert.Equal(claimed, Of(new CompanyCase(2024, "on").Class(of, 100_000, true, column is null ? [] : [(column, (decimal)given)]).Evaluate(), "depreciation.claimed"));

    /// <summary>Improvements of leased property know no first-year increase and no half-year rule on the page: their amount is that of the lease.</summary>
    [Fact]
    public void Leasehold_improvements_are_added_as_they_are()
    {
        var of = new CompanyCase(2024, "on").Class("13", 0, true, ("by-lease", 900)).Bought("13", 9_000, "2023-06-01").Bought("13", 1_000, "2024-06-01", ("from-related", "yes")).Evaluate();
        Assert.Equal((10_000, 900, 9_100), (of.Amount("depreciation.classes.plain", 0), Of(of, "depreciation.claimed"), of.Amount("depreciation.classes.closing", 0)));
    }

    [Fact]
    public void A_class_without_assets_is_deducted_as_a_terminal_loss()
    {
        var of = new CompanyCase(2024, "on").Class("8", 10_000, left: false).Sold("8", 4_000).Income(50_000).Evaluate();
        Assert.Equal((6_000, 0, 44_000), (Of(of, "depreciation.terminal"), Of(of, "depreciation.claimed"), Of(of, "reconciliation.net")));
    }

    /// <summary>C7: a loss carried forward.</summary>
    [Fact]
    public void A_loss_of_an_earlier_year_is_used()
    {
        var of = new CompanyCase(2024, "on").Income(210_000).Scope("losses").Row("losses.non-capital", ("year", 2021), ("amount", 85_000)).Evaluate();
        Assert.Equal((125_000, 11_250, 4_000, 15_250), (Of(of, "tax.taxable"), Of(of, "tax.part-one"), Of(of, "tax.on-tax"), Of(of, "balance.payable")));
    }

    [Fact]
    public void Losses_are_used_oldest_first_and_expire()
    {
        var of = new CompanyCase(2024, "on").Income(100_000).Scope("losses").Row("losses.non-capital", ("year", 2023), ("amount", 90_000)).Row("losses.non-capital", ("year", 2004), ("amount", 40_000)).Row("losses.non-capital", ("year", 2003), ("amount", 7_000)).Evaluate();
        decimal At(string column, int row) => of.Amount($"losses.non-capital.{column}", row);
        Assert.Equal((60_000, 30_000), (At("used", 0), At("left", 0)));
        Assert.Equal((40_000, 0), (At("used", 1), At("left", 1)));
        Assert.Equal((0, 0), (At("held", 2), At("used", 2)));
        Assert.Equal((100_000, 0), (Of(of, "losses.used-total"), Of(of, "tax.taxable")));
        Assert.Contains(of.Findings, f => f.Id == "non-capital-expired");
    }

    [Fact]
    public void Net_capital_losses_count_against_taxable_gains_only()
    {
        var of = new CompanyCase(2024, "on").Income(100_000).Scope("losses", "capital-gains").Row("gains.sold", ("description", "Land"), ("date", "2024-05-01"), ("proceeds", 60_000), ("cost", 20_000))
            .Row("losses.capital", ("year", 1999), ("amount", 70_000)).Evaluate();
        Assert.Equal((20_000, 20_000, 100_000), (Of(of, "gains.taxable"), Of(of, "losses.capital-used"), Of(of, "tax.taxable")));
    }

    /// <summary>C8: associated, with 60% of the limit.</summary>
    [Fact]
    public void A_group_shares_one_limit()
    {
        var of = new CompanyCase(2024, "on").Income(350_000).Scope("associated").With("group.percent", 60).Row("group.members", ("name", "Other"), ("bn", "700004518"), ("percent", 40), ("capital", 0), ("investment", 0)).Evaluate();
        Assert.Equal((300_000, 34_500, 15_350, 49_850), (Of(of, "group.limit"), Of(of, "tax.part-one"), Of(of, "tax.on-tax"), Of(of, "balance.payable")));
        CompanyCase Shared(decimal other) => new CompanyCase(2024, "on").Scope("associated").With("group.percent", 60).With("group.percent-of-others", 10).Row("group.members", ("name", "Other"), ("bn", "700004518"), ("percent", other), ("capital", 0), ("investment", 0));
        CompanyCase.Turns("agreement-above-whole", Shared(30.01m), Shared(30));
    }

    /// <summary>C9: investment income.</summary>
    [Fact]
    public void Investment_income_is_taxed_refundably()
    {
        var of = new CompanyCase(2025, "bc").Income(290_000).Scope("investments").With("dividends.property", 60_000).Evaluate();
        Assert.Equal((230_000, 110_200, 6_400, 43_700, 29_000, 0, 43_900), (
            Of(of, "tax.small"), Of(of, "tax.base"), Of(of, "tax.refundable"), Of(of, "tax.deduction"), Of(of, "tax.abatement"), Of(of, "tax.reduction"), Of(of, "tax.part-one")));
        Assert.Equal((11_800, 55_700, 18_400), (Of(of, "tax.bc-tax"), Of(of, "balance.payable"), Of(of, "pools.other-closing")));
    }

    /// <summary>A company that is not Canadian-controlled has neither deduction nor refundable tax; all of its income is at the full rate.</summary>
    [Fact]
    public void Another_company_is_taxed_at_the_general_rate()
    {
        var of = new CompanyCase(2024, "on").With("scope.ccpc", "no").With("scope.type", "public").Income(100_000).Scope("investments").With("dividends.property", 40_000).Evaluate();
        Assert.Equal((100_000, 0, 0, 15_000, 11_500), (Of(of, "tax.full-rate"), Of(of, "tax.small"), Of(of, "tax.refundable"), Of(of, "tax.part-one"), Of(of, "tax.on-tax")));
    }

    [Fact]
    public void Dividends_move_the_pools()
    {
        var of = new CompanyCase(2024, "on").Income(100_000).Scope("investments", "dividends-paid").With("dividends.property", 0)
            .Row("dividends.received", ("payer", "A"), ("eligible", "yes"), ("connected", "no"), ("amount", 30_000)).Row("dividends.received", ("payer", "B"), ("eligible", "no"), ("connected", "no"), ("amount", 6_000))
            .Row("dividends.received", ("payer", "C"), ("eligible", "no"), ("connected", "yes"), ("amount", 12_000))
            .With("dividends.paid-eligible", 12_000).With("dividends.paid-other", 18_000).With("pools.other-opening", 1_000).With("pools.eligible-opening", 500).With("pools.general-opening", 10_000).Evaluate();
        Assert.Equal((11_500, 2_300, 13_800, 48_000), (Of(of, "pools.part-four-eligible"), Of(of, "pools.part-four-other"), Of(of, "pools.part-four"), Of(of, "dividends.deductible")));
        Assert.Equal((4_600, 3_300, 3_600, 11_500), (Of(of, "pools.refund-eligible"), Of(of, "pools.refund-other"), Of(of, "pools.refund-excess"), Of(of, "pools.refund")));
        Assert.Equal((3_800, 0, 28_000), (Of(of, "pools.eligible-closing"), Of(of, "pools.other-closing"), Of(of, "pools.general-closing")));
    }

    /// <summary>C10: filed four complete months late.</summary>
    [Fact]
    public void Late_penalty()
    {
        var late = new CompanyCase(2024, "on").Income(200_000).With("balance.withheld", 6_000).On(new DateOnly(2025, 11, 15)).Evaluate();
        Assert.Equal(18_400, Of(late, "balance.balance"));
        Assert.Equal(1_656, Of(late, "balance.penalty"));
    }

    /// <summary>The days of ITA 150(1)(a) and 157(1)(b): month ends follow month ends; days off move on.</summary>
    [Theory]
    [InlineData("2023-07-01", "2024-06-30", "2024-12-31", "2024-10-01")]
    [InlineData("2023-09-01", "2024-08-31", "2025-02-28", "2024-12-02")]
    [InlineData("2023-08-24", "2024-08-23", "2025-02-24", "2024-11-25")]
    [InlineData("2024-01-01", "2024-12-31", "2025-06-30", "2025-03-31")]
    public void Days_are_reckoned_from_the_end_of_the_period(string begin, string end, string filing, string payment)
    {
        var of = new CompanyCase(2024, "on").Period(begin, end).Income(10_000).With("balance.taxable-before", 0).With("balance.limit-before", 500_000).Evaluate();
        Assert.Equal((filing, payment), (of.Value("scope.filing-day"), of.Value("balance.payment-day")));
    }

    [Fact]
    public void The_balance_is_due_after_two_months_without_the_small_business_deduction()
    {
        CompanyCase With(decimal before) => new CompanyCase(2024, "on").Income(10_000).With("balance.taxable-before", before).With("balance.limit-before", 500_000);
        Assert.Equal("2025-03-31", With(500_000).Evaluate().Value("balance.payment-day"));
        Assert.Equal("2025-02-28", With(500_001).Evaluate().Value("balance.payment-day"));
        Assert.Equal("2025-02-28", With(0).With("tax.claim-small", "no").Evaluate().Value("balance.payment-day"));
    }

    [Fact]
    public void Rounding_each_item_to_dollars_leaves_a_balance_sheet_that_balances()
    {
        var of = new CompanyCase(2024, "on").Items(("1001", 100.50m), ("1060", 100.50m), ("2620", 100.40m), ("3500", 50.30m), ("3660", 50.30m)).Evaluate();
        Assert.Equal((202, 2, 0, 102), (Of(of, "financial.item-2599"), Of(of, "financial.rounding"), Of(of, "financial.difference"), Of(of, "financial.item-3499")));
        Assert.Contains(of.Findings, f => f.Id == "rounded");
        CompanyCase.Turns("balance-sheet", new CompanyCase(2024, "on").Items(("1001", 1_000)), new CompanyCase(2024, "on").Items(("1001", 1_000), ("3500", 1_000)));
    }

    /// <summary>A1 to A5: Alberta.</summary>
    [Fact]
    public void Alberta_taxes_by_its_own_return()
    {
        Assert.Equal(3_600, Of(new AlbertaCase(2024, 180_000).Evaluate(), "tax.tax"));
        Assert.Equal(27_600, Of(new AlbertaCase(2025, 720_000).Evaluate(), "tax.tax"));
        var two = new AlbertaCase(2024, 400_000).With("tax.provinces", 2).With("tax.revenue", 900_000).With("tax.revenue-total", 1_500_000).With("tax.salaries", 210_000).With("tax.salaries-total", 300_000).Evaluate();
        Assert.Equal((260_000, 20_800, 15_600, 5_200), (Of(two, "tax.income"), Of(two, "tax.before"), Of(two, "tax.deduction"), Of(two, "tax.tax")));
        var federal = new CompanyCase(2024, "ab", "bc").Income(400_000).With("allocation.revenue-ab", 900_000).With("allocation.revenue-bc", 600_000).With("allocation.salaries-ab", 210_000).With("allocation.salaries-bc", 90_000).Evaluate();
        Assert.Equal((140_000, 2_800, 260_000), (Of(federal, "tax.bc-income"), Of(federal, "tax.bc-tax"), Of(federal, "tax.ab-income")));
        Assert.Equal(4_438, Of(new AlbertaCase(2024, 150_000, limit: 126_027).Evaluate(), "tax.tax"));
        Assert.Equal(126_027, Of(new CompanyCase(2024, "ab").Period("2024-10-01", "2024-12-31").Evaluate(), "group.limit"));
    }

    /// <summary>A4: more depreciation for Alberta, from pools of its own.</summary>
    [Fact]
    public void Alberta_may_differ_in_what_is_discretionary()
    {
        var of = new AlbertaCase(2024, 96_000).Scope("depreciation-differs").With("reconciliation.federal-allowance", 8_000).Row("depreciation.classes", ("class", "8"), ("opening", 100_000), ("left", "yes")).Evaluate();
        Assert.Equal((-12_000, 84_000, 1_680), (Of(of, "reconciliation.allowance"), Of(of, "reconciliation.net"), Of(of, "tax.tax")));
        Assert.Equal(8_640, Of(new CompanyCase(2024, "ab").Income(96_000).Evaluate(), "tax.part-one"));
        var other = new AlbertaCase(2024, 50_000).Scope("others-differ").Row("reconciliation.others", ("what", "Reserve"), ("effect", "deducted"), ("federal", 1_000), ("alberta", 4_000)).Row("reconciliation.others", ("what", "Income"), ("effect", "added"), ("federal", 500), ("alberta", 700)).Evaluate();
        Assert.Equal(47_200, Of(other, "reconciliation.net"));
    }

    /// <summary>An Ontario company with 100,000: 26.5% in full, less 6% and 8.3% of small business income (ITA 125, ON-TA 31), is 12.2%.</summary>
    [Fact]
    public void The_effective_rate_is_explained()
    {
        var of = new CompanyCase(2024, "on").Income(100_000).Evaluate();
        Assert.Equal((26.5m, 26_500, -14_300, 12_200, 12.2m, 0), (
            Of(of, "effective-rate.full-percent"), Of(of, "effective-rate.at-full"), Of(of, "effective-rate.small"), Of(of, "effective-rate.tax"), Of(of, "effective-rate.percent"), Of(of, "effective-rate.rounding")));
        var loss = new CompanyCase(2024, "on").Items(("8810", 50_000)).Evaluate();
        Assert.Equal((-13_250, 13_250, 0, 0), (Of(loss, "effective-rate.at-full"), Of(loss, "effective-rate.unused"), Of(loss, "effective-rate.tax"), Of(loss, "effective-rate.percent")));
        var fined = new CompanyCase(2024, "bc").Income(1_000_000).With("reconciliation.fines", 10_000).Items(("8523", 2_000)).Evaluate();
        Assert.Equal((2_970, 269_460, 0), (Of(fined, "effective-rate.denied"), Of(fined, "effective-rate.at-full"), Of(fined, "effective-rate.gifts")));
    }

    /// <summary>The steps of any return lead from the full rate to the tax, and what is left to rounding is small.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    [InlineData(6)]
    public void The_steps_lead_to_the_tax(int seed)
    {
        var random = new Random(seed);
        for (var turn = 0; turn < 40; turn++)
        {
            var one = new CompanyCase(2025, random.Next(3) switch { 0 => ["on"], 1 => ["bc"], _ => ["bc", "on"] }).Scope("gifts", "losses", "investments", "dividends-paid", "capital-gains").Income(random.Next(-200_000, 900_000))
                .Items(("8670", random.Next(30_000)), ("8523", random.Next(9_000)), ("8522", random.Next(5_000))).With("gifts.of-year", random.Next(9_000)).With("reconciliation.fines", random.Next(4_000)).With("reconciliation.reserves-closing", random.Next(6_000))
                .Class("8", random.Next(90_000)).Row("losses.non-capital", ("year", 2020), ("amount", random.Next(60_000))).With("dividends.paid-other", random.Next(40_000))
                .With("allocation.revenue-bc", random.Next(1, 100)).With("allocation.revenue-on", random.Next(1, 100)).With("allocation.salaries-bc", random.Next(100)).With("allocation.salaries-on", random.Next(100));
            var of = one.Evaluate();
            var explained = of.Definition.Forms.Single(f => f.Key == "effective-rate").Explained!;
            Assert.Equal(of.Amount(explained.To), of.Amount(explained.From) + explained.Steps.Sum(s => of.Amount(s)));
            Assert.InRange(Of(of, "effective-rate.rounding"), -12, 12);
        }
    }

    /// <summary>Ties of a second period lead to the period before it in the same year, and to its own accounts.</summary>
    [Fact]
    public void A_second_period_follows_the_first()
    {
        var second = Catalogue.Get("ca/company", 2025, Core.Definitions.Periods.Second);
        Assert.Equal([("ca/accounts", 0, "second"), ("ca/company", 0, ""), ("ca/company-alberta", 0, "second")], second.TiedReturns.Where(t => t.Relation is null).Select(t => (t.Definition, t.YearsBack, t.Period)).Order());
        Assert.Equal(((2026, ""), (2025, "")), (Catalogue.After("ca/company", 2025, "second"), Catalogue.Before("ca/company", 2025, "second").Single()));
        Assert.Equal([(2024, "second"), (2024, "")], Catalogue.Before("ca/company", 2025, ""));
        Assert.Equal((2026, ""), Catalogue.After("ca/company", 2025, ""));
        Assert.Null(Catalogue.Find("ca/company", 2025, "q1", out var problem));
        Assert.Contains("second", problem, StringComparison.Ordinal);
    }
}
