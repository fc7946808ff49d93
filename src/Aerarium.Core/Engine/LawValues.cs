using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>
/// The figures and tables of the law that a definition's rules name, in the order in which the rules do. Compiled rules read them from here, so that
/// definitions that differ in nothing else, such as editions of the law, share one code.
/// </summary>
internal sealed class LawValues
{
    private readonly Dictionary<Formula, int> _positions = new(ReferenceEqualityComparer.Instance);

    private LawValues(Definition definition)
    {
        var (amounts, tables) = (new List<decimal>(), new List<object?>());
        foreach (var formula in definition.Lines.SelectMany(l => new Formula?[] { l.Formula, l.OpenWhen, l.RequiredWhen }).Concat(definition.Sections.Select(s => (Formula?)s.When)).Concat(definition.Findings.Select(f => f.When)).OfType<Formula>())
        {
            Collect(formula);
        }

        (Amounts, Tables) = ([.. amounts], [.. tables]);

        void Collect(Formula formula)
        {
            if (formula is ILineFormula)
            {
                return;
            }

            if (formula.OfLaw is { } value && _positions.TryAdd(formula, amounts.Count))
            {
                amounts.Add(value is Parameter parameter ? parameter.Value : 0);
                tables.Add(value is Parameter ? null : value);
            }

            foreach (var operand in formula.Operands)
            {
                Collect(operand);
            }
        }
    }

    /// <summary>Figures, by position; zero where a table stands.</summary>
    public decimal[] Amounts { get; }

    /// <summary>Tables, by position; null where a figure stands.</summary>
    public object?[] Tables { get; }

    /// <summary>Those of a definition.</summary>
    public static LawValues Of(Definition definition) => new(definition);

    /// <summary>Where what a rule names stands; null for a rule that was not looked at.</summary>
    public int? PositionOf(Formula formula) => _positions.TryGetValue(formula, out var position) ? position : null;
}

/// <summary>Compiled rules by what they compute apart from the values of the law, for as long as some definition uses them.</summary>
internal static class SharedCode
{
    private static readonly ConcurrentDictionary<string, WeakReference<CompiledRules>> Known = new(StringComparer.Ordinal);

    /// <summary>What decides the code of a definition: its rules without the values of the law they name.</summary>
    public static string KeyOf(Definition definition, LawValues law) =>
        $"{law.Amounts.Length} {Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(FigureText.Of(definition, withLaw: false))))}";

    /// <summary>Code that computes the same, or null.</summary>
    public static CompiledRules? Find(string key) => Known.TryGetValue(key, out var kept) && kept.TryGetTarget(out var code) ? code : null;

    /// <summary>Keeps code for others.</summary>
    public static void Keep(string key, CompiledRules code) => Known[key] = new WeakReference<CompiledRules>(code);
}

/// <summary>Rules as compiled code: what computes, and what marks the amounts that count as filled in and about which no rule asks.</summary>
internal sealed record CompiledRules(Action<Sheet>[] Figures, Action<Sheet>[] Marks);
