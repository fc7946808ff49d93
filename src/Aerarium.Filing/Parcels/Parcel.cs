using System.IO.Compression;

namespace Aerarium.Filing;

/// <summary>Names of the files in the Parcel of a return.</summary>
public static class ParcelFiles
{
    /// <summary>The e-return, without its ending.</summary>
    public const string EReturn = "e-return";

    /// <summary>The practice's signature over an e-return that is signed beside, not within.</summary>
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
    /// <summary>Packs files; <paramref name="about"/> says in the manifest what they are.</summary>
    public static byte[] Pack(IReadOnlyDictionary<string, string> about, IReadOnlyList<ParcelFile> files) => ManifestZip.Pack(about, files, CompressionLevel.Optimal);

    /// <summary>Opens a Parcel and holds every file against the manifest.</summary>
    /// <exception cref="FormatException">It is no Parcel, or a file was changed, added or removed; the message names it.</exception>
    public static IReadOnlyDictionary<string, byte[]> Open(byte[] parcel) => ManifestZip.Open(parcel, "Parcel");
}
