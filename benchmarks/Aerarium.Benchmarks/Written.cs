using System.Linq.Expressions;
using System.Text.RegularExpressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;

namespace Aerarium.Benchmarks;

/// <summary>What is kept of a line, a section or a finding.</summary>
internal enum Kept
{
    /// <summary>An amount.</summary>
    Amount,

    /// <summary>A code, a date or an answer, as a number.</summary>
    Code,

    /// <summary>A text.</summary>
    Text,

    /// <summary>Whether it is filled in.</summary>
    Filled,

    /// <summary>Whether it applies.</summary>
    Applies,

    /// <summary>Whether a finding holds.</summary>
    Holds,
}

/// <summary>A field of the written class, or of one of its rows.</summary>
/// <param name="name">Its name, without the row.</param>
/// <param name="kept">What it keeps.</param>
/// <param name="table">The repeating section it is a column of, or null.</param>
/// <param name="row">The variable of the row one stands in, or null.</param>
internal sealed class Field(string name, Kept kept, RepeatingSection? table, string? row) : Expression
{
    public override ExpressionType NodeType => ExpressionType.Extension;

    public override Type Type => TypeOf(kept);

    /// <summary>The same for a column in whatever row.</summary>
    public (RepeatingSection? Table, string Name) Identity => (table, name);

    /// <summary>How it stands in the source.</summary>
    public string Text => row is null ? name : $"{row}.{name}";

    public static Type TypeOf(Kept kept) => kept switch
    {
        Kept.Amount => typeof(decimal),
        Kept.Code => typeof(int),
        Kept.Text => typeof(string),
        _ => typeof(bool),
    };

    protected override Expression VisitChildren(ExpressionVisitor visitor) => this;
}

/// <summary>Puts a value into a field, or adds it to what is there.</summary>
/// <param name="into">The field.</param>
/// <param name="value">The value.</param>
/// <param name="adds">Whether it is added.</param>
internal sealed class Store(Field into, Expression value, bool adds = false) : Expression
{
    public override ExpressionType NodeType => ExpressionType.Extension;

    public override Type Type => typeof(void);

    public Field Into => into;

    public Expression Value => value;

    public bool Adds => adds;

    protected override Expression VisitChildren(ExpressionVisitor visitor)
    {
        visitor.Visit(value);
        return this;
    }
}

/// <summary>A walk over rows, with what is done in each.</summary>
/// <param name="table">The repeating section.</param>
/// <param name="row">Variable of the row.</param>
/// <param name="index">Variable of its index.</param>
/// <param name="result">What the walk yields, or null.</param>
/// <param name="body">What is done in each row.</param>
internal sealed class RowWalk(RepeatingSection table, string row, string index, ParameterExpression? result, Expression body) : Expression
{
    public override ExpressionType NodeType => ExpressionType.Extension;

    public override Type Type => result?.Type ?? typeof(void);

    public RepeatingSection Table => table;

    public string Row => row;

    public string Index => index;

    public ParameterExpression? Result => result;

    public Expression Body => body;

    protected override Expression VisitChildren(ExpressionVisitor visitor)
    {
        visitor.Visit(body);
        return this;
    }
}

/// <summary>
/// Writes the rules of a return out as a person would who wants speed and nothing else: a field for each figure, an array of structs for rows, one statement
/// after the other. Whether something is filled in or applies is kept only where a rule asks for it.
/// </summary>
internal sealed class Written : Emitter
{
    private readonly Definition _definition;
    private readonly Dictionary<RepeatingSection, (string Row, string Index)> _standing = [];
    private int _walks;

    public Written(Definition definition)
    {
        _definition = definition;
    }

    public override Expression AmountOf(Line line) => Place(line, Kept.Amount);

    public override Expression CodeOf(Line line) => Place(line, Kept.Code);

    public override Expression TextOf(Line line) => Place(line, Kept.Text);

    public override Expression FilledAt(Line line) => Place(line, Kept.Filled);

    public override Expression IsOpen(Line line) => line.OpenWhen is null ? Expression.Constant(true) : Place(line, Kept.Applies);

    public override Expression SectionIsOpen(Section section) =>
        section.When is null ? Expression.Constant(true) : new Field(NameOf(section), Kept.Applies, null, null);

    public override Expression Today => Expression.Parameter(typeof(int), "today");

    public override Expression RowsOf(RepeatingSection section) => Expression.Parameter(typeof(Rows), RowsName(section));

    public override Expression RowIndexOf(RepeatingSection section) => Expression.Parameter(typeof(int), _standing[section].Index);

    public override Expression RowCountOf(RepeatingSection section) => Expression.Parameter(typeof(int), CountName(section));

    public override Expression OverRows(RepeatingSection section, ParameterExpression? result, Func<Expression> body, Func<Expression>? inSettled = null)
    {
        var number = ++_walks;
        var (outer, within) = (_standing.TryGetValue(section, out var before), ($"row{number}", $"at{number}"));
        _standing[section] = within;
        var done = body();
        if (outer)
        {
            _standing[section] = before;
        }
        else
        {
            _standing.Remove(section);
        }

        return new RowWalk(section, within.Item1, within.Item2, result, done);
    }

    public static string RowsName(RepeatingSection section) => $"rows_{section.TableNumber}";

    public static string CountName(RepeatingSection section) => $"count_{section.TableNumber}";

    public static string RowType(RepeatingSection section) => $"Row_{section.TableNumber}";

    /// <summary>The name of what was entered in a line.</summary>
    public static string Given(Line line, Kept kept) => $"{(line.OpenWhen is null || line.IsComputed ? "" : "given")}{Named(line, kept)}";

    public static string Named(Line line, Kept kept) => $"_{Plain(line.Table is null ? line.Key : line.Name)}{Suffix(kept)}";

    /// <summary>Every figure and finding of the return, in the order in which they are computed: what is kept, and how it comes about.</summary>
    public IEnumerable<Expression> Statements()
    {
        foreach (var walk in _definition.Evaluator.Walks)
        {
            if (walk.Over is not { } table)
            {
                yield return walk.Steps[0].Section is { } section ? Closes(section) : Compute(walk.Steps[0].Line!);
                continue;
            }

            var totals = walk.Steps.Where(s => s.Line!.Table is null).Select(s => s.Line!).ToList();
            foreach (var total in totals)
            {
                yield return new Store(Place(total, Kept.Amount), Expression.Constant(0m));
            }

            yield return OverRows(table, null, () => Expression.Block(walk.Steps.Select(s => s.Line!.Table is null
                ? new Store(Place(s.Line!, Kept.Amount), WalkOrder.PlainTotal(s.Line!)!.Of!.Emit(this), adds: true)
                : Compute(s.Line!)).Append(Expression.Empty())));
            foreach (var total in totals)
            {
                yield return new Store(Place(total, Kept.Filled), Filled(total, AmountOf(total)));
            }
        }

        foreach (var finding in _definition.Findings.Where(f => f.Table is null))
        {
            yield return new Store(new Field($"finding_{finding.Slot}", Kept.Holds, null, null), finding.When.Emit(this));
        }

        foreach (var rules in _definition.Findings.Where(f => f.Table is not null).GroupBy(f => f.Table!))
        {
            yield return OverRows(rules.Key, null, () => Expression.Block(rules.Select(r => (Expression)new Store(
                new Field($"finding_{r.Slot}", Kept.Holds, rules.Key, _standing[rules.Key].Row), r.When.Emit(this))).Append(Expression.Empty())));
        }
    }

    private Expression Closes(Section section)
    {
        var applies = new Store(new Field(NameOf(section), Kept.Applies, null, null), section.When!.Emit(this));
        return section is RepeatingSection table
            ? Expression.Block(applies, Expression.Assign((ParameterExpression)RowCountOf(table), Expression.Condition(SectionIsOpen(table), Expression.Parameter(typeof(int), $"{RowsName(table)}.Length"), Expression.Constant(0))))
            : applies;
    }

    /// <summary>All that is kept of a line; what nothing asks for is left out later.</summary>
    private Expression Compute(Line line)
    {
        List<(Field Place, Expression Value)> stores = [];
        if (!line.IsComputed)
        {
            if (line.OpenWhen is null)
            {
                return Expression.Empty();
            }

            foreach (var kept in new[] { Kept.Amount, Kept.Code, Kept.Text, Kept.Filled })
            {
                stores.Add((Place(line, kept), Column($"given{Named(line, kept)}", kept, line)));
            }
        }
        else
        {
            var value = line.Formula!.Emit(this);
            var amount = line.Formula is Amount;
            var text = line.Formula is TextFormula;
            var place = Place(line, amount ? Kept.Amount : text ? Kept.Text : Kept.Code);
            stores.Add((place, line.Formula switch
            {
                Condition => Expression.Condition(value, Expression.Constant(1), Expression.Constant(0)),
                TextFormula => Expression.Call(typeof(Evaluator), nameof(Evaluator.TextFor), [], Expression.Constant(line), value),
                _ => value,
            }));
            if (text)
            {
                stores.Add((Place(line, Kept.Code), Expression.Call(typeof(Evaluator), nameof(Evaluator.CodeFor), [], Expression.Constant(line), TextOf(line))));
            }

            stores.Add((Place(line, Kept.Filled), line.Formula is Amount or Condition ? Filled(line, place) : Expression.NotEqual(place, Expression.Default(place.Type))));
        }

        if (line.OpenWhen is null)
        {
            return Expression.Block(stores.Select(s => (Expression)new Store(s.Place, s.Value)).Append(Expression.Empty()));
        }

        return Expression.Block(
            new Store(Place(line, Kept.Applies), line.OpenWhen.Emit(this)),
            Expression.IfThenElse(
                Place(line, Kept.Applies),
                Expression.Block(stores.Select(s => (Expression)new Store(s.Place, s.Value)).Append(Expression.Empty())),
                Expression.Block(stores.Select(s => (Expression)new Store(s.Place, Expression.Default(s.Place.Type))).Append(Expression.Empty()))));
    }

    private Expression Filled(Line line, Expression place) => _definition.Evaluator.Beneath(line).Aggregate(
        (Expression)Expression.NotEqual(place, Expression.Default(place.Type)),
        (before, beneath) => Expression.OrElse(before, beneath.Table is null || _standing.ContainsKey(beneath.Table) ? FilledAt(beneath) : AnyIn(beneath)));

    private Expression AnyIn(Line column)
    {
        var found = Expression.Variable(typeof(bool), "found");
        return OverRows(column.Table!, found, () => Expression.IfThen(FilledAt(column), Expression.Assign(found, Expression.Constant(true))));
    }

    private Field Place(Line line, Kept kept) => Column(Named(line, kept), kept, line);

    private Field Column(string name, Kept kept, Line line) => new(name, kept, line.Table, line.Table is null ? null : _standing[line.Table].Row);

    private static string NameOf(Section section) => $"applies_{section.Position}";

    private static string Suffix(Kept kept) => kept switch
    {
        Kept.Amount => "",
        Kept.Code => "_code",
        Kept.Text => "_text",
        Kept.Filled => "_filled",
        _ => "_applies",
    };

    private static string Plain(string key) => Regex.Replace(key.Replace(".", "__", StringComparison.Ordinal), "[^A-Za-z0-9_]", "_");
}
