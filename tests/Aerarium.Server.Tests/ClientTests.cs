using System.Net;

namespace Aerarium.Server.Tests;

public class ClientTests
{
    [Theory]
    [InlineData("A12345678C", "A Name", "", "", "identifier", "nine digits")]
    [InlineData("A001100210N", "A Name", "", "", "identifier", "already has this identifier")]
    [InlineData("A555000111B", " ", "", "", "name", "official name")]
    [InlineData("A555000111B", "A Name", "31/02/1990", "", "birthDate", "not a date of the calendar")]
    [InlineData("A555000111B", "A Name", "1/1/2090", "", "birthDate", "future")]
    [InlineData("A555000111B", "A Name", "", "nobody", "email", "not an e-mail address")]
    public async Task Wrong_particulars_are_told_by_field_and_nothing_is_stored(
        string identifier, string name, string birthDate, string email, string field, string reason)
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var before = (await rukia.GetAsync("/api/clients"))["total"]!.GetValue<long>();
        var result = await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier, name, birthDate, email });
        var problem = Assert.Single(result["problems"]!.AsArray())!;
        Assert.Equal(field, problem["field"]!.GetValue<string>());
        Assert.Contains(reason, problem["message"]!.GetValue<string>());
        Assert.Equal(before, (await rukia.GetAsync("/api/clients"))["total"]!.GetValue<long>());
    }

    [Fact]
    public async Task Particulars_follow_into_open_returns_unless_typed_over_and_withdraw_an_approval()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var id = await rukia.ReturnOfAsync("Zuri", 2025);
        Assert.Equal("approved", await rukia.StageAsync(id));
        var client = (await rukia.GetAsync($"/api/returns/{id}"))["clientId"]!.GetValue<long>();
        var particulars = (await rukia.GetAsync($"/api/clients/{client}"))["particulars"]!;
        particulars["phone"] = "0711 222 333";
        var saved = await rukia.DoAsync(HttpMethod.Put, $"/api/clients/{client}", particulars);
        Assert.Equal(1, saved["returnsChanged"]!.GetValue<int>());
        Assert.Equal("open", await rukia.StageAsync(id));

        await rukia.SetAsync(id, "taxpayer.phone", "0799 999 999");
        var (status, answer) = await rukia.SendAsync(HttpMethod.Put, $"/api/clients/{client}", particulars);
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("somebody else", answer!["detail"]!.GetValue<string>());
        particulars = (await rukia.GetAsync($"/api/clients/{client}"))["particulars"]!;
        particulars["phone"] = "0744 444 444";
        await rukia.DoAsync(HttpMethod.Put, $"/api/clients/{client}", particulars);
        Assert.Contains((await rukia.GetAsync($"/api/returns/{id}"))["values"]!.AsArray(), v => v!["line"]!.GetValue<string>() == "taxpayer.phone" && v["value"]!.GetValue<string>() == "0799 999 999");
    }
}
