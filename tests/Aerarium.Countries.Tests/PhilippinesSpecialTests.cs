using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Tests;

/// <summary>
/// Deductions of laws of their own, losses under the flat methods, tax abroad where one country gives a loss, and the particulars of the annual form. RA 9994,
/// 7277, 10754, 9999 and 8525 and NIRC s. 34, from memory.
/// </summary>
public class PhilippinesSpecialTests
{
    private static bool Has(PhilippinesCase entered, string id) => entered.Evaluate().Findings.Any(f => f.Id == id);

    private static PhilippinesCase Itemised(int year = 2025) => new PhilippinesCase(year).Business("itemised", 1_000_000);

    [Theory]
    [InlineData("discounts-given", 40_000, 40_000)]
    [InlineData("senior-pay", 200_001, 30_000)]
    [InlineData("disabled-pay", 200_002, 50_001)]
    [InlineData("legal-aid", 99_999, 99_999)]
    [InlineData("legal-aid", 100_000, 100_000)]
    [InlineData("legal-aid", 100_001, 100_000)]
    [InlineData("school-gifts", 60_000, 30_000)]
    public void Each_law_deducts_what_it_grants(string line, decimal entered, decimal deducted)
    {
        var evaluation = Itemised().With($"deductions.{line}", entered).Row("deductions.special", ("basis", "RA 0000"), ("amount", 7)).Evaluate();
        Assert.Equal(deducted, evaluation.Amount("deductions.special-by-law"));
        Assert.Equal(deducted + 7, evaluation.Amount("deductions.special-total"));
        Assert.Equal(1_000_000 - deducted - 7, evaluation.Amount("tax.taxable"));
    }

    [Theory]
    [InlineData("senior-pay", "extra-pay-conditions")]
    [InlineData("disabled-pay", "extra-pay-conditions")]
    [InlineData("discounts-given", "discount-conditions")]
    [InlineData("school-gifts", "school-gifts-besides")]
    public void Conditions_are_reminded_of(string line, string note)
    {
        Assert.False(Has(Itemised(), note));
        Assert.True(Has(Itemised().With($"deductions.{line}", 1), note));
    }

    [Theory]
    [InlineData(100_000, false)]
    [InlineData(100_001, true)]
    public void Legal_assistance_above_its_limit_is_told(decimal entered, bool told) => Assert.Equal(told, Has(Itemised().With("deductions.legal-aid", entered), "legal-aid-cut"));

    /// <summary>Until the Ease of Paying Taxes Act (22 January 2024) an expense counted only where tax was withheld (NIRC s. 34(K)).</summary>
    [Theory]
    [InlineData(2023, true)]
    [InlineData(2024, false)]
    public void Withholding_was_a_condition_until_2023(int year, bool told)
    {
        Assert.Equal(told, Has(Itemised(year).Expenses(1), "withheld-condition"));
        Assert.False(Has(Itemised(year), "withheld-condition"));
    }

    /// <summary>Under 8% and the standard deduction no loss is used and time runs on (NIRC s. 34(D)(3)): what is left goes on, and what had its last year is lost and told.</summary>
    [Theory]
    [InlineData("eight")]
    [InlineData("standard")]
    public void Losses_wait_under_the_flat_methods_and_expire(string method)
    {
        var entered = new PhilippinesCase(2025).Business(method, 900_000).Scope("losses")
            .Row("deductions.losses", ("year", 2022), ("loss", 100_000)).Row("deductions.losses", ("year", 2023), ("loss", 40_000));
        var evaluation = entered.Evaluate();
        Assert.Equal((0m, 0m), (evaluation.Amount("deductions.losses.left", 0), evaluation.Amount("deductions.losses.used", 0)));
        Assert.Equal(100_000m, evaluation.Amount("deductions.losses.expiring", 0));
        Assert.Equal(40_000m, evaluation.Amount("deductions.losses.left", 1));
        Assert.Equal(["1"], evaluation.Findings.Where(f => f.Id == "loss-expires").Select(f => f.Row));
        Assert.True(Has(entered, "losses-wait"));
        Assert.DoesNotContain(evaluation.Findings, f => f.Id.StartsWith("deductions.expenses", StringComparison.Ordinal));
    }

    /// <summary>NIRC s. 34(C)(4): the limit of a country by itself, and of all together, where a loss lowers the limit; tax by special rates is no part of either.</summary>
    [Fact]
    public void A_loss_abroad_lowers_the_limit_of_all_countries()
    {
        var gain = new PhilippinesCase(2025).Employer(1_000_000).Scope("foreign-tax").With("scope.status", "resident-citizen")
            .Row("tax.foreign", ("country", "Lagoonia"), ("income", 400_000), ("paid", 60_000));
        // 1,000,000: 102,500 and 25% of 200,000 (NIRC s. 24(A)(2)(a), from 2023): 152,500; its 40% are 61,000.
        Assert.Equal((61_000m, 60_000m), (gain.Evaluate().Amount("tax.foreign-limit"), gain.Evaluate().Amount("tax.foreign-credit")));
        var both = gain.Row("tax.foreign", ("country", "Skerryland"), ("income", -100_000), ("paid", 5_000));
        var evaluation = both.Evaluate();
        Assert.Equal((45_750m, 45_750m), (evaluation.Amount("tax.foreign-limit"), evaluation.Amount("tax.foreign-credit")));
        Assert.Equal((0m, 0m), (evaluation.Amount("tax.foreign.limit", 1), evaluation.Amount("tax.foreign.allowed", 1)));
        Assert.Contains(evaluation.Findings, f => f is { Id: "foreign-loss", Row: "2" });
        var special = both.Scope("special-rate").Row("special.items", ("kind", "special"), ("activity", "Kelp"), ("basis", "RA 0"), ("until", "2027-01-01"), ("gross", 500_000), ("rate", 10)).Evaluate();
        Assert.Equal((202_500m, 45_750m), (special.Amount("tax.due"), special.Amount("tax.foreign-limit")));
    }

    [Fact]
    public void Losses_in_all_countries_leave_no_limit_below_zero()
    {
        var evaluation = new PhilippinesCase(2025).Employer(1_000_000).Scope("foreign-tax").Row("tax.foreign", ("country", "Skerryland"), ("income", -100_000), ("paid", 5_000)).Evaluate();
        Assert.Equal((0m, 0m), (evaluation.Amount("tax.foreign-limit"), evaluation.Amount("tax.foreign-credit")));
    }

    [Theory]
    [InlineData("compensation", true, false, false)]
    [InlineData("compensation", true, true, true)]
    [InlineData("mixed", true, true, false)]
    [InlineData("proprietor", false, true, false)]
    [InlineData("proprietor", true, true, true)]
    [InlineData("professional", true, true, true)]
    public void The_registered_type_goes_with_the_income(string type, bool employed, bool business, bool told) => Assert.Equal(
        told,
        Has(new PhilippinesCase(2025).With("taxpayer.type", type).With("scope.compensation", employed ? "yes" : "no").With("scope.business", business ? "yes" : "no"), "type-differs"));

    [Theory]
    [InlineData("2025-01-01", "2025-12-31", false)]
    [InlineData("2024-12-31", "2025-06-30", true)]
    [InlineData("2025-07-01", "2026-01-01", true)]
    [InlineData("2025-07-02", "2025-07-01", true)]
    public void A_shorter_period_lies_within_the_year(string from, string to, bool told) => Assert.Equal(
        told, Has(new PhilippinesCase(2025).With("taxpayer.short-period", "yes").With("taxpayer.from", from).With("taxpayer.to", to), "period-outside-year"));

    [Fact]
    public void A_whole_year_has_no_period_to_correct() => Assert.False(Has(new PhilippinesCase(2025), "period-outside-year"));

    [Theory]
    [InlineData("Dizon", "Liwayway", false)]
    [InlineData("Dizon", null, true)]
    [InlineData(null, "Liwayway", true)]
    [InlineData(null, null, false)]
    public void A_name_in_parts_has_a_surname_and_a_first_name(string? surname, string? first, bool told)
    {
        var entered = new PhilippinesCase(2025);
        foreach (var (line, text) in new[] { ("surname", surname), ("first-name", first) })
        {
            if (text is not null)
            {
                entered.With($"taxpayer.{line}", text);
            }
        }

        Assert.Equal(told, Has(entered, "name-in-parts"));
    }

    /// <summary>All kinds of ordinary deductions have a line to be filled.</summary>
    [Fact]
    public void Ordinary_deductions_are_a_list_that_is_there_to_be_filled()
    {
        var table = Catalogue.Get("ph/individual-annual", 2025).FindTable("deductions.expenses")!;
        Assert.Equal("deductions.expenses.kind", table.ListedBy!.Key);
        Assert.True(table.ListedBy.Choices!.Count > 25);
        Assert.Equal(LineKind.Choice, table.ListedBy.Kind);
    }
}
