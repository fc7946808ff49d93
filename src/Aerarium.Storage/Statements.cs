namespace Aerarium.Storage;

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
