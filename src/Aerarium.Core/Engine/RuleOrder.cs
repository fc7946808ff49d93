using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>One step of a computation: a section's condition, or a line that is computed or may be closed.</summary>
/// <param name="Section">The section whose condition is decided, or null.</param>
/// <param name="Line">The line computed or closed, or null.</param>
public sealed record Step(Section? Section, Line? Line)
{
    internal string Label => Line is null ? $"section '{Section!.Title}'" : $"'{Line.Label}' ({Line.Key}, {Line.DeclaredAt})";

    internal IEnumerable<Formula> Formulas =>
        Line is null
            ? [Section!.When!]
            : new Formula?[] { Line.Table?.When is null ? null : new SectionIsOpen(Line.Table), Line.Formula, Line.OpenWhen }.OfType<Formula>();
}

/// <summary>Finds the order in which lines are computed, and the circle when there is none.</summary>
public static class RuleOrder
{
    /// <summary>The steps of a definition in dependency order.</summary>
    /// <exception cref="RuleException">The rules run in a circle; the message spells it out by label.</exception>
    public static IReadOnlyList<Step> Of(Definition definition)
    {
        var sections = definition.Sections.Where(s => s.When is not null).ToDictionary(s => s, s => new Step(s, null));
        var lines = definition.Lines.ToDictionary(l => l, l => new Step(null, l));
        var order = new List<Step>();
        var state = new Dictionary<Step, int>();
        var path = new List<Step>();
        foreach (var step in sections.Values.Concat(lines.Values))
        {
            Visit(step);
        }

        return [.. order.Where(s => s.Section is not null || s.Line!.IsComputed || s.Line.OpenWhen is not null)];

        void Visit(Step step)
        {
            switch (state.GetValueOrDefault(step))
            {
                case 2:
                    return;
                case 1:
                    var circle = path.SkipWhile(s => s != step).Append(step).Select(s => s.Label);
                    throw new RuleException($"The rules run in a circle: {string.Join(" needs ", circle)}.");
                default:
                    break;
            }

            state[step] = 1;
            path.Add(step);
            foreach (var formula in step.Formulas)
            {
                foreach (var needed in Needs(formula))
                {
                    Visit(needed);
                }
            }

            path.RemoveAt(path.Count - 1);
            state[step] = 2;
            order.Add(step);
        }

        IEnumerable<Step> Needs(Formula formula)
        {
            if (formula.ReferredLine is { } line)
            {
                yield return lines[line];
            }
            else if (formula is SectionIsOpen open)
            {
                yield return sections[open.Section];
            }
            else
            {
                if (formula.WalksOver is { When: not null } walked)
                {
                    yield return sections[walked];
                }

                foreach (var needed in formula.Operands.SelectMany(Needs))
                {
                    yield return needed;
                }
            }
        }
    }

    /// <summary>The lines a formula refers to directly, without repetition.</summary>
    public static IReadOnlyList<Line> LinesBeneath(Formula formula)
    {
        var found = new List<Line>();
        Collect(formula);
        return found;

        void Collect(Formula node)
        {
            if (node.ReferredLine is { } line)
            {
                if (!found.Contains(line))
                {
                    found.Add(line);
                }

                return;
            }

            foreach (var operand in node.Operands)
            {
                Collect(operand);
            }
        }
    }
}
