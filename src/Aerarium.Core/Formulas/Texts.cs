using System.Linq.Expressions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>A text, or a code, written in a rule.</summary>
public sealed class FixedText(string text) : TextFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [text];

    /// <inheritdoc />
    public override string Words => $"'{text}'";

    /// <inheritdoc />
    public override string Evaluate(Sheet sheet) => text;

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => Quoted(text);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Constant(text);

    internal static string Quoted(string text) => $"\"{text.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
}

/// <summary>One text or another, by a condition.</summary>
public sealed class ChooseText(Condition when, TextFormula then, TextFormula otherwise) : TextFormula
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [when, then, otherwise];

    /// <inheritdoc />
    public override string Words => $"{then.Words} if {when.Words}, otherwise {otherwise.Words}";

    /// <inheritdoc />
    public override string? Evaluate(Sheet sheet) => when.Holds(sheet) ? then.Evaluate(sheet) : otherwise.Evaluate(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"IF({when.Spreadsheet(cells)},{then.Spreadsheet(cells)},{otherwise.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Condition(when.Emit(emitter), then.Emit(emitter), otherwise.Emit(emitter), typeof(string));
}

/// <summary>Texts one after the other, with something between them; blank ones are left out, and nothing but blanks is blank.</summary>
public sealed class JoinedText(string between, IReadOnlyList<TextFormula> parts) : TextFormula
{
    /// <summary>Most characters a cell of a spreadsheet holds (ECMA-376).</summary>
    private const int Longest = 32_767;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => parts;

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [between];

    /// <inheritdoc />
    public override string Words => string.Join(" and ", parts.Select(p => p.Words));

    /// <inheritdoc />
    public override string? Evaluate(Sheet sheet) => Join(between, [.. parts.Select(p => p.Evaluate(sheet))]);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells)
    {
        // Each part brings what stands before it; of the first that is there, that is cut off.
        var written = parts.Select(p => p.Spreadsheet(cells)).Select(p => $"IF({p}=\"\",\"\",{FixedText.Quoted(between)}&{p})");
        return $"MID({string.Join('&', written)},{between.Length + 1},{Longest})";
    }

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(
        typeof(JoinedText), nameof(Join), [], Expression.Constant(between), Expression.NewArrayInit(typeof(string), parts.Select(p => p.Emit(emitter))));

    /// <summary>Joins what is not blank; null when nothing is.</summary>
    public static string? Join(string between, string?[] texts) =>
        string.Join(between, texts.Where(t => !string.IsNullOrEmpty(t))) is { Length: > 0 } joined ? joined : null;
}

/// <summary>Two texts or codes are the same, letter for letter; a blank is the same as nothing.</summary>
public sealed class SameText(TextFormula left, TextFormula right) : Condition
{
    /// <summary>One text.</summary>
    public TextFormula Left { get; } = left;

    /// <summary>The other.</summary>
    public TextFormula Right { get; } = right;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Left, Right];

    /// <inheritdoc />
    public override string Words => $"{Left.Words} is the same as {Right.Words}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => Same(Left.Evaluate(sheet), Right.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells)
    {
        var (first, second) = (Left.Spreadsheet(cells), Right.Spreadsheet(cells));
        return $"AND({first}<>\"\",EXACT({first},{second}))";
    }

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(SameText), nameof(Same), [], Left.Emit(emitter), Right.Emit(emitter));

    /// <summary>Whether two texts are the same and not blank.</summary>
    public static bool Same(string? left, string? right) => !string.IsNullOrEmpty(left) && string.Equals(left, right, StringComparison.Ordinal);
}

/// <summary>A text begins with a day as six digits, year, month and day; the century is not compared, and a blank begins with nothing.</summary>
public sealed class BeginsWithDay(TextFormula text, DateFormula day) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [text, day];

    /// <inheritdoc />
    public override string Words => $"{text.Words} begins with {day.Words} as year, month and day";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => Begins(text.Evaluate(sheet), day.Evaluate(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => throw OnlyInFindings();

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(typeof(BeginsWithDay), nameof(Begins), [], text.Emit(emitter), day.Emit(emitter));

    /// <summary>Whether a text begins with the day of a day number.</summary>
    public static bool Begins(string? text, int dayNumber) => text is not null && dayNumber != 0
        && text.StartsWith(DateOnly.FromDayNumber(dayNumber).ToString("yyMMdd", System.Globalization.CultureInfo.InvariantCulture), StringComparison.Ordinal);
}
