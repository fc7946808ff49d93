namespace Aerarium.Server.Tests;

/// <summary>A practice chooses how figures are written in the returns of a country: typed, shown, told and printed so; what is kept stays the same.</summary>
public class NumberWritingTests
{
    private const string Particulars = "/api/practice/particulars/de";

    [Fact]
    public async Task Figures_are_written_with_a_comma_where_the_practice_chooses_it()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, tarek) = (await practice.SignInAsync(0), await practice.SignInAsync(3));
        var client = (await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "de", kind = "individual", identifier = "20364598157", name = "Ingwer Kliffendorn" }))["id"]!.GetValue<long>();
        var id = (await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "de/individual", year = 2025, kind = "original" }))["id"]!.GetValue<long>();
        await rukia.EditAsync(id, ("scope.employed", null, "yes"), ("scope.prepayments", null, "yes"), ("balance.prepaid", null, "1,234.50"));
        Assert.Equal("1234.5", await ValueAsync());
        Assert.Equal(".", await DecimalAsync());

        await tarek.DoAsync(HttpMethod.Put, Particulars, new { values = new Dictionary<string, string?> { ["numbers"] = "comma" } });
        Assert.Equal(("1234.5", ","), (await ValueAsync(), await DecimalAsync()));
        await rukia.EditAsync(id, ("balance.prepaid", null, "12.345,67"));
        Assert.Equal("12345.67", await ValueAsync());
        var refused = await rukia.EditAsync(id, ("balance.prepaid", null, "1,234.50"));
        Assert.Contains("between thousands", refused["refusals"]![0]!["message"]!.GetValue<string>(), StringComparison.Ordinal);
        var findings = (await rukia.GetAsync($"/api/returns/{id}"))["findings"]!.AsArray().Select(f => f!["message"]!.GetValue<string>());
        Assert.Contains(findings, f => f.Contains("12.345,67", StringComparison.Ordinal));

        // A statement typed box by box is read the same way; one from a file has a point, as files do.
        var boxes = new Dictionary<string, string?> { ["employer"] = "Weavers", ["from"] = "2025-01-01", ["until"] = "2025-12-31", ["taxClass"] = "1", ["line3"] = "41.000,50", ["line4"] = "5.100" };
        var saved = await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/statements", new { kind = "wage-statement", year = 2025, identifier = "20364598157", boxes, revision = 0 });
        Assert.Equal(("41000.5", "5100"), (saved["statements"]![0]!["boxes"]!["line3"]!.GetValue<string>(), saved["statements"]![0]!["boxes"]!["line4"]!.GetValue<string>()));

        // Other countries are written as before.
        var kenya = await rukia.GetAsync("/api/statement-kinds/ke");
        Assert.Equal(".", kenya[0]!["numbers"]!["decimal"]!.GetValue<string>());

        async Task<string> ValueAsync() =>
            (await rukia.GetAsync($"/api/returns/{id}"))["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == "balance.prepaid")!["value"]!.GetValue<string>();

        async Task<string> DecimalAsync() => (await rukia.GetAsync($"/api/returns/{id}"))["numbers"]!["decimal"]!.GetValue<string>();
    }
}
