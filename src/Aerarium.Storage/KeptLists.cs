namespace Aerarium.Storage;

/// <summary>A list somebody kept under a name of their own; the query as JSON.</summary>
public sealed record KeptListRecord(string Name, string Query);

/// <summary>Lists kept by a person.</summary>
public static class KeptLists
{
    /// <summary>Of a person, by name.</summary>
    public static IReadOnlyList<KeptListRecord> Of(Unit unit, long personId) =>
        [.. unit.Query<KeptListRecord>("SELECT name, query FROM kept_list WHERE person_id = @personId ORDER BY name", new { personId })];

    /// <summary>Keeps a list, replacing one of the same name.</summary>
    public static void Put(Unit unit, long personId, KeptListRecord list) =>
        unit.Execute(
            "INSERT INTO kept_list (person_id, name, query) VALUES (@personId, @Name, @Query) ON CONFLICT (person_id, name) DO UPDATE SET query = excluded.query",
            new { personId, list.Name, list.Query });

    /// <summary>Forgets a list; false when there is none of that name.</summary>
    public static bool Remove(Unit unit, long personId, string name) =>
        unit.Execute("DELETE FROM kept_list WHERE person_id = @personId AND name = @name", new { personId, name }) == 1;
}
