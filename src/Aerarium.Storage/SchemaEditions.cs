using System.Security.Cryptography;
using System.Text;

namespace Aerarium.Storage;

/// <summary>An edition of a schema an authority publishes.</summary>
/// <param name="Path">Its published address.</param>
/// <param name="Sha256">SHA-256 of its text.</param>
/// <param name="CameFrom">The authority, or the person who loaded it.</param>
/// <param name="CameAt">When.</param>
/// <param name="TurnedOnBy">Who turned it on; null while it waits.</param>
/// <param name="TurnedOnAt">When.</param>
public sealed record SchemaEditionRecord(string Path, string Sha256, string CameFrom, string CameAt, string? TurnedOnBy, string? TurnedOnAt);

/// <summary>Editions of authorities' schemas: all are kept, the one turned on last is used.</summary>
public static class SchemaEditions
{
    private const string Columns = "path, sha256, came_from, came_at, turned_on_by, turned_on_at";

    /// <summary>The edition in use for a path, with its text; null when none is.</summary>
    public static (SchemaEditionRecord Edition, string Content)? InUse(Unit unit, string path) =>
        unit.Query<SchemaEditionRecord>(
            $"SELECT {Columns} FROM schema_edition WHERE path = @path AND turned_on_at IS NOT NULL ORDER BY turned_on_at DESC LIMIT 1", new { path })
            .Select(e => ((SchemaEditionRecord, string)?)(e, Content(unit, e.Path, e.Sha256)!)).FirstOrDefault();

    /// <summary>All editions, the latest of a path first.</summary>
    public static IReadOnlyList<SchemaEditionRecord> All(Unit unit) =>
        [.. unit.Query<SchemaEditionRecord>($"SELECT {Columns} FROM schema_edition ORDER BY path, came_at DESC")];

    /// <summary>An edition, or null.</summary>
    public static SchemaEditionRecord? Find(Unit unit, string path, string sha256) =>
        unit.Single<SchemaEditionRecord>($"SELECT {Columns} FROM schema_edition WHERE path = @path AND sha256 = @sha256", new { path, sha256 });

    /// <summary>The text of an edition, or null.</summary>
    public static string? Content(Unit unit, string path, string sha256) =>
        unit.Single<string>("SELECT content FROM schema_edition WHERE path = @path AND sha256 = @sha256", new { path, sha256 });

    /// <summary>The edition with a hash, whatever its path: path and text; null when none is kept.</summary>
    public static (string Path, string Content)? FindByHash(Unit unit, string sha256) =>
        unit.Query<(string, string)>("SELECT path, content FROM schema_edition WHERE sha256 = @sha256", new { sha256 }).Select(s => ((string, string)?)s).FirstOrDefault();

    /// <summary>Keeps an edition; one that is kept already stays as it is.</summary>
    public static SchemaEditionRecord Keep(Unit unit, string path, string content, string from, string at)
    {
        unit.Execute(
            "INSERT INTO schema_edition (path, sha256, content, came_from, came_at) VALUES (@path, @sha256, @content, @from, @at) ON CONFLICT DO NOTHING",
            new { path, sha256 = HashOf(content), content, from, at });
        return Find(unit, path, HashOf(content))!;
    }

    /// <summary>Turns an edition on.</summary>
    public static void TurnOn(Unit unit, string path, string sha256, string by, string at) =>
        unit.Execute("UPDATE schema_edition SET turned_on_by = @by, turned_on_at = @at WHERE path = @path AND sha256 = @sha256", new { path, sha256, by, at });

    /// <summary>SHA-256 of a schema.</summary>
    public static string HashOf(string content) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(content)));
}
