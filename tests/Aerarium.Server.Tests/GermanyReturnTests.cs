namespace Aerarium.Server.Tests;

/// <summary>A return of Germany from one year into the next, through the interface.</summary>
public class GermanyReturnTests
{
    /// <summary>Numbers that usually last, such as distance and usual days, and equipment still written off are taken over; amounts of the year are not.</summary>
    [Fact]
    public async Task What_usually_lasts_is_taken_over_to_be_looked_at_again()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var client = (await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "de", kind = "individual", identifier = "20364598157", name = "Ingwer Kliffendorn" }))["id"]!.GetValue<long>();
        var before = (await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "de/individual", year = 2024, kind = "original" }))["id"]!.GetValue<long>();
        await rukia.EditAsync(before, ("scope.employed", null, "yes"), ("scope.commuting", null, "yes"), ("scope.tools", null, "yes"), ("work-costs.leave", null, "31"));
        await rukia.DoAsync(HttpMethod.Patch, $"/api/returns/{before}/entries", new
        {
            changes = new object[]
            {
                new { kind = "add-row", section = "work-costs.ways", row = "way-1", seen = long.MaxValue },
                new { kind = "add-row", section = "work-costs.tools", row = "tool-1", seen = long.MaxValue },
            },
        });
        await rukia.EditAsync(before,
            ("work-costs.ways.place", "way-1", "Weavers"), ("work-costs.ways.days", "way-1", "210"), ("work-costs.ways.distance", "way-1", "26"), ("work-costs.ways.tickets", "way-1", "480"),
            ("work-costs.tools.what", "tool-1", "Desk"), ("work-costs.tools.bought", "tool-1", "2024-03-15"), ("work-costs.tools.net", "tool-1", "1008"), ("work-costs.tools.gross", "tool-1", "1200"), ("work-costs.tools.life", "tool-1", "3"));
        var after = (await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{before}/roll-forward"))["id"]!.GetValue<long>();
        var values = (await rukia.GetAsync($"/api/returns/{after}"))["values"]!.AsArray().Where(v => v!["row"] is not null && v["value"] is not null)
            .ToDictionary(v => v!["line"]!.GetValue<string>(), v => v!["value"]!.GetValue<string>());
        Assert.Equal(
            ("Weavers", "210", "26", "1200", "400"),
            (values["work-costs.ways.place"], values["work-costs.ways.days"], values["work-costs.ways.distance"], values["work-costs.tools.gross"], values["work-costs.tools.used"]));
        Assert.False(values.ContainsKey("work-costs.ways.tickets"));
    }
}
