using System.IO.Compression;
using System.Security.Cryptography;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace Aerarium.Filing;

/// <summary>One file of a Parcel.</summary>
/// <param name="Name">File name.</param>
/// <param name="Content">Its bytes.</param>
public sealed record ParcelFile(string Name, byte[] Content);

/// <summary>E-return, printed copy and receipt kept together in one zip, with a manifest of SHA-256 hashes. The same files give the same bytes.</summary>
public static class Parcel
{
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
}
