using System.Globalization;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.Data.Sqlite;

namespace Aerarium.Storage;

/// <summary>A backup in its folder.</summary>
/// <param name="Name">File name.</param>
/// <param name="MadeAt">When.</param>
/// <param name="Bytes">Size.</param>
/// <param name="Encrypted">Whether it opens with a passphrase only; otherwise whoever has it has the keys in it too.</param>
public sealed record BackupFile(string Name, string MadeAt, long Bytes, bool Encrypted);

/// <summary>Encrypts a backup and opens it again.</summary>
public interface IBackupSeal
{
    /// <summary>Whether a file that begins like this was encrypted by a seal of this kind.</summary>
    bool IsSealed(ReadOnlySpan<byte> beginning);

    /// <summary>Encrypts.</summary>
    void Seal(Stream plain, Stream into);

    /// <summary>Opens.</summary>
    /// <exception cref="InvalidDataException">The passphrase is another, or the file was altered.</exception>
    void Open(Stream from, Stream into);
}

/// <summary>What a backup holds, read back from it.</summary>
/// <param name="Returns">Returns.</param>
/// <param name="Clients">Clients.</param>
/// <param name="Acts">Acts; their chain is unbroken.</param>
public sealed record BackupContents(long Returns, long Clients, long Acts);

/// <summary>
/// Backups of a practice: one zip file with the database, copied while it is in use, the keys, and a manifest with the
/// SHA-256 of each. A backup counts once it has been restored to a folder of its own and found whole. It may be encrypted as a whole.
/// </summary>
public static class Backups
{
    private const string Manifest = "manifest.json";
    private const string DatabaseName = "practice.db";
    private const string Prefix = "aerarium-";
    private const string Plain = ".zip";
    private const string Sealed = ".zip.sealed";

    /// <summary>What is unfinished begins like this, in the folder of the backups: it is swept when the server starts.</summary>
    private const string Unfinished = ".unfinished-";

    /// <summary>How unfinished files ended in earlier versions.</summary>
    private const string UnfinishedBefore = ".part";

    /// <summary>Makes a backup of a practice's folder, verifies it by restoring it, and removes all but the latest <paramref name="keep"/>.</summary>
    /// <exception cref="InvalidDataException">It could not be read back whole; it is not kept.</exception>
    public static (BackupFile File, BackupContents Contents) Make(
        PracticeDatabase database, string data, string folder, DateTimeOffset now, int keep, IBackupSeal? seal = null)
    {
        var working = Working(folder);
        try
        {
            var parts = Directory.CreateDirectory(Path.Combine(working, "parts")).FullName;
            database.Faults.Reach(FaultPoints.BeforeCopy);
            database.CopyTo(Path.Combine(parts, DatabaseName));
            var keys = Path.Combine(data, "keys");
            foreach (var key in Directory.Exists(keys) ? Directory.GetFiles(keys, "*.xml") : [])
            {
                Directory.CreateDirectory(Path.Combine(parts, "keys"));
                File.Copy(key, Path.Combine(parts, "keys", Path.GetFileName(key)));
            }

            var hashes = Directory.GetFiles(parts, "*", SearchOption.AllDirectories)
                .ToDictionary(f => Path.GetRelativePath(parts, f).Replace('\\', '/'), HashOf);
            File.WriteAllText(Path.Combine(parts, Manifest), JsonSerializer.Serialize(hashes));
            var whole = Path.Combine(working, "whole");
            ZipFile.CreateFromDirectory(parts, whole);
            if (seal is not null)
            {
                var encrypted = Path.Combine(working, "sealed");
                Through(whole, encrypted, seal.Seal);
                whole = encrypted;
            }

            var contents = Verify(whole, seal);
            var file = Path.Combine(folder, $"{Prefix}{now.UtcDateTime.ToString("yyyyMMdd'T'HHmmssfff'Z'", CultureInfo.InvariantCulture)}{(seal is null ? Plain : Sealed)}");
            database.Faults.Reach(FaultPoints.BeforeBackupRename);
            File.Move(whole, file);
            database.Faults.Reach(FaultPoints.AfterBackupRename);
            foreach (var old in All(folder).Skip(Math.Max(1, keep)))
            {
                File.Delete(Path.Combine(folder, old.Name));
            }

            return (Describe(file), contents);
        }
        finally
        {
            Directory.Delete(working, recursive: true);
        }
    }

    /// <summary>The backups of a folder, latest first.</summary>
    public static IReadOnlyList<BackupFile> All(string folder) => Directory.Exists(folder)
        ? [.. Directory.GetFiles(folder, $"{Prefix}*").Where(f => f.EndsWith(Plain, StringComparison.Ordinal) || f.EndsWith(Sealed, StringComparison.Ordinal)).OrderDescending(StringComparer.Ordinal).Select(Describe)]
        : [];

    /// <summary>Removes what a crash left of backups that were not finished; returns how many.</summary>
    public static int Sweep(string folder)
    {
        var left = new DirectoryInfo(folder) is { Exists: true } found ? found.GetFileSystemInfos($"{Unfinished}*").Concat(found.GetFiles($".*{UnfinishedBefore}")).ToList() : [];
        foreach (var one in left)
        {
            if (one is DirectoryInfo working)
            {
                working.Delete(recursive: true);
            }
            else
            {
                one.Delete();
            }
        }

        return left.Count;
    }

    /// <summary>Restores a backup into a folder that holds no practice yet, and opens it to see that it is whole.</summary>
    /// <exception cref="InvalidDataException">The file is not a backup, was altered, needs another passphrase, or holds a damaged practice; nothing is left in the folder.</exception>
    /// <exception cref="IOException">The folder already holds a practice.</exception>
    public static BackupContents Restore(string file, string folder, IBackupSeal? seal = null, FaultPoints? faults = null)
    {
        if (File.Exists(Path.Combine(folder, DatabaseName)))
        {
            throw new IOException($"'{folder}' already holds a practice. Restore into an empty folder, look at it, and then start the server on it.");
        }

        if (Directory.Exists(folder) && Directory.EnumerateFileSystemEntries(folder).Any())
        {
            throw new IOException($"'{folder}' is not empty. Restore into a folder of its own; it is made when it is not there.");
        }

        var working = Path.GetFullPath(folder) + ".restoring";
        if (Directory.Exists(working))
        {
            Directory.Delete(working, recursive: true);
        }

        try
        {
            Unpack(file, working, seal);
            var contents = Inspect(Path.Combine(working, DatabaseName));
            File.Delete(Path.Combine(working, Manifest));
            if (Directory.Exists(folder))
            {
                Directory.Delete(folder);
            }

            // The practice is there whole or not at all.
            faults?.Reach(FaultPoints.BeforeRestoreRename);
            Directory.Move(working, Path.GetFullPath(folder));
            faults?.Reach(FaultPoints.AfterRestoreRename);
            return contents;
        }
        finally
        {
            if (Directory.Exists(working))
            {
                Directory.Delete(working, recursive: true);
            }
        }
    }

    /// <summary>Restores a backup to a folder of its own, reads it and removes it again.</summary>
    public static BackupContents Verify(string file, IBackupSeal? seal = null)
    {
        var working = Working(Path.GetDirectoryName(Path.GetFullPath(file))!);
        try
        {
            Unpack(file, working, seal);
            return Inspect(Path.Combine(working, DatabaseName));
        }
        finally
        {
            Directory.Delete(working, recursive: true);
        }
    }

    private static string Working(string beside) => Directory.CreateDirectory(Path.Combine(beside, $"{Unfinished}{Guid.NewGuid():N}")).FullName;

    private static void Through(string from, string to, Action<Stream, Stream> work)
    {
        using var source = File.OpenRead(from);
        using var target = File.Create(to);
        work(source, target);
    }

    private static bool IsSealed(string file, IBackupSeal seal)
    {
        using var stream = File.OpenRead(file);
        Span<byte> beginning = stackalloc byte[8];
        return seal.IsSealed(beginning[..stream.ReadAtLeast(beginning, beginning.Length, throwOnEndOfStream: false)]);
    }

    private static void Unpack(string file, string folder, IBackupSeal? seal)
    {
        Directory.CreateDirectory(folder);
        var whole = file;
        if (seal is not null && IsSealed(file, seal))
        {
            whole = Path.Combine(folder, "opened");
            Through(file, whole, seal.Open);
        }

        try
        {
            ZipFile.ExtractToDirectory(whole, folder);
            if (whole != file)
            {
                File.Delete(whole);
            }
        }
        catch (Exception problem) when (problem is InvalidDataException or IOException && File.Exists(file))
        {
            throw new InvalidDataException(
                $"'{file}' cannot be read as a backup: {problem.Message}{(file.EndsWith(Sealed, StringComparison.Ordinal) && seal is null ? " It is encrypted; name the file that holds its passphrase." : "")}", problem);
        }

        var manifest = Path.Combine(folder, Manifest);
        var hashes = File.Exists(manifest) ? JsonSerializer.Deserialize<Dictionary<string, string>>(File.ReadAllText(manifest))! : [];
        if (!hashes.ContainsKey(DatabaseName))
        {
            throw new InvalidDataException($"'{file}' is not a backup of a practice.");
        }

        foreach (var (name, hash) in hashes)
        {
            var part = Path.Combine(folder, name);
            if (!File.Exists(part) || HashOf(part) != hash)
            {
                throw new InvalidDataException($"'{name}' in '{file}' is missing or was altered.");
            }
        }
    }

    private static BackupContents Inspect(string databaseFile)
    {
        using (var connection = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = databaseFile, Mode = SqliteOpenMode.ReadOnly, Pooling = false }.ToString()))
        {
            connection.Open();
            using var check = connection.CreateCommand();
            check.CommandText = "PRAGMA integrity_check;";
            if (check.ExecuteScalar() as string is not "ok" and var words)
            {
                throw new InvalidDataException($"The database is damaged: {words}");
            }
        }

        using var database = new PracticeDatabase(databaseFile);
        return database.Read(unit => ActChain.FirstBroken(unit) is { } broken
            ? throw new InvalidDataException($"The chain of acts is broken at act {broken}.")
            : new BackupContents(Count(unit, "tax_return"), Count(unit, "client"), Count(unit, "act")));

        static long Count(Unit unit, string table) => unit.Single<long>($"SELECT COUNT(*) FROM {table}");
    }

    private static BackupFile Describe(string file)
    {
        var encrypted = file.EndsWith(Sealed, StringComparison.Ordinal);
        var stamp = Path.GetFileName(file)[Prefix.Length..^(encrypted ? Sealed : Plain).Length];
        var madeAt = DateTimeOffset.TryParseExact(stamp, "yyyyMMdd'T'HHmmssfff'Z'", CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at)
            ? at.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.fffZ", CultureInfo.InvariantCulture)
            : stamp;
        return new BackupFile(Path.GetFileName(file), madeAt, new FileInfo(file).Length, encrypted);
    }

    private static string HashOf(string file)
    {
        using var stream = File.OpenRead(file);
        return Convert.ToHexStringLower(SHA256.HashData(stream));
    }
}
