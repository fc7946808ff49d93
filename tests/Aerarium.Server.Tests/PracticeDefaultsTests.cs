using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>What the practice keeps for a country, and how open returns follow it.</summary>
public class PracticeDefaultsTests
{
    private const string Path = "/api/practice/particulars/ke";

    [Fact]
    public async Task Saving_says_first_which_lines_would_change_and_then_changes_just_those()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, tarek) = (await practice.SignInAsync(0), await practice.SignInAsync(3));
        await rukia.WaitForAnswersAsync();
        var sent = await rukia.ReturnOfAsync("Amara", 2025);
        var over = await rukia.ReturnOfAsync("Njeri", 2025);
        await rukia.SetAsync(over, "declaration.contact-name", "Rukia herself");
        var values = new { values = new Dictionary<string, string?> { ["contact-name"] = "Noor Abara" } };

        var tried = await tarek.DoAsync(HttpMethod.Post, $"{Path}/try", values);
        var open = (await rukia.GetAsync("/api/desk?list=open&definition=ke%2Femployment-income"))["items"]!.AsArray().Select(r => r!["id"]!.GetValue<long>()).Order().ToList();
        Assert.Equal(open.Where(i => i != over), tried["changes"]!.AsArray().Select(c => c!["returnId"]!.GetValue<long>()).Distinct().Order());
        Assert.All(tried["changes"]!.AsArray(), c => Assert.Equal(("Tarek Oyelaran", "Noor Abara"), (c!["was"]!.GetValue<string>(), c["now"]!.GetValue<string>())));
        Assert.Equal("Tarek Oyelaran", await ContactAsync(rukia, open.First(i => i != over)));

        var saved = await tarek.DoAsync(HttpMethod.Put, Path, values);
        Assert.Equal(open.Count - 1, saved["returns"]!.GetValue<int>());
        Assert.Equal("Noor Abara", await ContactAsync(rukia, open.First(i => i != over)));
        Assert.Equal("Rukia herself", await ContactAsync(rukia, over));
        Assert.Equal("Tarek Oyelaran", await ContactAsync(rukia, sent));
    }

    [Fact]
    public async Task Hundreds_of_open_returns_follow_as_a_batch_with_a_result_for_each()
    {
        await using var practice = await Practice.StartAsync();
        practice.Server.Services.GetRequiredService<Demo.DemoCrowd>().FillUpTo(500);
        var tarek = await practice.SignInAsync(3);
        var saved = await tarek.DoAsync(HttpMethod.Put, Path, new { values = new Dictionary<string, string?> { ["contact-name"] = "Noor Abara" } });
        var returns = saved["returns"]!.GetValue<int>();
        Assert.True(returns > 200);
        Assert.Equal(returns, saved["changes"]!.AsArray().Select(c => c!["returnId"]!.GetValue<long>()).Distinct().Count());
        var batch = (await tarek.BatchAsync(saved["batch"]!.GetValue<long>()))["batch"]!;

        Assert.Equal((returns, 0), (batch["done"]!.GetValue<int>(), batch["refused"]!.GetValue<int>()));
        Assert.Equal("Noor Abara", await ContactAsync(tarek, saved["changes"]![returns - 1]!["returnId"]!.GetValue<long>()));
        Assert.Equal(0, (await tarek.DoAsync(HttpMethod.Post, $"{Path}/try", new { values = new Dictionary<string, string?> { ["contact-name"] = "Noor Abara" } }))["returns"]!.GetValue<int>());
        var (status, _) = await tarek.SendAsync(HttpMethod.Post, "/api/batches", new { act = "follow-practice", returns = new[] { 1 } });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
    }

    [Fact]
    public async Task A_missing_particular_is_an_error_in_every_open_return_at_once()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, tarek) = (await practice.SignInAsync(0), await practice.SignInAsync(3));
        var per = await rukia.ReturnOfAsync("Per", 2025);
        await tarek.DoAsync(HttpMethod.Put, Path, new { values = new Dictionary<string, string?> { ["contact-phone"] = "" } });
        var finding = Assert.Single(
            (await rukia.GetAsync($"/api/returns/{per}"))["findings"]!.AsArray(), f => f!["id"]!.GetValue<string>() == "declaration.contact-phone:missing")!;
        Assert.Contains("Practice page", finding["message"]!.GetValue<string>());
        var (status, _) = await rukia.SendAsync(HttpMethod.Post, $"/api/returns/{per}/approval/hand-over");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Equal(1, (await rukia.GetAsync("/api/desk?list=open&search=Per%20Halvorsen"))["items"]!.AsArray().Single(r => r!["id"]!.GetValue<long>() == per)!["errors"]!.GetValue<int>());
    }

    [Fact]
    public async Task Wrong_particulars_are_told_by_field_and_nothing_is_saved()
    {
        await using var practice = await Practice.StartAsync();
        var tarek = await practice.SignInAsync(3);
        var refused = await tarek.DoAsync(HttpMethod.Put, Path, new
        {
            values = new Dictionary<string, string?> { ["agent-pin"] = "X1", ["declarant-capacity"] = "king", ["contact-name"] = "New" },
            userName = "with:colon",
        });
        Assert.Equal(["agent-pin", "declarant-capacity", "userName"], refused["problems"]!.AsArray().Select(p => p!["field"]!.GetValue<string>()).Order());
        Assert.Contains("Tarek Oyelaran", (await tarek.GetAsync("/api/practice/particulars")).ToJsonString());
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await tarek.SendAsync(HttpMethod.Put, Path, new { values = new Dictionary<string, string?> { ["unknown"] = "x" } })).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await tarek.SendAsync(HttpMethod.Put, "/api/practice/particulars/xx", new { })).Status);
    }

    [Fact]
    public async Task A_secret_is_kept_encrypted_is_never_told_and_a_wrong_one_is_noticed_and_mended()
    {
        await using var practice = await Practice.StartAsync();
        var (mosi, tarek) = (await practice.SignInAsync(1), await practice.SignInAsync(3));
        await mosi.WaitForAnswersAsync();
        const string wrong = "not-the-authoritys-secret";
        await tarek.DoAsync(HttpMethod.Put, Path, new { secret = wrong });
        Assert.DoesNotContain(wrong, (await tarek.GetAsync("/api/practice/particulars")).ToJsonString());
        Assert.DoesNotContain(wrong, (await tarek.GetAsync("/api/acts")).ToJsonString());
        foreach (var file in Directory.EnumerateFiles(practice.DataFolder, "practice.db*"))
        {
            await using var stream = new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite);
            using var memory = new MemoryStream();
            await stream.CopyToAsync(memory);
            Assert.DoesNotContain(wrong, Encoding.Latin1.GetString(memory.ToArray()));
        }

        var zuri = await mosi.ReturnOfAsync("Zuri", 2025);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/send");
        var sending = await mosi.ProblemAsync(zuri);

        Assert.Contains("user name and secret", sending["problem"]!.GetValue<string>());
        await tarek.DoAsync(HttpMethod.Put, Path, new { secret = "reef-demo-secret" });
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/chase");
        Assert.Equal("accepted", await mosi.WaitForAsync(zuri, "accepted", "rejected"));
    }

    private static async Task<string> ContactAsync(Browser person, long id) =>
        (await person.GetAsync($"/api/returns/{id}"))["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == "declaration.contact-name")!["value"]!.GetValue<string>();
}

/// <summary>The first hour of a practice that is not the demonstration.</summary>
public class SetUpTests
{
    private static object Typed(string code, string password = "a password of words") => new
    {
        code,
        practiceName = "Quiet Quay Accounts",
        name = "Sabela Orr",
        email = "sabela@quay.example",
        password,
        roles = new[] { "manager", "preparer", "wizard" },
    };

    [Fact]
    public async Task Who_works_alone_says_so_at_set_up_and_prepares_and_approves()
    {
        await using var practice = await Practice.StartAsync(demo: false);
        var code = await File.ReadAllTextAsync(System.IO.Path.Combine(practice.DataFolder, "set-up-code"));
        var sabela = await Browser.OpenAsync(practice.ServerAddress);
        var typed = new { code, practiceName = "Quay and Ledger", name = "Sabela Quay", email = "sabela@quay.example", password = "a password of words", roles = Array.Empty<string>(), worksAlone = true };
        Assert.Equal(HttpStatusCode.NoContent, (await sabela.SendAsync(HttpMethod.Post, "/api/set-up", typed)).Status);
        var signedIn = await Browser.SignInAsync(practice.ServerAddress, new Access.DemoCredential("sabela@quay.example", "a password of words", "", ""));
        var session = await signedIn.GetAsync("/api/session");
        Assert.True(session["person"]!["mayPrepare"]!.GetValue<bool>() && session["person"]!["mayApprove"]!.GetValue<bool>() && session["person"]!["mayManage"]!.GetValue<bool>());
        Assert.False((await signedIn.GetAsync("/api/practice/approval-rules"))["fourEyes"]!.GetValue<bool>());
    }

    [Fact]
    public async Task A_practice_is_set_up_once_by_who_can_read_the_code_and_says_what_it_still_lacks()
    {
        await using var practice = await Practice.StartAsync(demo: false);
        var stranger = await Browser.OpenAsync(practice.ServerAddress);
        Assert.Null((await stranger.GetAsync("/api/session"))["practice"]);
        Assert.Equal(HttpStatusCode.Forbidden, (await stranger.SendAsync(HttpMethod.Post, "/api/set-up", Typed("guess"))).Status);
        var file = System.IO.Path.Combine(practice.DataFolder, "set-up-code");
        if (!OperatingSystem.IsWindows())
        {
            Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(file));
        }

        var code = await File.ReadAllTextAsync(file);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await stranger.SendAsync(HttpMethod.Post, "/api/set-up", Typed(code, "short"))).Status);
        Assert.Equal(HttpStatusCode.NoContent, (await stranger.SendAsync(HttpMethod.Post, "/api/set-up", Typed(code))).Status);
        Assert.False(File.Exists(file));
        Assert.Equal(HttpStatusCode.Conflict, (await (await Browser.OpenAsync(practice.ServerAddress)).SendAsync(HttpMethod.Post, "/api/set-up", Typed(code))).Status);

        var sabela = await Browser.SignInAsync(practice.ServerAddress, new Access.DemoCredential("sabela@quay.example", "a password of words", "", ""));
        Assert.Equal(["administrator", "manager", "preparer"], (await sabela.GetAsync("/api/session"))["person"]!["roles"]!.AsArray().Select(r => r!.GetValue<string>()));
        var client = await sabela.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier = "A009900771K", name = "Wambui Larkspur" });
        var opened = await sabela.DoAsync(HttpMethod.Post, $"/api/clients/{client["id"]}/returns", new { definition = "ke/employment-income", year = 2025, kind = "original" });
        var findings = (await sabela.GetAsync($"/api/returns/{opened["id"]}"))["findings"]!.AsArray().Select(f => f!["id"]!.GetValue<string>()).ToList();
        Assert.Contains("practice", findings);
        Assert.Contains("declaration.agent-pin:missing", findings);
        Assert.DoesNotContain("declaration.agent-name:missing", findings);
        await sabela.DoAsync(HttpMethod.Put, "/api/practice/particulars/ke", new
        {
            values = new Dictionary<string, string?> { ["agent-pin"] = "P051990002Q", ["contact-name"] = "Sabela Orr", ["contact-phone"] = "0700 1" },
            userName = "quay",
            secret = "s3cret of the quay",
        });
        var after = (await sabela.GetAsync($"/api/returns/{opened["id"]}"))["findings"]!.AsArray().Select(f => f!["id"]!.GetValue<string>()).ToList();
        Assert.DoesNotContain("practice", after);
        Assert.DoesNotContain("declaration.agent-pin:missing", after);
        Assert.Null((await sabela.GetAsync("/api/acts/verification"))["firstBroken"]);
    }

    [Fact]
    public async Task The_demonstration_offers_no_set_up()
    {
        await using var practice = await Practice.StartAsync();
        Assert.False(File.Exists(System.IO.Path.Combine(practice.DataFolder, "set-up-code")));
        var (status, _) = await (await Browser.OpenAsync(practice.ServerAddress)).SendAsync(HttpMethod.Post, "/api/set-up", Typed(""));
        Assert.Equal(HttpStatusCode.Conflict, status);
    }
}
