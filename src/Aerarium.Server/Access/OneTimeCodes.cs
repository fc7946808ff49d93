using System.Security.Cryptography;
using Aerarium.Storage;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Extensions.Caching.Memory;
using OtpNet;
using QRCoder;

namespace Aerarium.Server.Access;

/// <summary>A secret offered to an authenticator.</summary>
/// <param name="Secret">The secret in base 32, to be typed.</param>
/// <param name="Address">The same as an otpauth address.</param>
/// <param name="Picture">The address as a QR code, SVG.</param>
public sealed record CodeOffer(string Secret, string Address, string Picture);

/// <summary>Time-based one-time codes: RFC 6238 with HMAC-SHA-1, six digits, steps of thirty seconds, one step of clock drift allowed; every code is good once.</summary>
public sealed class OneTimeCodes(IDataProtectionProvider protection, [FromKeyedServices(OneTimeCodes.WallClock)] TimeProvider clock) : IDisposable
{
    /// <summary>Key of the clock that authenticators read, which a demonstration's day does not shift.</summary>
    public const string WallClock = "wall";

    private const int SecretBytes = 20;
    private const int RecoveryCodeCount = 10;
    private const int RecoveryCodeBytes = 10;
    private const int RecoveryCodeBlock = 4;
    private static readonly TimeSpan OfferedFor = TimeSpan.FromMinutes(10);
    private static readonly VerificationWindow Drift = new(previous: 1, future: 1);

    private readonly MemoryCache _offered = new(new MemoryCacheOptions());
    private readonly IDataProtector _protector = protection.CreateProtector("one-time codes");

    /// <summary>A new secret for a person, kept for ten minutes until a code made with it turns codes on.</summary>
    public CodeOffer Offer(long personId, string email)
    {
        var offer = Offer(email);
        _offered.Set(personId, offer.Secret, OfferedFor);
        return offer;
    }

    /// <summary>The secret offered to a person last; null when none was, or too long ago.</summary>
    public string? Offered(long personId) => _offered.Get<string>(personId);

    /// <summary>Ten codes of 80 bits that stand in for an authenticator that was lost.</summary>
    public static IReadOnlyList<string> NewRecoveryCodes() =>
    [
        .. Enumerable.Range(0, RecoveryCodeCount).Select(_ =>
            string.Join('-', Base32Encoding.ToString(RandomNumberGenerator.GetBytes(RecoveryCodeBytes)).ToLowerInvariant().Chunk(RecoveryCodeBlock).Select(c => new string(c)))),
    ];

    /// <summary>A recovery code as it is compared: without dashes and blanks, in small letters.</summary>
    public static string PlainRecoveryCode(string typed) => string.Concat(typed.Where(char.IsAsciiLetterOrDigit)).ToLowerInvariant();

    /// <summary>A new secret for an account.</summary>
    public static CodeOffer Offer(string email)
    {
        var secret = Base32Encoding.ToString(RandomNumberGenerator.GetBytes(SecretBytes)).TrimEnd('=');
        var address = $"otpauth://totp/Aerarium:{Uri.EscapeDataString(email)}?secret={secret}&issuer=Aerarium";
        using var data = QRCodeGenerator.GenerateQrCode(address, QRCodeGenerator.ECCLevel.M);
        using var picture = new SvgQRCode(data);
        return new CodeOffer(secret, address, picture.GetGraphic(4, "#22282B", "#FFFFFF", sizingMode: SvgQRCode.SizingMode.ViewBoxAttribute));
    }

    /// <summary>A secret as it is stored.</summary>
    public string Protect(string secret) => _protector.Protect(secret);

    /// <summary>The time step of a code that is right at this moment, or null.</summary>
    public long? StepOf(string secret, string typed) =>
        new Totp(Base32Encoding.ToBytes(secret)).VerifyTotp(clock.GetUtcNow().UtcDateTime, typed.Replace(" ", "", StringComparison.Ordinal), out var step, Drift)
            ? step
            : null;

    /// <summary>Whether a person's code, or recovery code, is right and was not used before; uses it up.</summary>
    public bool Use(Unit unit, PersonRecord person, string typed, DateTimeOffset now)
    {
        if (StepOf(_protector.Unprotect(person.CodeSecret!), typed) is { } step)
        {
            return People.UseCode(unit, person.Id, step);
        }

        if (!RecoveryCodes.Use(unit, person.Id, PlainRecoveryCode(typed), Moments.Text(now)))
        {
            return false;
        }

        Acts.Add(unit, new Caller(person.Id, person.Name, person.RoleList).Act("codes", now) with { After = "a recovery code was used" });
        return true;
    }

    /// <inheritdoc />
    public void Dispose() => _offered.Dispose();
}
