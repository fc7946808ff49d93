using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Aerarium.Core.Ledger;

/// <summary>The hash of an act in the Ledger of acts: over the hash of the act before and over everything the act says.</summary>
public static class ActHash
{
    /// <summary>What stands in the place of an act before the first one.</summary>
    public const string Beginning = "0000000000000000000000000000000000000000000000000000000000000000";

    /// <summary>SHA-256, in hexadecimal digits, of a JSON array: the hash before, then moment, person, kind, return, client, line, row, before, after, origin, and the seal where there is one.</summary>
    public static string Of(
        string previous,
        string at,
        long? personId,
        string personName,
        string kind,
        long? returnId,
        long? clientId,
        string? line,
        string? row,
        string? before,
        string? after,
        string? origin,
        string? seal)
    {
        object?[] said = [previous, at, personId, personName, kind, returnId, clientId, line, row, before, after, origin];
        var text = JsonSerializer.Serialize(seal is null ? said : [.. said, seal]);
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
    }
}
