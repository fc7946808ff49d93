using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Engine;

/// <summary>One choice of an elective line, as the return would come out with it.</summary>
/// <param name="Code">The code, or yes or no.</param>
/// <param name="Label">What a practitioner reads.</param>
/// <param name="Chosen">Whether it is what the return has now.</param>
/// <param name="Returns">The return with this choice; two where it makes a return of each column.</param>
/// <param name="Hindrances">Errors the choice itself raises: with any, it is not open to this taxpayer.</param>
public sealed record Alternative(string Code, string Label, bool Chosen, IReadOnlyList<Evaluation> Returns, IReadOnlyList<Finding> Hindrances)
{
    /// <summary>The return with this choice; the first where there are two.</summary>
    public Evaluation Evaluation => Returns[0];

    /// <summary>The balance, of all returns together.</summary>
    public decimal Balance => Returns.Sum(r => r.Balance);

    /// <summary>The key figures, of all returns together.</summary>
    public IEnumerable<(KeyFigure Figure, decimal Amount)> Outcome =>
        Evaluation.Outcome.Select(o => (o.Figure, Returns.Sum(r => r.Sheet.Amounts[o.Figure.Line.Slot])));

    /// <summary>Other taxes that come with the choice, of all returns together.</summary>
    public IEnumerable<(OtherTax Tax, decimal Amount)> Others =>
        Evaluation.Definition.OtherTaxes.Select(tax => (tax, Returns.Sum(r => tax.Amount.Evaluate(r.Sheet))));

    /// <summary>What the choice costs in all: the balance and the other taxes it moves.</summary>
    public decimal Cost => Balance + Others.Sum(o => o.Amount);

    /// <summary>Whether the law leaves it open.</summary>
    public bool IsOpen => Hindrances.Count == 0;
}

/// <summary>An elective line with all its choices computed side by side.</summary>
/// <param name="Line">The line.</param>
/// <param name="Choices">Its choices, in the order of the list.</param>
public sealed record Election(Line Line, IReadOnlyList<Alternative> Choices)
{
    /// <summary>Whether any key figure, another tax, or the number of returns, depends on the choice; a table of equal columns advises nothing.</summary>
    public bool Matters => OthersMove || Choices.Any(c => c.Returns.Count != Choices[0].Returns.Count || !c.Outcome.Select(o => o.Amount).SequenceEqual(Choices[0].Outcome.Select(o => o.Amount)));

    /// <summary>Whether the choice moves another tax.</summary>
    public bool OthersMove => Choices.Any(c => !c.Others.Select(o => o.Amount).SequenceEqual(Choices[0].Others.Select(o => o.Amount)));

    /// <summary>What the return has now; null while nothing is chosen.</summary>
    public Alternative? Chosen => Choices.FirstOrDefault(c => c.Chosen);

    /// <summary>The open choice that costs less than the one chosen, other taxes counted, and by how much; null when there is none.</summary>
    public (Alternative Choice, decimal Less)? Better
    {
        get
        {
            if (Chosen is not { } chosen)
            {
                return null;
            }

            var best = Choices.Where(c => c.IsOpen).MinBy(c => c.Cost);
            return best is not null && best.Cost < chosen.Cost ? (best, chosen.Cost - best.Cost) : null;
        }
    }
}

/// <summary>What a further amount of income costs, from one income on.</summary>
/// <param name="More">Income above that of the return.</param>
/// <param name="Cost">How much more the balance is for the next <see cref="NextIncome.Step"/>.</param>
public sealed record CostOfMore(decimal More, decimal Cost);

/// <summary>What the next income on a line costs at present, and how that changes as income rises.</summary>
/// <param name="Line">The line the income goes on.</param>
/// <param name="Points">Costs, lowest income first.</param>
public sealed record NextIncome(Line Line, IReadOnlyList<CostOfMore> Points)
{
    /// <summary>The amount of income that is added, in the return's currency.</summary>
    public const decimal Step = 1_000;
}

/// <summary>Choices computed side by side, by computing the whole return with each. Nothing of the return is changed.</summary>
public static class Alternatives
{
    /// <summary>Every elective line that applies to a return and on which a key figure depends, with its choices.</summary>
    public static IReadOnlyList<Election> Of(Evaluation now, DateOnly today) =>
    [
        .. now.Definition.Lines.Where(l => l.IsElective && now.IsOpen(l) && (!l.JoinsColumns || Columns.AnyParallel(now.Entries, now.Definition)))
            .Select(line => new Election(line, [.. CodesOf(line).Select(c => With(now, today, line, c))])).Where(e => e.Matters),
    ];

    /// <summary>What the next income costs, for every line on which more income may come.</summary>
    /// <param name="now">The return.</param>
    /// <param name="today">Day of evaluation.</param>
    /// <param name="reach">Up to how much more income.</param>
    /// <param name="points">At how many incomes.</param>
    public static IReadOnlyList<NextIncome> CostOfIncome(Evaluation now, DateOnly today, decimal reach, int points)
    {
        var (definition, entries) = (now.Definition, now.Entries);
        return
        [
            .. definition.Lines.Where(l => l.TakesMoreIncome && now.IsOpen(l) && (l.Table is null || entries.RowsOf(l.Table.Key).Count > 0)).Select(line => new NextIncome(line,
            [
                .. Enumerable.Range(0, points).Select(point =>
                {
                    var more = Math.Truncate(reach * point / points);
                    return new CostOfMore(more, BalanceWith(definition, entries, today, line, more + NextIncome.Step) - BalanceWith(definition, entries, today, line, more));
                }),
            ])),
        ];
    }

    private static IEnumerable<(string Code, string Label)> CodesOf(Line line) =>
        line.Choices is { } choices ? choices.Select(c => (c.Code, c.Label)) : [("yes", "Yes"), ("no", "No")];

    private static Alternative With(Evaluation now, DateOnly today, Line line, (string Code, string Label) choice)
    {
        var chosen = now.Value(line) == choice.Code;
        if (line.JoinsColumns && choice.Code == "no")
        {
            return Separate(now, today, line, choice.Label, chosen);
        }

        var evaluation = chosen ? now : now.Definition.Evaluate(now.Entries.With(line.Key, choice.Code), today);
        return new Alternative(
            choice.Code, choice.Label, chosen, [evaluation], [.. evaluation.Findings.Where(f => f.Severity == Severity.Error && f.Lines.Contains(line.Key))]);
    }

    /// <summary>A return of each column. What belongs to neither column alone would be lost, and with it the choice.</summary>
    private static Alternative Separate(Evaluation now, DateOnly today, Line line, string label, bool chosen)
    {
        var (definition, joint) = (now.Definition, now.Definition.Evaluate(now.Entries.With(line.Key, "yes"), today));
        var apart = new Alternative(
            "no",
            label,
            chosen,
            [definition.Evaluate(now.Entries.With(line.Key, "no"), today), definition.Evaluate(Columns.Alone(now.Entries, definition).With(line.Key, "no"), today)],
            []);
        var (together, alone) = (joint.Outcome.First().Amount, apart.Outcome.First().Amount);
        return together == alone
            ? apart
            : apart with
            {
                Hindrances =
                [
                    new Finding(
                        $"{line.Key}:separate", Severity.Error, $"{Formulas.Figures.Money(Math.Abs(together - alone))} of income belongs to neither alone and needs one return.", [line.Key], null, null, line.Form.Key),
                ],
            };
    }

    private static decimal BalanceWith(Definition definition, EntrySet entries, DateOnly today, Line line, decimal more)
    {
        if (line.Table is null)
        {
            return definition.Evaluate(entries.With(line.Key, Sum(entries.Values.GetValueOrDefault(line.Key), more)), today).Balance;
        }

        var rows = entries.RowsOf(line.Table.Key);
        var first = rows[0] with { Values = new Dictionary<string, string>(rows[0].Values) { [line.Name] = Sum(rows[0].Values.GetValueOrDefault(line.Name), more) } };
        return definition.Evaluate(entries.WithRows(line.Table.Key, [first, .. rows.Skip(1)]), today).Balance;
    }

    private static string Sum(string? value, decimal more) =>
        Formulas.Figures.Canonical((value is null ? 0 : decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture)) + more);
}
