namespace Aerarium.Storage;

/// <summary>A document attached to a client, or to one of its returns.</summary>
public sealed record DocumentRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Client.</summary>
    public long ClientId { get; init; }

    /// <summary>Return, or null.</summary>
    public long? ReturnId { get; init; }

    /// <summary>What it is: certificate, letter, receipt ...</summary>
    public required string Kind { get; init; }

    /// <summary>Year it belongs to, or null.</summary>
    public long? Year { get; init; }

    /// <summary>File name.</summary>
    public required string Name { get; init; }

    /// <summary>Media type found in its first bytes.</summary>
    public required string MediaType { get; init; }

    /// <summary>Size.</summary>
    public long Bytes { get; init; }

    /// <summary>Pages, when it has any.</summary>
    public long? Pages { get; init; }

    /// <summary>The file, an artefact.</summary>
    public required string Sha256 { get; init; }

    /// <summary>Who added it.</summary>
    public long AddedBy { get; init; }

    /// <summary>When.</summary>
    public required string AddedAt { get; init; }
}

/// <summary>Documents.</summary>
public static class Documents
{
    private const string Columns = "id, client_id, return_id, kind, year, name, media_type, bytes, pages, sha256, added_by, added_at";

    /// <summary>Of a client, latest year first.</summary>
    public static IReadOnlyList<DocumentRecord> Of(Unit unit, long clientId) =>
        [.. unit.Query<DocumentRecord>($"SELECT {Columns} FROM document WHERE client_id = @clientId ORDER BY year DESC, id DESC", new { clientId })];

    /// <summary>By id, or null.</summary>
    public static DocumentRecord? Find(Unit unit, long id) => unit.Single<DocumentRecord>($"SELECT {Columns} FROM document WHERE id = @id", new { id });

    /// <summary>Adds a document; returns its id.</summary>
    public static long Add(Unit unit, DocumentRecord document) =>
        unit.Insert(
            """
            INSERT INTO document (client_id, return_id, kind, year, name, media_type, bytes, pages, sha256, added_by, added_at)
            VALUES (@ClientId, @ReturnId, @Kind, @Year, @Name, @MediaType, @Bytes, @Pages, @Sha256, @AddedBy, @AddedAt)
            """,
            document);

    /// <summary>Removes a document, and its file unless something else refers to it.</summary>
    public static void Remove(Unit unit, long id)
    {
        unit.Execute("UPDATE statement SET document_id = NULL WHERE document_id = @id", new { id });
        unit.Execute("DELETE FROM document WHERE id = @id", new { id });
        Artefacts.DropUnused(unit);
    }
}

/// <summary>A payer's statement, entered or imported once; returns take it from here.</summary>
public sealed record StatementRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Client.</summary>
    public long ClientId { get; init; }

    /// <summary>Kind of statement, by the country's name for it.</summary>
    public required string Kind { get; init; }

    /// <summary>Year.</summary>
    public long Year { get; init; }

    /// <summary>Whose identifier it bears.</summary>
    public required string Identifier { get; init; }

    /// <summary>Its boxes as JSON: text by name of the box.</summary>
    public required string Boxes { get; init; }

    /// <summary>entered, or the name of the file it came with.</summary>
    public required string Source { get; init; }

    /// <summary>The paper it was copied from, or null.</summary>
    public long? DocumentId { get; init; }

    /// <summary>Raised with every change.</summary>
    public long Revision { get; init; }

    /// <summary>Who added it.</summary>
    public long AddedBy { get; init; }

    /// <summary>When.</summary>
    public required string AddedAt { get; init; }
}

/// <summary>Statements.</summary>
public static class Statements
{
    private const string Columns = "id, client_id, kind, year, identifier, boxes, source, document_id, revision, added_by, added_at";

    /// <summary>Of a client, of one year when given.</summary>
    public static IReadOnlyList<StatementRecord> Of(Unit unit, long clientId, long? year = null) =>
    [
        .. unit.Query<StatementRecord>(
            $"SELECT {Columns} FROM statement WHERE client_id = @clientId AND (@year IS NULL OR year = @year) ORDER BY year DESC, id", new { clientId, year }),
    ];

    /// <summary>By id, or null.</summary>
    public static StatementRecord? Find(Unit unit, long id) => unit.Single<StatementRecord>($"SELECT {Columns} FROM statement WHERE id = @id", new { id });

    /// <summary>Adds a statement; returns its id.</summary>
    public static long Add(Unit unit, StatementRecord statement) =>
        unit.Insert(
            """
            INSERT INTO statement (client_id, kind, year, identifier, boxes, source, document_id, added_by, added_at)
            VALUES (@ClientId, @Kind, @Year, @Identifier, @Boxes, @Source, @DocumentId, @AddedBy, @AddedAt)
            """,
            statement);

    /// <summary>Changes a statement that still has the revision it was read with; false when somebody was faster.</summary>
    public static bool Change(Unit unit, StatementRecord statement) =>
        unit.Execute(
            """
            UPDATE statement SET year = @Year, identifier = @Identifier, boxes = @Boxes, document_id = @DocumentId, revision = revision + 1
            WHERE id = @Id AND revision = @Revision
            """,
            statement) == 1;

    /// <summary>Removes a statement.</summary>
    public static void Remove(Unit unit, long id) => unit.Execute("DELETE FROM statement WHERE id = @id", new { id });
}

/// <summary>A client's consent to ask the authority for what it holds.</summary>
public sealed record ConsentRecord(long ClientId, string GivenOn, string GivenBy, string NotedBy, string NotedAt);

/// <summary>Consents.</summary>
public static class Consents
{
    /// <summary>Of a client, or null.</summary>
    public static ConsentRecord? Find(Unit unit, long clientId) =>
        unit.Single<ConsentRecord>("SELECT client_id, given_on, given_by, noted_by, noted_at FROM consent WHERE client_id = @clientId", new { clientId });

    /// <summary>Notes a consent, replacing an earlier one.</summary>
    public static void Put(Unit unit, ConsentRecord consent) =>
        unit.Execute(
            """
            INSERT INTO consent (client_id, given_on, given_by, noted_by, noted_at) VALUES (@ClientId, @GivenOn, @GivenBy, @NotedBy, @NotedAt)
            ON CONFLICT (client_id) DO UPDATE SET given_on = excluded.given_on, given_by = excluded.given_by, noted_by = excluded.noted_by,
                noted_at = excluded.noted_at
            """,
            consent);

    /// <summary>Takes a consent back; false when there is none.</summary>
    public static bool Remove(Unit unit, long clientId) => unit.Execute("DELETE FROM consent WHERE client_id = @clientId", new { clientId }) == 1;
}

/// <summary>An item ticked off against the paper.</summary>
public sealed record TickRecord(string Item, string TickedBy, string TickedAt);

/// <summary>Ticks.</summary>
public static class Ticks
{
    /// <summary>Of a return.</summary>
    public static IReadOnlyList<TickRecord> Of(Unit unit, long returnId) =>
        [.. unit.Query<TickRecord>("SELECT item, ticked_by, ticked_at FROM item_tick WHERE return_id = @returnId", new { returnId })];

    /// <summary>Ticks an item; false when it is ticked already.</summary>
    public static bool Put(Unit unit, long returnId, TickRecord tick) =>
        unit.Execute(
            "INSERT INTO item_tick (return_id, item, ticked_by, ticked_at) VALUES (@returnId, @Item, @TickedBy, @TickedAt) ON CONFLICT DO NOTHING",
            new { returnId, tick.Item, tick.TickedBy, tick.TickedAt }) == 1;

    /// <summary>Takes a tick back; false when there is none.</summary>
    public static bool Remove(Unit unit, long returnId, string item) =>
        unit.Execute("DELETE FROM item_tick WHERE return_id = @returnId AND item = @item", new { returnId, item }) == 1;
}

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
