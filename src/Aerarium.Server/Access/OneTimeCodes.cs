using System.Security.Cryptography;
using Aerarium.Storage;
using Microsoft.AspNetCore.DataProtection;
using OtpNet;
using QRCoder;

namespace Aerarium.Server.Access;

/// <summary>A secret offered to an authenticator.</summary>
/// <param name="Secret">The secret in base 32, to be typed.</param>
/// <param name="Address">The same as an otpauth address.</param>
/// <param name="Picture">The address as a QR code, SVG.</param>
public sealed record CodeOffer(string Secret, string Address, string Picture);

/// <summary>Time-based one-time codes: RFC 6238 with HMAC-SHA-1, six digits, steps of thirty seconds, one step of clock drift allowed; every code is good once.</summary>
public sealed class OneTimeCodes(IDataProtectionProvider protection, [FromKeyedServices(OneTimeCodes.WallClock)] TimeProvider clock)
{
    /// <summary>Key of the clock that authenticators read, which a demonstration's day does not shift.</summary>
    public const string WallClock = "wall";

    private const int SecretBytes = 20;
    private static readonly VerificationWindow Drift = new(previous: 1, future: 1);

    private readonly IDataProtector _protector = protection.CreateProtector("one-time codes");

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

    /// <summary>Whether a person's code is right and was not used before; uses it up.</summary>
    public bool Use(Unit unit, PersonRecord person, string? typed) =>
        StepOf(_protector.Unprotect(person.CodeSecret!), typed ?? "") is { } step && People.UseCode(unit, person.Id, step);
}
