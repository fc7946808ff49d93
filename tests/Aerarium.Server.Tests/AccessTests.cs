using System.Net;
using System.Text;

namespace Aerarium.Server.Tests;

public class AccessTests
{
    [Fact]
    public async Task A_change_without_the_token_of_the_session_is_refused()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var (status, answer) = await rukia.SendAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier = "A555000111B", name = "X" }, withToken: false);
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("Reload", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task Five_wrong_passwords_lock_the_account_for_a_while()
    {
        await using var practice = await Practice.StartAsync();
        var stranger = await Browser.OpenAsync(practice.ServerAddress);
        Task<(HttpStatusCode Status, System.Text.Json.Nodes.JsonNode?)> Try(string password) =>
            stranger.SendAsync(HttpMethod.Post, "/api/session/sign-in", new { email = "rukia@lanternreef.example", password });
        for (var attempt = 0; attempt < 5; attempt++)
        {
            Assert.Equal(HttpStatusCode.Unauthorized, (await Try("wrong")).Status);
        }

        Assert.Equal(HttpStatusCode.TooManyRequests, (await Try("kelp-and-ledger")).Status);
        Assert.Equal(HttpStatusCode.Unauthorized, (await stranger.SendAsync(HttpMethod.Post, "/api/session/sign-in", new { email = "nobody@x.example", password = "y" })).Status);
    }

    [Fact]
    public async Task Credentials_are_shown_in_demo_mode_only()
    {
        await using var practice = await Practice.StartAsync(demo: false);
        Assert.Null((await (await Browser.OpenAsync(practice.ServerAddress)).GetAsync("/api/session"))["demo"]);
    }

    [Fact]
    public async Task Oversized_and_mistyped_requests_get_a_plain_message()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var id = await rukia.ReturnOfAsync("Njeri", 2025);
        var (status, answer) = await rukia.SendAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = new[] { new { kind = "set", line = "taxpayer.name", value = new string('x', 2_000_000), seen = 0 } } });
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, status);
        Assert.Contains("other files and requests 1 MB", answer!["detail"]!.GetValue<string>());
        (status, answer) = await rukia.SendAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = "all of them" });
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.DoesNotContain("   at ", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task The_stand_in_takes_no_document_without_a_key_and_examines_what_it_is_sent()
    {
        await using var practice = await Practice.StartAsync();
        using var http = new HttpClient { BaseAddress = new Uri(practice.AuthorityAddress) };
        Assert.Equal(HttpStatusCode.BadRequest, (await http.PostAsync("/submissions", new StringContent("<a/>"))).StatusCode);
        using var request = new HttpRequestMessage(HttpMethod.Post, "/submissions") { Content = new StringContent("<EmployeeReturn", Encoding.UTF8, "application/xml") };
        request.Headers.Add("Idempotency-Key", "malformed-1");
        Assert.Equal(HttpStatusCode.Accepted, (await http.SendAsync(request)).StatusCode);
        Assert.Equal("XML", Assert.Single(practice.Authority.Find("malformed-1")!.Reasons).Code);
        using var large = new HttpRequestMessage(HttpMethod.Post, "/submissions") { Content = new ByteArrayContent(new byte[5_000_000]) };
        large.Headers.Add("Idempotency-Key", "large-1");
        large.Headers.ExpectContinue = true;
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, (await http.SendAsync(large)).StatusCode);
    }
}
