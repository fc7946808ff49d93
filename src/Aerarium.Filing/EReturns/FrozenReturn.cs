using System.Text.Json;
using System.Text.Json.Serialization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;

namespace Aerarium.Filing;

/// <summary>
/// A return as it was approved: what was entered, every figure that came of it, the revision of the rules, the day. Written in a fixed
/// order, so that the same return gives the same bytes.
/// </summary>
/// <param name="Definition">Country and return.</param>
/// <param name="Year">Year.</param>
/// <param name="FigureRevision">Revision of the rules that computed it; empty when it was frozen before these were kept apart from their words.</param>
/// <param name="TextRevision">Revision of the words it was approved by, in the same way.</param>
/// <param name="Day">Day of evaluation.</param>
/// <param name="Entries">What was entered.</param>
/// <param name="Period">Period of the year.</param>
/// <param name="Figures">Computed values by line, for columns followed by a bar and the row.</param>
public sealed record FrozenReturn(
    string Definition, int Year, string FigureRevision, string TextRevision, DateOnly Day, EntrySet Entries, string Period, IReadOnlyDictionary<string, string> Figures)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    /// <summary>Corrections of the practice that the figures rest on; null where they rest on the product's law alone.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)]
    public IReadOnlyList<LawCorrection>? Law { get; init; }

    /// <summary>The law it was approved under.</summary>
    /// <exception cref="RuleException">A figure is corrected twice.</exception>
    [JsonIgnore]
    public LawEdition Edition => Law is null ? LawEdition.AsWritten : new LawEdition(Law);

    /// <summary>Freezes an evaluated return on its day.</summary>
    public static FrozenReturn Of(Evaluation evaluation, DateOnly day) => new(
        evaluation.Definition.Id,
        evaluation.Definition.Year,
        evaluation.Definition.FigureRevision,
        evaluation.Definition.TextRevision,
        day,
        Ordered(evaluation.Entries),
        evaluation.Definition.Period,
        FiguresOf(evaluation))
    {
        Law = evaluation.Definition.Edition.Corrections is { Count: > 0 } corrections ? [.. corrections.OrderBy(c => c.Figure, StringComparer.Ordinal)] : null,
    };

    /// <summary>Reads a frozen return.</summary>
    /// <exception cref="FormatException">The bytes are none.</exception>
    public static FrozenReturn Read(byte[] content)
    {
        try
        {
            var read = JsonSerializer.Deserialize<FrozenReturn>(content, Json);
            return read is { Entries: not null, Figures: not null } ? read with { FigureRevision = read.FigureRevision ?? "", TextRevision = read.TextRevision ?? "" } : throw new FormatException("The frozen return is incomplete.");
        }
        catch (JsonException problem)
        {
            throw new FormatException($"The frozen return cannot be read: {problem.Message}", problem);
        }
    }

    /// <summary>Whether rules give what was frozen: they are the same, or every figure still comes out.</summary>
    public bool ComesOutBy(Definition definition) => definition.FigureRevision == FigureRevision || FiguresOf(definition.Evaluate(Entries, Day)).SequenceEqual(Figures);

    /// <summary>The bytes that are kept.</summary>
    public byte[] Write() => JsonSerializer.SerializeToUtf8Bytes(this, Json);

    /// <summary>The figures of an evaluation, as they are frozen.</summary>
    public static IReadOnlyDictionary<string, string> FiguresOf(Evaluation evaluation) => new SortedDictionary<string, string>(
        evaluation.Values()
            .Where(v => v.Value is not null && evaluation.Definition.LineOf(v.Line).IsComputed)
            .ToDictionary(v => v.Row is null ? v.Line : $"{v.Line}|{v.Row}", v => v.Value!),
        StringComparer.Ordinal);

    private static EntrySet Ordered(EntrySet entries)
    {
        var ordered = new EntrySet();
        foreach (var (key, value) in entries.Values.OrderBy(v => v.Key, StringComparer.Ordinal))
        {
            ordered.Values[key] = value;
        }

        foreach (var (section, rows) in entries.Rows.OrderBy(r => r.Key, StringComparer.Ordinal))
        {
            ordered.Rows[section] = [.. rows.Select(row =>
            {
                var copy = new EntryRow(row.Id);
                foreach (var (name, value) in row.Values.OrderBy(v => v.Key, StringComparer.Ordinal))
                {
                    copy.Values[name] = value;
                }

                return copy;
            })];
        }

        return ordered;
    }
}
