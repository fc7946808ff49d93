namespace Aerarium.Storage;

/// <summary>A sending and where it stands.</summary>
public sealed record SendingRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Return.</summary>
    public long ReturnId { get; init; }

    /// <summary>What is sent.</summary>
    public long BuiltId { get; init; }

    /// <summary>The same key is the same filing, however often it is tried.</summary>
    public required string IdempotencyKey { get; init; }

    /// <summary>queued, pending, accepted or rejected.</summary>
    public required string State { get; init; }

    /// <summary>Attempts so far.</summary>
    public long Attempts { get; init; }

    /// <summary>Not before.</summary>
    public required string NextAttemptAt { get; init; }

    /// <summary>When a mail was last sent; null for what does not go by mail.</summary>
    public string? SentAt { get; init; }

    /// <summary>The authority's number.</summary>
    public string? Submission { get; init; }

    /// <summary>Acknowledgement number.</summary>
    public string? Acknowledgement { get; init; }

    /// <summary>Reasons of a rejection, JSON.</summary>
    public string? Reasons { get; init; }

    /// <summary>What went wrong at the last attempt.</summary>
    public string? Problem { get; init; }

    /// <summary>The receipt, an artefact.</summary>
    public string? ReceiptSha256 { get; init; }

    /// <summary>The authority's signature over the receipt: detached JWS (RFC 7515).</summary>
    public string? ReceiptSignature { get; init; }

    /// <summary>The mail as it left, JSON; null for what does not go by mail.</summary>
    public string? Letter { get; init; }

    /// <summary>The mail that answered, JSON; null for what does not go by mail.</summary>
    public string? Reply { get; init; }

    /// <summary>The printed copy that bears the number of the acknowledgement, an artefact; null before it was accepted.</summary>
    public string? CopySha256 { get; init; }

    /// <summary>The acknowledgement for people, an artefact; null before it was accepted.</summary>
    public string? AcknowledgementSha256 { get; init; }

    /// <summary>Who sent it.</summary>
    public long CreatedBy { get; init; }

    /// <summary>When it was queued.</summary>
    public required string CreatedAt { get; init; }

    /// <summary>When it was answered.</summary>
    public string? AnsweredAt { get; init; }
}

/// <summary>Sendings.</summary>
public static class Sendings
{
    private const string Columns = """
        id, return_id, built_id, idempotency_key, state, attempts, next_attempt_at, submission, acknowledgement, reasons, problem,
        receipt_sha256, receipt_signature, created_by, created_at, answered_at, sent_at, letter, reply, copy_sha256,
        acknowledgement_sha256
        """;

    /// <summary>Of a return, latest first.</summary>
    public static IReadOnlyList<SendingRecord> OfReturn(Unit unit, long returnId) =>
        [.. unit.Query<SendingRecord>($"SELECT {Columns} FROM sending WHERE return_id = @returnId ORDER BY id DESC", new { returnId })];

    /// <summary>By id.</summary>
    public static SendingRecord? Find(Unit unit, long id) => unit.Single<SendingRecord>($"SELECT {Columns} FROM sending WHERE id = @id", new { id });

    /// <summary>Those the authority has answered with a receipt.</summary>
    public static IReadOnlyList<SendingRecord> Answered(Unit unit) =>
        [.. unit.Query<SendingRecord>($"SELECT {Columns} FROM sending WHERE receipt_sha256 IS NOT NULL ORDER BY id")];

    /// <summary>By its idempotency key, or null.</summary>
    public static SendingRecord? FindByKey(Unit unit, string key) =>
        unit.Single<SendingRecord>($"SELECT {Columns} FROM sending WHERE idempotency_key = @key", new { key });

    /// <summary>Those that are due to be tried or asked after.</summary>
    public static IReadOnlyList<SendingRecord> Due(Unit unit, string now) =>
    [
        .. unit.Query<SendingRecord>(
            $"SELECT {Columns} FROM sending WHERE state IN ('queued', 'pending') AND next_attempt_at <= @now ORDER BY next_attempt_at, id", new { now }),
    ];

    /// <summary>Queues a sending; returns the id. A second open or accepted one for the same return is refused by the database.</summary>
    public static long Add(Unit unit, SendingRecord sending) =>
        unit.Insert(
            """
            INSERT INTO sending (return_id, built_id, idempotency_key, state, next_attempt_at, created_by, created_at)
            VALUES (@ReturnId, @BuiltId, @IdempotencyKey, @State, @NextAttemptAt, @CreatedBy, @CreatedAt)
            """,
            sending);

    /// <summary>Notes how a sending went on.</summary>
    public static void Change(Unit unit, SendingRecord sending) =>
        unit.Execute(
            """
            UPDATE sending SET state = @State, attempts = @Attempts, next_attempt_at = @NextAttemptAt, submission = @Submission,
                acknowledgement = @Acknowledgement, reasons = @Reasons, problem = @Problem, receipt_sha256 = @ReceiptSha256, receipt_signature = @ReceiptSignature, answered_at = @AnsweredAt, sent_at = @SentAt,
                letter = @Letter, reply = @Reply, copy_sha256 = @CopySha256, acknowledgement_sha256 = @AcknowledgementSha256
            WHERE id = @Id
            """,
            sending);
}
