namespace Aerarium.Storage;

/// <summary>A list somebody kept under a name of their own; the query as JSON.</summary>
public sealed record KeptListRecord(string Name, string Query);

/// <summary>Lists kept by a person, of the Desk or of the clients, and what the law is supposed to say.</summary>
public static class KeptLists
{
    /// <summary>The place of returns.</summary>
    public const string Desk = "desk";

    /// <summary>The place of clients.</summary>
    public const string Clients = "clients";

    /// <summary>The place of the law: scenarios.</summary>
    public const string Law = "law";

    /// <summary>Of a person and place, by name.</summary>
    public static IReadOnlyList<KeptListRecord> Of(Unit unit, long personId, string place) =>
        [.. unit.Query<KeptListRecord>("SELECT name, query FROM kept_list WHERE person_id = @personId AND place = @place ORDER BY name", new { personId, place })];

    /// <summary>Keeps a list, replacing one of the same name.</summary>
    public static void Put(Unit unit, long personId, string place, KeptListRecord list) =>
        unit.Execute(
            """
            INSERT INTO kept_list (person_id, place, name, query) VALUES (@personId, @place, @Name, @Query)
            ON CONFLICT (person_id, place, name) DO UPDATE SET query = excluded.query
            """,
            new { personId, place, list.Name, list.Query });

    /// <summary>Forgets a list; false when there is none of that name.</summary>
    public static bool Remove(Unit unit, long personId, string place, string name) =>
        unit.Execute("DELETE FROM kept_list WHERE person_id = @personId AND place = @place AND name = @name", new { personId, place, name }) == 1;
}
