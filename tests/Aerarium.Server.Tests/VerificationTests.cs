using Aerarium.Server.Access;
using Aerarium.Server.Practice;
using Aerarium.Storage;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Aerarium.Server.Tests;

/// <summary>One act verifies everything a practice keeps; any stored figure, file or act altered outside the application is found and named.</summary>
public sealed class VerificationTests(SharedPractice shared) : IClassFixture<SharedPractice>, IAsyncLifetime
{
    private const int Rukia = 0, Mosi = 1, Tarek = 3;

    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-verification").FullName;
    private Browser _mosi = null!;
    private Browser _tarek = null!;

    public async ValueTask InitializeAsync()
    {
        _tarek = await shared.Practice.SignInAsync(Tarek);
        _mosi = await shared.Practice.SignInAsync(Mosi);
        await _mosi.WaitForAnswersAsync();
    }

    public ValueTask DisposeAsync()
    {
        Directory.Delete(_folder, recursive: true);
        return ValueTask.CompletedTask;
    }

    private string Copy()
    {
        var copy = Path.Combine(_folder, $"{Guid.NewGuid():N}.db");
        using var file = new SqliteConnection($"Data Source={shared.Practice.DatabaseFile};Pooling=False");
        file.Execute("VACUUM INTO @copy", new { copy });
        return copy;
    }

    /// <summary>What is found wrong in a copy of the practice in which something was altered outside the application.</summary>
    private string WrongAfter(string sql)
    {
        var copy = Copy();
        using var database = new PracticeDatabase(copy);
        using (var file = new SqliteConnection($"Data Source={copy};Pooling=False"))
        {
            Assert.True(file.Execute(sql) > 0, sql);
        }

        var checks = new Verification(database, TimeProvider.System).Run(new Caller(1, "Rukia", [Roles.Manager]));
        Assert.EndsWith("not hold", database.Read(unit => Acts.Find(unit, new ActQuery(), 1, new Reach(1, true)))[0].After);
        return string.Join('\n', checks.SelectMany(c => c.Wrong));
    }

    [Fact]
    public async Task A_practice_nobody_altered_holds_and_the_act_is_noted()
    {
        var checks = await _tarek.VerifyAsync();
        Assert.Equal(12, checks.Count);
        Assert.All(checks, c => Assert.Empty(c["wrong"]!.AsArray()));
        Assert.All(checks.Where(c => !c["what"]!.GetValue<string>().StartsWith("payments", StringComparison.Ordinal)), c => Assert.True(c["count"]!.GetValue<int>() > 0, c.ToJsonString()));
        Assert.Equal(("verify", "everything holds"), await LatestActAsync());
    }

    private async Task<(string Kind, string After)> LatestActAsync()
    {
        // What the authority answers meanwhile is noted too.
        var act = (await _tarek.GetAsync("/api/acts")).AsArray().First(a => a!["kind"]!.GetValue<string>() == "verify")!;
        return (act["kind"]!.GetValue<string>(), act["after"]!.GetValue<string>());
    }

    [Fact]
    public async Task Edits_of_every_kind_keep_the_seal()
    {
        var rukia = await shared.Practice.SignInAsync(Rukia);
        var id = await rukia.ReturnOfAsync("Njeri", 2025);
        await rukia.SetAsync(id, "deductions.loans.interest", "402351", "row-3");
        await rukia.SetAsync(id, "deductions.loans.interest", "", "row-3");
        foreach (var (kind, row, position) in new (string, string, int?)[] { ("add-row", "row-9", 0), ("move-row", "row-3", 0), ("remove-row", "row-9", null), ("remove-row", "row-3", null), ("add-row", "row-3", 0) })
        {
            await rukia.DoAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = new[] { new { kind, section = "deductions.loans", row, position, seen = long.MaxValue } } });
        }

        Assert.Equal("", await _tarek.WrongAsync());
    }

    [Theory]
    [InlineData("UPDATE entry SET value = '9000000' WHERE line = 'employment.employers.basic-pay' AND return_id = 2", "Return 2: its entries are not those of its last edit: employment.employers.basic-pay in row row-1 is 9000000, the Ledger says 1668000")]
    [InlineData("DELETE FROM entry WHERE line = 'deductions.loans.interest' AND return_id = 2", "Return 2: its entries are not those")]
    [InlineData("UPDATE entry_row SET row = 'row-8' WHERE row = 'row-3' AND return_id = 2", "Return 2: its entries are not those")]
    [InlineData("UPDATE tax_return SET balance = '1' WHERE id = 2", "Return 2: the balance kept for lists is 1, the rules give")]
    [InlineData("UPDATE artefact SET content = x'00' WHERE sha256 = (SELECT min(copy_sha256) FROM built_return)", "was altered: the printed copy of return")]
    [InlineData("PRAGMA foreign_keys = OFF; DELETE FROM artefact WHERE sha256 = (SELECT min(receipt_sha256) FROM sending)", "is missing: the receipt of return")]
    [InlineData("UPDATE built_return SET ereturn_sha256 = (SELECT max(ereturn_sha256) FROM built_return) WHERE id = (SELECT id FROM built_return ORDER BY ereturn_sha256 LIMIT 1)", "is not what the frozen return gives")]
    [InlineData("UPDATE sending SET acknowledgement = 'ACK-2025-1' WHERE acknowledgement IS NOT NULL", "the acknowledgement kept is ACK-2025-1, the receipt says ACK-")]
    [InlineData("UPDATE sending SET receipt_signature = (SELECT min(receipt_signature) FROM sending) WHERE receipt_signature IS NOT NULL", "signature on its receipt does not hold")]
    [InlineData("UPDATE approval SET approved_by = (SELECT id FROM person WHERE email LIKE 'pia%') WHERE entries_sha256 IS NOT NULL", "Pia")]
    [InlineData("UPDATE approval SET entries_sha256 = (SELECT other.entries_sha256 FROM approval other WHERE other.entries_sha256 <> approval.entries_sha256 LIMIT 1) WHERE id = (SELECT min(approval_id) FROM built_return)", "is not what the frozen return gives")]
    [InlineData("DROP TRIGGER act_is_never_changed; UPDATE act SET after = '1' WHERE id = 40", "The chain breaks at act 40")]
    [InlineData("DROP TRIGGER act_is_never_removed; DELETE FROM act WHERE id = 40", "The chain breaks at act 41")]
    [InlineData("PRAGMA foreign_keys = OFF; UPDATE entry SET changed_by = 999 WHERE line = 'scope.resident' AND return_id = 2", "In entries of returns, a record refers to something in people that is not there")]
    [InlineData("PRAGMA foreign_keys = OFF; UPDATE sending SET built_id = 999 WHERE id = (SELECT min(id) FROM sending)", "In sendings and receipts, record 1 of return")]
    [InlineData("PRAGMA writable_schema = ON; UPDATE sqlite_schema SET sql = 'CREATE INDEX act_of_return ON act (client_id, id)' WHERE name = 'act_of_return'", "The database file is damaged where it keeps the Ledger of acts")]
    public void What_was_altered_is_found_and_named(string sql, string said) => Assert.Contains(said, WrongAfter(sql));

    /// <summary>Pages of the file overwritten with noise, one after the other, as a failing disk would.</summary>
    [Fact]
    public void Damage_of_the_file_is_named_and_ends_nothing()
    {
        var copy = Copy();
        var whole = File.ReadAllBytes(copy);
        const int page = 4096;
        var random = new Random(16);
        var named = 0;
        for (var round = 0; round < 12; round++)
        {
            var file = Path.Combine(_folder, $"damaged-{round}.db");
            var damaged = (byte[])whole.Clone();
            random.NextBytes(damaged.AsSpan(page * random.Next(60, whole.Length / page), page));
            File.WriteAllBytes(file, damaged);
            PracticeDatabase database;
            try
            {
                database = new PracticeDatabase(file);
            }
            catch (InvalidOperationException problem)
            {
                Assert.Contains("restore", problem.Message);
                named++;
                continue;
            }

            using (database)
            {
                var wrong = new Verification(database, TimeProvider.System).Run(new Caller(1, "Rukia", [Roles.Manager])).SelectMany(c => c.Wrong).ToList();
                Assert.NotEmpty(wrong);
                named++;
            }
        }

        Assert.Equal(12, named);
    }

    [Fact]
    public async Task A_verification_tells_how_far_it_is_and_can_be_stopped()
    {
        using var database = new PracticeDatabase(Copy());
        var verification = new Verification(database, TimeProvider.System);
        using var stop = new CancellationTokenSource();
        var told = new List<VerificationProgress>();
        var tarek = new Caller(1, "Tarek", [Roles.Manager]);
        Assert.Throws<OperationCanceledException>(() => verification.Run(
            tarek,
            progress =>
            {
                told.Add(progress);
                if (progress.What.StartsWith("returns have", StringComparison.Ordinal))
                {
                    stop.Cancel();
                }
            },
            stop.Token));
        Assert.Contains(told, p => p is { What: "files have the hashes they were kept under", Done: > 0 } && p.Done < p.Total);
        Assert.Equal("returns have the figures that the rules give", told[^1].What);
        Assert.True(told[^1].Checks.Count >= 5);
        Assert.NotEqual("verify", database.Read(unit => Acts.Find(unit, new ActQuery(), 1, new Reach(1, true)))[0].Kind);
        await _tarek.DoAsync(HttpMethod.Post, "/api/acts/verification/stop");
    }

    [Fact]
    public void The_chain_is_followed_in_steps_from_the_last_proof_and_a_step_finds_what_was_altered_since()
    {
        using var database = new PracticeDatabase(Copy());
        var place = ChainPlace.Beginning;
        for (var walk = new ChainWalk(place, null, false); !walk.AtEnd; place = walk.To)
        {
            walk = database.Read(unit => ActChain.Follow(unit, place, 7));
            Assert.Null(walk.Broken);
            Assert.InRange(walk.To.ActId - place.ActId, walk.AtEnd ? 0 : 1, 7);
        }

        database.Write(unit => Acts.Add(unit, new Caller(1, "Rukia", []).Act("one", DateTimeOffset.UnixEpoch)));
        database.Write(unit => Acts.Add(unit, new Caller(1, "Rukia", []).Act("two", DateTimeOffset.UnixEpoch)));
        database.Write(unit =>
        {
            unit.Connection.Execute("DROP TRIGGER act_is_never_changed", transaction: unit.Transaction);
            unit.Connection.Execute("UPDATE act SET person_name = 'Mosi' WHERE kind = 'one'", transaction: unit.Transaction);
        });
        Assert.Equal(place.ActId + 1, database.Read(unit => ActChain.Follow(unit, place, 100)).Broken);

        // A proof whose act was altered proves nothing.
        Assert.Equal(place.ActId, database.Read(unit => ActChain.Follow(unit, place with { Hash = "another" }, 100)).Broken);
    }

    [Fact]
    public async Task A_payment_altered_added_or_taken_away_is_found()
    {
        var amara = await _mosi.ReturnOfAsync("Amara", 2025);
        var note = new { paidOn = "10/06/2026", amount = "1000", reference = "SLIP 1" };
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{amara}/payments", note);
        Assert.Equal("", await _tarek.WrongAsync());
        var wrong = WrongAfter("UPDATE payment SET amount = '9000'");
        Assert.Contains("the payment of 9000 on 2026-06-10, SLIP 1 was never noted", wrong);
        Assert.Contains("the payment of 1000 on 2026-06-10, SLIP 1 is gone", wrong);
    }
}
