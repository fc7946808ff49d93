using System.Globalization;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;

namespace Aerarium.Core.Engine;

/// <summary>
/// Everything that decides a figure, a finding or a day of a definition, as one text: by key, code and value, never by label. It is the basis
/// of the figure revision, so that a corrected word leaves approved returns as they are and a changed rule does not.
/// </summary>
internal static class FigureText
{
    /// <summary>The text of a definition.</summary>
    /// <param name="definition">The definition.</param>
    /// <param name="withLaw">Whether the values that rules take from the law are in it; without them it says what the rules do with any.</param>
    public static string Of(Definition definition, bool withLaw = true)
    {
        var text = new StringBuilder();
        Record("return", definition.Id, definition.Year, definition.Period, definition.Currency, definition.HasBalance);
        foreach (var section in definition.Tables)
        {
            Record("rows", section.Key, section.When, section.RowTie?.Return, section.RowTie);
            if (section.IsPages)
            {
                Record("pages", section.Key);
            }
        }

        foreach (var line in definition.Lines)
        {
            Record(
                "line", line.Key, line.Kind, line.Formula, line.OpenWhen, line.RequiredWhen, line.Least, line.Most, line.MayBeNegative, line.WholeUnits, line.OfOneYear,
                line.IsElective, line.JoinsColumns, line.CountsAttachments, line.TieTolerance, line.Identifier, line.Target, line.Overrides,
                line.ClientParticular, line.PracticeParticular);
            if (line.Counts is { } counts)
            {
                Record("counts", counts);
            }

            if (line.Kind is LineKind.Number)
            {
                Record("places", line.Decimals);
            }

            foreach (var choice in line.Choices ?? [])
            {
                Record("code", choice.Code);
            }

            foreach (var tie in line.Ties)
            {
                Record(tie.AddressedBy is { } address ? ["tie", tie.Return, tie.Line, address] : ["tie", tie.Return, tie.Line]);
            }
        }

        foreach (var finding in definition.Findings)
        {
            Record(["finding", finding.Id, finding.Severity, finding.When, finding.Table, .. finding.Lines]);
        }

        foreach (var figure in definition.Outcome)
        {
            Record("outcome", figure.Line, figure.Sign);
        }

        foreach (var deadline in definition.Deadlines)
        {
            Record("deadline", deadline.Act, deadline.Day, deadline.SafeDay, deadline.ExtendedBy);
            if (deadline.ReckonedBy is { } line)
            {
                Record("reckoned", line);
            }
        }

        if (definition.RestFallsDueWithAPart)
        {
            Record("rest-falls-due");
        }

        Record("charges", definition.RunningCharges);
        foreach (var part in definition.PaymentParts)
        {
            Record("part", part.Amount, part.Due.Day);
            foreach (var charge in definition.LateChargesOn(part.Amount, part.Due.Day, Law.OnToday))
            {
                Record("charge", charge.Amount, charge.Line);
            }
        }

        return text.ToString();

        void Record(params object?[] facts)
        {
            foreach (var fact in facts)
            {
                Write(fact);
                text.Append('|');
            }

            text.Append('\n');
        }

        void Write(object? fact) => _ = fact switch
        {
            null => text,
            Formula formula => OfFormula(formula),
            _ => text.Append(InText(fact)),
        };

        StringBuilder OfFormula(Formula formula)
        {
            if (formula is ILineFormula { Line: var line })
            {
                return text.Append(line.Key);
            }

            text.Append(formula.GetType().Name).Append('(');
            foreach (var fact in withLaw || formula.OfLaw is null ? formula.Facts : [])
            {
                text.Append(InText(fact)).Append(';');
            }

            foreach (var operand in formula.Operands)
            {
                OfFormula(operand);
                text.Append(',');
            }

            return text.Append(')');
        }
    }

    /// <summary>A fact as it counts: what a line is called or where a figure comes from does not.</summary>
    internal static string InText(object fact) => fact switch
    {
        string words => words,
        Line line => line.Key,
        RepeatingSection section => section.Key,
        Parameter parameter => Figures.Canonical(parameter.Value),
        decimal number => Figures.Canonical(number),
        DateOnly day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        DateOnly[] days => string.Join(' ', days.Select(d => InText(d))),
        IdentifierRule rule => $"{rule.Pattern}{rule.CheckDigit?.Name}",
        RateSchedule schedule => string.Concat(schedule.Bands.Select(b => $"{Figures.Canonical(b.From)}:{Figures.Canonical(b.Rate)} ")),
        ZoneTariff tariff => string.Concat(tariff.Zones.Select(z =>
            $"{(z.UpTo is { } edge ? Figures.Canonical(edge) : "")}:{string.Join(',', new[] { z.Start, z.Unit, z.Quadratic, z.Linear, z.Constant }.Select(Figures.Canonical))} ")),
        StepTable table => string.Concat(table.Steps.Select(s => $"{(s.UpTo is { } edge ? Figures.Canonical(edge) : "")}:{Figures.Canonical(s.Amount)} ")),
        TiedReturn tied => $"{tied.Definition},{tied.YearsBack},{tied.Period},{tied.Relation}{(tied.Latest ? ",latest" : "")}",
        RowTie tie => $"{tie.Rows},{tie.IdentifiedBy},{string.Join(',', tie.Columns.Select(c => $"{c.Column}={string.Join('+', c.From)}"))},{tie.LeftOutAtZero},{tie.AndSingle}",
        Enum or bool or int => string.Create(CultureInfo.InvariantCulture, $"{fact}"),
        _ => throw new NotSupportedException($"A fact of type {fact.GetType().Name} has no writing for the figure revision."),
    };
}
