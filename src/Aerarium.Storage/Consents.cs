namespace Aerarium.Storage;

/// <summary>A client's consent to ask the authority for what it holds.</summary>
public sealed record ConsentRecord(long ClientId, string GivenOn, string GivenBy, string NotedBy, string NotedAt);

/// <summary>Consents.</summary>
public static class Consents
{
    /// <summary>Of a client, or null.</summary>
    public static ConsentRecord? Find(Unit unit, long clientId) =>
        unit.Single<ConsentRecord>("SELECT client_id, given_on, given_by, noted_by, noted_at FROM consent WHERE client_id = @clientId", new { clientId });

    /// <summary>Notes a consent, replacing an earlier one.</summary>
    public static void Put(Unit unit, ConsentRecord consent) =>
        unit.Execute(
            """
            INSERT INTO consent (client_id, given_on, given_by, noted_by, noted_at) VALUES (@ClientId, @GivenOn, @GivenBy, @NotedBy, @NotedAt)
            ON CONFLICT (client_id) DO UPDATE SET given_on = excluded.given_on, given_by = excluded.given_by, noted_by = excluded.noted_by,
                noted_at = excluded.noted_at
            """,
            consent);

    /// <summary>Takes a consent back; false when there is none.</summary>
    public static bool Remove(Unit unit, long clientId) => unit.Execute("DELETE FROM consent WHERE client_id = @clientId", new { clientId }) == 1;
}
