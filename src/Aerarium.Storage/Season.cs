namespace Aerarium.Storage;

/// <summary>How many returns that fall due in a month stand at a stage.</summary>
/// <param name="Month">Year and month, as 2026-04.</param>
/// <param name="Stage">The stage.</param>
/// <param name="Returns">How many.</param>
public sealed record SeasonStage(string Month, string Stage, long Returns);

/// <summary>How many returns took so many days.</summary>
/// <param name="Days">Days from opening to filing.</param>
/// <param name="Returns">How many.</param>
public sealed record SeasonDays(long Days, long Returns);

/// <summary>The practice's season in numbers, over the returns somebody may see.</summary>
public static class Season
{
    /// <summary>Returns to be filed that fall due between two days, by month and stage.</summary>
    public static IReadOnlyList<SeasonStage> Stages(Unit unit, Reach reach, string from, string to) =>
    [
        .. unit.Query<SeasonStage>(
            $"""
            SELECT substr(r.due, 1, 7) AS month, r.stage, COUNT(*) AS returns FROM tax_return r
            WHERE r.filed = 1 AND r.due BETWEEN @from AND @to AND {Reach.ReturnCondition} GROUP BY 1, 2 ORDER BY 1, 2
            """,
            new { from, to, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    /// <summary>Days from opening to the sending that was accepted, of returns that fell due between two days, the fewest first.</summary>
    public static IReadOnlyList<SeasonDays> DaysToFiling(Unit unit, Reach reach, string from, string to) =>
    [
        .. unit.Query<SeasonDays>(
            $"""
            SELECT CAST(julianday(substr(s.created_at, 1, 10)) - julianday(substr(r.opened_at, 1, 10)) AS INTEGER) AS days, COUNT(*) AS returns
            FROM tax_return r JOIN sending s ON s.return_id = r.id AND s.state = 'accepted'
            WHERE r.due BETWEEN @from AND @to AND {Reach.ReturnCondition} GROUP BY 1 ORDER BY 1
            """,
            new { from, to, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    /// <summary>Returns of some kinds that fall due between two days, the latest opened first.</summary>
    public static IReadOnlyList<long> Of(Unit unit, IReadOnlyCollection<string> definitions, Reach reach, string from, string to, int most) =>
    [
        .. unit.Query<long>(
            $"SELECT r.id FROM tax_return r WHERE r.definition IN @definitions AND r.due BETWEEN @from AND @to AND {Reach.ReturnCondition} ORDER BY r.id DESC LIMIT @most",
            new { definitions, from, to, most, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];
}
