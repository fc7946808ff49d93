using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Aerarium.Filing;
using Aerarium.Server.Practice;

namespace Aerarium.Server.Tests;

/// <summary>The certificate e-returns are signed with, loaded from PKCS#12 (RFC 7292) and watched for its end.</summary>
public class CertificateTests
{
    private static readonly DateTimeOffset Today = new(2026, 6, 18, 0, 0, 0, TimeSpan.Zero);

    private static byte[] File(DateTimeOffset from, int years, string passphrase)
    {
        using var certificate = XmlSignature.MakeCertificate("Lantern Reef, signing", "bought", from, years);
        return certificate.Export(X509ContentType.Pkcs12, passphrase);
    }

    private static Task<(HttpStatusCode Status, System.Text.Json.Nodes.JsonNode? Answer)> LoadAsync(Browser person, byte[] file, string passphrase) =>
        person.SendAsync(HttpMethod.Put, "/api/practice/certificate", new { content = Convert.ToBase64String(file), passphrase });

    [Fact]
    public async Task E_returns_are_signed_with_the_certificate_that_was_loaded()
    {
        await using var practice = await Practice.StartAsync();
        var (ines, mosi) = (await practice.SignInAsync(4), await practice.SignInAsync(1));
        Assert.Equal(HttpStatusCode.NoContent, (await LoadAsync(ines, File(Today.AddYears(-1), 3, "quay"), "quay")).Status);
        var view = await ines.GetAsync("/api/practice");
        Assert.Contains("Lantern Reef, signing", view["certificateSubject"]!.GetValue<string>());
        Assert.Equal(new DateOnly(2028, 6, 18).DayNumber - new DateOnly(2026, 6, 18).DayNumber, view["certificateDaysLeft"]!.GetValue<int>());
        var id = await mosi.ReturnOfAsync("Zuri", 2025);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/build");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted", "rejected"));
        using var signer = XmlSignature.Signer(SchemaCheck.Read(await mosi.Http.GetByteArrayAsync($"/api/returns/{id}/sending/e-return")));
        Assert.Contains("Lantern Reef, signing", signer!.Subject);
        Assert.Contains((await ines.GetAsync("/api/acts")).AsArray(), a => a!["kind"]!.GetValue<string>() == "certificate" && !a.ToJsonString().Contains("quay", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_file_that_cannot_sign_is_refused_with_the_reason()
    {
        await using var practice = await Practice.StartAsync();
        var ines = await practice.SignInAsync(4);
        using var curve = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        using var withCurve = new CertificateRequest("CN=Curve", curve, HashAlgorithmName.SHA256).CreateSelfSigned(Today.AddYears(-1), Today.AddYears(1));
        foreach (var (file, passphrase, said) in new[]
        {
            (File(Today.AddYears(-1), 3, "quay"), "pier", "passphrase is another"),
            (new byte[] { 1, 2, 3 }, "", "no PKCS#12 file"),
            (File(Today.AddYears(-4), 3, "quay"), "quay", "not today"),
            (File(Today.AddYears(1), 3, "quay"), "quay", "not today"),
            (withCurve.Export(X509ContentType.Pkcs12, "quay"), "quay", "no RSA key"),
        })
        {
            var (status, answer) = await LoadAsync(ines, file, passphrase);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
            Assert.Contains(said, answer!["detail"]!.GetValue<string>());
        }
    }

    [Theory]
    [InlineData(2027, false)]
    [InlineData(2025, true)]
    public void A_certificate_that_has_ended_blocks_returns(int until, bool gap)
    {
        using var certificate = XmlSignature.MakeCertificate("Practice", "e-returns", new DateTimeOffset(until - 5, 6, 18, 0, 0, 0, TimeSpan.Zero), 5);
        Assert.Equal(gap, SigningCertificate.GapOn(certificate.RawData, new DateOnly(2026, 6, 18)) is not null);
    }
}
