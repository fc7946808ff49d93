using System.Security.Cryptography.X509Certificates;
using Aerarium.Filing;

namespace Aerarium.StandIn;

/// <summary>The authority's own certificate, published, and its signature on everything it answers: detached JWS (RFC 7515).</summary>
public sealed class AuthoritySeal
{
    /// <summary>The header an answer's signature stands in, of HTTP and of mail.</summary>
    public const string Header = "Authority-Signature";

    private const int Years = 20;
    private readonly X509Certificate2 _certificate;

    /// <summary>Opens the certificate kept in a folder; makes one the first time.</summary>
    public AuthoritySeal(string folder, TimeProvider clock)
    {
        Directory.CreateDirectory(folder);
        var path = Path.Combine(folder, "authority.p12");
        if (!File.Exists(path))
        {
            using var made = XmlSignature.MakeCertificate("Simulated authority", "receipts", clock.GetUtcNow().AddDays(-1), Years);
            Archive.WriteWhole(path, made.Export(X509ContentType.Pkcs12));
        }

        _certificate = X509CertificateLoader.LoadPkcs12FromFile(path, null);
    }

    /// <summary>The certificate, DER.</summary>
    public byte[] Certificate => _certificate.RawData;

    /// <summary>The signature of an answer.</summary>
    public string Sign(byte[] answer) => JsonSignature.Sign(answer, _certificate);
}
