namespace Aerarium.Storage;

/// <summary>Files kept by their hash.</summary>
public static class Artefacts
{
    private const string Uses = """
        SELECT sha256, 'the document ' || name AS used FROM document
        UNION SELECT ereturn_sha256, 'the e-return of return ' || return_id FROM built_return
        UNION SELECT copy_sha256, 'the printed copy of return ' || return_id FROM built_return
        UNION SELECT sha256, 'the assessment of return ' || return_id FROM assessment
        UNION SELECT receipt_sha256, 'the receipt of return ' || return_id FROM sending WHERE receipt_sha256 IS NOT NULL
        UNION SELECT copy_sha256, 'the accepted copy of return ' || return_id FROM sending WHERE copy_sha256 IS NOT NULL
        UNION SELECT acknowledgement_sha256, 'the acknowledgement of return ' || return_id FROM sending WHERE acknowledgement_sha256 IS NOT NULL
        UNION SELECT page_sha256, 'the printed page beside a figure of ' || definition || ' ' || year FROM law_verification WHERE page_sha256 IS NOT NULL
        UNION SELECT entries_sha256, 'the frozen return ' || return_id FROM approval WHERE entries_sha256 IS NOT NULL
        """;

    /// <summary>Keeps a file; returns its SHA-256.</summary>
    public static string Keep(Unit unit, byte[] content, string mediaType, string at)
    {
        var sha256 = Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(content));
        unit.Execute(
            "INSERT INTO artefact (sha256, media_type, content, created_at) VALUES (@sha256, @mediaType, @content, @at) ON CONFLICT DO NOTHING",
            new { sha256, mediaType, content, at });
        return sha256;
    }

    /// <summary>Drops the files nothing refers to any more.</summary>
    public static void DropUnused(Unit unit) =>
        unit.Execute($"DELETE FROM artefact WHERE sha256 NOT IN (SELECT sha256 FROM ({Uses}))");

    /// <summary>The hashes under which files are kept.</summary>
    public static IReadOnlyList<string> All(Unit unit) => [.. unit.Query<string>("SELECT sha256 FROM artefact ORDER BY sha256")];

    /// <summary>The bytes kept under a hash, whatever they are by now; null when there are none.</summary>
    public static byte[]? Find(Unit unit, string sha256) => unit.Single<byte[]>("SELECT content FROM artefact WHERE sha256 = @sha256", new { sha256 });

    /// <summary>The hashes of files that something refers to and that are not there.</summary>
    public static IReadOnlyList<string> Missing(Unit unit) =>
        [.. unit.Query<string>($"SELECT DISTINCT sha256 FROM ({Uses}) WHERE sha256 NOT IN (SELECT sha256 FROM artefact)")];

    /// <summary>What a file is used for, in words.</summary>
    public static IReadOnlyList<string> UsedBy(Unit unit, string sha256) =>
        [.. unit.Query<string>($"SELECT DISTINCT used FROM ({Uses}) WHERE sha256 = @sha256 ORDER BY used", new { sha256 })];

    /// <summary>A file by its hash.</summary>
    /// <exception cref="InvalidOperationException">It is missing, or no longer has that hash.</exception>
    public static byte[] Get(Unit unit, string sha256)
    {
        var content = unit.Single<byte[]>("SELECT content FROM artefact WHERE sha256 = @sha256", new { sha256 })
            ?? throw new InvalidOperationException($"The file {sha256} is missing.");
        return Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(content)) == sha256
            ? content
            : throw new InvalidOperationException($"The file {sha256} has been altered.");
    }
}
