using System.Buffers.Text;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using System.Text.Json;

namespace Aerarium.Filing;

/// <summary>
/// Detached JSON Web Signatures (RFC 7515, compact form of section 7.1 with the payload left out, as in appendix F), by RS256 or ES256
/// (RFC 7518), the signer's certificate in the header (x5c).
/// </summary>
public static class JsonSignature
{
    private const string Rs256 = "RS256";
    private const string Es256 = "ES256";

    /// <summary>Signs bytes; the signature holds the certificate and not the bytes.</summary>
    /// <exception cref="InvalidOperationException">The certificate has no RSA or P-256 key to sign with.</exception>
    public static string Sign(byte[] payload, X509Certificate2 certificate)
    {
        using var rsa = certificate.GetRSAPrivateKey();
        using var curve = rsa is null ? certificate.GetECDsaPrivateKey() : null;
        var algorithm = rsa is not null ? Rs256 : curve is not null ? Es256 : throw new InvalidOperationException("The certificate has no private key to sign with.");
        var header = Base64Url.EncodeToString(JsonSerializer.SerializeToUtf8Bytes(new { alg = algorithm, x5c = new[] { Convert.ToBase64String(certificate.RawData) } }));
        var input = Input(header, payload);
        var signature = rsa is not null
            ? rsa.SignData(input, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1)
            : curve!.SignData(input, HashAlgorithmName.SHA256, DSASignatureFormat.IeeeP1363FixedFieldConcatenation);
        return $"{header}..{Base64Url.EncodeToString(signature)}";
    }

    /// <summary>
    /// The certificate that signed some bytes, or null when the signature is not of these bytes, or not one that is understood.
    /// Whether the signer is known is for the caller to decide.
    /// </summary>
    public static X509Certificate2? Signer(string signature, byte[] payload)
    {
        if (Parts(signature) is not { } parts || parts.Header.Certificate is not { } certificate)
        {
            return null;
        }

        using var rsa = certificate.GetRSAPublicKey();
        using var curve = rsa is null ? certificate.GetECDsaPublicKey() : null;
        return Verify(signature, payload, (AsymmetricAlgorithm?)rsa ?? curve) ? certificate : null;
    }

    /// <summary>Whether a detached signature over some bytes was made with a key.</summary>
    public static bool Verify(string signature, byte[] payload, AsymmetricAlgorithm? key)
    {
        if (Parts(signature) is not { } parts)
        {
            return false;
        }

        var input = Input(parts.Encoded, payload);
        return (parts.Header.Algorithm, key) switch
        {
            (Rs256, RSA rsa) => rsa.VerifyData(input, parts.Signature, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1),
            (Es256, ECDsa curve) => curve.VerifyData(input, parts.Signature, HashAlgorithmName.SHA256, DSASignatureFormat.IeeeP1363FixedFieldConcatenation),
            _ => false,
        };
    }

    private static byte[] Input(string header, byte[] payload) => Encoding.ASCII.GetBytes($"{header}.{Base64Url.EncodeToString(payload)}");

    private static (string Encoded, Header Header, byte[] Signature)? Parts(string signature)
    {
        if (signature.Split('.') is not [var header, "", var signed])
        {
            return null;
        }

        try
        {
            using var read = JsonDocument.Parse(Base64Url.DecodeFromChars(header));
            var algorithm = read.RootElement.GetProperty("alg").GetString() ?? "";
            var certificate = read.RootElement.TryGetProperty("x5c", out var chain) && chain.GetArrayLength() > 0
                ? X509CertificateLoader.LoadCertificate(Convert.FromBase64String(chain[0].GetString() ?? ""))
                : null;

            // What is critical and not understood makes a signature invalid (RFC 7515 s. 4.1.11); nothing critical is understood here.
            return read.RootElement.TryGetProperty("crit", out _) ? null : (header, new Header(algorithm, certificate), Base64Url.DecodeFromChars(signed));
        }
        catch (Exception problem) when (problem is FormatException or JsonException or KeyNotFoundException or InvalidOperationException or CryptographicException)
        {
            return null;
        }
    }

    private sealed record Header(string Algorithm, X509Certificate2? Certificate);
}
