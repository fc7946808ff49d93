using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Aerarium.Storage;
using Konscious.Security.Cryptography;
using Microsoft.AspNetCore.Identity;

namespace Aerarium.Server.Access;

/// <summary>
/// Passwords as Argon2id (RFC 9106) in the PHC string format, with its memory cost, passes and lanes; 19 MiB and two
/// passes, unless <c>Passwords:MemoryKiB</c> says otherwise. A hash of other costs is still verified, and renewed.
/// </summary>
public sealed class Argon2Passwords(IConfiguration settings) : IPasswordHasher<PersonRecord>
{
    private const int Passes = 2;
    private const int Lanes = 1;
    private const int SaltBytes = 16;
    private const int HashBytes = 32;

    private readonly int _memory = settings.GetValue("Passwords:MemoryKiB", 19_456);

    /// <inheritdoc />
    public string HashPassword(PersonRecord user, string password)
    {
        var salt = RandomNumberGenerator.GetBytes(SaltBytes);
        return $"$argon2id$v=19${Costs(_memory, Passes, Lanes)}${Text(salt)}${Text(Hash(password, salt, _memory, Passes, Lanes, HashBytes))}";
    }

    /// <inheritdoc />
    public PasswordVerificationResult VerifyHashedPassword(PersonRecord user, string hashedPassword, string providedPassword)
    {
        var parts = hashedPassword.Split('$');
        if (providedPassword.Length == 0 || parts is not ["", "argon2id", "v=19", var costs, var saltText, var hashText])
        {
            return PasswordVerificationResult.Failed;
        }

        var numbers = costs.Split(',').Select(c => int.Parse(c[(c.IndexOf('=') + 1)..], CultureInfo.InvariantCulture)).ToArray();
        var expected = Bytes(hashText);
        var actual = Hash(providedPassword, Bytes(saltText), numbers[0], numbers[1], numbers[2], expected.Length);
        return !CryptographicOperations.FixedTimeEquals(actual, expected) ? PasswordVerificationResult.Failed
            : costs == Costs(_memory, Passes, Lanes) ? PasswordVerificationResult.Success
            : PasswordVerificationResult.SuccessRehashNeeded;
    }

    private static string Costs(int memory, int passes, int lanes) => string.Create(CultureInfo.InvariantCulture, $"m={memory},t={passes},p={lanes}");

    private static byte[] Hash(string password, byte[] salt, int memory, int passes, int lanes, int length)
    {
        using var argon2 = new Argon2id(Encoding.UTF8.GetBytes(password))
        {
            Salt = salt,
            MemorySize = memory,
            Iterations = passes,
            DegreeOfParallelism = lanes,
        };
        return argon2.GetBytes(length);
    }

    private static string Text(byte[] bytes) => Convert.ToBase64String(bytes).TrimEnd('=');

    private static byte[] Bytes(string text) => Convert.FromBase64String(text.PadRight((text.Length + 3) / 4 * 4, '='));
}
