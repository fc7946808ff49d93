using System.Reflection;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using Aerarium.Core.Tests;

namespace Aerarium.Countries.Tests;

/// <summary>No node of the rule language keeps anything from the figure revision: whatever it holds beside its operands is one of its facts.</summary>
public class FigureFactsTests
{
    /// <summary>What a node works out from its facts or operands, keeps for speed, or is called.</summary>
    private static readonly HashSet<string> WorkedOut = ["TalliedByCode.position", "HasCode._position", "Lookup._byPosition", "RepeatsEarlierRow._slots", "OverlapsEarlierRow._slots", "Lookup.Table", "WorkingDayOnOrAfter.calendar", "DecisionTable.Label", "DecisionTable.Cases"];

    private static IEnumerable<Definition> All => Catalogue.Returns.SelectMany(t => t.Years.SelectMany(year => t.Periods.Select(period => Catalogue.Get(t.Id, year, period)))).Append(new Smallholding());

    private static IEnumerable<Formula> Nodes(Formula formula) => formula.Operands.SelectMany(Nodes).Prepend(formula);

    [Fact]
    public void What_a_node_holds_beside_its_operands_is_among_its_facts()
    {
        var formulas = All.SelectMany(d => d.Lines.SelectMany(l => new Formula?[] { l.Formula, l.OpenWhen, l.RequiredWhen }).Concat(d.Findings.Select(f => (Formula?)f.When)))
            .OfType<Formula>().SelectMany(Nodes).Where(n => n is not ILineFormula).Distinct(ReferenceEqualityComparer.Instance).Cast<Formula>().ToList();
        var kinds = formulas.Select(f => f.GetType()).Distinct().Count();
        Assert.True(kinds > 25, $"{kinds} kinds of node were looked at.");
        foreach (var node in formulas)
        {
            var facts = node.Facts.Select(FigureText.InText).ToHashSet();
            foreach (var field in node.GetType().GetFields(BindingFlags.Instance | BindingFlags.NonPublic | BindingFlags.Public))
            {
                var name = $"{node.GetType().Name}.{field.Name.Replace("<", "").Split('>')[0]}";
                if (WorkedOut.Contains(name) || field.GetValue(node) is not { } held || held is Formula or IEnumerable<Formula> or IEnumerable<ILineFormula> or ILineFormula or Section { Form: not null } and not RepeatingSection)
                {
                    continue;
                }

                var parts = held is Rounding rounding ? [rounding.Unit, rounding.Mode] : held is not string && held is IEnumerable<string> texts ? texts : (IEnumerable<object>)[held];
                Assert.All(parts, part => Assert.True(facts.Contains(FigureText.InText(part)), $"{name} is no fact of '{node.Words}'."));
            }
        }
    }
}
