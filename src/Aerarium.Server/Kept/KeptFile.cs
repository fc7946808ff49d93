using System.Buffers.Binary;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using Konscious.Security.Cryptography;

namespace Aerarium.Server.Kept;

/// <summary>The key of a file, and how it was derived from the passphrase.</summary>
/// <param name="Key">256 bits.</param>
/// <param name="Salt">Salt of the derivation.</param>
/// <param name="MemoryKiB">Memory cost of Argon2id.</param>
/// <param name="Passes">Passes.</param>
/// <param name="Lanes">Lanes.</param>
public sealed record KeptKey(byte[] Key, byte[] Salt, int MemoryKiB, int Passes, int Lanes);

/// <summary>
/// The file of a client who keeps the data: AES-256-GCM (NIST SP 800-38D) over a compressed image, its key derived from
/// a passphrase by Argon2id (RFC 9106). The header is authenticated with the contents. docs/file-formats.md has the layout.
/// </summary>
public static class KeptFile
{
    private const int SaltBytes = 16;
    private const int NonceBytes = 12;
    private const int TagBytes = 16;
    private const int HeaderBytes = 8 + SaltBytes + 12 + NonceBytes;
    private const int MemoryKiB = 64 * 1024;
    private const int Passes = 3;
    private const int Lanes = 4;

    /// <summary>Twice what we ask for, so that a later version may ask for more; a file is opened one at a time.</summary>
    private const int MostMemoryKiB = 2 * MemoryKiB;
    private const int MostPasses = 2 * Passes;
    private const int MostLanes = Lanes;
    private const int LargestImage = 200 * 1024 * 1024;

    private static ReadOnlySpan<byte> Mark => "AERKEPT1"u8;

    /// <summary>Derives a key for a new file; the costs are those RFC 9106 recommends second: 64 MiB, three passes, four lanes.</summary>
    public static KeptKey NewKey(string passphrase, int memoryKiB = MemoryKiB) =>
        Derive(passphrase, RandomNumberGenerator.GetBytes(SaltBytes), memoryKiB, Passes, Lanes);

    /// <summary>Writes a file; every time with another nonce.</summary>
    public static byte[] Write(byte[] image, KeptKey key)
    {
        var contents = Compress(image);
        var file = new byte[HeaderBytes + contents.Length + TagBytes];
        var header = file.AsSpan(0, HeaderBytes);
        Mark.CopyTo(header);
        key.Salt.CopyTo(header[8..]);
        BinaryPrimitives.WriteInt32BigEndian(header[24..], key.MemoryKiB);
        BinaryPrimitives.WriteInt32BigEndian(header[28..], key.Passes);
        BinaryPrimitives.WriteInt32BigEndian(header[32..], key.Lanes);
        RandomNumberGenerator.Fill(header[36..]);
        using var cipher = new AesGcm(key.Key, TagBytes);
        cipher.Encrypt(header[36..], contents, file.AsSpan(HeaderBytes, contents.Length), file.AsSpan(HeaderBytes + contents.Length), header);
        return file;
    }

    /// <summary>Reads a file with its passphrase: the image, and the key to write it again.</summary>
    /// <exception cref="PlainProblem">It is no such file, was altered, or the passphrase is another.</exception>
    public static (byte[] Image, KeptKey Key) Read(byte[] file, string passphrase)
    {
        if (file.Length < HeaderBytes + TagBytes || !file.AsSpan(0, 8).SequenceEqual(Mark))
        {
            throw PlainProblem.Refused("This is not a file of a client who keeps the data.");
        }

        var header = file.AsSpan(0, HeaderBytes);
        var (memory, passes, lanes) = (
            BinaryPrimitives.ReadInt32BigEndian(header[24..]), BinaryPrimitives.ReadInt32BigEndian(header[28..]), BinaryPrimitives.ReadInt32BigEndian(header[32..]));
        if (lanes is < 1 or > MostLanes || passes is < 1 or > MostPasses || memory < 8 * lanes || memory > MostMemoryKiB)
        {
            throw PlainProblem.Refused("The file asks for a derivation of the key that is out of reach; it is damaged, or was made by another program.");
        }

        var key = Derive(passphrase, header.Slice(8, SaltBytes).ToArray(), memory, passes, lanes);
        var contents = new byte[file.Length - HeaderBytes - TagBytes];
        using var cipher = new AesGcm(key.Key, TagBytes);
        try
        {
            cipher.Decrypt(header[36..], file.AsSpan(HeaderBytes, contents.Length), file.AsSpan(HeaderBytes + contents.Length), contents, header);
        }
        catch (AuthenticationTagMismatchException)
        {
            throw PlainProblem.Refused("The passphrase is not that of this file, or the file was altered. Check capitals and blanks, and try again.");
        }

        return (Expand(contents), key);
    }

    private static KeptKey Derive(string passphrase, byte[] salt, int memoryKiB, int passes, int lanes)
    {
        using var argon2 = new Argon2id(Encoding.UTF8.GetBytes(passphrase.Normalize(NormalizationForm.FormC)))
        {
            Salt = salt,
            MemorySize = memoryKiB,
            Iterations = passes,
            DegreeOfParallelism = lanes,
        };
        return new KeptKey(argon2.GetBytes(32), salt, memoryKiB, passes, lanes);
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
