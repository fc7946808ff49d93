using System.Security.Cryptography.X509Certificates;
using Aerarium.Filing;
using Aerarium.Storage;
using Microsoft.AspNetCore.DataProtection;

namespace Aerarium.Server.Practice;

/// <summary>The certificate the practice signs e-returns with: made at set-up, its key encrypted at rest.</summary>
public sealed class SigningCertificate(PracticeDatabase database, IDataProtectionProvider protection, TimeProvider clock)
{
    private const int Years = 5;

    private readonly IDataProtector _protector = protection.CreateProtector("signing-key");

    /// <summary>Makes a certificate for a new practice.</summary>
    public PracticeRecord Make(string name, string createdAt)
    {
        using var certificate = XmlSignature.MakeCertificate(name, "e-returns", clock.GetUtcNow().AddDays(-1), Years);
        return new PracticeRecord(name, _protector.Protect(certificate.Export(X509ContentType.Pkcs12)), certificate.RawData, createdAt);
    }

    /// <summary>The certificate with its key.</summary>
    public X509Certificate2 Open()
    {
        var practice = database.Read(Practices.Find) ?? throw PlainProblem.Conflict("The practice has not been set up.");
        return X509CertificateLoader.LoadPkcs12(_protector.Unprotect(practice.SigningKey), null);
    }
}
