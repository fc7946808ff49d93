using System.Globalization;
using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>A row of a table of the law, as it is printed: its range and what holds in it.</summary>
/// <param name="Range">From where to where.</param>
/// <param name="Value">Rate, formula or amount.</param>
public sealed record LawRow(string Range, string Value);

/// <summary>What a schedule takes at an amount: of the next unit, and on average.</summary>
/// <param name="At">The amount.</param>
/// <param name="OfNext">Of the next unit, in per cent.</param>
/// <param name="OnAverage">On average, in per cent.</param>
public sealed record LawPoint(decimal At, decimal OfNext, decimal OnAverage);

/// <summary>A figure or table of the law as a definition uses it.</summary>
/// <param name="Key">Stable within the definition, and from year to year where the figure has a history.</param>
/// <param name="Label">What it is.</param>
/// <param name="Value">The value in words; for a table, its rows in one line.</param>
/// <param name="Source">Statute and section.</param>
/// <param name="Confidence">How sure we are.</param>
/// <param name="Note">What a reader must know when it is not certain.</param>
/// <param name="Rows">The rows of a table; none for a single figure.</param>
/// <param name="Curve">What a schedule of rates takes over a range of amounts; none for others.</param>
/// <param name="UsedBy">The lines whose rules name it, in working order.</param>
/// <param name="Findings">The findings whose conditions name it.</param>
public sealed record LawFigure(
    string Key, string Label, string Value, string Source, Confidence Confidence, string? Note, IReadOnlyList<LawRow> Rows, IReadOnlyList<LawPoint> Curve, IReadOnlyList<Line> UsedBy, IReadOnlyList<FindingRule> Findings)
{
    /// <summary>What it says, as a correction would say it, see <see cref="LawEdition"/>; null for a tariff of formulas, a day, and what stands in a rule alone.</summary>
    public LawCorrection? AsWritten { get; init; }

    /// <summary>What must stay the same for a verification to count: the value with its rows.</summary>
    public string Content => Rows.Count == 0 ? Value : string.Join("; ", Rows.Select(r => $"{r.Range}: {r.Value}"));
}

/// <summary>The figures of the law a definition rests on, found in the trees that compute it.</summary>
public static partial class LawFigures
{
    private const int PointsOfCurve = 80;

    /// <summary>A definition is never changed, and so are its figures; they go with it.</summary>
    private static readonly ConditionalWeakTable<Definition, IReadOnlyList<LawFigure>> Found = new();

    /// <summary>Every figure and table of a definition, each once, in the order in which its rules first name them; deadlines at the end.</summary>
    public static IReadOnlyList<LawFigure> Of(Definition definition) => Found.GetValue(definition, Find);

    private static IReadOnlyList<LawFigure> Find(Definition definition)
    {
        var calendars = new List<HolidayCalendar>();
        var found = new List<(object Fact, string Key, List<Line> Lines, List<FindingRule> Findings)>();
        foreach (var line in definition.Lines)
        {
            foreach (var formula in new Formula?[] { line.Formula, line.When, line.RequiredWhen }.OfType<Formula>())
            {
                Walk(formula, place => place.Lines.AddOnce(line));
            }
        }

        foreach (var finding in definition.Findings)
        {
            Walk(finding.When, place => place.Findings.AddOnce(finding));
        }

        foreach (var charge in definition.PaymentParts.SelectMany(part => definition.LateChargesOn(part.Amount, part.Due.Day, Law.OnToday)))
        {
            Walk(charge.Amount, place => place.Lines.AddOnce(charge.Line?.Line ?? definition.Balance));
        }

        foreach (var other in definition.OtherTaxes)
        {
            // Another tax moves with what is elected.
            Walk(other.Amount, place => definition.Lines.Where(l => l.IsElective).ToList().ForEach(place.Lines.AddOnce));
        }

        return
        [
            .. found.Select(f => Figure(f.Fact, f.Key, f.Lines, f.Findings)),
            .. definition.Deadlines.Select(d => new LawFigure(
                $"deadline-{Slug(d.Label)}", d.Label, d.Day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture), d.Source, d.Confidence, null, [], [], [], [])),
            .. calendars.Concat(definition.Deadlines.Select(d => d.Calendar).OfType<HolidayCalendar>()).Distinct().Select((calendar, index) => Holidays(calendar, index, definition.Year)),
        ];

        void Walk(Formula formula, Action<(List<Line> Lines, List<FindingRule> Findings)> note)
        {
            if (formula is ILineFormula)
            {
                return;
            }

            if (formula is WorkingDayOnOrAfter moved)
            {
                calendars.Add(moved.Calendar);
            }

            foreach (var fact in formula.Facts.Where(f => f is Parameter or RateSchedule or ZoneTariff or StepTable))
            {
                note(Place(fact));
            }

            foreach (var operand in formula.Operands)
            {
                Walk(operand, note);
            }
        }

        (List<Line> Lines, List<FindingRule> Findings) Place(object fact)
        {
            var (name, content) = (NameOf(fact, definition.Year), FigureText.InText(fact));
            if (found.Find(f => NameOf(f.Fact, definition.Year) == name && FigureText.InText(f.Fact) == content) is not { Fact: not null } known)
            {
                var times = found.Count(f => NameOf(f.Fact, definition.Year) == name);
                known = (fact, times == 0 ? name : $"{name}-{times + 1}", [], []);
                found.Add(known);
            }

            return (known.Lines, known.Findings);
        }
    }

    /// <summary>The key of a figure, or one made of its label without the year, so that it is the same next year.</summary>
    internal static string NameOf(object fact, int year)
    {
        var label = fact switch
        {
            Parameter parameter => parameter.Key ?? parameter.Label,
            RateSchedule schedule => schedule.Label,
            ZoneTariff tariff => tariff.Label,
            StepTable table => table.Label,
            _ => throw new NotSupportedException($"A fact of type {fact.GetType().Name} is no figure of the law."),
        };
        return Slug(label.Replace($"{year}", "", StringComparison.Ordinal));
    }

    private static LawFigure Figure(object fact, string key, IReadOnlyList<Line> lines, IReadOnlyList<FindingRule> findings) => fact switch
    {
        RateSchedule schedule => new LawFigure(
            key, schedule.Label, Counted(schedule.Bands.Count, "slice"), schedule.Source, schedule.Confidence, null,
            [.. schedule.Bands.Select(b => new LawRow(b.To is { } to ? $"{Figures.Plain(b.From)} to {Figures.Plain(to)}" : $"above {Figures.Plain(b.From)}", $"{Figures.Plain(b.Rate * 100)}%"))],
            Curve(schedule.Bands[^1].From, schedule.Apply), lines, findings)
        {
            AsWritten = new LawCorrection(key, null, [.. schedule.Bands.Select(b => new LawRange(b.To, b.Rate * 100))]),
        },
        ZoneTariff tariff => new LawFigure(
            key, tariff.Label, Counted(tariff.Zones.Count, "zone"), tariff.Source, tariff.Confidence, null,
            [.. tariff.Zones.Select((z, at) => new LawRow(z.UpTo is { } edge ? $"up to {Figures.Plain(edge)}" : $"above {Figures.Plain(tariff.Zones[at - 1].UpTo!.Value)}", z.Words))],
            Curve(tariff.Zones.Count > 1 ? tariff.Zones[^2].UpTo!.Value : 0, tariff.Apply), lines, findings),
        StepTable table => new LawFigure(
            key, table.Label, Counted(table.Steps.Count, "range"), table.Source, table.Confidence, null,
            [.. table.Steps.Select((s, at) => new LawRow(s.UpTo is { } edge ? $"up to {Figures.Plain(edge)}" : at == 0 ? "always" : $"above {Figures.Plain(table.Steps[at - 1].UpTo!.Value)}", Figures.Plain(s.Amount)))],
            [], lines, findings)
        {
            AsWritten = new LawCorrection(key, null, [.. table.Steps.Select(s => new LawRange(s.UpTo, s.Amount))]),
        },
        Parameter parameter => new LawFigure(key, parameter.Label, parameter.ValueInWords, parameter.Source, parameter.Confidence, parameter.Note, [], [], lines, findings)
        {
            AsWritten = parameter.Key == key ? new LawCorrection(key, parameter.Kind == ParameterKind.Rate ? parameter.Value * 100 : parameter.Value, []) : null,
        },
        _ => throw new NotSupportedException($"A fact of type {fact.GetType().Name} is no figure of the law."),
    };

    /// <summary>The public holidays by which days of the return move: those of its year and of the next, in which it is filed.</summary>
    private static LawFigure Holidays(HolidayCalendar calendar, int index, int year) => new(
        index == 0 ? "public-holidays" : $"public-holidays-{index + 1}",
        "public holidays that move a day",
        Counted(calendar.Holidays.Count, "holiday"),
        calendar.Source,
        calendar.Confidence,
        null,
        [.. calendar.Holidays.Select(h => new LawRow(h.Name, string.Join(", ", new[] { year, year + 1 }.Select(y => h.Day(y).ToString("d MMM yyyy", CultureInfo.InvariantCulture)))))],
        [],
        [],
        []);

    /// <summary>What a schedule takes, from nothing to somewhat above its last edge.</summary>
    private static IReadOnlyList<LawPoint> Curve(decimal lastEdge, Func<decimal, decimal> tax)
    {
        var end = lastEdge == 0 ? 100_000 : lastEdge * 1.25m;
        return [.. Enumerable.Range(0, PointsOfCurve + 1).Select(i =>
        {
            var at = decimal.Round(end * i / PointsOfCurve);
            return new LawPoint(at, decimal.Round((tax(at + 1) - tax(at)) * 100, 2), at == 0 ? 0 : decimal.Round(tax(at) * 100 / at, 2));
        })];
    }

    private static string Counted(int count, string what) => $"{count} {what}{(count == 1 ? "" : "s")}";

    private static string Slug(string label) => NotInKeys().Replace(label.ToLowerInvariant(), "-").Trim('-');

    private static void AddOnce<T>(this List<T> list, T item)
        where T : class
    {
        if (!list.Contains(item))
        {
            list.Add(item);
        }
    }

    [GeneratedRegex("[^a-z0-9]+")]
    private static partial Regex NotInKeys();
}
