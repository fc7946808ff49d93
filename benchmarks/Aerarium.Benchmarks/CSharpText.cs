using System.Globalization;
using System.Linq.Expressions;
using System.Text;
using Aerarium.Core.Engine;
using Microsoft.CodeAnalysis.CSharp;

namespace Aerarium.Benchmarks;

/// <summary>Writes expressions as C#. What takes statements inside an expression is done before it, in variables, and in order.</summary>
/// <param name="fields">The fields that something reads; what is put into another is left out.</param>
/// <param name="constants">Objects the source refers to, by name.</param>
/// <param name="repeats">Says how it is asked whether a row repeats an earlier one.</param>
internal sealed class CSharpText(Func<Field, bool> fields, Dictionary<object, string> constants, Func<MethodCallExpression, string> repeats)
{
    private readonly Dictionary<ParameterExpression, string> _names = [];
    private int _variables;

    /// <summary>The source of a statement.</summary>
    public string Statement(Expression statement)
    {
        var text = new StringBuilder();
        Do(statement, text, null);
        return text.ToString();
    }

    private void Do(Expression expression, StringBuilder text, ParameterExpression? sought)
    {
        switch (expression)
        {
            case DefaultExpression:
                return;
            case BlockExpression block:
                Declare(block, text);
                foreach (var part in block.Expressions)
                {
                    Do(part, text, sought);
                }

                return;
            case Store store:
                if (fields(store.Into))
                {
                    var value = Value(store.Value, text);
                    text.AppendLine($"{store.Into.Text} {(store.Adds ? "+=" : "=")} {value};");
                }

                return;
            case BinaryExpression { NodeType: ExpressionType.Assign or ExpressionType.AddAssign } assign:
                var (left, right) = (Value(assign.Left, text), Value(assign.Right, text));
                text.AppendLine($"{left} {(assign.NodeType == ExpressionType.AddAssign ? "+=" : "=")} {right};");
                if (assign.Left == sought && sought is { } && sought.Type == typeof(bool))
                {
                    text.AppendLine("break;");
                }

                return;
            case ConditionalExpression choice:
                var when = Value(choice.Test, text);
                var (yes, no) = (new StringBuilder(), new StringBuilder());
                Do(choice.IfTrue, yes, sought);
                Do(choice.IfFalse, no, sought);
                if (yes.Length + no.Length > 0)
                {
                    text.AppendLine($"if ({when})\n{{\n{yes}}}");
                    if (no.Length > 0)
                    {
                        text.AppendLine($"else\n{{\n{no}}}");
                    }
                }

                return;
            case RowWalk walk:
                var body = new StringBuilder();
                Do(walk.Body, body, walk.Result);
                if (body.Length > 0)
                {
                    text.AppendLine($"for (var {walk.Index} = 0; {walk.Index} < {Written.CountName(walk.Table)}; {walk.Index}++)\n{{\nref var {walk.Row} = ref {Written.RowsName(walk.Table)}[{walk.Index}];\n{body}}}");
                }

                return;
            default:
                throw new NotSupportedException($"No statement: {expression.NodeType} {expression}");
        }
    }

    private void Declare(BlockExpression block, StringBuilder text)
    {
        foreach (var variable in block.Variables)
        {
            text.AppendLine($"{TypeName(variable.Type)} {_names[variable] = $"{variable.Name}{++_variables}"} = default;");
        }
    }

    private string Value(Expression expression, StringBuilder before)
    {
        switch (expression)
        {
            case Field field:
                return field.Text;
            case ParameterExpression parameter:
                return _names.GetValueOrDefault(parameter, parameter.Name!);
            case ConstantExpression constant:
                return Constant(constant);
            case DefaultExpression nothing:
                return $"default({TypeName(nothing.Type)})";
            case BlockExpression block:
                Declare(block, before);
                foreach (var part in block.Expressions.SkipLast(1))
                {
                    Do(part, before, null);
                }

                return Value(block.Expressions[^1], before);
            case RowWalk walk:
                before.AppendLine($"{TypeName(walk.Type)} {_names[walk.Result!] = $"{walk.Result!.Name}{++_variables}"} = default;");
                Do(walk, before, null);
                return _names[walk.Result];
            case ConditionalExpression choice:
                return Choice(choice, before);
            case BinaryExpression { NodeType: ExpressionType.AndAlso or ExpressionType.OrElse } both:
                return Both(both, before);
            case BinaryExpression { NodeType: ExpressionType.ArrayIndex } index:
                return $"{Value(index.Left, before)}[{Value(index.Right, before)}]";
            case BinaryExpression binary:
                return $"({Value(binary.Left, before)} {Sign(binary.NodeType)} {Value(binary.Right, before)})";
            case UnaryExpression { NodeType: ExpressionType.Not } not:
                return $"!{Value(not.Operand, before)}";
            case UnaryExpression { NodeType: ExpressionType.Convert } convert:
                return $"(({TypeName(convert.Type)}){Value(convert.Operand, before)})";
            case NewArrayExpression array:
                return $"new {TypeName(array.Type)} {{ {string.Join(", ", array.Expressions.Select(e => Value(e, before)))} }}";
            case MethodCallExpression { Object: ParameterExpression } call:
                return repeats(call);
            case MethodCallExpression call:
                var on = call.Object is null ? TypeName(call.Method.DeclaringType!) : Value(call.Object, before);
                return $"{on}.{call.Method.Name}({string.Join(", ", call.Arguments.Select(a => Value(a, before)))})";
            default:
                throw new NotSupportedException($"No value: {expression.NodeType} {expression}");
        }
    }

    private string Choice(ConditionalExpression choice, StringBuilder before)
    {
        var when = Value(choice.Test, before);
        var (first, second) = (new StringBuilder(), new StringBuilder());
        var (yes, no) = (Value(choice.IfTrue, first), Value(choice.IfFalse, second));
        if (first.Length + second.Length == 0)
        {
            return $"({when} ? {yes} : {no})";
        }

        var name = $"chosen{++_variables}";
        before.AppendLine($"{TypeName(choice.Type)} {name};\nif ({when})\n{{\n{first}{name} = {yes};\n}}\nelse\n{{\n{second}{name} = {no};\n}}");
        return name;
    }

    private string Both(BinaryExpression both, StringBuilder before)
    {
        var left = Value(both.Left, before);
        var after = new StringBuilder();
        var right = Value(both.Right, after);
        var and = both.NodeType == ExpressionType.AndAlso;
        if (after.Length == 0)
        {
            return $"({left} {(and ? "&&" : "||")} {right})";
        }

        var name = $"both{++_variables}";
        before.AppendLine($"var {name} = {left};\nif ({(and ? "" : "!")}{name})\n{{\n{after}{name} = {right};\n}}");
        return name;
    }

    private string Constant(ConstantExpression constant) => constant.Value switch
    {
        null => "null",
        decimal amount => $"{amount.ToString(CultureInfo.InvariantCulture)}m",
        int number => number.ToString(CultureInfo.InvariantCulture),
        bool answer => answer ? "true" : "false",
        string text => SymbolDisplay.FormatLiteral(text, true),
        Enum code => $"({TypeName(constant.Type)}){Convert.ToInt32(code, CultureInfo.InvariantCulture)}",
        var value => constants.TryGetValue(value, out var name) ? name : constants[value] = $"constant_{constants.Count}",
    };

    private static string Sign(ExpressionType type) => type switch
    {
        ExpressionType.Add => "+",
        ExpressionType.Subtract => "-",
        ExpressionType.Multiply => "*",
        ExpressionType.Divide => "/",
        ExpressionType.LessThan => "<",
        ExpressionType.LessThanOrEqual => "<=",
        ExpressionType.GreaterThan => ">",
        ExpressionType.GreaterThanOrEqual => ">=",
        ExpressionType.Equal => "==",
        ExpressionType.NotEqual => "!=",
        _ => throw new NotSupportedException($"No sign: {type}"),
    };

    /// <summary>A type as C# names it.</summary>
    public static string TypeName(Type type) =>
        type.IsArray ? $"{TypeName(type.GetElementType()!)}[]"
        : type.IsGenericType ? $"global::{type.FullName![..type.FullName!.IndexOf('`', StringComparison.Ordinal)]}<{string.Join(", ", type.GetGenericArguments().Select(TypeName))}>"
        : $"global::{type.FullName!.Replace('+', '.')}";
}
