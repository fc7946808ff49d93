using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>The figures of the law a return rests on, and who held them against a printed source.</summary>
public sealed class LawTests : IAsyncLifetime
{
    private const string Path = "/api/law/de/individual/2025";
    private Practice _practice = null!;
    private Browser _rukia = null!;
    private Browser _mosi = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        (_rukia, _mosi) = (await _practice.SignInAsync(0), await _practice.SignInAsync(1));
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    private static JsonNode FigureOf(JsonNode view, string key) => view["groups"]!.AsArray().SelectMany(g => g!["figures"]!.AsArray()).Single(f => f!["key"]!.GetValue<string>() == key)!;

    private static string Of(JsonNode figure, string name) => figure[name]!.GetValue<string>();

    [Fact]
    public async Task Figures_stand_beside_those_of_the_year_before_with_what_uses_them()
    {
        var view = await _rukia.GetAsync(Path);
        Assert.Equal((2024, 0), (view["beside"]!.GetValue<int>(), view["verified"]!.GetValue<int>()));
        var cap = FigureOf(view, "old-age-cap");
        Assert.Equal(("29,344", "27,566", true, "certain"), (Of(cap, "value"), Of(cap, "before"), cap["changed"]!.GetValue<bool>(), Of(cap, "confidence")));
        Assert.Equal("tax.old-age-capped", Of(cap["usedBy"]![0]!, "line"));
        var share = FigureOf(view, "surcharge-rate");
        Assert.Equal(("5.5%", false), (Of(share, "value"), share["changed"]!.GetValue<bool>()));

        // The tariff with its zones, and what it takes: the top rate of EStG s. 32a(1).
        var tariff = FigureOf(view, "income-tax-tariff");
        Assert.Equal("up to 12,096", Of(tariff["rows"]![0]!, "range"));
        Assert.Equal("up to 11,784", Of(tariff["rowsBefore"]![0]!, "range"));
        Assert.Equal(45m, tariff["curve"]!.AsArray()[^1]!["ofNext"]!.GetValue<decimal>());
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Get, "/api/law/de/individual/1990")).Status);

        // Beside another year, and a year with none before it.
        Assert.Equal("25,639", Of(FigureOf(await _rukia.GetAsync($"{Path}?beside=2022"), "old-age-cap"), "before"));
        Assert.Null((await _rukia.GetAsync("/api/law/de/individual/2022"))["beside"]);
    }

    /// <summary>What a scenario does, part by part, is what the returns come to one by one; nothing of them changes.</summary>
    /// <summary>The use of a figure is shown on the return opened last that has entries; without one there is nothing to lead to.</summary>
    [Fact]
    public async Task The_use_of_figures_is_shown_on_a_return_of_the_practice()
    {
        var on = await _rukia.GetAsync("/api/law/ke/employment-income/2025/shown-on");
        var latest = (await _rukia.GetAsync("/api/desk?list=all&limit=200"))["items"]!.AsArray()
            .Where(r => r!["title"]!.GetValue<string>() == "Kenya, employee's return" && r["year"]!.GetValue<int>() == 2025 && r["stageLabel"]!.GetValue<string>() != "not started").Max(r => r!["id"]!.GetValue<long>());
        Assert.Equal(latest, on["id"]!.GetValue<long>());
        Assert.False(string.IsNullOrEmpty(on["client"]!.GetValue<string>()));
        Assert.Null((await _rukia.GetAsync("/api/law/ke/employment-income/2022/shown-on"))["id"]);
        Assert.Equal("tax", FigureOf(await _rukia.GetAsync(Path), "old-age-cap")["usedBy"]![0]!["page"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_scenario_says_which_returns_move_and_changes_none()
    {
        const string Kenya = "/api/law/ke/employment-income/2025/effect";
        var relief = new { changes = new[] { new { figure = "personal-relief", value = "30,000" } } };
        var (status, effect) = await _rukia.SendAsync(HttpMethod.Post, Kenya, relief);
        Assert.Equal(HttpStatusCode.OK, status);
        var moved = effect!["moved"]!.AsArray();
        Assert.True(moved.Count > 3);
        Assert.Equal(effect["total"]!.GetValue<int>(), effect["checked"]!.GetValue<int>());
        Assert.Null(effect["next"]);
        Assert.Contains(moved, m => m!["filed"]!.GetValue<bool>());
        foreach (var item in moved.Take(5))
        {
            var view = await _rukia.GetAsync($"/api/returns/{item!["returnId"]!.GetValue<long>()}");
            Assert.Equal(view["outcome"]!.AsArray()[^1]!["amount"]!.GetValue<string>(), Of(item, "before"));
            Assert.Equal(Amount(item, "after") - Amount(item, "before"), Amount(item, "difference"));
            Assert.InRange(Amount(item, "difference"), -1_200, 0);
        }

        // The rest after an id, and the same as a table.
        var middle = moved[moved.Count / 2]!["returnId"]!.GetValue<long>();
        Assert.All((await _rukia.SendAsync(HttpMethod.Post, $"{Kenya}?after={middle}", relief)).Answer!["moved"]!.AsArray(), m => Assert.True(m!["returnId"]!.GetValue<long>() > middle));
        using var asked = new HttpRequestMessage(HttpMethod.Post, $"{Kenya}.csv") { Content = JsonContent.Create(relief) };
        asked.Headers.Add("X-Aerarium-Token", _rukia.Token);
        using var csv = await _rukia.Http.SendAsync(asked);
        Assert.Equal(moved.Count + 1, (await csv.Content.ReadAsStringAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries).Length);

        foreach (var (changes, told) in new (object, string)[]
        {
            (new[] { new { figure = "personal-relief", value = "much" } }, "Personal relief for the year: 'much' is not an amount"),
            (new[] { new { figure = "personal-relief", value = "" } }, "type a number"),
            (new[] { new { figure = "housing-share", value = "700%" } }, "above 100%"),
            (new[] { new { figure = "bands-of-tax", ranges = new[] { new { upTo = "5", value = "1" } } } }, "add a last range"),
            (new[] { new { figure = "nothing", value = "1" } }, "is no figure"),
            (Array.Empty<object>(), "between 1 and"),
        })
        {
            var (refused, body) = await _rukia.SendAsync(HttpMethod.Post, Kenya, new { changes });
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused);
            Assert.Contains(told, body!["detail"]!.GetValue<string>(), StringComparison.Ordinal);
        }

        static decimal Amount(JsonNode item, string name) => decimal.Parse(Of(item, name), CultureInfo.InvariantCulture);
    }

    /// <summary>A return says which figures it rests on that are not certain, the weightiest first, until somebody verifies them.</summary>
    [Fact]
    public async Task A_return_tells_the_figures_it_rests_on_that_are_not_certain()
    {
        var id = await _rukia.ReturnOfAsync("Njeri Halvorsen", 2025);
        var note = await _rukia.GetAsync($"/api/returns/{id}/law");
        var uncertain = note["uncertain"]!.AsArray();
        Assert.Equal(0, note["verified"]!.GetValue<int>());
        Assert.InRange(uncertain.Count, 1, note["figures"]!.GetValue<int>());
        Assert.All(uncertain, f => Assert.NotEqual("certain", Of(f!, "confidence")));
        var weights = uncertain.Select(f => Math.Abs(decimal.Parse(f!["moves"]?.GetValue<string>() ?? "0", CultureInfo.InvariantCulture))).ToList();
        Assert.Equal(weights.OrderDescending(), weights);

        var first = Of(uncertain[0]!, "key");
        await _mosi.DoAsync(HttpMethod.Post, "/api/law/ke/employment-income/2025/verify", new { figure = first, against = "The printed table" });
        var after = await _rukia.GetAsync($"/api/returns/{id}/law");
        Assert.Equal((1, uncertain.Count - 1), (after["verified"]!.GetValue<int>(), after["uncertain"]!.AsArray().Count));
        Assert.DoesNotContain(after["uncertain"]!.AsArray(), f => Of(f!, "key") == first);
    }

    [Fact]
    public async Task A_scenario_is_kept_under_a_name_if_it_fits_the_law()
    {
        var scenario = new { name = "", definition = "ke/employment-income", year = 2025, period = "", changes = new[] { new { figure = "personal-relief", value = "30,000" } } };
        var (status, kept) = await _rukia.SendAsync(HttpMethod.Put, "/api/law-scenarios/Budget", scenario);
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Equal(("Budget", "30,000"), (Of(kept!.AsArray().Single()!, "name"), Of(kept[0]!["changes"]![0]!, "value")));
        Assert.Empty((await _mosi.GetAsync("/api/law-scenarios")).AsArray());
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _rukia.SendAsync(HttpMethod.Put, "/api/law-scenarios/Other", scenario with { changes = new[] { new { figure = "nothing", value = "1" } } })).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Put, "/api/law-scenarios/Other", scenario with { year = 1990 })).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Delete, "/api/law-scenarios/Other")).Status);
        Assert.Empty((await _rukia.SendAsync(HttpMethod.Delete, "/api/law-scenarios/Budget")).Answer!.AsArray());
    }

    [Fact]
    public async Task A_figure_is_verified_by_one_and_confirmed_by_another()
    {
        var verify = new { figure = "old-age-cap", against = "EStG s. 10(3) as printed, page 7", sourceDay = "2/1/2025" };
        Assert.Equal(HttpStatusCode.Forbidden, (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/verify", verify)).Status);
        var (status, refused) = await _mosi.SendAsync(HttpMethod.Post, $"{Path}/verify", verify with { against = " " });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("against what", refused!["detail"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _mosi.SendAsync(HttpMethod.Post, $"{Path}/verify", verify with { sourceDay = "soon" })).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await _mosi.SendAsync(HttpMethod.Post, $"{Path}/verify", verify with { figure = "nothing" })).Status);
        Assert.Equal(HttpStatusCode.Conflict, (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/confirm", new { figure = "old-age-cap" })).Status);

        var verified = await _mosi.DoAsync(HttpMethod.Post, $"{Path}/verify", verify);
        Assert.Equal(1, verified["verified"]!.GetValue<int>());
        var mark = FigureOf(verified, "old-age-cap")["verification"]!;
        Assert.Equal(("Mosi Lindqvist", "2025-01-02", true), (Of(mark, "by"), Of(mark, "sourceDay"), mark["counts"]!.GetValue<bool>()));
        var (own, told) = await _mosi.SendAsync(HttpMethod.Post, $"{Path}/confirm", new { figure = "old-age-cap" });
        Assert.Equal(HttpStatusCode.Conflict, own);
        Assert.Contains("another person", told!["detail"]!.GetValue<string>(), StringComparison.Ordinal);
        var confirmed = await _rukia.DoAsync(HttpMethod.Post, $"{Path}/confirm", new { figure = "old-age-cap" });
        Assert.Equal("Rukia Tindall", Of(FigureOf(confirmed, "old-age-cap")["verification"]!, "confirmedBy"));
        Assert.Equal(HttpStatusCode.Conflict, (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/confirm", new { figure = "old-age-cap" })).Status);

        Assert.Equal(0, (await _rukia.GetAsync("/api/law/de/individual/2024"))["verified"]!.GetValue<int>());
        var withdrawn = await _mosi.DoAsync(HttpMethod.Post, $"{Path}/withdraw", new { figure = "old-age-cap" });
        Assert.Null(FigureOf(withdrawn, "old-age-cap")["verification"]);
        Assert.Equal(HttpStatusCode.Conflict, (await _mosi.SendAsync(HttpMethod.Post, $"{Path}/withdraw", new { figure = "old-age-cap" })).Status);
    }

    /// <summary>One source for several years, as far as the figure says the same in them; a figure that says something else by now has lost its mark.</summary>
    [Fact]
    public async Task Years_are_verified_together_where_the_figure_is_the_same_and_a_changed_figure_loses_its_mark()
    {
        var (status, refused) = await _mosi.SendAsync(HttpMethod.Post, $"{Path}/verify", new { figure = "old-age-cap", against = "EStG", years = new[] { 2024 } });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("In 2024", refused!["detail"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.Equal(0, (await _mosi.GetAsync(Path))["verified"]!.GetValue<int>());

        await _mosi.DoAsync(HttpMethod.Post, $"{Path}/verify", new { figure = "surcharge-rate", against = "SolZG s. 4", years = new[] { 2022, 2023, 2024 } });
        foreach (var year in new[] { 2022, 2023, 2024, 2025 })
        {
            Assert.Equal(1, (await _rukia.GetAsync($"/api/law/de/individual/{year}"))["verified"]!.GetValue<int>());
        }

        _practice.Server.Services.GetRequiredService<Storage.PracticeDatabase>().Write(unit => unit.Execute("UPDATE law_verification SET content = '7.5%' WHERE year = 2023"));
        var changed = await _rukia.GetAsync("/api/law/de/individual/2023");
        var mark = FigureOf(changed, "surcharge-rate")["verification"]!;
        Assert.Equal((0, false, "7.5%"), (changed["verified"]!.GetValue<int>(), mark["counts"]!.GetValue<bool>(), Of(mark, "was")));
        Assert.Equal(HttpStatusCode.Conflict, (await _rukia.SendAsync(HttpMethod.Post, "/api/law/de/individual/2023/confirm", new { figure = "surcharge-rate" })).Status);
    }

    /// <summary>The printed page stands beside the figure in every year it covers, byte for byte, and goes with no other.</summary>
    [Fact]
    public async Task The_page_is_attached_to_what_it_verifies()
    {
        var page = "%PDF-1.7 the schedule as printed"u8.ToArray();
        async Task<HttpStatusCode> AttachAsync(Browser by, byte[] content, string file) =>
            (await by.SendAsync(new HttpRequestMessage(HttpMethod.Put, $"{Path}/page?figure=surcharge-rate&file={file}") { Content = new ByteArrayContent(content) })).Status;
        Assert.Equal(HttpStatusCode.Conflict, await AttachAsync(_mosi, page, "solzg.pdf"));
        await _mosi.DoAsync(HttpMethod.Post, $"{Path}/verify", new { figure = "surcharge-rate", against = "SolZG s. 4", years = new[] { 2024 } });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, await AttachAsync(_mosi, [0x4d, 0x5a, 0], "solzg.exe"));
        Assert.Equal(HttpStatusCode.Forbidden, await AttachAsync(_rukia, page, "solzg.pdf"));
        Assert.Equal(HttpStatusCode.OK, await AttachAsync(_mosi, page, "..%2Fsolzg.pdf"));
        foreach (var year in new[] { 2024, 2025 })
        {
            Assert.Equal("solzg.pdf", Of(FigureOf(await _rukia.GetAsync($"/api/law/de/individual/{year}"), "surcharge-rate")["verification"]!, "page"));
            Assert.Equal(page, await _rukia.Http.GetByteArrayAsync($"/api/law/de/individual/{year}/page?figure=surcharge-rate"));
        }

        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Get, "/api/law/de/individual/2023/page?figure=surcharge-rate")).Status);
    }

    /// <summary>The law as articles: every line with its rule, links that lead somewhere, nothing that runs.</summary>
    [Theory]
    [InlineData("de/individual/2025")]
    [InlineData("ke/employment-income/2025")]
    [InlineData("ca/individual/2025")]
    [InlineData("ph/individual-quarterly/2025?period=q1")]
    public async Task The_law_is_read_as_articles(string of)
    {
        var html = await _rukia.Http.GetStringAsync($"/api/law/{of.Replace("?", "/document?", StringComparison.Ordinal)}{(of.Contains('?', StringComparison.Ordinal) ? "" : "/document")}");
        var anchors = System.Text.RegularExpressions.Regex.Matches(html, " id=\"([^\"]+)\"").Select(m => m.Groups[1].Value).ToList();
        Assert.Equal(anchors.Count, anchors.Distinct().Count());
        var leads = System.Text.RegularExpressions.Regex.Matches(html, "href=\"#([^\"]+)\"").Select(m => m.Groups[1].Value).ToHashSet();
        Assert.Empty(leads.Except(anchors));
        Assert.DoesNotContain("<script", html, StringComparison.OrdinalIgnoreCase);
        var parts = of.Split('/', '?');
        var definition = Countries.Catalogue.Get($"{parts[0]}/{parts[1]}", int.Parse(parts[2], System.Globalization.CultureInfo.InvariantCulture), of.Contains("q1", StringComparison.Ordinal) ? "q1" : "");
        Assert.Empty(definition.Lines.Select(l => $"line-{l.Key}").Except(anchors));
    }
}
