using System.Buffers.Binary;
using System.Globalization;
using System.Net;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using Aerarium.Server.Access;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

public class PeopleTests
{
    private const int Rukia = 0;
    private const int Pia = 2;
    private const int Tarek = 3;
    private const int Ines = 4;

    [Fact]
    public async Task An_invitation_is_taken_up_once_and_gives_the_roles_it_names()
    {
        await using var practice = await Practice.StartAsync();
        var ines = await practice.SignInAsync(Ines);
        var invited = await ines.DoAsync(HttpMethod.Post, "/api/people/invitations", new { name = "Olamide Reyes", email = "olamide@lanternreef.example", roles = new[] { "approver", "preparer" } });
        var path = "/api/invitations/" + invited["path"]!.GetValue<string>().Split('/')[^1];
        var olamide = await Browser.OpenAsync(practice.ServerAddress);
        Assert.Equal("Olamide Reyes", (await olamide.GetAsync(path))["name"]!.GetValue<string>());
        var (status, answer) = await olamide.SendAsync(HttpMethod.Post, path + "/accept", new { password = "short" });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("at least 12", answer!["detail"]!.GetValue<string>());
        await olamide.DoAsync(HttpMethod.Post, path + "/accept", new { password = "nine small boats" });
        Assert.Equal(["approver", "preparer"], await RolesAsync(olamide));
        Assert.Equal(HttpStatusCode.NotFound, (await ines.SendAsync(HttpMethod.Post, path + "/accept", new { password = "ten other boats" })).Status);
        Assert.Equal(HttpStatusCode.Conflict, (await ines.SendAsync(HttpMethod.Post, "/api/people/invitations", new { name = "O", email = "OLAMIDE@lanternreef.example", roles = new[] { "reader" } })).Status);
    }

    [Theory]
    [InlineData("", "a@b.example", "reader", "name")]
    [InlineData("A", "a at b", "reader", "e-mail address")]
    [InlineData("A", "a@b.example", "captain", "no role 'captain'")]
    [InlineData("A", "a@b.example", null, "at least one role")]
    public async Task An_invitation_that_cannot_be_made_says_why(string name, string email, string? role, string words)
    {
        await using var practice = await Practice.StartAsync();
        var ines = await practice.SignInAsync(Ines);
        var (status, answer) = await ines.SendAsync(HttpMethod.Post, "/api/people/invitations", new { name, email, roles = role is null ? [] : new[] { role } });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(words, answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task Changed_roles_hold_at_once_and_an_ended_session_is_worth_nothing()
    {
        await using var practice = await Practice.StartAsync();
        var (ines, pia) = (await practice.SignInAsync(Ines), await practice.SignInAsync(Pia));
        var id = await IdOfAsync(ines, "Pia");
        await ines.DoAsync(HttpMethod.Put, $"/api/people/{id}", new { roles = new[] { "reader" }, teams = Array.Empty<string>(), active = true });
        Assert.Equal(HttpStatusCode.Forbidden, (await pia.SendAsync(HttpMethod.Post, "/api/clients", new { })).Status);
        Assert.Equal(["reader"], await RolesAsync(pia));
        await ines.DoAsync(HttpMethod.Post, $"/api/people/{id}/end-sessions");
        Assert.Equal(HttpStatusCode.Unauthorized, (await pia.SendAsync(HttpMethod.Get, "/api/desk")).Status);
        await ines.DoAsync(HttpMethod.Put, $"/api/people/{id}", new { roles = new[] { "reader" }, teams = Array.Empty<string>(), active = false });
        var (status, _) = await (await Browser.OpenAsync(practice.ServerAddress)).SendAsync(
            HttpMethod.Post, "/api/session/sign-in", new { email = "pia@lanternreef.example", password = "reed-and-margin" });
        Assert.Equal(HttpStatusCode.Unauthorized, status);
    }

    [Fact]
    public async Task The_last_administrator_stays_one()
    {
        await using var practice = await Practice.StartAsync();
        var ines = await practice.SignInAsync(Ines);
        var id = await IdOfAsync(ines, "Ines");
        foreach (var change in new object[] { new { roles = new[] { "reader" }, teams = Array.Empty<string>(), active = true }, new { roles = new[] { "administrator" }, teams = Array.Empty<string>(), active = false } })
        {
            var (status, answer) = await ines.SendAsync(HttpMethod.Put, $"/api/people/{id}", change);
            Assert.Equal(HttpStatusCode.Conflict, status);
            Assert.Contains("last administrator", answer!["detail"]!.GetValue<string>());
        }
    }

    [Fact]
    public async Task Own_sessions_are_listed_and_ended_and_a_new_password_ends_the_others()
    {
        await using var practice = await Practice.StartAsync();
        var (desk, phone) = (await practice.SignInAsync(Rukia), await practice.SignInAsync(Rukia));
        var other = (await desk.GetAsync("/api/account"))["sessions"]!.AsArray().Single(s => !s!["thisOne"]!.GetValue<bool>())!["id"]!.GetValue<long>();
        await desk.DoAsync(HttpMethod.Delete, $"/api/account/sessions/{other}");
        Assert.Equal(HttpStatusCode.Unauthorized, (await phone.SendAsync(HttpMethod.Get, "/api/account")).Status);
        var tablet = await practice.SignInAsync(Rukia);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await desk.SendAsync(HttpMethod.Post, "/api/account/password", new { password = "wrong", newPassword = "kelp and a new ledger" })).Status);
        await desk.DoAsync(HttpMethod.Post, "/api/account/password", new { password = "kelp-and-ledger", newPassword = "kelp and a new ledger" });
        Assert.Equal(HttpStatusCode.Unauthorized, (await tablet.SendAsync(HttpMethod.Get, "/api/account")).Status);
        Assert.Single((await desk.GetAsync("/api/account"))["sessions"]!.AsArray());
        await Browser.SignInAsync(practice.ServerAddress, new DemoCredential("rukia@lanternreef.example", "kelp and a new ledger", "", ""));
    }

    [Fact]
    public async Task Signing_out_ends_the_session_for_whoever_copied_its_cookie()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        var cookie = rukia.Cookies.GetCookieHeader(new Uri(practice.ServerAddress));
        await rukia.DoAsync(HttpMethod.Post, "/api/session/sign-out");
        using var copied = new HttpClient(new HttpClientHandler { UseCookies = false });
        using var request = new HttpRequestMessage(HttpMethod.Get, practice.ServerAddress + "/api/desk");
        request.Headers.Add("Cookie", cookie);
        Assert.Equal(HttpStatusCode.Unauthorized, (await copied.SendAsync(request)).StatusCode);
    }

    [Fact]
    public async Task With_one_time_codes_a_password_alone_does_not_get_in_and_a_code_is_good_once()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(Rukia);
        var secret = (await rukia.DoAsync(HttpMethod.Post, "/api/account/codes/offer"))["secret"]!.GetValue<string>();
        var now = practice.Server.Services.GetRequiredKeyedService<TimeProvider>(OneTimeCodes.WallClock).GetUtcNow();
        var wrong = (int.Parse(CodeOf(secret, now), CultureInfo.InvariantCulture) + 1) % 1_000_000;
        foreach (var (typed, code) in new[] { ("kelp-and-ledger", $"{wrong:000000}"), ("another password", CodeOf(secret, now)) })
        {
            Assert.Equal(HttpStatusCode.UnprocessableEntity, (await rukia.SendAsync(HttpMethod.Post, "/api/account/codes/on", new { password = typed, code })).Status);
        }

        // The secret is the one that was offered, whatever the browser sends.
        var on = await rukia.DoAsync(HttpMethod.Post, "/api/account/codes/on", new { password = "kelp-and-ledger", secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ", code = CodeOf(secret, now) });
        var recovery = on["codes"]!.AsArray().Select(c => c!.GetValue<string>()).ToList();
        Assert.Equal(10, recovery.Distinct().Count());
        async Task<(HttpStatusCode Status, JsonNode? Answer)> Try(string? code)
        {
            var fresh = await Browser.OpenAsync(practice.ServerAddress);
            var tried = await fresh.SendAsync(HttpMethod.Post, "/api/session/sign-in", new { email = "rukia@lanternreef.example", password = "kelp-and-ledger", code });
            var inside = (await fresh.SendAsync(HttpMethod.Get, "/api/desk")).Status == HttpStatusCode.OK;
            Assert.Equal(tried.Answer?["codeNeeded"]?.GetValue<bool>() == false, inside);
            return tried;
        }

        Assert.True((await Try(null)).Answer!["codeNeeded"]!.GetValue<bool>());
        Assert.Equal(HttpStatusCode.Unauthorized, (await Try($"{wrong:000000}")).Status);
        Assert.False((await Try(CodeOf(secret, now))).Answer!["codeNeeded"]!.GetValue<bool>());
        var (again, answer) = await Try(CodeOf(secret, now));
        Assert.Equal(HttpStatusCode.Unauthorized, again);
        Assert.Contains("used already", answer!["detail"]!.GetValue<string>());

        // Without the device: a recovery code is good once, and typed as one reads it.
        Assert.False((await Try($" {recovery[3].ToUpperInvariant()} ")).Answer!["codeNeeded"]!.GetValue<bool>());
        Assert.Equal(HttpStatusCode.Unauthorized, (await Try(recovery[3])).Status);
        Assert.Equal(9, (await rukia.GetAsync("/api/account"))["recoveryCodesLeft"]!.GetValue<long>());
        await rukia.DoAsync(HttpMethod.Post, "/api/account/codes/recovery", new { password = "kelp-and-ledger" });
        Assert.Equal(HttpStatusCode.Unauthorized, (await Try(recovery[4])).Status);
        await rukia.DoAsync(HttpMethod.Post, "/api/account/codes/off", new { password = "kelp-and-ledger" });
        Assert.False((await Try(null)).Answer!["codeNeeded"]!.GetValue<bool>());
    }

    [Fact]
    public async Task A_client_of_a_team_does_not_exist_for_people_outside_it()
    {
        await using var practice = await Practice.StartAsync();
        var (ines, tarek, rukia, pia) = (await practice.SignInAsync(Ines), await practice.SignInAsync(Tarek), await practice.SignInAsync(Rukia), await practice.SignInAsync(Pia));
        await ines.DoAsync(HttpMethod.Put, $"/api/people/{await IdOfAsync(ines, "Pia")}", new { roles = new[] { "preparer" }, teams = new[] { "Harbour families" }, active = true });
        var id = await rukia.ReturnOfAsync("Tamsin", 2025);
        var client = (await rukia.GetAsync($"/api/returns/{id}"))["clientId"]!.GetValue<long>();
        var team = (await tarek.GetAsync("/api/practice"))["teams"]!.AsArray().Single()!["id"]!.GetValue<long>();
        Assert.Equal(HttpStatusCode.NotFound, (await tarek.SendAsync(HttpMethod.Put, $"/api/clients/{client}/team", new { teamId = 99 })).Status);
        await tarek.DoAsync(HttpMethod.Put, $"/api/clients/{client}/team", new { teamId = team });
        foreach (var path in new[] { $"/api/clients/{client}", $"/api/returns/{id}", $"/api/returns/{id}/approval", $"/api/returns/{id}/printed-copy.pdf", $"/api/returns/{id}/lines/tax.tax/derivation" })
        {
            Assert.True((await rukia.SendAsync(HttpMethod.Get, path)).Status == HttpStatusCode.NotFound, path);
            Assert.True((await pia.SendAsync(HttpMethod.Get, path)).Status == HttpStatusCode.OK, path);
            Assert.True((await tarek.SendAsync(HttpMethod.Get, path)).Status == HttpStatusCode.OK, path);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await rukia.SendAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = new[] { new { kind = "set", line = "tax.tax", value = "1", seen = 0 } } })).Status);
        Assert.Equal(HttpStatusCode.NotFound, (await rukia.SendAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ke/employment-income", year = 2024 })).Status);
        var identifier = (await tarek.GetAsync($"/api/clients/{client}"))["particulars"]!["identifier"]!.GetValue<string>();
        var told = await rukia.DoAsync(HttpMethod.Post, "/api/clients/check-identifier", new { country = "ke", value = identifier, clientId = (long?)null });
        Assert.Contains("A client of another team already has this identifier", told["problem"]!.GetValue<string>());
        var particulars = (await pia.GetAsync($"/api/clients/{client}"))["particulars"]!;
        particulars["code"] = "T-1";
        await pia.DoAsync(HttpMethod.Put, $"/api/clients/{client}", particulars);
        var coded = await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier = "A005550019T", name = "Osei Larkmoor", code = "t-1" });
        Assert.Equal("A client of another team has the code t-1 already; every code belongs to one client.", Assert.Single(coded["problems"]!.AsArray())!["message"]!.GetValue<string>());
        Assert.Equal(HttpStatusCode.NotFound, (await rukia.SendAsync(HttpMethod.Post, "/api/batches", new { act = "recheck", returns = new[] { id } })).Status);
        foreach (var (list, words) in new[] { ("/api/desk", "Tamsin"), ("/api/clients", "Tamsin"), ("/api/acts", "Harbour families") })
        {
            Assert.DoesNotContain($"\"clientId\":{client},\"line\":\"team\"", (await rukia.GetAsync(list)).ToJsonString());
            Assert.DoesNotContain("Tamsin", (await rukia.GetAsync(list)).ToJsonString());
            Assert.Contains(words, (await pia.GetAsync(list)).ToJsonString());
        }
    }

    private static async Task<long> IdOfAsync(Browser administrator, string name) =>
        (await administrator.GetAsync("/api/people"))["people"]!.AsArray().Single(p => p!["name"]!.GetValue<string>().StartsWith(name, StringComparison.Ordinal))!["id"]!.GetValue<long>();

    private static async Task<IEnumerable<string>> RolesAsync(Browser person) =>
        (await person.GetAsync("/api/session"))["person"]!["roles"]!.AsArray().Select(r => r!.GetValue<string>()).Order();

    /// <summary>A code by RFC 6238 and RFC 4226, written here from the standards' text to check the library in use.</summary>
    private static string CodeOf(string secret, DateTimeOffset at)
    {
        const string alphabet = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
        var bits = string.Concat(secret.Select(c => Convert.ToString(alphabet.IndexOf(c, StringComparison.Ordinal), 2).PadLeft(5, '0')));
        var key = Enumerable.Range(0, bits.Length / 8).Select(i => Convert.ToByte(bits.Substring(i * 8, 8), 2)).ToArray();
        var counter = new byte[8];
        BinaryPrimitives.WriteInt64BigEndian(counter, at.ToUnixTimeSeconds() / 30);
#pragma warning disable CA5350 // HMAC-SHA-1 is what RFC 6238 names.
        var hash = HMACSHA1.HashData(key, counter);
#pragma warning restore CA5350
        var truncated = BinaryPrimitives.ReadInt32BigEndian(hash.AsSpan(hash[^1] & 15)) & int.MaxValue;
        return (truncated % 1_000_000).ToString("000000", CultureInfo.InvariantCulture);
    }
}
