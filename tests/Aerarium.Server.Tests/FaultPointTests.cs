using System.Net;
using Aerarium.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>
/// At every named point, once a crash and once a full disk: afterwards what was answered as kept is there, every return that was sent is filed
/// once, and the Ledger is unbroken.
/// </summary>
public sealed class FaultPointTests : IAsyncLifetime
{
    private const int Edits = 4;
    private const int NoSpaceLeft = 28;
    private const string Line = "taxpayer.postal-address";

    private readonly List<string> _answers = [];
    private Practice _practice = null!;
    private Browser _rukia = null!;
    private Browser _mosi = null!;
    private bool _hit;
    private string? _kept;

    public static TheoryData<string, bool> Points
    {
        get
        {
            var points = new TheoryData<string, bool>();
            foreach (var point in FaultPoints.All)
            {
                points.Add(point, true);
                points.Add(point, false);
            }

            return points;
        }
    }

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        (_rukia, _mosi) = (await _practice.SignInAsync(0), await _practice.SignInAsync(1));
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    [Theory]
    [MemberData(nameof(Points))]
    public async Task Nothing_kept_is_lost_and_nothing_is_filed_twice(string point, bool crash)
    {
        var (edited, sent) = (await _rukia.ReturnOfAsync("Nia", 2025), await _rukia.ReturnOfAsync("Zuri", 2025));
        var list = point.StartsWith("mail", StringComparison.Ordinal) ? await ListAsync() : 0;
        if (!point.StartsWith("write", StringComparison.Ordinal))
        {
            await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{sent}/sending/build");
        }

        var database = _practice.Server.Services.GetRequiredService<PracticeDatabase>();
        Action<string> provoke = at => Provoke(at, point, crash);
        database.Faults.Provoke = provoke;
        await (point.Split(',')[0] switch
        {
            "write" => EditAsync(edited),
            "send" or "answer" => SendAsync(sent),
            "mail" => SendAsync(list),
            "backup" => BackUpAsync(),
            _ => RestoreAsync(database, provoke),
        });
        await Wait.UntilAsync(() => _hit, $"The work did not come to '{point}'.");
        if (crash)
        {
            await CrashAsync();
        }
        else
        {
            database.Faults.Provoke = null;
            Assert.All(_answers.Where(a => a.StartsWith("503", StringComparison.Ordinal)), a => Assert.Contains("disk of the server is full", a));
            Assert.DoesNotContain(_answers, a => a.StartsWith("500", StringComparison.Ordinal));
        }

        await HoldsAsync(edited, list == 0 ? sent : list, wasSent: point.Split(',')[0] is "send" or "answer" or "mail");
    }

    private void Provoke(string at, string point, bool crash)
    {
        // What has crashed does nothing more.
        if ((_hit && crash) || (at == point && !_hit))
        {
            _hit = true;
            throw crash ? new SimulatedCrashException() : new IOException("No space left on device", NoSpaceLeft);
        }
    }

    private async Task HoldsAsync(long edited, long sent, bool wasSent)
    {
        var value = (await _rukia.GetAsync($"/api/returns/{edited}"))["values"]!.AsArray().FirstOrDefault(v => v!["line"]!.GetValue<string>() == Line);
        var there = (value?["value"] ?? value?["kept"])?.GetValue<string>();

        // What was answered as kept is there; what was kept and not answered may be.
        Assert.True(_kept is null || string.CompareOrdinal(there, _kept) >= 0, $"Kept was '{_kept}', there is '{there}'.");
        if (wasSent)
        {
            Assert.Equal("accepted", await _mosi.WaitForAsync(sent, "accepted", "rejected"));
            var sending = Assert.Single((await _mosi.GetAsync($"/api/returns/{sent}/sending"))["sendings"]!.AsArray())!;
            Assert.Single(_practice.Authority.All, s => s.Acknowledgement == sending["acknowledgement"]!.GetValue<string>());
        }

        var filed = _practice.Authority.All.ToList();
        Assert.Equal(filed.Count, filed.Select(s => s.Sha256).Distinct().Count());
        Assert.Null(_practice.Server.Services.GetRequiredService<PracticeDatabase>().Read(ActChain.FirstBroken));
        var backups = Path.Combine(_practice.DataFolder, "backups");
        Assert.All(Backups.All(backups), b => Backups.Verify(Path.Combine(backups, b.Name)));
        await Wait.UntilAsync(() => !Directory.Exists(backups) || !Directory.EnumerateFileSystemEntries(backups).Any(e => Path.GetFileName(e).StartsWith('.')), "An unfinished backup was left.");
        await _rukia.SetAsync(edited, Line, "9 afterwards");
    }

    private async Task EditAsync(long id)
    {
        for (var edit = 1; edit <= Edits; edit++)
        {
            if (await TryAsync(_rukia, HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = new[] { new { kind = "set", line = Line, value = $"{edit}", seen = long.MaxValue } } }))
            {
                _kept = $"{edit}";
            }
        }
    }

    private Task SendAsync(long id) => TryAsync(_mosi, HttpMethod.Post, $"/api/returns/{id}/sending/send", null);

    private async Task BackUpAsync() => await TryAsync(await _practice.SignInAsync(4), HttpMethod.Post, "/api/backups", null);

    /// <summary>A restore that fails leaves the folder as it was, or whole; trying again brings it whole.</summary>
    private Task RestoreAsync(PracticeDatabase database, Action<string> provoke)
    {
        var folder = Directory.CreateTempSubdirectory("aerarium-restore").FullName;
        try
        {
            var (made, contents) = Backups.Make(database, _practice.DataFolder, folder, DateTimeOffset.UnixEpoch, keep: 1);
            var (file, target) = (Path.Combine(folder, made.Name), Path.Combine(folder, "restored"));
            var faults = new FaultPoints { Provoke = provoke };
            Assert.ThrowsAny<Exception>(() => Backups.Restore(file, target, faults: faults));
            if (Directory.Exists(target))
            {
                Assert.Contains("already holds a practice", Assert.Throws<IOException>(() => Backups.Restore(file, target)).Message);
            }
            else
            {
                Assert.Equal(contents, Backups.Restore(file, target));
            }

            using var restored = new PracticeDatabase(Path.Combine(target, "practice.db"));
            Assert.Equal(contents.Acts, restored.Read(Acts.Count));
            Assert.NotEmpty(Directory.GetFiles(Path.Combine(target, "keys")));
            return Task.CompletedTask;
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private async Task<long> ListAsync()
    {
        const long list = MailTests.List1;
        await MailTests.ReadyAsync(_practice);
        return list;
    }

    private async Task<bool> TryAsync(Browser person, HttpMethod method, string path, object? body)
    {
        try
        {
            var (status, answer) = await person.SendAsync(method, path, body);
            _answers.Add($"{(int)status} {answer?.ToJsonString()}");
            return status is HttpStatusCode.OK;
        }
        catch (HttpRequestException problem)
        {
            _answers.Add(problem.Message);
            return false;
        }
    }

    private async Task CrashAsync()
    {
        try
        {
            await _practice.KillServerAsync();
        }
        catch (Exception problem) when (problem is SimulatedCrashException or AggregateException)
        {
            // What is dead cannot stop in good order.
        }

        await _practice.StartServerAsync();
        (_rukia, _mosi) = (await _practice.SignInAsync(0), await _practice.SignInAsync(1));
    }

    private sealed class SimulatedCrashException : Exception;
}
