namespace Aerarium.Storage;

/// <summary>An accepted warning.</summary>
public sealed record AcceptanceRecord(string Finding, string Row, string Message, string Reason, string PersonName, string At);

/// <summary>Accepted warnings.</summary>
public static class Acceptances
{
    /// <summary>Of a return.</summary>
    public static IReadOnlyList<AcceptanceRecord> Of(Unit unit, long returnId) =>
    [
        .. unit.Query<AcceptanceRecord>(
            "SELECT finding, row, message, reason, person_name, at FROM finding_acceptance WHERE return_id = @returnId", new { returnId }),
    ];

    /// <summary>Accepts a warning with a reason.</summary>
    public static void Put(Unit unit, long returnId, AcceptanceRecord acceptance) =>
        unit.Execute(
            """
            INSERT INTO finding_acceptance (return_id, finding, row, message, reason, person_name, at)
            VALUES (@returnId, @Finding, @Row, @Message, @Reason, @PersonName, @At)
            ON CONFLICT (return_id, finding, row) DO UPDATE SET message = excluded.message, reason = excluded.reason,
                person_name = excluded.person_name, at = excluded.at
            """,
            new { returnId, acceptance.Finding, acceptance.Row, acceptance.Message, acceptance.Reason, acceptance.PersonName, acceptance.At });

    /// <summary>Reopens an accepted warning.</summary>
    public static void Remove(Unit unit, long returnId, string finding, string row) =>
        unit.Execute("DELETE FROM finding_acceptance WHERE return_id = @returnId AND finding = @finding AND row = @row", new { returnId, finding, row });
}
