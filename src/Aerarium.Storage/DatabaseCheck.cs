using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.Data.Sqlite;

namespace Aerarium.Storage;

/// <summary>The database's own checks of its file, told by what they touch.</summary>
public static partial class DatabaseCheck
{
    private const int MostFaults = 50;

    /// <summary>What a table holds, in words.</summary>
    private static readonly Dictionary<string, string> Holds = new()
    {
        ["act"] = "the Ledger of acts",
        ["approval"] = "approvals",
        ["artefact"] = "the files: e-returns, copies, receipts, documents",
        ["assessment"] = "assessments",
        ["batch"] = "batches",
        ["batch_item"] = "batches",
        ["built_return"] = "e-returns",
        ["client"] = "clients",
        ["client_acceptance"] = "clients' acceptances",
        ["consent"] = "clients' consents",
        ["document"] = "documents",
        ["entry"] = "entries of returns",
        ["entry_row"] = "rows of returns",
        ["finding_acceptance"] = "accepted warnings",
        ["payment"] = "payments",
        ["person"] = "people",
        ["practice"] = "the practice's own record",
        ["relation"] = "relations of clients",
        ["remark"] = "remarks",
        ["reminder"] = "reminders",
        ["sending"] = "sendings and receipts",
        ["session"] = "sessions",
        ["statement"] = "payers' statements",
        ["tax_return"] = "returns",
        ["team"] = "teams",
    };

    /// <summary>What SQLite's integrity check finds, in words; empty when the file is whole.</summary>
    public static IReadOnlyList<string> Damage(Unit unit)
    {
        try
        {
            var names = Names(unit);
            var faults = unit.Query<string>($"PRAGMA integrity_check({MostFaults})").Where(f => f != "ok").SelectMany(f => f.Split('\n')).Where(f => !f.StartsWith("***", StringComparison.Ordinal));
            return [.. faults.Select(f => $"The database file is damaged where it keeps {Touched(f, names)}: {f}. Restore the latest backup, and compare.")];
        }
        catch (SqliteException problem)
        {
            return [$"The database file is damaged so that it cannot be checked to the end: {problem.Message} Restore the latest backup, and compare."];
        }
    }

    /// <summary>Records that refer to others that are not there, in words.</summary>
    public static IReadOnlyList<string> Dangling(Unit unit) =>
    [
        .. unit.Query<Violation>("SELECT \"table\" AS at, rowid AS row_id, parent FROM pragma_foreign_key_check").Take(MostFaults)
            .Select(v => $"In {Words(v.At)}, {Place(unit, v)} refers to something in {Words(v.Parent)} that is not there."),
    ];

    private static string Place(Unit unit, Violation violation)
    {
        if (violation.RowId is not { } row)
        {
            return "a record";
        }

        var columns = unit.Query<string>("SELECT name FROM pragma_table_info(@At)", violation).ToHashSet();
        var owner = columns.Contains("return_id") ? "return" : columns.Contains("client_id") ? "client" : null;
        return owner is not null && unit.Single<long?>($"SELECT {owner}_id FROM \"{violation.At}\" WHERE rowid = @row", new { row }) is { } id
            ? $"record {row.ToString(CultureInfo.InvariantCulture)} of {owner} {id.ToString(CultureInfo.InvariantCulture)}"
            : $"record {row.ToString(CultureInfo.InvariantCulture)}";
    }

    /// <summary>Tables by their own names, by those of their indices, and by the pages where they begin.</summary>
    private static Dictionary<string, string> Names(Unit unit)
    {
        var names = new Dictionary<string, string>();
        foreach (var item in unit.Query<Item>("SELECT name, tbl_name, rootpage AS root_page FROM sqlite_schema WHERE rootpage > 0"))
        {
            names[item.Name] = item.TblName;
            names[$"Tree {item.RootPage}"] = item.TblName;
        }

        return names;
    }

    private static string Touched(string fault, Dictionary<string, string> names) =>
        Tree.Match(fault) is { Success: true } tree && names.TryGetValue(tree.Value, out var at) ? Words(at)
        : Word.Matches(fault).Select(m => m.Value).FirstOrDefault(names.ContainsKey) is { } named ? Words(names[named])
        : "something that cannot be told";

    private static string Words(string table) => Holds.GetValueOrDefault(table) ?? $"'{table}'";

    [GeneratedRegex("^Tree [0-9]+")]
    private static partial Regex Tree { get; }

    [GeneratedRegex("[A-Za-z_][A-Za-z_0-9]*")]
    private static partial Regex Word { get; }

    /// <summary>Filled by name: a virtual table without rows does not say of what type its columns are.</summary>
    private sealed record Violation
    {
        public string At { get; init; } = "";

        public long? RowId { get; init; }

        public string Parent { get; init; } = "";
    }

    private sealed record Item(string Name, string TblName, long RootPage);
}
