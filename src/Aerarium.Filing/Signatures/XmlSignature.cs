using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Security.Cryptography.Xml;
using System.Text;
using System.Xml;

namespace Aerarium.Filing;

/// <summary>
/// Enveloped XML signatures (W3C XML Signature, exclusive canonicalisation, RSA with SHA-256, X.509 certificate in the
/// key information), and the certificate a practice signs with.
/// </summary>
public static class XmlSignature
{
    /// <summary>A self-signed certificate for a practice.</summary>
    public static X509Certificate2 MakeCertificate(string practice, string registration, DateTimeOffset from, int years)
    {
        using var key = RSA.Create(2048);
        var name = new X500DistinguishedNameBuilder();
        name.AddCommonName(practice);
        name.AddOrganizationalUnitName(registration);
        var request = new CertificateRequest(name.Build(), key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
        request.CertificateExtensions.Add(new X509KeyUsageExtension(X509KeyUsageFlags.DigitalSignature, critical: true));
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(false, false, 0, true));
        return request.CreateSelfSigned(from, from.AddYears(years));
    }

    /// <summary>Signs a document; the signature becomes the last child of its root.</summary>
    public static byte[] Sign(byte[] xml, X509Certificate2 certificate)
    {
        var document = SchemaCheck.Read(xml);
        using var key = certificate.GetRSAPrivateKey() ?? throw new InvalidOperationException("The certificate has no private key to sign with.");
        var signed = new SignedXml(document) { SigningKey = key };
        signed.SignedInfo!.CanonicalizationMethod = SignedXml.XmlDsigExcC14NTransformUrl;
        signed.SignedInfo.SignatureMethod = SignedXml.XmlDsigRSASHA256Url;
        var reference = new Reference("") { DigestMethod = SignedXml.XmlDsigSHA256Url };
        reference.AddTransform(new XmlDsigEnvelopedSignatureTransform());
        reference.AddTransform(new XmlDsigExcC14NTransform());
        signed.AddReference(reference);
        signed.KeyInfo = new KeyInfo();
        signed.KeyInfo.AddClause(new KeyInfoX509Data(certificate));
        signed.ComputeSignature();
        document.DocumentElement!.AppendChild(document.ImportNode(signed.GetXml(), deep: true));
        return Save(document);
    }

    /// <summary>A signed document without its signature; the bytes that were signed, written in the same way.</summary>
    public static byte[] Unsigned(byte[] xml)
    {
        var document = SchemaCheck.Read(xml);
        foreach (var signature in document.GetElementsByTagName("Signature", SignedXml.XmlDsigNamespaceUrl).OfType<XmlElement>().ToList())
        {
            signature.ParentNode!.RemoveChild(signature);
        }

        return Save(document);
    }

    private static byte[] Save(XmlDocument document)
    {
        using var stream = new MemoryStream();
        using (var writer = XmlWriter.Create(stream, new XmlWriterSettings { Encoding = new UTF8Encoding(false), NewLineHandling = NewLineHandling.None }))
        {
            document.Save(writer);
        }

        return stream.ToArray();
    }

    /// <summary>
    /// The certificate a document is validly signed with as a whole, or null when there is no signature, it covers only
    /// a part, or it does not match. Whether the signer is known is for the caller to decide.
    /// </summary>
    public static X509Certificate2? Signer(XmlDocument document)
    {
        var signatures = document.GetElementsByTagName("Signature", SignedXml.XmlDsigNamespaceUrl);
        if (signatures.Count != 1 || signatures[0] is not XmlElement element || element.ParentNode != document.DocumentElement)
        {
            return null;
        }

        var signed = new SignedXml(document);
        try
        {
            signed.LoadXml(element);
            if (signed.SignedInfo!.References.Count != 1 || signed.SignedInfo.References[0] is not Reference { Uri: "" })
            {
                return null;
            }

            var certificate = signed.KeyInfo.OfType<KeyInfoX509Data>()
                .SelectMany(data => data.Certificates?.OfType<X509Certificate2>() ?? []).FirstOrDefault();
            return certificate is not null && signed.CheckSignature(certificate, verifySignatureOnly: true) ? certificate : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
