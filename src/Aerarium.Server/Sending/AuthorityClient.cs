using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using System.Text.Json.Serialization;
using Aerarium.Filing;

namespace Aerarium.Server.Sending;

/// <summary>A reason the authority gives for a rejection.</summary>
public sealed record AuthorityReason(string Code, string? Path, string Message);

/// <summary>What the authority answers about a submission.</summary>
public sealed record AuthorityAnswer(string Number, string Status, string ReceivedAt, string? AnsweredAt, string Sha256, string? Acknowledgement, IReadOnlyList<AuthorityReason>? Reasons);

/// <summary>Tokens of a consent (RFC 6749 section 5.1).</summary>
public sealed record AuthorityTokens(
    [property: JsonPropertyName("access_token"), JsonRequired] string Access,
    [property: JsonPropertyName("expires_in")] int ExpiresIn,
    [property: JsonPropertyName("refresh_token"), JsonRequired] string Refresh,
    [property: JsonPropertyName("scope")] string? Scope);

/// <summary>Bytes with the authority's signature over them.</summary>
public sealed record SignedBytes(byte[] Bytes, string Signature);

/// <summary>An answer with the bytes it came in and the authority's signature over them.</summary>
/// <param name="Answer">What it says.</param>
/// <param name="Bytes">What came.</param>
/// <param name="Signature">Detached JWS (RFC 7515).</param>
public sealed record SignedAnswer(AuthorityAnswer Answer, byte[] Bytes, string Signature)
{
    /// <summary>The header the signature stands in, of HTTP and of mail.</summary>
    public const string Header = "Authority-Signature";

    /// <summary>Reads an answer; null when it is none.</summary>
    public static SignedAnswer? Read(byte[] bytes, string? signature)
    {
        try
        {
            return signature is not null && JsonSerializer.Deserialize<AuthorityAnswer>(bytes, JsonSerializerOptions.Web) is { Status: not null } answer ? new SignedAnswer(answer, bytes, signature) : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }
}

/// <summary>The authority did not answer, or not as agreed; the sending is tried again.</summary>
public sealed class AuthorityUnavailableException(string message, Exception? cause = null) : Exception(message, cause)
{
    /// <summary>How long the authority asks to wait; null when it does not say.</summary>
    public TimeSpan? Wait { get; init; }
}

/// <summary>Talks to the authority at its published address.</summary>
public sealed class AuthorityClient(HttpClient http)
{
    /// <summary>The authority's address.</summary>
    public string Address => http.BaseAddress!.ToString();

    /// <summary>A published schema.</summary>
    public async Task<string> SchemaAsync(string path, CancellationToken cancellation) =>
        await ReadAsync(await AskAsync(() => new HttpRequestMessage(HttpMethod.Get, $"schemas/{path}"), cancellation), cancellation);

    /// <summary>What the authority says at an address, with its signature; null when there is nothing.</summary>
    /// <exception cref="AuthorityUnavailableException">The authority does not answer, or does not sign.</exception>
    public async Task<SignedBytes?> FindSignedAsync(string path, CancellationToken cancellation)
    {
        using var response = await AskAsync(() => new HttpRequestMessage(HttpMethod.Get, path), cancellation);
        return response.StatusCode == HttpStatusCode.NotFound ? null : await SignedAsync(response, cancellation);
    }

    /// <summary>Sends something and takes the signed answer.</summary>
    /// <exception cref="AuthorityUnavailableException">The authority does not answer, refuses, or does not sign.</exception>
    public async Task<SignedBytes> PostAsync(string path, HttpContent content, CancellationToken cancellation)
    {
        using var response = await AskAsync(() => new HttpRequestMessage(HttpMethod.Post, path) { Content = content }, cancellation);
        return await SignedAsync(response, cancellation);
    }

    private static async Task<SignedBytes> SignedAsync(HttpResponseMessage response, CancellationToken cancellation) =>
        !response.IsSuccessStatusCode ? throw new AuthorityUnavailableException($"The authority refused: {await ProblemAsync(response, cancellation)}")
        : response.Headers.TryGetValues(SignedAnswer.Header, out var values) ? new SignedBytes(await response.Content.ReadAsByteArrayAsync(cancellation), values.First())
        : throw new AuthorityUnavailableException("The authority's answer is unsigned.");

    /// <summary>The certificate the authority signs its answers with, DER.</summary>
    public async Task<byte[]> CertificateAsync(CancellationToken cancellation)
    {
        using var response = await AskAsync(() => new HttpRequestMessage(HttpMethod.Get, "certificate"), cancellation);
        return response.IsSuccessStatusCode
            ? await response.Content.ReadAsByteArrayAsync(cancellation)
            : throw new AuthorityUnavailableException("The authority does not publish the certificate it signs with.");
    }

    /// <summary>What the authority holds at an address, as it publishes it; null when it holds nothing there.</summary>
    /// <exception cref="AuthorityUnavailableException">The authority does not answer.</exception>
    public async Task<string?> FindAsync(string path, CancellationToken cancellation)
    {
        using var response = await AskAsync(() => new HttpRequestMessage(HttpMethod.Get, path), cancellation);
        return response.StatusCode == HttpStatusCode.NotFound ? null : await ReadAsync(response, cancellation);
    }

    /// <summary>What the authority holds about a taxpayer, as it publishes it.</summary>
    /// <exception cref="PlainProblem">The authority does not answer, or holds nothing under that identifier.</exception>
    public async Task<string> RecordAsync(string path, CancellationToken cancellation)
    {
        try
        {
            return await FindAsync(path, cancellation)
                ?? throw PlainProblem.NotFound("A record at the authority under this identifier; check the identifier. The record");
        }
        catch (AuthorityUnavailableException problem)
        {
            throw new PlainProblem(StatusCodes.Status502BadGateway, $"{problem.Message} Nothing was taken; try again later.");
        }
    }

    /// <summary>Exchanges a code or a refresh token for tokens; null when the authority does not take it (RFC 6749 section 5.2).</summary>
    /// <exception cref="AuthorityUnavailableException">The authority does not answer, or not with tokens.</exception>
    public async Task<AuthorityTokens?> TokensAsync(IReadOnlyDictionary<string, string> grant, CancellationToken cancellation)
    {
        using var response = await AskAsync(() => new HttpRequestMessage(HttpMethod.Post, "oauth/token") { Content = new FormUrlEncodedContent(grant) }, cancellation);
        if (response.StatusCode == HttpStatusCode.BadRequest)
        {
            return null;
        }

        try
        {
            return JsonSerializer.Deserialize<AuthorityTokens>(await ReadAsync(response, cancellation)) ?? throw new AuthorityUnavailableException("The authority's answer holds no tokens.");
        }
        catch (JsonException problem)
        {
            throw new AuthorityUnavailableException("The authority's answer holds no tokens.", problem);
        }
    }

    /// <summary>Signs in for the practice and registers its certificate; false when the authority does not take the sign-in.</summary>
    /// <exception cref="AuthorityUnavailableException">The authority does not answer, or does not take the certificate.</exception>
    public async Task<bool> RegisterAsync(string agentPin, string name, byte[] certificate, AuthenticationHeaderValue authorization, CancellationToken cancellation)
    {
        using var response = await AskAsync(
            () =>
            {
                var request = new HttpRequestMessage(HttpMethod.Put, $"agents/{Uri.EscapeDataString(agentPin)}")
                {
                    Content = JsonContent.Create(new { name, certificate = Convert.ToBase64String(certificate) }),
                };
                request.Headers.Authorization = authorization;
                return request;
            },
            cancellation);
        if (response.StatusCode == HttpStatusCode.Unauthorized)
        {
            return false;
        }

        if (!response.IsSuccessStatusCode)
        {
            throw new AuthorityUnavailableException($"The authority did not take the certificate: {await ProblemAsync(response, cancellation)}");
        }

        return true;
    }

    /// <summary>Submits a document, JSON with its signature beside it; the same key is the same submission.</summary>
    public async Task<SignedAnswer> SubmitAsync(string key, byte[] document, string? signature, CancellationToken cancellation) =>
        await AnswerAsync(
            await AskAsync(
                () =>
                {
                    var request = new HttpRequestMessage(HttpMethod.Post, "submissions") { Content = new ByteArrayContent(document) };
                    request.Content.Headers.ContentType = new(EReturnFormat.Of(document).MediaType);
                    if (signature is not null)
                    {
                        request.Headers.Add("Document-Signature", signature);
                    }

                    request.Headers.Add("Idempotency-Key", key);
                    return request;
                },
                cancellation),
            cancellation);

    /// <summary>Asks after a submission; null when the authority does not know the key.</summary>
    public async Task<SignedAnswer?> StatusAsync(string key, CancellationToken cancellation)
    {
        var response = await AskAsync(() => new HttpRequestMessage(HttpMethod.Get, $"submissions/{Uri.EscapeDataString(key)}"), cancellation);
        return response.StatusCode == HttpStatusCode.NotFound ? null : await AnswerAsync(response, cancellation);
    }

    private async Task<HttpResponseMessage> AskAsync(Func<HttpRequestMessage> request, CancellationToken cancellation)
    {
        try
        {
            var response = await http.SendAsync(request(), cancellation);
            if (response.StatusCode == HttpStatusCode.TooManyRequests)
            {
                throw new AuthorityUnavailableException("The authority takes no more requests just now.") { Wait = response.Headers.RetryAfter?.Delta };
            }

            return (int)response.StatusCode >= 500
                ? throw new AuthorityUnavailableException($"The authority's service is not available ({(int)response.StatusCode}).")
                : response;
        }
        catch (HttpRequestException problem)
        {
            throw new AuthorityUnavailableException("The authority cannot be reached.", problem);
        }
        catch (Exception problem) when (AuthorityLimits.Held(problem) is { } held)
        {
            throw held;
        }
        catch (TaskCanceledException problem) when (!cancellation.IsCancellationRequested)
        {
            throw new AuthorityUnavailableException("The authority did not answer in time.", problem);
        }
    }

    private static async Task<SignedAnswer> AnswerAsync(HttpResponseMessage response, CancellationToken cancellation)
    {
        using (response)
        {
            if (!response.IsSuccessStatusCode)
            {
                throw new AuthorityUnavailableException($"The authority refused the upload: {await ProblemAsync(response, cancellation)}");
            }

            try
            {
                var signature = response.Headers.TryGetValues(SignedAnswer.Header, out var values) ? values.FirstOrDefault() : null;
                return SignedAnswer.Read(await response.Content.ReadAsByteArrayAsync(cancellation), signature)
                    ?? throw new AuthorityUnavailableException("The authority's answer is unsigned, or cannot be read.");
            }
            catch (Exception problem) when (problem is HttpRequestException or IOException)
            {
                throw new AuthorityUnavailableException("The authority's answer cannot be read.", problem);
            }
        }
    }

    private static async Task<string> ReadAsync(HttpResponseMessage response, CancellationToken cancellation) =>
        response.IsSuccessStatusCode
            ? await response.Content.ReadAsStringAsync(cancellation)
            : throw new AuthorityUnavailableException($"The authority refused: {await ProblemAsync(response, cancellation)}");

    private static async Task<string> ProblemAsync(HttpResponseMessage response, CancellationToken cancellation)
    {
        var text = await response.Content.ReadAsStringAsync(cancellation);
        return text.Length > 300 ? text[..300] : text;
    }
}
