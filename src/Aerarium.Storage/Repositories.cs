namespace Aerarium.Storage;

/// <summary>The practice.</summary>
public static class Practices
{
    /// <summary>The practice, or null before set-up.</summary>
    public static PracticeRecord? Find(Unit unit) =>
        unit.Single<PracticeRecord>("SELECT name, signing_key, certificate, created_at FROM practice");

    /// <summary>Replaces the certificate the practice signs with.</summary>
    public static void ChangeCertificate(Unit unit, byte[] signingKey, byte[] certificate) =>
        unit.Execute("UPDATE practice SET signing_key = @signingKey, certificate = @certificate", new { signingKey, certificate });

    /// <summary>Sets the practice up.</summary>
    public static void Add(Unit unit, PracticeRecord practice) =>
        unit.Execute(
            "INSERT INTO practice (id, name, signing_key, certificate, created_at) VALUES (1, @Name, @SigningKey, @Certificate, @CreatedAt)",
            practice);
}

/// <summary>Returns, their rows and entries.</summary>
public static class Returns
{
    private const string Columns =
        "id, client_id, definition, year, period, kind, stage, revision, holder_id, opened_at, due, balance, errors, warnings, started, charges, unpaid, checked_on";

    /// <summary>Every return, in the order in which they were opened.</summary>
    public static IReadOnlyList<ReturnRecord> All(Unit unit) => [.. unit.Query<ReturnRecord>($"SELECT {Columns} FROM tax_return ORDER BY id")];

    /// <summary>By id, or null.</summary>
    public static ReturnRecord? Find(Unit unit, long id) => unit.Single<ReturnRecord>($"SELECT {Columns} FROM tax_return WHERE id = @id", new { id });

    /// <summary>Returns of a client, latest year first.</summary>
    public static IReadOnlyList<ReturnRecord> OfClient(Unit unit, long clientId) =>
        [.. unit.Query<ReturnRecord>($"SELECT {Columns} FROM tax_return WHERE client_id = @clientId ORDER BY year DESC, period DESC, id", new { clientId })];

    /// <summary>The client's return of a year and period, the latest when there are several, or null.</summary>
    public static ReturnRecord? FindOf(Unit unit, long clientId, string definition, long year, string period) =>
        unit.Query<ReturnRecord>(
            $"SELECT {Columns} FROM tax_return WHERE client_id = @clientId AND definition = @definition AND year = @year AND period = @period ORDER BY id DESC LIMIT 1",
            new { clientId, definition, year, period }).FirstOrDefault();

    /// <summary>Opens a return; returns the id.</summary>
    public static long Add(Unit unit, ReturnRecord item) =>
        unit.Insert(
            """
            INSERT INTO tax_return (id, client_id, definition, year, period, kind, stage, holder_id, opened_at, due)
            VALUES (CASE WHEN @ClientId >= @FirstKept THEN coalesce((SELECT max(id) FROM tax_return), @ClientId) + 1 END,
                @ClientId, @Definition, @Year, @Period, @Kind, @Stage, @HolderId, @OpenedAt, @Due)
            """,
            new
            {
                item.ClientId,
                item.Definition,
                item.Year,
                item.Period,
                item.Kind,
                item.Stage,
                item.HolderId,
                item.OpenedAt,
                item.Due,
                FirstKept = KeptClients.FirstId,
            });

    /// <summary>Moves a return to a stage.</summary>
    public static void SetStage(Unit unit, long id, string stage) =>
        unit.Execute("UPDATE tax_return SET stage = @stage WHERE id = @id", new { id, stage });

    /// <summary>Gives a return to another person.</summary>
    public static void SetHolder(Unit unit, long id, long holderId) =>
        unit.Execute("UPDATE tax_return SET holder_id = @holderId WHERE id = @id", new { id, holderId });

    /// <summary>Keeps what lists show, after an edit or a new day.</summary>
    public static void KeepSummary(Unit unit, long id, ReturnSummary summary, bool started) =>
        unit.Execute(
            """
            UPDATE tax_return SET revision = @Revision, balance = @Balance, errors = @Errors, warnings = @Warnings, due = @Due, charges = @Charges,
                checked_on = @CheckedOn, started = max(started, @started)
            WHERE id = @id
            """,
            new
            {
                id,
                summary.Revision,
                summary.Balance,
                summary.Errors,
                summary.Warnings,
                summary.Due,
                summary.Charges,
                summary.CheckedOn,
                started = started ? 1 : 0,
            });

    /// <summary>Open returns past their day that were last evaluated before a day, oldest deadline first.</summary>
    public static IReadOnlyList<long> ToCheckAgain(Unit unit, string today, int most) =>
    [
        .. unit.Query<long>(
            "SELECT id FROM tax_return WHERE stage NOT IN ('sent', 'accepted') AND checked_on < @today ORDER BY due, id LIMIT @most",
            new { today, most }),
    ];

    /// <summary>Notes that a return was looked at on a day.</summary>
    public static void NoteChecked(Unit unit, long id, string today) =>
        unit.Execute("UPDATE tax_return SET checked_on = @today WHERE id = @id", new { id, today });

    /// <summary>Open returns of a country that can still change.</summary>
    public static IReadOnlyList<ReturnRecord> OpenOf(Unit unit, string country) =>
    [
        .. unit.Query<ReturnRecord>(
            $"SELECT {Columns} FROM tax_return WHERE stage NOT IN ('sent', 'accepted') AND definition LIKE @country || '/%' ORDER BY id",
            new { country }),
    ];

    /// <summary>All entries.</summary>
    public static IReadOnlyList<EntryRecord> Entries(Unit unit, long id) =>
    [
        .. unit.Query<EntryRecord>(
            "SELECT line, row, value, origin, source, expression, revision, changed_by, changed_at FROM entry WHERE return_id = @id",
            new { id }),
    ];

    /// <summary>Entries on some lines, outside rows, in every open return of a type, year and period.</summary>
    public static IReadOnlyDictionary<(long ReturnId, string Line), EntryRecord> EntriesOn(Unit unit, string definition, long year, string period, IReadOnlyList<string> lines)
    {
        var found = new Dictionary<(long, string), EntryRecord>();
        foreach (var line in lines)
        {
            var rows = unit.Query<OfReturn>(
                """
                SELECT e.return_id, e.line, e.row, e.value, e.origin, e.source, e.expression, e.revision, e.changed_by, e.changed_at
                FROM tax_return r JOIN entry e ON e.return_id = r.id AND e.line = @line AND e.row = ''
                WHERE r.definition = @definition AND r.year = @year AND r.period = @period AND r.stage NOT IN ('sent', 'accepted')
                """,
                new { line, definition, year, period });
            foreach (var row in rows)
            {
                found[(row.ReturnId, line)] = new EntryRecord(row.Line, row.Row, row.Value, row.Origin, row.Source, row.Expression, row.Revision, row.ChangedBy, row.ChangedAt);
            }
        }

        return found;
    }

    private sealed record OfReturn(
        long ReturnId, string Line, string Row, string? Value, string Origin, string? Source, string? Expression, long Revision, long ChangedBy, string ChangedAt);

    /// <summary>All rows, in order.</summary>
    public static IReadOnlyList<RowRecord> Rows(Unit unit, long id) =>
        [.. unit.Query<RowRecord>("SELECT section, row, position FROM entry_row WHERE return_id = @id ORDER BY section, position", new { id })];

    /// <summary>Writes an entry.</summary>
    public static void Put(Unit unit, long id, EntryRecord entry) =>
        unit.Execute(
            """
            INSERT INTO entry (return_id, line, row, value, origin, source, expression, revision, changed_by, changed_at)
            VALUES (@id, @Line, @Row, @Value, @Origin, @Source, @Expression, @Revision, @ChangedBy, @ChangedAt)
            ON CONFLICT (return_id, line, row) DO UPDATE SET value = excluded.value, origin = excluded.origin, source = excluded.source,
                expression = excluded.expression, revision = excluded.revision, changed_by = excluded.changed_by, changed_at = excluded.changed_at
            """,
            new { id, entry.Line, entry.Row, entry.Value, entry.Origin, entry.Source, entry.Expression, entry.Revision, entry.ChangedBy, entry.ChangedAt });

    /// <summary>Keeps the order of a section's rows; only what is between the rows at both ends that stay is written.</summary>
    /// <param name="unit">The unit of work.</param>
    /// <param name="id">The return.</param>
    /// <param name="section">Key of the repeating section.</param>
    /// <param name="before">The order as stored.</param>
    /// <param name="rows">The order from now on.</param>
    public static void PutRows(Unit unit, long id, string section, IReadOnlyList<string> before, IReadOnlyList<string> rows)
    {
        var start = 0;
        while (start < before.Count && start < rows.Count && before[start] == rows[start])
        {
            start++;
        }

        var end = 0;
        while (end < before.Count - start && end < rows.Count - start && before[^(end + 1)] == rows[^(end + 1)])
        {
            end++;
        }

        unit.Execute(
            "DELETE FROM entry_row WHERE return_id = @id AND section = @section AND position BETWEEN @start AND @last",
            new { id, section, start, last = before.Count - end - 1 });
        if (end > 0 && before.Count != rows.Count)
        {
            unit.Execute(
                "UPDATE entry_row SET position = position + @by WHERE return_id = @id AND section = @section AND position >= @from",
                new { id, section, by = rows.Count - before.Count, from = before.Count - end });
        }

        for (var position = start; position < rows.Count - end; position++)
        {
            unit.Execute(
                "INSERT INTO entry_row (return_id, section, row, position) VALUES (@id, @section, @row, @position)",
                new { id, section, row = rows[position], position });
        }
    }
}

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

/// <summary>Files kept by their hash.</summary>
public static class Artefacts
{
    private const string Uses = """
        SELECT sha256, 'the document ' || name AS used FROM document
        UNION SELECT ereturn_sha256, 'the e-return of return ' || return_id FROM built_return
        UNION SELECT copy_sha256, 'the printed copy of return ' || return_id FROM built_return
        UNION SELECT sha256, 'the assessment of return ' || return_id FROM assessment
        UNION SELECT receipt_sha256, 'the receipt of return ' || return_id FROM sending WHERE receipt_sha256 IS NOT NULL
        UNION SELECT entries_sha256, 'the frozen return ' || return_id FROM approval WHERE entries_sha256 IS NOT NULL
        """;

    /// <summary>Keeps a file; returns its SHA-256.</summary>
    public static string Keep(Unit unit, byte[] content, string mediaType, string at)
    {
        var sha256 = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(content));
        unit.Execute(
            "INSERT INTO artefact (sha256, media_type, content, created_at) VALUES (@sha256, @mediaType, @content, @at) ON CONFLICT DO NOTHING",
            new { sha256, mediaType, content, at });
        return sha256;
    }

    /// <summary>Drops the files nothing refers to any more.</summary>
    public static void DropUnused(Unit unit) =>
        unit.Execute($"DELETE FROM artefact WHERE sha256 NOT IN (SELECT sha256 FROM ({Uses}))");

    /// <summary>The hashes under which files are kept.</summary>
    public static IReadOnlyList<string> All(Unit unit) => [.. unit.Query<string>("SELECT sha256 FROM artefact ORDER BY sha256")];

    /// <summary>The bytes kept under a hash, whatever they are by now; null when there are none.</summary>
    public static byte[]? Find(Unit unit, string sha256) => unit.Single<byte[]>("SELECT content FROM artefact WHERE sha256 = @sha256", new { sha256 });

    /// <summary>The hashes of files that something refers to and that are not there.</summary>
    public static IReadOnlyList<string> Missing(Unit unit) =>
        [.. unit.Query<string>($"SELECT DISTINCT sha256 FROM ({Uses}) WHERE sha256 NOT IN (SELECT sha256 FROM artefact)")];

    /// <summary>What a file is used for, in words.</summary>
    public static IReadOnlyList<string> UsedBy(Unit unit, string sha256) =>
        [.. unit.Query<string>($"SELECT DISTINCT used FROM ({Uses}) WHERE sha256 = @sha256 ORDER BY used", new { sha256 })];

    /// <summary>A file by its hash.</summary>
    /// <exception cref="InvalidOperationException">It is missing, or no longer has that hash.</exception>
    public static byte[] Get(Unit unit, string sha256)
    {
        var content = unit.Single<byte[]>("SELECT content FROM artefact WHERE sha256 = @sha256", new { sha256 })
            ?? throw new InvalidOperationException($"The file {sha256} is missing.");
        return Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(content)) == sha256
            ? content
            : throw new InvalidOperationException($"The file {sha256} has been altered.");
    }
}

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

/// <summary>Sendings.</summary>
public static class Sendings
{
    private const string Columns = """
        id, return_id, built_id, idempotency_key, state, attempts, next_attempt_at, submission, acknowledgement, reasons, problem,
        receipt_sha256, receipt_signature, created_by, created_at, answered_at, sent_at
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
            $"SELECT {Columns} FROM sending WHERE state IN ('queued', 'pending') AND next_attempt_at <= @now ORDER BY next_attempt_at", new { now }),
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
                acknowledgement = @Acknowledgement, reasons = @Reasons, problem = @Problem, receipt_sha256 = @ReceiptSha256, receipt_signature = @ReceiptSignature, answered_at = @AnsweredAt, sent_at = @SentAt
            WHERE id = @Id
            """,
            sending);
}
