using System.Net;
using System.Text.Json.Nodes;

namespace Aerarium.Server.Tests;

/// <summary>Rules a practice makes for approval, the second signature, the client's acceptance through a link, and what changed since.</summary>
public class ApprovalTests : IAsyncLifetime
{
    private Practice _practice = null!;
    private Browser _rukia = null!, _mosi = null!, _tarek = null!;
    private long _zuri;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        (_rukia, _mosi, _tarek) = (await _practice.SignInAsync(0), await _practice.SignInAsync(1), await _practice.SignInAsync(3));
        _zuri = await _rukia.ReturnOfAsync("Zuri", 2025);
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    private Task<JsonNode> RulesAsync(bool fourEyes = true, string? secondFrom = null, bool clientAccepts = false) =>
        _tarek.DoAsync(HttpMethod.Put, "/api/practice/approval-rules", new { fourEyes, secondFrom, clientAccepts });

    private async Task<string> RefusedAsync(Browser person, string act)
    {
        var (status, answer) = await person.SendAsync(HttpMethod.Post, $"/api/returns/{act}");
        Assert.True(status is HttpStatusCode.Conflict or HttpStatusCode.Forbidden, $"{act}: {status}");
        return answer!["detail"]!.GetValue<string>();
    }

    private async Task<string> LinkAsync() => (await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{_zuri}/approval/ask-client"))["path"]!.GetValue<string>().Replace("/accept/", "/api/acceptance/");

    [Fact]
    public async Task A_client_looks_at_the_approved_return_and_accepts_it_once_without_an_account()
    {
        await RulesAsync(clientAccepts: true);
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{_zuri}/sending/build");
        Assert.Contains("has to accept", await RefusedAsync(_mosi, $"{_zuri}/sending/send"));
        var link = await LinkAsync();
        Assert.Contains("has not answered", await RefusedAsync(_mosi, $"{_zuri}/sending/send"));

        var client = await Browser.OpenAsync(_practice.ServerAddress);
        var seen = await client.GetAsync(link);
        Assert.Equal(("Lantern Reef Tax Practice", "Zuri Lindgren Mwangi", "2025"), (seen["practice"]!.GetValue<string>(), seen["client"]!.GetValue<string>(), seen["period"]!.GetValue<string>()));
        Assert.Equal("Balance", seen["figures"]!.AsArray()[^1]!["label"]!.GetValue<string>());
        Assert.Equal("%PDF"u8.ToArray(), (await client.Http.GetByteArrayAsync($"{link}/copy.pdf"))[..4]);
        await client.DoAsync(HttpMethod.Post, link, new { accept = true, name = "Zuri Lindgren Mwangi", remark = "" });
        var (again, _) = await client.SendAsync(HttpMethod.Post, link, new { accept = false, name = "Somebody", remark = "changed my mind" });
        Assert.Equal(HttpStatusCode.Conflict, again);
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{_zuri}/sending/send");
        Assert.Equal("accepted", await _mosi.WaitForAsync(_zuri, "accepted", "rejected"));
        Assert.Contains((await _mosi.GetAsync($"/api/acts?returnId={_zuri}")).AsArray(), a => a!["kind"]!.GetValue<string>() == "client-accepts" && a["personName"]!.GetValue<string>() == "client: Zuri Lindgren Mwangi");
    }

    [Fact]
    public async Task A_refusal_says_why_and_stops_the_sending_until_a_new_link_is_answered()
    {
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{_zuri}/sending/build");
        var link = await LinkAsync();
        var client = await Browser.OpenAsync(_practice.ServerAddress);
        var (bare, problem) = await client.SendAsync(HttpMethod.Post, link, new { accept = false, name = "Zuri", remark = " " });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, bare);
        Assert.Contains("what is not right", problem!["detail"]!.GetValue<string>());
        await client.DoAsync(HttpMethod.Post, link, new { accept = false, name = "Zuri", remark = "The cinema paid five months" });
        Assert.Contains("The cinema paid five months", await RefusedAsync(_mosi, $"{_zuri}/sending/send"));
        Assert.Equal("refused", (await _rukia.GetAsync($"/api/returns/{_zuri}/approval"))["client"]!["answer"]!.GetValue<string>());
        var second = await LinkAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await client.SendAsync(HttpMethod.Get, link)).Status);
        await client.DoAsync(HttpMethod.Post, second, new { accept = true, name = "Zuri", remark = "" });
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{_zuri}/sending/send");
    }

    [Fact]
    public async Task A_link_dies_with_the_approval_and_an_unknown_one_tells_nothing()
    {
        var link = await LinkAsync();
        await _rukia.SetAsync(_zuri, "taxpayer.phone", "0788 888 888");
        var client = await Browser.OpenAsync(_practice.ServerAddress);
        foreach (var dead in new[] { link, "/api/acceptance/0000", $"{link}/copy.pdf" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await client.SendAsync(HttpMethod.Get, dead)).Status);
        }

        Assert.Contains("approved first", await RefusedAsync(_rukia, $"{_zuri}/approval/ask-client"));
    }

    [Fact]
    public async Task What_changed_since_the_approval_is_told_entry_by_entry()
    {
        Assert.Empty((await _rukia.GetAsync($"/api/returns/{_zuri}/approval"))["changed"]!.AsArray());
        await _rukia.SetAsync(_zuri, "employment.employers.tax-deducted", "52001", "row-2");
        var view = await _rukia.GetAsync($"/api/returns/{_zuri}/approval");
        Assert.Equal("withdrawn", view["state"]!.GetValue<string>());
        var changed = Assert.Single(view["changed"]!.AsArray())!;
        Assert.Equal(("employment.employers.tax-deducted", "row-2", "52000", "52001"), (changed["line"]!.GetValue<string>(), changed["row"]!.GetValue<string>(), changed["was"]!.GetValue<string>(), changed["now"]!.GetValue<string>()));
    }

    [Fact]
    public async Task A_second_approver_signs_where_the_practice_asks_for_two()
    {
        await RulesAsync(secondFrom: "1,000");
        var ines = await _practice.SignInAsync(4);
        var people = (await ines.GetAsync("/api/people"))["people"]!.AsArray();
        var pia = people.Single(p => p!["name"]!.GetValue<string>() == "Pia Okello-Rand")!["id"]!.GetValue<long>();
        await ines.DoAsync(HttpMethod.Put, $"/api/people/{pia}", new { name = "Pia Okello-Rand", roles = new[] { "preparer", "approver" }, active = true, teams = Array.Empty<long>() });
        var second = await _practice.SignInAsync(2);
        var baraka = await _rukia.ReturnOfAsync("Baraka", 2025);
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{baraka}/approval/approve");
        Assert.Equal("waiting", await _mosi.StageAsync(baraka));
        Assert.Contains("second approver", await RefusedAsync(_mosi, $"{baraka}/approval/approve"));
        var approved = await second.DoAsync(HttpMethod.Post, $"/api/returns/{baraka}/approval/approve");
        Assert.Equal(("approved", "Mosi Lindqvist", "Pia Okello-Rand"), (approved["state"]!.GetValue<string>(), approved["approvedBy"]!.GetValue<string>(), approved["secondBy"]!.GetValue<string>()));
    }

    [Fact]
    public async Task Without_four_eyes_an_approver_approves_what_the_same_person_prepared()
    {
        await RulesAsync(fourEyes: false);
        var nia = await _mosi.ReturnOfAsync("Nia", 2025);
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{nia}/approval/hand-over");
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{nia}/approval/approve");
        Assert.Equal("approved", await _mosi.StageAsync(nia));
    }

    [Fact]
    public async Task A_kind_of_return_may_need_two_signatures_whatever_its_balance()
    {
        await _tarek.DoAsync(HttpMethod.Put, "/api/practice/approval-rules", new { fourEyes = false, clientAccepts = false, secondFor = new[] { "ke/employment-income" } });
        var nia = await _mosi.ReturnOfAsync("Nia", 2025);
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{nia}/approval/hand-over");
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{nia}/approval/approve");
        Assert.Equal("waiting", await _mosi.StageAsync(nia));
        Assert.Contains("second approver", await RefusedAsync(_mosi, $"{nia}/approval/approve"));
        Assert.Contains("and for ke/employment-income", (await _tarek.GetAsync("/api/acts")).AsArray().First(a => a!["kind"]!.GetValue<string>() == "approval-rules")!["after"]!.GetValue<string>());
        var (status, _) = await _tarek.SendAsync(HttpMethod.Put, "/api/practice/approval-rules", new { fourEyes = true, clientAccepts = false, secondFor = new[] { "zz/none" } });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
    }

    /// <summary>A figure that is not certain and moves the balance holds approval up, where the practice wants it so, until somebody verified it.</summary>
    [Fact]
    public async Task Approval_may_wait_for_the_law_to_be_verified()
    {
        var cuthbert = await _mosi.ReturnOfAsync("Cuthbert", 2025);
        Assert.Equal("waiting", await _mosi.StageAsync(cuthbert));
        await _tarek.DoAsync(HttpMethod.Put, "/api/practice/approval-rules", new { fourEyes = true, clientAccepts = false, lawVerified = true });
        var refused = await RefusedAsync(_mosi, $"{cuthbert}/approval/approve");
        Assert.Contains("personal allowance", refused, StringComparison.Ordinal);
        Assert.Contains("Verify them in Law", refused, StringComparison.Ordinal);
        await _mosi.DoAsync(HttpMethod.Post, "/api/law/bb/individual/2025/verify", new { figure = "personal-allowance", against = "Income Tax Act as printed" });
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{cuthbert}/approval/approve");
        Assert.Equal("approved", await _mosi.StageAsync(cuthbert));
    }

    [Fact]
    public async Task An_amount_that_cannot_be_read_makes_no_rule()
    {
        var (status, answer) = await _tarek.SendAsync(HttpMethod.Put, "/api/practice/approval-rules", new { fourEyes = true, secondFrom = "many", clientAccepts = false });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("'many'", answer!["detail"]!.GetValue<string>());
        Assert.Null((await _tarek.GetAsync("/api/practice/approval-rules"))["secondFrom"]);
    }
}
