using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>
/// One walk over the rows of a repeating section that adds a column into a slot for each code of another column, or for each row that column points at: accounts by their item,
/// adjustments by their account. Formulas read its slots, so that the cost grows with rows plus slots and not with their product.
/// </summary>
public sealed class Tally
{
    /// <summary>A tally of a column by a choice or by a reference to rows; blank keys go nowhere.</summary>
    /// <exception cref="RuleException">The key is neither a choice nor a reference.</exception>
    internal Tally(RepeatingSection section, AmountLine of, ILineFormula key)
    {
        Section = section;
        Of = of;
        Key = key.Line.Kind is LineKind.Choice or LineKind.Row
            ? key
            : throw new RuleException($"Line '{key.Line.Key}' ({key.Line.DeclaredAt}) is neither a choice nor a reference to a row; a tally needs one of them.");
    }

    /// <summary>The rows added up.</summary>
    public RepeatingSection Section { get; }

    /// <summary>The column that is added up.</summary>
    public AmountLine Of { get; }

    /// <summary>The column that says into which slot.</summary>
    public ILineFormula Key { get; }

    /// <summary>The total of the rows with a code.</summary>
    /// <exception cref="RuleException">The key has no such code.</exception>
    public Amount WithCode(string code) =>
        Key.Line.Kind == LineKind.Choice && Key.Line.PositionOf(code) is var position and > 0
            ? new TalliedByCode(this, code, position)
            : throw new RuleException($"'{code}' is no code of '{Key.Line.Key}'.");

    /// <summary>In a row: the total of the rows that point at it.</summary>
    public Amount OfThisRow() =>
        Key.Line.Target is { } target ? new TalliedByRow(this, target) : throw new RuleException($"'{Key.Line.Key}' points at no rows.");

    /// <summary>The slots: by position of the code, or by number of the row, from one.</summary>
    internal decimal[] Slots(Sheet sheet)
    {
        var rows = sheet.Rows(Section);
        var slots = new decimal[1 + (Key.Line.Target is { } target ? sheet.Rows(target).GivenCount : Key.Line.Choices!.Count)];
        for (var row = 0; row < rows.Count; row++)
        {
            var block = rows.BlockOf(row);
            slots[block.Codes[rows.PlaceOf(row, Key.Line.Slot)]] += block.Amounts[rows.PlaceOf(row, Of.Line.Slot)];
        }

        return slots;
    }
}

/// <summary>A slot of a <see cref="Tally"/>.</summary>
public abstract class Tallied(Tally tally) : Amount
{
    /// <summary>The tally.</summary>
    public Tally Tally { get; } = tally;

    /// <inheritdoc />
    public override RepeatingSection WalksOver => Tally.Section;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Tally.Of, (Formula)Tally.Key];

    /// <summary>The slot that is read: position of a code, or number of a row from one.</summary>
    public abstract int Slot(Sheet sheet);

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Read(sheet, Tally, Slot(sheet));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Tallied(this);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(Tallied), nameof(Read), [], emitter.Sheet, Expression.Constant(Tally), Position(emitter));

    /// <summary>A slot of a tally on a sheet.</summary>
    public static decimal Read(Sheet sheet, Tally tally, int slot) => sheet.Rows(tally.Section).SlotsOf(tally, sheet)[slot];

    private protected abstract Expression Position(Emitter emitter);
}

/// <summary>The total of the rows with a code.</summary>
public sealed class TalliedByCode(Tally tally, string code, int position) : Tallied(tally)
{
    /// <summary>The code.</summary>
    public string Code { get; } = code;

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Tally.Section, Code];

    /// <inheritdoc />
    public override string Words => $"{Tally.Of.Words}, every {Tally.Section.RowLabel} with {Tally.Key.Line.Label} {Code}";

    /// <inheritdoc />
    public override int Slot(Sheet sheet) => position;

    private protected override Expression Position(Emitter emitter) => Expression.Constant(position);
}

/// <summary>The total of the rows that point at the row one stands in.</summary>
public sealed class TalliedByRow(Tally tally, RepeatingSection target) : Tallied(tally)
{
    /// <summary>The rows that are pointed at.</summary>
    public RepeatingSection Target { get; } = target;

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Tally.Section, Target];

    /// <inheritdoc />
    public override string Words => $"{Tally.Of.Words}, every {Tally.Section.RowLabel} of this {Target.RowLabel}";

    /// <inheritdoc />
    public override int Slot(Sheet sheet) => sheet.Rows(Target).Current + 1;

    private protected override Expression Position(Emitter emitter) => Expression.Add(emitter.RowIndexOf(Target), Expression.Constant(1));
}

/// <summary>An amount of the row that a reference points at; zero while it points at none.</summary>
public sealed class AmountPointedAt(RowLine reference, AmountLine column) : Amount
{
    /// <summary>The reference.</summary>
    public RowLine Reference { get; } = reference;

    /// <summary>The column of the row it points at.</summary>
    public AmountLine Column { get; } = column;

    /// <inheritdoc />
    public override RepeatingSection WalksOver => Column.Line.Table!;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Reference, Column];

    /// <inheritdoc />
    public override string Words => $"{Column.Words} of the {WalksOver.RowLabel}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet) => Read(sheet, Column.Line, sheet.CodeOf(Reference.Line));

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.PointedAt(this);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter) =>
        Expression.Call(typeof(AmountPointedAt), nameof(Read), [], emitter.Sheet, Expression.Constant(Column.Line), emitter.CodeOf(Reference.Line));

    /// <summary>An amount of a row by its number from one; zero for none.</summary>
    public static decimal Read(Sheet sheet, Line column, int number)
    {
        var rows = sheet.Rows(column.Table!);
        return number == 0 || number > rows.Count ? 0 : rows.BlockOf(number - 1).Amounts[rows.PlaceOf(number - 1, column.Slot)];
    }
}
