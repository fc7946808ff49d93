using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Aerarium.Core.Days;
using Aerarium.Server.Demo;
using Aerarium.StandIn;
using Dapper;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>A server and a stand-in on free ports with the demonstration, in a folder of their own.</summary>
public sealed class Practice : IAsyncDisposable
{
    /// <summary>The demonstration with everything answered that it sends, and the authority's side of it; made once, copied for every practice.</summary>
    private static readonly Lazy<Task<Practice>> Seeded = new(SeedAsync);

    /// <summary>The authority's certificate, the same for every test: making a key takes longer than most of them.</summary>
    private static readonly Lazy<byte[]> Seal = new(() =>
    {
        using var made = Filing.XmlSignature.MakeCertificate("Simulated authority", "receipts", DateTimeOffset.UtcNow.AddYears(-1), 20);
        return made.Export(System.Security.Cryptography.X509Certificates.X509ContentType.Pkcs12);
    });

    /// <summary>All that this process starts plays on 18 June 2026, from eight in the morning on, whenever it is started and started again.</summary>
    public static readonly string AheadSeconds = ShiftedClock.SecondsTo(new DateTimeOffset(2026, 6, 18, 8, 0, 0, TimeSpan.Zero), TimeProvider.System)
        .ToString(System.Globalization.CultureInfo.InvariantCulture);

    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-test").FullName;
    private WebApplication? _standIn;
    private string[] _more = [];

    private Practice()
    {
    }

    public WebApplication Server { get; private set; } = null!;

    public string ServerAddress => AddressOf(Server);

    public string AuthorityAddress { get; private set; } = "";

    public string DataFolder => Path.Combine(_folder, "practice");

    public string DatabaseFile => Path.Combine(_folder, "practice", "practice.db");

    public string AuthorityFolder => Path.Combine(_folder, "standin");

    public Consents Consents => _standIn!.Services.GetRequiredService<Consents>();

    public Aftermath Aftermath => OfAuthority<Aftermath>();

    public Archive Authority => OfAuthority<Archive>();

    /// <summary>A part of the simulated authority.</summary>
    public T OfAuthority<T>()
        where T : notnull => _standIn!.Services.GetRequiredService<T>();

    /// <summary>Starts a practice, with more settings of the server when given.</summary>
    public static async Task<Practice> StartAsync(bool demo = true, params string[] more)
    {
        var practice = new Practice { _more = more };
        if (demo)
        {
            var seeded = await Seeded.Value;
            foreach (var file in Directory.EnumerateFiles(seeded._folder, "*", SearchOption.AllDirectories))
            {
                var copy = Path.Combine(practice._folder, Path.GetRelativePath(seeded._folder, file));
                Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
                File.Copy(file, copy);
            }
        }

        await practice.StartAuthorityAsync("http://127.0.0.1:0");
        await practice.StartServerAsync(demo);
        return practice;
    }

    /// <summary>The demonstration's data and its authority, for a server in a process of its own.</summary>
    public static async Task<Practice> PrepareAsync()
    {
        var practice = await StartAsync();
        await practice.KillServerAsync();
        practice.Server = null!;
        return practice;
    }

    public async Task StartServerAsync(bool demo = true)
    {
        Build(demo);
        await Server.StartAsync();
    }

    private static async Task<Practice> SeedAsync()
    {
        var practice = new Practice();
        await practice.StartAuthorityAsync("http://127.0.0.1:0");
        await practice.StartServerAsync();
        await practice.AnsweredAsync();
        await practice.Server.StopAsync();
        await practice.Server.DisposeAsync();
        await practice.StopAuthorityAsync();
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(practice._folder, recursive: true);
        return practice;
    }

    /// <summary>Waits until the authority has answered everything that was sent.</summary>
    private async Task AnsweredAsync()
    {
        await using var database = new SqliteConnection($"Data Source={DatabaseFile};Mode=ReadOnly;Pooling=False");
        await Wait.UntilAsync(
            () => database.ExecuteScalar<long>("SELECT count(*) FROM sending WHERE state IN ('queued', 'pending')") == 0,
            "What the demonstration sends was not answered.");
    }

    private void Build(bool demo) => Server = ServerApplication.Build(
    [
        "--urls", "http://127.0.0.1:0", "--Data", DataFolder, "--Authority", AuthorityAddress,
        "--Demo", demo ? "true" : "false", "--Passwords:MemoryKiB", "64", "--Kept:MemoryKiB", "64", "--Mail:SilentAfterSeconds", "0.5", "--Clock:AheadSeconds", AheadSeconds,
        .. _more,
    ]);

    /// <summary>Stops the server at once, as a crash would.</summary>
    public async Task KillServerAsync()
    {
        using var atOnce = new CancellationTokenSource(0);
        try
        {
            await Server.StopAsync(atOnce.Token);
        }
        catch (OperationCanceledException)
        {
            // That it did not stop in good order is what is wanted.
        }

        await Server.DisposeAsync();
    }

    public async Task StopAuthorityAsync()
    {
        await _standIn!.StopAsync();
        await _standIn.DisposeAsync();
    }

    public Task RestartAuthorityAsync() => StartAuthorityAsync(AuthorityAddress);

    public Task<Browser> SignInAsync(int person) => Browser.SignInAsync(ServerAddress, DemoData.Credentials[person]);

    public async ValueTask DisposeAsync()
    {
        if (Server is not null)
        {
            await Server.StopAsync();
            await Server.DisposeAsync();
        }

        await StopAuthorityAsync();
        Directory.Delete(_folder, recursive: true);
    }

    private async Task StartAuthorityAsync(string address)
    {
        var seal = Path.Combine(_folder, "standin", "authority.p12");
        Directory.CreateDirectory(Path.GetDirectoryName(seal)!);
        if (!File.Exists(seal))
        {
            File.WriteAllBytes(seal, Seal.Value);
        }

        _standIn = StandInApplication.Build(
            ["--urls", address, "--Data", Path.Combine(_folder, "standin"), "--Clock:AheadSeconds", AheadSeconds, "--AnswerAfterSeconds", "0.2"]);
        await _standIn.StartAsync();
        AuthorityAddress = AddressOf(_standIn);
    }

    private static string AddressOf(WebApplication app) =>
        app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First();
}

/// <summary>A person at the API, with cookies and token as a browser has them.</summary>
public sealed class Browser(HttpClient http, CookieContainer cookies)
{
    public string Token { get; private set; } = "";

    public HttpClient Http { get; } = http;

    public CookieContainer Cookies { get; } = cookies;

    public static async Task<Browser> OpenAsync(string address)
    {
        var cookies = new CookieContainer();
        var browser = new Browser(new HttpClient(new HttpClientHandler { CookieContainer = cookies }) { BaseAddress = new Uri(address) }, cookies);
        await browser.RefreshTokenAsync();
        return browser;
    }

    public static async Task<Browser> SignInAsync(string address, Access.DemoCredential credential)
    {
        var browser = await OpenAsync(address);
        var (status, answer) = await browser.SendAsync(HttpMethod.Post, "/api/session/sign-in", new { email = credential.Email, password = credential.Password });
        Assert.True(status == HttpStatusCode.OK, answer?.ToJsonString());
        await browser.RefreshTokenAsync();
        return browser;
    }

    public async Task<JsonNode> GetAsync(string path) => JsonNode.Parse(await Http.GetStringAsync(path))!;

    public async Task<(HttpStatusCode Status, JsonNode? Answer)> SendAsync(HttpMethod method, string path, object? body = null, bool withToken = true)
    {
        using var request = new HttpRequestMessage(method, path) { Content = body is null ? null : JsonContent.Create(body) };
        if (withToken)
        {
            request.Headers.Add("X-Aerarium-Token", Token);
        }

        using var response = await Http.SendAsync(request);
        var text = await response.Content.ReadAsStringAsync();
        return (response.StatusCode, text.Length == 0 || text[0] is not ('{' or '[') ? null : JsonNode.Parse(text));
    }

    public async Task<(HttpStatusCode Status, JsonNode Answer)> SendAsync(HttpRequestMessage request)
    {
        request.Headers.Add("X-Aerarium-Token", Token);
        using var response = await Http.SendAsync(request);
        return (response.StatusCode, JsonNode.Parse(await response.Content.ReadAsStringAsync())!);
    }

    /// <summary>Sends a file, or fetches one: the bytes of the answer as they are.</summary>
    public async Task<(HttpStatusCode Status, byte[] Content)> FetchAsync(HttpMethod method, string path, byte[]? body = null)
    {
        using var request = new HttpRequestMessage(method, path) { Content = body is null ? null : new ByteArrayContent(body) };
        request.Headers.Add("X-Aerarium-Token", Token);
        using var response = await Http.SendAsync(request);
        return (response.StatusCode, await response.Content.ReadAsByteArrayAsync());
    }

    /// <summary>Sends a file; the answer as JSON.</summary>
    public async Task<(HttpStatusCode Status, JsonNode Answer)> UploadAsync(string path, byte[] body)
    {
        var (status, content) = await FetchAsync(HttpMethod.Post, path, body);
        return (status, JsonNode.Parse(content)!);
    }

    public async Task<JsonNode> DoAsync(HttpMethod method, string path, object? body = null)
    {
        var (status, answer) = await SendAsync(method, path, body);
        Assert.True((int)status < 300, $"{status}: {answer?.ToJsonString()}");
        return answer!;
    }

    public Task<JsonNode> SetAsync(long id, string line, string? value, string? row = null, long seen = long.MaxValue) =>
        DoAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = new[] { new { kind = "set", line, row, value, seen } } });

    /// <summary>Sets several lines at once: line, row or null, what is typed.</summary>
    public Task<JsonNode> EditAsync(long id, params (string Line, string? Row, string Typed)[] entries) => DoAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new
    {
        changes = entries.Select(e => new { kind = "set", line = e.Line, row = e.Row, value = e.Typed, seen = long.MaxValue }),
    });

    /// <summary>Accepts every warning of a return.</summary>
    public async Task AcceptWarningsAsync(long id)
    {
        foreach (var finding in (await GetAsync($"/api/returns/{id}"))["findings"]!.AsArray().Where(f => f!["severity"]!.GetValue<string>() == "warning"))
        {
            await DoAsync(HttpMethod.Post, $"/api/returns/{id}/findings/accept", new { finding = finding!["id"]!.GetValue<string>(), row = finding["row"]?.GetValue<string>(), reason = "Held against the certificate." });
        }
    }

    /// <summary>Asks for a return until something holds of it: other returns follow once an edit has been answered.</summary>
    public Task<JsonNode> UntilAsync(long id, Func<JsonNode, bool> holds) =>
        Wait.ForAsync(() => GetAsync($"/api/returns/{id}"), holds, $"Return {id} has not come to what was waited for.");

    /// <summary>The last sending of a return, once a problem is told of it.</summary>
    public Task<JsonNode> ProblemAsync(long id) =>
        Wait.ForAsync(async () => (await GetAsync($"/api/returns/{id}/sending"))["sendings"]![0]!, s => s["problem"] is not null, "The failure was not told.");

    /// <summary>The results of a batch, once it is done.</summary>
    public Task<JsonNode> BatchAsync(long id) =>
        Wait.ForAsync(() => GetAsync($"/api/batches/{id}"), r => r["batch"]!["state"]!.GetValue<string>() != "running", "The batch did not end.");

    /// <summary>Verifies everything the practice keeps, as a manager; the checks, once all are made.</summary>
    public async Task<List<JsonNode>> VerifyAsync()
    {
        await DoAsync(HttpMethod.Post, "/api/acts/verification");
        var run = await Wait.ForAsync(async () => (await GetAsync("/api/acts/verification/run"))["run"]!, r => !r["running"]!.GetValue<bool>(), "The verification has not ended.");
        return [.. run["checks"]!.AsArray().Select(c => c!)];
    }

    /// <summary>What such a verification finds wrong, a line each.</summary>
    public async Task<string> WrongAsync() => string.Join('\n', (await VerifyAsync()).SelectMany(c => c["wrong"]!.AsArray()).Select(w => w!.GetValue<string>()));

    public async Task<long> ReturnOfAsync(string client, int year)
    {
        var desk = await GetAsync("/api/desk?list=all");
        return desk["items"]!.AsArray().Single(r => r!["client"]!.GetValue<string>().StartsWith(client, StringComparison.Ordinal) && r["year"]!.GetValue<int>() == year)!["id"]!.GetValue<long>();
    }

    /// <summary>Waits until the authority has answered everything the demonstration sent.</summary>
    public Task WaitForAnswersAsync() =>
        Wait.UntilAsync(async () => (await GetAsync("/api/desk?list=sent"))["total"]!.GetValue<long>() == 0, "Something sent was not answered.");

    public async Task<string> StageAsync(long id) => (await GetAsync($"/api/returns/{id}"))["stage"]!.GetValue<string>();

    public Task<string> WaitForAsync(long id, params string[] stages) => Wait.ForAsync(() => StageAsync(id), stages.Contains, $"Return {id} has not come to '{string.Join("' or '", stages)}'.");

    private async Task RefreshTokenAsync() => Token = (await GetAsync("/api/session"))["token"]!.GetValue<string>();
}
