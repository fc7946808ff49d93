using System.Globalization;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>Every word of a definition, as one text: titles, labels, rules in words, messages, sources. The basis of the text revision.</summary>
internal static class DefinitionText
{
    public static string Of(Definition definition)
    {
        var text = new StringBuilder();
        Say($"{definition.Title}|{definition.Country}|{definition.BalanceWords}|{string.Join("; ", definition.NotCovered)}");
        foreach (var section in definition.Sections)
        {
            Say($"{section.Form.Title}|{section.Form.About}|{section.Title}|{section.Law}|{(section as RepeatingSection)?.RowLabel}");
        }

        foreach (var part in definition.Tables.SelectMany(t => t.Parts))
        {
            Say($"{part.Title}|{part.Law}");
        }

        foreach (var line in definition.Lines)
        {
            Say($"{line.Number}|{line.Label}|{line.Law}|{line.Hint}|{line.CopiedFrom}|{line.Unit}|{line.Rule}|{line.ElectionBinds}|{line.Override?.Judgement}");
            Say($"{line.Formula?.Words}|{line.OpenWhen?.Words}|{line.RequiredWhen?.Words}");
            foreach (var choice in line.Choices ?? [])
            {
                Say($"{choice.Code}|{choice.Label}");
            }

            Figures(line.Formula);
        }

        foreach (var finding in definition.Findings)
        {
            Say($"{finding.Id}|{finding.When.Words}|{finding.Message}");
        }

        foreach (var figure in definition.Outcome)
        {
            Say($"{figure.Label}");
        }

        foreach (var deadline in definition.Deadlines)
        {
            Say($"{deadline.Label}|{deadline.Source}|{deadline.Confidence}");
        }

        foreach (var part in definition.PaymentParts)
        {
            Say($"{part.Label}");
            foreach (var charge in definition.LateChargesOn(part.Amount, part.Due.Day, Law.OnToday))
            {
                Say($"{charge.Label}|{charge.Law}|{charge.Amount.Words}");
                Figures(charge.Amount);
            }
        }

        return text.ToString();

        void Say(FormattableString words) => text.Append(words.ToString(CultureInfo.InvariantCulture)).Append('\n');

        void Figures(Formula? formula)
        {
            if (formula is DecisionTable decision)
            {
                Say($"{decision.Label}");
            }

            foreach (var fact in formula?.Facts ?? [])
            {
                switch (fact)
                {
                    case Parameter figure:
                        Say($"{figure.Label}|{figure.ValueInWords}|{figure.Source}|{figure.Confidence}|{figure.Note}");
                        break;
                    case RateSchedule schedule:
                        Say($"{schedule.Label}|{schedule.Source}|{schedule.Confidence}");
                        break;
                    case ZoneTariff tariff:
                        Say($"{tariff.Label}|{tariff.Source}|{tariff.Confidence}|{string.Join("; ", tariff.Zones.Select(z => z.Words))}");
                        break;
                    case StepTable table:
                        Say($"{table.Label}|{table.Source}|{table.Confidence}|{table.Words}");
                        break;
                    default:
                        break;
                }
            }

            foreach (var operand in formula?.Operands ?? [])
            {
                Figures(operand);
            }
        }
    }
}
