namespace Aerarium.Storage;

/// <summary>Tags of returns.</summary>
public static class Tags
{
    /// <summary>All tags in use within reach.</summary>
    public static IReadOnlyList<string> All(Unit unit, Reach reach) =>
    [
        .. unit.Query<string>(
            $"""
            SELECT DISTINCT t.tag FROM return_tag t JOIN tax_return r ON r.id = t.return_id JOIN client c ON c.id = r.client_id
            WHERE {Reach.Condition} ORDER BY t.tag
            """,
            new { personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    /// <summary>Puts a tag on a return; false when it has it already.</summary>
    public static bool Put(Unit unit, long returnId, string tag) =>
        unit.Execute("INSERT INTO return_tag (return_id, tag) VALUES (@returnId, @tag) ON CONFLICT DO NOTHING", new { returnId, tag }) == 1;

    /// <summary>Takes a tag off a return; false when it does not have it.</summary>
    public static bool Remove(Unit unit, long returnId, string tag) =>
        unit.Execute("DELETE FROM return_tag WHERE return_id = @returnId AND tag = @tag", new { returnId, tag }) == 1;
}
