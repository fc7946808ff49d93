namespace Aerarium.Storage;

/// <summary>An assessment as it came.</summary>
/// <param name="ReturnId">Return.</param>
/// <param name="Number">The authority's number.</param>
/// <param name="IssuedOn">Day of issue.</param>
/// <param name="Sha256">The notice, an artefact.</param>
/// <param name="Signature">The authority's signature over it: detached JWS.</param>
/// <param name="Differences">How many figures differ from the return.</param>
/// <param name="ReceivedAt">When it came.</param>
/// <param name="Balance">The balance assessed, canonical decimal text; null where the notice does not speak about it.</param>
/// <param name="PayBy">Day by which the notice asks for what it adds; null in notices that say none.</param>
/// <param name="ObjectBy">Last day for an objection by the notice; null in notices that say none.</param>
public sealed record AssessmentRecord(
    long ReturnId, string Number, string IssuedOn, string Sha256, string Signature, long Differences, string ReceivedAt, string? Balance = null, string? PayBy = null, string? ObjectBy = null);

/// <summary>A verification as it stands.</summary>
/// <param name="ReturnId">Return.</param>
/// <param name="Number">The authority's number.</param>
/// <param name="DueOn">Day by which it is answered.</param>
/// <param name="State">open or closed.</param>
/// <param name="Content">What the authority last said, JSON.</param>
/// <param name="ReceivedAt">When it first came.</param>
/// <param name="AnsweredBy">Who answered.</param>
/// <param name="AnsweredAt">When.</param>
public sealed record AuditCaseRecord(long ReturnId, string Number, string DueOn, string State, string Content, string ReceivedAt, string? AnsweredBy, string? AnsweredAt);

/// <summary>An objection to an assessment.</summary>
/// <param name="ReturnId">Return.</param>
/// <param name="Assessment">Number of the assessment.</param>
/// <param name="Reason">Why.</param>
/// <param name="Number">The authority's number.</param>
/// <param name="MadeBy">Who made it.</param>
/// <param name="MadeAt">When.</param>
public sealed record ObjectionRecord(long ReturnId, string Assessment, string Reason, string Number, string MadeBy, string MadeAt);

/// <summary>What follows a filed return.</summary>
public static class Aftermaths
{
    private const string AuditColumns = "return_id, number, due_on, state, content, received_at, answered_by, answered_at";

    /// <summary>
    /// Accepted sendings, with their returns, that may still be followed by something: until the assessment is here, while a verification is open, and as
    /// long as one may still be opened, for those answered since a moment.
    /// </summary>
    public static IReadOnlyList<(long Sending, long Return)> Awaited(Unit unit, string since) =>
    [
        .. unit.Query<(long, long)>(
            """
            SELECT s.id, s.return_id FROM sending s
            WHERE s.state = 'accepted' AND (
                NOT EXISTS (SELECT 1 FROM assessment a WHERE a.return_id = s.return_id)
                OR (s.answered_at > @since AND NOT EXISTS (SELECT 1 FROM audit_case c WHERE c.return_id = s.return_id))
                OR EXISTS (SELECT 1 FROM audit_case c WHERE c.return_id = s.return_id AND c.state = 'open'))
            ORDER BY s.id
            """,
            new { since }),
    ];

    /// <summary>The assessment of a return, or null.</summary>
    public static AssessmentRecord? AssessmentOf(Unit unit, long returnId) =>
        unit.Single<AssessmentRecord>("SELECT return_id, number, issued_on, sha256, signature, differences, received_at, balance, pay_by, object_by FROM assessment WHERE return_id = @returnId", new { returnId });

    /// <summary>Keeps an assessment.</summary>
    public static void Put(Unit unit, AssessmentRecord assessment) =>
        unit.Execute(
            """
            INSERT INTO assessment (return_id, number, issued_on, sha256, signature, differences, received_at, balance, pay_by, object_by)
            VALUES (@ReturnId, @Number, @IssuedOn, @Sha256, @Signature, @Differences, @ReceivedAt, @Balance, @PayBy, @ObjectBy) ON CONFLICT DO NOTHING
            """,
            assessment);

    /// <summary>The verification of a return, or null.</summary>
    public static AuditCaseRecord? CaseOf(Unit unit, long returnId) =>
        unit.Single<AuditCaseRecord>($"SELECT {AuditColumns} FROM audit_case WHERE return_id = @returnId", new { returnId });

    /// <summary>Keeps how a verification stands.</summary>
    public static void Put(Unit unit, AuditCaseRecord open) =>
        unit.Execute(
            """
            INSERT INTO audit_case (return_id, number, due_on, state, content, received_at, answered_by, answered_at)
            VALUES (@ReturnId, @Number, @DueOn, @State, @Content, @ReceivedAt, @AnsweredBy, @AnsweredAt)
            ON CONFLICT (return_id) DO UPDATE SET state = excluded.state, content = excluded.content,
                answered_by = coalesce(audit_case.answered_by, excluded.answered_by), answered_at = coalesce(audit_case.answered_at, excluded.answered_at)
            """,
            open);

    /// <summary>The objection to a return's assessment, or null.</summary>
    public static ObjectionRecord? ObjectionOf(Unit unit, long returnId) =>
        unit.Single<ObjectionRecord>("SELECT return_id, assessment, reason, number, made_by, made_at FROM objection WHERE return_id = @returnId", new { returnId });

    /// <summary>Keeps an objection.</summary>
    public static void Put(Unit unit, ObjectionRecord objection) =>
        unit.Execute(
            "INSERT INTO objection (return_id, assessment, reason, number, made_by, made_at) VALUES (@ReturnId, @Assessment, @Reason, @Number, @MadeBy, @MadeAt)", objection);
}
