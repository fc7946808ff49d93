namespace Aerarium.Storage;

/// <summary>What a practice signs in with at an authority; the secret protected.</summary>
public sealed record CredentialRecord(string Country, string UserName, byte[] Secret, string ChangedAt);

/// <summary>Particulars of the practice by country, and its credentials with the authorities.</summary>
public static class PracticeParticulars
{
    /// <summary>Of a country, by name; blank ones are not there.</summary>
    public static IReadOnlyDictionary<string, string> Of(Unit unit, string country) =>
        unit.Query<(string Name, string Value)>("SELECT name, value FROM practice_particular WHERE country = @country", new { country })
            .ToDictionary(p => p.Name, p => p.Value);

    /// <summary>Keeps a particular, or takes it away when it is blank.</summary>
    public static void Put(Unit unit, string country, string name, string? value) =>
        unit.Execute(
            value is null
                ? "DELETE FROM practice_particular WHERE country = @country AND name = @name"
                : """
                  INSERT INTO practice_particular (country, name, value) VALUES (@country, @name, @value)
                  ON CONFLICT (country, name) DO UPDATE SET value = excluded.value
                  """,
            new { country, name, value });

    /// <summary>The credential with a country's authority, or null.</summary>
    public static CredentialRecord? Credential(Unit unit, string country) =>
        unit.Single<CredentialRecord>("SELECT country, user_name, secret, changed_at FROM practice_credential WHERE country = @country", new { country });

    /// <summary>Forgets a credential.</summary>
    public static void RemoveCredential(Unit unit, string country) => unit.Execute("DELETE FROM practice_credential WHERE country = @country", new { country });

    /// <summary>Whether a practice can act at a country's authority: by a consent or a credential.</summary>
    public static bool CanActAt(Unit unit, string country) => AuthorityConsents.Find(unit, country) is not null || Credential(unit, country) is not null;

    /// <summary>Keeps a credential, replacing the one before.</summary>
    public static void PutCredential(Unit unit, CredentialRecord credential) =>
        unit.Execute(
            """
            INSERT INTO practice_credential (country, user_name, secret, changed_at) VALUES (@Country, @UserName, @Secret, @ChangedAt)
            ON CONFLICT (country) DO UPDATE SET user_name = excluded.user_name, secret = excluded.secret, changed_at = excluded.changed_at
            """,
            credential);
}

/// <summary>A consent the practice gave at an authority; the tokens protected.</summary>
/// <param name="Country">Country of the authority.</param>
/// <param name="Access">The access token.</param>
/// <param name="AccessUntil">Until when it is good.</param>
/// <param name="Refresh">The token it is renewed with.</param>
/// <param name="GivenBy">Who agreed.</param>
/// <param name="GivenAt">When.</param>
public sealed record AuthorityConsentRecord(string Country, byte[] Access, string AccessUntil, byte[] Refresh, string GivenBy, string GivenAt);

/// <summary>Consents at authorities, one for a country.</summary>
public static class AuthorityConsents
{
    /// <summary>Of a country, or null.</summary>
    public static AuthorityConsentRecord? Find(Unit unit, string country) =>
        unit.Single<AuthorityConsentRecord>("SELECT country, access, access_until, refresh, given_by, given_at FROM practice_consent WHERE country = @country", new { country });

    /// <summary>Of every country.</summary>
    public static IReadOnlyList<AuthorityConsentRecord> All(Unit unit) =>
        [.. unit.Query<AuthorityConsentRecord>("SELECT country, access, access_until, refresh, given_by, given_at FROM practice_consent ORDER BY country")];

    /// <summary>Keeps a consent, replacing the one before.</summary>
    public static void Put(Unit unit, AuthorityConsentRecord consent) =>
        unit.Execute(
            """
            INSERT INTO practice_consent (country, access, access_until, refresh, given_by, given_at) VALUES (@Country, @Access, @AccessUntil, @Refresh, @GivenBy, @GivenAt)
            ON CONFLICT (country) DO UPDATE SET access = excluded.access, access_until = excluded.access_until, refresh = excluded.refresh,
                given_by = excluded.given_by, given_at = excluded.given_at
            """,
            consent);

    /// <summary>Forgets a consent; false when there was none.</summary>
    public static bool Remove(Unit unit, string country)
    {
        var there = Find(unit, country) is not null;
        unit.Execute("DELETE FROM practice_consent WHERE country = @country", new { country });
        return there;
    }
}
