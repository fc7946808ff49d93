namespace Aerarium.Storage;

/// <summary>How the client's particulars compare with what the authority has registered.</summary>
/// <param name="State">agrees, differs, unknown (nobody is registered under the identifier) or unreachable.</param>
/// <param name="Differences">The differences as JSON.</param>
/// <param name="VerifiedBy">Who had it verified.</param>
/// <param name="VerifiedAt">When.</param>
public sealed record VerificationRecord(string State, string Differences, string VerifiedBy, string VerifiedAt);

/// <summary>Verifications of registered particulars, one a return.</summary>
public static class Verifications
{
    /// <summary>Of a return, or null.</summary>
    public static VerificationRecord? Find(Unit unit, long returnId) =>
        unit.Single<VerificationRecord>("SELECT state, differences, verified_by, verified_at FROM verification WHERE return_id = @returnId", new { returnId });

    /// <summary>Keeps the latest.</summary>
    public static void Put(Unit unit, long returnId, VerificationRecord verification) =>
        unit.Execute(
            """
            INSERT INTO verification (return_id, state, differences, verified_by, verified_at) VALUES (@returnId, @State, @Differences, @VerifiedBy, @VerifiedAt)
            ON CONFLICT (return_id) DO UPDATE SET state = excluded.state, differences = excluded.differences, verified_by = excluded.verified_by,
                verified_at = excluded.verified_at
            """,
            new { returnId, verification.State, verification.Differences, verification.VerifiedBy, verification.VerifiedAt });
}
