namespace Aerarium.Storage;

/// <summary>How one client stands to another: <c>client</c> is the child, director, shareholder or subsidiary of <c>of</c>; spouses and associated companies either way.</summary>
public sealed record RelationRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Who is it.</summary>
    public long ClientId { get; init; }

    /// <summary>spouse, child, director, shareholder, subsidiary or associated.</summary>
    public required string Kind { get; init; }

    /// <summary>Of whom.</summary>
    public long OfId { get; init; }
}

/// <summary>Relations between clients.</summary>
public static class Relations
{
    /// <summary>Those of a client, in either direction.</summary>
    public static IReadOnlyList<RelationRecord> Of(Unit unit, long clientId) =>
    [
        .. unit.Query<RelationRecord>(
            "SELECT id, client_id, kind, of_id FROM relation WHERE client_id = @clientId OR of_id = @clientId ORDER BY kind, id", new { clientId }),
    ];

    /// <summary>Those of one kind.</summary>
    public static IReadOnlyList<RelationRecord> OfKind(Unit unit, string kind) =>
        [.. unit.Query<RelationRecord>("SELECT id, client_id, kind, of_id FROM relation WHERE kind = @kind", new { kind })];

    /// <summary>Adds a relation; returns its id.</summary>
    public static long Add(Unit unit, RelationRecord relation) =>
        unit.Insert("INSERT INTO relation (client_id, kind, of_id) VALUES (@ClientId, @Kind, @OfId)", relation);

    /// <summary>Removes a relation.</summary>
    public static void Remove(Unit unit, long id) => unit.Execute("DELETE FROM relation WHERE id = @id", new { id });
}
