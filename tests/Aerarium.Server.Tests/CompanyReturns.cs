using System.Text.Json.Nodes;

namespace Aerarium.Server.Tests;

/// <summary>Companies of the tests and their returns, over the API.</summary>
internal static class CompanyReturns
{
    private static int _next = 10;

    /// <summary>A company of its own, with a business number nobody else has, and somebody who prepares for it.</summary>
    public static async Task<(Browser Rukia, long Client)> CompanyAsync(SharedPractice shared, string name)
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var client = await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ca", kind = "company", identifier = BusinessNumber(), name });
        return (rukia, client["id"]!.GetValue<long>());
    }

    /// <summary>Opens a return.</summary>
    public static async Task<long> OpenAsync(Browser browser, long client, string definition, int year, string period = "") =>
        (await browser.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition, year, kind = "original", period }))["id"]!.GetValue<long>();

    /// <summary>Sets lines of a return.</summary>
    public static Task<JsonNode> EditAsync(Browser browser, long id, params (string Line, string Value)[] entries) => browser.DoAsync(
        HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = entries.Select(e => Change("set", e.Line, null, null, e.Value)) });

    /// <summary>Adds a row and fills it.</summary>
    public static Task<JsonNode> AddAsync(Browser browser, long id, string section, string row, params (string Column, string Value)[] cells) => browser.DoAsync(
        HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = cells.Select(c => Change("set", $"{section}.{c.Column}", row, null, c.Value)).Prepend(Change("add-row", null, row, section, null)) });

    /// <summary>A value of a return that was read.</summary>
    public static string? Value(JsonNode view, string line, string? row = null) =>
        view["values"]!.AsArray().SingleOrDefault(v => v!["line"]!.GetValue<string>() == line && v["row"]?.GetValue<string>() == row)?["value"]?.GetValue<string>();

    /// <summary>The rows of a section.</summary>
    public static IReadOnlyList<string> Rows(JsonNode view, string section) =>
        [.. view["rows"]!.AsArray().Where(r => r!["section"]!.GetValue<string>() == section).SelectMany(r => r!["rows"]!.AsArray().Select(n => n!.GetValue<string>()))];

    private static object Change(string kind, string? line, string? row, string? section, string? value) => new { kind, line, row, section, position = (int?)null, value, seen = long.MaxValue };

    private static string BusinessNumber()
    {
        var digits = $"7300{Interlocked.Increment(ref _next):0000}";
        var sum = digits.Reverse().Select((c, index) => index % 2 == 0 ? ((c - '0') * 2 > 9 ? ((c - '0') * 2) - 9 : (c - '0') * 2) : c - '0').Sum();
        return $"{digits}{(10 - (sum % 10)) % 10}";
    }
}
