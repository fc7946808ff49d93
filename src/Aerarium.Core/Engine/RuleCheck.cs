using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>Checks every rule of a definition when it is loaded.</summary>
internal static class RuleCheck
{
    private const int LargestFormula = 4_000;

    public static void Check(Definition definition)
    {
        foreach (var line in definition.Lines)
        {
            foreach (var formula in new[] { line.Formula, line.OpenWhen, line.RequiredWhen }.OfType<Formula>())
            {
                Check(definition, $"Line '{line.Key}' ({line.DeclaredAt})", formula, line.Table);
            }

            if (line.IsDefinedLater && line.Formula is null)
            {
                throw new RuleException($"Line '{line.Key}' ({line.DeclaredAt}) is declared as computed and never given its formula.");
            }

            if (line.Kind == LineKind.Choice && line.Choices is not { Count: > 0 })
            {
                throw new RuleException($"Line '{line.Key}' ({line.DeclaredAt}) is a choice without codes.");
            }
        }

        foreach (var section in definition.Sections)
        {
            if (section.When is not null)
            {
                Check(definition, $"Section '{section.Title}'", section.When, null);
            }
        }

        foreach (var finding in definition.Findings)
        {
            Check(definition, $"Finding '{finding.Id}'", finding.When, finding.Table);
            foreach (var operand in finding.Message.Operands)
            {
                Check(definition, $"Message of finding '{finding.Id}'", operand, finding.Table);
            }
        }

        foreach (var figure in definition.Outcome)
        {
            if (!definition.Lines.Contains(figure.Line))
            {
                throw new RuleException($"Key figure '{figure.Label}' is not a line of the definition.");
            }
        }
    }

    private static void Check(Definition definition, string where, Formula root, RepeatingSection? table)
    {
        var size = 0;
        var standing = new List<RepeatingSection>();
        if (table is not null)
        {
            standing.Add(table);
        }

        Walk(root);

        void Walk(Formula? node)
        {
            if (node is null)
            {
                throw new RuleException($"{where} uses a line before it is declared, or compares with ==.");
            }

            if (++size > LargestFormula)
            {
                throw new RuleException($"{where} grows beyond {LargestFormula} parts; give its repeated sub-formula a line of its own.");
            }

            if (node is Product { Left: Constant { Value: 0 } } or Product { Right: Constant { Value: 0 } })
            {
                throw new RuleException($"{where} multiplies by a constant zero; whole-number division such as 1/3 is zero in C#.");
            }

            if (node.ReferredLine is { } line)
            {
                if (line.Form.Definition != definition)
                {
                    throw new RuleException($"{where} refers to '{line.Key}' of another definition.");
                }

                if (line.Table is not null && !standing.Contains(line.Table))
                {
                    throw new RuleException($"{where} uses column '{line.Key}' outside its row; reach it through Sum, Any or Greatest.");
                }
            }

            if (node.WalksOver is { } section)
            {
                standing.Add(section);
                foreach (var operand in node.Operands)
                {
                    Walk(operand);
                }

                standing.RemoveAt(standing.Count - 1);
                return;
            }

            foreach (var operand in node.Operands)
            {
                Walk(operand);
            }
        }
    }
}
