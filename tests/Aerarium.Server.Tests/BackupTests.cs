using System.IO.Compression;
using Aerarium.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

public sealed class BackupTests : IDisposable
{
    private const int Rukia = 0;
    private const int Ines = 4;

    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-drill").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    /// <summary>The drill: a backup made while people work, the practice lost, the backup restored, and everybody goes on.</summary>
    [Fact]
    public async Task A_practice_lost_is_restored_from_a_backup_made_while_people_worked()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, ines) = (await practice.SignInAsync(Rukia), await practice.SignInAsync(Ines));
        var id = await rukia.ReturnOfAsync("Nia", 2025);
        await rukia.SetAsync(id, "employment.disability-certificate", "EX-BEFORE");
        var during = Task.Run(async () =>
        {
            for (var edit = 0; edit < 10; edit++)
            {
                await rukia.SetAsync(id, "scope.resident", edit % 2 == 0 ? "no" : "yes");
            }
        });
        var contents = await ines.DoAsync(HttpMethod.Post, "/api/backups");
        await during;
        Assert.Equal(24, contents["returns"]!.GetValue<long>());
        var view = await ines.GetAsync("/api/backups");
        var file = Path.Combine(view["folder"]!.GetValue<string>(), view["files"]!.AsArray().Single()!["name"]!.GetValue<string>());
        var kept = Path.Combine(_folder, "kept.zip");
        File.Copy(file, kept);

        await practice.KillServerAsync();
        Directory.Delete(practice.DataFolder, recursive: true);
        var restored = Backups.Restore(kept, practice.DataFolder);
        Assert.Equal(contents["acts"]!.GetValue<long>(), restored.Acts);
        await practice.StartServerAsync();
        rukia = await practice.SignInAsync(Rukia);
        var value = (await rukia.GetAsync($"/api/returns/{id}"))["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == "employment.disability-certificate")!;
        Assert.Equal("EX-BEFORE", (value["value"] ?? value["kept"])!.GetValue<string>());
        Assert.Null((await rukia.GetAsync("/api/acts/verification"))["firstBroken"]);

        // The signing key came back with the keys that protect it: a return can still be built.
        var mosi = await practice.SignInAsync(1);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{await mosi.ReturnOfAsync("Zuri", 2025)}/sending/build");
    }

    [Fact]
    public async Task Only_the_latest_backups_are_kept()
    {
        await using var practice = await Practice.StartAsync(demo: false);
        var database = practice.Server.Services.GetRequiredService<PracticeDatabase>();
        var day = new DateTimeOffset(2026, 6, 18, 8, 0, 0, TimeSpan.Zero);
        for (var hour = 0; hour < 4; hour++)
        {
            Backups.Make(database, practice.DataFolder, _folder, day.AddHours(hour), keep: 2);
        }

        Assert.Equal(["2026-06-18T11:00:00.000Z", "2026-06-18T10:00:00.000Z"], Backups.All(_folder).Select(b => b.MadeAt));
        Assert.Equal(2, Directory.GetFiles(_folder).Length);
    }

    [Fact]
    public async Task A_backup_that_was_altered_cut_short_or_is_none_is_refused_and_leaves_nothing()
    {
        await using var practice = await Practice.StartAsync(demo: false);
        var database = practice.Server.Services.GetRequiredService<PracticeDatabase>();
        var (made, _) = Backups.Make(database, practice.DataFolder, _folder, DateTimeOffset.UnixEpoch, keep: 1);
        var good = Path.Combine(_folder, made.Name);
        var altered = Path.Combine(_folder, "altered.zip");
        File.Copy(good, altered);
        using (var zip = ZipFile.Open(altered, ZipArchiveMode.Update))
        {
            using var stream = zip.GetEntry("practice.db")!.Open();
            stream.Seek(200, SeekOrigin.Begin);
            stream.WriteByte(77);
        }

        var cut = Path.Combine(_folder, "cut.zip");
        File.WriteAllBytes(cut, File.ReadAllBytes(good)[..^400]);
        var other = Path.Combine(_folder, "other.zip");
        ZipFile.CreateFromDirectory(Directory.CreateDirectory(Path.Combine(_folder, "empty")).FullName, other);
        var target = Path.Combine(_folder, "target");
        foreach (var (file, words) in new[] { (altered, "was altered"), (cut, "cannot be read as a backup"), (other, "not a backup of a practice") })
        {
            Assert.Contains(words, Assert.Throws<InvalidDataException>(() => Backups.Restore(file, target)).Message);
            Assert.False(Directory.Exists(target));
            Assert.False(Directory.Exists(target + ".restoring"));
        }

        Backups.Restore(good, target);
        Assert.Contains("already holds a practice", Assert.Throws<IOException>(() => Backups.Restore(good, target)).Message);
    }
}
