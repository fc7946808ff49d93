using System.Buffers.Binary;
using System.Net;
using System.Text;
using Aerarium.Server.Kept;
using Aerarium.Storage;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Aerarium.Server.Tests;

/// <summary>Client-kept files made by somebody who knows the passphrase: what else they bring is not run, and what they cost is bounded.</summary>
public sealed class HostileKeptFileTests : IAsyncLifetime
{
    private const string Passphrase = "salt marsh and small lanterns";

    private Practice _practice = null!;
    private Browser _rukia = null!;
    private byte[] _file = [];

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        _rukia = await _practice.SignInAsync(0);
        var begun = await _rukia.DoAsync(HttpMethod.Post, "/api/kept", new { client = new { country = "ke", identifier = "A009900773M", name = "Wafula Tern" }, passphrase = Passphrase });
        var client = begun["opened"]!["id"]!.GetValue<long>();
        (_, _file) = await _rukia.FetchAsync(HttpMethod.Post, $"/api/kept/{client}/file");
        await _rukia.SendAsync(HttpMethod.Delete, $"/api/kept/{client}");
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    [Theory]
    [InlineData("CREATE TRIGGER leak AFTER INSERT ON practice_credential BEGIN INSERT INTO practice_particular VALUES ('ke', 'leak', NEW.user_name); END")]
    [InlineData("CREATE TRIGGER slow AFTER INSERT ON act BEGIN SELECT count(*) FROM act a, act b, act c, act d; END")]
    [InlineData("ALTER TABLE practice RENAME TO practice_was; CREATE VIEW practice AS SELECT * FROM practice_was")]
    [InlineData("ALTER TABLE SchemaVersions RENAME TO was; CREATE VIEW SchemaVersions AS WITH RECURSIVE n (x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n) SELECT x AS ScriptName FROM n")]
    [InlineData("CREATE TABLE more (what TEXT)")]
    [InlineData("DROP TRIGGER act_is_never_changed")]
    [InlineData("CREATE INDEX by_words ON act (lower(after))")]
    [InlineData("DELETE FROM SchemaVersions WHERE ScriptName LIKE '%0009%'")]
    [InlineData("INSERT INTO SchemaVersions (ScriptName, Applied) VALUES ('Aerarium.Storage.Migrations.9999-later.sql', '2030-01-01')")]
    public async Task A_file_that_holds_more_or_less_than_this_program_makes_is_not_opened(string statement)
    {
        var (status, answer) = await OpenAsync(Altered(statement));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("not what Aerarium writes", answer);
        Assert.Empty((await _rukia.GetAsync("/api/kept")).AsArray());
    }

    [Fact]
    public async Task The_file_as_it_was_saved_opens_and_so_does_one_of_an_earlier_version()
    {
        Assert.Equal(HttpStatusCode.OK, (await OpenAsync(_file)).Status);
        foreach (var applied in new[] { 1, 8, PracticeDatabase.Migrations.Count - 1 })
        {
            using var earlier = PracticeDatabase.Fresh([.. PracticeDatabase.Migrations.Take(applied)]);
            using var opened = PracticeDatabase.InMemory($"earlier-{applied}", earlier.Image());
            Assert.Equal(PracticeDatabase.Migrations.Count, opened.Read(unit => unit.Connection.ExecuteScalar<int>("SELECT count(*) FROM SchemaVersions")));
        }
    }

    [Theory]
    [InlineData(1024 * 1024, 3, 4)]
    [InlineData(64 * 1024, 10, 4)]
    [InlineData(64 * 1024, 3, 16)]
    [InlineData(int.MaxValue, int.MaxValue, int.MaxValue)]
    [InlineData(-1, -1, -1)]
    public async Task A_header_that_asks_for_more_than_this_program_does_is_refused_before_any_work(int memory, int passes, int lanes)
    {
        var asking = (byte[])_file.Clone();
        BinaryPrimitives.WriteInt32BigEndian(asking.AsSpan(24), memory);
        BinaryPrimitives.WriteInt32BigEndian(asking.AsSpan(28), passes);
        BinaryPrimitives.WriteInt32BigEndian(asking.AsSpan(32), lanes);
        var (status, answer) = await OpenAsync(asking);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("more memory or time to open than any file made here", answer);
    }

    [Fact]
    public async Task Nothing_secret_of_the_practice_is_in_the_database_of_an_open_file()
    {
        var (image, _) = KeptFile.Read(_file, Passphrase);
        using var kept = PracticeDatabase.InMemory("equipped", image);
        using var practice = new PracticeDatabase(_practice.DatabaseFile);
        var equipment = practice.Read(KeptClients.EquipmentOf);
        kept.Write(unit => KeptClients.Equip(unit, equipment));
        var text = Encoding.Latin1.GetString(kept.Image());
        Assert.NotEmpty(equipment.Credentials);
        Assert.All(equipment.Credentials, c => Assert.DoesNotContain(Encoding.Latin1.GetString(c.Secret), text));
        Assert.DoesNotContain(Encoding.Latin1.GetString(equipment.Practice.SigningKey), text);
        Assert.DoesNotContain("argon2id", text);
    }

    private async Task<(HttpStatusCode Status, string Answer)> OpenAsync(byte[] file)
    {
        var (status, answer) = await _rukia.SendAsync(HttpMethod.Post, "/api/kept/open", new { file, passphrase = Passphrase });
        return (status, answer!.ToJsonString());
    }

    /// <summary>The file with a statement run on what it holds, sealed again with its own passphrase.</summary>
    private byte[] Altered(string statement)
    {
        var (image, key) = KeptFile.Read(_file, Passphrase);
        var path = Path.Combine(_practice.DataFolder, $"altered-{Guid.NewGuid():N}.db");
        File.WriteAllBytes(path, image);
        using (var database = new SqliteConnection($"Data Source={path};Pooling=False"))
        {
            database.Open();
            database.Execute(statement);
        }

        return KeptFile.Write(File.ReadAllBytes(path), key);
    }
}
