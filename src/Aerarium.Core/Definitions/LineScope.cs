using System.Runtime.CompilerServices;
using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;

namespace Aerarium.Core.Definitions;

/// <summary>Where lines are declared: a form, or the row of a repeating section. The words are the same in both.</summary>
public abstract class LineScope
{
    private protected abstract Line Declare(string name, string label, LineKind kind, string declaredAt);

    private protected abstract void Declare(FindingRule finding);

    /// <summary>An amount of money that is typed, imported or taken from a statement.</summary>
    public AmountLine Entry(string name, string label, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0) =>
        new(Declare(name, label, LineKind.Money, At(file, at)));

    /// <summary>A whole number that is entered.</summary>
    public AmountLine Count(string name, string label, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0) =>
        new(Declare(name, label, LineKind.Count, At(file, at)));

    /// <summary>A calendar year that is entered; written without marks between its digits.</summary>
    public AmountLine CalendarYear(string name, string label, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Count, At(file, at));
        line.IsYear = true;
        return new AmountLine(line);
    }

    /// <summary>A number that is entered to so many places: hours, kilometres, an exchange rate, a rate in percent; its unit says which.</summary>
    public AmountLine Measure(string name, string label, int decimals, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Number, At(file, at));
        line.Decimals = decimals;
        return new AmountLine(line);
    }

    /// <summary>A yes or no answer.</summary>
    public AnswerLine Answer(string name, string label, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0) =>
        new(Declare(name, label, LineKind.Answer, At(file, at)));

    /// <summary>One code of a list.</summary>
    public ChoiceLine Choice(
        string name, string label, IReadOnlyList<Choice> choices, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Choice, At(file, at));
        line.Choices = choices;
        return new ChoiceLine(line);
    }

    /// <summary>One code of a named list, of those in use in the return's year; choices of this line alone may follow.</summary>
    public ChoiceLine Choice(
        string name, string label, CodeList codes, IEnumerable<Choice>? besides = null, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Choice, At(file, at));
        line.Codes = codes;
        line.Choices = [.. codes.For(line.Form.Definition.Year), .. besides ?? []];
        return new ChoiceLine(line);
    }

    /// <summary>A calendar date.</summary>
    public DateLine Date(string name, string label, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0) =>
        new(Declare(name, label, LineKind.Date, At(file, at)));

    /// <summary>A text.</summary>
    public TextLine Text(string name, string label, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0) =>
        new(Declare(name, label, LineKind.Text, At(file, at)));

    /// <summary>A text of several thousand characters, such as an explanation.</summary>
    public TextLine LongText(string name, string label, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var text = Text(name, label, file, at);
        text.Line.LongestText = 4_000;
        return text;
    }

    /// <summary>An identifier; an entry that breaks its rule is an error finding.</summary>
    public TextLine Identifier(
        string name, string label, IdentifierRule rule, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Identifier, At(file, at));
        line.Identifier = rule;
        var text = new TextLine(line);
        Declare(new FindingRule($"{line.Key}:identifier", Severity.Error, text.IsFilled() & !text.SatisfiesItsRule(), $"{rule.Message}", [line], line.Table));
        return text;
    }

    /// <summary>A reference to a row of another repeating section.</summary>
    public RowLine RowOf(
        string name, string label, RepeatingSection target, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Row, At(file, at));
        line.Target = target;
        return new RowLine(line);
    }

    /// <summary>A computed amount; it cannot be typed.</summary>
    public AmountLine Line(
        string name, string label, Amount formula, Rounding? rounding = null, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Money, At(file, at));
        line.Formula = rounding is null ? formula : new Rounded(formula, rounding);
        return new AmountLine(line);
    }

    /// <summary>
    /// A computed amount whose formula is given later with <see cref="AmountLine.Is"/>, so that the page read first can be fed by pages that follow.
    /// </summary>
    public AmountLine Line(string name, string label, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Money, At(file, at));
        line.IsDefinedLater = true;
        return new AmountLine(line);
    }

    /// <summary>A computed yes or no.</summary>
    public AnswerLine Line(string name, string label, Condition formula, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0) =>
        new(Computed(Declare(name, label, LineKind.Answer, At(file, at)), formula));

    /// <summary>A computed date.</summary>
    public DateLine Line(string name, string label, DateFormula formula, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0) =>
        new(Computed(Declare(name, label, LineKind.Date, At(file, at)), formula));

    /// <summary>A computed text.</summary>
    public TextLine Line(string name, string label, TextFormula formula, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0) =>
        new(Computed(Declare(name, label, LineKind.Text, At(file, at)), formula));

    /// <summary>A computed code of a list; a text that is none of its codes reads as blank.</summary>
    public ChoiceLine Line(
        string name, string label, IReadOnlyList<Choice> choices, TextFormula formula, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Choice, At(file, at));
        line.Choices = choices;
        return new(Computed(line, formula));
    }

    private static Line Computed(Line line, Formula formula)
    {
        line.Formula = formula;
        return line;
    }

    /// <summary>A computed number that is not money.</summary>
    public AmountLine NumberLine(
        string name, string label, Amount formula, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var line = Declare(name, label, LineKind.Count, At(file, at));
        line.Formula = formula;
        return new AmountLine(line);
    }

    /// <summary>
    /// A computed amount that a person may replace, because the law leaves it to somebody's judgement. The amount that replaces it and the
    /// reason are entries of their own, <c>name-override</c> and <c>name-override-reason</c>; without the reason the return cannot be filed.
    /// </summary>
    /// <param name="name">Name of the computed line.</param>
    /// <param name="label">Label of the computed line.</param>
    /// <param name="formula">What is computed unless it is overridden.</param>
    /// <param name="judgement">Whose judgement may differ and by which section of the law.</param>
    /// <param name="rounding">How the computed amount is rounded, or null.</param>
    /// <param name="file">Set by the compiler.</param>
    /// <param name="at">Set by the compiler.</param>
    public AmountLine OverridableLine(
        string name, string label, Amount formula, string judgement, Rounding? rounding = null, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var given = Entry($"{name}-override", $"{label}, overridden", file, at);
        var reason = Text($"{name}-override-reason", $"{label}, why it is overridden", file, at).RequiredWhen(given.IsFilled());
        var computed = rounding is null ? formula : new Rounded(formula, rounding);
        var line = Line(name, label, Formulas.Law.If(given.IsFilled(), given, computed), null, file, at);
        line.Line.Override = new LineOverride(given.Line, reason.Line, judgement);
        given.Line.Overrides = reason.Line.Overrides = line.Line;
        return line;
    }

    /// <summary>How many documents of a kind are attached to the return. They are counted, never typed.</summary>
    /// <param name="name">Name of the line.</param>
    /// <param name="kind">What the documents are, in words; their kind when they are attached.</param>
    /// <param name="file">Set by the compiler.</param>
    /// <param name="at">Set by the compiler.</param>
    public AmountLine Attachments(string name, string kind, [CallerFilePath] string file = "", [CallerLineNumber] int at = 0)
    {
        var count = Count(name, kind, file, at);
        count.Line.CountsAttachments = true;
        return count;
    }

    /// <summary>Blocks filing while the condition holds.</summary>
    public void Error(string id, Condition when, Message message, params ILineFormula[] at) =>
        Declare(Finding(id, Severity.Error, when, message, at));

    /// <summary>Must be corrected or accepted with a reason while the condition holds.</summary>
    public void Warn(string id, Condition when, Message message, params ILineFormula[] at) =>
        Declare(Finding(id, Severity.Warning, when, message, at));

    /// <summary>Tells something worth knowing while the condition holds.</summary>
    public void Note(string id, Condition when, Message message, params ILineFormula[] at) =>
        Declare(Finding(id, Severity.Note, when, message, at));

    /// <summary>The repeating section whose row this is, or null for single lines.</summary>
    private protected abstract RepeatingSection? Rows { get; }

    /// <summary>The form lines are declared on.</summary>
    private protected abstract Form Owner { get; }

    private FindingRule Finding(string id, Severity severity, Condition when, Message message, ILineFormula[] at) =>
        new(id + Owner.Beside?.Suffix, severity, when, message, [.. at.Select(a => a.Line)], Rows);

    private static string At(string file, int line) => $"{file.Replace('\\', '/').Split('/')[^1]}:{line}";
}
