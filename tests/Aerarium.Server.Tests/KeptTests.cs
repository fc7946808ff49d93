using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Aerarium.Server.Kept;
using Aerarium.Storage;

namespace Aerarium.Server.Tests;

/// <summary>Clients who keep the data: the file, what it takes to open it, and that nothing stays behind.</summary>
public class KeptTests
{
    private const string Passphrase = "salt marsh and small lanterns";
    private const string Pin = "A009900772L";
    private const string Name = "Otieno Fairweather";

    [Fact]
    public async Task A_return_is_worked_on_in_memory_filed_and_leaves_nothing_behind()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var (client, id) = await BeginAsync(rukia);
        await FillAsync(rukia, id);
        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/hand-over");
        var file = await SaveAsync(rukia, client);
        await rukia.SendAsync(HttpMethod.Delete, $"/api/kept/{client}");
        Assert.Equal(HttpStatusCode.NotFound, (await rukia.SendAsync(HttpMethod.Get, $"/api/returns/{id}")).Status);

        // Filed by the practice's consent, whose tokens are not in the file.
        await PracticeAgent.ConnectAsync(await practice.SignInAsync(3), "ke");
        var mosi = await practice.SignInAsync(1);
        var opened = await OpenAsync(mosi, file);
        Assert.Equal((client, "waiting"), (opened["id"]!.GetValue<long>(), opened["returns"]![0]!["stage"]!.GetValue<string>()));
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/build");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted", "rejected"));
        Assert.Single(practice.Authority.All, s => s.Pin == Pin && s.Acknowledgement is not null);
        var finished = await SaveAsync(mosi, client);
        await mosi.SendAsync(HttpMethod.Delete, $"/api/kept/{client}");

        // Nothing of the client is in any file of the practice, and its ledger says only that a file was worked on.
        await practice.KillServerAsync();
        foreach (var path in Directory.EnumerateFiles(practice.DataFolder, "*", SearchOption.AllDirectories))
        {
            var text = Encoding.Latin1.GetString(await File.ReadAllBytesAsync(path));
            Assert.DoesNotContain(Name, text);
            Assert.DoesNotContain(Pin, text);
        }

        await practice.StartServerAsync();
        mosi = await practice.SignInAsync(1);
        Assert.Contains((await mosi.GetAsync("/api/acts")).AsArray(), a => a!["kind"]!.GetValue<string>() == "kept-save" && a["clientId"] is null);
        Assert.Null((await mosi.GetAsync("/api/acts/verification"))["firstBroken"]);

        // The receipt is in the file.
        await OpenAsync(mosi, finished);
        var sending = await mosi.GetAsync($"/api/returns/{id}/sending");
        Assert.StartsWith("ACK-", sending["sendings"]![0]!["acknowledgement"]!.GetValue<string>());
        Assert.Equal((byte)'P', (await mosi.Http.GetByteArrayAsync($"/api/returns/{id}/sending/parcel.zip"))[0]);
    }

    [Fact]
    public async Task Only_who_has_the_file_open_reaches_it_and_only_one_person_at_a_time()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, tarek) = (await practice.SignInAsync(0), await practice.SignInAsync(3));
        var (client, id) = await BeginAsync(rukia);
        var file = await SaveAsync(rukia, client);
        foreach (var path in new[] { $"/api/clients/{client}", $"/api/returns/{id}", $"/api/clients/{client}/export.zip", $"/api/returns/{id}/printed-copy.pdf" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await tarek.SendAsync(HttpMethod.Get, path)).Status);
            Assert.Equal(HttpStatusCode.OK, (await rukia.Http.GetAsync(path)).StatusCode);
        }

        Assert.DoesNotContain((await tarek.GetAsync("/api/desk?list=all"))["items"]!.AsArray(), r => r!["client"]!.GetValue<string>() == Name);
        Assert.Equal(0, (await rukia.GetAsync($"/api/clients?search={Pin}"))["total"]!.GetValue<long>());
        var (status, answer) = await tarek.SendAsync(HttpMethod.Post, "/api/kept/open", new { file, passphrase = Passphrase });
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("Rukia Tindall has this file open", answer!["detail"]!.GetValue<string>());
        Assert.Equal(HttpStatusCode.NotFound, (await tarek.SendAsync(HttpMethod.Post, $"/api/kept/{client}/file")).Status);
    }

    [Fact]
    public async Task Closing_with_changes_that_are_not_in_the_file_asks_first()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var (client, id) = await BeginAsync(rukia);
        await SaveAsync(rukia, client);
        Assert.False((await rukia.GetAsync("/api/kept"))[0]!["unsaved"]!.GetValue<bool>());
        await rukia.SetAsync(id, "scope.resident", "yes");
        Assert.True((await rukia.GetAsync("/api/kept"))[0]!["unsaved"]!.GetValue<bool>());
        var (status, answer) = await rukia.SendAsync(HttpMethod.Delete, $"/api/kept/{client}");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("Save it first", answer!["detail"]!.GetValue<string>());
        Assert.Equal(HttpStatusCode.NoContent, (await rukia.SendAsync(HttpMethod.Delete, $"/api/kept/{client}?drop=true")).Status);
        Assert.Empty((await rukia.GetAsync("/api/kept")).AsArray());
    }

    [Fact]
    public async Task A_file_opens_with_its_passphrase_only_and_not_after_any_change()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var (client, _) = await BeginAsync(rukia);
        var file = await SaveAsync(rukia, client);
        await rukia.SendAsync(HttpMethod.Delete, $"/api/kept/{client}");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await rukia.SendAsync(HttpMethod.Post, "/api/kept/open", new { file, passphrase = Passphrase + " " })).Status);
        foreach (var place in new[] { 0, 9, 24, 40, 60, file.Length / 2, file.Length - 1 })
        {
            var altered = (byte[])file.Clone();
            altered[place] ^= 1;
            var (status, answer) = await rukia.SendAsync(HttpMethod.Post, "/api/kept/open", new { file = altered, passphrase = Passphrase });
            Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
            Assert.NotEmpty(answer!["detail"]!.GetValue<string>());
        }

        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await rukia.SendAsync(HttpMethod.Post, "/api/kept/open", new { file = Array.Empty<byte>(), passphrase = Passphrase })).Status);
        var tooShort = await rukia.SendAsync(HttpMethod.Post, "/api/kept", new { client = new { country = "ke", identifier = Pin, name = Name }, passphrase = "short" });
        Assert.Contains("at least 12", tooShort.Answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task Another_practice_cannot_open_it()
    {
        byte[] file;
        await using (var practice = await Practice.StartAsync())
        {
            var rukia = await practice.SignInAsync(0);
            var (client, _) = await BeginAsync(rukia);
            file = await SaveAsync(rukia, client);
        }

        // Practices of the tests are copies of one; this makes another of it.
        await using var other = await Practice.StartAsync();
        using (var database = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={other.DatabaseFile};Pooling=False"))
        {
            Dapper.SqlMapper.Execute(database, "UPDATE practice SET created_at = '2020-01-01T00:00:00.000Z'");
        }

        var (status, answer) = await (await other.SignInAsync(0)).SendAsync(HttpMethod.Post, "/api/kept/open", new { file, passphrase = Passphrase });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("another practice", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task The_file_holds_an_SQLite_database_with_nothing_of_the_practices_own()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var (client, _) = await BeginAsync(rukia);
        var (image, _) = KeptFile.Read(await SaveAsync(rukia, client), Passphrase);
        Assert.StartsWith("SQLite format 3\0", Encoding.Latin1.GetString(image));
        var text = Encoding.Latin1.GetString(image);
        Assert.Contains(Name, text);
        Assert.DoesNotContain("lantern-reef", text);
        Assert.DoesNotContain("@lanternreef.example", text);
        Assert.DoesNotContain("argon2id", text);
        using var database = PracticeDatabase.InMemory("look-inside", image);
        Assert.Null(database.Read(Practices.Find));
        Assert.Equal(Name, database.Read(unit => Storage.Clients.NameOf(unit, client)));
    }

    /// <summary>RFC 9106, section 5.3: Argon2id with 32 KiB, three passes, four lanes.</summary>
    [Fact]
    public void The_derivation_is_the_one_of_the_RFC()
    {
        using var argon2 = new Konscious.Security.Cryptography.Argon2id(Enumerable.Repeat((byte)1, 32).ToArray())
        {
            Salt = Enumerable.Repeat((byte)2, 16).ToArray(),
            KnownSecret = Enumerable.Repeat((byte)3, 8).ToArray(),
            AssociatedData = Enumerable.Repeat((byte)4, 12).ToArray(),
            MemorySize = 32,
            Iterations = 3,
            DegreeOfParallelism = 4,
        };
        Assert.Equal("0d640df58d78766c08c037a34a8b53c9d01ef0452d75b65eb52520e96b01e659", Convert.ToHexStringLower(argon2.GetBytes(32)));
    }

    [Fact]
    public async Task A_return_kept_by_the_client_follows_a_corrected_law()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, mosi) = (await practice.SignInAsync(0), await practice.SignInAsync(1));
        var (client, id) = await BeginAsync(rukia);
        await FillAsync(rukia, id);
        var before = await BalanceAsync();
        var file = await SaveAsync(rukia, client);
        await CorrectAsync("30,000");
        Assert.Equal(before - 1_200, await BalanceAsync());
        await rukia.SendAsync(HttpMethod.Delete, $"/api/kept/{client}?drop=true");

        // Corrected once more while the file, saved before, was closed.
        await CorrectAsync("31,200");
        await OpenAsync(rukia, file);
        Assert.Equal(before - 2_400, await BalanceAsync());
        Assert.Contains((await rukia.GetAsync($"/api/clients/{client}/acts")).AsArray(), a => a!["kind"]!.GetValue<string>() == "law-follows");

        async Task<decimal> BalanceAsync() =>
            decimal.Parse((await rukia.GetAsync($"/api/returns/{id}"))["outcome"]!.AsArray()[^1]!["amount"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture);

        async Task CorrectAsync(string value)
        {
            const string Law = "/api/law/ke/employment-income/2025";
            var proposed = await rukia.DoAsync(HttpMethod.Post, $"{Law}/corrections", new { figure = "personal-relief", value, source = "Finance Act 2025, s. 41", reason = "Raised" });
            var correction = proposed["groups"]!.AsArray().SelectMany(g => g!["figures"]!.AsArray()).Select(f => f!["proposed"]).OfType<JsonNode>().Single();
            await mosi.DoAsync(HttpMethod.Post, $"{Law}/corrections/{correction["id"]!.GetValue<long>()}/turn-on");
        }
    }

    private static async Task<(long Client, long Return)> BeginAsync(Browser person)
    {
        var begun = await person.DoAsync(HttpMethod.Post, "/api/kept", new
        {
            client = new { country = "ke", identifier = Pin, name = Name, email = "otieno@post.example", payoutRoute = "mobile", payoutMobile = "0712345678" },
            passphrase = Passphrase,
        });
        Assert.Empty(begun["problems"]!.AsArray());
        var client = begun["opened"]!["id"]!.GetValue<long>();
        var opened = await person.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ke/employment-income", year = 2025, kind = "original" });
        return (client, opened["id"]!.GetValue<long>());
    }

    private static async Task FillAsync(Browser person, long id)
    {
        var changes = new List<object> { new { kind = "add-row", section = "employment.employers", row = "row-1", seen = 0 } };
        void Set(string line, string value, string? row = null) => changes.Add(new { kind = "set", line, row, value, seen = 0 });
        Set("scope.resident", "yes");
        Set("scope.employers", "one");
        foreach (var question in "short-period other-income employer-car employer-housing employer-benefits retirement-outside-payroll mortgage medical-fund insurance other-tax-paid disability late".Split(' '))
        {
            Set($"scope.{question}", "no");
        }

        foreach (var (column, value) in new[]
        {
            ("pin", "P051900417G"), ("name", "Glasshouse Orchestra Trust"), ("months", "12"), ("basic-pay", "1440000"), ("total-on-certificate", "1440000"),
            ("retirement-contributions", "49680"), ("pensionable-pay", "1440000"), ("health-insurance", "39600"), ("housing-levy", "21600"), ("tax-deducted", "311000"),
        })
        {
            Set($"employment.employers.{column}", value, "row-1");
        }

        Set("declaration.true-and-complete", "yes");
        Set("declaration.name", Name);
        Set("declaration.capacity", "taxpayer");
        Set("declaration.date", "2026-06-17");
        await person.DoAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes });
        var result = await person.GetAsync($"/api/returns/{id}");
        Assert.DoesNotContain(result["findings"]!.AsArray(), f => f!["severity"]!.GetValue<string>() == "error");
        foreach (var finding in result["findings"]!.AsArray().Where(f => f!["severity"]!.GetValue<string>() == "warning"))
        {
            await person.DoAsync(HttpMethod.Post, $"/api/returns/{id}/findings/accept", new
            {
                finding = finding!["id"]!.GetValue<string>(),
                row = finding["row"]?.GetValue<string>(),
                reason = "Discussed with the client",
            });
        }
    }

    private static async Task<byte[]> SaveAsync(Browser person, long client)
    {
        var (status, content) = await person.FetchAsync(HttpMethod.Post, $"/api/kept/{client}/file");
        Assert.Equal(HttpStatusCode.OK, status);
        return content;
    }

    private static Task<JsonNode> OpenAsync(Browser person, byte[] file) => person.DoAsync(HttpMethod.Post, "/api/kept/open", new { file, passphrase = Passphrase });
}
