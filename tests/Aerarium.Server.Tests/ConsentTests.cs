using System.Net;
using System.Text.Json.Nodes;
using Aerarium.Server.Practice;
using Aerarium.StandIn;
using Microsoft.AspNetCore.WebUtilities;

namespace Aerarium.Server.Tests;

/// <summary>Consent at the authority by authorisation code with PKCE: tokens instead of a secret, renewed by themselves, and given up when they are taken back.</summary>
public sealed class ConsentTests : IAsyncLifetime
{
    private const int Mosi = 1, Tarek = 3, Ines = 4;

    private Practice _practice = null!;
    private Browser _tarek = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        _tarek = await _practice.SignInAsync(Tarek);
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    /// <summary>RFC 7636, appendix B.</summary>
    [Theory]
    [InlineData("file:ph")]
    [InlineData("file:ke assess:ke")]
    [InlineData("")]
    public async Task A_consent_to_something_else_than_was_asked_is_not_kept(string scope)
    {
        await using var practice = await Practice.StartAsync();
        var tarek = await practice.SignInAsync(3);
        var begun = await tarek.DoAsync(HttpMethod.Post, "/api/practice/consent/ke/begin");
        var back = (await PracticeAgent.AnswerAsync(new Uri(begun["address"]!.GetValue<string>()), scope: scope))!;
        var (status, answer) = await tarek.SendAsync(HttpMethod.Post, "/api/practice/consent/finish", new { state = back["state"], code = back["code"] });
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("and 'file:ke' was asked", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public void The_challenge_is_that_of_the_standard()
    {
        const string verifier = "dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk", challenge = "E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM";
        Assert.Equal(challenge, AuthorityConsent.ChallengeOf(verifier));
        Assert.Equal(challenge, Consents.ChallengeOf(verifier));
    }

    private async Task<Uri> BeginAsync() => new((await _tarek.DoAsync(HttpMethod.Post, "/api/practice/consent/ke/begin", null))["address"]!.GetValue<string>());

    private Task<(HttpStatusCode Status, JsonNode? Answer)> FinishAsync(IReadOnlyDictionary<string, string> back, Browser? person = null) =>
        (person ?? _tarek).SendAsync(HttpMethod.Post, "/api/practice/consent/finish", new { state = back.GetValueOrDefault("state"), code = back.GetValueOrDefault("code"), error = back.GetValueOrDefault("error") });

    private async Task<JsonNode> KenyaAsync() => (await _tarek.GetAsync("/api/practice/particulars")).AsArray().Single(c => c!["country"]!.GetValue<string>() == "ke")!;

    private Task ConnectAsync() => PracticeAgent.ConnectAsync(_tarek, "ke");

    [Fact]
    public async Task A_consent_takes_the_place_of_the_secret_and_files_until_it_is_taken_back()
    {
        var mosi = await _practice.SignInAsync(Mosi);
        await mosi.WaitForAnswersAsync();
        await ConnectAsync();
        var kenya = await KenyaAsync();
        Assert.Equal("Tarek Oyelaran", kenya["consent"]!["givenBy"]!.GetValue<string>());
        Assert.Null(kenya["userName"]);

        var zuri = await mosi.ReturnOfAsync("Zuri", 2025);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/send");
        Assert.Equal("accepted", await mosi.WaitForAsync(zuri, "accepted", "rejected"));

        await _tarek.DoAsync(HttpMethod.Delete, "/api/practice/consent/ke", null);
        Assert.Null((await KenyaAsync())["consent"]);
        Assert.Contains(
            (await _tarek.GetAsync($"/api/returns/{await _tarek.ReturnOfAsync("Njeri", 2025)}"))["findings"]!.AsArray(),
            f => f!["message"]!.GetValue<string>().Contains("neither consent nor credentials", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.NotFound, (await _tarek.SendAsync(HttpMethod.Delete, "/api/practice/consent/ke")).Status);
        var said = (await _tarek.GetAsync("/api/acts")).AsArray().Where(a => a!["kind"]!.GetValue<string>() == "consent").Select(a => a!["after"]!.GetValue<string>());
        Assert.Equal(["withdrawn", "given, file:ke"], said);
    }

    [Fact]
    public async Task A_consent_taken_back_at_the_authority_is_told_and_the_sending_goes_on_after_the_next()
    {
        var mosi = await _practice.SignInAsync(Mosi);
        await mosi.WaitForAnswersAsync();
        await ConnectAsync();
        _practice.Consents.Revoke("lantern-reef");
        var zuri = await mosi.ReturnOfAsync("Zuri", 2025);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/send");
        await Wait.ForAsync(
            async () =>
            {
                await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/chase");
                return (await mosi.GetAsync($"/api/returns/{zuri}/sending"))["sendings"]![0]!["problem"]?.GetValue<string>() ?? "";
            },
            problem => problem.Contains("taken back", StringComparison.Ordinal),
            "That the consent was taken back was not told.");

        Assert.Null((await KenyaAsync())["consent"]);
        await ConnectAsync();
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/chase");
        Assert.Equal("accepted", await mosi.WaitForAsync(zuri, "accepted", "rejected"));
    }

    [Fact]
    public async Task A_consent_is_refused_at_the_authority_or_finished_by_the_wrong_person_or_twice()
    {
        var (refused, answer) = await FinishAsync((await PracticeAgent.AnswerAsync(await BeginAsync(), act: "deny"))!);
        Assert.Equal(HttpStatusCode.Conflict, refused);
        Assert.Contains("refused at the authority", answer!["detail"]!.GetValue<string>());
        Assert.Null(await PracticeAgent.AnswerAsync(await BeginAsync(), secret: ""));

        var back = (await PracticeAgent.AnswerAsync(await BeginAsync()))!;
        Assert.Equal(HttpStatusCode.Conflict, (await FinishAsync(back, await _practice.SignInAsync(Ines))).Status);
        Assert.Equal(HttpStatusCode.Conflict, (await FinishAsync(back)).Status);
        Assert.Equal("lantern-reef", (await KenyaAsync())["userName"]!.GetValue<string>());
    }

    [Theory]
    [InlineData("redirect_uri", "https://elsewhere.example/practice/consent", HttpStatusCode.BadRequest)]
    [InlineData("redirect_uri", "http://127.0.0.1:9/elsewhere", HttpStatusCode.BadRequest)]
    [InlineData("code_challenge_method", "plain", HttpStatusCode.Redirect)]
    public async Task The_authority_sends_nobody_elsewhere_and_takes_no_weak_challenge(string name, string value, HttpStatusCode status)
    {
        var address = await BeginAsync();
        var asked = QueryHelpers.ParseQuery(address.Query).ToDictionary(q => q.Key, q => (string?)q.Value.ToString());
        asked[name] = value;
        using var agent = PracticeAgent.Browser();
        using var response = await agent.GetAsync(new Uri(QueryHelpers.AddQueryString(address.GetLeftPart(UriPartial.Path), asked)));
        Assert.Equal(status, response.StatusCode);
        if (status == HttpStatusCode.Redirect)
        {
            Assert.Contains("error=invalid_request", response.Headers.Location!.Query);
        }
    }

    [Fact]
    public async Task A_code_without_its_verifier_is_worth_nothing_and_a_refresh_token_works_once()
    {
        var consents = _practice.Consents;
        var verifier = new string('v', 43);
        var request = new ConsentRequest("Aerarium", "http://127.0.0.1/practice/consent", "file:ke", "s", Consents.ChallengeOf(verifier));
        Assert.Null(consents.Exchange(consents.Agree(request, "u", "h"), request.RedirectUri, request.ClientId, new string('w', 43)));
        var code = consents.Agree(request, "u", "h");
        var tokens = consents.Exchange(code, request.RedirectUri, request.ClientId, verifier)!;
        Assert.Null(consents.Exchange(code, request.RedirectUri, request.ClientId, verifier));
        Assert.Equal("u", consents.Of(tokens.Access)!.UserName);
        var renewed = consents.Refresh(tokens.Refresh)!;
        Assert.Null(consents.Refresh(tokens.Refresh));
        Assert.Null(consents.Of(tokens.Access));
        Assert.NotNull(consents.Of(renewed.Access));
        Assert.DoesNotContain(renewed.Access, await File.ReadAllTextAsync(Path.Combine(_practice.AuthorityFolder, "consents.json"), TestContext.Current.CancellationToken));
    }
}

/// <summary>What a practice's agent does at the authority.</summary>
internal static class PracticeAgent
{
    public static HttpClient Browser() => new(new HttpClientHandler { AllowAutoRedirect = false });

    /// <summary>Answers at the authority; what one is sent back with, or null when the page comes again.</summary>
    public static async Task<Dictionary<string, string>?> AnswerAsync(Uri address, string act = "allow", string secret = "reef-demo-secret", string? scope = null)
    {
        using var browser = Browser();
        var asked = QueryHelpers.ParseQuery(address.Query);
        Assert.Contains("Let Aerarium file for you?", await browser.GetStringAsync(address));
        using var form = new FormUrlEncodedContent(new Dictionary<string, string>
        {
            ["user"] = "lantern-reef",
            ["secret"] = secret,
            ["act"] = act,
            ["client"] = asked["client_id"].ToString(),
            ["back"] = asked["redirect_uri"].ToString(),
            ["scope"] = scope ?? asked["scope"].ToString(),
            ["state"] = asked["state"].ToString(),
            ["challenge"] = asked["code_challenge"].ToString(),
        });
        using var response = await browser.PostAsync(new Uri(address, "/oauth/authorize"), form);
        return response.Headers.Location is { } back ? QueryHelpers.ParseQuery(back.Query).ToDictionary(q => q.Key, q => q.Value.ToString()) : null;
    }

    /// <summary>Connects the practice of a manager with the authority of a country.</summary>
    public static async Task ConnectAsync(Browser manager, string country)
    {
        var begun = await manager.DoAsync(HttpMethod.Post, $"/api/practice/consent/{country}/begin");
        var back = (await AnswerAsync(new Uri(begun["address"]!.GetValue<string>())))!;
        await manager.DoAsync(HttpMethod.Post, "/api/practice/consent/finish", new { state = back["state"], code = back["code"] });
    }
}
