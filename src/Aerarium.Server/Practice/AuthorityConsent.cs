using System.Buffers.Text;
using System.Collections.Concurrent;
using System.Globalization;
using System.Net.Http.Headers;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.WebUtilities;

namespace Aerarium.Server.Practice;

/// <summary>Where the person is sent to agree.</summary>
public sealed record ConsentBegun(string Address);

/// <summary>What the authority sent the person back with.</summary>
public sealed record ConsentAnswer(string? State, string? Code, string? Error);

/// <summary>The consent that came of it.</summary>
public sealed record ConsentGiven(string Country, string Authority);

/// <summary>
/// The practice's consent at an authority, by OAuth 2.0 authorisation code with PKCE (RFC 6749 section 4.1, RFC 7636, S256): a named person agrees at
/// the authority, the practice keeps tokens, protected, and no secret. Tokens are renewed by themselves; a consent taken back at the authority is told.
/// Where there is no consent, the practice's user name and secret are used (RFC 7617).
/// </summary>
public sealed class AuthorityConsent(
    PracticeDatabase database, IDataProtectionProvider protection, AuthorityClient authority, AuthorityCredentials credentials, Workbench workbench, TimeProvider clock)
{
    private const string ClientId = "Aerarium";
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan RenewBefore = TimeSpan.FromMinutes(1);

    private readonly IDataProtector _protector = protection.CreateProtector("authority-consent");
    private readonly ConcurrentDictionary<string, Begun> _begun = [];
    private readonly SemaphoreSlim _one = new(1, 1);

    /// <summary>Begins: the address at the authority where the person agrees, and then comes back to <paramref name="returnTo"/>.</summary>
    public ConsentBegun Begin(string code, string returnTo, Caller caller)
    {
        var country = CountryOf(code);
        var now = clock.GetUtcNow();
        foreach (var (state, begun) in _begun.Where(b => b.Value.At + Patience < now))
        {
            _begun.TryRemove(state, out _);
        }

        var (stateOfThis, verifier) = (Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(24)), Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(32)));
        _begun[stateOfThis] = new Begun(country.Code, verifier, returnTo, caller.Id, now);
        return new ConsentBegun(QueryHelpers.AddQueryString($"{authority.Address}oauth/authorize", new Dictionary<string, string?>
        {
            ["response_type"] = "code",
            ["client_id"] = ClientId,
            ["redirect_uri"] = returnTo,
            ["scope"] = ScopeOf(country.Code),
            ["state"] = stateOfThis,
            ["code_challenge"] = ChallengeOf(verifier),
            ["code_challenge_method"] = "S256",
        }));
    }

    /// <summary>Finishes: exchanges the code, keeps the tokens, and forgets the secret the practice had with this authority.</summary>
    /// <exception cref="PlainProblem">The person refused, did not begin this, took too long, or the authority takes the code no more.</exception>
    public async Task<ConsentGiven> FinishAsync(ConsentAnswer answer, Caller caller, CancellationToken cancellation)
    {
        if (answer.State is null || !_begun.TryRemove(answer.State, out var begun) || begun.PersonId != caller.Id || begun.At + Patience < clock.GetUtcNow())
        {
            throw PlainProblem.Conflict("This consent was not begun here, or more than ten minutes ago. Begin again on the Practice page.");
        }

        if (answer.Code is null)
        {
            throw PlainProblem.Conflict(answer.Error == "access_denied"
                ? "The consent was refused at the authority; nothing was changed."
                : $"The authority gave no consent ({answer.Error ?? "without a reason"}). Begin again on the Practice page.");
        }

        AuthorityTokens? tokens;
        try
        {
            tokens = await authority.TokensAsync(
                new Dictionary<string, string>
                {
                    ["grant_type"] = "authorization_code",
                    ["code"] = answer.Code,
                    ["redirect_uri"] = begun.ReturnTo,
                    ["client_id"] = ClientId,
                    ["code_verifier"] = begun.Verifier,
                },
                cancellation);
        }
        catch (AuthorityUnavailableException problem)
        {
            throw new PlainProblem(StatusCodes.Status502BadGateway, $"{problem.Message} Begin again on the Practice page.");
        }

        if (tokens is null)
        {
            throw PlainProblem.Conflict("The authority does not take the code any more. Begin again on the Practice page.");
        }

        if (tokens.Scope != ScopeOf(begun.Country))
        {
            throw PlainProblem.Conflict($"The authority's consent is for '{tokens.Scope ?? "nothing named"}', and '{ScopeOf(begun.Country)}' was asked. It was not kept; begin again, and allow what is asked.");
        }

        database.Write(unit =>
        {
            AuthorityConsents.Put(unit, Record(begun.Country, tokens, caller.Name, Moments.Text(clock.GetUtcNow())));
            PracticeParticulars.RemoveCredential(unit, begun.Country);
            Acts.Add(unit, caller.Act("consent", clock.GetUtcNow()) with { Line = begun.Country, After = $"given, {tokens.Scope}" });
        });
        workbench.ForgetAll();
        return new ConsentGiven(begun.Country, authority.Address);
    }

    /// <summary>Gives the tokens of a country up; the authority is told by its own page.</summary>
    public void Withdraw(string code, Caller caller)
    {
        var country = CountryOf(code).Code;
        database.Write(unit =>
        {
            if (!AuthorityConsents.Remove(unit, country))
            {
                throw PlainProblem.NotFound("A consent at this authority");
            }

            Acts.Add(unit, caller.Act("consent", clock.GetUtcNow()) with { Line = country, Before = "given", After = "withdrawn" });
        });
        workbench.ForgetAll();
    }

    /// <summary>What a request to a country's authority carries.</summary>
    /// <exception cref="AuthorityUnavailableException">There is neither consent nor credential, or the authority renews the consent no more.</exception>
    public async Task<AuthenticationHeaderValue> AuthorizationAsync(string country, CancellationToken cancellation)
    {
        // The practice's own tokens, also where the work is on a file that a client keeps.
        using var own = PracticeDatabase.WorkIn(database);
        await _one.WaitAsync(cancellation);
        try
        {
            if (database.Read(unit => AuthorityConsents.Find(unit, country)) is { } consent)
            {
                return new AuthenticationHeaderValue("Bearer", await AccessAsync(consent, cancellation));
            }
        }
        finally
        {
            _one.Release();
        }

        return credentials.Find(country) is { } credential
            ? new AuthenticationHeaderValue("Basic", Convert.ToBase64String(Encoding.UTF8.GetBytes($"{credential.UserName}:{credential.Secret}")))
            : throw new AuthorityUnavailableException("The practice has neither consent nor credentials with the authority. Connect it on the Practice page; the sending goes on by itself.");
    }

    /// <summary>The authority did not take what a request carried: a consent is tried to be renewed before the next one.</summary>
    public void Refused(string country)
    {
        using var own = PracticeDatabase.WorkIn(database);
        database.Write(unit =>
        {
            if (AuthorityConsents.Find(unit, country) is { } consent)
            {
                AuthorityConsents.Put(unit, consent with { AccessUntil = Moments.Text(clock.GetUtcNow()) });
            }
        });
    }

    /// <summary>The S256 challenge of a verifier: BASE64URL(SHA256(ASCII(verifier))), RFC 7636 section 4.2.</summary>
    public static string ChallengeOf(string verifier) => Base64Url.EncodeToString(SHA256.HashData(Encoding.ASCII.GetBytes(verifier)));

    private async Task<string> AccessAsync(AuthorityConsentRecord consent, CancellationToken cancellation)
    {
        if (DateTimeOffset.Parse(consent.AccessUntil, CultureInfo.InvariantCulture) - RenewBefore > clock.GetUtcNow())
        {
            return Open(consent.Access);
        }

        var tokens = await authority.TokensAsync(
            new Dictionary<string, string> { ["grant_type"] = "refresh_token", ["refresh_token"] = Open(consent.Refresh), ["client_id"] = ClientId }, cancellation);
        if (tokens is null || (tokens.Scope is not null && tokens.Scope != ScopeOf(consent.Country)))
        {
            database.Write(unit =>
            {
                AuthorityConsents.Remove(unit, consent.Country);
                Acts.Add(unit, new ActRecord { At = Moments.Text(clock.GetUtcNow()), PersonName = "authority", Kind = "consent", Line = consent.Country, Before = "given", After = "taken back at the authority" });
            });
            workbench.ForgetAll();
            throw new AuthorityUnavailableException("The consent was taken back at the authority. Connect again on the Practice page; the sending goes on by itself.");
        }

        database.Write(unit => AuthorityConsents.Put(unit, Record(consent.Country, tokens, consent.GivenBy, consent.GivenAt)));
        return tokens.Access;
    }

    private AuthorityConsentRecord Record(string country, AuthorityTokens tokens, string givenBy, string givenAt) => new(
        country, Protect(tokens.Access), Moments.Text(clock.GetUtcNow() + TimeSpan.FromSeconds(tokens.ExpiresIn)), Protect(tokens.Refresh), givenBy, givenAt);

    /// <summary>What is asked of the authority: to file in a country, and nothing else (RFC 6749, section 3.3).</summary>
    private static string ScopeOf(string country) => $"file:{country}";

    private byte[] Protect(string token) => _protector.Protect(Encoding.UTF8.GetBytes(token));

    private string Open(byte[] token) => Encoding.UTF8.GetString(_protector.Unprotect(token));

    private static Country CountryOf(string code) => Catalogue.Countries.GetValueOrDefault(code) ?? throw PlainProblem.NotFound("This country");

    private sealed record Begun(string Country, string Verifier, string ReturnTo, long PersonId, DateTimeOffset At);
}

internal static class ConsentEndpoints
{
    public static void MapConsent(this RouteGroupBuilder api)
    {
        var consent = api.MapGroup("/practice/consent").ReachesPractice().WithTags("Practice").RequireAuthorization(Policies.Manage);
        consent.MapPost("/{country}/begin", (string country, HttpRequest request, ClaimsPrincipal user, AuthorityConsent consents) =>
            consents.Begin(country, $"{request.Scheme}://{request.Host}/practice/consent", Caller.Of(user)));
        consent.MapPost("/finish", (ConsentAnswer answer, ClaimsPrincipal user, AuthorityConsent consents, CancellationToken cancellation) =>
            consents.FinishAsync(answer, Caller.Of(user), cancellation));
        consent.MapDelete("/{country}", (string country, ClaimsPrincipal user, AuthorityConsent consents) => consents.Withdraw(country, Caller.Of(user)));
    }
}
