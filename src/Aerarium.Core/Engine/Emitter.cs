using System.Linq.Expressions;
using System.Reflection;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>
/// Turns formula trees into expressions over a <see cref="Sheet"/>; knows where every line's value lies. Who keeps values elsewhere says so by
/// overriding where they lie.
/// </summary>
public class Emitter
{
    private readonly Dictionary<RepeatingSection, Standing> _standing = [];
    private readonly List<ParameterExpression> _arrays = [];
    private readonly List<Expression> _fetch = [];

    private readonly LawValues? _law;
    private ParameterExpression? _lawAmounts, _lawTables;

    /// <summary>Turns trees into expressions; with <paramref name="law"/> what they take from the law is read from the sheet, without it is part of the code.</summary>
    internal Emitter(LawValues? law = null)
    {
        _law = law;
        Sheet = Expression.Parameter(typeof(Sheet), "sheet");
        Amounts = Local(typeof(decimal[]), nameof(Engine.Sheet.Amounts));
        Codes = Local(typeof(int[]), nameof(Engine.Sheet.Codes));
        Filled = Local(typeof(bool[]), nameof(Engine.Sheet.Filled));
        Texts = Local(typeof(string[]), nameof(Engine.Sheet.Texts));
        Open = Local(typeof(bool[]), nameof(Engine.Sheet.Open));
        Sections = Local(typeof(bool[]), nameof(Engine.Sheet.OpenSections));
    }

    internal ParameterExpression Sheet { get; }

    private ParameterExpression Amounts { get; }

    private ParameterExpression Codes { get; }

    private ParameterExpression Filled { get; }

    private ParameterExpression Texts { get; }

    private ParameterExpression Open { get; }

    private ParameterExpression Sections { get; }

    /// <summary>Whether something of the law is part of the code all the same.</summary>
    internal bool HasLawWithin { get; private set; }

    /// <summary>A figure of the law that a rule names.</summary>
    internal Expression OfLaw(Formula formula, decimal value)
    {
        if (_law?.PositionOf(formula) is { } position)
        {
            return Expression.ArrayIndex(_lawAmounts ??= Local(typeof(decimal[]), nameof(Engine.Sheet.LawAmounts)), Expression.Constant(position));
        }

        HasLawWithin = true;
        return Expression.Constant(value);
    }

    /// <summary>A table of the law that a rule names.</summary>
    internal Expression OfLaw<TTable>(Formula formula, TTable table)
        where TTable : class
    {
        if (_law?.PositionOf(formula) is { } position)
        {
            return Expression.Convert(Expression.ArrayIndex(_lawTables ??= Local(typeof(object[]), nameof(Engine.Sheet.LawTables)), Expression.Constant(position)), typeof(TTable));
        }

        HasLawWithin = true;
        return Expression.Constant(table);
    }

    /// <summary>Day number of the day of evaluation.</summary>
    public virtual Expression Today => Expression.Field(Sheet, nameof(Engine.Sheet.Today));

    /// <summary>The amount of a line.</summary>
    public virtual Expression AmountOf(Line line) => At(line, Amounts, s => s.Amounts);

    /// <summary>The code of a line.</summary>
    public virtual Expression CodeOf(Line line) => At(line, Codes, s => s.Codes);

    /// <summary>The text of a line.</summary>
    public virtual Expression TextOf(Line line) => At(line, Texts, s => s.Texts);

    /// <summary>Whether a line is filled in.</summary>
    public virtual Expression FilledAt(Line line) => At(line, Filled, s => s.Filled);

    /// <summary>Whether a line applies.</summary>
    public virtual Expression IsOpen(Line line) => At(line, Open, s => s.Open);

    /// <summary>Whether a section applies.</summary>
    public virtual Expression SectionIsOpen(Section section) => Expression.ArrayAccess(Sections, Expression.Constant(section.Position));

    /// <summary>The rows of a repeating section one stands in.</summary>
    public virtual Expression RowsOf(RepeatingSection section) => _standing[section].Rows;

    /// <summary>The index of the row one stands in.</summary>
    public virtual Expression RowIndexOf(RepeatingSection section) => _standing[section].Index;

    /// <summary>
    /// Walks over the rows of a repeating section, block by block; the block's value is <paramref name="result"/>. In blocks that were
    /// computed before, <paramref name="inSettled"/> is done instead of <paramref name="body"/>, where there is one.
    /// </summary>
    public virtual Expression OverRows(RepeatingSection section, ParameterExpression? result, Func<Expression> body, Func<Expression>? inSettled = null)
    {
        var outer = _standing.GetValueOrDefault(section);
        var standing = new Standing();
        _standing[section] = standing;
        var width = section.Lines.Count;
        var walk = RowByRow(standing, width, body());
        if (inSettled is not null)
        {
            walk = Expression.IfThenElse(
                Expression.ArrayIndex(Expression.Field(standing.Rows, nameof(Rows.Settled)), standing.Number), RowByRow(standing, width, inSettled()), walk);
        }

        var done = Expression.Label("done");
        List<Expression> statements =
        [
            Expression.Assign(standing.Rows, RowsAt(section)),
            Expression.Assign(standing.Index, Expression.Constant(0)),
            Expression.Assign(standing.Number, Expression.Constant(0)),
            Expression.Loop(
                Expression.IfThenElse(
                    Expression.LessThan(standing.Index, Expression.Field(standing.Rows, nameof(Rows.Count))),
                    Expression.Block(
                    [
                        Expression.Assign(standing.Block, Expression.ArrayIndex(Expression.Field(standing.Rows, nameof(Rows.Blocks)), standing.Number)),
                        Expression.Assign(standing.Offset, Expression.Constant(0)),
                        Expression.Assign(standing.End, Expression.Add(standing.Index, Expression.Field(standing.Block, nameof(RowBlock.Count)))),
                        .. standing.Fetched.Select(f => Expression.Assign(f.Value, Expression.Field(standing.Block, f.Key))),
                        walk,
                        Expression.PreIncrementAssign(standing.Number),
                    ]),
                    Expression.Break(done)),
                done),
        ];
        List<ParameterExpression> variables = [.. standing.Variables];
        if (result is not null)
        {
            variables.Add(result);
            statements.Insert(0, Expression.Assign(result, Expression.Default(result.Type)));
            statements.Add(result);
        }

        if (outer is null)
        {
            _standing.Remove(section);
        }
        else
        {
            _standing[section] = outer;
        }

        return Expression.Block(variables, statements);
    }

    private static Expression RowByRow(Standing standing, int width, Expression step)
    {
        var done = Expression.Label("done");
        return Expression.Loop(
            Expression.IfThenElse(
                Expression.LessThan(standing.Index, standing.End),
                Expression.Block(
                    step,
                    Expression.PreIncrementAssign(standing.Index),
                    Expression.AddAssign(standing.Offset, Expression.Constant(width))),
                Expression.Break(done)),
            done);
    }

    /// <summary>Gives up blocks of rows taken over from an earlier evaluation when something they depend on has changed.</summary>
    internal Expression Settle(RowDependence dependence) => Expression.Call(Expression.Constant(dependence), nameof(RowDependence.Settle), [], Sheet);

    internal Expression AnyFilled(Line column) =>
        Expression.Call(RowsAt(column.Table!), nameof(Rows.AnyFilled), [], Expression.Constant(column.Slot));

    internal bool StandsIn(RepeatingSection section) => _standing.ContainsKey(section);

    internal Expression Given(Line line, string field) =>
        line.Table is null
            ? Expression.ArrayAccess(Expression.Field(Sheet, $"Given{field}"), Expression.Constant(line.Slot))
            : Expression.ArrayAccess(
                Expression.Property(Expression.Field(_standing[line.Table].Block, nameof(RowBlock.Given)), field), Position(line));

    internal Expression ScalarFinding(int slot) =>
        Expression.ArrayAccess(Expression.Field(Sheet, nameof(Engine.Sheet.Findings)), Expression.Constant(slot));

    internal Expression RowFinding(RepeatingSection section, int width, int slot)
    {
        var standing = _standing[section];
        var inBlock = Expression.Modulo(standing.Index, Expression.Constant(RowBlock.Size));
        return Expression.ArrayAccess(standing.Findings, Expression.Add(Expression.Multiply(inBlock, Expression.Constant(width)), Expression.Constant(slot)));
    }

    internal Expression FindingAcross(RepeatingSection section, int slot) => Expression.ArrayAccess(
        Expression.Call(_standing[section].Rows, nameof(Rows.Across), [], Expression.Constant(slot)), _standing[section].Index);

    /// <summary>Decides whether a section applies; of a repeating section that does not, no row counts.</summary>
    internal Expression Decide(Section section)
    {
        var applies = Expression.Assign(SectionIsOpen(section), section.When!.Emit(this));
        if (section is not RepeatingSection table)
        {
            return applies;
        }

        var rows = RowsAt(table);
        return Expression.Assign(
            Expression.Field(rows, nameof(Rows.Count)),
            Expression.Condition(applies, Expression.Property(rows, nameof(Rows.GivenCount)), Expression.Constant(0)));
    }

    internal Action<Sheet> Compile(IEnumerable<Expression> statements) =>
        Expression.Lambda<Action<Sheet>>(Expression.Block(_arrays, [.. _fetch, .. statements, Expression.Empty()]), Sheet).Compile();

    /// <summary>The number of rows that count.</summary>
    public virtual Expression RowCountOf(RepeatingSection section) => Expression.Field(RowsAt(section), nameof(Rows.Count));

    private BinaryExpression RowsAt(RepeatingSection section) =>
        Expression.ArrayIndex(Expression.Field(Sheet, nameof(Engine.Sheet.Tables)), Expression.Constant(section.TableNumber));

    private Expression At(Line line, Expression single, Func<Standing, Expression> column) =>
        line.Table is null
            ? Expression.ArrayAccess(single, Expression.Constant(line.Slot))
            : Expression.ArrayAccess(column(_standing[line.Table]), Position(line));

    private Expression Position(Line line) => Expression.Add(_standing[line.Table!].Offset, Expression.Constant(line.Slot));

    private ParameterExpression Local(Type type, string field)
    {
        var local = Expression.Variable(type, field);
        _arrays.Add(local);
        _fetch.Add(Expression.Assign(local, Expression.Field(Sheet, typeof(Sheet).GetField(field, BindingFlags.Public | BindingFlags.Instance)!)));
        return local;
    }

    private sealed class Standing
    {
        public ParameterExpression Rows { get; } = Expression.Variable(typeof(Rows), "rows");

        public ParameterExpression Number { get; } = Expression.Variable(typeof(int), "number");

        public ParameterExpression Block { get; } = Expression.Variable(typeof(RowBlock), "block");

        public ParameterExpression Index { get; } = Expression.Variable(typeof(int), "row");

        public ParameterExpression End { get; } = Expression.Variable(typeof(int), "end");

        public ParameterExpression Offset { get; } = Expression.Variable(typeof(int), "offset");

        /// <summary>The arrays that were asked for; only these are fetched from each block.</summary>
        public Dictionary<string, ParameterExpression> Fetched { get; } = [];

        public IEnumerable<ParameterExpression> Variables => [Rows, Number, Block, Index, End, Offset, .. Fetched.Values];

        public ParameterExpression Amounts => Array(nameof(RowBlock.Amounts), typeof(decimal[]));

        public ParameterExpression Codes => Array(nameof(RowBlock.Codes), typeof(int[]));

        public ParameterExpression Filled => Array(nameof(RowBlock.Filled), typeof(bool[]));

        public ParameterExpression Texts => Array(nameof(RowBlock.Texts), typeof(string[]));

        public ParameterExpression Open => Array(nameof(RowBlock.Open), typeof(bool[]));

        public ParameterExpression Findings => Array(nameof(RowBlock.Findings), typeof(bool[]));

        private ParameterExpression Array(string field, Type type)
        {
            if (!Fetched.TryGetValue(field, out var local))
            {
                Fetched[field] = local = Expression.Variable(type, field);
            }

            return local;
        }
    }
}
