using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Aerarium.StandIn;

/// <summary>What software asks for when it sends a person to the authority (RFC 6749 section 4.1.1, RFC 7636 section 4.3).</summary>
public sealed record ConsentRequest(string ClientId, string RedirectUri, string Scope, string State, string Challenge);

/// <summary>A consent an agent gave: who, for what, and the hashes of the tokens that stand for it by now.</summary>
public sealed record Consent(string UserName, string SecretSha256, string Scope, string AccessSha256, DateTimeOffset AccessUntil, string RefreshSha256);

/// <summary>Tokens as they are handed out, once.</summary>
public sealed record Tokens(string Access, int ExpiresIn, string Refresh, string Scope);

/// <summary>
/// The authorisation server of the simulated authority: authorisation code with PKCE for public clients, S256 only; codes of one use and one minute,
/// access tokens of half an hour, refresh tokens that change with each use. Tokens are kept as hashes.
/// </summary>
public sealed class Consents
{
    private static readonly TimeSpan CodeLife = TimeSpan.FromMinutes(1);
    private static readonly TimeSpan AccessLife = TimeSpan.FromMinutes(30);

    private readonly Dictionary<string, (ConsentRequest Request, string UserName, string SecretSha256, DateTimeOffset Until)> _codes = [];
    private readonly TimeProvider _clock;
    private readonly string _file;
    private readonly IReadOnlyList<string> _registered;
    private readonly Lock _gate = new();
    private List<Consent> _given;

    /// <summary>Reads the consents given so far. Software on this machine may be sent back to, at any port; other addresses must be registered.</summary>
    public Consents(string folder, TimeProvider clock, IReadOnlyList<string> registeredRedirects)
    {
        _clock = clock;
        _registered = registeredRedirects;
        _file = Path.Combine(folder, "consents.json");
        _given = File.Exists(_file) ? JsonSerializer.Deserialize<List<Consent>>(File.ReadAllText(_file), JsonSerializerOptions.Web)! : [];
    }

    /// <summary>Whether a person may be sent back to an address: a registered one, or this machine's at any port (RFC 8252 section 7.3).</summary>
    public bool MayReturnTo(string address) =>
        _registered.Contains(address) || (Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri is { Scheme: "http", IsLoopback: true, AbsolutePath: "/practice/consent", Query: "" });

    /// <summary>A person agreed: the code that software exchanges for tokens.</summary>
    public string Agree(ConsentRequest request, string userName, string secretSha256)
    {
        var code = Random();
        lock (_gate)
        {
            _codes[code] = (request, userName, secretSha256, _clock.GetUtcNow() + CodeLife);
        }

        return code;
    }

    /// <summary>Tokens for a code; null when the code, the address or the verifier is wrong. A code works once.</summary>
    public Tokens? Exchange(string code, string redirectUri, string clientId, string verifier)
    {
        lock (_gate)
        {
            return _codes.Remove(code, out var agreed) && agreed.Until >= _clock.GetUtcNow() && agreed.Request.RedirectUri == redirectUri
                && agreed.Request.ClientId == clientId && agreed.Request.Challenge == ChallengeOf(verifier)
                    ? Issue(agreed.UserName, agreed.SecretSha256, agreed.Request.Scope)
                    : null;
        }
    }

    /// <summary>New tokens for a refresh token, which is spent; null when it stands for no consent.</summary>
    public Tokens? Refresh(string token)
    {
        lock (_gate)
        {
            if (_given.FirstOrDefault(c => c.RefreshSha256 == Hash(token)) is not { } consent)
            {
                return null;
            }

            _given = [.. _given.Where(c => c != consent)];
            return Issue(consent.UserName, consent.SecretSha256, consent.Scope);
        }
    }

    /// <summary>The consent an access token stands for, while it is valid.</summary>
    public Consent? Of(string accessToken)
    {
        lock (_gate)
        {
            return _given.FirstOrDefault(c => c.AccessSha256 == Hash(accessToken) && c.AccessUntil > _clock.GetUtcNow());
        }
    }

    /// <summary>The consents given.</summary>
    public IReadOnlyList<Consent> All
    {
        get
        {
            lock (_gate)
            {
                return [.. _given];
            }
        }
    }

    /// <summary>Takes every consent of an agent back.</summary>
    public void Revoke(string userName)
    {
        lock (_gate)
        {
            _given = [.. _given.Where(c => c.UserName != userName)];
            Keep();
        }
    }

    /// <summary>The S256 challenge of a verifier: BASE64URL(SHA256(ASCII(verifier))), RFC 7636 section 4.2.</summary>
    public static string ChallengeOf(string verifier) => Base64Url.EncodeToString(SHA256.HashData(Encoding.ASCII.GetBytes(verifier)));

    private Tokens Issue(string userName, string secretSha256, string scope)
    {
        var tokens = new Tokens(Random(), (int)AccessLife.TotalSeconds, Random(), scope);
        _given = [.. _given, new Consent(userName, secretSha256, scope, Hash(tokens.Access), _clock.GetUtcNow() + AccessLife, Hash(tokens.Refresh))];
        Keep();
        return tokens;
    }

    private void Keep() => Archive.WriteWhole(_file, JsonSerializer.SerializeToUtf8Bytes(_given, JsonSerializerOptions.Web));

    private static string Random() => Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(32));

    private static string Hash(string token) => Convert.ToHexStringLower(SHA256.HashData(Encoding.ASCII.GetBytes(token)));
}
