using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;

namespace Aerarium.Core.Definitions;

/// <summary>What a line holds.</summary>
public enum LineKind
{
    /// <summary>Money, two decimals.</summary>
    Money,

    /// <summary>A whole number.</summary>
    Count,

    /// <summary>A number to so many places: a rate, an exchange rate, hours, kilometres.</summary>
    Number,

    /// <summary>Yes or no.</summary>
    Answer,

    /// <summary>One code of a list.</summary>
    Choice,

    /// <summary>A calendar date.</summary>
    Date,

    /// <summary>Text.</summary>
    Text,

    /// <summary>An identifier with a rule of its own.</summary>
    Identifier,

    /// <summary>A row of another repeating section.</summary>
    Row,
}

/// <summary>How an amount is ruled off on the page.</summary>
public enum LineRule
{
    /// <summary>No rule.</summary>
    None,

    /// <summary>A single rule above: a subtotal.</summary>
    Subtotal,

    /// <summary>Single rule above, double beneath: a final figure.</summary>
    Final,
}

/// <summary>One code of a choice.</summary>
/// <param name="Code">Stable code, used in storage, interchange and the e-return.</param>
/// <param name="Label">What a practitioner reads.</param>
public sealed record Choice(string Code, string Label);

/// <summary>What may replace a computed amount.</summary>
/// <param name="Amount">The entry with the amount.</param>
/// <param name="Reason">The entry with the reason.</param>
/// <param name="Judgement">Whose judgement may differ, and by which section of the law.</param>
public sealed record LineOverride(Line Amount, Line Reason, string Judgement);

/// <summary>One line of a form: everything about it except how formulas refer to it (see the handles, for example <see cref="AmountLine"/>).</summary>
public sealed class Line
{
    internal Line(string name, string label, LineKind kind, Form form, Section section, RepeatingSection? table, string declaredAt)
    {
        Name = name;
        Label = label;
        Kind = kind;
        Form = form;
        Section = section;
        Table = table;
        DeclaredAt = declaredAt;
        Decimals = kind == LineKind.Money ? 2 : 0;
        Key = table is null ? $"{form.Key}.{name}" : $"{table.Key}.{name}";
    }

    /// <summary>Name within its form or repeating section, kebab-case; never renamed after release.</summary>
    public string Name { get; }

    /// <summary>Stable key: <c>form.line</c>, or <c>form.section.column</c> in repeating sections.</summary>
    public string Key { get; }

    /// <summary>Number printed before the label, 3.7 for example.</summary>
    public string Number { get; internal set; } = "";

    /// <summary>What a practitioner reads.</summary>
    public string Label { get; }

    /// <summary>What it holds.</summary>
    public LineKind Kind { get; }

    /// <summary>The form it stands on.</summary>
    public Form Form { get; }

    /// <summary>The section it stands in.</summary>
    public Section Section { get; }

    /// <summary>The repeating section whose column it is, or null.</summary>
    public RepeatingSection? Table { get; }

    /// <summary>Source file and line of the declaration, so that a failing rule can be found.</summary>
    public string DeclaredAt { get; }

    /// <summary>Position among all lines of the definition, in order of declaration.</summary>
    internal int Position { get; set; }

    /// <summary>Position in the sheet or, for columns, in a row.</summary>
    public int Slot { get; internal set; }

    /// <summary>The formula of a computed line; null for entries.</summary>
    public Formula? Formula { get; internal set; }

    /// <summary>True when its value is kept as a whole-number code, not as an amount.</summary>
    public bool IsCoded => !IsNumber && Kind != LineKind.Text;

    /// <summary>True when it holds an amount or a number.</summary>
    public bool IsNumber => Kind is LineKind.Money or LineKind.Count or LineKind.Number;

    /// <summary>True for a whole number that is a calendar year.</summary>
    public bool IsYear { get; internal set; }

    /// <summary>A number of this line as it is written: in the country's way, a year by its digits alone.</summary>
    public string Write(decimal value) =>
        IsYear ? value.ToString("0", System.Globalization.CultureInfo.InvariantCulture) : Form.Definition.Numbers.Write(value);

    /// <summary>A number as this line keeps it: in whole units where it is kept so, otherwise to its places.</summary>
    public decimal Kept(decimal value) => decimal.Round(value, WholeUnits ? 0 : Decimals, MidpointRounding.AwayFromZero);

    /// <summary>Places after the decimal mark that a number is kept to: two for money, none for whole numbers.</summary>
    public int Decimals { get; internal set; }

    /// <summary>Most characters a text takes.</summary>
    public int LongestText { get; internal set; } = 300;

    /// <summary>True when the line is computed and cannot be typed.</summary>
    public bool IsComputed => Formula is not null;

    /// <summary>True when it is computed by a formula that is given after the line has been declared.</summary>
    internal bool IsDefinedLater { get; set; }

    /// <summary>Section of the law.</summary>
    public string? Law { get; internal set; }

    /// <summary>The box of the paper the entry is copied from.</summary>
    public string? CopiedFrom { get; internal set; }

    /// <summary>Other headings under which files bring it.</summary>
    public IReadOnlyList<string> OtherHeadings { get; internal set; } = [];

    /// <summary>A short hint printed beside the label.</summary>
    public string? Hint { get; internal set; }

    /// <summary>Unit printed after the amount; null for money in the return's currency.</summary>
    public string? Unit { get; internal set; }

    /// <summary>The codes of a choice.</summary>
    public IReadOnlyList<Choice>? Choices { get; internal set; }

    /// <summary>The named list the choices are of, or null for choices of this line alone.</summary>
    public CodeList? Codes { get; internal set; }

    /// <summary>The computed line whose amount is proposed while nothing is entered here, or null.</summary>
    public Line? ProposedBy { get; internal set; }

    /// <summary>Position of a code among the choices, from one; zero when it is none of them.</summary>
    public int PositionOf(string code)
    {
        _positions ??= Choices!.Index().GroupBy(c => c.Item.Code).ToDictionary(g => g.Key, g => g.Last().Index + 1);
        return _positions.GetValueOrDefault(code);
    }

    private Dictionary<string, int>? _positions;

    /// <summary>The rule of an identifier.</summary>
    public IdentifierRule? Identifier { get; internal set; }

    /// <summary>The repeating section a reference line points into.</summary>
    public RepeatingSection? Target { get; internal set; }

    /// <summary>Least value of a number, or null.</summary>
    public decimal? Least { get; internal set; }

    /// <summary>Greatest value of a number, or null.</summary>
    public decimal? Most { get; internal set; }

    /// <summary>For money: whether amounts below zero are taken.</summary>
    public bool MayBeNegative { get; internal set; }

    /// <summary>For an answer: whether most clients' answer is yes; a practitioner can give all usual answers at once.</summary>
    public bool UsuallyYes { get; internal set; }

    /// <summary>For money: whether it is kept in whole units, cents dropped below a half and raised from a half on; what was typed is kept beside.</summary>
    public bool WholeUnits { get; internal set; }

    /// <summary>Who reported what the authority holds of it and corrects it, such as the charity; null when it can be typed over.</summary>
    public string? CorrectedWith { get; internal set; }

    /// <summary>Whether a number usually lasts from year to year and is taken over when the next year is opened.</summary>
    public bool UsuallyLasts { get; internal set; }

    /// <summary>Whether what is entered belongs to one year only and is never taken over into another return.</summary>
    public bool OfOneYear
    {
        get => field || Form.OfOneYear;
        internal set;
    }

    /// <summary>When the line must be filled in; null for never.</summary>
    public Condition? RequiredWhen { get; internal set; }

    /// <summary>What to do when it must be filled in and is not; null for that its label is missing.</summary>
    public string? MissingMessage { get; internal set; }

    /// <summary>When the line itself applies, beside its section; null for always.</summary>
    public Condition? When { get; internal set; }

    /// <summary>When the line applies, its section included; null for always.</summary>
    public Condition? OpenWhen { get; internal set; }

    /// <summary>How the amount is ruled off.</summary>
    public LineRule Rule { get; internal set; }

    /// <summary>Filled from the client's particulars when a return is opened and while it is open: the particular's name.</summary>
    public string? ClientParticular { get; internal set; }

    /// <summary>Filled from the practice's particulars for the country, in the same way: the particular's name.</summary>
    public string? PracticeParticular { get; internal set; }

    /// <summary>Lines of other returns of the client that feed it; their sum for amounts, the first that is there for anything else.</summary>
    public IReadOnlyList<TieSource> Ties { get; internal set; } = [];

    /// <summary>By how much it may differ from what it is tied to before that is an error; null when a difference is only worth a warning.</summary>
    public decimal? TieTolerance { get; internal set; }

    /// <summary>When what it is tied to counts as a credit; null for what is no credit.</summary>
    public CreditCounts? Counts { get; internal set; }

    /// <summary>Whether the law leaves the choice to the taxpayer, so that all of them are computed side by side.</summary>
    public bool IsElective { get; internal set; }

    /// <summary>For an elective answer: whether a yes brings the parallel columns into one return, and a no makes a return of each column.</summary>
    public bool JoinsColumns { get; internal set; }

    /// <summary>Until when, or for how long, an election binds; null when nothing is to be said.</summary>
    public string? ElectionBinds { get; internal set; }

    /// <summary>Whether further income of the year may come on this line, to see what it would cost.</summary>
    public bool TakesMoreIncome { get; internal set; }

    /// <summary>For a computed line: the entries that replace what is computed, or null when nothing may.</summary>
    public LineOverride? Override { get; internal set; }

    /// <summary>For an amount or a reason that overrides: the computed line it belongs to; null for every other line.</summary>
    public Line? Overrides { get; internal set; }

    /// <summary>Whether it counts the documents attached to the return whose kind is its label.</summary>
    public bool CountsAttachments { get; internal set; }

    /// <summary>Whether particulars kept elsewhere fill it, so that nobody needs to type it.</summary>
    public bool FollowsParticulars => ClientParticular is not null || PracticeParticular is not null;

    /// <inheritdoc />
    public override string ToString() => Key;
}

/// <summary>A formula that is a reference to a line.</summary>
public interface ILineFormula
{
    /// <summary>The line.</summary>
    Line Line { get; }
}

/// <summary>A line holding an amount or a number, as formulas refer to it.</summary>
public sealed class AmountLine : Amount, ILineFormula
{
    internal AmountLine(Line line) => Line = line;

    /// <inheritdoc />
    public Line Line { get; }

    /// <summary>Gives the formula of a line that was declared without one.</summary>
    /// <exception cref="RuleException">The line is entered, or has its formula.</exception>
    public AmountLine Is(Amount formula, Rounding? rounding = null)
    {
        if (!Line.IsDefinedLater || Line.Formula is not null)
        {
            throw new RuleException($"Line '{Line.Key}' ({Line.DeclaredAt}) {(Line.Formula is null ? "is entered" : "has its formula")}; only a line declared without one is given it later.");
        }

        Line.Formula = rounding is null ? formula : new Rounded(formula, rounding);
        return this;
    }

    /// <inheritdoc />
    public override Line ReferredLine => Line;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    public override string Words => Line.Label;

    /// <inheritdoc />
    public override decimal Evaluate(Engine.Sheet sheet) => sheet.AmountOf(Line);

    /// <inheritdoc />
    public override string Spreadsheet(Engine.ICellNames cells) => cells.Amount(Line);

    /// <inheritdoc />
    public override System.Linq.Expressions.Expression Emit(Engine.Emitter emitter) => emitter.AmountOf(Line);
}

/// <summary>A yes or no line, as formulas refer to it: it holds when answered yes.</summary>
public sealed class AnswerLine : Condition, ILineFormula
{
    internal AnswerLine(Line line) => Line = line;

    /// <inheritdoc />
    public Line Line { get; }

    /// <summary>Says that most clients' answer is yes.</summary>
    public AnswerLine UsuallyYes()
    {
        Line.UsuallyYes = true;
        return this;
    }

    /// <inheritdoc />
    public override Line ReferredLine => Line;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    public override string Words => $"'{Line.Label}' is yes";

    /// <inheritdoc />
    public override bool Holds(Engine.Sheet sheet) => sheet.CodeOf(Line) != 0;

    /// <inheritdoc />
    public override string Spreadsheet(Engine.ICellNames cells) => $"({cells.Text(Line)}=\"yes\")";

    /// <inheritdoc />
    public override System.Linq.Expressions.Expression Emit(Engine.Emitter emitter) =>
        System.Linq.Expressions.Expression.NotEqual(emitter.CodeOf(Line), System.Linq.Expressions.Expression.Constant(0));
}

/// <summary>Base of references that are neither amounts, conditions, dates nor texts.</summary>
public abstract class LineReference : Formula, ILineFormula
{
    private protected LineReference(Line line) => Line = line;

    /// <inheritdoc />
    public Line Line { get; }

    /// <inheritdoc />
    public override Line ReferredLine => Line;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    public override string Words => Line.Label;

    /// <inheritdoc />
    public override string Spreadsheet(Engine.ICellNames cells) => cells.Text(Line);

    /// <inheritdoc />
    public override System.Linq.Expressions.Expression Emit(Engine.Emitter emitter) => emitter.CodeOf(Line);
}

/// <summary>A line of any kind, for conditions that only ask whether it is filled.</summary>
internal sealed class AnyLine(Line line) : LineReference(line);

/// <summary>A line whose value is a text or a code, as formulas refer to it.</summary>
public abstract class TextReference : TextFormula, ILineFormula
{
    private protected TextReference(Line line) => Line = line;

    /// <inheritdoc />
    public Line Line { get; }

    /// <inheritdoc />
    public override Line ReferredLine => Line;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    public override string Words => Line.Label;

    /// <inheritdoc />
    public override string? Evaluate(Engine.Sheet sheet) => sheet.TextOf(Line);

    /// <inheritdoc />
    public override string Spreadsheet(Engine.ICellNames cells) => cells.Text(Line);

    /// <inheritdoc />
    public override System.Linq.Expressions.Expression Emit(Engine.Emitter emitter) => emitter.TextOf(Line);
}

/// <summary>A code line, as formulas refer to it.</summary>
public sealed class ChoiceLine : TextReference
{
    internal ChoiceLine(Line line)
        : base(line)
    {
    }

    /// <summary>Whether the line holds this code.</summary>
    public Condition Is(string code) => new HasCode(this, code);

    /// <summary>The amount a table of the law gives for the chosen code.</summary>
    public Amount In(IReadOnlyDictionary<string, Parameter> table) => new Lookup(this, table);
}

/// <summary>A text or identifier line, as formulas refer to it.</summary>
public sealed class TextLine : TextReference
{
    internal TextLine(Line line)
        : base(line)
    {
    }

    /// <summary>Whether it and another begin with the same characters; blanks do not.</summary>
    public Condition BeginsLike(TextLine other, int characters) => new BeginAlike(this, other, characters);

    /// <summary>Whether it begins with one of several beginnings.</summary>
    public Condition BeginsWith(params string[] beginnings) => new BeginsWith(this, beginnings);

    /// <summary>Whether it begins with a day, written as year, month and day in two digits each.</summary>
    public Condition BeginsWithDay(DateFormula day) => new BeginsWithDay(this, day);

    /// <summary>Whether the identifier satisfies its rule.</summary>
    public Condition SatisfiesItsRule() => new SatisfiesIdentifierRule(this);
}

/// <summary>A line pointing at a row of a repeating section, as formulas refer to it.</summary>
public sealed class RowLine : LineReference
{
    internal RowLine(Line line)
        : base(line)
    {
    }

    /// <summary>Whether it points at the row being computed; blank points at the first row.</summary>
    public Condition IsThisRow() => new PointsAtRow(this, Line.Target!);

    /// <summary>An amount of the row it points at; zero while it points at none.</summary>
    public Amount The(AmountLine column) => new AmountPointedAt(this, column);
}

/// <summary>A date line, as formulas refer to it.</summary>
public sealed class DateLine : DateFormula, ILineFormula
{
    internal DateLine(Line line) => Line = line;

    /// <inheritdoc />
    public Line Line { get; }

    /// <inheritdoc />
    public override Line ReferredLine => Line;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    public override string Words => Line.Label;

    /// <inheritdoc />
    public override int Evaluate(Engine.Sheet sheet) => sheet.CodeOf(Line);

    /// <inheritdoc />
    public override string Spreadsheet(Engine.ICellNames cells) => cells.Amount(Line);

    /// <inheritdoc />
    public override System.Linq.Expressions.Expression Emit(Engine.Emitter emitter) => emitter.CodeOf(Line);
}
