using System.Security.Cryptography;
using System.Text;
using Aerarium.Core.Ledger;

namespace Aerarium.Storage;

/// <summary>An act: who did what, when, and what it changed.</summary>
public sealed record ActRecord
{
    /// <summary>Id, rising.</summary>
    public long Id { get; init; }

    /// <summary>When.</summary>
    public required string At { get; init; }

    /// <summary>Who; null for the system.</summary>
    public long? PersonId { get; init; }

    /// <summary>Name of who.</summary>
    public required string PersonName { get; init; }

    /// <summary>What: entry, add-row, hand-over, approve, send ...</summary>
    public required string Kind { get; init; }

    /// <summary>Return.</summary>
    public long? ReturnId { get; init; }

    /// <summary>Client.</summary>
    public long? ClientId { get; init; }

    /// <summary>Line.</summary>
    public string? Line { get; init; }

    /// <summary>Row.</summary>
    public string? Row { get; init; }

    /// <summary>Before.</summary>
    public string? Before { get; init; }

    /// <summary>After.</summary>
    public string? After { get; init; }

    /// <summary>Origin of the new value.</summary>
    public string? Origin { get; init; }

    /// <summary>For an edit: the seal over everything entered on the return, in hexadecimal digits.</summary>
    public string? Seal { get; init; }

    /// <summary>The deleted client with whom its contents were erased, or null.</summary>
    public long? ErasedWith { get; init; }

    /// <summary>Hash of the act before.</summary>
    public string PreviousHash { get; init; } = "";

    /// <summary>Hash of this act and the hash before.</summary>
    public string Hash { get; init; } = "";
}

/// <summary>Which acts are asked for; null asks for nothing.</summary>
/// <param name="Client">Words that the client's name or identifier holds.</param>
/// <param name="PersonName">By whom.</param>
/// <param name="Kind">Of a kind.</param>
/// <param name="ReturnId">On a return.</param>
/// <param name="From">From a moment on.</param>
/// <param name="To">Before a moment.</param>
/// <param name="Before">Earlier than an act, by its id.</param>
public sealed record ActQuery(
    string? Client = null, string? PersonName = null, string? Kind = null, long? ReturnId = null, string? From = null, string? To = null, long? Before = null);

/// <summary>The Ledger of acts: append-only, every act carrying the hash of the one before.</summary>
public static class Acts
{
    private const string Columns =
        "id, at, person_id, person_name, kind, return_id, client_id, line, row, before, after, origin, seal, erased_with, previous_hash, hash";

    internal const string DeleteClient = "delete-client";

    /// <summary>Adds an act; must run in the transaction of what it records.</summary>
    public static void Add(Unit unit, ActRecord act)
    {
        var previous = unit.Single<string>("SELECT hash FROM act ORDER BY id DESC LIMIT 1") ?? ActHash.Beginning;
        var chained = act with { PreviousHash = previous, Hash = HashOf(act, previous) };
        unit.Execute(
            """
            INSERT INTO act (at, person_id, person_name, kind, return_id, client_id, line, row, before, after, origin, seal, previous_hash, hash)
            VALUES (@At, @PersonId, @PersonName, @Kind, @ReturnId, @ClientId, @Line, @Row, @Before, @After, @Origin, @Seal, @PreviousHash, @Hash)
            """,
            chained);
    }

    /// <summary>The acts asked for, latest first; acts on clients out of reach are left out.</summary>
    public static IReadOnlyList<ActRecord> Find(Unit unit, ActQuery query, int most, Reach reach)
    {
        var values = new Dapper.DynamicParameters(new
        {
            query.PersonName,
            query.Kind,
            query.ReturnId,
            query.From,
            query.To,
            query.Before,
            most,
            personId = reach.PersonId,
            seesAll = reach.SeesAll ? 1 : 0,
        });
        Search.Add(values, query.Client);
        var conditions = new List<string>();
        void When(bool asked, string condition)
        {
            if (asked)
            {
                conditions.Add(condition);
            }
        }

        When(query.PersonName is not null, "a.person_name = @PersonName");
        When(query.Kind is not null, "a.kind = @Kind");
        When(query.ReturnId is not null, "a.return_id = @ReturnId");
        When(query.From is not null, "a.at >= @From");
        When(query.To is not null, "a.at < @To");
        When(query.Before is not null, "a.id < @Before");
        var named = Search.Conditions("(c.name || ' ' || c.identifier)", query.Client, typos: false).ToList();
        When(named.Count > 0, $"EXISTS (SELECT 1 FROM client c WHERE c.id = {ClientOfAct} AND {string.Join(" AND ", named)})");
        conditions.Add($"NOT EXISTS (SELECT 1 FROM client c WHERE c.id = {ClientOfAct} AND NOT {Reach.Condition})");
        return [.. unit.Query<ActRecord>($"SELECT {Columns} FROM act a WHERE {string.Join(" AND ", conditions)} ORDER BY id DESC LIMIT @most", values)];
    }

    private const string ClientOfAct = "coalesce(a.client_id, (SELECT client_id FROM tax_return WHERE id = a.return_id))";

    /// <summary>The acts on a return, in order.</summary>
    public static IReadOnlyList<ActRecord> OfReturn(Unit unit, long returnId) =>
        [.. unit.Query<ActRecord>($"SELECT {Columns} FROM act WHERE return_id = @returnId ORDER BY id", new { returnId })];

    /// <summary>The acts about a client and its returns, latest first.</summary>
    public static IReadOnlyList<ActRecord> OfClient(Unit unit, long clientId, int most) =>
    [
        .. unit.Query<ActRecord>(
            $"""
            SELECT {Columns} FROM act
            WHERE client_id = @clientId OR return_id IN (SELECT id FROM tax_return WHERE client_id = @clientId)
            ORDER BY id DESC LIMIT @most
            """,
            new { clientId, most }),
    ];

    /// <summary>Whether a person changed entries of a return.</summary>
    public static bool ChangedEntries(Unit unit, long returnId, long personId) =>
        unit.Single<long>(
            """
            SELECT EXISTS (SELECT 1 FROM act WHERE return_id = @returnId AND person_id = @personId AND kind IN ('entry', 'add-row', 'remove-row', 'take'))
            """,
            new { returnId, personId }) == 1;

    /// <summary>How many there are.</summary>
    public static long Count(Unit unit) => unit.Single<long>("SELECT COUNT(*) FROM act");

    /// <summary>The hash of an act; null when it is gone.</summary>
    internal static string? HashAt(Unit unit, long id) => unit.Single<string>("SELECT hash FROM act WHERE id = @id", new { id });

    /// <summary>The acts after one, in order, one at a time.</summary>
    internal static IEnumerable<ActRecord> After(Unit unit, long id) => unit.Stream<ActRecord>($"SELECT {Columns} FROM act WHERE id > @id ORDER BY id", new { id });

    /// <summary>The acts that a deletion of a client erased, in order. Ids of clients may come again, so a deletion before it bounds them.</summary>
    internal static IReadOnlyList<ActRecord> ErasedBy(Unit unit, ActRecord deletion) =>
    [
        .. unit.Query<ActRecord>(
            $"""
            SELECT {Columns} FROM act
            WHERE erased_with = CAST(@Before AS INTEGER) AND id < @Id
                AND id > coalesce((SELECT max(id) FROM act WHERE kind = @DeleteClient AND before = @Before AND id < @Id), 0)
            ORDER BY id
            """,
            new { deletion.Before, deletion.Id, DeleteClient }),
    ];

    /// <summary>The first act that is empty though no deletion of a client names it; null when there is none.</summary>
    internal static long? FirstErasedWithoutDeletion(Unit unit) => unit.Single<long?>(
        """
        SELECT min(a.id) FROM act a
        WHERE a.erased_with IS NOT NULL
            AND NOT EXISTS (SELECT 1 FROM act d WHERE d.id > a.id AND d.kind = @DeleteClient AND d.erased_with IS NULL AND d.before = CAST(a.erased_with AS TEXT))
        """,
        new { DeleteClient });

    /// <summary>
    /// Erases what the acts about a client and its returns say, as part of deleting it. Their hashes stay, so that the
    /// chain holds, and the act that is added here names them: only acts erased in this way may be empty.
    /// </summary>
    public static void EraseAbout(Unit unit, long clientId, ActRecord deletion)
    {
        const string about = "client_id = @clientId OR return_id IN (SELECT id FROM tax_return WHERE client_id = @clientId)";
        var acts = unit.Query<ActRecord>($"SELECT {Columns} FROM act WHERE {about} ORDER BY id", new { clientId }).ToList();
        unit.Execute(
            $"""
            UPDATE act SET erased_with = @clientId, person_id = NULL, person_name = '', return_id = NULL, client_id = NULL, line = NULL, row = NULL,
                before = NULL, after = NULL, origin = NULL, seal = NULL
            WHERE {about}
            """,
            new { clientId });
        Add(unit, deletion with { Kind = DeleteClient, Before = $"{clientId}", After = Erasure(acts) });
    }

    internal static string Erasure(IReadOnlyList<ActRecord> acts) =>
        $"{acts.Count} acts erased, sha256 {Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(string.Concat(acts.Select(a => a.Hash)))))}";

    internal static string HashOf(ActRecord act, string previous) => ActHash.Of(
        previous, act.At, act.PersonId, act.PersonName, act.Kind, act.ReturnId, act.ClientId, act.Line, act.Row, act.Before, act.After, act.Origin, act.Seal);
}
