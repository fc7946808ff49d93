using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace Aerarium.Filing;

/// <summary>One file of a Parcel.</summary>
/// <param name="Name">File name.</param>
/// <param name="Content">Its bytes.</param>
public sealed record ParcelFile(string Name, byte[] Content);

/// <summary>Names of the files in the Parcel of a return.</summary>
public static class ParcelFiles
{
    /// <summary>The e-return, without its ending.</summary>
    public const string EReturn = "e-return";

    /// <summary>The practice's signature over an e-return in JSON.</summary>
    public const string EReturnSignature = "signature-of-e-return.jws";

    /// <summary>The printed copy.</summary>
    public const string PrintedCopy = "printed-copy.pdf";

    /// <summary>The acknowledgement for people.</summary>
    public const string Acknowledgement = "acknowledgement.pdf";

    /// <summary>The frozen return.</summary>
    public const string Frozen = "frozen-return.json";

    /// <summary>The authority's answer.</summary>
    public const string Receipt = "receipt.json";

    /// <summary>The authority's signature over it.</summary>
    public const string ReceiptSignature = "receipt.jws";

    /// <summary>The acts on the return.</summary>
    public const string Acts = "acts.json";

    /// <summary>Folder of the authority's schema, at its published address.</summary>
    public const string Schema = "schema";
}

/// <summary>E-return, printed copy and receipt kept together in one zip, with a manifest of SHA-256 hashes. The same files give the same bytes.</summary>
public static class Parcel
{
    private const long LargestFile = 64 * 1024 * 1024;
    private static readonly DateTimeOffset FixedTime = new(2000, 1, 1, 0, 0, 0, TimeSpan.Zero);

    private static readonly JsonSerializerOptions Written = new() { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Packs files; <paramref name="about"/> says in the manifest what they are.</summary>
    public static byte[] Pack(IReadOnlyDictionary<string, string> about, IReadOnlyList<ParcelFile> files)
    {
        var manifest = new
        {
            about,
            files = files.Select(f => new { name = f.Name, bytes = f.Content.Length, sha256 = Convert.ToHexStringLower(SHA256.HashData(f.Content)) }),
        };
        using var stream = new MemoryStream();
        using (var zip = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var file in files.Prepend(new ParcelFile("manifest.json", JsonSerializer.SerializeToUtf8Bytes(manifest, Written))))
            {
                var entry = zip.CreateEntry(file.Name, CompressionLevel.Optimal);
                entry.LastWriteTime = FixedTime;
                using var content = entry.Open();
                content.Write(file.Content);
            }
        }

        return stream.ToArray();
    }

    /// <summary>Opens a Parcel and holds every file against the manifest.</summary>
    /// <exception cref="FormatException">It is no Parcel, or a file was changed, added or removed; the message names it.</exception>
    public static IReadOnlyDictionary<string, byte[]> Open(byte[] parcel)
    {
        Dictionary<string, byte[]> files;
        try
        {
            using var zip = new ZipArchive(new MemoryStream(parcel), ZipArchiveMode.Read);
            files = zip.Entries.ToDictionary(e => e.FullName, Content);
        }
        catch (Exception problem) when (problem is InvalidDataException or ArgumentException)
        {
            throw new FormatException($"This is no Parcel: {problem.Message}", problem);
        }

        if (!files.Remove("manifest.json", out var manifest))
        {
            throw new FormatException("This is no Parcel: it has no manifest.json.");
        }

        using var listed = JsonDocument.Parse(manifest);
        var named = listed.RootElement.GetProperty("files").EnumerateArray().ToDictionary(f => f.GetProperty("name").GetString()!, f => f.GetProperty("sha256").GetString()!);
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
            ? throw new FormatException($"{missing} is in the manifest and not in the Parcel; it was removed.")
            : files;
    }

    private static byte[] Content(ZipArchiveEntry entry)
    {
        if (entry.Length > LargestFile)
        {
            throw new InvalidDataException($"{entry.FullName} is larger than a Parcel's files are.");
        }

        using var stream = entry.Open();
        using var memory = new MemoryStream();
        stream.CopyTo(memory);
        return memory.ToArray();
    }
}
