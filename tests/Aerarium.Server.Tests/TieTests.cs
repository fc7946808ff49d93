using System.Net;
using System.Text.Json.Nodes;
using Aerarium.Server.Returns;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>Amounts tied between the quarterly returns, the lists of tax withheld and the annual return of one client.</summary>
public class TieTests
{
    private const int Rukia = 0;
    private const long Annual = 15;
    private const long Quarter3 = 16;
    private const long Quarter1 = 18;
    private const long List4 = 19;
    private const long List1 = 22;

    private static string? Value(JsonNode view, string line, string? row = null) =>
        view["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == line && v["row"]?.GetValue<string>() == row)!["value"]?.GetValue<string>();

    private static JsonNode Line(JsonNode view, string line) => view["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == line)!;

    private static IEnumerable<JsonNode> Findings(JsonNode view, string id) => view["findings"]!.AsArray().Where(f => f!["id"]!.GetValue<string>() == id)!;

    private static JsonNode Tie(JsonNode view, string line) => view["ties"]!.AsArray().Single(t => t!["line"]!.GetValue<string>() == line)!;

    [Fact]
    public async Task Quarters_and_lists_feed_the_annual_return_and_say_where_from()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        var annual = await rukia.GetAsync($"/api/returns/{Annual}");
        Assert.Equal(("4800", "44500", "15500"), (Value(annual, "balance.quarterly-paid"), Value(annual, "balance.withheld-quarters"), Value(annual, "balance.withheld-last-quarter")));
        Assert.Equal("tied", Line(annual, "balance.quarterly-paid")["origin"]!.GetValue<string>());
        var tie = Tie(annual, "balance.withheld-quarters");
        Assert.Equal(["14000", "15500", "15000"], tie["sources"]!.AsArray().Select(s => s!["value"]!.GetValue<string>()));
        Assert.Equal(["balance.withheld-quarter"], tie["sources"]!.AsArray().Select(s => s!["line"]!.GetValue<string>()).Distinct());
        Assert.Contains("2024", Assert.Single(Tie(annual, "balance.prior-excess")["missing"]!.AsArray())!.GetValue<string>());
        Assert.Empty(Findings(annual, "balance.withheld-last-quarter:tie"));
    }

    [Fact]
    public async Task A_change_in_a_list_runs_through_the_quarters_into_the_year()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);

        // Salt Ladder Theatre withheld 1,000 more in the first quarter: its return pays nothing still, the third pays 1,000 less.
        await rukia.EditAsync(List1, ("list.rows.withheld", "row-1", "7000"));
        await rukia.UntilAsync(Annual, view => Value(view, "balance.withheld-quarters") == "45500" && Value(view, "balance.quarterly-paid") == "3800");
        var annual = await rukia.GetAsync($"/api/returns/{Annual}");
        Assert.Equal("15000", Value(await rukia.GetAsync($"/api/returns/{Quarter1}"), "balance.withheld-quarter"));
        Assert.Equal("30500", Value(await rukia.GetAsync($"/api/returns/{Quarter3}"), "balance.withheld-before"));
        var desk = (await rukia.GetAsync("/api/desk?list=all&search=liwayway"))["items"]!.AsArray().Single(i => i!["id"]!.GetValue<long>() == Annual)!;
        Assert.Equal(annual["outcome"]!.AsArray()[^1]!["amount"]!.GetValue<string>(), desk["balance"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_credit_stands_on_what_its_source_is_worth()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        async Task<JsonNode> AnnualAsync() => await rukia.GetAsync($"/api/returns/{Annual}");

        // Nothing of the year has been sent or paid: all of it is claimed, none of it is safe.
        var annual = await AnnualAsync();
        var third = Tie(annual, "balance.quarterly-paid")["sources"]!.AsArray()[2]!;
        Assert.Equal(("draft", "4800", "0", "0"), (third["stage"]!.GetValue<string>(), third["value"]!.GetValue<string>(), third["paid"]!.GetValue<string>(), third["safe"]!.GetValue<string>()));
        Assert.Equal("0", Tie(annual, "balance.withheld-quarters")["safe"]!.GetValue<string>());
        Assert.Null(Tie(annual, "balance.listed-payments")["safe"]);
        Assert.Contains("4,800 is claimed, of which 0 is safe now", Assert.Single(Findings(annual, "balance.quarterly-paid:counts"))["message"]!.GetValue<string>());
        Assert.Contains("2025 Q2, 15,500, draft", Assert.Single(Findings(annual, "balance.withheld-quarters:counts"))["message"]!.GetValue<string>());

        // A part of it paid: due and paid are different amounts.
        Pay(practice, "3000");
        annual = await AnnualAsync();
        Assert.Equal("3000", Tie(annual, "balance.quarterly-paid")["safe"]!.GetValue<string>());
        Assert.Contains("4,800 due, 3,000 recorded as paid", Assert.Single(Findings(annual, "balance.quarterly-paid:counts"))["message"]!.GetValue<string>());

        // All of it paid, and more: no more counts than was due. The Desk knows at once.
        var before = await WarningsAsync();
        Pay(practice, "2500");
        Assert.Equal(before - 1, await WarningsAsync());
        annual = await AnnualAsync();
        Assert.Equal("4800", Tie(annual, "balance.quarterly-paid")["safe"]!.GetValue<string>());
        Assert.Empty(Findings(annual, "balance.quarterly-paid:counts"));

        // The authority accepts the second quarter, and rejects the third: the first stays a draft.
        foreach (var (id, stage) in new[] { (Quarter3 + 1, "accepted"), (Quarter3, "rejected") })
        {
            practice.Server.Services.GetRequiredService<Storage.PracticeDatabase>().Write(unit => Storage.Returns.SetStage(unit, id, stage));
            practice.Server.Services.GetRequiredService<Ties>().LookAgain(id);
        }

        var warning = Assert.Single(Findings(await AnnualAsync(), "balance.withheld-quarters:counts"))["message"]!.GetValue<string>();
        Assert.Contains("44,500 is claimed, of which 15,500 is safe now", warning);
        Assert.Contains("2025 Q3, 15,000, rejected", warning);
        Assert.DoesNotContain("Q2", warning);

        // Who claims no more than what is safe is not warned.
        await rukia.EditAsync(Annual, ("balance.withheld-quarters", null, "15500"));
        Assert.Empty(Findings(await AnnualAsync(), "balance.withheld-quarters:counts"));

        async Task<long> WarningsAsync() => (await rukia.GetAsync("/api/desk?list=all&search=liwayway"))["items"]!.AsArray()
            .Single(i => i!["id"]!.GetValue<long>() == Annual)!["warnings"]!.GetValue<long>();
    }

    /// <summary>The method is chosen in the first quarter's return and holds for the year (NIRC s. 24(A)(2)(b)): once that is filed, the year's return offers no other.</summary>
    [Fact]
    public async Task A_choice_made_in_a_filed_return_is_no_longer_offered()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        async Task<JsonNode> MethodAsync() => (await rukia.GetAsync($"/api/returns/{Annual}/alternatives"))["elections"]!.AsArray().Single(e => e!["line"]!.GetValue<string>() == "business.method")!;
        var open = await MethodAsync();
        Assert.Null(open["bound"]);
        string[] figures = [.. open["choices"]![0]!["figures"]!.AsArray().Select(f => f!["label"]!.GetValue<string>())];
        Assert.Equal(["Percentage tax on sales, in its own returns", "Balance and other taxes"], figures[^2..]);

        practice.Server.Services.GetRequiredService<Storage.PracticeDatabase>().Write(unit => Storage.Returns.SetStage(unit, Quarter3 + 2, "accepted"));
        practice.Server.Services.GetRequiredService<Ties>().LookAgain(Quarter3 + 2);
        Assert.Matches("2025 Q1, accepted: .+ holds\\.$", (await MethodAsync())["bound"]!.GetValue<string>());
        practice.Server.Services.GetRequiredService<Workbench>().Forget(Annual);
        Assert.DoesNotContain((await rukia.GetAsync($"/api/returns/{Annual}"))["findings"]!.AsArray(), f => f!["id"]!.GetValue<string>() == "business.method:alternative");
    }

    /// <summary>Records a payment towards the third quarter, which takes a filed return, as the bank's confirmation comes in.</summary>
    private static void Pay(Practice practice, string amount)
    {
        practice.Server.Services.GetRequiredService<Storage.PracticeDatabase>().Write(unit => Storage.Payments.Add(unit, new Storage.PaymentRecord
        {
            ReturnId = Quarter3,
            PaidOn = "2026-06-17",
            Amount = amount,
            Reference = $"slip {amount}",
            NotedBy = "Rukia",
            NotedAt = "2026-06-18T09:00:00Z",
        }));
        practice.Server.Services.GetRequiredService<Ties>().LookAgain(Quarter3);
    }

    [Fact]
    public async Task What_is_typed_over_a_tie_stays_is_flagged_and_can_be_taken_back()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.EditAsync(Annual, ("balance.quarterly-paid", null, "5000"));
        var typed = await rukia.GetAsync($"/api/returns/{Annual}");
        Assert.Equal("5000", Value(typed, "balance.quarterly-paid"));
        var warning = Assert.Single(Findings(typed, "balance.quarterly-paid:tie"));
        Assert.Equal("warning", warning["severity"]!.GetValue<string>());
        Assert.Contains("4,800", warning["message"]!.GetValue<string>());

        await rukia.EditAsync(List1, ("list.rows.withheld", "row-1", "7000"));
        await rukia.UntilAsync(Annual, view => Findings(view, "balance.quarterly-paid:tie").Any(f => f["message"]!.GetValue<string>().Contains("3,800")));
        Assert.Equal("5000", Value(await rukia.GetAsync($"/api/returns/{Annual}"), "balance.quarterly-paid"));

        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{Annual}/lines/balance.quarterly-paid/take-tied", null);
        var taken = await rukia.GetAsync($"/api/returns/{Annual}");
        Assert.Equal(("3800", "tied"), (Value(taken, "balance.quarterly-paid"), Line(taken, "balance.quarterly-paid")["origin"]!.GetValue<string>()));
        Assert.Empty(Findings(taken, "balance.quarterly-paid:tie"));
        var (status, _) = await rukia.SendAsync(HttpMethod.Post, $"/api/returns/{Annual}/lines/balance.prior-excess/take-tied", null);
        Assert.Equal(HttpStatusCode.Conflict, status);
    }

    /// <summary>A claim must agree with its list to the peso (RR 2-2006; our own tolerance), and there must be a list.</summary>
    [Fact]
    public async Task A_claim_that_differs_from_its_list_blocks_filing()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.EditAsync(Annual, ("balance.withheld-last-quarter", null, "15501"));
        Assert.Equal("warning", Assert.Single(Findings(await rukia.GetAsync($"/api/returns/{Annual}"), "balance.withheld-last-quarter:tie"))["severity"]!.GetValue<string>());
        await rukia.EditAsync(Annual, ("balance.withheld-last-quarter", null, "15502"));
        Assert.Equal("error", Assert.Single(Findings(await rukia.GetAsync($"/api/returns/{Annual}"), "balance.withheld-last-quarter:tie"))["severity"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_source_that_moves_after_approval_was_asked_is_flagged_and_changes_nothing()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.EditAsync(List4, [.. Declaration]);
        await rukia.AcceptWarningsAsync(List4);
        await rukia.EditAsync(Annual, ("balance.two-parts", null, "no"), ("declaration.true-and-complete", null, "yes"), ("declaration.name", null, "Liwayway"), ("declaration.capacity", null, "taxpayer"), ("declaration.date", null, "2026-06-18"));
        await rukia.AcceptWarningsAsync(Annual);
        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{Annual}/approval/hand-over", new { });
        await rukia.EditAsync(List4, ("list.rows.withheld", "row-1", "6100"));
        await rukia.UntilAsync(Annual, view => Findings(view, "balance.withheld-last-quarter:tie").Any());
        var waiting = await rukia.GetAsync($"/api/returns/{Annual}");
        Assert.Equal(("waiting", "15500"), (waiting["stage"]!.GetValue<string>(), Value(waiting, "balance.withheld-last-quarter")));
    }

    private static (string, string?, string)[] Declaration =>
        [("declaration.true-and-complete", null, "yes"), ("declaration.name", null, "Liwayway"), ("declaration.date", null, "2026-06-18")];

    /// <summary>Next year's return takes this year's excess and losses; its quarter follows the method elected in the first.</summary>
    [Fact]
    public async Task What_is_opened_later_takes_what_earlier_returns_leave()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        var client = (await rukia.GetAsync($"/api/returns/{Annual}"))["clientId"]!.GetValue<long>();
        async Task<long> Open(int year, string definition, string? period = null) =>
            (await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition, year, kind = "original", period }))!["id"]!.GetValue<long>();

        var older = await Open(2024, "ph/individual-annual");
        await rukia.EditAsync(older,
            ("scope.status", null, "resident-citizen"), ("scope.joint", null, "no"), ("scope.compensation", null, "no"), ("scope.business", null, "yes"),
            ("scope.losses", null, "no"), ("business.method", null, "itemised"), ("business.services", null, "100000"), ("balance.withheld-quarters", null, "5000"), ("result.overpayment", null, "carry-over"));
        await rukia.DoAsync(HttpMethod.Patch, $"/api/returns/{older}/entries", new
        {
            changes = new object[]
            {
                new { kind = "add-row", section = "deductions.expenses", row = "r1", seen = 0 },
                new { kind = "set", line = "deductions.expenses.kind", row = "r1", value = "rent", seen = 0 },
                new { kind = "set", line = "deductions.expenses.amount", row = "r1", value = "160000", seen = 0 },
            },
        });
        await rukia.EditAsync(Annual, ("scope.losses", null, "yes"), ("business.method", null, "itemised"));
        await rukia.UntilAsync(Annual, view => Value(view, "balance.prior-excess") == "5000");
        var annual = await rukia.GetAsync($"/api/returns/{Annual}");
        Assert.Equal(("2024", "60000"), (Value(annual, "deductions.losses.year", "tied-2024"), Value(annual, "deductions.losses.loss", "tied-2024")));

        var quarter = await Open(2024, "ph/individual-quarterly", "q1");
        await rukia.EditAsync(quarter, ("scope.business", null, "yes"), ("business.method", null, "eight"));
        var second = await Open(2024, "ph/individual-quarterly", "q2");
        await rukia.EditAsync(second, ("scope.business", null, "yes"));
        Assert.Equal("eight", Value(await rukia.GetAsync($"/api/returns/{second}"), "business.method"));
        var (status, _) = await rukia.SendAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ph/individual-quarterly", year = 2024, kind = "original", period = "q2" });
        Assert.Equal(HttpStatusCode.Conflict, status);
    }

    /// <summary>Nothing waits to be carried over once it is asked for: two edits made within a moment are in the quarter and the year, on the desk and in the acts.</summary>
    [Fact]
    public async Task What_waits_to_be_carried_into_tied_returns_is_carried_when_asked()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.EditAsync(List4, ("list.rows.withheld", "row-1", "6100"));
        await rukia.EditAsync(List4, ("list.rows.withheld", "row-1", "6200"));
        await practice.Server.Services.GetRequiredService<TiesAtRest>().SettleAsync();
        var workbench = practice.Server.Services.GetRequiredService<Workbench>();
        var entry = workbench.Open(Annual).Entries[("balance.withheld-last-quarter", "")];
        Assert.Equal(("15700", "tied"), (entry.Value, entry.Origin));
    }

    /// <summary>A return that nobody opens is flagged all the same, and one that somebody has open learns of it before its next edit is taken over.</summary>
    [Fact]
    public async Task A_source_that_moves_under_a_line_typed_over_is_seen_on_the_desk_and_changes_the_stamp_of_the_findings()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.EditAsync(Annual, ("balance.withheld-last-quarter", null, "15501"));
        var open = await rukia.GetAsync($"/api/returns/{Annual}");
        var errors = await Errors();
        await rukia.EditAsync(List4, ("list.rows.withheld", "row-1", "6100"));
        await Wait.UntilAsync(async () => await Errors() == errors + 1, "The Desk does not show the error.");
        var edit = await rukia.DoAsync(HttpMethod.Patch, $"/api/returns/{Annual}/entries", new { changes = new object[] { new { kind = "set", line = "declaration.name", value = "Liwayway", seen = 99 } } });
        var findings = edit!["findings"]!;
        Assert.Equal(open["revision"]!.GetValue<long>(), findings["since"]!.GetValue<long>());
        Assert.NotEqual(open["findingsStamp"]!.GetValue<int>(), findings["from"]!.GetValue<int>());
        var now = await rukia.GetAsync($"/api/returns/{Annual}");
        Assert.Equal(now["findingsStamp"]!.GetValue<int>(), findings["stamp"]!.GetValue<int>());

        async Task<long> Errors() =>
            (await rukia.GetAsync("/api/desk?list=all&search=liwayway"))["items"]!.AsArray().Single(i => i!["id"]!.GetValue<long>() == Annual)!["errors"]!.GetValue<long>();
    }
}
