using Aerarium.Storage;
using CsCheck;
using Microsoft.Data.Sqlite;

namespace Aerarium.Server.Tests;

using Clients = Aerarium.Storage.Clients;
using Returns = Aerarium.Storage.Returns;

public sealed class StorageTests : IDisposable
{
    private const string At = "2026-06-18T08:00:00.000Z";
    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-storage").FullName;
    private readonly PracticeDatabase _database;
    private readonly long _person;
    private readonly long _client;

    public StorageTests()
    {
        _database = new PracticeDatabase(Path.Combine(_folder, "practice.db"));
        (_person, _client) = _database.Write(unit => (
            People.Add(unit, "p@x.example", "Pia", "hash", ["preparer"]),
            Clients.Add(unit, new ClientRecord { Country = "ke", Identifier = "A000000001A", Name = "One" })));
    }

    public void Dispose()
    {
        _database.Dispose();
        Directory.Delete(_folder, recursive: true);
    }

    private static string Pragma(PracticeDatabase database, string name) => database.Read(unit =>
    {
        using var command = unit.Connection.CreateCommand();
        command.CommandText = $"PRAGMA {name}";
        return command.ExecuteScalar()!.ToString()!;
    });

    private ReturnRecord Return(string kind = "original") => new()
    {
        ClientId = _client,
        Definition = "ke/employment-income",
        Year = 2025,
        Kind = kind,
        Stage = Stage.Open,
        HolderId = _person,
        OpenedAt = At,
        Due = "2026-06-30",
    };

    private SendingRecord Sending(long returnId, long built, string key, string state = "queued") => new()
    {
        ReturnId = returnId,
        BuiltId = built,
        IdempotencyKey = key,
        State = state,
        NextAttemptAt = At,
        CreatedBy = _person,
        CreatedAt = At,
    };

    private (long Return, long Built) Built(Unit unit)
    {
        var id = Returns.Add(unit, Return());
        var approval = Approvals.Add(unit, new ApprovalRecord { ReturnId = id, State = "handed-over", HandedOverBy = _person, HandedOverAt = At, Revision = 1, FigureRevision = "r" });
        var file = Artefacts.Keep(unit, [1], "application/xml", At);
        return (id, BuiltReturns.Add(unit, new BuiltRecord(0, id, approval, At, "s", file, file, "[]", null)));
    }

    [Fact]
    public void The_file_is_kept_the_careful_way()
    {
        Assert.Equal("wal", Pragma(_database, "journal_mode"));
        Assert.Equal("1", Pragma(_database, "foreign_keys"));
        Assert.Equal("2", Pragma(_database, "synchronous"));
    }

    [Fact]
    public void A_file_is_migrated_once_and_opens_again()
    {
        _database.Dispose();
        using var again = new PracticeDatabase(Path.Combine(_folder, "practice.db"));
        Assert.Equal("One", again.Read(unit => Clients.Find(unit, _client))!.Name);
    }

    [Fact]
    public void A_write_that_fails_keeps_nothing()
    {
        Assert.Throws<InvalidOperationException>(() => _database.Write(unit =>
        {
            Returns.Add(unit, Return());
            throw new InvalidOperationException("on purpose");
        }));
        Assert.Empty(_database.Read(unit => Returns.OfClient(unit, _client)));
    }

    [Fact]
    public void One_client_return_and_year_has_one_original()
    {
        _database.Write(unit => Returns.Add(unit, Return()));
        Assert.Throws<SqliteException>(() => _database.Write(unit => Returns.Add(unit, Return())));
        _database.Write(unit => Returns.Add(unit, Return("amended")));
        Assert.Equal(2, _database.Read(unit => Returns.OfClient(unit, _client)).Count);
    }

    [Fact]
    public void An_identifier_belongs_to_one_client() => Assert.Throws<SqliteException>(() => _database.Write(unit =>
        Clients.Add(unit, new ClientRecord { Country = "ke", Identifier = "A000000001A", Name = "Two" })));

    [Fact]
    public void A_client_changed_meanwhile_is_not_overwritten()
    {
        var read = _database.Read(unit => Clients.Find(unit, _client))!;
        Assert.True(_database.Write(unit => Clients.Change(unit, read with { Phone = "1" })));
        Assert.False(_database.Write(unit => Clients.Change(unit, read with { Phone = "2" })));
        Assert.Equal("1", _database.Read(unit => Clients.Find(unit, _client))!.Phone);
    }

    [Fact]
    public void The_database_itself_refuses_a_second_open_sending()
    {
        var (id, built) = _database.Write(Built);
        _database.Write(unit => Sendings.Add(unit, Sending(id, built, "key-1")));
        Assert.Throws<SqliteException>(() => _database.Write(unit => Sendings.Add(unit, Sending(id, built, "key-2"))));
    }

    [Theory]
    [InlineData("accepted", false)]
    [InlineData("rejected", true)]
    public void After_an_answer_only_a_rejected_return_is_sent_again(string answer, bool again)
    {
        var (id, built) = _database.Write(Built);
        var second = _database.Write(unit =>
        {
            var sending = Sendings.Add(unit, Sending(id, built, "key-1"));
            Sendings.Change(unit, Sendings.Find(unit, sending)! with { State = answer });
            var file = Artefacts.Keep(unit, [2], "application/xml", At);
            return BuiltReturns.Add(unit, BuiltReturns.Find(unit, built)! with { EreturnSha256 = file });
        });
        if (again)
        {
            _database.Write(unit => Sendings.Add(unit, Sending(id, second, "key-2")));
        }
        else
        {
            Assert.Throws<SqliteException>(() => _database.Write(unit => Sendings.Add(unit, Sending(id, second, "key-2"))));
        }
    }

    [Fact]
    public void Only_sendings_that_are_due_are_worked_on()
    {
        var (id, built) = _database.Write(Built);
        _database.Write(unit => Sendings.Add(unit, Sending(id, built, "key-1") with { NextAttemptAt = "2026-06-18T09:00:00.000Z" }));
        Assert.Empty(_database.Read(unit => Sendings.Due(unit, "2026-06-18T08:59:59.999Z")));
        Assert.Single(_database.Read(unit => Sendings.Due(unit, "2026-06-18T09:00:00.000Z")));
    }

    [Fact]
    public void A_file_that_was_altered_is_not_handed_out()
    {
        var sha = _database.Write(unit => Artefacts.Keep(unit, [1, 2, 3], "text/plain", At));
        Assert.Equal("039058c6f2c0cb492c533b0a4d14ef77cc0f78abccced5287d84a1a2011cfb81", sha);
        Assert.Equal([1, 2, 3], _database.Read(unit => Artefacts.Get(unit, sha)));
        _database.Write(unit =>
        {
            using var command = unit.Connection.CreateCommand();
            command.Transaction = unit.Transaction;
            command.CommandText = "UPDATE artefact SET content = x'00'";
            command.ExecuteNonQuery();
        });
        Assert.Contains("altered", Assert.Throws<InvalidOperationException>(() => _database.Read(unit => Artefacts.Get(unit, sha))).Message);
    }

    [Fact]
    public void Entries_are_replaced_and_rows_keep_their_order()
    {
        var id = _database.Write(unit => Returns.Add(unit, Return()));
        EntryRecord Entry(string? value, long revision) => new("form.line", "", value, "typed", null, null, revision, _person, At);
        _database.Write(unit => Returns.Put(unit, id, Entry("1", 1)));
        _database.Write(unit => Returns.Put(unit, id, Entry(null, 2)));
        var entry = Assert.Single(_database.Read(unit => Returns.Entries(unit, id)));
        Assert.Equal((null, 2), (entry.Value, entry.Revision));
        _database.Write(unit => Returns.PutRows(unit, id, "form.rows", [], ["a", "b", "c"]));
        _database.Write(unit => Returns.PutRows(unit, id, "form.rows", ["a", "b", "c"], ["c", "a"]));
        Assert.Equal(["c", "a"], _database.Read(unit => Returns.Rows(unit, id)).Select(r => r.Row));
    }

    /// <summary>Whatever is added, removed or moved, what is stored is the order given: only the middle is written.</summary>
    [Fact]
    public void Any_order_after_any_other_is_kept() => Gen.Select(Gen.Int[0, 7].Array[0, 8], Gen.Int[0, 7].Array[0, 8]).Sample(
        (before, after) =>
        {
            var id = _database.Write(unit => Returns.Add(unit, Return() with { Kind = "amended" }));
            string[] Named(int[] rows) => [.. rows.Distinct().Select(r => $"row-{r}")];
            _database.Write(unit => Returns.PutRows(unit, id, "form.rows", [], Named(before)));
            _database.Write(unit => Returns.PutRows(unit, id, "form.rows", Named(before), Named(after)));
            return _database.Read(unit => Returns.Rows(unit, id)).Select(r => r.Row).SequenceEqual(Named(after));
        },
        iter: 60);

    [Fact]
    public void Writers_wait_for_each_other_and_none_is_lost()
    {
        var id = _database.Write(unit => Returns.Add(unit, Return()));
        Parallel.For(0, 60, i => _database.Write(unit => Acts.Add(unit, new ActRecord { At = At, PersonName = "Pia", Kind = "entry", ReturnId = id, After = $"{i}" })));
        var acts = _database.Read(unit => Acts.Find(unit, new ActQuery(ReturnId: id), 100, new Reach(_person, SeesAll: true)));
        Assert.Equal(60, acts.Select(a => a.After).Distinct().Count());
        Assert.Null(_database.Read(ActChain.FirstBroken));
    }

    [Fact]
    public void An_act_taken_out_of_the_chain_is_found()
    {
        _database.Write(unit =>
        {
            for (var i = 0; i < 5; i++)
            {
                Acts.Add(unit, new ActRecord { At = At, PersonName = "Pia", Kind = "entry", After = $"{i}" });
            }
        });
        using var connection = new SqliteConnection($"Data Source={Path.Combine(_folder, "practice.db")}");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "DROP TRIGGER act_is_never_removed; DELETE FROM act WHERE id = 3";
        command.ExecuteNonQuery();
        Assert.Equal(4, _database.Read(ActChain.FirstBroken));
    }

    [Fact]
    public void People_of_an_older_file_keep_their_role_and_what_they_did()
    {
        var file = Path.Combine(_folder, "older.db");
        using (var older = new SqliteConnection($"Data Source={file};Pooling=False"))
        {
            older.Open();
            using var read = new StreamReader(typeof(PracticeDatabase).Assembly.GetManifestResourceStream("Aerarium.Storage.Migrations.0001-practice.sql")!);
            Execute(older, read.ReadToEnd());
            Execute(older, """
                CREATE TABLE SchemaVersions (SchemaVersionID INTEGER CONSTRAINT PK PRIMARY KEY AUTOINCREMENT NOT NULL, ScriptName TEXT NOT NULL, Applied DATETIME NOT NULL);
                INSERT INTO SchemaVersions (ScriptName, Applied) VALUES ('Aerarium.Storage.Migrations.0001-practice.sql', '2026-01-01');
                INSERT INTO person (id, email, name, role, password_hash) VALUES (3, 'm@x.example', 'Mosi', 'approver', 'hash');
                INSERT INTO client (id, country, identifier, name) VALUES (7, 'ke', 'A000000001A', 'One');
                INSERT INTO tax_return (id, client_id, definition, year, kind, stage, holder_id, opened_at, due)
                    VALUES (9, 7, 'ke/employment-income', 2025, 'original', 'open', 3, '2026-01-01', '2026-06-30');
                """);
        }

        using var database = new PracticeDatabase(file);
        Assert.Equal(["approver"], database.Read(unit => People.Find(unit, 3))!.RoleList);
        Assert.Equal("Mosi", Assert.Single(database.Read(unit => DeskLists.Page(unit, new DeskQuery(), new Reach(3, SeesAll: false), "2026-06-18", 0, 10))).Holder);
    }

    private static void Execute(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }
}
