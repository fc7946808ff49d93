namespace Aerarium.Storage;

/// <summary>What somebody said about a line of a return.</summary>
public sealed record RemarkRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Line.</summary>
    public required string Line { get; init; }

    /// <summary>Row, or empty.</summary>
    public string Row { get; init; } = "";

    /// <summary>What was said.</summary>
    public required string Words { get; init; }

    /// <summary>Who said it.</summary>
    public long PersonId { get; init; }

    /// <summary>Name of who said it.</summary>
    public required string PersonName { get; init; }

    /// <summary>When.</summary>
    public required string At { get; init; }

    /// <summary>Who settled it, or null while it is open.</summary>
    public string? SettledBy { get; init; }

    /// <summary>When it was settled.</summary>
    public string? SettledAt { get; init; }
}

/// <summary>Remarks: one thread for each line and row.</summary>
public static class Remarks
{
    /// <summary>Of a return, oldest first.</summary>
    public static IReadOnlyList<RemarkRecord> Of(Unit unit, long returnId) =>
    [
        .. unit.Query<RemarkRecord>(
            "SELECT id, line, row, words, person_id, person_name, at, settled_by, settled_at FROM remark WHERE return_id = @returnId ORDER BY id", new { returnId }),
    ];

    /// <summary>How many are open.</summary>
    public static long OpenOf(Unit unit, long returnId) =>
        unit.Query<long>("SELECT count(*) FROM remark WHERE return_id = @returnId AND settled_at IS NULL", new { returnId }).Single();

    /// <summary>Adds a remark; returns its id.</summary>
    public static long Add(Unit unit, long returnId, RemarkRecord remark) =>
        unit.Insert(
            "INSERT INTO remark (return_id, line, row, words, person_id, person_name, at) VALUES (@returnId, @Line, @Row, @Words, @PersonId, @PersonName, @At)",
            new { returnId, remark.Line, remark.Row, remark.Words, remark.PersonId, remark.PersonName, remark.At });

    /// <summary>Settles the thread of a line; how many remarks were open.</summary>
    public static int Settle(Unit unit, long returnId, string line, string row, string by, string at) =>
        unit.Execute(
            "UPDATE remark SET settled_by = @by, settled_at = @at WHERE return_id = @returnId AND line = @line AND row = @row AND settled_at IS NULL",
            new { returnId, line, row, by, at });
}
