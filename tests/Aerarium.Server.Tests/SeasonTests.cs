using System.IO.Compression;
using System.Net;
using System.Text.Json.Nodes;
using Aerarium.Server.Demo;

namespace Aerarium.Server.Tests;

/// <summary>What a season needs beside filling: extensions, running charges, payments, reminders, amendments, Parcels by the dozen.</summary>
public class SeasonTests : IAsyncLifetime
{
    private Practice _practice = null!;
    private Browser _rukia = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        _rukia = await _practice.SignInAsync(0);
        await _rukia.WaitForAnswersAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await _practice.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    private async Task<JsonNode> DeskItemAsync(long id) =>
        (await _rukia.GetAsync("/api/desk?list=all"))["items"]!.AsArray().Single(r => r!["id"]!.GetValue<long>() == id)!;

    [Fact]
    public async Task An_extension_moves_the_deadline_everywhere_and_the_lateness_with_it()
    {
        var esi = await _rukia.ReturnOfAsync("Esi", 2024);
        Assert.Contains((await _rukia.GetAsync("/api/desk?list=overdue"))["items"]!.AsArray(), r => r!["id"]!.GetValue<long>() == esi);
        await _rukia.SetAsync(esi, "scope.extension", "yes");
        await _rukia.SetAsync(esi, "scope.extended-to", "2026-06-30");
        Assert.Equal("2026-06-30", (await DeskItemAsync(esi))["due"]!.GetValue<string>());
        Assert.DoesNotContain((await _rukia.GetAsync("/api/desk?list=overdue"))["items"]!.AsArray(), r => r!["id"]!.GetValue<long>() == esi);
        var view = await _rukia.GetAsync($"/api/returns/{esi}");
        Assert.Equal(12, view["deadlines"]!.AsArray().Single(d => d!["act"]!.GetValue<string>() == "filing")!["daysLeft"]!.GetValue<int>());
        Assert.Equal("0", view["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == "charges.late-filing")!["value"]!.GetValue<string>());
        Assert.Contains("20260630", await _rukia.Http.GetStringAsync("/api/deadlines.ics"));

        var early = await _rukia.SetAsync(esi, "scope.extended-to", "2025-05-01");
        Assert.Contains(early["findings"]!["now"]!.AsArray(), f => f!["id"]!.GetValue<string>() == "extended-too-early");
        Assert.Equal("2025-06-30", (await DeskItemAsync(esi))["due"]!.GetValue<string>());
    }

    [Fact]
    public async Task The_penalty_running_is_on_the_Desk_for_what_is_late_and_for_nothing_that_is_filed()
    {
        var esi = await DeskItemAsync(await _rukia.ReturnOfAsync("Esi", 2024));

        // Balance 50,754.25, fourteen months begun: 5% + 5% + 14 x 1% of it (TPA s. 83, 83A, 38), halves up.
        Assert.Equal(("50754.25", "12181.02"), (esi["balance"]!.GetValue<string>(), esi["charges"]!.GetValue<string>()));
        Assert.Equal("0", (await DeskItemAsync(await _rukia.ReturnOfAsync("Oluoch", 2024)))["charges"]!.GetValue<string>());
    }

    [Fact]
    public async Task Payments_bring_a_filed_return_off_the_list_of_the_unpaid()
    {
        var njeri = await _rukia.ReturnOfAsync("Njeri", 2024);
        async Task<bool> IsUnpaidAsync() => (await _rukia.GetAsync("/api/desk?list=unpaid"))["items"]!.AsArray().Any(r => r!["id"]!.GetValue<long>() == njeri);
        async Task<string> RefusedAsync(string paidOn, string amount, string reference)
        {
            var (status, answer) = await _rukia.SendAsync(HttpMethod.Post, $"/api/returns/{njeri}/payments", new { paidOn, amount, reference });
            Assert.True(status is HttpStatusCode.UnprocessableEntity or HttpStatusCode.Conflict);
            return answer!["detail"]!.GetValue<string>();
        }

        Assert.True(await IsUnpaidAsync());
        Assert.Contains("not the day", await RefusedAsync("19/06/2026", "10", "S-1"));
        Assert.Contains("not an amount", await RefusedAsync("17/06/2026", "-10", "S-1"));
        Assert.Contains("reference", await RefusedAsync("17/06/2026", "10", " "));
        var part = await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{njeri}/payments", new { paidOn = "17/06/2026", amount = "4,000", reference = "S-1" });
        Assert.Equal("537.5", part["unpaid"]!.GetValue<string>());
        Assert.Contains("noted already", await RefusedAsync("17/06/2026", "537.50", "S-1"));
        Assert.True(await IsUnpaidAsync());
        var rest = await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{njeri}/payments", new { paidOn = "18/06/2026", amount = "500+37.50", reference = "S-2" });
        Assert.Equal("0", rest["unpaid"]!.GetValue<string>());
        Assert.False(await IsUnpaidAsync());
        await _rukia.DoAsync(HttpMethod.Delete, $"/api/returns/{njeri}/payments/{rest["payments"]![0]!["id"]}");
        Assert.True(await IsUnpaidAsync());
    }

    [Fact]
    public async Task An_amended_return_says_what_it_changes_line_by_line_and_counts_what_was_paid()
    {
        var filed = await _rukia.ReturnOfAsync("Njeri", 2024);
        var client = (await _rukia.GetAsync($"/api/returns/{filed}"))["clientId"]!.GetValue<long>();
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{filed}/payments", new { paidOn = "17/06/2026", amount = "4537.50", reference = "S-1" });
        var amended = (await _rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ke/employment-income", year = 2024, kind = "amended" }))["id"]!.GetValue<long>();
        Assert.Empty((await _rukia.GetAsync($"/api/returns/{amended}/amendment"))["lines"]!.AsArray());
        await _rukia.SetAsync(amended, "employment.employers.tax-deducted", "270000", "row-1");
        var report = await _rukia.GetAsync($"/api/returns/{amended}/amendment");
        Assert.StartsWith("ACK-2024-", report["acknowledgement"]!.GetValue<string>());
        Assert.Equal(
            ["balance.already-paid", "balance.balance", "balance.tax-deducted", "employment.employers.tax-deducted"],
            report["lines"]!.AsArray().Select(l => l!["line"]!.GetValue<string>()).Where(l => l.StartsWith("balance.", StringComparison.Ordinal) || l.StartsWith("employment.", StringComparison.Ordinal)).Order());
        var line = report["lines"]!.AsArray().Single(l => l!["line"]!.GetValue<string>() == "employment.employers.tax-deducted")!;
        Assert.Equal(("262000", "270000"), (line["filed"]!.GetValue<string>(), line["now"]!.GetValue<string>()));
        Assert.Equal("Cinder Bay Kelp Growers Ltd", line["rowLabel"]!.GetValue<string>());
        Assert.Equal("4537.5", (await _rukia.GetAsync($"/api/returns/{amended}/payments"))["paid"]!.GetValue<string>());
        Assert.Contains(await _rukia.Http.GetStringAsync($"/api/returns/{filed}/amendment"), new[] { "", "null" });
    }

    [Fact]
    public async Task Reminders_come_up_on_the_Desk_of_whom_they_are_for_on_their_day_until_done()
    {
        var per = await _rukia.ReturnOfAsync("Per", 2025);
        var tarek = await _practice.SignInAsync(3);
        var tarekId = (await tarek.GetAsync("/api/session"))["person"]!["id"]!.GetValue<long>();
        async Task<List<string>> WordsAsync(Browser person) =>
            [.. (await person.GetAsync("/api/desk/reminders")).AsArray().Where(r => r!["id"] is not null).Select(r => r!["words"]!.GetValue<string>())];

        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _rukia.SendAsync(HttpMethod.Post, $"/api/returns/{per}/reminders", new { words = "x", onDay = "someday" })).Status);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _rukia.SendAsync(HttpMethod.Post, $"/api/returns/{per}/reminders", new { words = "", onDay = "18/06/2026" })).Status);
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{per}/reminders", new { words = "call about the policy", onDay = "18/06/2026", personId = tarekId });
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{per}/reminders", new { words = "not yet", onDay = "19/06/2026" });
        Assert.Equal(["Per Halvorsen Oduya 2025: call about the policy"], await WordsAsync(tarek));
        Assert.Equal(["Njeri Halvorsen Oduya 2025: ask for the lender's certificate of 2025"], await WordsAsync(_rukia));
        var reminder = (await tarek.GetAsync("/api/desk/reminders")).AsArray().Single(r => r!["id"] is not null)!["id"]!.GetValue<long>();
        await tarek.DoAsync(HttpMethod.Post, $"/api/returns/{per}/reminders/{reminder}/done");
        Assert.Empty(await WordsAsync(tarek));
        Assert.Equal(HttpStatusCode.NotFound, (await tarek.SendAsync(HttpMethod.Post, $"/api/returns/{per}/reminders/{reminder}/done")).Status);
    }

    [Fact]
    public async Task A_sending_nobody_answers_comes_up_as_a_reminder()
    {
        var mosi = await _practice.SignInAsync(1);
        _practice.Authority.Faults.Outage = true;
        var zuri = await mosi.ReturnOfAsync("Zuri", 2025);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/send");
        Assert.DoesNotContain((await mosi.GetAsync("/api/desk/reminders")).AsArray(), r => r!["returnId"]?.GetValue<long>() == zuri);
        using (var file = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={_practice.DatabaseFile};Pooling=False"))
        {
            Dapper.SqlMapper.Execute(file, "UPDATE sending SET created_at = '2026-06-15T09:00:00.000Z' WHERE return_id = @zuri", new { zuri });
        }

        Assert.Contains((await mosi.GetAsync("/api/desk/reminders")).AsArray(), r => r!["returnId"]?.GetValue<long>() == zuri && r["words"]!.GetValue<string>().Contains("not answered", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_batch_exports_the_Parcels_of_what_is_answered_and_says_which_have_none()
    {
        var all = (await _rukia.GetAsync("/api/desk?list=all"))["items"]!.AsArray().Select(r => r!["id"]!.GetValue<long>()).ToList();
        var batch = (await _rukia.DoAsync(HttpMethod.Post, "/api/batches", new { act = "export", returns = all }))["id"]!.GetValue<long>();
        var results = await _rukia.BatchAsync(batch);
        var done = results["done"]!.AsArray().Count;
        Assert.Equal(DemoReturns.Countries.Sum(c => c.Clients.Sum(client => client.Returns.Count(r => r.Stage == DemoStage.Sent))), done);
        Assert.All(results["refused"]!.AsArray(), r => Assert.Contains("no receipt yet", r!["result"]!.GetValue<string>()));
        using var zip = new ZipArchive(new MemoryStream(await _rukia.Http.GetByteArrayAsync($"/api/batches/{batch}/parcels.zip")));
        Assert.Equal(done, zip.Entries.Count);
        using var parcel = new ZipArchive(zip.Entries[0].Open());
        Assert.NotNull(parcel.GetEntry("receipt.json"));
        Assert.Equal(HttpStatusCode.NotFound, (await (await _practice.SignInAsync(1)).SendAsync(HttpMethod.Get, $"/api/batches/{batch}/parcels.zip")).Status);
    }

    [Fact]
    public async Task A_new_day_evaluates_what_is_late_anew()
    {
        var esi = await _rukia.ReturnOfAsync("Esi", 2024);
        await _practice.KillServerAsync();
        using (var file = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={_practice.DatabaseFile};Pooling=False"))
        {
            Dapper.SqlMapper.Execute(file, "UPDATE tax_return SET checked_on = '2026-06-17', charges = '1' WHERE id = @esi", new { esi });
        }

        await _practice.StartServerAsync();
        _rukia = await _practice.SignInAsync(0);
        var item = await Wait.ForAsync(() => DeskItemAsync(esi), i => i["charges"]!.GetValue<string>() != "1", "The charges were not worked out again.");
        Assert.Equal("12181.02", item["charges"]!.GetValue<string>());
    }
}
