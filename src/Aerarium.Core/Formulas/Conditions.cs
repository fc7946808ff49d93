using System.Globalization;
using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>Two amounts compared.</summary>
public sealed class Comparison(Amount left, Amount right, Relation relation) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [left, right];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [relation];

    /// <inheritdoc />
    public override string Words => $"{left.Words} {RelationWords.Of(relation)} {right.Words}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet)
    {
        var order = left.Evaluate(sheet).CompareTo(right.Evaluate(sheet));
        return RelationWords.Holds(relation, order);
    }

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => RelationWords.Spreadsheet(relation, $"ROUND({left.Spreadsheet(cells)}-{right.Spreadsheet(cells)},6)", "0");

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => RelationWords.Emit(relation, left.Emit(emitter), right.Emit(emitter));
}

/// <summary>Two dates compared.</summary>
public sealed class DateComparison(DateFormula left, DateFormula right, Relation relation) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [left, right];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [relation];

    /// <inheritdoc />
    public override string Words => $"{left.Words} {RelationWords.OfDates(relation)} {right.Words}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => RelationWords.Holds(relation, left.Evaluate(sheet).CompareTo(right.Evaluate(sheet)));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => RelationWords.Spreadsheet(relation, left.Spreadsheet(cells), right.Spreadsheet(cells));

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => RelationWords.Emit(relation, left.Emit(emitter), right.Emit(emitter));
}

/// <summary>Both conditions hold; the second is asked only when the first holds.</summary>
public sealed class Both(Condition left, Condition right) : Condition
{
    /// <summary>The condition asked first.</summary>
    public Condition Left { get; } = left;

    /// <summary>The condition asked when the first holds.</summary>
    public Condition Right { get; } = right;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Left, Right];

    /// <inheritdoc />
    public override string Words => $"{Together(Left)} and {Together(Right)}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => Left.Holds(sheet) && Right.Holds(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"AND({Left.Spreadsheet(cells)},{Right.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.AndAlso(Left.Emit(emitter), Right.Emit(emitter));

    private static string Together(Condition part) =>
        part is Either or IsOpen { ReferredLine: { OpenWhen: Either } } ? $"({part.Words})" : part.Words;
}

/// <summary>At least one condition holds.</summary>
public sealed class Either(Condition left, Condition right) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [left, right];

    /// <inheritdoc />
    public override string Words => $"{left.Words} or {right.Words}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => left.Holds(sheet) || right.Holds(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"OR({left.Spreadsheet(cells)},{right.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.OrElse(left.Emit(emitter), right.Emit(emitter));
}

/// <summary>The condition does not hold.</summary>
public sealed class Not(Condition operand) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [operand];

    /// <inheritdoc />
    public override string Words =>
        operand switch
        {
            IsFilled filled => $"{filled.Of.Line.Label} is blank",
            AnswerLine answer => $"'{answer.Line.Label}' is not yes",
            _ => $"not ({operand.Words})",
        };

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => !operand.Holds(sheet);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"NOT({operand.Spreadsheet(cells)})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Not(operand.Emit(emitter));
}

/// <summary>The line holds something a person gave (or, for computed lines, something that came of it).</summary>
public sealed class IsFilled(ILineFormula of) : Condition
{
    /// <summary>The line asked about.</summary>
    public ILineFormula Of { get; } = of;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [(Formula)Of];

    /// <inheritdoc />
    public override string Words => $"{Of.Line.Label} is filled in";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => sheet.FilledAt(Of.Line);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Filled(Of.Line);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => emitter.FilledAt(Of.Line);

    /// <inheritdoc />
    internal override IEnumerable<Line> AsksWhetherFilled => [Of.Line];
}

/// <summary>The line applies: everything that could close it is answered so that it stays open.</summary>
public sealed class IsOpen(Line line) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    public override Line ReferredLine => line;

    /// <inheritdoc />
    public override string Words => line.OpenWhen?.Words ?? "always";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => sheet.IsOpen(line);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Open(line);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => emitter.IsOpen(line);
}

/// <summary>A code line holds a certain code.</summary>
public sealed class HasCode(ChoiceLine choice, string code) : Condition
{
    private readonly int _position = Position(choice, code);

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [choice];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [code];

    /// <inheritdoc />
    public override string Words => $"{choice.Line.Label} is '{choice.Line.Choices![_position - 1].Label}'";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => sheet.CodeOf(choice.Line) == _position;

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"({cells.Text(choice.Line)}=\"{choice.Line.Choices![_position - 1].Code}\")";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Equal(emitter.CodeOf(choice.Line), Expression.Constant(_position));

    private static int Position(ChoiceLine choice, string code)
    {
        var index = choice.Line.Choices!.ToList().FindIndex(c => c.Code == code);
        return index >= 0
            ? index + 1
            : throw new RuleException($"Line '{choice.Line.Key}' has no code '{code}'.");
    }
}

/// <summary>An identifier satisfies its rule. Asked once, when the entry is loaded; the answer is the line's code.</summary>
public sealed class SatisfiesIdentifierRule(TextLine text) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [text];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [text.Line.Identifier!];

    /// <inheritdoc />
    public override string Words => $"{text.Line.Label} is a valid {text.Line.Identifier!.Label}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => sheet.CodeOf(text.Line) != 0;

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells)
    {
        var cell = cells.Text(text.Line);
        return text.Line.Identifier!.Digits is { } lengths
            ? $"AND(OR({string.Join(",", lengths.Select(n => string.Create(CultureInfo.InvariantCulture, $"LEN({cell})={n}")))}),ISNUMBER(VALUE({cell})))"
            : throw OnlyInFindings();
    }

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.NotEqual(emitter.CodeOf(text.Line), Expression.Constant(0));
}

/// <summary>Two identifiers begin with the same characters, such as the registration they share whatever the branch; blanks are not compared.</summary>
public sealed class BeginAlike(TextLine left, TextLine right, int characters) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [left, right];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [characters];

    /// <inheritdoc />
    public override string Words => $"{left.Words} and {right.Words} begin with the same {characters} characters";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => Alike(sheet.TextOf(left.Line), sheet.TextOf(right.Line), characters);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells)
    {
        var (one, other) = (cells.Text(left.Line), cells.Text(right.Line));
        return string.Create(CultureInfo.InvariantCulture, $"AND(LEN({one})>={characters},LEN({other})>={characters},LEFT({one},{characters})=LEFT({other},{characters}))");
    }

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(BeginAlike), nameof(Alike), [], emitter.TextOf(left.Line), emitter.TextOf(right.Line), Expression.Constant(characters));

    /// <summary>Whether two texts of at least so many characters begin with the same.</summary>
    public static bool Alike(string? left, string? right, int characters) =>
        left?.Length >= characters && right?.Length >= characters && string.CompareOrdinal(left, 0, right, 0, characters) == 0;
}

/// <summary>A text begins with one of several beginnings, whatever the case of its letters.</summary>
public sealed class BeginsWith(TextLine text, IReadOnlyList<string> beginnings) : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [text];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [.. beginnings];

    /// <inheritdoc />
    public override string Words => $"{text.Words} begins with {string.Join(" or ", beginnings)}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => Begins(sheet.TextOf(text.Line), beginnings);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) =>
        $"OR({string.Join(",", beginnings.Select(b => string.Create(CultureInfo.InvariantCulture, $"LEFT({cells.Text(text.Line)},{b.Length})=\"{b.Replace("\"", "\"\"", StringComparison.Ordinal)}\"")))})";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(BeginsWith), nameof(Begins), [], emitter.TextOf(text.Line), Expression.Constant(beginnings, typeof(IReadOnlyList<string>)));

    /// <summary>Whether a text begins with any of several.</summary>
    public static bool Begins(string? text, IReadOnlyList<string> beginnings)
    {
        foreach (var beginning in beginnings)
        {
            if (text?.StartsWith(beginning, StringComparison.OrdinalIgnoreCase) == true)
            {
                return true;
            }
        }

        return false;
    }
}

/// <summary>What a row holds in some columns also stands in an earlier row of the same repeating section; rows blank in the first column are not compared.</summary>
public sealed class RepeatsEarlierRow(RepeatingSection section, IReadOnlyList<ILineFormula> columns) : Condition
{
    private int[]? _slots;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [.. columns.Cast<Formula>()];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [section];

    /// <inheritdoc />
    public override string Words =>
        $"{string.Join(", ", columns.Select(c => c.Line.Label))} also {(columns.Count == 1 ? "stands" : "stand together")} in an earlier row";

    private int[] Slots => _slots ??= [.. columns.Select(c => c.Line.Slot)];

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => sheet.Rows(section).RepeatsEarlier(sheet.Rows(section).Current, Slots);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => throw OnlyInFindings();

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(emitter.RowsOf(section), nameof(Rows.RepeatsEarlier), [], emitter.RowIndexOf(section), Expression.Constant(Slots));

    /// <inheritdoc />
    internal override IEnumerable<Line> AsksWhetherFilled => columns.Select(c => c.Line);
}

/// <summary>The span between two columns of a row, both ends included, shares something with that of an earlier row of the same repeating section that holds the same in further columns; blank spans share nothing.</summary>
public sealed class OverlapsEarlierRow(RepeatingSection section, AmountLine from, AmountLine to, IReadOnlyList<ILineFormula> of) : Condition
{
    private int[]? _slots;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [from, to, .. of.Cast<Formula>()];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [section];

    /// <inheritdoc />
    public override string Words => $"{from.Words} to {to.Words} overlaps an earlier row{(of.Count == 0 ? "" : $" of the same {string.Join(", ", of.Select(c => c.Line.Label))}")}";

    private int[] Slots => _slots ??= [.. of.Select(c => c.Line.Slot)];

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => sheet.Rows(section).OverlapsEarlier(sheet.Rows(section).Current, from.Line.Slot, to.Line.Slot, Slots);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => throw OnlyInFindings();

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Call(
        emitter.RowsOf(section), nameof(Rows.OverlapsEarlier), [], emitter.RowIndexOf(section), Expression.Constant(from.Line.Slot), Expression.Constant(to.Line.Slot), Expression.Constant(Slots));

    /// <inheritdoc />
    internal override IEnumerable<Line> AsksWhetherFilled => [from.Line, to.Line, .. of.Select(c => c.Line)];
}

/// <summary>A reference line points at the row that is being computed.</summary>
public sealed class PointsAtRow(RowLine reference, RepeatingSection target) : Condition
{
    /// <summary>The reference.</summary>
    public RowLine Reference { get; } = reference;

    /// <summary>The repeating section it points into.</summary>
    public RepeatingSection Target { get; } = target;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Reference];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Target];

    /// <inheritdoc />
    public override string Words => $"{Reference.Line.Label} is this {Target.RowLabel}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => Points(sheet.CodeOf(Reference.Line), sheet.Rows(Target).Current);

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => $"OR({cells.Amount(Reference.Line)}={cells.RowNumber(Target)},AND({cells.Amount(Reference.Line)}=0,{cells.RowNumber(Target)}=1))";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(PointsAtRow), nameof(Points), [], emitter.CodeOf(Reference.Line), emitter.RowIndexOf(Target));

    /// <summary>Whether a reference (row number from 1; blank means the first row) points at a row index (from 0).</summary>
    public static bool Points(int reference, int row) => reference == 0 ? row == 0 : reference == row + 1;
}

internal static class RelationWords
{
    public static string Of(Relation relation) => relation switch
    {
        Relation.Less => "is less than",
        Relation.AtMost => "is at most",
        Relation.Greater => "is more than",
        Relation.AtLeast => "is at least",
        Relation.Equal => "is",
        _ => "differs from",
    };

    public static string OfDates(Relation relation) => relation switch
    {
        Relation.Less => "is before",
        Relation.AtMost => "is not after",
        Relation.Greater => "is after",
        Relation.AtLeast => "is not before",
        Relation.Equal => "is",
        _ => "is not",
    };

    public static string Spreadsheet(Relation relation, string left, string right) =>
        $"({left}{relation switch { Relation.Less => "<", Relation.AtMost => "<=", Relation.Greater => ">", Relation.AtLeast => ">=", Relation.Equal => "=", _ => "<>" }}{right})";

    public static bool Holds(Relation relation, int order) => relation switch
    {
        Relation.Less => order < 0,
        Relation.AtMost => order <= 0,
        Relation.Greater => order > 0,
        Relation.AtLeast => order >= 0,
        Relation.Equal => order == 0,
        _ => order != 0,
    };

    /// <summary>A comparison; an amount beside zero needs its sign only, which costs a fraction of a comparison of decimals.</summary>
    public static Expression Emit(Relation relation, Expression left, Expression right)
    {
        if (right is ConstantExpression { Value: 0m })
        {
            (left, right) = (SignOf(left), Expression.Constant(0));
        }

        return relation switch
        {
            Relation.Less => Expression.LessThan(left, right),
            Relation.AtMost => Expression.LessThanOrEqual(left, right),
            Relation.Greater => Expression.GreaterThan(left, right),
            Relation.AtLeast => Expression.GreaterThanOrEqual(left, right),
            Relation.Equal => Expression.Equal(left, right),
            _ => Expression.NotEqual(left, right),
        };
    }

    /// <summary>-1, 0 or 1 for an amount below, at or above zero.</summary>
    public static Expression SignOf(Expression amount) => Expression.Call(typeof(decimal), nameof(decimal.Sign), [], amount);
}

/// <summary>Holds in every case.</summary>
public sealed class Always : Condition
{
    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [];

    /// <inheritdoc />
    public override string Words => "always";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => true;

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => "TRUE()";

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => Expression.Constant(true);
}

/// <summary>A section of a form applies.</summary>
public sealed class SectionIsOpen(Section section) : Condition
{
    /// <summary>The section.</summary>
    public Section Section { get; } = section;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => Section.When is { } when ? [when] : [];

    /// <inheritdoc />
    public override string Words => Section.When?.Words ?? "always";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet) => sheet.OpenSections[Section.Position];

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Open(Section);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) => emitter.SectionIsOpen(Section);
}
