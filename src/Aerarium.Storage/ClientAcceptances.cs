namespace Aerarium.Storage;

/// <summary>A client's acceptance of an approved return, asked for through a one-time link.</summary>
public sealed record ClientAcceptanceRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Return.</summary>
    public long ReturnId { get; init; }

    /// <summary>The approval it is asked for.</summary>
    public long ApprovalId { get; init; }

    /// <summary>SHA-256 of the token in the link.</summary>
    public required string TokenSha256 { get; init; }

    /// <summary>Who asked.</summary>
    public required string AskedBy { get; init; }

    /// <summary>When.</summary>
    public required string AskedAt { get; init; }

    /// <summary>Until when the link works.</summary>
    public required string ExpiresAt { get; init; }

    /// <summary>accepted or refused; null while it is open.</summary>
    public string? Answer { get; init; }

    /// <summary>Who answered, as typed.</summary>
    public string? Name { get; init; }

    /// <summary>What the client said.</summary>
    public string? Remark { get; init; }

    /// <summary>When it was answered.</summary>
    public string? AnsweredAt { get; init; }
}

/// <summary>Acceptances of clients.</summary>
public static class ClientAcceptances
{
    private const string Columns = "id, return_id, approval_id, token_sha256, asked_by, asked_at, expires_at, answer, name, remark, answered_at";

    /// <summary>The latest for an approval, or null.</summary>
    public static ClientAcceptanceRecord? Latest(Unit unit, long approvalId) =>
        unit.Query<ClientAcceptanceRecord>($"SELECT {Columns} FROM client_acceptance WHERE approval_id = @approvalId ORDER BY id DESC LIMIT 1", new { approvalId }).FirstOrDefault();

    /// <summary>By the hash of the token, or null.</summary>
    public static ClientAcceptanceRecord? FindByToken(Unit unit, string tokenSha256) =>
        unit.Single<ClientAcceptanceRecord>($"SELECT {Columns} FROM client_acceptance WHERE token_sha256 = @tokenSha256", new { tokenSha256 });

    /// <summary>Asks; returns the id.</summary>
    public static long Add(Unit unit, ClientAcceptanceRecord acceptance) =>
        unit.Insert(
            """
            INSERT INTO client_acceptance (return_id, approval_id, token_sha256, asked_by, asked_at, expires_at)
            VALUES (@ReturnId, @ApprovalId, @TokenSha256, @AskedBy, @AskedAt, @ExpiresAt)
            """,
            acceptance);

    /// <summary>Notes the answer, once; false when there is one already.</summary>
    public static bool Answer(Unit unit, ClientAcceptanceRecord answered) =>
        unit.Execute(
            "UPDATE client_acceptance SET answer = @Answer, name = @Name, remark = @Remark, answered_at = @AnsweredAt WHERE id = @Id AND answer IS NULL", answered) == 1;
}

/// <summary>Rules a practice makes for itself, by name.</summary>
public static class PracticeRules
{
    /// <summary>All that are made.</summary>
    public static IReadOnlyDictionary<string, string> All(Unit unit) =>
        unit.Query<(string Name, string Value)>("SELECT name, value FROM practice_rule").ToDictionary(r => r.Name, r => r.Value);

    /// <summary>Makes a rule.</summary>
    public static void Put(Unit unit, string name, string value) =>
        unit.Execute("INSERT INTO practice_rule (name, value) VALUES (@name, @value) ON CONFLICT (name) DO UPDATE SET value = excluded.value", new { name, value });
}
