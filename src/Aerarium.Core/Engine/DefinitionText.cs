using System.Globalization;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>Everything a definition says, as one text: the basis of the rule revision.</summary>
internal static class DefinitionText
{
    public static string Of(Definition definition)
    {
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"{definition.Id} {Periods.InWords(definition.Year, definition.Period)}\n");
        foreach (var line in definition.Lines)
        {
            text.Append(CultureInfo.InvariantCulture, $"{line.Key}|{line.Kind}|{line.Formula?.Words}|{line.OpenWhen?.Words}|{line.RequiredWhen?.Words}|{line.Least}|{line.Most}|{line.Law}\n");
            if (line.Formula is not null)
            {
                Tables(line.Formula, text);
            }
        }

        foreach (var finding in definition.Findings)
        {
            text.Append(CultureInfo.InvariantCulture, $"{finding.Id}|{finding.Severity}|{finding.When.Words}|{finding.Message}\n");
        }

        foreach (var part in definition.PaymentParts)
        {
            text.Append(CultureInfo.InvariantCulture, $"{part.Label}|{part.Amount.Line.Key}|{part.Due.Day:yyyy-MM-dd}\n");
            foreach (var charge in definition.LateChargesOn(part.Amount, part.Due.Day, Law.OnToday))
            {
                text.Append(CultureInfo.InvariantCulture, $"{charge.Label}|{charge.Amount.Words}|{charge.Law}\n");
            }
        }

        return text.ToString();
    }

    private static void Tables(Formula formula, StringBuilder text)
    {
        if (formula is Progressive progressive)
        {
            foreach (var band in progressive.Schedule.Bands)
            {
                text.Append(CultureInfo.InvariantCulture, $"{progressive.Schedule.Label}|{band.From}|{band.To}|{band.Rate}\n");
            }
        }

        if (formula is Lookup lookup)
        {
            text.Append(CultureInfo.InvariantCulture, $"{lookup.Words}|{lookup.TableInWords}\n");
        }

        if (formula is Stepped stepped)
        {
            text.Append(CultureInfo.InvariantCulture, $"{stepped.Table.Label}|{stepped.Table.Words}\n");
        }

        foreach (var operand in formula.Operands)
        {
            Tables(operand, text);
        }
    }
}
