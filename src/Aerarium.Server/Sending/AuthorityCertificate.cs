using System.Security.Cryptography;
using Aerarium.Filing;
using Aerarium.Server.Practice;

namespace Aerarium.Server.Sending;

/// <summary>
/// The certificate the authority signs its answers with: taken from its published address the first time and kept in the data folder.
/// An answer signed by anybody else is none.
/// </summary>
public sealed class AuthorityCertificate(AuthorityClient authority, DataFolder data)
{
    private readonly SemaphoreSlim _gate = new(1);

    /// <summary>The file it is kept in; who has learned of a new certificate from the authority itself removes it.</summary>
    private string Kept => Path.Combine(data.Path, "authority.cer");

    /// <summary>Requires that an answer was signed by the authority, and that it is about the document that was sent.</summary>
    /// <exception cref="AuthorityUnavailableException">It was not; the message says which.</exception>
    public async Task RequireGenuineAsync(SignedAnswer answer, string documentSha256, CancellationToken cancellation)
    {
        await RequireSignedAsync(answer.Bytes, answer.Signature, cancellation);
        if (answer.Answer.Sha256 != documentSha256)
        {
            throw new AuthorityUnavailableException("An answer came that is about another document; it was not taken, and is asked for again.");
        }
    }

    /// <summary>Requires that the authority signed some bytes.</summary>
    /// <exception cref="AuthorityUnavailableException">It did not.</exception>
    public async Task RequireSignedAsync(byte[] bytes, string signature, CancellationToken cancellation)
    {
        var known = await KnownAsync(cancellation);
        using var signer = JsonSignature.Signer(signature, bytes);
        if (signer is null || !CryptographicOperations.FixedTimeEquals(signer.RawData, known))
        {
            throw new AuthorityUnavailableException("An answer came that the authority did not sign; it was not taken, and is asked for again.");
        }
    }

    private async Task<byte[]> KnownAsync(CancellationToken cancellation)
    {
        await _gate.WaitAsync(cancellation);
        try
        {
            if (File.Exists(Kept))
            {
                return await File.ReadAllBytesAsync(Kept, cancellation);
            }

            var published = await authority.CertificateAsync(cancellation);
            await File.WriteAllBytesAsync(Kept + ".part", published, cancellation);
            File.Move(Kept + ".part", Kept, overwrite: true);
            return published;
        }
        finally
        {
            _gate.Release();
        }
    }
}
