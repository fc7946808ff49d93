using Dapper;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Aerarium.Storage;

/// <summary>
/// Whether a database from outside has exactly the tables, indices and triggers this program makes: nothing else in it could then act when it is
/// read or written.
/// </summary>
internal static class OwnShape
{
    private const string Journal = "SchemaVersions";

    private static readonly Lazy<HashSet<Item>> Latest = new(() => Of(PracticeDatabase.Migrations));

    /// <summary>Refuses a database of another shape, or a damaged one. Nothing of it is run, and no view or virtual table of it is read.</summary>
    /// <exception cref="InvalidDataException">It is of another shape, of a later version, or damaged.</exception>
    public static void Require(SqliteConnection foreign)
    {
        raw.sqlite3_db_config(foreign.Handle, raw.SQLITE_DBCONFIG_DEFENSIVE, 1, out _);
        foreign.Execute("PRAGMA trusted_schema = OFF; PRAGMA cell_size_check = ON; PRAGMA mmap_size = 0;");
        var shape = Read(foreign);
        if (!Latest.Value.Where(i => i.Name == Journal).All(shape.Contains))
        {
            throw new InvalidDataException("The file does not hold a practice's database.");
        }

        // The journal is known to be the plain table that migrating makes; now it may be read.
        var applied = foreign.Query<string>($"SELECT ScriptName FROM {Journal}").Order(StringComparer.Ordinal).ToList();
        var known = PracticeDatabase.Migrations;
        if (!known.Take(applied.Count).SequenceEqual(applied))
        {
            throw new InvalidDataException("The file was made by a later version.");
        }

        if (!shape.SetEquals(applied.Count == known.Count ? Latest.Value : Of(applied)))
        {
            throw new InvalidDataException("The file holds tables, views or triggers that this program does not make.");
        }

        if (foreign.ExecuteScalar<string>("PRAGMA quick_check(1)") is not "ok" and var words)
        {
            throw new InvalidDataException($"The file is damaged: {words}");
        }
    }

    private static HashSet<Item> Of(IReadOnlyCollection<string> scripts)
    {
        using var fresh = PracticeDatabase.Fresh(scripts);
        return fresh.ReadHere(unit => Read(unit.Connection));
    }

    private static HashSet<Item> Read(SqliteConnection connection) =>
        [.. connection.Query<Item>("SELECT type, name, tbl_name, coalesce(sql, '') AS sql FROM sqlite_schema")];

    private sealed record Item(string Type, string Name, string TblName, string Sql);
}
