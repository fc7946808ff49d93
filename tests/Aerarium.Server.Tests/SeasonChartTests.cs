using System.Globalization;
using System.Text.Json.Nodes;

namespace Aerarium.Server.Tests;

/// <summary>The season in charts: counts that are those of the Desk, days from opening to filing, and what comparing alternatives found, held against each return's own alternatives.</summary>
public sealed class SeasonChartTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    private static decimal Amount(JsonNode? text) => decimal.Parse(text!.GetValue<string>(), CultureInfo.InvariantCulture);

    [Fact]
    public async Task Returns_by_stage_are_those_of_the_Desk()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var season = await rukia.GetAsync("/api/desk/season");
        var (from, to) = (season["from"]!.GetValue<string>(), season["to"]!.GetValue<string>());
        Assert.Equal(("2025-07-01", "2026-12-31"), (from, to));
        var desk = (await rukia.GetAsync("/api/desk?list=all&limit=200"))["items"]!.AsArray()
            .Select(r => (Due: r!["due"]!.GetValue<string>(), Stage: r["stage"]!.GetValue<string>()))
            .Where(r => string.CompareOrdinal(r.Due, from) >= 0 && string.CompareOrdinal(r.Due, to) <= 0)
            .GroupBy(r => (Month: r.Due[..7], r.Stage)).Select(g => (g.Key.Month, g.Key.Stage, Count: (long)g.Count())).Order().ToList();
        Assert.True(desk.Count > 5);
        Assert.Equal(desk, season["stages"]!.AsArray().Select(s => (s!["month"]!.GetValue<string>(), s["stage"]!.GetValue<string>(), s["returns"]!.GetValue<long>())).Order());
    }

    [Fact]
    public async Task Days_to_filing_are_counted_of_accepted_returns()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        await Wait.UntilAsync(async () => (await rukia.GetAsync("/api/desk/summary"))["counts"]!["accepted"]!.GetValue<int>() > 4, "Nothing was accepted.");
        var accepted = (await rukia.GetAsync("/api/desk?list=all&limit=200"))["items"]!.AsArray().Count(r => r!["stage"]!.GetValue<string>() == "accepted" && string.CompareOrdinal(r["due"]!.GetValue<string>(), "2025-07-01") >= 0);
        var season = await rukia.GetAsync("/api/desk/season");
        Assert.InRange(season["spans"]!.AsArray().Sum(s => s!["returns"]!.GetValue<long>()), accepted, accepted + 10);
        Assert.Equal(0, season["medianDays"]!.GetValue<int>());
        Assert.Equal([(0, 3), (4, 7), (8, 14), (15, 30), (31, 60), (61, -1)], season["spans"]!.AsArray().Select(s => (s!["from"]!.GetValue<int>(), s["to"]?.GetValue<int>() ?? -1)));
    }

    /// <summary>The annual return of the Philippines by the standard deduction: what it costs less than the dearest open method, other taxes counted, as its own alternatives say.</summary>
    [Fact]
    public async Task Tax_found_is_what_the_alternatives_of_the_returns_say()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        const string Title = "Philippines, annual return of an individual";
        var (found, left) = (0m, 0m);
        foreach (var item in (await rukia.GetAsync("/api/desk?list=all&limit=200"))["items"]!.AsArray().Where(r => r!["title"]!.GetValue<string>() == Title))
        {
            var elections = (await rukia.GetAsync($"/api/returns/{item!["id"]!.GetValue<long>()}/alternatives"))["elections"]!.AsArray();
            var spreads = elections.Select(e => e!["choices"]!.AsArray()).Where(c => c.Any(x => x!["chosen"]!.GetValue<bool>())).Select(choices =>
            {
                static decimal Cost(JsonNode? c) => Amount(c!["figures"]!.AsArray()[^1]!["amount"]);
                var chosen = Cost(choices.First(c => c!["chosen"]!.GetValue<bool>()));
                var open = choices.Where(c => c!["hindrances"]!.AsArray().Count == 0 || c["chosen"]!.GetValue<bool>()).Select(Cost).ToList();
                return (Found: open.Max() - chosen, Left: chosen - open.Min());
            }).OrderByDescending(s => s.Found + s.Left).ToList();
            if (spreads.Count > 0)
            {
                (found, left) = (found + spreads[0].Found, left + spreads[0].Left);
            }
        }

        Assert.True(found > 0);
        var view = (await rukia.GetAsync("/api/desk/season"))["found"]!.AsArray().Single(f => f!["title"]!.GetValue<string>() == Title)!;
        Assert.Equal((found, left), (Amount(view["found"]), Amount(view["left"])));
    }
}
