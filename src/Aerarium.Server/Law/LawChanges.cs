using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Server.Returns;

namespace Aerarium.Server.Law;

/// <summary>A range of a table as typed.</summary>
/// <param name="UpTo">Upper edge, inclusive; blank in the last range.</param>
/// <param name="Value">The rate in per cent, or the amount.</param>
public sealed record LawRangeTyped(string? UpTo, string? Value);

/// <summary>A figure of the law and what it is to say, as typed.</summary>
/// <param name="Figure">Key of the figure.</param>
/// <param name="Value">Another value; null for a table.</param>
/// <param name="Ranges">Other ranges of a table; null for a single figure.</param>
public sealed record LawChangeTyped(string? Figure, string? Value, IReadOnlyList<LawRangeTyped>? Ranges);

/// <summary>Reads what figures of the law are to say, and lays it over the law.</summary>
internal static class LawChanges
{
    private const int MostChanges = 50;
    private const int MostRanges = 40;

    /// <summary>Reads typed changes of a return's law.</summary>
    /// <exception cref="PlainProblem">There are none or too many, or something is not a number; the message says which figure and where.</exception>
    public static IReadOnlyList<LawCorrection> Read(Definition definition, IReadOnlyList<LawChangeTyped> changes)
    {
        if (changes.Count is 0 or > MostChanges || changes.Any(c => c?.Figure is null || c.Ranges is { Count: > MostRanges }))
        {
            throw PlainProblem.Refused($"Give between 1 and {MostChanges} figures another value, tables of at most {MostRanges} ranges.");
        }

        var labels = LawFigures.Of(definition).ToDictionary(f => f.Key, f => f.Label);
        return
        [
            .. changes.Select(c => new LawCorrection(
                c.Figure!,
                c.Ranges is null ? Number(c, c.Value, "") : null,
                [.. (c.Ranges ?? []).Select((r, at) => new LawRange(
                    string.IsNullOrWhiteSpace(r?.UpTo) ? null : Number(c, r.UpTo, $", upper edge of range {at + 1}"), Number(c, r?.Value, $", range {at + 1}")))])),
        ];

        decimal Number(LawChangeTyped change, string? typed, string where)
        {
            var (label, text) = (labels.GetValueOrDefault(change.Figure!, change.Figure!), (typed ?? "").Trim().TrimEnd('%').Trim());
            if (text.Length == 0)
            {
                throw Refused($"{label}{where}: type a number.");
            }

            // The place of the law shows figures with a point, whatever a practice chose for its returns.
            var (number, problem) = Arithmetic.Compute(text, NumberWriting.Point, toCents: false);
            return number ?? throw Refused($"{label}{where}: {problem}");
        }
    }

    /// <summary>The definition with changes laid over the law it is under.</summary>
    /// <exception cref="PlainProblem">They do not fit the law; the message says which figure and what to do.</exception>
    public static Definition Under(Definition definition, Func<LawEdition, LawEdition> laid)
    {
        try
        {
            return PracticeDefinitions.Under(laid(definition.Edition), definition);
        }
        catch (RuleException refused)
        {
            throw Refused(refused.Message);
        }
    }

    /// <summary>A refusal that begins with the label of its figure.</summary>
    private static PlainProblem Refused(string message) => PlainProblem.Refused(message[..1].ToUpperInvariant() + message[1..]);
}
