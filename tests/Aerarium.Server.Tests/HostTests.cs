using System.Net;
using System.Net.Http.Json;
using Aerarium.Core.Entries;
using Aerarium.Server.Access;
using Aerarium.Storage;
using Dapper;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>The server on its machine and behind its proxy: whose files they are, who may ask, and what is told when the disk fails.</summary>
[System.Runtime.Versioning.SupportedOSPlatform("linux")]
public class HostTests
{
    private const UnixFileMode Others = UnixFileMode.GroupRead | UnixFileMode.GroupWrite | UnixFileMode.GroupExecute | UnixFileMode.OtherRead | UnixFileMode.OtherWrite | UnixFileMode.OtherExecute;

    [Fact]
    public async Task Nothing_of_the_practice_is_open_to_others_on_the_machine()
    {
        await using var practice = await Practice.StartAsync();
        await practice.KillServerAsync();
        foreach (var entry in Directory.EnumerateFileSystemEntries(practice.DataFolder, "*", SearchOption.AllDirectories))
        {
            File.SetUnixFileMode(entry, File.GetUnixFileMode(entry) | UnixFileMode.GroupRead | UnixFileMode.OtherRead);
        }

        await practice.StartServerAsync();
        var ines = await practice.SignInAsync(4);
        await ines.DoAsync(HttpMethod.Post, "/api/backups");
        var restored = Path.Combine(practice.DataFolder, "restored");
        Backups.Restore(Directory.GetFiles(Path.Combine(practice.DataFolder, "backups"))[0], restored);
        var entries = Directory.EnumerateFileSystemEntries(practice.DataFolder, "*", SearchOption.AllDirectories).Append(practice.DataFolder).ToList();
        Assert.Contains(entries, e => e.EndsWith("practice.db-wal", StringComparison.Ordinal));
        Assert.Contains(entries, e => e.Contains("/keys/key-", StringComparison.Ordinal));
        Assert.All(entries, e => Assert.True((File.GetUnixFileMode(e) & Others) == 0, $"{e} is open to others: {File.GetUnixFileMode(e)}"));
    }

    [Fact]
    public async Task A_file_of_a_newer_version_is_left_alone_and_told()
    {
        await using var practice = await Practice.PrepareAsync();
        using (var connection = new SqliteConnection($"Data Source={practice.DatabaseFile};Pooling=False"))
        {
            connection.Execute("INSERT INTO SchemaVersions (ScriptName, Applied) VALUES ('Aerarium.Storage.Migrations.9999-later.sql', '2027-01-01')");
        }

        var refused = Assert.Throws<InvalidOperationException>(() => new PracticeDatabase(practice.DatabaseFile));
        Assert.Contains("newer version of Aerarium", refused.Message);
    }

    [Fact]
    public async Task A_taken_port_is_told_in_one_sentence_before_anything_is_built()
    {
        using var taken = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0);
        taken.Start();
        var port = ((IPEndPoint)taken.LocalEndpoint).Port;
        using var process = System.Diagnostics.Process.Start(new System.Diagnostics.ProcessStartInfo(Path.Combine(ArchitectureTests.Root, "aerarium"), $"demo --port {port}") { RedirectStandardError = true, RedirectStandardOutput = true })!;
        var said = await process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        Assert.Equal(2, process.ExitCode);
        Assert.Equal($"Port {port} is taken by another program; choose another with --port (it and the next one are used).\n", said);
        Assert.Equal("", await process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken));
    }

    [Fact]
    public async Task A_second_server_on_the_same_folder_is_refused()
    {
        await using var practice = await Practice.StartAsync(demo: false);
        var refused = Assert.Throws<IOException>(() => ServerApplication.Build(["--urls", "http://127.0.0.1:0", "--Data", practice.DataFolder]));
        Assert.Contains("Another server works on", refused.Message);
        await practice.KillServerAsync();
        await practice.StartServerAsync(demo: false);
    }

    [Fact]
    public async Task A_full_disk_a_read_only_file_and_a_locked_one_are_named_and_nothing_is_half_done()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var id = await rukia.ReturnOfAsync("Tamsin", 2025);
        var database = practice.Server.Services.GetRequiredService<PracticeDatabase>();
        using var http = new HttpClient { BaseAddress = new Uri(practice.ServerAddress) };
        Assert.Equal("ready", await http.GetStringAsync("/health"));
        foreach (var (trouble, over, words, atHealth) in new[]
        {
            ("PRAGMA max_page_count = 1", "PRAGMA max_page_count = 1073741823", "disk of the server is full", false),
            ("PRAGMA query_only = 1", "PRAGMA query_only = 0", "may not write", true),
        })
        {
            database.Tell(trouble);
            var (status, answer) = await rukia.SendAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new
            {
                changes = Enumerable.Range(0, 40).Select(n => new { kind = "set", line = "taxpayer.postal-address", value = new string('x', 150) + n, seen = long.MaxValue }),
            });
            Assert.Equal(HttpStatusCode.ServiceUnavailable, status);
            Assert.Contains(words, answer!["detail"]!.GetValue<string>());
            await Task.Delay(1_100);
            var health = await http.GetAsync("/health");
            Assert.Equal(atHealth, health.StatusCode == HttpStatusCode.ServiceUnavailable && (await health.Content.ReadAsStringAsync()).Contains(words, StringComparison.Ordinal));
            database.Tell(over);
            await rukia.SetAsync(id, "taxpayer.postal-address", "Quay 1");
        }

        Assert.Null(database.Read(ActChain.FirstBroken));
        await Task.Delay(1_100);
        await using (var other = new SqliteConnection($"Data Source={practice.DatabaseFile};Pooling=False"))
        {
            other.Open();
            other.Execute("BEGIN EXCLUSIVE");
            var health = await http.GetAsync("/health");
            Assert.Equal(HttpStatusCode.ServiceUnavailable, health.StatusCode);
            Assert.Contains("Another program holds", await health.Content.ReadAsStringAsync());
            other.Execute("ROLLBACK");
        }

        await Task.Delay(1_100);
        Assert.Equal("ready", await http.GetStringAsync("/health"));
    }

    [Fact]
    public async Task Behind_a_proxy_the_outside_counts_and_only_the_proxy_is_believed()
    {
        foreach (var (proxy, believed) in new[] { ("127.0.0.0/8", true), ("203.0.113.9", false), ("", false) })
        {
            await using var practice = await Practice.StartAsync(more: ["--Proxy:Addresses", proxy, "--AllowedHosts", "practice.example;127.0.0.1"]);
            using var http = new HttpClient(new HttpClientHandler { UseCookies = false }) { BaseAddress = new Uri(practice.ServerAddress) };
            using var request = new HttpRequestMessage(HttpMethod.Get, "/api/session");
            request.Headers.Add("X-Forwarded-For", "198.51.100.77");
            request.Headers.Add("X-Forwarded-Proto", "https");
            request.Headers.Add("X-Forwarded-Host", "practice.example");
            using var answer = await http.SendAsync(request);
            var cookies = answer.Headers.GetValues("Set-Cookie").ToList();
            Assert.Equal(believed, cookies.All(c => c.Contains("; secure", StringComparison.OrdinalIgnoreCase)));
            Assert.Equal(believed, answer.Headers.Contains("Strict-Transport-Security"));
            Assert.Contains("no-store", answer.Headers.CacheControl!.ToString());

            // Attempts are counted where they come from, and a made-up header does not move them.
            using var attempt = new HttpRequestMessage(HttpMethod.Post, "/api/session/sign-in") { Content = JsonContent.Create(new { email = "rukia@lanternreef.example", password = "guess" }) };
            attempt.Headers.Add("X-Forwarded-For", "198.51.100.77");
            attempt.Headers.Add("X-Forwarded-Proto", "https");
            attempt.Headers.Add("Cookie", string.Join("; ", cookies.Select(c => c.Split(';')[0])));
            attempt.Headers.Add("X-Aerarium-Token", System.Text.Json.Nodes.JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["token"]!.GetValue<string>());
            Assert.Equal(HttpStatusCode.Unauthorized, (await http.SendAsync(attempt)).StatusCode);
            var database = practice.Server.Services.GetRequiredService<PracticeDatabase>();
            Assert.Equal(believed ? "198.51.100.77" : "127.0.0.1", database.Read(unit => unit.Connection.ExecuteScalar<string>("SELECT refused_from FROM person WHERE email LIKE 'rukia%'")));
        }
    }

    [Theory]
    [InlineData("practice.example", HttpStatusCode.BadRequest)]
    [InlineData("127.0.0.1", HttpStatusCode.OK)]
    [InlineData("localhost", HttpStatusCode.OK)]
    public async Task On_this_machine_alone_only_its_own_names_are_answered(string host, HttpStatusCode status)
    {
        await using var practice = await Practice.StartAsync(demo: false);
        using var http = new HttpClient { BaseAddress = new Uri(practice.ServerAddress) };
        using var request = new HttpRequestMessage(HttpMethod.Get, "/health");
        request.Headers.Host = host;
        Assert.Equal(status, (await http.SendAsync(request)).StatusCode);
    }

    [Theory]
    [InlineData("--Authority", "authority.example", "has to be an address such as")]
    [InlineData("--Proxy:Addresses", "10.0.0.0/99", "neither an address nor a network")]
    public void A_setting_that_cannot_be_read_is_told_at_the_start(string name, string value, string words)
    {
        var folder = Directory.CreateTempSubdirectory("aerarium-settings").FullName;
        try
        {
            var refused = Assert.Throws<InvalidOperationException>(() => ServerApplication.Build(["--urls", "http://127.0.0.1:0", "--Data", folder, name, value]).Services.GetRequiredService<Microsoft.Extensions.Options.IOptions<Microsoft.AspNetCore.Builder.ForwardedHeadersOptions>>().Value);
            Assert.Contains(words, refused.Message);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Theory]
    [InlineData("name@example.org", true)]
    [InlineData("name+tag@sub.example.org", true)]
    [InlineData("name@example", false)]
    [InlineData("name@example.org.", false)]
    [InlineData("Name <name@example.org>", false)]
    [InlineData("name@example.org,other@example.org", false)]
    [InlineData("name@example.org\r\nBcc: other@example.org", false)]
    [InlineData("na me@example.org", false)]
    [InlineData("@example.org", false)]
    [InlineData("name@.example.org", false)]
    [InlineData("name@exa\u202Emple.org", false)]
    public void An_address_is_one_address(string text, bool isOne) => Assert.Equal(isOne, MailAddress.IsOne(text));

    /// <summary>A name that turns the direction of what follows shows as another: Unicode Technical Report 36, section 2.10.2.</summary>
    [Theory]
    [InlineData("Wambui\0 Larkspur", "Wambui Larkspur")]
    [InlineData("invoice\u202Efdp.exe", "invoicefdp.exe")]
    [InlineData("\u2066Otieno\u2069", "Otieno")]
    [InlineData("می\u200Cخواهم", "می\u200Cخواهم")]
    public void Names_are_what_they_show(string typed, string kept) => Assert.Equal(kept, EntryReader.Clean(typed));

    [Fact]
    public void Halves_of_characters_are_left_out_and_whole_ones_kept()
    {
        Assert.Equal("half  and  half", EntryReader.Clean("half \ud83d and \ude00 half"));
        Assert.Equal("whole \ud83d\ude00", EntryReader.Clean("whole \ud83d\ude00"));
    }

    [Fact]
    public async Task A_document_cannot_be_named_like_a_folder()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var client = (await rukia.GetAsync("/api/clients?search=Tamsin"))["items"]![0]!["id"]!.GetValue<long>();
        foreach (var (name, kept) in new[] { ("..", null), ("../..", null), ("a%00b.txt", "ab.txt"), ("..%2F..%2Fetc%2Fpasswd", "passwd"), (".hidden", "hidden"), ("x%E2%80%AEfdp.txt", "xfdp.txt"), ("..%5C..%5Cboot.txt", "boot.txt") })
        {
            var (status, answer) = await rukia.UploadAsync($"/api/clients/{client}/documents?kind=letter&name={name}", "words"u8.ToArray());
            Assert.Equal(kept is null ? HttpStatusCode.UnprocessableEntity : HttpStatusCode.OK, status);
            Assert.True(kept is null || answer.AsArray().Any(d => d!["name"]!.GetValue<string>() == kept), $"{name}: {answer.ToJsonString()}");
        }
    }
}
