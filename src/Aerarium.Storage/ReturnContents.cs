using Microsoft.Data.Sqlite;

namespace Aerarium.Storage;

/// <summary>What is entered in a return, read together with that of many others.</summary>
/// <param name="Record">The return.</param>
/// <param name="Client">Name of its client.</param>
/// <param name="Rows">Order of the rows of each repeating section.</param>
/// <param name="Entries">What is entered: line, row (empty for single lines), value.</param>
public sealed record ReturnContents(ReturnRecord Record, string Client, IReadOnlyDictionary<string, IReadOnlyList<string>> Rows, IReadOnlyList<(string Line, string Row, string? Value)> Entries)
{
    /// <summary>The contents of some returns, in the order of their ids.</summary>
    public static IReadOnlyList<ReturnContents> Of(Unit unit, IReadOnlyList<long> ids)
    {
        if (ids.Count == 0)
        {
            return [];
        }

        var list = $"[{string.Join(',', ids)}]";
        var rows = new Dictionary<long, Dictionary<string, IReadOnlyList<string>>>();
        Read(unit, "SELECT return_id, section, row FROM entry_row WHERE return_id IN (SELECT value FROM json_each(@ids)) ORDER BY return_id, section, position", list, read =>
        {
            var sections = At(rows, read.GetInt64(0));
            if (!sections.TryGetValue(read.GetString(1), out var there))
            {
                sections[read.GetString(1)] = there = new List<string>();
            }

            ((List<string>)there).Add(read.GetString(2));
        });

        // Lines are the same in return after return; each name is kept once.
        var names = new Dictionary<string, string>();
        var entries = new Dictionary<long, List<(string, string, string?)>>();
        Read(unit, "SELECT return_id, line, row, value FROM entry WHERE return_id IN (SELECT value FROM json_each(@ids)) AND value IS NOT NULL", list, read =>
        {
            var line = read.GetString(1);
            if (!names.TryGetValue(line, out var name))
            {
                names[line] = name = line;
            }

            At(entries, read.GetInt64(0)).Add((name, read.GetString(2), read.GetString(3)));
        });
        var clients = unit.Query<(long Id, string Name)>(
            "SELECT r.id, c.name FROM tax_return r JOIN client c ON c.id = r.client_id WHERE r.id IN (SELECT value FROM json_each(@list))", new { list }).ToDictionary(c => c.Id, c => c.Name);
        return
        [
            .. Returns.Where(unit, "id IN (SELECT value FROM json_each(@list))", new { list }).Select(record => new ReturnContents(
                record, clients[record.Id], rows.GetValueOrDefault(record.Id) ?? [], entries.GetValueOrDefault(record.Id) ?? [])),
        ];
    }

    private static T At<T>(Dictionary<long, T> of, long id)
        where T : new()
    {
        if (!of.TryGetValue(id, out var there))
        {
            of[id] = there = new T();
        }

        return there;
    }

    private static void Read(Unit unit, string sql, string ids, Action<SqliteDataReader> row)
    {
        using var command = unit.Connection.CreateCommand();
        command.CommandText = sql;
        command.Transaction = unit.Transaction;
        command.Parameters.AddWithValue("@ids", ids);
        using var read = command.ExecuteReader();
        while (read.Read())
        {
            row(read);
        }
    }
}
