namespace Aerarium.Core.Entries;

/// <summary>Where a value came from.</summary>
public enum Origin
{
    /// <summary>A person typed it.</summary>
    Typed,

    /// <summary>A payer's statement that was entered or imported.</summary>
    Statement,

    /// <summary>The authority's record.</summary>
    Authority,

    /// <summary>The particulars kept with the client.</summary>
    Client,

    /// <summary>The particulars the practice keeps for the country.</summary>
    Practice,

    /// <summary>Last year's return.</summary>
    LastYear,

    /// <summary>Another return it is tied to.</summary>
    Tied,

    /// <summary>A file.</summary>
    Imported,

    /// <summary>The documents attached to the return, counted.</summary>
    Attached,
}

/// <summary>One row of a repeating section: a stable id and its values by column name.</summary>
/// <param name="Id">Stable id of the row.</param>
public sealed record EntryRow(string Id)
{
    /// <summary>Canonical values by column name.</summary>
    public Dictionary<string, string> Values { get; init; } = [];
}

/// <summary>
/// What people gave: canonical texts by line key, and rows by repeating section. Amounts with a decimal point and no
/// grouping, dates as 2025-12-31, answers as yes or no, choices by code, row references by row id.
/// </summary>
public sealed class EntrySet
{
    /// <summary>Values by line key.</summary>
    public Dictionary<string, string> Values { get; init; } = [];

    /// <summary>Rows by repeating section key, in order.</summary>
    public Dictionary<string, List<EntryRow>> Rows { get; init; } = [];

    /// <summary>The rows of a repeating section; an empty list when there are none.</summary>
    public IReadOnlyList<EntryRow> RowsOf(string table) => Rows.TryGetValue(table, out var rows) ? rows : [];

    /// <summary>The same with another value on a line outside rows.</summary>
    public EntrySet With(string line, string value) => new() { Values = new Dictionary<string, string>(Values) { [line] = value }, Rows = Rows };

    /// <summary>The same with other rows in a repeating section.</summary>
    public EntrySet WithRows(string table, List<EntryRow> rows) => new() { Values = Values, Rows = new Dictionary<string, List<EntryRow>>(Rows) { [table] = rows } };

    /// <summary>A value, or null when blank.</summary>
    public string? ValueOf(Definitions.Line line, string? row) =>
        line.Table is null
            ? Values.GetValueOrDefault(line.Key)
            : RowsOf(line.Table.Key).FirstOrDefault(r => r.Id == row)?.Values.GetValueOrDefault(line.Name);
}
