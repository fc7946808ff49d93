namespace Aerarium.Storage;

/// <summary>Where a return stands.</summary>
public static class Stage
{
    /// <summary>Being filled in.</summary>
    public const string Open = "open";

    /// <summary>Handed over, waiting for approval.</summary>
    public const string Waiting = "waiting";

    /// <summary>Approved and frozen.</summary>
    public const string Approved = "approved";

    /// <summary>On its way or received, not yet answered.</summary>
    public const string Sent = "sent";

    /// <summary>Rejected by the authority; open again for correction.</summary>
    public const string Rejected = "rejected";

    /// <summary>Accepted by the authority.</summary>
    public const string Accepted = "accepted";

    /// <summary>Whether entries may be changed at this stage.</summary>
    public static bool CanChange(string stage) => stage is Open or Waiting or Approved or Rejected;
}

/// <summary>A return with what lists show of it.</summary>
public sealed record ReturnRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Client.</summary>
    public long ClientId { get; init; }

    /// <summary>Country and return.</summary>
    public required string Definition { get; init; }

    /// <summary>Tax year.</summary>
    public long Year { get; init; }

    /// <summary>Period of the year; empty for the whole year.</summary>
    public string Period { get; init; } = "";

    /// <summary>Original or amended.</summary>
    public required string Kind { get; init; }

    /// <summary>See <see cref="Storage.Stage"/>.</summary>
    public required string Stage { get; init; }

    /// <summary>Raised with every edit.</summary>
    public long Revision { get; init; }

    /// <summary>Who holds it.</summary>
    public long HolderId { get; init; }

    /// <summary>When it was opened.</summary>
    public required string OpenedAt { get; init; }

    /// <summary>Day by which it is to be filed.</summary>
    public required string Due { get; init; }

    /// <summary>Whether it goes to an authority.</summary>
    public bool Filed { get; init; } = true;

    /// <summary>Balance, canonical decimal text.</summary>
    public string Balance { get; init; } = "0";

    /// <summary>Errors left.</summary>
    public long Errors { get; init; }

    /// <summary>Warnings neither corrected nor accepted.</summary>
    public long Warnings { get; init; }

    /// <summary>One as soon as a person entered anything.</summary>
    public long Started { get; init; }

    /// <summary>Penalty and interest run until <see cref="CheckedOn"/>, canonical decimal text.</summary>
    public string Charges { get; init; } = "0";

    /// <summary>What is left to pay of a filed return, canonical decimal text.</summary>
    public string Unpaid { get; init; } = "0";

    /// <summary>Day of the evaluation that lists show.</summary>
    public string CheckedOn { get; init; } = "";

    /// <summary>Number of the edition of the law it is computed by; 0 for the product's own law.</summary>
    public long LawEdition { get; init; }
}

/// <summary>What lists show of a return, as one evaluation found it.</summary>
/// <param name="Revision">Revision evaluated.</param>
/// <param name="Balance">Balance, canonical decimal text.</param>
/// <param name="Errors">Errors left.</param>
/// <param name="Warnings">Warnings left.</param>
/// <param name="Due">Day by which it is to be filed, extensions included.</param>
/// <param name="Charges">Penalty and interest run so far, canonical decimal text.</param>
/// <param name="CheckedOn">Day of evaluation.</param>
public sealed record ReturnSummary(long Revision, string Balance, int Errors, int Warnings, string Due, string Charges, string CheckedOn);

/// <summary>Returns, their rows and entries.</summary>
public static class Returns
{
    private const string Columns =
        "id, client_id, definition, year, period, kind, stage, revision, holder_id, opened_at, due, balance, errors, warnings, started, charges, unpaid, checked_on, law_edition";

    /// <summary>Every return, in the order in which they were opened.</summary>
    public static IReadOnlyList<ReturnRecord> All(Unit unit) => [.. unit.Query<ReturnRecord>($"SELECT {Columns} FROM tax_return ORDER BY id")];

    /// <summary>Those that a condition over their own columns holds for.</summary>
    internal static IReadOnlyList<ReturnRecord> Where(Unit unit, string condition, object? values = null) =>
        [.. unit.Query<ReturnRecord>($"SELECT {Columns} FROM tax_return WHERE {condition} ORDER BY id", values)];

    /// <summary>By id, or null.</summary>
    public static ReturnRecord? Find(Unit unit, long id) => unit.Single<ReturnRecord>($"SELECT {Columns} FROM tax_return WHERE id = @id", new { id });

    /// <summary>Returns of a client, latest year first.</summary>
    public static IReadOnlyList<ReturnRecord> OfClient(Unit unit, long clientId) =>
        [.. unit.Query<ReturnRecord>($"SELECT {Columns} FROM tax_return WHERE client_id = @clientId ORDER BY year DESC, period DESC, id", new { clientId })];

    /// <summary>All original and amended returns of a kind that somebody may see, by client and year, the latest of a year first.</summary>
    public static IReadOnlyList<ReturnRecord> OfKind(Unit unit, string definition, Reach reach) =>
        [.. unit.Query<ReturnRecord>(
            $"SELECT {Columns} FROM tax_return r WHERE definition = @definition AND {Reach.ReturnCondition} ORDER BY client_id, year DESC, id DESC",
            new { definition, seesAll = reach.SeesAll ? 1 : 0, personId = reach.PersonId })];

    /// <summary>The client's return of a year and period, the latest when there are several, or null.</summary>
    public static ReturnRecord? FindOf(Unit unit, long clientId, string definition, long year, string period) =>
        unit.Query<ReturnRecord>(
            $"SELECT {Columns} FROM tax_return WHERE client_id = @clientId AND definition = @definition AND year = @year AND period = @period ORDER BY id DESC LIMIT 1",
            new { clientId, definition, year, period }).FirstOrDefault();

    /// <summary>Opens a return; returns the id.</summary>
    public static long Add(Unit unit, ReturnRecord item) =>
        unit.Insert(
            """
            INSERT INTO tax_return (id, client_id, definition, year, period, kind, stage, holder_id, opened_at, due, filed, law_edition)
            VALUES (CASE WHEN @ClientId >= @FirstKept THEN coalesce((SELECT max(id) FROM tax_return), @ClientId) + 1 END,
                @ClientId, @Definition, @Year, @Period, @Kind, @Stage, @HolderId, @OpenedAt, @Due, @Filed,
                coalesce((SELECT max(number) FROM law_edition WHERE definition = @Definition AND year = @Year AND period = @Period), 0))
            """,
            new
            {
                item.ClientId,
                item.Definition,
                item.Year,
                item.Period,
                item.Kind,
                item.Stage,
                item.HolderId,
                item.OpenedAt,
                item.Due,
                Filed = item.Filed ? 1 : 0,
                FirstKept = KeptClients.FirstId,
            });

    /// <summary>
    /// Moves a return to a stage. One that is approved or filed keeps the law it was approved under; one that is open again follows the latest edition, and
    /// what lists show of it is to be computed anew where that is another.
    /// </summary>
    public static void SetStage(Unit unit, long id, string stage)
    {
        unit.Execute("UPDATE tax_return SET stage = @stage WHERE id = @id", new { id, stage });
        if (stage is Stage.Open or Stage.Rejected)
        {
            unit.Execute($"UPDATE tax_return SET law_edition = {LawEditions.LatestOfReturn}, checked_on = '' WHERE id = @id AND law_edition <> {LawEditions.LatestOfReturn}", new { id });
        }
    }

    /// <summary>Gives a return to another person.</summary>
    public static void SetHolder(Unit unit, long id, long holderId) =>
        unit.Execute("UPDATE tax_return SET holder_id = @holderId WHERE id = @id", new { id, holderId });

    /// <summary>Keeps what lists show, after an edit or a new day.</summary>
    public static void KeepSummary(Unit unit, long id, ReturnSummary summary, bool started) =>
        unit.Execute(
            """
            UPDATE tax_return SET revision = @Revision, balance = @Balance, errors = @Errors, warnings = @Warnings, due = @Due, charges = @Charges,
                checked_on = @CheckedOn, started = max(started, @started)
            WHERE id = @id
            """,
            new
            {
                id,
                summary.Revision,
                summary.Balance,
                summary.Errors,
                summary.Warnings,
                summary.Due,
                summary.Charges,
                summary.CheckedOn,
                started = started ? 1 : 0,
            });

    /// <summary>Open returns past their day that were last evaluated before a day, oldest deadline first.</summary>
    public static IReadOnlyList<long> ToCheckAgain(Unit unit, string today, int most) =>
    [
        .. unit.Query<long>(
            "SELECT id FROM tax_return WHERE stage NOT IN ('sent', 'accepted') AND checked_on < @today ORDER BY due, id LIMIT @most",
            new { today, most }),
    ];

    /// <summary>Notes that a return was looked at on a day.</summary>
    public static void NoteChecked(Unit unit, long id, string today) =>
        unit.Execute("UPDATE tax_return SET checked_on = @today WHERE id = @id", new { id, today });

    /// <summary>Open returns of a country that can still change.</summary>
    public static IReadOnlyList<ReturnRecord> OpenOf(Unit unit, string country) =>
    [
        .. unit.Query<ReturnRecord>(
            $"SELECT {Columns} FROM tax_return WHERE stage NOT IN ('sent', 'accepted') AND definition LIKE @country || '/%' ORDER BY id",
            new { country }),
    ];

    /// <summary>All entries.</summary>
    public static IReadOnlyList<EntryRecord> Entries(Unit unit, long id) =>
    [
        .. unit.Query<EntryRecord>(
            "SELECT line, row, value, origin, source, expression, revision, changed_by, changed_at FROM entry WHERE return_id = @id",
            new { id }),
    ];

    /// <summary>Entries on some lines, outside rows, in every open return of a type, year and period.</summary>
    public static IReadOnlyDictionary<(long ReturnId, string Line), EntryRecord> EntriesOn(Unit unit, string definition, long year, string period, IReadOnlyList<string> lines)
    {
        var found = new Dictionary<(long, string), EntryRecord>();
        foreach (var line in lines)
        {
            var rows = unit.Query<OfReturn>(
                """
                SELECT e.return_id, e.line, e.row, e.value, e.origin, e.source, e.expression, e.revision, e.changed_by, e.changed_at
                FROM tax_return r JOIN entry e ON e.return_id = r.id AND e.line = @line AND e.row = ''
                WHERE r.definition = @definition AND r.year = @year AND r.period = @period AND r.stage NOT IN ('sent', 'accepted')
                """,
                new { line, definition, year, period });
            foreach (var row in rows)
            {
                found[(row.ReturnId, line)] = new EntryRecord(row.Line, row.Row, row.Value, row.Origin, row.Source, row.Expression, row.Revision, row.ChangedBy, row.ChangedAt);
            }
        }

        return found;
    }

    private sealed record OfReturn(
        long ReturnId, string Line, string Row, string? Value, string Origin, string? Source, string? Expression, long Revision, long ChangedBy, string ChangedAt);

    /// <summary>All rows, in order.</summary>
    public static IReadOnlyList<RowRecord> Rows(Unit unit, long id) =>
        [.. unit.Query<RowRecord>("SELECT section, row, position FROM entry_row WHERE return_id = @id ORDER BY section, position", new { id })];

    /// <summary>Writes an entry.</summary>
    public static void Put(Unit unit, long id, EntryRecord entry) =>
        unit.Execute(
            """
            INSERT INTO entry (return_id, line, row, value, origin, source, expression, revision, changed_by, changed_at)
            VALUES (@id, @Line, @Row, @Value, @Origin, @Source, @Expression, @Revision, @ChangedBy, @ChangedAt)
            ON CONFLICT (return_id, line, row) DO UPDATE SET value = excluded.value, origin = excluded.origin, source = excluded.source,
                expression = excluded.expression, revision = excluded.revision, changed_by = excluded.changed_by, changed_at = excluded.changed_at
            """,
            new { id, entry.Line, entry.Row, entry.Value, entry.Origin, entry.Source, entry.Expression, entry.Revision, entry.ChangedBy, entry.ChangedAt });

    /// <summary>Keeps the order of a section's rows; only what is between the rows at both ends that stay is written.</summary>
    /// <param name="unit">The unit of work.</param>
    /// <param name="id">The return.</param>
    /// <param name="section">Key of the repeating section.</param>
    /// <param name="before">The order as stored.</param>
    /// <param name="rows">The order from now on.</param>
    public static void PutRows(Unit unit, long id, string section, IReadOnlyList<string> before, IReadOnlyList<string> rows)
    {
        var start = 0;
        while (start < before.Count && start < rows.Count && before[start] == rows[start])
        {
            start++;
        }

        var end = 0;
        while (end < before.Count - start && end < rows.Count - start && before[^(end + 1)] == rows[^(end + 1)])
        {
            end++;
        }

        unit.Execute(
            "DELETE FROM entry_row WHERE return_id = @id AND section = @section AND position BETWEEN @start AND @last",
            new { id, section, start, last = before.Count - end - 1 });
        if (end > 0 && before.Count != rows.Count)
        {
            unit.Execute(
                "UPDATE entry_row SET position = position + @by WHERE return_id = @id AND section = @section AND position >= @from",
                new { id, section, by = rows.Count - before.Count, from = before.Count - end });
        }

        for (var position = start; position < rows.Count - end; position++)
        {
            unit.Execute(
                "INSERT INTO entry_row (return_id, section, row, position) VALUES (@id, @section, @row, @position)",
                new { id, section, row = rows[position], position });
        }
    }
}
