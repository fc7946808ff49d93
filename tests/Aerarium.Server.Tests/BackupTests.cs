using System.IO.Compression;
using System.Text;
using Aerarium.Server.Demo;
using Aerarium.Server.Practice;
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
        Assert.Equal(DemoReturns.Countries.Sum(c => c.Clients.Sum(client => client.Returns.Length)), contents["returns"]!.GetValue<long>());
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
    public async Task An_encrypted_backup_opens_with_its_passphrase_only_and_tells_nothing_without()
    {
        await using var practice = await Practice.StartAsync();
        var database = practice.Server.Services.GetRequiredService<PracticeDatabase>();
        var passphraseFile = Path.Combine(_folder, "passphrase");
        File.WriteAllText(passphraseFile, "nine small boats at low tide\n");
        var (made, contents) = Backups.Make(database, practice.DataFolder, _folder, DateTimeOffset.UnixEpoch, keep: 3, BackupSeal.OfFile(passphraseFile));
        var (plain, _) = Backups.Make(database, practice.DataFolder, _folder, DateTimeOffset.UnixEpoch.AddDays(1), keep: 3);
        Assert.Equal([(plain.Name, false), (made.Name, true)], Backups.All(_folder).Select(b => (b.Name, b.Encrypted)));
        var file = Path.Combine(_folder, made.Name);
        var text = Encoding.Latin1.GetString(File.ReadAllBytes(file));
        Assert.All(new[] { "practice.db", "manifest", "keys/", "PK\u0003\u0004" }, words => Assert.DoesNotContain(words, text));
        var target = Path.Combine(_folder, "target");
        Assert.Contains("is encrypted; name the file", Assert.Throws<InvalidDataException>(() => Backups.Restore(file, target)).Message);
        Assert.Contains("passphrase is not that", Assert.Throws<InvalidDataException>(() => Backups.Restore(file, target, new BackupSeal("another passphrase"))).Message);
        Assert.False(Directory.Exists(target));
        Assert.Equal(contents.Acts, Backups.Restore(file, target, BackupSeal.OfFile(passphraseFile)).Acts);
        File.WriteAllText(passphraseFile, "short");
        Assert.Contains("at least 12", Assert.Throws<InvalidDataException>(() => BackupSeal.OfFile(passphraseFile)).Message);
    }

    /// <summary>Sizes around the segments of 64 KiB; every altered, missing, doubled or swapped piece is found.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(65_535)]
    [InlineData(65_536)]
    [InlineData(65_537)]
    [InlineData(200_000)]
    public void A_sealed_file_comes_back_byte_for_byte_and_nothing_of_it_can_be_changed(int length)
    {
        const int header = 43, segment = 65_536 + 16;
        var content = new byte[length];
        new Random(length).NextBytes(content);
        using var sealedFile = new MemoryStream();
        var seal = new BackupSeal("nine small boats at low tide", memoryKiB: 64);
        seal.Seal(new MemoryStream(content), sealedFile);
        var bytes = sealedFile.ToArray();
        Assert.Equal(content, Opened(bytes));
        foreach (var place in new[] { 8, 30, header - 1, header, bytes.Length / 2, bytes.Length - 1 })
        {
            var altered = (byte[])bytes.Clone();
            altered[place] ^= 1;
            Assert.Throws<InvalidDataException>(() => Opened(altered));
        }

        Assert.Throws<InvalidDataException>(() => Opened(bytes[..^1]));
        Assert.Throws<InvalidDataException>(() => Opened([.. bytes, 0]));
        if (bytes.Length > header + segment)
        {
            Assert.Throws<InvalidDataException>(() => Opened(bytes[..(header + segment)]));
            Assert.Throws<InvalidDataException>(() => Opened([.. bytes[..header], .. bytes[(header + segment)..]]));
        }

        byte[] Opened(byte[] file)
        {
            using var opened = new MemoryStream();
            seal.Open(new MemoryStream(file), opened);
            return opened.ToArray();
        }
    }

    /// <summary>One file in 256 lacks, when it is cut by a byte, what stands at the same place in the segment before.</summary>
    [Fact]
    public void A_file_cut_short_is_refused_whatever_stood_in_its_last_segment_but_one()
    {
        const int header = 43, sixteenth = header + 15;
        var seal = new BackupSeal("nine small boats at low tide", memoryKiB: 64);
        var content = new byte[65_536];
        for (var tries = 0; ; tries++)
        {
            Assert.True(tries < 10_000, "No such file came.");
            using var sealedFile = new MemoryStream();
            seal.Seal(new MemoryStream(content), sealedFile);
            var bytes = sealedFile.ToArray();
            if (bytes[^1] == bytes[sixteenth])
            {
                Assert.Throws<InvalidDataException>(() => seal.Open(new MemoryStream(bytes[..^1]), Stream.Null));
                return;
            }
        }
    }

    [Fact]
    public async Task What_a_crash_left_of_a_backup_is_swept_at_the_next_start()
    {
        await using var practice = await Practice.StartAsync();
        var backups = Directory.CreateDirectory(Path.Combine(practice.DataFolder, "backups")).FullName;
        await practice.KillServerAsync();
        File.WriteAllText(Path.Combine(Directory.CreateDirectory(Path.Combine(backups, ".unfinished-1", "parts")).FullName, "practice.db"), "half");
        File.WriteAllText(Path.Combine(backups, ".0f0f.part"), "half");
        await practice.StartServerAsync();
        await Wait.UntilAsync(() => !Directory.EnumerateFileSystemEntries(backups).Any(), "The parts are still there.");
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
