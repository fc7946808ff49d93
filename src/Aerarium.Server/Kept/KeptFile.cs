using System.IO.Compression;
using System.Security.Cryptography;
using Aerarium.Server.Access;

namespace Aerarium.Server.Kept;

/// <summary>
/// The file of a client who keeps the data: AES-256-GCM (NIST SP 800-38D) over a compressed image, its key derived from
/// a passphrase by Argon2id (RFC 9106). The header is authenticated with the contents. docs/file-formats.md has the layout.
/// </summary>
public static class KeptFile
{
    private const int NonceBytes = 12;
    private const int TagBytes = 16;
    private const int HeaderBytes = 8 + PassphraseKey.DescriptionBytes + NonceBytes;
    private const int LargestImage = 200 * 1024 * 1024;

    private static ReadOnlySpan<byte> Mark => "AERKEPT1"u8;

    /// <summary>Writes a file; every time with another nonce.</summary>
    public static byte[] Write(byte[] image, PassphraseKey key)
    {
        var contents = Compress(image);
        var file = new byte[HeaderBytes + contents.Length + TagBytes];
        var header = file.AsSpan(0, HeaderBytes);
        Mark.CopyTo(header);
        key.Describe(header[8..]);
        RandomNumberGenerator.Fill(header[^NonceBytes..]);
        using var cipher = new AesGcm(key.Key, TagBytes);
        cipher.Encrypt(header[^NonceBytes..], contents, file.AsSpan(HeaderBytes, contents.Length), file.AsSpan(HeaderBytes + contents.Length), header);
        return file;
    }

    /// <summary>Reads a file with its passphrase: the image, and the key to write it again.</summary>
    /// <exception cref="PlainProblem">It is no such file, was altered, or the passphrase is another.</exception>
    public static (byte[] Image, PassphraseKey Key) Read(byte[] file, string passphrase)
    {
        if (file.Length < HeaderBytes + TagBytes || !file.AsSpan(0, 8).SequenceEqual(Mark))
        {
            throw PlainProblem.Refused("This is not a file of a client who keeps the data.");
        }

        var header = file.AsSpan(0, HeaderBytes);
        var key = PassphraseKey.Of(passphrase, header[8..])
            ?? throw PlainProblem.Refused("The file asks for more memory or time to open than any file made here; it is damaged, or was made by another program.");
        var contents = new byte[file.Length - HeaderBytes - TagBytes];
        using var cipher = new AesGcm(key.Key, TagBytes);
        try
        {
            cipher.Decrypt(header[^NonceBytes..], file.AsSpan(HeaderBytes, contents.Length), file.AsSpan(HeaderBytes + contents.Length), contents, header);
        }
        catch (AuthenticationTagMismatchException)
        {
            throw PlainProblem.Refused("The passphrase is not that of this file, or the file was altered. Check capitals and blanks, and try again.");
        }

        return (Expand(contents), key);
    }

    private static byte[] Compress(byte[] image)
    {
        using var packed = new MemoryStream();
        using (var gzip = new GZipStream(packed, CompressionLevel.Optimal))
        {
            gzip.Write(image);
        }

        return packed.ToArray();
    }

    private static byte[] Expand(byte[] contents)
    {
        using var image = new MemoryStream();
        using var gzip = new GZipStream(new MemoryStream(contents), CompressionMode.Decompress);
        var buffer = new byte[81_920];
        int read;
        while ((read = gzip.Read(buffer)) > 0)
        {
            if (image.Length + read > LargestImage)
            {
                throw PlainProblem.Refused("The file is far larger unpacked than a client's returns can be; it was not opened.");
            }

            image.Write(buffer, 0, read);
        }

        return image.ToArray();
    }
}
