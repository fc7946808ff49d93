namespace Aerarium.Storage;

/// <summary>A built e-return.</summary>
public sealed record BuiltRecord(
    long Id, long ReturnId, long ApprovalId, string BuiltAt, string SchemaSha256, string EreturnSha256, string CopySha256, string Faults, string? Signature);

/// <summary>Built e-returns.</summary>
public static class BuiltReturns
{
    private const string Columns = "id, return_id, approval_id, built_at, schema_sha256, ereturn_sha256, copy_sha256, faults, signature";

    /// <summary>Those built from what was frozen with an approval.</summary>
    public static IReadOnlyList<BuiltRecord> OfApproval(Unit unit, long approvalId) =>
        [.. unit.Query<BuiltRecord>($"SELECT {Columns} FROM built_return WHERE approval_id = @approvalId ORDER BY id", new { approvalId })];

    /// <summary>The latest of a return, or null.</summary>
    public static BuiltRecord? Latest(Unit unit, long returnId) =>
        unit.Query<BuiltRecord>($"SELECT {Columns} FROM built_return WHERE return_id = @returnId ORDER BY id DESC LIMIT 1", new { returnId }).FirstOrDefault();

    /// <summary>By id.</summary>
    public static BuiltRecord? Find(Unit unit, long id) => unit.Single<BuiltRecord>($"SELECT {Columns} FROM built_return WHERE id = @id", new { id });

    /// <summary>Keeps a build; returns the id.</summary>
    public static long Add(Unit unit, BuiltRecord built) =>
        unit.Insert(
            """
            INSERT INTO built_return (return_id, approval_id, built_at, schema_sha256, ereturn_sha256, copy_sha256, faults, signature)
            VALUES (@ReturnId, @ApprovalId, @BuiltAt, @SchemaSha256, @EreturnSha256, @CopySha256, @Faults, @Signature)
            """,
            built);
}
