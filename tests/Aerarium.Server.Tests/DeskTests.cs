using System.Net;
using System.Text.Json.Nodes;
using Aerarium.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

public class DeskTests
{
    private const int Rukia = 0;
    private const int Mosi = 1;

    [Fact]
    public async Task Lists_filters_orders_and_pages_come_from_the_database()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.WaitForAnswersAsync();
        var all = await rukia.GetAsync("/api/desk?list=all&order=due&limit=5");
        Assert.Equal(30, all["total"]!.GetValue<long>());
        Assert.Equal(5, all["items"]!.AsArray().Count);
        var second = await rukia.GetAsync("/api/desk?list=all&order=due&limit=5&offset=5");
        Assert.Empty(Ids(all).Intersect(Ids(second)));
        Assert.Equal(["Njeri Halvorsen Oduya", "Per Halvorsen Oduya"], Names(await rukia.GetAsync("/api/desk?list=all&search=halvorsen+2025")).Order());
        Assert.Equal(["Tamsin Wekesa Quill"], Names(await rukia.GetAsync("/api/desk?list=not-started")));
        Assert.Equal(["Cuthbert Oakhurst", "Delphine Marchmont Oakhurst", "Errol Vandermeer", "Esi Harrow Cheruiyot", "Liwayway Brannock Dizon", "Sabine Thorogood"], Names(await rukia.GetAsync("/api/desk?list=overdue")).Distinct().Order());
        Assert.Equal(["Esi Harrow Cheruiyot"], Names(await rukia.GetAsync("/api/desk?list=overdue&definition=ke%2Femployment-income")));
        Assert.Empty(Names(await rukia.GetAsync("/api/desk?list=all&search=%25")));
        var balances = (await rukia.GetAsync("/api/desk?list=all&order=balance&descending=true"))["items"]!.AsArray()
            .Select(i => decimal.Parse(i!["balance"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture)).ToList();
        Assert.Equal(balances.OrderDescending(), balances);
        var (status, answer) = await rukia.SendAsync(HttpMethod.Get, "/api/desk?list=lost");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("no list 'lost'", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task Returns_and_clients_are_found_by_words_in_any_order_titles_included_and_with_a_typo_where_that_is_asked_for()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        async Task<string> FoundAsync(string words, bool typos = true) => string.Join(", ", Names(await rukia.GetAsync(
            $"/api/desk?list=all&order=client&search={Uri.EscapeDataString(words)}{(typos ? "&typos=true" : "")}")).Distinct());
        async Task<string> ClientsAsync(string words, bool typos = true) => string.Join(", ", (await rukia.GetAsync(
            $"/api/clients?search={Uri.EscapeDataString(words)}{(typos ? "&typos=true" : "")}"))["items"]!.AsArray().Select(c => c!["name"]!.GetValue<string>()));

        Assert.Equal("Crisanto Umberfield, Liwayway Brannock Dizon", await FoundAsync("annual philippines", typos: false));
        Assert.Equal("Liwayway Brannock Dizon", await FoundAsync("q2 list dizon", typos: false));
        Assert.Equal("", await FoundAsync("halvorsn njeri", typos: false));
        foreach (var typed in new[] { "halvorsn njeri", "njeri halvvorsen", "Halvorzen njeri", "njeri hlavorsen 2025", "hakv njeri halvorsen" })
        {
            Assert.Equal(typed.StartsWith("hakv", StringComparison.Ordinal) ? "" : "Njeri Halvorsen Oduya", await FoundAsync(typed));
        }

        Assert.Equal(("Njeri Halvorsen Oduya", ""), (await ClientsAsync("oduyya njeri"), await ClientsAsync("oduyya njeri", typos: false)));
        Assert.Equal("", await FoundAsync("%_%_%"));
    }

    [Fact]
    public async Task The_summary_agrees_with_the_lists_and_the_season_counts_every_return_once()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.WaitForAnswersAsync();

        // Accounts, which go to no authority, are done once they are approved: neither open nor accepted.
        var before = (await rukia.GetAsync("/api/desk?list=open"))["total"]!.GetValue<long>();
        var done = await rukia.ReturnOfAsync("Nia", 2025);
        practice.Server.Services.GetRequiredService<PracticeDatabase>().Write(unit => unit.Execute("UPDATE tax_return SET stage = 'approved', filed = 0 WHERE id = @done", new { done }));
        var open = await rukia.GetAsync("/api/desk?list=open");
        Assert.Equal((before - 1, before - 1), (open["total"]!.GetValue<long>(), open["items"]!.AsArray().Count));

        var summary = await rukia.GetAsync("/api/desk/summary");
        foreach (var (count, list) in new[] { ("all", "all"), ("open", "open"), ("notStarted", "not-started"), ("waiting", "waiting"), ("overdue", "overdue"), ("rejected", "rejected") })
        {
            Assert.Equal((await rukia.GetAsync($"/api/desk?list={list}"))["total"]!.GetValue<long>(), summary["counts"]![count]!.GetValue<long>());
        }

        var week = summary["weeks"]!.AsArray().Single(w => w!["monday"]!.GetValue<string>() == "2026-06-29")!;
        Assert.Equal((await rukia.GetAsync("/api/desk?list=all&year=2025&definition=ke%2Femployment-income"))["total"]!.GetValue<long>(), week["due"]!.GetValue<long>());
    }

    [Fact]
    public async Task A_list_kept_under_a_name_is_ones_own()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, mosi) = (await practice.SignInAsync(Rukia), await practice.SignInAsync(Mosi));
        await rukia.DoAsync(HttpMethod.Put, "/api/desk/lists/My%20families", new { list = "open", search = "household", order = "due" });
        var kept = (await rukia.GetAsync("/api/desk/summary"))["keptLists"]!.AsArray().Single()!;
        Assert.Equal("household", kept["question"]!["search"]!.GetValue<string>());
        Assert.Empty((await mosi.GetAsync("/api/desk/summary"))["keptLists"]!.AsArray());
        Assert.Equal(HttpStatusCode.NotFound, (await mosi.SendAsync(HttpMethod.Delete, "/api/desk/lists/My%20families")).Status);
        await rukia.DoAsync(HttpMethod.Delete, "/api/desk/lists/My%20families");
        Assert.Empty((await rukia.GetAsync("/api/desk/summary"))["keptLists"]!.AsArray());
    }

    [Fact]
    public async Task A_batch_does_what_it_can_and_says_of_each_return_what_it_could_not()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, mosi) = (await practice.SignInAsync(Rukia), await practice.SignInAsync(Mosi));
        var (zuri, tamsin) = (await rukia.ReturnOfAsync("Zuri", 2025), await rukia.ReturnOfAsync("Tamsin", 2025));
        var (status, answer) = await rukia.SendAsync(HttpMethod.Post, "/api/batches", new { act = "send", returns = new[] { zuri } });
        Assert.Equal(HttpStatusCode.Forbidden, status);
        Assert.Contains("approver", answer!["detail"]!.GetValue<string>());
        var results = await RunAsync(mosi, new { act = "send", returns = new[] { tamsin, zuri } });
        Assert.Equal(zuri, results["done"]!.AsArray().Single()!["returnId"]!.GetValue<long>());
        var refused = results["refused"]!.AsArray().Single()!;
        Assert.Equal(tamsin, refused["returnId"]!.GetValue<long>());
        Assert.Contains("Build the approved return first", refused["result"]!.GetValue<string>());
        Assert.Equal("accepted", await mosi.WaitForAsync(zuri, "accepted"));
    }

    [Fact]
    public async Task A_batch_takes_a_whole_list_and_tags_assign_and_recheck_show_on_the_desk()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.WaitForAnswersAsync();
        var holder = (await rukia.GetAsync("/api/desk/summary"))["holders"]!.AsArray().Single(h => h!["name"]!.GetValue<string>().StartsWith("Pia", StringComparison.Ordinal))!["id"]!.GetValue<long>();
        await RunAsync(rukia, new { act = "assign", argument = $"{holder}", list = new { list = "all", search = "halvorsen" } });
        Assert.Equal(4, (await rukia.GetAsync($"/api/desk?list=all&holderId={holder}"))["total"]!.GetValue<long>());
        await RunAsync(rukia, new { act = "tag", argument = "call back", list = new { list = "open", search = "halvorsen" } });
        Assert.Equal(2, (await rukia.GetAsync("/api/desk?list=all&tag=call%20back"))["total"]!.GetValue<long>());
        await RunAsync(rukia, new { act = "untag", argument = "CALL BACK", list = new { list = "all" } });
        Assert.Equal(0, (await rukia.GetAsync("/api/desk?list=all&tag=call%20back"))["total"]!.GetValue<long>());
        var before = (await rukia.GetAsync("/api/desk?list=all"))["items"]!.ToJsonString();
        Assert.Equal(0, (await RunAsync(rukia, new { act = "recheck", list = new { list = "all" } }))["batch"]!["refused"]!.GetValue<long>());
        Assert.Equal(before, (await rukia.GetAsync("/api/desk?list=all"))["items"]!.ToJsonString());
    }

    [Fact]
    public async Task A_batch_that_was_stopped_goes_on_after_a_restart_from_where_it_stood()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        var returns = (await rukia.GetAsync("/api/desk?list=all"))["items"]!.AsArray().Select(i => i!["id"]!.GetValue<long>()).ToList();
        var database = practice.Server.Services.GetRequiredService<PracticeDatabase>();
        var batch = database.Write(unit =>
        {
            var id = Batches.Add(unit, "tag", "by hand", 1, "2026-06-18T08:00:00.000Z", returns);
            Batches.Move(unit, id, "running", "stopped");
            Batches.Note(unit, id, 0, "done", "noted before the stop");
            return id;
        });
        Assert.Equal(HttpStatusCode.Conflict, (await rukia.SendAsync(HttpMethod.Post, $"/api/batches/{batch}/stop")).Status);
        await practice.KillServerAsync();
        await practice.StartServerAsync();
        rukia = await practice.SignInAsync(Rukia);
        Assert.Equal(1, (await rukia.GetAsync($"/api/batches/{batch}"))["batch"]!["done"]!.GetValue<long>());
        await rukia.DoAsync(HttpMethod.Post, $"/api/batches/{batch}/go-on");
        var results = await rukia.BatchAsync(batch);
        Assert.Equal(returns.Count, results["batch"]!["done"]!.GetValue<long>());
        Assert.Equal("noted before the stop", results["done"]![0]!["result"]!.GetValue<string>());
        Assert.Equal(returns.Count - 1, (await rukia.GetAsync("/api/desk?list=all&tag=by%20hand"))["total"]!.GetValue<long>());
        var mosi = await practice.SignInAsync(Mosi);
        Assert.Equal(HttpStatusCode.NotFound, (await mosi.SendAsync(HttpMethod.Get, $"/api/batches/{batch}")).Status);
    }

    [Fact]
    public async Task An_exported_list_is_csv_that_no_spreadsheet_takes_for_formulas()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier = "A555000111B", name = "=HYPERLINK(\"http://x.example\")", clientGroup = "a, \"b\"" });
        var client = (await rukia.GetAsync("/api/clients?search=HYPERLINK"))["items"]![0]!["id"]!.GetValue<long>();
        await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ke/employment-income", year = 2025, kind = "original" });
        var csv = await rukia.Http.GetStringAsync("/api/desk/export.csv?list=all&search=HYPERLINK");
        Assert.StartsWith("Client,Group,Return,Year", csv);
        Assert.Contains("'=HYPERLINK", csv);
        Assert.DoesNotContain("\n=", csv);
        Assert.Contains("\"a, \"\"b\"\"\"", csv);
    }

    [Fact]
    public async Task Rolling_forward_takes_what_lasts_and_leaves_amounts_and_declarations()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        var esi = await rukia.ReturnOfAsync("Esi", 2024);
        var opened = (await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{esi}/roll-forward"))["id"]!.GetValue<long>();
        var view = await rukia.GetAsync($"/api/returns/{opened}");
        Assert.Equal(2025, view["year"]!.GetValue<int>());
        var values = view["values"]!.AsArray().Where(v => v!["origin"]?.GetValue<string>() == "last-year").Select(v => v!["line"]!.GetValue<string>()).ToHashSet();
        Assert.Contains("employment.employers.pin", values);
        Assert.Contains("scope.mortgage", values);
        Assert.DoesNotContain("scope.late", values);
        Assert.DoesNotContain("charges.filed-on", values);
        Assert.DoesNotContain("employment.employers.basic-pay", values);
        Assert.DoesNotContain("declaration.name", values);
        var report = await rukia.GetAsync($"/api/returns/{opened}/taken-over");
        Assert.Equal("2024", report["from"]!.GetValue<string>());
        Assert.Contains("scope.mortgage", Lines(report["toLookAt"]!));
        Assert.Contains("employment.employers.basic-pay", Lines(report["left"]!));
        Assert.DoesNotContain("employment.employers.pin", Lines(report["toLookAt"]!));
        Assert.Equal(HttpStatusCode.Conflict, (await rukia.SendAsync(HttpMethod.Post, $"/api/returns/{esi}/roll-forward")).Status);
        Assert.Contains("2026", (await rukia.SendAsync(HttpMethod.Post, $"/api/returns/{opened}/roll-forward")).Answer!["detail"]!.GetValue<string>());
    }

    private static IEnumerable<long> Ids(JsonNode page) => page["items"]!.AsArray().Select(i => i!["id"]!.GetValue<long>());

    private static IEnumerable<string> Names(JsonNode page) => page["items"]!.AsArray().Select(i => i!["client"]!.GetValue<string>());

    private static IEnumerable<string> Lines(JsonNode lines) => lines.AsArray().Select(l => l!["line"]!.GetValue<string>());

    private static async Task<JsonNode> RunAsync(Browser person, object start) =>
        await person.BatchAsync((await person.DoAsync(HttpMethod.Post, "/api/batches", start))["id"]!.GetValue<long>());
}
