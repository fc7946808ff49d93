using System.Net;
using System.Text;
using Aerarium.Filing;
using Aerarium.StandIn;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>The simulated authority's own faults, and what it publishes: the same for the same seed.</summary>
public sealed class StandInFaultTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-standin").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private async Task<(WebApplication App, HttpClient Http)> StartAsync(string name, params string[] settings)
    {
        var app = StandInApplication.Build(["--urls", "http://127.0.0.1:0", "--Data", Path.Combine(_folder, name), "--Clock:AheadSeconds", Practice.AheadSeconds, .. settings]);
        await app.StartAsync();
        return (app, new HttpClient { BaseAddress = new Uri(app.Services.GetRequiredService<IServer>().Features.Get<IServerAddressesFeature>()!.Addresses.First()) });
    }

    private static async Task<HttpStatusCode[]> AskAsync(HttpClient http, int times)
    {
        var answers = new List<HttpStatusCode>();
        for (var time = 0; time < times; time++)
        {
            answers.Add((await http.GetAsync("/schemas")).StatusCode);
        }

        return [.. answers];
    }

    [Fact]
    public async Task Errors_by_chance_are_the_same_for_the_same_seed()
    {
        var runs = new List<HttpStatusCode[]>();
        foreach (var (name, seed) in new[] { ("a", "5"), ("b", "5"), ("c", "6") })
        {
            var (app, http) = await StartAsync(name, "--Faults:ErrorPercent", "40", "--Faults:Seed", seed);
            runs.Add(await AskAsync(http, 40));
            await app.DisposeAsync();
        }

        Assert.Equal(runs[0], runs[1]);
        Assert.NotEqual(runs[0], runs[2]);
        Assert.InRange(runs[0].Count(s => s == HttpStatusCode.InternalServerError), 6, 30);
        Assert.All(runs[0], s => Assert.True(s is HttpStatusCode.OK or HttpStatusCode.InternalServerError));
    }

    [Fact]
    public async Task Who_asks_too_often_is_told_how_long_to_wait()
    {
        var (app, http) = await StartAsync("limit", "--Faults:RequestsPerSecond", "2");
        var answers = new List<HttpResponseMessage>();
        for (var time = 0; time < 12; time++)
        {
            answers.Add(await http.GetAsync("/schemas"));
        }

        var held = answers.Where(a => a.StatusCode == HttpStatusCode.TooManyRequests).ToList();
        Assert.NotEmpty(held);
        Assert.All(held, a => Assert.Equal(TimeSpan.FromSeconds(1), a.Headers.RetryAfter!.Delta));
        Assert.Equal(HttpStatusCode.OK, answers[0].StatusCode);
        await app.DisposeAsync();
    }

    [Fact]
    public async Task An_outage_is_switched_on_and_off_and_what_is_published_stays_the_same()
    {
        var (app, http) = await StartAsync("outage");
        var certificate = await http.GetByteArrayAsync("/certificate");
        await ConsoleAsync(http, "outage");
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await http.GetAsync("/schemas")).StatusCode);
        await ConsoleAsync(http, "restore");
        Assert.Equal(HttpStatusCode.OK, (await http.GetAsync("/schemas")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, await ConsoleAsync(http, "no-such-act"));
        Assert.Contains("modulo 100", await http.GetStringAsync("/rules"));
        await app.DisposeAsync();
        var (again, second) = await StartAsync("outage");
        Assert.Equal(certificate, await second.GetByteArrayAsync("/certificate"));
        await again.DisposeAsync();
    }

    private static async Task<HttpStatusCode> ConsoleAsync(HttpClient http, string act) =>
        (await http.PostAsync("/console/faults", new FormUrlEncodedContent(new Dictionary<string, string> { ["act"] = act }))).StatusCode;

    [Theory]
    [InlineData("/submissions/none/assessment", HttpStatusCode.NotFound)]
    [InlineData("/submissions/none/verification", HttpStatusCode.NotFound)]
    public async Task Nothing_follows_what_never_arrived(string path, HttpStatusCode status)
    {
        var (app, http) = await StartAsync("nothing");
        Assert.Equal(status, (await http.GetAsync(path)).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await http.PostAsync("/submissions/none/verification/documents?code=payment&name=x", new ByteArrayContent([1]))).StatusCode);
        await app.DisposeAsync();
    }

    /// <summary>What is signed and then stripped of its signature is what was signed.</summary>
    [Fact]
    public void A_document_without_its_signature_is_the_document()
    {
        using var certificate = XmlSignature.MakeCertificate("Practice", "e-returns", new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero), 5);
        var document = Encoding.UTF8.GetBytes("<Return xmlns=\"urn:x\"><Name>Å &amp; B</Name></Return>");
        var signed = XmlSignature.Sign(document, certificate);
        Assert.NotEqual(XmlSignature.Unsigned(document), signed);
        Assert.Equal(XmlSignature.Unsigned(document), XmlSignature.Unsigned(signed));
        Assert.Null(XmlSignature.Signer(SchemaCheck.Read(XmlSignature.Unsigned(signed))));
    }
}
