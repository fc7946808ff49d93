using System.Linq.Expressions;
using System.Reflection;
using Aerarium.Core.Definitions;

namespace Aerarium.Core.Engine;

/// <summary>Turns formula trees into expressions over a <see cref="Sheet"/>; knows where every line's value lies.</summary>
public sealed class Emitter
{
    private readonly Dictionary<RepeatingSection, Standing> _standing = [];
    private readonly List<ParameterExpression> _arrays = [];
    private readonly List<Expression> _fetch = [];

    internal Emitter()
    {
        Sheet = Expression.Parameter(typeof(Sheet), "sheet");
        Amounts = Local(typeof(decimal[]), nameof(Engine.Sheet.Amounts));
        Filled = Local(typeof(bool[]), nameof(Engine.Sheet.Filled));
        Texts = Local(typeof(string[]), nameof(Engine.Sheet.Texts));
        Open = Local(typeof(bool[]), nameof(Engine.Sheet.Open));
        Sections = Local(typeof(bool[]), nameof(Engine.Sheet.OpenSections));
    }

    internal ParameterExpression Sheet { get; }

    private ParameterExpression Amounts { get; }

    private ParameterExpression Filled { get; }

    private ParameterExpression Texts { get; }

    private ParameterExpression Open { get; }

    private ParameterExpression Sections { get; }

    /// <summary>Day number of the day of evaluation.</summary>
    public Expression Today => Expression.Field(Sheet, nameof(Engine.Sheet.Today));

    /// <summary>The amount of a line.</summary>
    public Expression AmountOf(Line line) => At(line, Amounts, s => s.Amounts);

    /// <summary>The text of a line.</summary>
    public Expression TextOf(Line line) => At(line, Texts, s => s.Texts);

    /// <summary>Whether a line is filled in.</summary>
    public Expression FilledAt(Line line) => At(line, Filled, s => s.Filled);

    /// <summary>Whether a line applies.</summary>
    public Expression IsOpen(Line line) => At(line, Open, s => s.Open);

    /// <summary>Whether a section applies.</summary>
    public Expression SectionIsOpen(Section section) => Expression.ArrayAccess(Sections, Expression.Constant(section.Position));

    /// <summary>The rows of a repeating section one stands in.</summary>
    public Expression RowsOf(RepeatingSection section) => _standing[section].Rows;

    /// <summary>The index of the row one stands in.</summary>
    public Expression RowIndexOf(RepeatingSection section) => _standing[section].Index;

    /// <summary>Walks over the rows of a repeating section; the block's value is <paramref name="result"/>.</summary>
    public Expression OverRows(RepeatingSection section, ParameterExpression? result, Func<Expression> body)
    {
        var outer = _standing.GetValueOrDefault(section);
        var standing = new Standing();
        _standing[section] = standing;
        var step = body();
        var done = Expression.Label("done");
        var rowCount = Expression.Property(standing.Rows, nameof(Rows.Count));
        List<Expression> statements =
        [
            Expression.Assign(
                standing.Rows,
                Expression.ArrayIndex(Expression.Field(Sheet, nameof(Engine.Sheet.Tables)), Expression.Constant(section.TableNumber))),
            Expression.Assign(standing.Index, Expression.Constant(0)),
            Expression.Assign(standing.Offset, Expression.Constant(0)),
            Expression.Assign(standing.Amounts, Expression.Field(standing.Rows, nameof(Rows.Amounts))),
            Expression.Assign(standing.Filled, Expression.Field(standing.Rows, nameof(Rows.Filled))),
            Expression.Assign(standing.Texts, Expression.Field(standing.Rows, nameof(Rows.Texts))),
            Expression.Assign(standing.Open, Expression.Field(standing.Rows, nameof(Rows.Open))),
            Expression.Loop(
                Expression.IfThenElse(
                    Expression.LessThan(standing.Index, rowCount),
                    Expression.Block(
                        step,
                        Expression.PreIncrementAssign(standing.Index),
                        Expression.AddAssign(standing.Offset, Expression.Constant(section.Form.Definition.TableWidth(section)))),
                    Expression.Break(done)),
                done),
        ];
        List<ParameterExpression> variables =
        [
            standing.Rows, standing.Index, standing.Offset, standing.Amounts, standing.Filled, standing.Texts, standing.Open,
        ];
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

    internal Expression AnyFilled(Line column) =>
        Expression.Call(
            Expression.ArrayIndex(Expression.Field(Sheet, nameof(Engine.Sheet.Tables)), Expression.Constant(column.Table!.TableNumber)),
            nameof(Rows.AnyFilled),
            [],
            Expression.Constant(column.Slot));

    internal bool StandsIn(RepeatingSection section) => _standing.ContainsKey(section);

    internal Expression Given(Line line, string field) =>
        line.Table is null
            ? Expression.ArrayAccess(Expression.Field(Sheet, field), Expression.Constant(line.Slot))
            : Expression.ArrayAccess(Expression.Field(_standing[line.Table].Rows, field), Position(line));

    internal Expression ScalarFinding(int slot) =>
        Expression.ArrayAccess(Expression.Field(Sheet, nameof(Engine.Sheet.Findings)), Expression.Constant(slot));

    internal Expression RowFinding(RepeatingSection section, int slot) =>
        Expression.ArrayAccess(
            Expression.Field(_standing[section].Rows, nameof(Rows.Findings)),
            Expression.Add(
                Expression.Multiply(_standing[section].Index, Expression.Property(_standing[section].Rows, nameof(Rows.FindingWidth))),
                Expression.Constant(slot)));

    internal Action<Sheet> Compile(IEnumerable<Expression> statements) =>
        Expression.Lambda<Action<Sheet>>(Expression.Block(_arrays, [.. _fetch, .. statements, Expression.Empty()]), Sheet).Compile();

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

        public ParameterExpression Index { get; } = Expression.Variable(typeof(int), "row");

        public ParameterExpression Offset { get; } = Expression.Variable(typeof(int), "offset");

        public ParameterExpression Amounts { get; } = Expression.Variable(typeof(decimal[]), "amounts");

        public ParameterExpression Filled { get; } = Expression.Variable(typeof(bool[]), "filled");

        public ParameterExpression Texts { get; } = Expression.Variable(typeof(string[]), "texts");

        public ParameterExpression Open { get; } = Expression.Variable(typeof(bool[]), "open");
    }
}
