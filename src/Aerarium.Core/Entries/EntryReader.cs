using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;

namespace Aerarium.Core.Entries;

/// <summary>What came of reading a typed text: a canonical value, or a message that says what is wrong and what to do.</summary>
/// <param name="Value">Canonical value; null means blank.</param>
/// <param name="Problem">The message, or null when the text could be read.</param>
/// <param name="Expression">The arithmetic that was typed, when it was more than a number.</param>
public sealed record Reading(string? Value, string? Problem, string? Expression = null)
{
    internal static Reading Of(string? value, string? expression = null) => new(value, null, expression);

    internal static Reading Refuse(string problem) => new(null, problem);
}

/// <summary>
/// Reads what a person typed into a line. Amounts may be grouped as the country writes them, or with blanks, and may be arithmetic
/// (<c>12*4500+300</c>), computed exactly in decimals. Nothing is guessed: a text that can be read in two ways is refused.
/// </summary>
public static class EntryReader
{
    /// <summary>The largest amount a line takes, before cents.</summary>
    public const decimal LargestAmount = 999_999_999_999m;

    private const int LongestText = 300;

    private const int FewCodes = 8;

    private const int MostNamed = 3;

    /// <summary>Reads an amount to the cent that stands on no line, such as a payment; it may be grouped, or arithmetic.</summary>
    public static bool TryAmount(string text, out decimal amount)
    {
        var (number, problem) = text.Length is 0 or > LongestText ? (null, "none") : Arithmetic.Compute(text, NumberWriting.Point, toCents: true);
        amount = number ?? 0;
        return problem is null && decimal.Round(amount, 2) == amount && Math.Abs(amount) <= LargestAmount;
    }

    /// <summary>Reads a typed text for a line; row references are not resolved here.</summary>
    /// <param name="line">The line.</param>
    /// <param name="typed">What was typed.</param>
    /// <param name="canonical">Whether a number is written as programs write it, with a point and without groups, whatever the country does.</param>
    public static Reading Read(Line line, string? typed, bool canonical = false)
    {
        // A long text keeps its lines.
        var text = line.LongestText > LongestText ? string.Join('\n', (typed ?? "").ReplaceLineEndings("\n").Split('\n').Select(Clean)).Trim('\n') : Clean(typed);
        if (text.Length == 0)
        {
            return Reading.Of(null);
        }

        if (text.Length > line.LongestText)
        {
            return Reading.Refuse($"{line.Label}: {text.Length} characters are too many; keep it to {line.LongestText}.");
        }

        return line.Kind switch
        {
            LineKind.Money or LineKind.Count or LineKind.Number => ReadNumber(line, text, canonical),
            LineKind.Answer => ReadAnswer(line, text),
            LineKind.Choice => ReadChoice(line, text),
            LineKind.Date => ReadDate(line, text),
            LineKind.Identifier => Reading.Of(line.Identifier is { } rule ? rule.Complete(text) : IdentifierRule.Normalise(text)),
            _ => Reading.Of(text),
        };
    }

    /// <summary>
    /// Text as pasted from other programs, without surrounding blanks, control characters, invisible marks, halves of characters, and marks that turn the
    /// direction of what follows (a name could otherwise be shown as another than it is: Unicode Technical Report 36, section 2.10.2).
    /// </summary>
    public static string Clean(string? typed) =>
        typed is null
            ? ""
            : string.Concat(typed.Select(c => c is '\u00A0' or '\u202F' or '\t' or '\r' or '\n' ? ' ' : c)
                .Where((c, at) => !char.IsControl(c) && !IsMark(c) && !IsHalf(typed, at))).Trim();

    private static bool IsMark(char c) =>
        c is '\u200B' or '\uFEFF' or '\u200E' or '\u200F' or '\u061C' or (>= '\u202A' and <= '\u202E') or (>= '\u2066' and <= '\u2069');

    private static bool IsHalf(string text, int at) => char.IsSurrogate(text[at])
        && !(char.IsHighSurrogate(text[at]) && at + 1 < text.Length && char.IsLowSurrogate(text[at + 1]))
        && !(char.IsLowSurrogate(text[at]) && at > 0 && char.IsHighSurrogate(text[at - 1]));

    /// <summary>Dates in figures, which would compute to a number nobody means.</summary>
    private static readonly string[] WrittenDates = ["yyyy-MM-dd", "dd/MM/yyyy", "MM/dd/yyyy"];

    private static Reading ReadNumber(Line line, string text, bool canonical)
    {
        var writing = line.Form.Definition.Numbers;

        // Of a line in percent, the sign says what is said already.
        text = line.Unit == "%" && text.EndsWith('%') && !Arithmetic.IsExpression(text[..^1]) ? text[..^1].TrimEnd() : text;
        if (!canonical || !decimal.TryParse(text, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value))
        {
            if (DateOnly.TryParseExact(text, WrittenDates, CultureInfo.InvariantCulture, DateTimeStyles.None, out _))
            {
                return Reading.Refuse($"{line.Label}: {text} reads as a date; enter a number. To calculate, put blanks between the figures.");
            }

            var (number, problem) = Arithmetic.Compute(text, writing, toCents: line.Decimals < 3);
            if (problem is not null)
            {
                return Reading.Refuse($"{line.Label}: {problem}");
            }

            value = number!.Value;
        }

        if (line.Kind == LineKind.Count && value != decimal.Truncate(value))
        {
            return Reading.Refuse($"{line.Label}: {line.Write(value)} is not a whole number; type it without decimals.");
        }

        var rounds = line.WholeUnits && decimal.Truncate(value) != value;
        if (rounds)
        {
            value = line.Kept(value);
        }
        else if (line.Kind != LineKind.Count && decimal.Round(value, line.Decimals) != value)
        {
            if (!Arithmetic.IsExpression(text))
            {
                return Reading.Refuse(line.Kind == LineKind.Money
                    ? $"{line.Label}: {text} has more than two decimals; amounts are kept to the cent."
                    : $"{line.Label}: {text} has more than {line.Decimals} decimals; round it as the law says.");
            }

            value = line.Kept(value);
        }

        if (Math.Abs(value) > LargestAmount)
        {
            return Reading.Refuse($"{line.Label}: {text} is larger than any amount this line takes ({writing.Write(LargestAmount)}); check for digits too many.");
        }

        if (line.Least is { } least && value < least)
        {
            return Reading.Refuse(
                line.Most is { } top
                    ? $"{line.Label} must be between {line.Write(least)} and {line.Write(top)}; {line.Write(value)} is too low."
                    : $"{line.Label} cannot be less than {line.Write(least)}.");
        }

        if (line.Least is null && !line.MayBeNegative && value < 0)
        {
            return Reading.Refuse($"{line.Label} cannot be negative; type the amount without a minus.");
        }

        if (line.Most is { } most && value > most)
        {
            return Reading.Refuse($"{line.Label} must be between {line.Write(line.Least ?? 0)} and {line.Write(most)}; {line.Write(value)} is too high.");
        }

        return Reading.Of(Figures.Canonical(value), rounds || Arithmetic.IsExpression(text) ? text : null);
    }

    private static Reading ReadAnswer(Line line, string text) =>
        text.ToLowerInvariant() switch
        {
            "yes" or "y" or "true" => Reading.Of("yes"),
            "no" or "n" or "false" => Reading.Of("no"),
            _ => Reading.Refuse($"{line.Label}: answer yes or no, not '{text}'."),
        };

    private static Reading ReadChoice(Line line, string text)
    {
        var codes = line.Choices!;
        var exact = codes.FirstOrDefault(c =>
            string.Equals(c.Code, text, StringComparison.OrdinalIgnoreCase) || string.Equals(c.Label, text, StringComparison.OrdinalIgnoreCase));
        if (exact is not null)
        {
            return Reading.Of(exact.Code);
        }

        if (line.Codes?.Misplaced(text) is { } misplaced)
        {
            return Reading.Refuse($"{line.Label}: {misplaced} The nearest: {InWords(CodeSearch.NearestTo(codes, text))}.");
        }

        var found = CodeSearch.Find(codes, text);
        return found.Count == 1 ? Reading.Of(found[0].Code)
            : found.Count > 1 ? Reading.Refuse($"{line.Label}: '{text}' fits {found.Count} codes, {InWords(found)}{(found.Count > MostNamed ? " and others" : "")}; type more of one.")
            : codes.Count <= FewCodes ? Reading.Refuse($"{line.Label}: '{text}' is not one of its codes: {string.Join(", ", codes.Select(c => c.Code))}.")
            : Reading.Refuse($"{line.Label}: '{text}' is not one of its codes. The nearest: {InWords(CodeSearch.NearestTo(codes, text))}.");
    }

    private static string InWords(IEnumerable<Choice> codes) =>
        string.Join(", ", codes.Take(MostNamed).Select(c => c.Label.Contains(c.Code, StringComparison.OrdinalIgnoreCase) ? c.Label : $"{c.Code} {c.Label}"));

    private static Reading ReadDate(Line line, string text)
    {
        var definition = line.Form.Definition;
        return DateReader.TryRead(text, definition.Dates, definition.Year, out var date)
            ? Reading.Of(date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture))
            : Reading.Refuse($"{line.Label}: '{text}' is not a date of the calendar between 1900 and 2100; type {DateReader.InWords(definition.Dates, definition.Year)}.");
    }
}
