using System.Buffers.Binary;
using System.Security.Cryptography;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>
/// Encrypts backups under a passphrase: AES-256-GCM (NIST SP 800-38D) in segments of 64 KiB, chained by the STREAM construction (Hoang, Reyhanitabar,
/// Rogaway, Vizár, CRYPTO 2015), so that a file of any size is written and read piece by piece, and none of its pieces can be left out, moved or
/// added. docs/file-formats.md has the layout.
/// </summary>
public sealed class BackupSeal(string passphrase, int memoryKiB = PassphraseKey.UsualMemoryKiB) : IBackupSeal
{
    private const int SegmentBytes = 64 * 1024;
    private const int TagBytes = 16;
    private const int NonceBytes = 12;
    private const int PrefixBytes = 7;
    private const int ShortestPassphrase = 12;

    private static readonly int HeaderBytes = Mark.Length + PassphraseKey.DescriptionBytes + PrefixBytes;

    private static ReadOnlySpan<byte> Mark => "AERBACK1"u8;

    /// <summary>The seal of a file that holds a passphrase; null when no file is named.</summary>
    /// <exception cref="InvalidDataException">The file holds no good passphrase.</exception>
    public static BackupSeal? OfFile(string? file)
    {
        if (string.IsNullOrWhiteSpace(file))
        {
            return null;
        }

        var passphrase = File.ReadAllText(file).Trim();
        return passphrase.Length >= ShortestPassphrase
            ? new BackupSeal(passphrase)
            : throw new InvalidDataException($"'{file}' has to hold a passphrase of at least {ShortestPassphrase} characters.");
    }

    /// <inheritdoc />
    public void Seal(Stream plain, Stream into)
    {
        var key = PassphraseKey.New(passphrase, memoryKiB);
        var header = new byte[HeaderBytes];
        Mark.CopyTo(header);
        key.Describe(header.AsSpan(Mark.Length));
        RandomNumberGenerator.Fill(header.AsSpan(HeaderBytes - PrefixBytes));
        into.Write(header);
        using var cipher = new AesGcm(key.Key, TagBytes);
        var (segment, contents) = (new byte[SegmentBytes], new byte[SegmentBytes + TagBytes]);
        var length = plain.ReadAtLeast(segment, SegmentBytes, throwOnEndOfStream: false);
        for (uint number = 0; ; number++)
        {
            var last = length < SegmentBytes;
            cipher.Encrypt(Nonce(header, number, last), segment.AsSpan(0, length), contents.AsSpan(0, length), contents.AsSpan(length, TagBytes), header);
            into.Write(contents.AsSpan(0, length + TagBytes));
            if (last)
            {
                return;
            }

            length = plain.ReadAtLeast(segment, SegmentBytes, throwOnEndOfStream: false);
        }
    }

    /// <inheritdoc />
    public void Open(Stream from, Stream into)
    {
        var header = new byte[HeaderBytes];
        if (from.ReadAtLeast(header, HeaderBytes, throwOnEndOfStream: false) < HeaderBytes || !header.AsSpan(0, Mark.Length).SequenceEqual(Mark))
        {
            throw new InvalidDataException("This is not an encrypted backup.");
        }

        var key = PassphraseKey.Of(passphrase, header.AsSpan(Mark.Length)) ?? throw new InvalidDataException("The backup asks for more memory or time to open than any backup made here; it is damaged, or was made by another program.");
        using var cipher = new AesGcm(key.Key, TagBytes);
        var (contents, segment) = (new byte[SegmentBytes + TagBytes], new byte[SegmentBytes]);
        for (uint number = 0; ; number++)
        {
            var length = from.ReadAtLeast(contents, contents.Length, throwOnEndOfStream: false) - TagBytes;
            if (length < 0)
            {
                throw Altered(null);
            }

            var last = length < SegmentBytes;
            try
            {
                cipher.Decrypt(Nonce(header, number, last), contents.AsSpan(0, length), contents.AsSpan(length, TagBytes), segment.AsSpan(0, length), header);
            }
            catch (CryptographicException problem)
            {
                throw Altered(problem);
            }

            into.Write(segment.AsSpan(0, length));
            if (last)
            {
                return;
            }
        }
    }

    /// <inheritdoc />
    public bool IsSealed(ReadOnlySpan<byte> beginning) => beginning.StartsWith(Mark);

    private static InvalidDataException Altered(Exception? problem) => new("The passphrase is not that of this backup, or the file was altered or cut short.", problem);

    /// <summary>The nonce of a segment: the file's own prefix, the segment's number, and whether it is the last.</summary>
    private static byte[] Nonce(byte[] header, uint number, bool last)
    {
        var nonce = new byte[NonceBytes];
        header.AsSpan(HeaderBytes - PrefixBytes).CopyTo(nonce);
        BinaryPrimitives.WriteUInt32BigEndian(nonce.AsSpan(PrefixBytes), number);
        nonce[^1] = last ? (byte)1 : (byte)0;
        return nonce;
    }
}
