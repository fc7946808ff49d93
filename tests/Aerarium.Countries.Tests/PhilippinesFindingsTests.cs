using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Countries.Tests;

/// <summary>Findings of the annual return that compare it with other papers: quarters (W16), elections (N07), attachments (E22), substituted filing (N05) of the law sheet.</summary>
public class PhilippinesFindingsTests
{
    private static bool Has(PhilippinesCase entered, string id) => entered.Evaluate().Findings.Any(f => f.Id == id);

    private static PhilippinesCase Year(decimal quarters, decimal? last, decimal year = 800_000)
    {
        var entered = new PhilippinesCase(2025).Business("itemised", year).With("tax.quarters-gross", quarters);
        return last is { } given ? entered.With("tax.last-quarter-gross", given) : entered;
    }

    [Theory]
    [InlineData(600_000, 200_000, false)]
    [InlineData(600_000, 200_001, false)]
    [InlineData(600_000, 200_002, true)]
    [InlineData(600_000, 199_998, true)]
    public void Quarters_and_year_agree_to_the_peso(decimal quarters, decimal last, bool differs) => Assert.Equal(differs, Has(Year(quarters, last), "quarters-differ"));

    [Theory]
    [InlineData(800_001, false)]
    [InlineData(800_002, true)]
    public void Three_quarters_are_never_more_than_the_year(decimal quarters, bool exceeds) => Assert.Equal(exceeds, Has(Year(quarters, null), "quarters-exceed-year"));

    [Theory]
    [InlineData("itemised", 3_000_000, true)]
    [InlineData("itemised", 3_000_001, false)]
    [InlineData("standard", 900_000, false)]
    [InlineData("eight", 900_000, false)]
    public void Without_an_election_the_table_holds_for_the_year(string method, decimal receipts, bool told) =>
        Assert.Equal(told, Has(new PhilippinesCase(2025).Business(method, receipts), "not-elected"));

    /// <summary>600,000: 22,500 and 20% of 200,000 (NIRC s. 24(A)(2)(a), from 2023; from memory).</summary>
    [Theory]
    [InlineData(62_500, true)]
    [InlineData(62_499, false)]
    public void Who_had_all_withheld_by_one_employer_need_not_file(decimal withheld, bool told)
    {
        var one = new PhilippinesCase(2025).Employer(600_000, withheld: withheld).With("scope.business", "no").With("scope.joint", "no").With("scope.special-rate", "no");
        Assert.Equal(told, Has(one, "not-needed"));
        Assert.False(Has(one.With("scope.special-rate", "yes"), "not-needed"));
    }

    [Fact]
    public void Two_employers_file_whatever_was_withheld() =>
        Assert.False(Has(new PhilippinesCase(2025).Employer(300_000, withheld: 62_500).Employer(300_000), "not-needed"));

    [Theory]
    [InlineData(0, true)]
    [InlineData(1, true)]
    [InlineData(2, false)]
    public void A_certificate_goes_with_the_return_for_every_employer(int attached, bool missing) => Assert.Equal(
        missing, Has(new PhilippinesCase(2025).Employer(300_000).Employer(200_000).With("attachments.compensation-certificates", attached), "certificates-missing"));

    [Theory]
    [InlineData("itemised", 3_000_001, 0, true)]
    [InlineData("itemised", 3_000_001, 1, false)]
    [InlineData("itemised", 3_000_000, 0, false)]
    [InlineData("standard", 3_000_001, 0, false)]
    public void Audited_statements_go_with_itemised_deductions_above_the_ceiling(string method, decimal receipts, int attached, bool missing)
    {
        var entered = new PhilippinesCase(2025).Business(method, receipts).With("attachments.financial-statements", attached);
        Assert.Equal(missing, Has(entered, "unaudited"));
    }

    [Fact]
    public void Attachments_are_counted_and_an_override_belongs_to_its_line()
    {
        var definition = Catalogue.Get("ph/individual-annual", 2025);
        Assert.All(definition.Lines.Where(l => l.CountsAttachments), line => Assert.Equal((LineKind.Count, false), (line.Kind, line.IsComputed)));
        var surcharge = definition.LineOf("charges.surcharge");
        Assert.Equal((surcharge, surcharge), (surcharge.Override!.Amount.Overrides, surcharge.Override.Reason.Overrides));
        Assert.Equal(surcharge.Number, surcharge.Override.Amount.Number);
        Assert.Contains("204(B)", surcharge.Override.Judgement);
    }
}
