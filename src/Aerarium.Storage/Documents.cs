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
