namespace Aerarium.Storage;

/// <summary>An approval and how it went.</summary>
public sealed record ApprovalRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Return.</summary>
    public long ReturnId { get; init; }

    /// <summary>handed-over, approved, returned or withdrawn.</summary>
    public required string State { get; init; }

    /// <summary>Who handed it over.</summary>
    public long HandedOverBy { get; init; }

    /// <summary>When.</summary>
    public required string HandedOverAt { get; init; }

    /// <summary>Who approved it.</summary>
    public long? ApprovedBy { get; init; }

    /// <summary>When.</summary>
    public string? ApprovedAt { get; init; }

    /// <summary>Who signed second, where the practice asks for two.</summary>
    public long? SecondBy { get; init; }

    /// <summary>When.</summary>
    public string? SecondAt { get; init; }

    /// <summary>Remark of the approver, or why it was withdrawn.</summary>
    public string? Remark { get; init; }

    /// <summary>Revision of the return that was handed over.</summary>
    public long Revision { get; init; }

    /// <summary>Revision of the rules.</summary>
    public required string FigureRevision { get; init; }

    /// <summary>The frozen entries, an artefact.</summary>
    public string? EntriesSha256 { get; init; }
}

/// <summary>Approvals.</summary>
public static class Approvals
{
    private const string Columns =
        "id, return_id, state, handed_over_by, handed_over_at, approved_by, approved_at, second_by, second_at, remark, revision, figure_revision, entries_sha256";

    /// <summary>The latest of a return, or null.</summary>
    public static ApprovalRecord? Latest(Unit unit, long returnId) =>
        unit.Query<ApprovalRecord>($"SELECT {Columns} FROM approval WHERE return_id = @returnId ORDER BY id DESC LIMIT 1", new { returnId }).FirstOrDefault();

    /// <summary>By id.</summary>
    public static ApprovalRecord? Find(Unit unit, long id) => unit.Single<ApprovalRecord>($"SELECT {Columns} FROM approval WHERE id = @id", new { id });

    /// <summary>Those with which a return was frozen.</summary>
    public static IReadOnlyList<ApprovalRecord> Frozen(Unit unit) =>
        [.. unit.Query<ApprovalRecord>($"SELECT {Columns} FROM approval WHERE entries_sha256 IS NOT NULL ORDER BY id")];

    /// <summary>Hands a return over.</summary>
    public static long Add(Unit unit, ApprovalRecord approval) =>
        unit.Insert(
            """
            INSERT INTO approval (return_id, state, handed_over_by, handed_over_at, revision, figure_revision)
            VALUES (@ReturnId, @State, @HandedOverBy, @HandedOverAt, @Revision, @FigureRevision)
            """,
            approval);

    /// <summary>Changes the state.</summary>
    public static void Change(Unit unit, ApprovalRecord approval) =>
        unit.Execute(
            """
            UPDATE approval SET state = @State, approved_by = @ApprovedBy, approved_at = @ApprovedAt, second_by = @SecondBy, second_at = @SecondAt,
                remark = @Remark, entries_sha256 = @EntriesSha256
            WHERE id = @Id
            """,
            approval);
}
