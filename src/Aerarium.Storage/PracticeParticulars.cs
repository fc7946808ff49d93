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

    /// <summary>Keeps a credential, replacing the one before.</summary>
    public static void PutCredential(Unit unit, CredentialRecord credential) =>
        unit.Execute(
            """
            INSERT INTO practice_credential (country, user_name, secret, changed_at) VALUES (@Country, @UserName, @Secret, @ChangedAt)
            ON CONFLICT (country) DO UPDATE SET user_name = excluded.user_name, secret = excluded.secret, changed_at = excluded.changed_at
            """,
            credential);
}
