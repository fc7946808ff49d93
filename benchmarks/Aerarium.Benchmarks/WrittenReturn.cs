using System.Globalization;
using System.Linq.Expressions;
using System.Reflection;
using System.Runtime.Loader;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;

namespace Aerarium.Benchmarks;

/// <summary>A return written out as straight-line C#, as it is run.</summary>
public abstract class WrittenRules
{
    /// <summary>Day number of the day of evaluation.</summary>
    protected int today;

    /// <summary>Sets the day.</summary>
    public void Begin(int day) => today = day;

    /// <summary>Computes every figure and finding.</summary>
    public abstract void Run();
}

/// <summary>
/// The rules of a definition written out as straight-line C# (<see cref="Written"/>), compiled by the C# compiler as any program: what compiled rules are held
/// against for returns that nobody has written by hand. For Kenya's there is one by hand too (<see cref="StraightLine"/>), so that it can be seen that
/// what is written here is no slower.
/// </summary>
internal sealed class WrittenReturn
{
    private const int StatementsPerMethod = 30;

    private readonly Definition _definition;
    private readonly Type _type;

    /// <summary>Writes and compiles it.</summary>
    /// <exception cref="InvalidOperationException">What was written does not compile.</exception>
    public WrittenReturn(Definition definition)
    {
        _definition = definition;
        var constants = new Dictionary<object, string>(ReferenceEqualityComparer.Instance);
        Source = Write(definition, constants);
        var compilation = CSharpCompilation.Create(
            "Aerarium.Benchmarks.Written",
            [CSharpSyntaxTree.ParseText(Source)],
            ((string)AppContext.GetData("TRUSTED_PLATFORM_ASSEMBLIES")!).Split(Path.PathSeparator).Select(p => MetadataReference.CreateFromFile(p)),
            new CSharpCompilationOptions(OutputKind.DynamicallyLinkedLibrary, optimizationLevel: OptimizationLevel.Release));
        using var image = new MemoryStream();
        var result = compilation.Emit(image);
        if (!result.Success)
        {
            throw new InvalidOperationException(string.Join('\n', result.Diagnostics.Where(d => d.Severity == DiagnosticSeverity.Error).Take(5)));
        }

        image.Position = 0;
        _type = new AssemblyLoadContext(definition.Id).LoadFromStream(image).GetType("Written")!;
        foreach (var (value, name) in constants)
        {
            _type.GetField(name)!.SetValue(null, value);
        }
    }

    /// <summary>The source.</summary>
    public string Source { get; }

    /// <summary>The written return with the entries of a sheet.</summary>
    public WrittenRules Of(Sheet sheet)
    {
        var rules = (WrittenRules)Activator.CreateInstance(_type)!;
        rules.Begin(sheet.Today);
        foreach (var line in _definition.Lines.Where(l => l is { Table: null, IsComputed: false }))
        {
            Put(line, rules, sheet.GivenAmounts[line.Slot], sheet.GivenCodes[line.Slot], sheet.GivenFilled[line.Slot], sheet.GivenTexts[line.Slot]);
        }

        foreach (var table in _definition.Tables)
        {
            var given = sheet.Rows(table);
            var rows = Array.CreateInstance(_type.GetNestedType(Written.RowType(table))!, given.GivenCount);
            for (var index = 0; index < given.GivenCount; index++)
            {
                var row = rows.GetValue(index)!;
                foreach (var line in table.Lines.Where(l => !l.IsComputed))
                {
                    var (cells, at) = (given.BlockOf(index).Given, given.PlaceOf(index, line.Slot));
                    Put(line, row, cells.Amounts[at], cells.Codes[at], cells.Filled[at], cells.Texts[at]);
                }

                rows.SetValue(row, index);
            }

            _type.GetField(Written.RowsName(table))!.SetValue(rules, rows);
            _type.GetField(Written.CountName(table))!.SetValue(rules, rows.Length);
        }

        return rules;
    }

    /// <summary>Holds every figure and finding against a sheet that has been run.</summary>
    /// <exception cref="InvalidOperationException">One of them differs.</exception>
    public void Compare(WrittenRules rules, Sheet sheet)
    {
        foreach (var line in _definition.Lines.Where(l => l is { Table: null, IsComputed: true, Kind: not LineKind.Text }))
        {
            Same(line.Key, line.IsCoded ? (object)sheet.Codes[line.Slot] : sheet.Amounts[line.Slot], Read(rules, Written.Named(line, line.IsCoded ? Kept.Code : Kept.Amount)));
        }

        foreach (var finding in _definition.Findings.Where(f => f.Table is null))
        {
            Same(finding.Id, sheet.Findings[finding.Slot], Read(rules, $"finding_{finding.Slot}"));
        }

        foreach (var table in _definition.Tables)
        {
            var rows = (Array)_type.GetField(Written.RowsName(table))!.GetValue(rules)!;
            for (var index = 0; index < sheet.Rows(table).Count; index++)
            {
                var (block, row) = (sheet.Rows(table).BlockOf(index), rows.GetValue(index)!);
                foreach (var line in table.Lines.Where(l => l is { IsComputed: true, Kind: not LineKind.Text }))
                {
                    var at = sheet.Rows(table).PlaceOf(index, line.Slot);
                    Same(line.Key, line.IsCoded ? (object)block.Codes[at] : block.Amounts[at], Read(row, Written.Named(line, line.IsCoded ? Kept.Code : Kept.Amount)));
                }
            }

            foreach (var finding in _definition.Findings.Where(f => f.Table == table))
            {
                var held = Enumerable.Range(0, sheet.Rows(table).Count).Where(i => (bool)Read(rows.GetValue(i)!, $"finding_{finding.Slot}"));
                Same(finding.Id, string.Join(' ', sheet.Rows(table).Holding(finding)), string.Join(' ', held));
            }
        }

        static object Read(object from, string name) => from.GetType().GetField(name)!.GetValue(from)!;

        void Same(string what, object rule, object written)
        {
            if (!rule.Equals(written))
            {
                throw new InvalidOperationException($"{_definition.Id} {_definition.Year}, {what}: the rules say {rule}, what is written out says {written}.");
            }
        }
    }

    private static void Put(Line line, object into, decimal amount, int code, bool filled, string? text)
    {
        Set(Kept.Amount, amount);
        Set(Kept.Code, code);
        Set(Kept.Filled, filled);
        Set(Kept.Text, text);

        void Set(Kept kept, object? value) => into.GetType().GetField(Written.Given(line, kept))?.SetValue(into, value);
    }

    private static string Write(Definition definition, Dictionary<object, string> constants)
    {
        var written = new Written(definition);
        var statements = written.Statements().ToList();
        var wanted = WantedFields.Of(definition, statements);
        var repeats = new StringBuilder();
        var asked = 0;
        var text = new CSharpText(f => wanted.Contains(f.Identity), constants, Repeats);
        var methods = new StringBuilder();
        var run = new StringBuilder();
        foreach (var (number, part) in statements.Select(text.Statement).Where(s => s.Length > 0).Chunk(StatementsPerMethod).Index())
        {
            run.AppendLine(CultureInfo.InvariantCulture, $"Part{number}();");
            methods.AppendLine(CultureInfo.InvariantCulture, $"[global::System.Runtime.CompilerServices.MethodImpl(global::System.Runtime.CompilerServices.MethodImplOptions.AggressiveOptimization)]\nprivate void Part{number}()\n{{\n{string.Concat(part)}}}");
        }

        var source = new StringBuilder("public sealed class Written : global::Aerarium.Benchmarks.WrittenRules\n{\n");
        foreach (var (value, name) in constants)
        {
            source.AppendLine(CultureInfo.InvariantCulture, $"public static {CSharpText.TypeName(value.GetType())} {name};");
        }

        source.Append(Fields(definition, null, wanted));
        foreach (var table in definition.Tables)
        {
            source.AppendLine(CultureInfo.InvariantCulture, $"public struct {Written.RowType(table)}\n{{\n{Fields(definition, table, wanted)}}}");
            source.AppendLine(CultureInfo.InvariantCulture, $"public {Written.RowType(table)}[] {Written.RowsName(table)};\npublic int {Written.CountName(table)};");
        }

        return source.AppendLine(CultureInfo.InvariantCulture, $"public override void Run()\n{{\n{run}}}\n{methods}{repeats}}}").ToString();

        string Repeats(MethodCallExpression call)
        {
            var table = definition.Tables.Single(t => Written.RowsName(t) == ((ParameterExpression)call.Object!).Name);
            var rows = Written.RowsName(table);
            var columns = call.Arguments.Skip(1).Select(a => ((ConstantExpression)a).Value).SelectMany(v => v is int[] several ? several : [(int)v!]).Select(slot => table.Lines[slot]).ToList();
            var (filled, cells) = (columns.Select(c => Written.Named(c, Kept.Filled)).ToList(), columns.Select(Cell).ToList());
            repeats.AppendLine(CultureInfo.InvariantCulture, $"private bool Repeats{++asked}(int row)\n{{\nref var here = ref {rows}[row];");
            repeats.AppendLine(call.Method.Name switch
            {
                nameof(Rows.RepeatsEarlier) =>
                    $"if (!here.{filled[0]}) return false;\nfor (var at = 0; at < row; at++)\n{{\nref var there = ref {rows}[at];\nif (there.{filled[0]} && {string.Join(" && ", cells.Select(c => $"there.{c} == here.{c}"))}) return true;\n}}\nreturn false;\n}}",
                nameof(Rows.OverlapsEarlier) =>
                    $"if (!here.{filled[0]} || !here.{filled[1]}) return false;\nfor (var at = 0; at < row; at++)\n{{\nref var there = ref {rows}[at];\nif (there.{filled[0]} && there.{filled[1]} && there.{cells[0]} <= here.{cells[1]} && here.{cells[0]} <= there.{cells[1]}) return true;\n}}\nreturn false;\n}}",
                _ => throw new NotSupportedException(call.Method.Name),
            });
            return $"Repeats{asked}({((ParameterExpression)call.Arguments[0]).Name})";
        }
    }

    private static string Cell(Line line) => Written.Named(line, line.Kind is LineKind.Text or LineKind.Identifier ? Kept.Text : line.IsCoded ? Kept.Code : Kept.Amount);

    private static string Fields(Definition definition, RepeatingSection? table, HashSet<(RepeatingSection? Table, string Name)> wanted)
    {
        var given = definition.Lines.Where(l => l.Table == table && l is { IsComputed: false, OpenWhen: not null })
            .SelectMany(l => Enum.GetValues<Kept>().Where(k => k is Kept.Amount or Kept.Code or Kept.Text or Kept.Filled).Select(k => (Name: Written.Given(l, k), Kept: k)));
        var own = definition.Lines.Where(l => l.Table == table).SelectMany(l => Enum.GetValues<Kept>().Where(k => k != Kept.Holds).Select(k => (Name: Written.Named(l, k), Kept: k)));
        var sections = definition.Sections.Select(s => (Name: $"applies_{s.Position}", Kept: Kept.Applies));
        var findings = definition.Findings.Where(f => f.Table == table).Select(f => (Name: $"finding_{f.Slot}", Kept: Kept.Holds));
        return string.Concat(own.Concat(given).Concat(sections).Concat(findings).Where(f => wanted.Contains((table, f.Name))).Select(f => $"public {CSharpText.TypeName(Field.TypeOf(f.Kept))} {f.Name};\n"));
    }
}

/// <summary>Finds which fields anything asks for: every computed figure and finding, and what they are computed from.</summary>
internal sealed class WantedFields : ExpressionVisitor
{
    private readonly HashSet<(RepeatingSection? Table, string Name)> _wanted = [];
    private readonly Definition _definition;
    private int _kept;

    private WantedFields(Definition definition)
    {
        _definition = definition;
    }

    public static HashSet<(RepeatingSection? Table, string Name)> Of(Definition definition, IReadOnlyList<Expression> statements)
    {
        var found = new WantedFields(definition);
        foreach (var line in definition.Lines.Where(l => l.IsComputed))
        {
            found._wanted.Add((line.Table, Written.Named(line, line.Formula is TextFormula ? Kept.Text : line.IsCoded ? Kept.Code : Kept.Amount)));
        }

        foreach (var finding in definition.Findings)
        {
            found._wanted.Add((finding.Table, $"finding_{finding.Slot}"));
        }

        int before;
        do
        {
            before = found._wanted.Count;
            foreach (var statement in statements)
            {
                found.Visit(statement);
            }
        }
        while (found._wanted.Count > before);
        return found._wanted;
    }

    protected override Expression VisitExtension(Expression node)
    {
        switch (node)
        {
            case Field field:
                _wanted.Add(field.Identity);
                return node;
            case Store store when !_wanted.Contains(store.Into.Identity):
                return node;
            case Store:
                _kept++;
                break;
        }

        return base.VisitExtension(node);
    }

    protected override Expression VisitBinary(BinaryExpression node)
    {
        if (node.NodeType is ExpressionType.Assign or ExpressionType.AddAssign)
        {
            _kept++;
        }

        return base.VisitBinary(node);
    }

    protected override Expression VisitConditional(ConditionalExpression node)
    {
        if (node.Type != typeof(void))
        {
            return base.VisitConditional(node);
        }

        var before = _kept;
        Visit(node.IfTrue);
        Visit(node.IfFalse);
        if (_kept > before)
        {
            Visit(node.Test);
        }

        return node;
    }

    protected override Expression VisitMethodCall(MethodCallExpression node)
    {
        if (node.Object is ParameterExpression rows)
        {
            var table = _definition.Tables.Single(t => Written.RowsName(t) == rows.Name);
            foreach (var slot in node.Arguments.Skip(1).Select(a => ((ConstantExpression)a).Value).SelectMany(v => v is int[] several ? several : [(int)v!]))
            {
                var line = table.Lines[slot];
                _wanted.UnionWith(new[] { Kept.Filled, Kept.Amount, Kept.Code, Kept.Text }.Select(k => ((RepeatingSection?)table, Written.Named(line, k))));
            }
        }

        return base.VisitMethodCall(node);
    }
}
