namespace Aerarium.Storage;

/// <summary>An act on many returns.</summary>
public sealed record BatchRecord(long Id, string Act, string? Argument, string State, long CreatedBy, string CreatedAt);

/// <summary>One return of a batch and how it went: waiting, done or refused.</summary>
public sealed record BatchItemRecord(long Position, long ReturnId, string State, string? Result, string ClientName, long Year);

/// <summary>How far a batch has come.</summary>
public sealed record BatchCounts(long Total, long Done, long Refused);

/// <summary>Acts on many returns at once. What is done is noted return by return, so that a batch goes on from where it stood.</summary>
public static class Batches
{
    private const string Columns = "id, act, argument, state, created_by, created_at";

    /// <summary>Starts a batch; returns its id.</summary>
    public static long Add(Unit unit, string act, string? argument, long by, string at, IReadOnlyList<long> returns)
    {
        var id = unit.Insert(
            "INSERT INTO batch (act, argument, state, created_by, created_at) VALUES (@act, @argument, 'running', @by, @at)", new { act, argument, by, at });
        for (var position = 0; position < returns.Count; position++)
        {
            unit.Execute(
                "INSERT INTO batch_item (batch_id, position, return_id) VALUES (@id, @position, @returnId)", new { id, position, returnId = returns[position] });
        }

        return id;
    }

    /// <summary>By id, or null.</summary>
    public static BatchRecord? Find(Unit unit, long id) => unit.Single<BatchRecord>($"SELECT {Columns} FROM batch WHERE id = @id", new { id });

    /// <summary>Those of a person, latest first.</summary>
    public static IReadOnlyList<BatchRecord> Of(Unit unit, long personId, int most) =>
        [.. unit.Query<BatchRecord>($"SELECT {Columns} FROM batch WHERE created_by = @personId ORDER BY id DESC LIMIT @most", new { personId, most })];

    /// <summary>The oldest that is running, or null.</summary>
    public static BatchRecord? NextRunning(Unit unit) =>
        unit.Single<BatchRecord>($"SELECT {Columns} FROM batch WHERE state = 'running' ORDER BY id LIMIT 1");

    /// <summary>The next return of a batch that waits, or null.</summary>
    public static BatchItemRecord? NextItem(Unit unit, long id) =>
        unit.Single<BatchItemRecord>($"{ItemSelect} WHERE i.batch_id = @id AND i.state = 'waiting' ORDER BY i.position LIMIT 1", new { id });

    /// <summary>Items in a state, in order.</summary>
    public static IReadOnlyList<BatchItemRecord> Items(Unit unit, long id, string state, int most) =>
        [.. unit.Query<BatchItemRecord>($"{ItemSelect} WHERE i.batch_id = @id AND i.state = @state ORDER BY i.position LIMIT @most", new { id, state, most })];

    /// <summary>How far it has come.</summary>
    public static BatchCounts Counts(Unit unit, long id) =>
        unit.Single<BatchCounts>(
            """
            SELECT COUNT(*) AS total, COALESCE(SUM(state = 'done'), 0) AS done, COALESCE(SUM(state = 'refused'), 0) AS refused
            FROM batch_item WHERE batch_id = @id
            """,
            new { id })!;

    /// <summary>Notes how it went with one return.</summary>
    public static void Note(Unit unit, long id, long position, string state, string? result) =>
        unit.Execute("UPDATE batch_item SET state = @state, result = @result WHERE batch_id = @id AND position = @position", new { id, position, state, result });

    /// <summary>Moves a batch from one state to another; false when it was not in that state.</summary>
    public static bool Move(Unit unit, long id, string from, string to) =>
        unit.Execute("UPDATE batch SET state = @to WHERE id = @id AND state = @from", new { id, from, to }) == 1;

    private const string ItemSelect = """
        SELECT i.position, i.return_id, i.state, i.result, c.name AS client_name, r.year
        FROM batch_item i JOIN tax_return r ON r.id = i.return_id JOIN client c ON c.id = r.client_id
        """;
}
