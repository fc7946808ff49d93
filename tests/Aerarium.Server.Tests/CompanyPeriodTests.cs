using System.Net;
using static Aerarium.Server.Tests.CompanyReturns;

namespace Aerarium.Server.Tests;

/// <summary>Two periods of a company that end in one year, what goes on from period to period, and the agreement of a group.</summary>
public class CompanyPeriodTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    /// <summary>ITA 249.1: a change of the year end makes a second period end in the year; it follows the first, and the next year follows it.</summary>
    [Fact]
    public async Task Two_periods_can_end_in_one_year()
    {
        var (rukia, client) = await CompanyAsync(shared, "Godwit Gates Ltd");
        var (tooSoon, refused) = await rukia.SendAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ca/accounts", year = 2024, kind = "original", period = "second" });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, tooSoon);
        Assert.Contains("the period that ends first", refused!["detail"]!.GetValue<string>(), StringComparison.Ordinal);

        var first = await OpenAsync(rukia, client, "ca/accounts", 2024);
        await EditAsync(rukia, first, ("scope.begin", "2023-04-01"), ("scope.end", "2024-03-31"), ("scope.assurance", "review"));
        await AddAsync(rukia, first, "trial-balance.accounts", "a", ("number", "300"), ("name", "Retained"), ("credit", "900"), ("item", "3660"));
        await AddAsync(rukia, first, "trial-balance.accounts", "b", ("number", "100"), ("name", "Bank"), ("debit", "900"), ("item", "1001"));
        var federal = await OpenAsync(rukia, client, "ca/company", 2024);
        await EditAsync(rukia, federal, ("scope.ccpc", "yes"), ("scope.losses", "yes"), ("reconciliation.fines", "0"), ("financial.item-8810", "700"));

        var second = await OpenAsync(rukia, client, "ca/accounts", 2024, "second");
        var view = await rukia.GetAsync($"/api/returns/{second}");
        Assert.Equal(("second", "2024-04-01", "review", "3660"), (view["period"]!.GetValue<string>(), Value(view, "scope.begin"), Value(view, "scope.assurance"), Value(view, "trial-balance.accounts.item", "a")));
        Assert.Equal("900", Value(view, "statements-last-year.item-3660"));
        await EditAsync(rukia, second, ("scope.end", "2024-12-31"));
        var short2024 = await OpenAsync(rukia, client, "ca/company", 2024, "second");
        view = await rukia.GetAsync($"/api/returns/{short2024}");
        Assert.Equal(("2024-12-31", "2024-03-31", "yes"), (Value(view, "scope.end"), Value(view, "scope.end-before"), Value(view, "scope.short")));
        Assert.Equal("700", Value(view, "losses.non-capital.amount", "tied-2024"));
        Assert.Contains(view["findings"]!.AsArray(), f => f!["id"]!.GetValue<string>().StartsWith("earlier:2024", StringComparison.Ordinal));

        // A loss of the second period stands with that of the first: they are of one year.
        await EditAsync(rukia, short2024, ("scope.losses", "yes"), ("financial.item-8810", "50"));
        var next = await OpenAsync(rukia, client, "ca/company", 2025);
        await EditAsync(rukia, next, ("scope.losses", "yes"));
        view = await rukia.GetAsync($"/api/returns/{next}");
        Assert.Equal(("2024-12-31", "750"), (Value(view, "scope.end-before"), Value(view, "losses.non-capital.amount", "tied-2024")));
        var books = (await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{second}/roll-forward", null))["id"]!.GetValue<long>();
        view = await rukia.GetAsync($"/api/returns/{books}");
        Assert.Equal((2025, "", "2025-01-01"), (view["year"]!.GetValue<int>(), view["period"]!.GetValue<string>(), Value(view, "scope.begin")));
    }

    /// <summary>An entry that is made in every period goes on with its lines and amounts, to be dated anew; the others stay where they were.</summary>
    [Fact]
    public async Task Standing_entries_are_rolled_forward()
    {
        var (rukia, client) = await CompanyAsync(shared, "Wigeon Wheels Ltd");
        var id = await OpenAsync(rukia, client, "ca/accounts", 2024);
        await AddAsync(rukia, id, "trial-balance.accounts", "a", ("number", "670"), ("name", "Amortisation"), ("item", "8670"));
        await AddAsync(rukia, id, "trial-balance.accounts", "b", ("number", "159"), ("name", "Accumulated"), ("item", "2009"));
        foreach (var (entry, number, standing) in new[] { ("e1", "1", "yes"), ("e2", "2", "no") })
        {
            await AddAsync(rukia, id, "adjustments.entries", entry, ("number", number), ("reason", $"Reason {number}"), ("date", "2024-12-31"), ("standing", standing));
            await AddAsync(rukia, id, "adjustments.lines", $"{entry}-d", ("of", entry), ("account", "a"), ("debit", "120.50"));
            await AddAsync(rukia, id, "adjustments.lines", $"{entry}-c", ("of", entry), ("account", "b"), ("credit", "120.50"));
        }

        Assert.Equal("241", Value(await rukia.GetAsync($"/api/returns/{id}"), "statements.item-8670"));
        var next = (await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/roll-forward", null))["id"]!.GetValue<long>();
        var view = await rukia.GetAsync($"/api/returns/{next}");
        Assert.Equal(["e1"], Rows(view, "adjustments.entries"));
        Assert.Equal(["e1-d", "e1-c"], Rows(view, "adjustments.lines"));
        Assert.Equal(("Reason 1", "1", null, "120.5"), (
            Value(view, "adjustments.entries.reason", "e1"), Value(view, "adjustments.entries.number", "e1"), Value(view, "adjustments.entries.date", "e1"), Value(view, "statements.item-8670")));
    }

    /// <summary>One agreement, read from all returns and written into all of them, or into none.</summary>
    [Fact]
    public async Task A_group_has_one_agreement()
    {
        var (rukia, one) = await CompanyAsync(shared, "Ruff Roofing Ltd");
        var (_, two) = await CompanyAsync(shared, "Ruff Rafters Ltd");
        var (first, second) = (await OpenAsync(rukia, one, "ca/company", 2025), await OpenAsync(rukia, two, "ca/company", 2025));
        await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{one}/relations", new { kind = "associated", otherId = two });
        Assert.Equal((HttpStatusCode.OK, null), await rukia.SendAsync(HttpMethod.Get, $"/api/returns/{first}/agreement", null));
        foreach (var id in new[] { first, second })
        {
            await EditAsync(rukia, id, ("scope.begin", "2025-01-01"), ("scope.end", "2025-12-31"), ("scope.ccpc", "yes"), ("scope.associated", "yes"));
        }

        await AddAsync(rukia, first, "group.members", "m", ("name", "Ruff Abroad Ltd"), ("percent", "10"));
        var agreement = await rukia.GetAsync($"/api/returns/{first}/agreement");
        Assert.Equal(("group", "%", "100", "10", 0), (
            agreement["form"]!.GetValue<string>(), agreement["unit"]!.GetValue<string>(), agreement["whole"]!.GetValue<string>(), agreement["ofOthers"]!.GetValue<string>(), agreement["outOfReach"]!.GetValue<int>()));
        Assert.Equal(["Ruff Roofing Ltd", "Ruff Rafters Ltd"], agreement["members"]!.AsArray().Select(m => m!["client"]!.GetValue<string>()));

        async Task<(HttpStatusCode Status, System.Text.Json.Nodes.JsonNode? Answer)> AgreeAsync(string of, string ofOther, string stamp) =>
            await rukia.SendAsync(HttpMethod.Put, $"/api/returns/{first}/agreement", new { parts = new[] { new { returnId = first, part = of }, new { returnId = second, part = ofOther } }, stamp });

        var stamp = agreement["stamp"]!.GetValue<string>();
        var (above, told) = await AgreeAsync("60", "30.01", stamp);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, above);
        Assert.Contains("100.01%", told!["detail"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await AgreeAsync("sixty", "30", stamp)).Status);
        Assert.Null(Value(await rukia.GetAsync($"/api/returns/{second}"), "group.percent"));

        Assert.Equal(HttpStatusCode.OK, (await AgreeAsync("60", "30", stamp)).Status);
        var (left, right) = (await rukia.GetAsync($"/api/returns/{first}"), await rukia.GetAsync($"/api/returns/{second}"));
        Assert.Equal(("60", "30", "30", "60"), (Value(left, "group.percent"), Value(left, "group.percent-of-others"), Value(right, "group.percent"), Value(right, "group.percent-of-others")));
        Assert.Equal(HttpStatusCode.Conflict, (await AgreeAsync("50", "40", stamp)).Status);
        Assert.Equal("60", Value(await rukia.GetAsync($"/api/returns/{first}"), "group.percent"));
    }

    /// <summary>A page by itself, as a paper and as a table with the parallel column.</summary>
    [Fact]
    public async Task A_page_goes_out_as_a_paper_and_as_a_table()
    {
        var (rukia, client) = await CompanyAsync(shared, "Smew Sails Ltd");
        var id = await OpenAsync(rukia, client, "ca/accounts", 2025);
        await AddAsync(rukia, id, "trial-balance.accounts", "a", ("number", "100"), ("name", "Bank"), ("debit", "900.5"), ("item", "1001"));
        await EditAsync(rukia, id, ("statements-last-year.item-1001", "700"));
        var csv = System.Text.Encoding.UTF8.GetString(await rukia.Http.GetByteArrayAsync($"/api/returns/{id}/forms/statements/page.csv"));
        Assert.StartsWith("Section,Number,Label,Value,Beside", csv, StringComparison.Ordinal);
        Assert.Contains(",1001 Cash and deposits,900.5,700", csv, StringComparison.Ordinal);
        Assert.StartsWith("%PDF", System.Text.Encoding.ASCII.GetString(await rukia.Http.GetByteArrayAsync($"/api/returns/{id}/forms/statements/page.pdf"), 0, 8), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await rukia.SendAsync(HttpMethod.Get, $"/api/returns/{id}/forms/nowhere/page.csv", null)).Status);
    }
}
