namespace Aerarium.Storage;

/// <summary>The practice.</summary>
public static class Practices
{
    /// <summary>The practice, or null before set-up.</summary>
    public static PracticeRecord? Find(Unit unit) =>
        unit.Single<PracticeRecord>("SELECT name, agent_pin, signing_key, certificate, created_at FROM practice");

    /// <summary>Sets the practice up.</summary>
    public static void Add(Unit unit, PracticeRecord practice) =>
        unit.Execute(
            "INSERT INTO practice (id, name, agent_pin, signing_key, certificate, created_at) VALUES (1, @Name, @AgentPin, @SigningKey, @Certificate, @CreatedAt)",
            practice);
}

/// <summary>A client in a list.</summary>
public sealed record ClientListRecord
{
    /// <summary>Client.</summary>
    public long Id { get; init; }

    /// <summary>Country.</summary>
    public required string Country { get; init; }

    /// <summary>Taxpayer identifier.</summary>
    public required string Identifier { get; init; }

    /// <summary>Official name.</summary>
    public required string Name { get; init; }

    /// <summary>Group, or null.</summary>
    public string? ClientGroup { get; init; }

    /// <summary>How many returns there are.</summary>
    public long Returns { get; init; }
}

/// <summary>Clients.</summary>
public static class Clients
{
    private const string Columns = """
        id, country, identifier, name, client_group, birth_date, email, phone, postal_address, payout_route, payout_bank,
        payout_branch, payout_account_name, payout_account_number, payout_mobile, team_id, revision
        """;

    /// <summary>By id, or null.</summary>
    public static ClientRecord? Find(Unit unit, long id) => unit.Single<ClientRecord>($"SELECT {Columns} FROM client WHERE id = @id", new { id });

    /// <summary>By identifier, or null.</summary>
    public static ClientRecord? FindByIdentifier(Unit unit, string country, string identifier) =>
        unit.Single<ClientRecord>($"SELECT {Columns} FROM client WHERE country = @country AND identifier = @identifier", new { country, identifier });

    /// <summary>A client within reach of the same name, and of the same date of birth where both are known, or null.</summary>
    public static ClientRecord? FindAlike(Unit unit, string country, string name, string? birthDate, Reach reach) =>
        unit.Query<ClientRecord>(
            $"""
            SELECT {Columns} FROM client c
            WHERE country = @country AND name = @name COLLATE NOCASE AND (@birthDate IS NULL OR birth_date IS NULL OR birth_date = @birthDate)
                AND {Reach.Condition}
            LIMIT 1
            """,
            new { country, name, birthDate, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }).FirstOrDefault();

    /// <summary>A page of the clients within reach whose name, identifier or group holds every word searched, by name.</summary>
    public static IReadOnlyList<ClientListRecord> Page(Unit unit, string? search, Reach reach, int offset, int most) =>
    [
        .. unit.Query<ClientListRecord>(
            $"""
            SELECT c.id, c.country, c.identifier, c.name, c.client_group, (SELECT COUNT(*) FROM tax_return r WHERE r.client_id = c.id) AS returns
            FROM client c WHERE {Where(search)} ORDER BY c.name, c.id LIMIT @most OFFSET @offset
            """,
            Values(search, reach, offset, most)),
    ];

    /// <summary>How many clients such a list has.</summary>
    public static long Count(Unit unit, string? search, Reach reach) =>
        unit.Single<long>($"SELECT COUNT(*) FROM client c WHERE {Where(search)}", Values(search, reach, 0, 0));

    private static string Where(string? search) => string.Join(" AND ", Search.Words(search)
        .Select((_, i) => $"(c.name LIKE @word{i} ESCAPE '\\' OR c.identifier LIKE @word{i} ESCAPE '\\' OR c.client_group LIKE @word{i} ESCAPE '\\')")
        .Prepend(Reach.Condition));

    private static Dapper.DynamicParameters Values(string? search, Reach reach, int offset, int most)
    {
        var values = new Dapper.DynamicParameters(new { personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0, offset, most });
        Search.Add(values, search);
        return values;
    }

    /// <summary>Adds a client; returns the id.</summary>
    public static long Add(Unit unit, ClientRecord client) =>
        unit.Insert(
            """
            INSERT INTO client (country, identifier, name, client_group, birth_date, email, phone, postal_address, payout_route, payout_bank,
                payout_branch, payout_account_name, payout_account_number, payout_mobile)
            VALUES (@Country, @Identifier, @Name, @ClientGroup, @BirthDate, @Email, @Phone, @PostalAddress, @PayoutRoute, @PayoutBank,
                @PayoutBranch, @PayoutAccountName, @PayoutAccountNumber, @PayoutMobile)
            """,
            client);

    /// <summary>Changes a client that still has the revision it was read with; false when somebody was faster.</summary>
    public static bool Change(Unit unit, ClientRecord client) =>
        unit.Execute(
            """
            UPDATE client SET identifier = @Identifier, name = @Name, client_group = @ClientGroup, birth_date = @BirthDate, email = @Email,
                phone = @Phone, postal_address = @PostalAddress, payout_route = @PayoutRoute, payout_bank = @PayoutBank,
                payout_branch = @PayoutBranch, payout_account_name = @PayoutAccountName, payout_account_number = @PayoutAccountNumber,
                payout_mobile = @PayoutMobile, revision = revision + 1
            WHERE id = @Id AND revision = @Revision
            """,
            client) == 1;

    /// <summary>Restricts a client to a team, or opens it to everybody.</summary>
    public static void SetTeam(Unit unit, long id, long? teamId) =>
        unit.Execute("UPDATE client SET team_id = @teamId, revision = revision + 1 WHERE id = @id", new { id, teamId });
}

/// <summary>Returns, their rows and entries.</summary>
public static class Returns
{
    private const string Columns =
        "id, client_id, definition, year, kind, stage, revision, holder_id, opened_at, due, balance, errors, warnings, started";

    /// <summary>By id, or null.</summary>
    public static ReturnRecord? Find(Unit unit, long id) => unit.Single<ReturnRecord>($"SELECT {Columns} FROM tax_return WHERE id = @id", new { id });

    /// <summary>Returns of a client, latest year first.</summary>
    public static IReadOnlyList<ReturnRecord> OfClient(Unit unit, long clientId) =>
        [.. unit.Query<ReturnRecord>($"SELECT {Columns} FROM tax_return WHERE client_id = @clientId ORDER BY year DESC, id", new { clientId })];

    /// <summary>The client's return of a year, the latest when there are several, or null.</summary>
    public static ReturnRecord? FindOfYear(Unit unit, long clientId, string definition, long year) =>
        unit.Query<ReturnRecord>(
            $"SELECT {Columns} FROM tax_return WHERE client_id = @clientId AND definition = @definition AND year = @year ORDER BY id DESC LIMIT 1",
            new { clientId, definition, year }).FirstOrDefault();

    /// <summary>Opens a return; returns the id.</summary>
    public static long Add(Unit unit, ReturnRecord item) =>
        unit.Insert(
            """
            INSERT INTO tax_return (client_id, definition, year, kind, stage, holder_id, opened_at, due)
            VALUES (@ClientId, @Definition, @Year, @Kind, @Stage, @HolderId, @OpenedAt, @Due)
            """,
            item);

    /// <summary>Moves a return to a stage.</summary>
    public static void SetStage(Unit unit, long id, string stage) =>
        unit.Execute("UPDATE tax_return SET stage = @stage WHERE id = @id", new { id, stage });

    /// <summary>Gives a return to another person.</summary>
    public static void SetHolder(Unit unit, long id, long holderId) =>
        unit.Execute("UPDATE tax_return SET holder_id = @holderId WHERE id = @id", new { id, holderId });

    /// <summary>Keeps what lists show, after an edit.</summary>
    public static void KeepSummary(Unit unit, long id, long revision, string balance, int errors, int warnings, bool started) =>
        unit.Execute(
            """
            UPDATE tax_return SET revision = @revision, balance = @balance, errors = @errors, warnings = @warnings, started = max(started, @started)
            WHERE id = @id
            """,
            new { id, revision, balance, errors, warnings, started = started ? 1 : 0 });

    /// <summary>All entries.</summary>
    public static IReadOnlyList<EntryRecord> Entries(Unit unit, long id) =>
    [
        .. unit.Query<EntryRecord>(
            "SELECT line, row, value, origin, source, expression, revision, changed_by, changed_at FROM entry WHERE return_id = @id",
            new { id }),
    ];

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

    /// <summary>Replaces the order of a section's rows.</summary>
    public static void PutRows(Unit unit, long id, string section, IReadOnlyList<string> rows)
    {
        unit.Execute("DELETE FROM entry_row WHERE return_id = @id AND section = @section", new { id, section });
        for (var position = 0; position < rows.Count; position++)
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
        "id, return_id, state, handed_over_by, handed_over_at, approved_by, approved_at, remark, revision, rule_revision, entries_sha256";

    /// <summary>The latest of a return, or null.</summary>
    public static ApprovalRecord? Latest(Unit unit, long returnId) =>
        unit.Query<ApprovalRecord>($"SELECT {Columns} FROM approval WHERE return_id = @returnId ORDER BY id DESC LIMIT 1", new { returnId }).FirstOrDefault();

    /// <summary>By id.</summary>
    public static ApprovalRecord? Find(Unit unit, long id) => unit.Single<ApprovalRecord>($"SELECT {Columns} FROM approval WHERE id = @id", new { id });

    /// <summary>Hands a return over.</summary>
    public static long Add(Unit unit, ApprovalRecord approval) =>
        unit.Insert(
            """
            INSERT INTO approval (return_id, state, handed_over_by, handed_over_at, revision, rule_revision)
            VALUES (@ReturnId, @State, @HandedOverBy, @HandedOverAt, @Revision, @RuleRevision)
            """,
            approval);

    /// <summary>Changes the state.</summary>
    public static void Change(Unit unit, ApprovalRecord approval) =>
        unit.Execute(
            """
            UPDATE approval SET state = @State, approved_by = @ApprovedBy, approved_at = @ApprovedAt, remark = @Remark, entries_sha256 = @EntriesSha256
            WHERE id = @Id
            """,
            approval);
}

/// <summary>Files kept by their hash.</summary>
public static class Artefacts
{
    /// <summary>Keeps a file; returns its SHA-256.</summary>
    public static string Keep(Unit unit, byte[] content, string mediaType, string at)
    {
        var sha256 = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(content));
        unit.Execute(
            "INSERT INTO artefact (sha256, media_type, content, created_at) VALUES (@sha256, @mediaType, @content, @at) ON CONFLICT DO NOTHING",
            new { sha256, mediaType, content, at });
        return sha256;
    }

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
    private const string Columns = "id, return_id, approval_id, built_at, schema_sha256, ereturn_sha256, copy_sha256, faults";

    /// <summary>The latest of a return, or null.</summary>
    public static BuiltRecord? Latest(Unit unit, long returnId) =>
        unit.Query<BuiltRecord>($"SELECT {Columns} FROM built_return WHERE return_id = @returnId ORDER BY id DESC LIMIT 1", new { returnId }).FirstOrDefault();

    /// <summary>By id.</summary>
    public static BuiltRecord? Find(Unit unit, long id) => unit.Single<BuiltRecord>($"SELECT {Columns} FROM built_return WHERE id = @id", new { id });

    /// <summary>Keeps a build; returns the id.</summary>
    public static long Add(Unit unit, BuiltRecord built) =>
        unit.Insert(
            """
            INSERT INTO built_return (return_id, approval_id, built_at, schema_sha256, ereturn_sha256, copy_sha256, faults)
            VALUES (@ReturnId, @ApprovalId, @BuiltAt, @SchemaSha256, @EreturnSha256, @CopySha256, @Faults)
            """,
            built);
}

/// <summary>Sendings.</summary>
public static class Sendings
{
    private const string Columns = """
        id, return_id, built_id, idempotency_key, state, attempts, next_attempt_at, submission, acknowledgement, reasons, problem,
        receipt_sha256, created_by, created_at, answered_at
        """;

    /// <summary>Of a return, latest first.</summary>
    public static IReadOnlyList<SendingRecord> OfReturn(Unit unit, long returnId) =>
        [.. unit.Query<SendingRecord>($"SELECT {Columns} FROM sending WHERE return_id = @returnId ORDER BY id DESC", new { returnId })];

    /// <summary>By id.</summary>
    public static SendingRecord? Find(Unit unit, long id) => unit.Single<SendingRecord>($"SELECT {Columns} FROM sending WHERE id = @id", new { id });

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
                acknowledgement = @Acknowledgement, reasons = @Reasons, problem = @Problem, receipt_sha256 = @ReceiptSha256, answered_at = @AnsweredAt
            WHERE id = @Id
            """,
            sending);
}

/// <summary>Schemas fetched from authorities.</summary>
public static class PublishedSchemas
{
    /// <summary>The schema kept for a path, or null.</summary>
    public static string? Find(Unit unit, string path) =>
        unit.Single<string>("SELECT content FROM published_schema WHERE path = @path", new { path });

    /// <summary>Keeps a fetched schema.</summary>
    public static void Keep(Unit unit, string path, string content, string at) =>
        unit.Execute(
            """
            INSERT INTO published_schema (path, sha256, content, fetched_at) VALUES (@path, @sha256, @content, @at)
            ON CONFLICT (path) DO UPDATE SET sha256 = excluded.sha256, content = excluded.content, fetched_at = excluded.fetched_at
            """,
            new { path, sha256 = HashOf(content), content, at });

    /// <summary>SHA-256 of a schema.</summary>
    public static string HashOf(string content) =>
        Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(content)));
}
