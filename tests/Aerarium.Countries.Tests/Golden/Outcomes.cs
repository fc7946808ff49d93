using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Tests.Golden;

/// <summary>
/// Which way the rules of a definition went in one evaluation: every condition that held or did not, every least or greatest by which operand won, every
/// band and step that was reached, every line that has a value, every finding. A set of returns that shows all of these has been through every rule.
/// </summary>
internal sealed class Outcomes
{
    private readonly List<(Formula Node, string Place, RepeatingSection? Table)> _roots = [];
    private readonly Dictionary<Formula, int> _numbers = new(ReferenceEqualityComparer.Instance);
    private readonly HashSet<string> _withChoices;

    public Outcomes(Definition definition)
    {
        _withChoices = [.. definition.Lines.Where(l => l.Choices is not null).Select(l => l.Key)];
        foreach (var line in definition.Lines)
        {
            _roots.AddRange(new Formula?[] { line.Formula, line.OpenWhen, line.RequiredWhen }.OfType<Formula>().Select(f => (f, line.Key, line.Table)));
        }

        _roots.AddRange(definition.Findings.Select(f => ((Formula)f.When, f.Id, f.Table)));
        foreach (var part in definition.PaymentParts)
        {
            _roots.AddRange(definition.LateChargesOn(part.Amount, part.Due.Day, Law.OnToday).Select(c => ((Formula)c.Amount, $"late {part.Label}", (RepeatingSection?)null)));
        }

        foreach (var (node, _, _) in _roots)
        {
            Number(node);
        }
    }

    /// <summary>Where a node stands, in words for the reader of a golden file.</summary>
    public string PlaceOf(int number)
    {
        var (_, place, _) = _roots.First(r => Holds(r.Node, number));
        return place;
    }

    /// <summary>What came out at each node, by its number; and what is there to see on the return, by words.</summary>
    public HashSet<string> Of(Evaluation evaluation)
    {
        var seen = new HashSet<string>();
        foreach (var (root, _, table) in _roots)
        {
            OverRows(evaluation.Sheet, table, () => Visit(root, evaluation.Sheet, seen));
        }

        foreach (var value in evaluation.Values().Where(v => v is { Value: not null, Open: true } && _withChoices.Contains(v.Line)))
        {
            seen.Add($"code {value.Line} {value.Value}");
        }

        seen.UnionWith(Shown(evaluation));
        return seen;
    }

    /// <summary>What is there to see on the return: lines that hold something, and findings.</summary>
    public static IEnumerable<string> Shown(Evaluation evaluation) => evaluation.Values().Where(v => v is { Value: not null and not "0", Open: true }).Select(v => $"line {v.Line}")
        .Concat(evaluation.Findings.Select(f => $"finding {f.Id}"));

    private static void OverRows(Sheet sheet, RepeatingSection? table, Action visit)
    {
        if (table is null)
        {
            visit();
            return;
        }

        var rows = sheet.Rows(table);
        var outer = rows.Current;
        for (rows.Current = 0; rows.Current < rows.Count; rows.Current++)
        {
            visit();
        }

        rows.Current = outer;
    }

    private void Visit(Formula node, Sheet sheet, HashSet<string> seen)
    {
        if (node is ILineFormula)
        {
            return;
        }

        var outcome = node switch
        {
            Condition condition => condition.Holds(sheet) ? "yes" : "no",
            Extreme extreme => $"{Winner(extreme, sheet)}",
            Progressive progressive => $"{progressive.Schedule.Bands.Count(b => Evaluated(progressive.Operand, sheet) > b.From)}",
            Stepped stepped => $"{stepped.Table.Steps.Count(s => s.UpTo is { } edge && Evaluated(stepped.Measure, sheet) > edge)}",
            _ => null,
        };
        if (outcome is not null)
        {
            seen.Add($"{_numbers[node]} {outcome}");
        }

        OverRows(sheet, node.WalksOver, () =>
        {
            foreach (var operand in node.Operands)
            {
                Visit(operand, sheet, seen);
            }
        });
    }

    private static int Winner(Extreme extreme, Sheet sheet)
    {
        var amounts = extreme.Candidates.Select(c => Evaluated(c, sheet)).ToList();
        return amounts.IndexOf(extreme.Greatest ? amounts.Max() : amounts.Min());
    }

    /// <summary>The value; a branch that was not taken may divide by zero.</summary>
    private static decimal Evaluated(Amount amount, Sheet sheet)
    {
        try
        {
            return amount.Evaluate(sheet);
        }
        catch (ArithmeticException)
        {
            return 0;
        }
    }

    private void Number(Formula node)
    {
        if (_numbers.TryAdd(node, _numbers.Count))
        {
            foreach (var operand in node.Operands)
            {
                Number(operand);
            }
        }
    }

    private bool Holds(Formula node, int number) => _numbers[node] == number || node.Operands.Any(o => Holds(o, number));
}
