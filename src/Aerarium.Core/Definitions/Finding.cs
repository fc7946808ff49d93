using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>How much a finding weighs.</summary>
public enum Severity
{
    /// <summary>Worth knowing.</summary>
    Note,

    /// <summary>To be corrected, or accepted with a reason.</summary>
    Warning,

    /// <summary>Blocks approval and filing.</summary>
    Error,
}

/// <summary>A rule that yields a finding while its condition holds.</summary>
/// <param name="Id">Stable, kebab-case.</param>
/// <param name="Severity">How much it weighs.</param>
/// <param name="When">The condition.</param>
/// <param name="Message">What is wrong, where, and what to do.</param>
/// <param name="Lines">The lines it belongs to; the first is where a practitioner is led.</param>
/// <param name="Table">The repeating section whose rows it is asked of, or null.</param>
public sealed record FindingRule(string Id, Severity Severity, Condition When, Message Message, IReadOnlyList<Line> Lines, RepeatingSection? Table)
{
    /// <summary>Position among the findings of the return, or of the row.</summary>
    public int Slot { get; internal set; }

    /// <summary>Whether it compares a row with the rows before it.</summary>
    public bool ComparesRows { get; } = RowDependence.ComparesRows(When);
}

/// <summary>A message with figures of the return in it, written as an interpolated string.</summary>
[InterpolatedStringHandler]
public sealed class Message
{
    private readonly List<object> _parts;

    /// <summary>Used by the compiler.</summary>
    public Message(int literalLength, int formattedCount) => _parts = new List<object>((formattedCount * 2) + Math.Min(1, literalLength));

    private Message(string text) => _parts = [text];

    /// <summary>A message without figures.</summary>
    public static implicit operator Message(string text) => new(text);

    /// <summary>Used by the compiler.</summary>
    public void AppendLiteral(string value) => _parts.Add(value);

    /// <summary>Used by the compiler.</summary>
    public void AppendFormatted(string value) => _parts.Add(value);

    /// <summary>A year, or another number written in the rule; never grouped.</summary>
    public void AppendFormatted(int value) => _parts.Add(value.ToString(CultureInfo.InvariantCulture));

    /// <summary>An amount, printed as money.</summary>
    public void AppendFormatted(Amount value) => _parts.Add(value);

    /// <summary>A parameter, printed as derivations print it.</summary>
    public void AppendFormatted(Parameter value) => _parts.Add(value.ValueInWords);

    /// <summary>A date, written out.</summary>
    public void AppendFormatted(DateOnly value) => _parts.Add(InWords(value.DayNumber));

    /// <summary>A date that is entered or worked out, written out.</summary>
    public void AppendFormatted(DateFormula value) => _parts.Add(value);

    /// <summary>A text line, printed as typed.</summary>
    public void AppendFormatted(TextLine value) => _parts.Add(value);

    /// <summary>The formulas in the message.</summary>
    public IEnumerable<Formula> Operands => _parts.OfType<Formula>();

    /// <summary>The message with the figures of this sheet.</summary>
    public string On(Sheet sheet)
    {
        var text = new StringBuilder();
        foreach (var part in _parts)
        {
            text.Append(part switch
            {
                AmountLine { Line.IsYear: true } year => year.Line.Write(year.Evaluate(sheet)),
                Amount amount => sheet.Numbers.Money(amount.Evaluate(sheet)),
                DateFormula date => InWords(date.Evaluate(sheet)),
                TextLine line => sheet.TextOf(line.Line) ?? "",
                _ => part,
            });
        }

        return text.ToString();
    }

    private static string InWords(int day) => day == 0 ? "" : DateOnly.FromDayNumber(day).ToString("d MMMM yyyy", CultureInfo.InvariantCulture);

    /// <inheritdoc />
    public override string ToString() => string.Concat(_parts.Select(p => p is Formula formula ? $"[{formula.Words}]" : p.ToString()));
}
