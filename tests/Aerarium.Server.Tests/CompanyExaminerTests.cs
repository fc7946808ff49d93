using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Canada.CompanyAlberta;

namespace Aerarium.Server.Tests;

/// <summary>Both simulated authorities judge a company's returns by rules of their own: one sound return each, altered one figure at a time; the federal one in one file, as it is still taken.</summary>
public sealed class CompanyExaminerTests() : ExaminerBench("700000458")
{
    private static readonly Dictionary<string, string> Declared = new()
    {
        ["declaration.true-and-complete"] = "yes",
        ["declaration.name"] = "Isla",
        ["declaration.capacity"] = "officer",
        ["declaration.date"] = "2026-06-01",
        ["declaration.agent-number"] = "700000458",
        ["declaration.agent-name"] = "Practice",
        ["declaration.contact-name"] = "T",
        ["declaration.contact-phone"] = "604",
        ["company.bn"] = "712045012",
        ["company.name"] = "Tern Island Boatworks Ltd",
        ["company.address"] = "4 Slipway Lane",
        ["company.kind"] = "original",
        ["scope.begin"] = "2025-01-01",
        ["scope.end"] = "2025-12-31",
        ["scope.losses"] = "yes",
        ["scope.gifts"] = "yes",
        ["scope.instalments"] = "yes",
    };

    private static string Federal(params (string Line, string Value)[] otherwise)
    {
        var entries = new EntrySet
        {
            Values = new(Declared)
            {
                ["scope.first"] = "no",
                ["scope.final"] = "no",
                ["scope.type"] = "ccpc",
                ["scope.ccpc"] = "yes",
                ["scope.resident"] = "yes",
                ["scope.associated"] = "yes",
                ["scope.bc"] = "yes",
                ["scope.ab"] = "yes",
                ["scope.on"] = "yes",
                ["scope.foreign-property"] = "no",
                ["scope.depreciable"] = "yes",
                ["scope.investments"] = "yes",
                ["scope.capital-gains"] = "yes",
                ["scope.dividends-paid"] = "yes",
                ["company.account"] = "712045012RC0001",
                ["company.activity"] = "336612",
                ["company.product"] = "Hulls",
                ["company.language"] = "english",
                ["company.officer"] = "Isla",
                ["company.officer-position"] = "President",
                ["company.officer-phone"] = "604",
                ["declaration.authorised"] = "yes",
                ["declaration.authorised-on"] = "2026-06-01",
                ["financial.item-8000"] = "900000",
                ["financial.item-9060"] = "200000",
                ["financial.item-8523"] = "1001",
                ["financial.item-8522"] = "5000",
                ["financial.item-1001"] = "693998",
                ["financial.item-2680"] = "0",
                ["gifts.of-year"] = "5000",
                ["dividends.property"] = "40000",
                ["dividends.paid-eligible"] = "0",
                ["dividends.paid-other"] = "3000",
                ["group.percent"] = "60",
                ["group.capital"] = "1",
                ["tax.claim-small"] = "yes",
                ["allocation.revenue-bc"] = "300000",
                ["allocation.revenue-ab"] = "300000",
                ["allocation.revenue-on"] = "300000",
                ["allocation.salaries-bc"] = "100000",
                ["allocation.salaries-ab"] = "60000",
                ["allocation.salaries-on"] = "40000",
            },
            Rows =
            {
                ["depreciation.classes"] = [Row("1", ("class", "8"), ("opening", "10000"), ("left", "yes"))],
                ["gains.sold"] = [Row("1", ("description", "Land"), ("date", "2025-05-01"), ("proceeds", "9000"), ("cost", "4000"))],
                ["losses.non-capital"] = [Row("1", ("year", "2023"), ("amount", "11000"))],
                ["balance.instalments"] = [Row("1", ("date", "2025-06-30"), ("amount", "1000"))],
            },
        };
        foreach (var (line, value) in otherwise)
        {
            entries.Values[line] = value;
        }

        return Encoding.UTF8.GetString(new CompanyEReturn(oneFile: true).Write(Catalogue.Get(CompanyReturn.ReturnId, 2025).Evaluate(entries, new DateOnly(2026, 6, 1))).Content);
    }

    private static string Alberta()
    {
        var entries = new EntrySet
        {
            Values = new(Declared)
            {
                ["scope.first"] = "no",
                ["scope.establishment"] = "yes",
                ["scope.federal-filed"] = "yes",
                ["scope.third-party"] = "yes",
                ["scope.depreciation-differs"] = "yes",
                ["scope.others-differ"] = "yes",
                ["company.account"] = "2004561239",
                ["company.contact"] = "Bo",
                ["company.contact-title"] = "Bookkeeper",
                ["company.contact-phone"] = "403",
                ["company.filer-type"] = "accountant",
                ["company.preparer"] = "Practice",
                ["company.preparer-phone"] = "604",
                ["company.preparer-address"] = "1 Reef",
                ["declaration.position"] = "President",
                ["reconciliation.federal"] = "100000",
                ["reconciliation.federal-allowance"] = "2000",
                ["gifts.of-year"] = "500",
                ["tax.provinces"] = "2",
                ["tax.ccpc"] = "yes",
                ["tax.claim-small"] = "yes",
                ["tax.active"] = "100000",
                ["tax.limit"] = "500000",
                ["tax.revenue"] = "3",
                ["tax.revenue-total"] = "4",
                ["tax.salaries"] = "1",
                ["tax.salaries-total"] = "4",
            },
            Rows =
            {
                ["depreciation.classes"] = [Row("1", ("class", "8"), ("opening", "20000"), ("left", "yes"))],
                ["reconciliation.others"] = [Row("1", ("what", "Reserve"), ("effect", "deducted"), ("federal", "10"), ("alberta", "30"))],
                ["balance.instalments"] = [Row("1", ("date", "2025-06-30"), ("amount", "100"))],
            },
        };
        return Encoding.UTF8.GetString(new AlbertaEReturn().Write(Catalogue.Get(AlbertaReturn.ReturnId, 2025).Evaluate(entries, new DateOnly(2026, 6, 1))).Content);
    }

    private static EntryRow Row(string id, params (string Column, string Value)[] cells) => new(id) { Values = cells.ToDictionary(c => c.Column, c => c.Value) };

    [Fact]
    public void Sound_returns_are_accepted_by_both()
    {
        Assert.Empty(Examine(Federal()));
        Assert.Empty(Examine(Alberta()));
    }

    [Theory]
    [InlineData("<Item2599>693998.00", "<Item2599>693999.00", "ARITHMETIC", "/CompanyReturn/Statements/Item2599")]
    [InlineData("<Item9368>206001.00", "<Item9368>206002.00", "ARITHMETIC", "/CompanyReturn/Statements/Item9368")]
    [InlineData("<Meals>501.00", "<Meals>500.00", "ARITHMETIC", "/CompanyReturn/Reconciliation/Meals")]
    [InlineData("<Allowance>2000.00", "<Allowance>2100.00", "ARITHMETIC", "/CompanyReturn/Reconciliation/Allowance")]
    [InlineData("<Claimed>2000.00", "<Claimed>2001.00", "ARITHMETIC", "/CompanyReturn/Depreciation/Class/Claimed")]
    [InlineData("<UsedTotal>11000.00", "<UsedTotal>11001.00", "ARITHMETIC", "/CompanyReturn/Losses/UsedTotal")]
    [InlineData("<Small>300000.00", "<Small>300001.00", "ARITHMETIC", "/CompanyReturn/Tax/FullRate")]
    [InlineData("<OnTax>", "<OnTax>1", "ARITHMETIC", "/CompanyReturn/Tax/OnTax")]
    [InlineData("<BcTax>", "<BcTax>1", "ARITHMETIC", "/CompanyReturn/Tax/BcTax")]
    [InlineData("<AbIncome>", "<AbIncome>1", "ARITHMETIC", "/CompanyReturn/Tax/AbIncome")]
    [InlineData("<InstalmentsPaid>1000.00", "<InstalmentsPaid>1001.00", "ARITHMETIC", "/CompanyReturn/Balance/InstalmentsPaid")]
    [InlineData("<Account>712045012RC", "<Account>712045020RC", "ACCOUNT", "/CompanyReturn/Company/Account")]
    [InlineData("<End>2025-12-31", "<End>2026-12-31", "PERIOD", "/CompanyReturn/Header/End")]
    [InlineData("<Percent>60", "<Percent>100.5", "SCHEMA", "/CompanyReturn/BusinessLimit/Percent")]
    [InlineData("<Ccpc>true", "<Ccpc>false", "SMALLBUSINESS", "/CompanyReturn/Tax/Small")]
    [InlineData("<Signed>true", "<Signed>false", "AUTHORISATION", "/CompanyReturn/Authorisation/Signed")]
    [InlineData("<Name>Tern Island Boatworks Ltd", "<Name>Tern Island Boat Works Ltd", "NAME", "/CompanyReturn/Company/Name")]
    public void What_does_not_agree_is_rejected_federally(string sound, string wrong, string code, string path) =>
        Rejects(Federal(("group.percent-of-others", "40")), sound, wrong, code, path);

    [Fact]
    public void A_group_that_shares_out_more_than_the_whole_is_rejected() =>
        Assert.Contains(Examine(Federal(("group.percent-of-others", "41"))), r => r.Code == "AGREEMENT");

    [Theory]
    [InlineData("<Account>2004561239", "<Account>2004561238", "ACCOUNT", "/AlbertaReturn/Company/Account")]
    [InlineData("<Net>97980.00", "<Net>97981.00", "ARITHMETIC", "/AlbertaReturn/Reconciliation/Net")]
    [InlineData("<OthersTotal>-20.00", "<OthersTotal>-21.00", "ARITHMETIC", "/AlbertaReturn/Reconciliation/OthersTotal")]
    [InlineData("<Income>48740.00", "<Income>48741.00", "ARITHMETIC", "/AlbertaReturn/Tax/Income")]
    [InlineData("<Before>3899.00", "<Before>3900.00", "ARITHMETIC", "/AlbertaReturn/Tax/Before")]
    [InlineData("<Deduction>2924.00", "<Deduction>2925.00", "ARITHMETIC", "/AlbertaReturn/Tax/Deduction")]
    [InlineData("<Establishment>true", "<Establishment>false", "ESTABLISHMENT", "/AlbertaReturn/Header/Establishment")]
    public void What_does_not_agree_is_rejected_by_Alberta(string sound, string wrong, string code, string path) => Rejects(Alberta(), sound, wrong, code, path);
}
