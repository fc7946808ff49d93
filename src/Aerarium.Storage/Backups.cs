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
public sealed record BackupFile(string Name, string MadeAt, long Bytes);

/// <summary>What a backup holds, read back from it.</summary>
/// <param name="Returns">Returns.</param>
/// <param name="Clients">Clients.</param>
/// <param name="Acts">Acts; their chain is unbroken.</param>
public sealed record BackupContents(long Returns, long Clients, long Acts);

/// <summary>
/// Backups of a practice: one zip file with the database, copied while it is in use, the keys, and a manifest with the
/// SHA-256 of each. A backup counts once it has been restored to a folder of its own and found whole.
/// </summary>
public static class Backups
{
    private const string Manifest = "manifest.json";
    private const string DatabaseName = "practice.db";
    private const string Prefix = "aerarium-";

    /// <summary>Makes a backup of a practice's folder, verifies it by restoring it, and removes all but the latest <paramref name="keep"/>.</summary>
    /// <exception cref="InvalidDataException">It could not be read back whole; it is not kept.</exception>
    public static (BackupFile File, BackupContents Contents) Make(PracticeDatabase database, string data, string folder, DateTimeOffset now, int keep)
    {
        Directory.CreateDirectory(folder);
        var working = Directory.CreateTempSubdirectory("aerarium-backup").FullName;
        var unfinished = Path.Combine(folder, $".{Guid.NewGuid():N}.part");
        try
        {
            database.CopyTo(Path.Combine(working, DatabaseName));
            var keys = Path.Combine(data, "keys");
            foreach (var key in Directory.Exists(keys) ? Directory.GetFiles(keys, "*.xml") : [])
            {
                Directory.CreateDirectory(Path.Combine(working, "keys"));
                File.Copy(key, Path.Combine(working, "keys", Path.GetFileName(key)));
            }

            var hashes = Directory.GetFiles(working, "*", SearchOption.AllDirectories)
                .ToDictionary(f => Path.GetRelativePath(working, f).Replace('\\', '/'), HashOf);
            File.WriteAllText(Path.Combine(working, Manifest), JsonSerializer.Serialize(hashes));
            ZipFile.CreateFromDirectory(working, unfinished);
            var contents = Verify(unfinished);
            var file = Path.Combine(folder, $"{Prefix}{now.UtcDateTime.ToString("yyyyMMdd'T'HHmmssfff'Z'", CultureInfo.InvariantCulture)}.zip");
            File.Move(unfinished, file);
            foreach (var old in All(folder).Skip(Math.Max(1, keep)))
            {
                File.Delete(Path.Combine(folder, old.Name));
            }

            return (Describe(file), contents);
        }
        finally
        {
            File.Delete(unfinished);
            Directory.Delete(working, recursive: true);
        }
    }

    /// <summary>The backups of a folder, latest first.</summary>
    public static IReadOnlyList<BackupFile> All(string folder) => Directory.Exists(folder)
        ? [.. Directory.GetFiles(folder, $"{Prefix}*.zip").OrderDescending(StringComparer.Ordinal).Select(Describe)]
        : [];

    /// <summary>Restores a backup into a folder that holds no practice yet, and opens it to see that it is whole.</summary>
    /// <exception cref="InvalidDataException">The file is not a backup, was altered, or holds a damaged practice; nothing is left in the folder.</exception>
    /// <exception cref="IOException">The folder already holds a practice.</exception>
    public static BackupContents Restore(string file, string folder)
    {
        if (File.Exists(Path.Combine(folder, DatabaseName)))
        {
            throw new IOException($"'{folder}' already holds a practice. Restore into an empty folder, look at it, and then start the server on it.");
        }

        var working = Path.GetFullPath(folder) + ".restoring";
        if (Directory.Exists(working))
        {
            Directory.Delete(working, recursive: true);
        }

        try
        {
            Unpack(file, working);
            var contents = Inspect(Path.Combine(working, DatabaseName));
            Directory.CreateDirectory(folder);
            foreach (var part in Directory.GetFileSystemEntries(working).Where(p => Path.GetFileName(p) != Manifest))
            {
                Directory.Move(part, Path.Combine(folder, Path.GetFileName(part)));
            }

            return contents;
        }
        finally
        {
            Directory.Delete(working, recursive: true);
        }
    }

    /// <summary>Restores a backup to a folder of its own, reads it and removes it again.</summary>
    public static BackupContents Verify(string file)
    {
        var working = Directory.CreateTempSubdirectory("aerarium-verify").FullName;
        try
        {
            Unpack(file, working);
            return Inspect(Path.Combine(working, DatabaseName));
        }
        finally
        {
            Directory.Delete(working, recursive: true);
        }
    }

    private static void Unpack(string file, string folder)
    {
        Directory.CreateDirectory(folder);
        try
        {
            ZipFile.ExtractToDirectory(file, folder);
        }
        catch (Exception problem) when (problem is InvalidDataException or IOException && File.Exists(file))
        {
            throw new InvalidDataException($"'{file}' cannot be read as a backup: {problem.Message}", problem);
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
        var stamp = Path.GetFileNameWithoutExtension(file)[Prefix.Length..];
        var madeAt = DateTimeOffset.TryParseExact(stamp, "yyyyMMdd'T'HHmmssfff'Z'", CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at)
            ? at.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.fffZ", CultureInfo.InvariantCulture)
            : stamp;
        return new BackupFile(Path.GetFileName(file), madeAt, new FileInfo(file).Length);
    }

    private static string HashOf(string file)
    {
        using var stream = File.OpenRead(file);
        return Convert.ToHexStringLower(SHA256.HashData(stream));
    }
}
