using System.IO.Compression;

namespace Aerarium.Filing;

/// <summary>
/// Several files that are filed as one: a return with what belongs to it, such as a company's accounts, in a zip with a manifest of their
/// hashes. Nothing in it is compressed, and the practice's signature is over the whole, so that no file can be left out or exchanged.
/// </summary>
public static class EReturnPackage
{
    /// <summary>The file that holds the return; the others go with it.</summary>
    public const string ReturnFile = "return.xml";

    /// <summary>Path of an element in one of the files.</summary>
    public static string PathIn(string file, string path) => $"{file}#{path}";

    /// <summary>Packs the files of a submission.</summary>
    /// <param name="about">What the manifest says of them.</param>
    /// <param name="files">By file name; the return is among them.</param>
    public static EReturn Of(IReadOnlyDictionary<string, string> about, IReadOnlyDictionary<string, EReturn> files) => new(
        ManifestZip.Pack(about, [.. files.Select(f => new ParcelFile(f.Key, f.Value.Content))], CompressionLevel.NoCompression),
        files.SelectMany(f => f.Value.Places.Select(p => (Path: PathIn(f.Key, p.Key), p.Value))).ToDictionary(p => p.Path, p => p.Value));

    /// <summary>Whether two submissions hold the same files, however their zips were written.</summary>
    /// <exception cref="FormatException">One is no submission, or not as its manifest says.</exception>
    public static bool HoldTheSame(byte[] one, byte[] other)
    {
        var (files, others) = (Files(one), Files(other));
        return files.Count == others.Count && files.All(f => others.TryGetValue(f.Key, out var content) && content.AsSpan().SequenceEqual(f.Value));
    }

    /// <summary>The files of a submission, each as its manifest says.</summary>
    /// <exception cref="FormatException">It is none, has no return, or a file was changed, added or removed; the message says which.</exception>
    public static IReadOnlyDictionary<string, byte[]> Files(byte[] package)
    {
        var files = ManifestZip.Open(package, "submission of several files");
        return files.ContainsKey(ReturnFile) ? files : throw new FormatException($"The submission has no {ReturnFile}.");
    }
}
