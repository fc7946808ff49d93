using System.IO.Compression;
using System.Net;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Aerarium.Server.Tests;

/// <summary>Companies, relations, near-duplicates; export and deletion of everything about a client.</summary>
public class ClientRecordTests : IAsyncLifetime
{
    private Practice _practice = null!;
    private Browser _rukia = null!;
    private Browser _tarek = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        _rukia = await _practice.SignInAsync(0);
        _tarek = await _practice.SignInAsync(3);
    }

    public async ValueTask DisposeAsync()
    {
        await _practice.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    private async Task<long> ClientAsync(string name) => (await _rukia.GetAsync($"/api/clients?search={Uri.EscapeDataString(name)}"))["items"]![0]!["id"]!.GetValue<long>();

    private static object New(string identifier, string name, string? birthDate = null, bool asAnother = false, string kind = "individual", string? yearEnd = null) =>
        new { country = "ke", kind, identifier, name, birthDate, yearEnd, asAnother };

    [Fact]
    public async Task A_company_has_its_own_identifier_year_end_and_particulars_and_no_return_of_individuals()
    {
        var refused = await _rukia.DoAsync(HttpMethod.Post, "/api/clients", New("A005550001B", "Salt Stair Ltd", kind: "company", yearEnd: "31/13"));
        Assert.Equal(["identifier", "yearEnd"], refused["problems"]!.AsArray().Select(p => p!["field"]!.GetValue<string>()).Order());
        var added = await _rukia.DoAsync(HttpMethod.Post, "/api/clients", new
        {
            country = "ke",
            kind = "company",
            identifier = "P005550001B",
            name = "Salt Stair Ltd",
            yearEnd = "30 June",
            more = new Dictionary<string, string> { ["registration-number"] = "CPR/1" },
        });
        var particulars = (await _rukia.GetAsync($"/api/clients/{added["id"]}"))["particulars"]!;
        Assert.Equal(("company", "06-30", "CPR/1"), (particulars["kind"]!.GetValue<string>(), particulars["yearEnd"]!.GetValue<string>(), particulars["more"]!["registration-number"]!.GetValue<string>()));
        var (status, answer) = await _rukia.SendAsync(HttpMethod.Post, $"/api/clients/{added["id"]}/returns", new { definition = "ke/employment-income", year = 2025, kind = "original" });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("filed by individuals", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_client_that_only_looks_like_another_is_added_when_a_person_says_so()
    {
        Assert.NotNull((await _rukia.DoAsync(HttpMethod.Post, "/api/clients", New("A005550002C", "Njeri Halvorsen Oduya")))["alike"]);
        Assert.NotNull((await _rukia.DoAsync(HttpMethod.Post, "/api/clients", New("A005550002C", "Njeri Halvorsen Oduya", asAnother: true)))["id"]);
    }

    [Fact]
    public async Task Relations_show_from_both_sides_and_impossible_ones_are_refused_in_words()
    {
        var (njeri, per, tamsin, company) = (await ClientAsync("Njeri"), await ClientAsync("Per "), await ClientAsync("Tamsin"), await ClientAsync("Sail Lofts"));
        async Task<string?> AddAsync(long to, string kind, long other)
        {
            var (status, answer) = await _rukia.SendAsync(HttpMethod.Post, $"/api/clients/{to}/relations", new { kind, otherId = other });
            return status == HttpStatusCode.OK ? null : answer!["detail"]!.GetValue<string>();
        }

        Assert.Null(await AddAsync(tamsin, "parent", njeri));
        Assert.Contains((await _rukia.GetAsync($"/api/clients/{njeri}"))["relations"]!.AsArray(), r => r!["label"]!.GetValue<string>() == "child" && r["otherId"]!.GetValue<long>() == tamsin);
        Assert.Contains("stands below", await AddAsync(njeri, "parent", tamsin));
        Assert.Contains("spouses already", await AddAsync(tamsin, "spouse", per));
        Assert.Contains("there already", await AddAsync(njeri, "child", tamsin));
        Assert.Contains("An individual directs", await AddAsync(njeri, "director", per));
        Assert.Contains("Only individuals", await AddAsync(company, "spouse", per));
        Assert.Contains("Only a company", await AddAsync(njeri, "subsidiary", company));
        Assert.Contains("another client", await AddAsync(njeri, "child", njeri));
        Assert.Contains("no relation", await AddAsync(njeri, "rival", per));
        Assert.Null(await AddAsync(company, "shareholder", per));
        var relation = (await _rukia.GetAsync($"/api/clients/{per}"))["relations"]!.AsArray().Single(r => r!["label"]!.GetValue<string>() == "company held")!;
        await _rukia.DoAsync(HttpMethod.Delete, $"/api/clients/{per}/relations/{relation["id"]}");
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Delete, $"/api/clients/{njeri}/relations/{relation["id"]}")).Status);
        Assert.DoesNotContain((await _rukia.GetAsync($"/api/clients/{company}"))["relations"]!.AsArray(), r => r!["label"]!.GetValue<string>() == "shareholder");
    }

    [Fact]
    public async Task An_export_holds_everything_in_open_formats_with_hashes_that_fit()
    {
        await _rukia.WaitForAnswersAsync();
        var amara = await ClientAsync("Amara");
        await _rukia.UploadAsync($"/api/clients/{amara}/documents?name=letter.txt&kind=letter&year=2025", "=HYPERLINK(\"x\")"u8.ToArray());
        using var zip = new ZipArchive(new MemoryStream(await _rukia.Http.GetByteArrayAsync($"/api/clients/{amara}/export.zip")));
        var names = zip.Entries.Select(e => e.FullName).ToList();
        foreach (var part in new[] { "client.json", "relations.json", "statements.json", "documents.json", "acts.json", "consent.json" })
        {
            Assert.Contains(part, names);
        }

        Assert.Contains(names, n => n.StartsWith("documents/", StringComparison.Ordinal) && n.EndsWith("letter.txt", StringComparison.Ordinal));
        foreach (var ending in new[] { "entries.json", "entries.csv", "e-return.xml", "printed-copy.pdf", "payments.json" })
        {
            Assert.Contains(names, n => n.StartsWith("returns/", StringComparison.Ordinal) && n.EndsWith(ending, StringComparison.Ordinal));
        }

        Assert.Contains(names, n => n.Contains("receipt-", StringComparison.Ordinal));
        byte[] Content(string name)
        {
            using var memory = new MemoryStream();
            using var stream = zip.GetEntry(name)!.Open();
            stream.CopyTo(memory);
            return memory.ToArray();
        }

        foreach (var file in JsonNode.Parse(Content("manifest.json"))!["files"]!.AsArray())
        {
            Assert.Equal(file!["sha256"]!.GetValue<string>(), Convert.ToHexStringLower(SHA256.HashData(Content(file["name"]!.GetValue<string>()))));
        }

        Assert.Equal(names.Count - 1, JsonNode.Parse(Content("manifest.json"))!["files"]!.AsArray().Count);
        Assert.Equal("Amara Thistle Njoroge", JsonNode.Parse(Content("client.json"))!["name"]!.GetValue<string>());
    }

    [Fact]
    public async Task What_was_filed_is_held_for_five_years_and_the_reason_is_told()
    {
        await _rukia.WaitForAnswersAsync();
        var amara = await ClientAsync("Amara");
        var deletion = await _tarek.GetAsync($"/api/clients/{amara}/deletion");
        Assert.False(deletion["may"]!.GetValue<bool>());
        var hold = deletion["holds"]!.AsArray().Single()!;
        Assert.Equal(("2026-06-18", "2031-06-18"), (hold["filedOn"]!.GetValue<string>(), hold["until"]!.GetValue<string>()));
        Assert.Contains("TPA s. 23", hold["source"]!.GetValue<string>());
        var (status, answer) = await _tarek.SendAsync(HttpMethod.Post, $"/api/clients/{amara}/deletion", new { name = "Amara Thistle Njoroge" });
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("18 June 2031", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_deleted_client_is_gone_what_its_acts_said_is_erased_and_the_chain_still_holds()
    {
        var tamsin = await ClientAsync("Tamsin");
        var id = await _rukia.ReturnOfAsync("Tamsin", 2025);
        await _rukia.SetAsync(id, "declaration.name", "A name to forget");
        await _rukia.UploadAsync($"/api/clients/{tamsin}/documents?name=secret.txt&kind=letter&year=2025", "to be forgotten"u8.ToArray());
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _tarek.SendAsync(HttpMethod.Post, $"/api/clients/{tamsin}/deletion", new { name = "Tamsin" })).Status);
        Assert.Equal(HttpStatusCode.NoContent, (await _tarek.SendAsync(HttpMethod.Post, $"/api/clients/{tamsin}/deletion", new { name = "Tamsin Wekesa Quill" })).Status);

        foreach (var path in new[] { $"/api/clients/{tamsin}", $"/api/returns/{id}" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await _tarek.SendAsync(HttpMethod.Get, path)).Status);
        }

        var acts = await _tarek.GetAsync("/api/acts");
        Assert.Null((await _tarek.GetAsync("/api/acts/verification"))["firstBroken"]);
        Assert.DoesNotContain("A name to forget", acts.ToJsonString());
        Assert.DoesNotContain("Tamsin", acts.ToJsonString());
        using var file = new SqliteConnection($"Data Source={_practice.DatabaseFile};Pooling=False");
        Assert.Equal(0, file.ExecuteScalar<long>("SELECT COUNT(*) FROM artefact WHERE CAST(content AS TEXT) LIKE '%forgotten%'"));
        Assert.Empty(file.Query("PRAGMA foreign_key_check"));

        // Erasing any other act is a break, and an erased act cannot be filled again.
        Assert.Throws<SqliteException>(() => file.Execute("UPDATE act SET after = 'forged' WHERE erased_with IS NOT NULL"));
        var victim = file.ExecuteScalar<long>("SELECT max(id) FROM act WHERE erased_with IS NULL AND kind = 'add-client'");
        file.Execute("UPDATE act SET erased_with = 1, return_id = NULL, client_id = NULL, line = NULL, row = NULL, before = NULL, after = NULL WHERE id = @victim", new { victim });
        Assert.Equal(victim, (await _tarek.GetAsync("/api/acts/verification"))["firstBroken"]!.GetValue<long>());
    }

    [Fact]
    public async Task The_history_of_a_client_holds_its_own_acts_and_those_on_its_returns_only()
    {
        var (njeri, per) = (await ClientAsync("Njeri"), await ClientAsync("Per "));
        var returns = (await _rukia.GetAsync($"/api/clients/{njeri}"))["returns"]!.AsArray().Select(r => r!["id"]!.GetValue<long>()).ToHashSet();
        var acts = (await _rukia.GetAsync($"/api/clients/{njeri}/acts")).AsArray();
        Assert.All(acts, a => Assert.True(a!["clientId"]?.GetValue<long>() == njeri || returns.Contains(a["returnId"]!.GetValue<long>())));
        Assert.Contains(acts, a => a!["kind"]!.GetValue<string>() == "add-client");
        Assert.Contains(acts, a => a!["kind"]!.GetValue<string>() == "entry");
        var others = (await _rukia.GetAsync($"/api/clients/{per}/acts")).AsArray().Select(a => a!["id"]!.GetValue<long>());
        Assert.Empty(others.Intersect(acts.Select(a => a!["id"]!.GetValue<long>())));
    }
}
