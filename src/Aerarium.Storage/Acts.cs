using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Aerarium.Storage;

/// <summary>The Ledger of acts: append-only, every act carrying the hash of the one before.</summary>
public static class Acts
{
    private const string Columns =
        "id, at, person_id, person_name, kind, return_id, client_id, line, row, before, after, origin, previous_hash, hash";

    private const string Beginning = "0000000000000000000000000000000000000000000000000000000000000000";

    /// <summary>Adds an act; must run in the transaction of what it records.</summary>
    public static void Add(Unit unit, ActRecord act)
    {
        var previous = unit.Single<string>("SELECT hash FROM act ORDER BY id DESC LIMIT 1") ?? Beginning;
        var chained = act with { PreviousHash = previous, Hash = HashOf(act, previous) };
        unit.Execute(
            """
            INSERT INTO act (at, person_id, person_name, kind, return_id, client_id, line, row, before, after, origin, previous_hash, hash)
            VALUES (@At, @PersonId, @PersonName, @Kind, @ReturnId, @ClientId, @Line, @Row, @Before, @After, @Origin, @PreviousHash, @Hash)
            """,
            chained);
    }

    /// <summary>The latest acts, of one return when given; acts on clients out of reach are left out.</summary>
    public static IReadOnlyList<ActRecord> Latest(Unit unit, long? returnId, int most, Reach reach) =>
    [
        .. unit.Query<ActRecord>(
            $"""
            SELECT {Columns} FROM act a
            WHERE (@returnId IS NULL OR return_id = @returnId)
                AND NOT EXISTS (
                    SELECT 1 FROM client c
                    WHERE c.id = coalesce(a.client_id, (SELECT client_id FROM tax_return WHERE id = a.return_id)) AND NOT {Reach.Condition})
            ORDER BY id DESC LIMIT @most
            """,
            new { returnId, most, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    /// <summary>Whether a person changed entries of a return.</summary>
    public static bool ChangedEntries(Unit unit, long returnId, long personId) =>
        unit.Single<long>(
            """
            SELECT EXISTS (SELECT 1 FROM act WHERE return_id = @returnId AND person_id = @personId AND kind IN ('entry', 'add-row', 'remove-row', 'take'))
            """,
            new { returnId, personId }) == 1;

    /// <summary>Follows the chain from the beginning; the id of the first act that does not fit, or null when it is unbroken.</summary>
    public static long? FirstBroken(Unit unit)
    {
        var previous = Beginning;
        foreach (var act in unit.Query<ActRecord>($"SELECT {Columns} FROM act ORDER BY id"))
        {
            if (act.PreviousHash != previous || act.Hash != HashOf(act, previous))
            {
                return act.Id;
            }

            previous = act.Hash;
        }

        return null;
    }

    private static string HashOf(ActRecord act, string previous)
    {
        var text = JsonSerializer.Serialize(new object?[]
        {
            previous, act.At, act.PersonId, act.PersonName, act.Kind, act.ReturnId, act.ClientId, act.Line, act.Row, act.Before, act.After, act.Origin,
        });
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
    }
}
