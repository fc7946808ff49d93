using System.Net.Http.Headers;
using System.Text.Json;
using Aerarium.Server.Demo;

namespace Aerarium.Server.Tests;

/// <summary>Every hostile file at every place that takes files, against a server in a process of its own with little memory.</summary>
public class HostileFileTests
{
    private const string HeapLimit = "18000000";
    private const int MostMegabytes = 600;
    private const int LargestRequest = 1024 * 1024;

    [Fact]
    public async Task No_file_stops_the_server_or_takes_its_memory_and_each_is_answered_in_words()
    {
        await using var practice = await Practice.PrepareAsync();
        await using var server = await ServerProcess.StartAsync(practice, HeapLimit, "--Reading:Seconds", "2", "--Attempts:PerMinute", "1000");
        var (manager, administrator) = (await Browser.SignInAsync(server.Address, DemoData.Credentials[3]), await Browser.SignInAsync(server.Address, DemoData.Credentials[4]));

        // Two people at once, as the server lets two files be read at once.
        var halves = await Task.WhenAll(new[] { 0, 2 }.Select(async (person, half) => await TryAsync(
            server,
            await Browser.SignInAsync(server.Address, DemoData.Credentials[person]),
            manager,
            administrator,
            HostileFiles.All.Where((_, number) => number % 2 == half))));
        var wrong = halves.SelectMany(h => h).ToList();
        Assert.True(wrong.Count == 0, string.Join('\n', wrong) + server.Said);
        Assert.False(server.Process.HasExited);
        Assert.InRange(server.MostMemory, 1, MostMegabytes);
        using var http = new HttpClient { BaseAddress = new Uri(server.Address) };
        Assert.Equal("ready", await http.GetStringAsync("/health"));
    }

    private static async Task<List<string>> TryAsync(ServerProcess server, Browser preparer, Browser manager, Browser administrator, IEnumerable<HostileFile> files)
    {
        var client = (await preparer.GetAsync("/api/clients?search=Tamsin"))["items"]![0]!["id"]!.GetValue<long>();
        var list = (await preparer.GetAsync("/api/desk?list=all"))["items"]!.AsArray()
            .First(r => r!["title"]!.GetValue<string>().Contains("list", StringComparison.OrdinalIgnoreCase) && r["stage"]!.GetValue<string>() == "open")!["id"]!.GetValue<long>();
        (Browser Person, HttpMethod Method, string Path, Func<byte[], HttpContent> Body)[] places =
        [
            (preparer, HttpMethod.Post, $"/api/clients/{client}/documents?kind=letter&name=a", Raw),
            (preparer, HttpMethod.Post, "/api/clients/import?country=ke", Raw),
            (preparer, HttpMethod.Post, $"/api/clients/{client}/statements/import?kind=employer-certificate&year=2025&name=a", Raw),
            (preparer, HttpMethod.Post, $"/api/returns/{list}/lists/list.rows/import?name=a", Raw),
            (preparer, HttpMethod.Post, "/api/payments/match", Raw),
            (preparer, HttpMethod.Post, "/api/kept/open", file => Json(new { file, passphrase = "salt marsh and small lanterns" })),
            (administrator, HttpMethod.Put, "/api/practice/certificate", file => Json(new { file = Convert.ToBase64String(file), passphrase = "x" })),
            (manager, HttpMethod.Post, "/api/practice/schemas/load?path=ke/employment-income/2025.xsd", Raw),
            (manager, HttpMethod.Post, "/api/practice/schemas/load?path=ph/individual-quarterly/2025.schema.json", Raw),
        ];
        var wrong = new List<string>();
        foreach (var file in files)
        {
            foreach (var (person, method, path, body) in places)
            {
                if (await AnswerAsync(server, person, method, path, body(file.Content)) is { } fault)
                {
                    wrong.Add($"{file.Name} ({file.Attacks}) at {path}: {fault}");
                }
            }
        }

        return wrong;
    }

    /// <summary>What is wrong with the answer; null when it is one in words.</summary>
    private static async Task<string?> AnswerAsync(ServerProcess server, Browser person, HttpMethod method, string path, HttpContent body)
    {
        using var request = new HttpRequestMessage(method, path) { Content = body };
        request.Headers.Add("X-Aerarium-Token", person.Token);
        try
        {
            using var response = await person.Http.SendAsync(request);
            var answer = await response.Content.ReadAsStringAsync();
            return (int)response.StatusCode >= 500 ? $"{(int)response.StatusCode} {answer}"
                : (int)response.StatusCode >= 400 && !JsonDocument.Parse(answer).RootElement.TryGetProperty("detail", out _) ? $"{(int)response.StatusCode} without words"
                : null;
        }
        catch (HttpRequestException problem)
        {
            // The server hangs up on a body that is too large while it is still being sent.
            return body.Headers.ContentLength > LargestRequest || path.EndsWith("open", StringComparison.Ordinal) ? null : $"{problem.Message} {server.Said}";
        }
    }

    private static HttpContent Raw(byte[] file) => new ByteArrayContent(file);

    private static HttpContent Json(object body)
    {
        var content = new ByteArrayContent(JsonSerializer.SerializeToUtf8Bytes(body));
        content.Headers.ContentType = new MediaTypeHeaderValue("application/json");
        return content;
    }
}
