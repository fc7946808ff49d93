using System.Buffers.Binary;
using System.Security.Cryptography;
using System.Text;
using Konscious.Security.Cryptography;

namespace Aerarium.Server.Access;

/// <summary>The key of a file under a passphrase, and how it was derived: Argon2id (RFC 9106).</summary>
/// <param name="Key">256 bits.</param>
/// <param name="Salt">Salt of the derivation.</param>
/// <param name="MemoryKiB">Memory cost.</param>
/// <param name="Passes">Passes.</param>
/// <param name="Lanes">Lanes.</param>
public sealed record PassphraseKey(byte[] Key, byte[] Salt, int MemoryKiB, int Passes, int Lanes)
{
    /// <summary>Bytes that <see cref="Describe"/> writes: salt, memory, passes, lanes.</summary>
    public const int DescriptionBytes = SaltBytes + 12;

    /// <summary>The costs that RFC 9106 recommends second: 64 MiB, three passes, four lanes.</summary>
    public const int UsualMemoryKiB = 64 * 1024;

    private const int SaltBytes = 16;
    private const int UsualPasses = 3;
    private const int UsualLanes = 4;

    /// <summary>Twice what we ask for, so that a later version may ask for more; a header cannot ask for a gigabyte.</summary>
    private const int MostMemoryKiB = 2 * UsualMemoryKiB;
    private const int MostPasses = 2 * UsualPasses;
    private const int MostLanes = UsualLanes;

    /// <summary>Derives a key for a new file.</summary>
    public static PassphraseKey New(string passphrase, int memoryKiB = UsualMemoryKiB) =>
        Derive(passphrase, RandomNumberGenerator.GetBytes(SaltBytes), memoryKiB, UsualPasses, UsualLanes);

    /// <summary>Writes how the key is derived; the numbers are big-endian.</summary>
    public void Describe(Span<byte> into)
    {
        Salt.CopyTo(into);
        BinaryPrimitives.WriteInt32BigEndian(into[SaltBytes..], MemoryKiB);
        BinaryPrimitives.WriteInt32BigEndian(into[(SaltBytes + 4)..], Passes);
        BinaryPrimitives.WriteInt32BigEndian(into[(SaltBytes + 8)..], Lanes);
    }

    /// <summary>Derives the key of a file from its description; null when that asks for more than this program does.</summary>
    public static PassphraseKey? Of(string passphrase, ReadOnlySpan<byte> description)
    {
        var (memory, passes, lanes) = (
            BinaryPrimitives.ReadInt32BigEndian(description[SaltBytes..]),
            BinaryPrimitives.ReadInt32BigEndian(description[(SaltBytes + 4)..]),
            BinaryPrimitives.ReadInt32BigEndian(description[(SaltBytes + 8)..]));
        return lanes is < 1 or > MostLanes || passes is < 1 or > MostPasses || memory < 8 * lanes || memory > MostMemoryKiB
            ? null
            : Derive(passphrase, description[..SaltBytes].ToArray(), memory, passes, lanes);
    }

    private static PassphraseKey Derive(string passphrase, byte[] salt, int memoryKiB, int passes, int lanes)
    {
        using var argon2 = new Argon2id(Encoding.UTF8.GetBytes(passphrase.Normalize(NormalizationForm.FormC)))
        {
            Salt = salt,
            MemorySize = memoryKiB,
            Iterations = passes,
            DegreeOfParallelism = lanes,
        };
        return new PassphraseKey(argon2.GetBytes(32), salt, memoryKiB, passes, lanes);
    }
}
