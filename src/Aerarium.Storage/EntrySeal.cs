using System.Globalization;
using System.Numerics;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Aerarium.Storage;

/// <summary>
/// One number that stands for everything entered on a return: the sum, modulo 2^256, of the SHA-256 of each entry and of each section's order of
/// rows. An edit moves it by what changed, and the act of the edit carries it, so that a value altered outside the application no longer
/// adds up to the seal in the Ledger.
/// </summary>
public sealed class EntrySeal
{
    private static readonly BigInteger Size = BigInteger.One << 256;

    private BigInteger _sum;

    private EntrySeal(BigInteger sum) => _sum = sum;

    /// <summary>The seal over what is stored of a return.</summary>
    public static EntrySeal OfStored(Unit unit, long returnId)
    {
        var seal = new EntrySeal(BigInteger.Zero);
        foreach (var entry in Returns.Entries(unit, returnId))
        {
            seal.Add(entry);
        }

        foreach (var section in Returns.Rows(unit, returnId).GroupBy(r => r.Section))
        {
            seal.Add(section.Key, [.. section.Select(r => r.Row)]);
        }

        return seal;
    }

    /// <summary>The seal in the latest act on a return's entries; null when none carries one.</summary>
    public static EntrySeal? Latest(Unit unit, long returnId) =>
        unit.Single<string>("SELECT seal FROM act WHERE return_id = @returnId AND seal IS NOT NULL ORDER BY id DESC LIMIT 1", new { returnId }) is { } text
            ? new EntrySeal(BigInteger.Parse("0" + text, NumberStyles.HexNumber, CultureInfo.InvariantCulture))
            : null;

    /// <summary>An entry is there now.</summary>
    public void Add(EntryRecord entry) => Move(Of(entry));

    /// <summary>An entry is no longer what it was.</summary>
    public void Remove(EntryRecord entry) => Move(-Of(entry));

    /// <summary>Rows of a section stand in this order now; none is the same as a section never used.</summary>
    public void Add(string section, IReadOnlyList<string> rows) => Move(Of(section, rows));

    /// <summary>Rows of a section no longer stand in this order.</summary>
    public void Remove(string section, IReadOnlyList<string> rows) => Move(-Of(section, rows));

    /// <summary>The seal in 64 hexadecimal digits.</summary>
    public override string ToString() => _sum.ToString("x64", CultureInfo.InvariantCulture)[^64..];

    private static BigInteger Of(EntryRecord e) =>
        Number(JsonSerializer.Serialize(new object?[] { e.Line, e.Row, e.Value, e.Origin, e.Source, e.Expression, e.Revision, e.ChangedBy, e.ChangedAt }));

    private static BigInteger Of(string section, IReadOnlyList<string> rows) =>
        rows.Count == 0 ? BigInteger.Zero : Number($"{section}: {string.Join(' ', rows)}");

    private static BigInteger Number(string text) => new(SHA256.HashData(Encoding.UTF8.GetBytes(text)), isUnsigned: true);

    private void Move(BigInteger by) => _sum = (((_sum + by) % Size) + Size) % Size;
}
