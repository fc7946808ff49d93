namespace Aerarium.Storage;

/// <summary>A return on the Desk.</summary>
public sealed record DeskRecord
{
    /// <summary>Return.</summary>
    public long Id { get; init; }

    /// <summary>Client.</summary>
    public long ClientId { get; init; }

    /// <summary>Name of the client.</summary>
    public required string ClientName { get; init; }

    /// <summary>Group of the client, or null.</summary>
    public string? ClientGroup { get; init; }

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

    /// <summary>Day by which it is to be filed.</summary>
    public required string Due { get; init; }

    /// <summary>Balance, canonical decimal text.</summary>
    public required string Balance { get; init; }

    /// <summary>Penalty and interest run so far, canonical decimal text.</summary>
    public required string Charges { get; init; }

    /// <summary>What is left to pay of a filed return, canonical decimal text.</summary>
    public required string Unpaid { get; init; }

    /// <summary>Errors left.</summary>
    public long Errors { get; init; }

    /// <summary>Warnings left.</summary>
    public long Warnings { get; init; }

    /// <summary>One as soon as a person entered anything.</summary>
    public long Started { get; init; }

    /// <summary>Name of who holds it.</summary>
    public required string Holder { get; init; }

    /// <summary>Tags, separated by commas, or null.</summary>
    public string? Tags { get; init; }
}

/// <summary>Which returns the Desk shows, and in which order.</summary>
public sealed record DeskQuery
{
    /// <summary>The list: see <see cref="DeskLists.Names"/>.</summary>
    public string List { get; init; } = "open";

    /// <summary>Words that must all be found in client, identifier, group, year, period or title.</summary>
    public string? Search { get; init; }

    /// <summary>Whether a longer word of them may have a typo.</summary>
    public bool Typos { get; init; }

    /// <summary>Titles of the return types, which are not in the database.</summary>
    public IReadOnlyDictionary<string, string> Titles { get; init; } = new Dictionary<string, string>();

    /// <summary>Held by this person.</summary>
    public long? HolderId { get; init; }

    /// <summary>Carrying this tag.</summary>
    public string? Tag { get; init; }

    /// <summary>Of this return type.</summary>
    public string? Definition { get; init; }

    /// <summary>Of this tax year.</summary>
    public long? Year { get; init; }

    /// <summary>Of this period of the year.</summary>
    public string? Period { get; init; }

    /// <summary>The order: see <see cref="DeskLists.Orders"/>.</summary>
    public string Order { get; init; } = "group";

    /// <summary>Whether the order is turned round.</summary>
    public bool Descending { get; init; }
}

/// <summary>How many returns stand in each list.</summary>
public sealed record DeskCounts(long All, long Open, long NotStarted, long Waiting, long Approved, long Sent, long Rejected, long Overdue, long Accepted, long Unpaid, long Soon);

/// <summary>Returns due in the week that begins on a Monday, and how many of them are filed.</summary>
public sealed record DeskWeek
{
    /// <summary>The Monday.</summary>
    public required string Monday { get; init; }

    /// <summary>Returns due.</summary>
    public long Due { get; init; }

    /// <summary>Of those, sent or accepted.</summary>
    public long Filed { get; init; }
}

/// <summary>The Desk's lists: filtered, ordered and cut into pages by the database.</summary>
public static class DeskLists
{
    private const string From = "FROM tax_return r JOIN client c ON c.id = r.client_id JOIN person p ON p.id = r.holder_id";

    /// <summary>Returns of a large practice, by which reading along an index and sorting are weighed.</summary>
    private const long LargePractice = 100_000;

    /// <summary>What goes to no authority is done once it is approved.</summary>
    private const string DoneUnfiled = "(r.stage = 'approved' AND r.filed = 0)";

    private static readonly Dictionary<string, string> Lists = new()
    {
        ["open"] = $"r.stage <> 'accepted' AND NOT {DoneUnfiled}",
        ["not-started"] = "r.stage = 'open' AND r.started = 0",
        ["waiting"] = "r.stage = 'waiting'",
        ["approved"] = "r.stage = 'approved' AND r.filed = 1",
        ["sent"] = "r.stage = 'sent'",
        ["rejected"] = "r.stage = 'rejected'",
        ["overdue"] = $"r.stage NOT IN ('accepted', 'sent') AND NOT {DoneUnfiled} AND r.due < @today",
        ["accepted"] = "r.stage = 'accepted'",
        ["unpaid"] = "r.stage IN ('sent', 'accepted') AND r.unpaid <> '0'",
        ["all"] = "1 = 1",
    };

    private static readonly Dictionary<string, string[]> OrderColumns = new()
    {
        ["group"] = ["c.client_group IS NULL", "c.client_group"],
        ["client"] = ["c.name"],
        ["due"] = ["r.due"],
        ["stage"] = ["r.stage", "r.started"],
        ["findings"] = ["r.errors", "r.warnings"],
        ["balance"] = ["CAST(r.balance AS INTEGER)", "r.balance"],
        ["holder"] = ["p.name"],
        ["year"] = ["r.year"],
    };

    /// <summary>Names of the lists.</summary>
    public static IReadOnlyCollection<string> Names => Lists.Keys;

    /// <summary>Names of the orders.</summary>
    public static IReadOnlyCollection<string> Orders => OrderColumns.Keys;

    /// <summary>A page of a list.</summary>
    /// <param name="unit">Unit of work.</param>
    /// <param name="query">The list.</param>
    /// <param name="reach">Whose returns it shows.</param>
    /// <param name="today">The day.</param>
    /// <param name="offset">How many to pass over.</param>
    /// <param name="most">How many to give.</param>
    /// <param name="total">How many the list has, when that is known.</param>
    public static IReadOnlyList<DeskRecord> Page(Unit unit, DeskQuery query, Reach reach, string today, int offset, int most, long total = 0) =>
    [
        .. unit.Query<DeskRecord>(
            $"""
            WITH page AS MATERIALIZED (
                SELECT r.id AS page_id {Driven(query, total, offset + most)} WHERE {Where(query)} ORDER BY {Ordered(query)} LIMIT @most OFFSET @offset)
            SELECT r.id, r.client_id, c.name AS client_name, c.client_group, r.definition, r.year, r.period, r.kind, r.stage, r.due, r.balance, r.charges, r.unpaid,
                   r.errors, r.warnings, r.started, p.name AS holder,
                   (SELECT group_concat(tag, ',') FROM return_tag t WHERE t.return_id = r.id) AS tags
            FROM page JOIN tax_return r ON r.id = page_id JOIN client c ON c.id = r.client_id JOIN person p ON p.id = r.holder_id
            ORDER BY {Ordered(query)}
            """,
            Values(query, reach, today, offset, most)),
    ];

    /// <summary>How many returns a list has: all of the practice's, less the few that are out of reach, which is sooner counted than asking of every one.</summary>
    public static long Count(Unit unit, DeskQuery query, Reach reach, string today)
    {
        // Nearly everything is open, and all are sooner counted than all but a few.
        return query.List == "open"
            ? Counted(unit, query with { List = "all" }, reach, today) - Counted(unit, query with { List = "all" }, reach, today, $" AND (r.stage = 'accepted' OR {DoneUnfiled})")
            : Counted(unit, query, reach, today);
    }

    private static long Counted(Unit unit, DeskQuery query, Reach reach, string today, string further = "")
    {
        var values = Values(query, reach, today, 0, 0);
        var counted = $"SELECT COUNT(*) FROM tax_return r{(query.Search is null ? "" : " JOIN client c ON c.id = r.client_id")} WHERE {Asked(query)}{further}";
        return unit.Single<long>(counted, values) - (reach.SeesAll ? 0 : unit.Single<long>($"{counted} AND r.client_id IN ({Reach.Hidden})", values));
    }

    /// <summary>The returns of a list.</summary>
    public static IReadOnlyList<long> Ids(Unit unit, DeskQuery query, Reach reach, string today, int most) =>
        [.. unit.Query<long>($"SELECT r.id {From} WHERE {Where(query)} ORDER BY r.due, c.name, r.id LIMIT @most", Values(query, reach, today, 0, most))];

    /// <summary>How many returns within reach stand in each list; soon is due between today and the other day.</summary>
    public static DeskCounts Counts(Unit unit, Reach reach, string today, string soon) =>
        unit.Single<DeskCounts>(
            $"""
            SELECT COALESCE(SUM(n), 0) AS "all", {string.Join(", ", Lists.Where(l => l.Key != "all").Select(l => $"COALESCE(SUM(n * ({l.Value})), 0) AS \"{l.Key.Replace('-', '_')}\""))},
                   COALESCE(SUM(n * (r.stage NOT IN ('accepted', 'sent') AND NOT {DoneUnfiled} AND r.due BETWEEN @today AND @soon)), 0) AS soon
            FROM (SELECT stage, filed, started, due, unpaid, COUNT(*) AS n FROM tax_return r WHERE {Reach.ReturnCondition} GROUP BY stage, filed, started, due, unpaid) r
            """,
            new { today, soon, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 })!;

    /// <summary>Weeks between two days in which returns within reach fall due.</summary>
    public static IReadOnlyList<DeskWeek> Weeks(Unit unit, Reach reach, string from, string to) =>
    [
        .. unit.Query<DeskWeek>(
            $"""
            SELECT date(r.due, 'weekday 0', '-6 days') AS monday, SUM(n) AS due, SUM(n * (r.stage IN ('accepted', 'sent') OR {DoneUnfiled})) AS filed
            FROM (SELECT due, stage, filed, COUNT(*) AS n FROM tax_return r WHERE {Reach.ReturnCondition} AND r.due BETWEEN @from AND @to GROUP BY due, stage, filed) r
            GROUP BY 1 ORDER BY 1
            """,
            new { from, to, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    /// <summary>Returns a person holds that are to be filed between two days, soonest first.</summary>
    public static IReadOnlyList<DeskRecord> DueSoon(Unit unit, long personId, string today, string until, int most) =>
    [
        .. unit.Query<DeskRecord>(
            $"""
            SELECT r.id, c.name AS client_name, r.year, r.period, r.due {From}
            WHERE r.holder_id = @personId AND r.stage NOT IN ('sent', 'accepted') AND NOT {DoneUnfiled} AND r.due BETWEEN @today AND @until ORDER BY r.due, c.name LIMIT @most
            """,
            new { personId, today, until, most }),
    ];

    /// <summary>Returns within reach that were sent before a moment and are not answered, longest waiting first.</summary>
    public static IReadOnlyList<DeskRecord> Unanswered(Unit unit, Reach reach, string before, int most) =>
    [
        .. unit.Query<DeskRecord>(
            $"""
            SELECT r.id, c.name AS client_name, r.year, r.period, substr(s.created_at, 1, 10) AS due {From} JOIN sending s ON s.return_id = r.id
            WHERE s.state IN ('queued', 'pending') AND s.created_at < @before AND {Reach.Condition} ORDER BY s.created_at LIMIT @most
            """,
            new { before, most, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    private static string Ordered(DeskQuery query) =>
        $"{string.Join(", ", OrderColumns[query.Order].Select(c => query.Descending ? $"{c} DESC" : c))}, c.name, r.year DESC, r.period DESC, r.id";

    /// <summary>
    /// Where a page is read from. A long list in the order of clients is read along the index that has that order, until the page is full; of a short one
    /// all is read and sorted, for along the index one would look at nearly every client.
    /// </summary>
    private static string Driven(DeskQuery query, long total, int wanted) =>
        query.Order is "group" or "client" && total * total > LargePractice * wanted ? "FROM client c CROSS JOIN tax_return r INDEXED BY return_of_client ON r.client_id = c.id"
        : query.Order == "holder" ? From
        : "FROM tax_return r JOIN client c ON c.id = r.client_id";

    private static string Where(DeskQuery query) => $"{Reach.ReturnCondition} AND {Asked(query)}";

    /// <summary>What is asked for, whoever asks.</summary>
    private static string Asked(DeskQuery query)
    {
        var conditions = new List<string> { Lists[query.List] };
        var title = query.Titles.Count == 0 ? "''" : $"CASE r.definition {string.Concat(query.Titles.Select((_, i) => $"WHEN @titled{i} THEN @title{i} "))}ELSE '' END";
        conditions.AddRange(Search.Conditions($"(c.name || ' ' || c.identifier || ' ' || COALESCE(c.client_group, '') || ' ' || r.year || ' ' || r.period || ' ' || {title})", query.Search, query.Typos));
        void If(bool asked, string condition)
        {
            if (asked)
            {
                conditions.Add(condition);
            }
        }

        If(query.HolderId is not null, "r.holder_id = @HolderId");
        If(query.Tag is not null, "EXISTS (SELECT 1 FROM return_tag t WHERE t.return_id = r.id AND t.tag = @Tag)");
        If(query.Definition is not null, "r.definition = @Definition");
        If(query.Year is not null, "r.year = @Year");
        If(query.Period is not null, "r.period = @Period");
        return string.Join(" AND ", conditions);
    }

    private static Dapper.DynamicParameters Values(DeskQuery query, Reach reach, string today, int offset, int most)
    {
        var values = new Dapper.DynamicParameters(
            new { query.HolderId, query.Tag, query.Definition, query.Year, query.Period, today, offset, most, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 });
        Search.Add(values, query.Search);
        foreach (var (index, (definition, title)) in query.Titles.Index())
        {
            values.Add($"titled{index}", definition);
            values.Add($"title{index}", title);
        }

        return values;
    }
}
