using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Storage;
using Microsoft.AspNetCore.DataProtection;

namespace Aerarium.Server.Practice;

/// <summary>The certificate the practice signs e-returns with: made at set-up, its key encrypted at rest.</summary>
public sealed class SigningCertificate(PracticeDatabase database, IDataProtectionProvider protection, TimeProvider clock)
{
    private const int Years = 5;
    private const int LeastKeyBits = 2048;

    private readonly IDataProtector _protector = protection.CreateProtector("signing-key");

    /// <summary>Makes a certificate for a new practice.</summary>
    public PracticeRecord Make(string name, string createdAt)
    {
        using var certificate = XmlSignature.MakeCertificate(name, "e-returns", clock.GetUtcNow().AddDays(-1), Years);
        return new PracticeRecord(name, _protector.Protect(certificate.Export(X509ContentType.Pkcs12)), certificate.RawData, createdAt);
    }

    /// <summary>Takes a certificate with its key from a PKCS#12 file (RFC 7292); from then on e-returns are signed with it. The key is never readable again.</summary>
    /// <exception cref="PlainProblem">The file or the passphrase is wrong, or the certificate cannot sign e-returns.</exception>
    public void Load(byte[] file, string? passphrase, Caller caller)
    {
        var now = clock.GetUtcNow();
        X509Certificate2 certificate;
        try
        {
            certificate = X509CertificateLoader.LoadPkcs12(file, passphrase, X509KeyStorageFlags.Exportable);
        }
        catch (CryptographicException)
        {
            throw PlainProblem.Refused("The file cannot be opened: it is no PKCS#12 file (.p12, .pfx), or the passphrase is another.");
        }

        using (certificate)
        {
            using var key = certificate.GetRSAPrivateKey();
            if (key is null || key.KeySize < LeastKeyBits)
            {
                throw PlainProblem.Refused($"The certificate has no RSA key of at least {LeastKeyBits} bits; e-returns are signed with one.");
            }

            if (certificate.NotAfter.ToUniversalTime() <= now || certificate.NotBefore.ToUniversalTime() > now)
            {
                throw PlainProblem.Refused($"The certificate is valid from {certificate.NotBefore.ToUniversalTime():d MMMM yyyy} to {certificate.NotAfter.ToUniversalTime():d MMMM yyyy}, not today.");
            }

            var kept = _protector.Protect(certificate.Export(X509ContentType.Pkcs12));
            database.Write(unit =>
            {
                using var before = X509CertificateLoader.LoadCertificate(Practices.Find(unit)!.Certificate);
                Practices.ChangeCertificate(unit, kept, certificate.RawData);
                Acts.Add(unit, caller.Act("certificate", now) with { Before = $"{before.Subject}, {before.Thumbprint}", After = $"{certificate.Subject}, {certificate.Thumbprint}" });
            });
        }
    }

    /// <summary>What is wrong with the practice's certificate on a day, in words; null when it can sign.</summary>
    public static string? GapOn(byte[] certificate, DateOnly day)
    {
        using var read = X509CertificateLoader.LoadCertificate(certificate);
        var until = DateOnly.FromDateTime(read.NotAfter.ToUniversalTime());
        return until < day ? $"The practice's signing certificate was valid until {until:d MMMM yyyy}; load a new one on the Practice page before this return is sent." : null;
    }

    /// <summary>The certificate with its key.</summary>
    public X509Certificate2 Open()
    {
        var practice = database.ReadHere(Practices.Find) ?? throw PlainProblem.Conflict("The practice has not been set up.");
        return X509CertificateLoader.LoadPkcs12(_protector.Unprotect(practice.SigningKey), null);
    }
}
