using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace Aerarium.Filing;

/// <summary>One file of a Parcel, or of a submission of several files.</summary>
/// <param name="Name">File name.</param>
/// <param name="Content">Its bytes.</param>
public sealed record ParcelFile(string Name, byte[] Content);

/// <summary>Files in one zip with a manifest of their SHA-256 hashes. The same files give the same bytes.</summary>
internal static class ManifestZip
{
    private const string Manifest = "manifest.json";
    private const long LargestFile = 64 * 1024 * 1024;
    private const long LargestTogether = 4 * LargestFile;
    private static readonly DateTimeOffset FixedTime = new(2000, 1, 1, 0, 0, 0, TimeSpan.Zero);

    private static readonly JsonSerializerOptions Written = new() { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Packs files; <paramref name="about"/> says in the manifest what they are.</summary>
    public static byte[] Pack(IReadOnlyDictionary<string, string> about, IReadOnlyList<ParcelFile> files, CompressionLevel compression)
    {
        var manifest = new
        {
            about,
            files = files.Select(f => new { name = f.Name, bytes = f.Content.Length, sha256 = Convert.ToHexStringLower(SHA256.HashData(f.Content)) }),
        };
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var file in files.Prepend(new ParcelFile(Manifest, JsonSerializer.SerializeToUtf8Bytes(manifest, Written))))
            {
                var entry = zip.CreateEntry(file.Name, compression);
                entry.LastWriteTime = FixedTime;
                using var content = entry.Open();
                content.Write(file.Content);
            }
        }

        return stream.ToArray();
    }

    /// <summary>Opens one and holds every file against the manifest.</summary>
    /// <exception cref="FormatException">It is no such zip, or a file was changed, added or removed; the message names it.</exception>
    public static IReadOnlyDictionary<string, byte[]> Open(byte[] packed, string what)
    {
        Dictionary<string, byte[]> files;
        try
        {
            using var zip = new ZipArchive(new MemoryStream(packed), ZipArchiveMode.Read);
            var left = LargestTogether;
            files = zip.Entries.ToDictionary(e => e.FullName, e => Content(e, ref left, what));
        }
        catch (Exception problem) when (problem is InvalidDataException or ArgumentException)
        {
            throw new FormatException($"This is no {what}: {problem.Message}", problem);
        }

        if (!files.Remove(Manifest, out var manifest))
        {
            throw new FormatException($"This is no {what}: it has no {Manifest}.");
        }

        var named = Listed(manifest, what);
        foreach (var (name, content) in files)
        {
            if (!named.TryGetValue(name, out var hash))
            {
                throw new FormatException($"{name} is not in the manifest; it was added.");
            }

            if (hash != Convert.ToHexStringLower(SHA256.HashData(content)))
            {
                throw new FormatException($"{name} is not what the manifest says; it was changed.");
            }
        }

        return named.Keys.FirstOrDefault(n => !files.ContainsKey(n)) is { } missing
            ? throw new FormatException($"{missing} is in the manifest and not in the {what}; it was removed.")
            : files;
    }

    private static Dictionary<string, string> Listed(byte[] manifest, string what)
    {
        try
        {
            using var listed = JsonDocument.Parse(manifest);
            return listed.RootElement.GetProperty("files").EnumerateArray().ToDictionary(f => f.GetProperty("name").GetString()!, f => f.GetProperty("sha256").GetString()!);
        }
        catch (Exception problem) when (problem is JsonException or InvalidOperationException or KeyNotFoundException or ArgumentException)
        {
            throw new FormatException($"This is no {what}: its {Manifest} cannot be read.", problem);
        }
    }

    /// <summary>What an entry holds. It is counted as it is unpacked: what a zip says of its sizes need not be true.</summary>
    private static byte[] Content(ZipArchiveEntry entry, ref long left, string what)
    {
        using var stream = entry.Open();
        using var memory = new MemoryStream();
        var piece = new byte[81_920];
        for (int read; (read = stream.Read(piece)) > 0;)
        {
            memory.Write(piece, 0, read);
            left -= read;
            if (memory.Length > LargestFile || left < 0)
            {
                throw new InvalidDataException($"{entry.FullName} is larger than the files of a {what} are.");
            }
        }

        return memory.ToArray();
    }
}
