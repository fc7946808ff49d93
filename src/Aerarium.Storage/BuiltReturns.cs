namespace Aerarium.Storage;

/// <summary>A built e-return; with what the authority's check said of it beforehand, where there is one and it was asked.</summary>
public sealed record BuiltRecord(
    long Id, long ReturnId, long ApprovalId, string BuiltAt, string SchemaSha256, string EreturnSha256, string CopySha256, string Faults, string? Signature, string? CheckedAt = null, string? CheckReasons = null);

/// <summary>Built e-returns.</summary>
public static class BuiltReturns
{
    private const string Columns = "id, return_id, approval_id, built_at, schema_sha256, ereturn_sha256, copy_sha256, faults, signature, checked_at, check_reasons";

    /// <summary>Those built from what was frozen with an approval.</summary>
    public static IReadOnlyList<BuiltRecord> OfApproval(Unit unit, long approvalId) =>
        [.. unit.Query<BuiltRecord>($"SELECT {Columns} FROM built_return WHERE approval_id = @approvalId ORDER BY id", new { approvalId })];

    /// <summary>The latest of a return, or null.</summary>
    public static BuiltRecord? Latest(Unit unit, long returnId) =>
        unit.Query<BuiltRecord>($"SELECT {Columns} FROM built_return WHERE return_id = @returnId ORDER BY id DESC LIMIT 1", new { returnId }).FirstOrDefault();

    /// <summary>By id.</summary>
    public static BuiltRecord? Find(Unit unit, long id) => unit.Single<BuiltRecord>($"SELECT {Columns} FROM built_return WHERE id = @id", new { id });

    /// <summary>Keeps what the authority's check said.</summary>
    public static void KeepCheck(Unit unit, long id, string at, string reasons) =>
        unit.Execute("UPDATE built_return SET checked_at = @at, check_reasons = @reasons WHERE id = @id", new { id, at, reasons });

    /// <summary>Keeps a build; returns the id.</summary>
    public static long Add(Unit unit, BuiltRecord built) =>
        unit.Insert(
            """
            INSERT INTO built_return (return_id, approval_id, built_at, schema_sha256, ereturn_sha256, copy_sha256, faults, signature)
            VALUES (@ReturnId, @ApprovalId, @BuiltAt, @SchemaSha256, @EreturnSha256, @CopySha256, @Faults, @Signature)
            """,
            built);
}
