using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Core.Formulas;

/// <summary>What is made of the rows of a repeating section.</summary>
public enum AggregateKind
{
    /// <summary>Their sum.</summary>
    Sum,

    /// <summary>Their number.</summary>
    Count,

    /// <summary>The greatest value, zero when there is none.</summary>
    Greatest,
}

/// <summary>A total over the rows of a repeating section, all or those meeting a condition.</summary>
public sealed class Aggregate(RepeatingSection section, AggregateKind kind, Amount? of, Condition? where) : Amount
{
    /// <summary>The repeating section.</summary>
    public RepeatingSection Section { get; } = section;

    /// <summary>What is made of the rows.</summary>
    public AggregateKind Kind { get; } = kind;

    /// <summary>The amount of one row; null for a count.</summary>
    public Amount? Of { get; } = of;

    /// <summary>Which rows; null for all.</summary>
    public Condition? Where { get; } = where;

    /// <inheritdoc />
    public override RepeatingSection? WalksOver => Section;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [.. new Formula?[] { Of, Where }.OfType<Formula>()];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Section, Kind];

    /// <inheritdoc />
    public override string Words =>
        (Kind switch
        {
            AggregateKind.Sum => $"{Of!.Words}, every {Section.RowLabel}",
            AggregateKind.Count => $"number of {Section.Title.ToLowerInvariant()}",
            _ => $"greatest {Of!.Words} of any {Section.RowLabel}",
        }) + (Where is null ? "" : $" where {Where.Words}");

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet)
    {
        var rows = sheet.Rows(Section);
        var outer = rows.Current;
        var total = 0m;
        for (rows.Current = 0; rows.Current < rows.Count; rows.Current++)
        {
            if (Where is null || Where.Holds(sheet))
            {
                total = Kind switch
                {
                    AggregateKind.Sum => total + Of!.Evaluate(sheet),
                    AggregateKind.Count => total + 1,
                    _ => Math.Max(total, Of!.Evaluate(sheet)),
                };
            }
        }

        rows.Current = outer;
        return total;
    }

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Total(this);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter)
    {
        if (Kind == AggregateKind.Count && Where is null)
        {
            return Expression.Convert(emitter.RowCountOf(Section), typeof(decimal));
        }

        var total = Expression.Variable(typeof(decimal), "total");
        return emitter.OverRows(
            Section,
            total,
            () =>
            {
                var step = Kind switch
                {
                    AggregateKind.Sum => Sum.Added(total, Of!.Emit(emitter)),
                    AggregateKind.Count => Expression.AddAssign(total, Expression.Constant(1m)),
                    _ => Expression.Assign(total, Expression.Call(typeof(Math), nameof(Math.Max), [], total, Of!.Emit(emitter))),
                };
                return Where is null ? step : Expression.IfThen(Where.Emit(emitter), step);
            });
    }
}

/// <summary>At least one row of a repeating section meets a condition.</summary>
public sealed class AnyRow(RepeatingSection section, Condition where) : Condition
{
    /// <summary>The repeating section.</summary>
    public RepeatingSection Section { get; } = section;

    /// <summary>What one row must meet.</summary>
    public Condition Where { get; } = where;

    /// <inheritdoc />
    public override RepeatingSection? WalksOver => Section;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Where];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Section];

    /// <inheritdoc />
    public override string Words => $"any {Section.RowLabel} where {Where.Words}";

    /// <inheritdoc />
    public override bool Holds(Sheet sheet)
    {
        var rows = sheet.Rows(Section);
        var outer = rows.Current;
        var found = false;
        for (rows.Current = 0; rows.Current < rows.Count && !found; rows.Current++)
        {
            found = Where.Holds(sheet);
        }

        rows.Current = outer;
        return found;
    }

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Any(this);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter)
    {
        var found = Expression.Variable(typeof(bool), "found");
        return emitter.OverRows(
            Section,
            found,
            () => Expression.IfThen(Where.Emit(emitter), Expression.Assign(found, Expression.Constant(true))));
    }
}

/// <summary>
/// In a row: the total over the rows that come before it when the rows are ordered by a column, such as the losses of earlier years.
/// Rows with the same value of that column are taken in the order in which they stand.
/// </summary>
public sealed class SumOfEarlierRows(RepeatingSection section, Amount of, AmountLine by) : Amount
{
    /// <summary>The repeating section.</summary>
    public RepeatingSection Section { get; } = section;

    /// <summary>The amount of one row.</summary>
    public Amount Of { get; } = of;

    /// <summary>The column that orders the rows.</summary>
    public AmountLine By { get; } = by;

    /// <inheritdoc />
    public override RepeatingSection WalksOver => Section;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Of, By];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Section];

    /// <inheritdoc />
    public override string Words => $"{Of.Words}, every {Section.RowLabel} before this one by {By.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet)
    {
        var rows = sheet.Rows(Section);
        var here = rows.Current;
        var total = 0m;
        for (rows.Current = 0; rows.Current < rows.Count; rows.Current++)
        {
            if (IsBefore(rows.Current, here, sheet))
            {
                total += Of.Evaluate(sheet);
            }
        }

        rows.Current = here;
        return total;
    }

    /// <summary>Whether the row one stands in comes before another row.</summary>
    public bool IsBefore(int row, int other, Sheet sheet)
    {
        var rows = sheet.Rows(Section);
        var order = Measure(row).CompareTo(Measure(other));
        return order < 0 || (order == 0 && row < other);

        decimal Measure(int at) => rows.BlockOf(at).Amounts[rows.PlaceOf(at, By.Line.Slot)];
    }

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.Earlier(this);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter)
    {
        var total = Expression.Variable(typeof(decimal), "total");
        var measure = Expression.Variable(typeof(decimal), "measure");
        var hereIndex = emitter.RowIndexOf(Section);
        var here = By.Emit(emitter);
        return Expression.Block(
            [measure],
            Expression.Assign(measure, here),
            emitter.OverRows(Section, total, () => Expression.IfThen(
                Expression.OrElse(
                    Expression.LessThan(By.Emit(emitter), measure),
                    Expression.AndAlso(
                        Expression.Equal(By.Emit(emitter), measure),
                        Expression.LessThan(emitter.RowIndexOf(Section), hereIndex))),
                Sum.Added(total, Of.Emit(emitter)))));
    }
}

/// <summary>An amount of the row in which another amount is greatest or least, the first of several; zero when there is no row.</summary>
public sealed class AmountOfRow(RepeatingSection section, Amount of, Amount by, bool most) : Amount
{
    /// <summary>The repeating section.</summary>
    public RepeatingSection Section { get; } = section;

    /// <summary>The amount asked for.</summary>
    public Amount Of { get; } = of;

    /// <summary>The amount that decides which row it is.</summary>
    public Amount By { get; } = by;

    /// <summary>Whether the greatest decides, otherwise the least.</summary>
    public bool Most { get; } = most;

    /// <inheritdoc />
    public override RepeatingSection WalksOver => Section;

    /// <inheritdoc />
    public override IReadOnlyList<Formula> Operands => [Of, By];

    /// <inheritdoc />
    internal override IEnumerable<object> Facts => [Section, Most];

    /// <inheritdoc />
    public override string Words => $"{Of.Words} of the {Section.RowLabel} with the {(Most ? "greatest" : "least")} {By.Words}";

    /// <inheritdoc />
    public override decimal Evaluate(Sheet sheet)
    {
        var rows = sheet.Rows(Section);
        var outer = rows.Current;
        var (found, measure) = (0m, 0m);
        for (rows.Current = 0; rows.Current < rows.Count; rows.Current++)
        {
            var here = By.Evaluate(sheet);
            if (rows.Current == 0 || (Most ? here > measure : here < measure))
            {
                (found, measure) = (Of.Evaluate(sheet), here);
            }
        }

        rows.Current = outer;
        return found;
    }

    /// <inheritdoc />
    public override string Spreadsheet(ICellNames cells) => cells.OfRow(this);

    /// <inheritdoc />
    public override Expression Emit(Emitter emitter)
    {
        var (found, measure, here) = (
            Expression.Variable(typeof(decimal), "found"), Expression.Variable(typeof(decimal), "measure"), Expression.Variable(typeof(decimal), "here"));
        return Expression.Block(
            [measure],
            emitter.OverRows(Section, found, () => Expression.Block(
                [here],
                Expression.Assign(here, By.Emit(emitter)),
                Expression.IfThen(
                    Expression.OrElse(
                        Expression.Equal(emitter.RowIndexOf(Section), Expression.Constant(0)),
                        Most ? Expression.GreaterThan(here, measure) : Expression.LessThan(here, measure)),
                    Expression.Block(
                        Expression.Assign(found, Of.Emit(emitter)),
                        Expression.Assign(measure, here))))));
    }
}
