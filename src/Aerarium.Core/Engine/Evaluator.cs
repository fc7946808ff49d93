using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>
/// Runs the rules of a definition over a sheet. Interprets until <see cref="Compile"/> has been called (in the
/// background after the first run), then runs compiled code; both give the same values.
/// </summary>
public sealed class Evaluator
{
    private const int StepsPerDelegate = 12;

    private readonly Definition _definition;
    private readonly IReadOnlyList<Step> _steps;
    private readonly IReadOnlyList<Walk> _walks;
    private readonly IReadOnlyDictionary<RepeatingSection, RowDependence> _dependences;
    private readonly IReadOnlyDictionary<Line, IReadOnlyList<Line>> _beneath;
    private readonly HashSet<Line> _asked = [];
    private readonly Lock _gate = new();
    private Task? _compiling;
    private volatile CompiledRules? _compiled;

    internal Evaluator(Definition definition, IReadOnlyList<Step> steps)
    {
        _definition = definition;
        _steps = steps;
        Law = LawValues.Of(definition);
        _walks = WalkOrder.Of(steps);
        _dependences = definition.Tables.Select(t => RowDependence.Of(t, _walks)).OfType<RowDependence>().ToDictionary(d => d.Table);
        _beneath = definition.Lines
            .Where(l => l.IsComputed)
            .ToDictionary(l => l, l => RuleOrder.LinesBeneath(l.Formula!));
        foreach (var line in _beneath.Keys.Where(l => l.Formula is not Amount).Concat(_dependences.Values.SelectMany(d => d.Lines)))
        {
            Ask(line);
        }

        foreach (var formula in steps.SelectMany(s => s.Formulas).Concat(definition.Findings.Select(f => f.When)))
        {
            AskWithin(formula);
        }

        void AskWithin(Formula formula)
        {
            foreach (var line in formula.AsksWhetherFilled)
            {
                Ask(line);
            }

            foreach (var operand in formula.Operands)
            {
                AskWithin(operand);
            }
        }

        void Ask(Line line)
        {
            if (line.IsComputed && _asked.Add(line))
            {
                foreach (var beneath in _beneath[line])
                {
                    Ask(beneath);
                }
            }
        }
    }

    /// <summary>What the rules take from the law.</summary>
    internal LawValues Law { get; }

    /// <summary>The compiled rules, or null before they are; definitions that differ only in values of the law have the same.</summary>
    internal object? Code => _compiled;

    /// <summary>The steps of the computation, gathered into walks over rows.</summary>
    internal IReadOnlyList<Walk> Walks => _walks;

    /// <summary>The lines whose being filled in makes a computed line count as filled in.</summary>
    internal IReadOnlyList<Line> Beneath(Line line) => _beneath[line];

    /// <summary>Whether runs use compiled code by now.</summary>
    public bool IsCompiled => _compiled is not null;

    /// <summary>Whether rows of a repeating section depend on their own entries and on single lines only, so that evaluations can share them.</summary>
    internal bool SharesRowsOf(RepeatingSection table) => _dependences.ContainsKey(table);

    /// <summary>The lines whose formulas refer to a line.</summary>
    public IEnumerable<Line> UsersOf(Line line) => _beneath.Where(b => b.Value.Contains(line)).Select(b => b.Key);

    /// <summary>Completes a loaded sheet: closed lines, computed lines, findings, and which computed amounts count as filled in.</summary>
    /// <exception cref="RuleException">A rule failed while computing; the message names the line.</exception>
    public void Run(Sheet sheet)
    {
        if (Compute(sheet) is { } compiled)
        {
            foreach (var part in compiled.Marks)
            {
                part(sheet);
            }
        }
    }

    /// <summary>
    /// Every figure and finding and nothing that only a reader needs: a computed amount that is zero is not told from a blank one unless a rule asks.
    /// </summary>
    /// <exception cref="RuleException">A rule failed while computing; the message names the line.</exception>
    public void Figures(Sheet sheet) => Compute(sheet);

    /// <summary>Computes with compiled code, which is returned, or interprets, which leaves nothing to do.</summary>
    private CompiledRules? Compute(Sheet sheet)
    {
        if (_compiled is not { } compiled)
        {
            Interpret(sheet);
            lock (_gate)
            {
                _compiling ??= Task.Run(Compile);
            }

            return null;
        }

        sheet.BeginRun();
        try
        {
            foreach (var part in compiled.Figures)
            {
                part(sheet);
            }
        }
        catch (ArithmeticException)
        {
            Interpret(sheet);
            return null;
        }

        sheet.EndRun();
        return compiled;
    }

    /// <summary>Compiles the rules now, in the calling thread.</summary>
    public void Compile()
    {
        var key = SharedCode.KeyOf(_definition, Law);
        if (SharedCode.Find(key) is { } shared)
        {
            _compiled = shared;
            return;
        }

        var parts = new List<Action<Sheet>>();
        var emitter = new Emitter(Law);
        var lawWithin = false;
        var statements = new List<Expression>();
        var gathered = 0;
        var settled = new HashSet<RepeatingSection>();
        foreach (var walks in _walks.ChunkBy((one, next) => OpensAs(one, next)))
        {
            var walk = walks[0];
            Settle(walk.Over);
            statements.Add(walks.Count > 1 ? EmitTogether(walks.Select(w => w.Steps[0].Line!), emitter) : Emit(walk, emitter));
            gathered += walks.Sum(w => w.Steps.Count);
            if (gathered >= StepsPerDelegate)
            {
                Flush();
                gathered = 0;
            }
        }

        Flush();
        foreach (var rules in _definition.Findings.Where(f => f.Table is null).Chunk(StepsPerDelegate))
        {
            statements.AddRange(rules.Select(r => Expression.Assign(emitter.ScalarFinding(r.Slot), r.When.Emit(emitter))));
            Flush();
        }

        foreach (var rules in _definition.Findings.Where(f => f.Table is not null).GroupBy(f => f.Table!))
        {
            Settle(rules.Key);
            var across = rules.Where(r => r.ComparesRows).ToList();
            statements.Add(emitter.OverRows(
                rules.Key,
                null,
                () => Expression.Block(rules.Except(across).Select(r => (Expression)Expression.Assign(emitter.RowFinding(rules.Key, rules.Count(), r.Slot), r.When.Emit(emitter))).Append(Expression.Empty())),
                Expression.Empty));
            Flush();
            foreach (var rule in across)
            {
                statements.Add(emitter.OverRows(rules.Key, null, () => Expression.Assign(emitter.FindingAcross(rules.Key, rule.Slot), rule.When.Emit(emitter))));
                Flush();
            }
        }

        var figures = parts.ToArray();
        parts.Clear();
        foreach (var walks in _walks.Where(w => w.Steps.Any(s => IsMarked(s.Line))).Chunk(StepsPerDelegate))
        {
            statements.AddRange(walks.SelectMany(w => Marks(w, emitter)));
            Flush();
        }

        var code = new CompiledRules(figures, [.. parts]);
        if (!lawWithin)
        {
            SharedCode.Keep(key, code);
        }

        _compiled = code;

        void Settle(RepeatingSection? table)
        {
            if (table is not null && settled.Add(table) && _dependences.TryGetValue(table, out var dependence))
            {
                statements.Add(emitter.Settle(dependence));
            }
        }

        void Flush()
        {
            if (statements.Count > 0)
            {
                parts.Add(emitter.Compile(statements));
                lawWithin |= emitter.HasLawWithin;
                statements = [];
                emitter = new Emitter(Law);
            }
        }
    }

    private Expression Emit(Walk walk, Emitter emitter)
    {
        if (walk.Over is not { } table)
        {
            var step = walk.Steps[0];
            return step.Section is { } section ? emitter.Decide(section) : EmitTogether([step.Line!], emitter);
        }

        var totals = walk.Steps.Where(s => s.Line!.Table is null)
            .ToDictionary(s => s.Line!, s => Expression.Variable(typeof(decimal), "total"));
        return Expression.Block(
            totals.Values,
            [
                .. totals.Values.Select(total => Expression.Assign(total, Expression.Constant(0m))),
                emitter.OverRows(
                    table,
                    null,
                    () => Expression.Block(walk.Steps.Select(s => s.Line!).ChunkBy((one, next) => !totals.ContainsKey(one) && !totals.ContainsKey(next) && one.OpenWhen == next.OpenWhen)
                        .Select(lines => totals.TryGetValue(lines[0], out var total) ? Add(lines[0], total) : EmitTogether(lines, emitter))),
                    () => Expression.Block(totals.Select(t => Add(t.Key, t.Value)).Append(Expression.Empty()))),
                .. totals.Select(total => Store(total.Key, total.Value, emitter)),
            ]);

        Expression Add(Line line, ParameterExpression total) => Sum.Added(total, WalkOrder.PlainTotal(line)!.Of!.Emit(emitter));
    }

    /// <summary>Whether it is left for later if a computed amount counts as filled in.</summary>
    private bool IsMarked(Line? line) => line is { IsComputed: true } && !_asked.Contains(line);

    private IEnumerable<Expression> Marks(Walk walk, Emitter emitter)
    {
        var lines = walk.Steps.Select(s => s.Line).OfType<Line>().Where(IsMarked).ToList();
        if (walk.Over is { } table && lines.Any(l => l.Table is not null))
        {
            yield return emitter.OverRows(table, null, () => Expression.Block(lines.Where(l => l.Table is not null).Select(Mark)), Expression.Empty);
        }

        foreach (var line in lines.Where(l => l.Table is null))
        {
            yield return Mark(line);
        }

        // What is closed was marked as blank when it was closed.
        Expression Mark(Line line)
        {
            var mark = Expression.Assign(
                emitter.FilledAt(line), OrBeneath(RelationWords.Emit(Relation.Different, emitter.AmountOf(line), Expression.Constant(0m)), line, emitter));
            return line.OpenWhen is null ? mark : Expression.IfThen(emitter.IsOpen(line), mark);
        }
    }

    /// <summary>Whether two single lines, one after the other, open by one and the same condition, which then is asked once.</summary>
    private static bool OpensAs(Walk one, Walk next) =>
        one.Steps[0].Line is { Table: null, OpenWhen: { } when } && one.Over is null && next.Over is null && next.Steps[0].Line is { Table: null } line && line.OpenWhen == when;

    /// <summary>Lines that open by the same condition.</summary>
    private Expression EmitTogether(IEnumerable<Line> lines, Emitter emitter)
    {
        List<Line> all = [.. lines];
        Expression WhenOpen(Line line) => line.IsComputed ? EmitComputed(line, emitter) : EmitGiven(line, emitter);
        if (all[0].OpenWhen is not { } when)
        {
            return Expression.Block(all.Select(WhenOpen).Append(Expression.Empty()));
        }

        return Expression.IfThenElse(
            when.Emit(emitter),
            Expression.Block(all.SelectMany(line => new[] { Expression.Assign(emitter.IsOpen(line), Expression.Constant(true)), WhenOpen(line) }).Append(Expression.Empty())),
            all[0].Table is null
                ? Expression.Call(typeof(Evaluator), nameof(Close), [], emitter.Sheet, Expression.Constant(all.Select(l => l.Slot).ToArray()))
                : Expression.Block(all.Select(line => EmitClosed(line, emitter)).Append(Expression.Empty())));
    }

    /// <summary>Leaves single lines blank that do not apply.</summary>
    internal static void Close(Sheet sheet, int[] slots)
    {
        foreach (var slot in slots)
        {
            sheet.Open[slot] = false;
            sheet.Filled[slot] = false;
            sheet.Amounts[slot] = 0;
            sheet.Codes[slot] = 0;
            sheet.Texts[slot] = null;
        }
    }

    private static Expression EmitClosed(Line line, Emitter emitter) => Expression.Block(
        Expression.Assign(emitter.IsOpen(line), Expression.Constant(false)),
        Expression.Assign(emitter.FilledAt(line), Expression.Constant(false)),
        line.IsCoded
            ? Expression.Assign(emitter.CodeOf(line), Expression.Constant(0))
            : Expression.Assign(emitter.AmountOf(line), Expression.Constant(0m)),
        HasText(line) ? Expression.Assign(emitter.TextOf(line), Expression.Constant(null, typeof(string))) : Expression.Empty());

    private Expression EmitComputed(Line line, Emitter emitter)
    {
        var computed = line.Formula!.Emit(emitter);
        var value = Expression.Variable(computed.Type, "value");
        return Expression.Block([value], Expression.Assign(value, computed), Store(line, value, emitter));
    }

    /// <summary>
    /// Keeps a computed value. An amount or an answer counts as filled in when it is not zero or no, or anything beneath it is filled in; a date, a
    /// text or a code when there is one.
    /// </summary>
    private Expression Store(Line line, ParameterExpression value, Emitter emitter) => line.Formula switch
    {
        Amount when IsMarked(line) => Expression.Assign(emitter.AmountOf(line), value),
        Amount => Expression.Block(
            Expression.Assign(emitter.AmountOf(line), value),
            Expression.Assign(emitter.FilledAt(line), OrBeneath(RelationWords.Emit(Relation.Different, value, Expression.Constant(0m)), line, emitter))),
        Condition => Expression.Block(
            Expression.Assign(emitter.CodeOf(line), Expression.Condition(value, Expression.Constant(1), Expression.Constant(0))),
            Expression.Assign(emitter.FilledAt(line), OrBeneath(value, line, emitter))),
        DateFormula => Expression.Block(
            Expression.Assign(emitter.CodeOf(line), value),
            Expression.Assign(emitter.FilledAt(line), Expression.NotEqual(value, Expression.Constant(0)))),
        _ => Expression.Block(
            Expression.Assign(emitter.TextOf(line), Expression.Call(typeof(Evaluator), nameof(TextFor), [], Expression.Constant(line), value)),
            Expression.Assign(emitter.CodeOf(line), Expression.Call(typeof(Evaluator), nameof(CodeFor), [], Expression.Constant(line), value)),
            Expression.Assign(emitter.FilledAt(line), Expression.NotEqual(emitter.TextOf(line), Expression.Constant(null, typeof(string))))),
    };

    private Expression OrBeneath(Expression filled, Line line, Emitter emitter) => _beneath[line].Aggregate(
        filled,
        (before, beneath) => Expression.OrElse(
            before,
            beneath.Table is null || emitter.StandsIn(beneath.Table) ? emitter.FilledAt(beneath) : emitter.AnyFilled(beneath)));

    /// <summary>A computed text as its line holds it: null when blank, and when a choice has no such code.</summary>
    internal static string? TextFor(Line line, string? text) => string.IsNullOrEmpty(text) || (line.Kind == LineKind.Choice && line.PositionOf(text) == 0) ? null : text;

    /// <summary>The position of a computed code among its choices; zero for a text.</summary>
    internal static int CodeFor(Line line, string? text) => line.Kind == LineKind.Choice && text is not null ? line.PositionOf(text) : 0;

    private static Expression EmitGiven(Line line, Emitter emitter) => Expression.Block(
        Expression.Assign(emitter.FilledAt(line), emitter.Given(line, nameof(GivenCells.Filled))),
        line.IsCoded
            ? Expression.Assign(emitter.CodeOf(line), emitter.Given(line, nameof(GivenCells.Codes)))
            : Expression.Assign(emitter.AmountOf(line), emitter.Given(line, nameof(GivenCells.Amounts))),
        HasText(line) ? Expression.Assign(emitter.TextOf(line), emitter.Given(line, nameof(GivenCells.Texts))) : Expression.Empty());

    private static bool HasText(Line line) => line.Kind is LineKind.Text or LineKind.Identifier or LineKind.Choice or LineKind.Row;

    /// <summary>Completes a loaded sheet by walking the trees, without compiled code.</summary>
    /// <exception cref="RuleException">A rule failed while computing; the message names the line.</exception>
    public void Interpret(Sheet sheet)
    {
        sheet.BeginRun();
        sheet.Unsettle();
        foreach (var step in _steps)
        {
            if (step.Section is { } section)
            {
                var applies = section.When!.Holds(sheet);
                sheet.OpenSections[section.Position] = applies;
                if (section is RepeatingSection table)
                {
                    sheet.Rows(table).Count = applies ? sheet.Rows(table).GivenCount : 0;
                }

                continue;
            }

            var line = step.Line!;
            if (line.Table is null)
            {
                InterpretLine(line, sheet, sheet.Amounts, sheet.Codes, sheet.Filled, sheet.Texts, sheet.Open, line.Slot);
                continue;
            }

            var rows = sheet.Rows(line.Table);
            for (rows.Current = 0; rows.Current < rows.Count; rows.Current++)
            {
                var block = rows.BlockOf(rows.Current);
                InterpretLine(line, sheet, block.Amounts, block.Codes, block.Filled, block.Texts, block.Open, rows.PlaceOf(rows.Current, line.Slot));
            }

            rows.Current = 0;
        }

        foreach (var rule in _definition.Findings)
        {
            if (rule.Table is null)
            {
                sheet.Findings[rule.Slot] = rule.When.Holds(sheet);
                continue;
            }

            var rows = sheet.Rows(rule.Table);
            for (rows.Current = 0; rows.Current < rows.Count; rows.Current++)
            {
                var holds = rule.When.Holds(sheet);
                if (rule.ComparesRows)
                {
                    rows.Across(rule.Slot)[rows.Current] = holds;
                }
                else
                {
                    rows.BlockOf(rows.Current).Findings[(rows.Current % RowBlock.Size * rows.FindingWidth) + rule.Slot] = holds;
                }
            }

            rows.Current = 0;
        }

        sheet.EndRun();
    }

    private void InterpretLine(Line line, Sheet sheet, decimal[] amounts, int[] codes, bool[] filled, string?[] texts, bool[] open, int at)
    {
        open[at] = line.OpenWhen?.Holds(sheet) ?? true;
        if (!open[at])
        {
            amounts[at] = 0;
            codes[at] = 0;
            filled[at] = false;
            texts[at] = null;
            return;
        }

        if (!line.IsComputed)
        {
            var given = line.Table is null ? null : sheet.Rows(line.Table).BlockOf(sheet.Rows(line.Table).Current).Given;
            amounts[at] = (given?.Amounts ?? sheet.GivenAmounts)[at];
            codes[at] = (given?.Codes ?? sheet.GivenCodes)[at];
            filled[at] = (given?.Filled ?? sheet.GivenFilled)[at];
            texts[at] = (given?.Texts ?? sheet.GivenTexts)[at];
            return;
        }

        try
        {
            switch (line.Formula)
            {
                case Amount amount:
                    amounts[at] = amount.Evaluate(sheet);
                    filled[at] = amounts[at] != 0 || AnyBeneathFilled(line, sheet);
                    break;
                case Condition condition:
                    codes[at] = condition.Holds(sheet) ? 1 : 0;
                    filled[at] = codes[at] != 0 || AnyBeneathFilled(line, sheet);
                    break;
                case DateFormula date:
                    codes[at] = date.Evaluate(sheet);
                    filled[at] = codes[at] != 0;
                    break;
                case TextFormula text:
                    var computed = text.Evaluate(sheet);
                    (texts[at], codes[at]) = (TextFor(line, computed), CodeFor(line, computed));
                    filled[at] = texts[at] is not null;
                    break;
                default:
                    throw new RuleException($"Line '{line.Key}' ({line.DeclaredAt}) has a formula of a kind that no line holds.");
            }
        }
        catch (ArithmeticException cause)
        {
            throw new RuleException($"'{line.Label}' ({line.Key}, {line.DeclaredAt}) cannot be computed: {line.Formula!.Words}. {cause.Message}", cause);
        }
    }

    private bool AnyBeneathFilled(Line line, Sheet sheet)
    {
        foreach (var beneath in _beneath[line])
        {
            if (beneath.Table is null || beneath.Table == line.Table ? sheet.FilledAt(beneath) : sheet.Rows(beneath.Table).AnyFilled(beneath.Slot))
            {
                return true;
            }
        }

        return false;
    }
}
