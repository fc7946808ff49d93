using System.Net.Http;
using System.Text;
using System.Text.Json.Nodes;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Philippines.PercentageTax;

namespace Aerarium.Server.Tests;

/// <summary>The percentage tax of a quarter, tied to the income tax of the same quarter, from opening to acknowledgement; and what the stand-in finds wrong with one.</summary>
public sealed class PercentageTaxFilingTests() : ExaminerBench(Agent)
{
    private const string Agent = "30077001900000";

    private static string Document(int year = 2023, string period = "q4")
    {
        var entries = new EntrySet
        {
            Values =
            {
                ["scope.vat-registered"] = "no", ["scope.other-percentage-tax"] = "no", ["scope.eight"] = "yes", ["scope.passed"] = "yes", ["scope.late"] = "no",
                ["taxpayer.tin"] = "20100990000000", ["taxpayer.name"] = "Hiraya Lindenau", ["taxpayer.kind"] = "original", ["taxpayer.district-office"] = "039", ["taxpayer.citizenship"] = "Filipino",
                ["taxpayer.address"] = "17 Lighthouse Road", ["sales.services"] = "800000", ["sales.before"] = "2500000", ["sales.before-to-june"] = "1500000", ["result.withheld"] = "4000",
                ["declaration.true-and-complete"] = "yes", ["declaration.name"] = "Hiraya", ["declaration.capacity"] = "taxpayer", ["declaration.date"] = "2024-01-20",
                ["declaration.agent-tin"] = Agent, ["declaration.agent-name"] = "Practice", ["declaration.contact-name"] = "T", ["declaration.contact-phone"] = "0900",
            },
        };
        return Encoding.UTF8.GetString(new PercentageTaxEReturn().Write(Catalogue.Get(PercentageTaxReturn.ReturnId, year, period).Evaluate(entries, new DateOnly(2024, 1, 20))).Content);
    }

    /// <summary>3% of 1,800,000 and 1% of 1,500,000 until June: 69,000, of which 4,000 is withheld.</summary>
    [Fact]
    public void Sound_ones_are_accepted()
    {
        Assert.Empty(Examine(Document()));
        Assert.Empty(Examine(Document(2022)));
        Assert.Empty(Examine(Document(2020, "q2")));
        Assert.Empty(Examine(Document(2026, "q1")));
    }

    [Theory]
    [InlineData("<Tax>69000.00", "<Tax>99000.00", "ARITHMETIC", "/PercentageTaxReturn/Result/Tax")]
    [InlineData("<BeforeToJune>1500000.00", "<BeforeToJune>1400000.00", "ARITHMETIC", "/PercentageTaxReturn/Result/Tax")]
    [InlineData("<Gross>3300000.00", "<Gross>800000.00", "ARITHMETIC", "/PercentageTaxReturn/Sales/Gross")]
    [InlineData("<Credits>4000.00", "<Credits>4001.00", "ARITHMETIC", "/PercentageTaxReturn/Result/Credits")]
    [InlineData("<Balance>65000.00", "<Balance>64000.00", "ARITHMETIC", "/PercentageTaxReturn/Result/Balance")]
    [InlineData("<PayableNow>65000.00", "<PayableNow>0.00", "ARITHMETIC", "/PercentageTaxReturn/Result/PayableNow")]
    [InlineData("<Quarter>4", "<Quarter>5", "SCHEMA", "/PercentageTaxReturn/Header/Quarter")]
    public void One_wrong_figure_is_rejected(string sound, string wrong, string code, string path) => Rejects(Document(), sound, wrong, code, path);

    /// <summary>The quarter's sales come from the income tax return of the quarter, and what is typed over them is flagged.</summary>
    [Fact]
    public async Task It_follows_the_income_tax_of_the_quarter_and_is_filed_beside_it()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, mosi) = (await practice.SignInAsync(0), await practice.SignInAsync(1));
        var quarter = (await rukia.GetAsync("/api/desk?list=all&search=q1+quarterly+dizon"))["items"]![0]!["id"]!.GetValue<long>();
        var client = (await rukia.GetAsync($"/api/returns/{quarter}"))["clientId"]!.GetValue<long>();
        var id = (await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = PercentageTaxReturn.ReturnId, year = 2025, kind = "original", period = "q1" }))["id"]!.GetValue<long>();
        Assert.Equal(("280000", "8400"), (Value(await rukia.GetAsync($"/api/returns/{id}"), "sales.services"), Value(await rukia.GetAsync($"/api/returns/{id}"), "result.tax")));

        Assert.Equal(("no", "no"), (Value(await rukia.GetAsync($"/api/returns/{id}"), "scope.vat-registered"), Value(await rukia.GetAsync($"/api/returns/{id}"), "scope.other-percentage-tax")));
        Assert.Equal("Authority of the Philippines", (await rukia.GetAsync($"/api/returns/{id}"))["authority"]!.GetValue<string>());
        await rukia.EditAsync(id, ("sales.services", null, "280001"));
        Assert.Contains((await rukia.GetAsync($"/api/returns/{id}"))["findings"]!.AsArray(), f => f!["id"]!.GetValue<string>() == "sales.services:tie");
        await rukia.EditAsync(id, ("sales.services", null, "280000"));
        await rukia.EditAsync(
            id, ("scope.eight", null, "no"), ("scope.late", null, "yes"), ("result.size", null, "micro"), ("charges.paid-on", null, "2026-06-18"),
            ("declaration.true-and-complete", null, "yes"), ("declaration.name", null, "Liwayway Brannock Dizon"), ("declaration.capacity", null, "taxpayer"), ("declaration.date", null, "2026-06-18"));
        await rukia.AcceptWarningsAsync(id);
        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/hand-over");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        Assert.Empty((await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/build"))["built"]!["faults"]!.AsArray());
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted", "rejected"));
    }

    private static string Value(JsonNode view, string line) => view["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == line)!["value"]!.GetValue<string>();
}
