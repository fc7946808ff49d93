using System.Buffers.Text;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using Aerarium.Filing;

namespace Aerarium.Countries.Tests;

/// <summary>Detached JSON Web Signatures: the examples of RFC 7515, appendix A.2 and A.3, and what must not pass.</summary>
public class JsonSignatureTests
{
    private static readonly byte[] Payload = Base64Url.DecodeFromChars("eyJpc3MiOiJqb2UiLA0KICJleHAiOjEzMDA4MTkzODAsDQogImh0dHA6Ly9leGFtcGxlLmNvbS9pc19yb290Ijp0cnVlfQ");

    private const string Rs256 =
        "eyJhbGciOiJSUzI1NiJ9..cC4hiUPoj9Eetdgtv3hF80EGrhuB__dzERat0XF9g2VtQgr9PJbu3XOiZj5RZmh7AAuHIm4Bh-0Qc_lF5YKt_O8W2Fp5jujGbds9uJdbF9CUAr7t1dnZcAcQjbKBYNX4"
        + "BAynRFdiuB--f_nZLgrnbyTyWzO75vRK5h6xBArLIARNPvkSjtQBMHlb1L07Qe7K0GarZRmB_eSN9383LcOLn6_dO--xi12jzDwusC-eOkHWEsqtFZESc6BfI7noOPqvhJ1phCnvWh6IeYI2w9QOYEUi"
        + "pUTI8np6LbgGY9Fs98rqVt5AXLIhWkWywlVmtVrBp0igcN_IoypGlUPQGe77Rw";

    private const string Es256 = "eyJhbGciOiJFUzI1NiJ9..DtEhU3ljbEg8L38VWAfUAqOyKAM6-Xx-F4GawxaepmXFCgfTjDxw5djxLa8ISlSApmWQxfKTUJqPP3-Kg6NU1Q";

    private static RSA RsaKey() => RSA.Create(new RSAParameters
    {
        Modulus = Base64Url.DecodeFromChars(
            "ofgWCuLjybRlzo0tZWJjNiuSfb4p4fAkd_wWJcyQoTbji9k0l8W26mPddxHmfHQp-Vaw-4qPCJrcS2mJPMEzP1Pt0Bm4d4QlL-yRT-SFd2lZS-pCgNMsD1W_YpRPEwOWvG6b32690r2jZ47soMZo9wGzjb_7OMg0"
            + "LOL-bSf63kpaSHSXndS5z5rexMdbBYUsLA9e-KXBdQOS-UTo7WTBEMa2R2CapHg665xsmtdVMTBQY4uDZlxvb3qCo5ZwKh9kG4LT6_I5IhlJH7aGhyxXFvUK-DWNmoudF8NAco9_h9iaGNj8q2ethFkMLs91kzk2"
            + "PAcDTW9gb54h4FRWyuXpoQ"),
        Exponent = Base64Url.DecodeFromChars("AQAB"),
    });

    private static ECDsa CurveKey() => ECDsa.Create(new ECParameters
    {
        Curve = ECCurve.NamedCurves.nistP256,
        Q = new ECPoint { X = Base64Url.DecodeFromChars("f83OJ3D2xF1Bg8vub9tLe1gHMzV76e8Tus9uPHvRVEU"), Y = Base64Url.DecodeFromChars("x_FEzRu9m36HLN_tue659LNpXW6pCyStikYjKIWI5a0") },
    });

    /// <summary>RFC 7515, appendix A.2 (RSA) and A.3 (P-256); from memory, and proved right by verifying.</summary>
    [Fact]
    public void The_examples_of_the_standard_verify()
    {
        using var rsa = RsaKey();
        using var curve = CurveKey();
        Assert.True(JsonSignature.Verify(Rs256, Payload, rsa));
        Assert.True(JsonSignature.Verify(Es256, Payload, curve));
        Assert.False(JsonSignature.Verify(Rs256, [.. Payload, 0x20], rsa));
        Assert.False(JsonSignature.Verify(Es256, [.. Payload, 0x20], curve));
        Assert.False(JsonSignature.Verify(Es256, Payload, rsa));
    }

    [Theory]
    [InlineData("eyJhbGciOiJub25lIn0..")]
    [InlineData("eyJhbGciOiJIUzI1NiJ9..dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk")]
    [InlineData("not a signature")]
    [InlineData("!!..!!")]
    [InlineData("e30..AA")]
    public void What_is_not_understood_does_not_pass(string signature)
    {
        using var rsa = RsaKey();
        Assert.False(JsonSignature.Verify(signature, Payload, rsa));
        Assert.Null(JsonSignature.Signer(signature, Payload));
    }

    [Fact]
    public void A_certificates_signature_says_who_signed_exactly_these_bytes()
    {
        using var certificate = XmlSignature.MakeCertificate("Authority", "receipts", new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero), 5);
        var signature = JsonSignature.Sign(Payload, certificate);
        using var signer = JsonSignature.Signer(signature, Payload);
        Assert.Equal(certificate.RawData, signer!.RawData);
        Assert.Null(JsonSignature.Signer(signature, Encoding.UTF8.GetBytes("{}")));
        var other = Base64Url.EncodeToString(Encoding.UTF8.GetBytes("""{"alg":"RS256","crit":["exp"]}"""));
        Assert.Null(JsonSignature.Signer($"{other}..{signature.Split('.')[2]}", Payload));
    }

    [Fact]
    public void A_certificate_with_a_curve_signs_too()
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        using var certificate = new CertificateRequest("CN=Authority", key, HashAlgorithmName.SHA256).CreateSelfSigned(
            new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero), new DateTimeOffset(2031, 1, 1, 0, 0, 0, TimeSpan.Zero));
        using var signer = JsonSignature.Signer(JsonSignature.Sign(Payload, certificate), Payload);
        Assert.NotNull(signer);
    }
}
