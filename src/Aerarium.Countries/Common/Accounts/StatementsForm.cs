using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Common.Accounts;

/// <summary>
/// Balance sheet and income statement by the published items: where items come from differs (accounts, last year's statements, the accounts in whole units of a tax return), what
/// is made of them does not.
/// </summary>
public class StatementsForm : Form
{
    private readonly Dictionary<string, AmountLine> _lines = [];

    /// <summary>Declares the form.</summary>
    /// <param name="definition">The return.</param>
    /// <param name="heading">Key, title and sentence of the form.</param>
    /// <param name="chart">The published items.</param>
    /// <param name="itemOf">Declares the line of an item on the form.</param>
    /// <param name="beside">The form in whose parallel column this one stands; null for one of its own.</param>
    /// <param name="placesRounding">Whether items are rounded one by one, so that the balance sheet needs a place for the difference.</param>
    public StatementsForm(Definition definition, FormHeading heading, Chart chart, Func<Form, StatementItem, AmountLine> itemOf, Beside? beside = null, bool placesRounding = false)
        : base(definition, heading.Key, heading.Title, heading.About, beside: beside)
    {
        foreach (var section in chart.Sections)
        {
            Section(section.Title, chart.Source);
            foreach (var line in section.Lines)
            {
                _lines[line.Code] = line switch
                {
                    StatementTotal total => Ruled(Line(total.Name, $"{total.Code} {total.Label}"), total.Rule),
                    StatementItem item => itemOf(this, item),
                    _ => throw new RuleException($"'{line.Code}' of the chart is neither an item nor a total."),
                };
            }
        }

        Section("Balance check");
        var raw = Sum(chart.LiabilitiesAndEquity, chart);
        if (placesRounding)
        {
            Rounding = Line("rounding", $"Rounding, counted in {chart.RoundingPlacedIn}", Core.Formulas.Law.If(
                Core.Formulas.Law.Size(this[chart.Assets] - raw) <= chart.Items.Count(), this[chart.Assets] - raw, 0)).Hint("common practice, no source");
        }

        foreach (var total in chart.Lines.OfType<StatementTotal>())
        {
            var sum = total.Added.Aggregate((Amount?)null, (sum, code) => sum is null ? this[code] : sum + this[code])!;
            var added = total.Added.Contains(chart.RoundingPlacedIn) && Rounding is { } rounding ? sum + rounding : sum;
            this[total.Code].Is(total.Subtracted.Aggregate(added, (sum, code) => sum - this[code]));
        }

        Difference = Line("difference", "Assets less liabilities and equity", this[chart.Assets] - this[chart.LiabilitiesAndEquity]).Subtotal();
    }

    /// <summary>The line of a code.</summary>
    public AmountLine this[string code] => _lines[code];

    /// <summary>By how much the balance sheet differs.</summary>
    public AmountLine Difference { get; }

    /// <summary>What rounding each item made of the balance sheet, and where it is counted; null where nothing is rounded.</summary>
    public AmountLine? Rounding { get; }

    /// <summary>A total written out down to its items, without the place for rounding.</summary>
    private Amount Sum(string code, Chart chart) => chart.Lines.First(l => l.Code == code) is StatementTotal total
        ? total.Subtracted.Aggregate(total.Added.Select(a => Sum(a, chart)).Aggregate((one, next) => one + next), (sum, taken) => sum - Sum(taken, chart))
        : this[code];

    private static AmountLine Ruled(AmountLine line, LineRule rule) => rule switch { LineRule.Final => line.Final(), LineRule.None => line, _ => line.Subtotal() };
}

/// <summary>Key, title and sentence of a form.</summary>
/// <param name="Key">Stable key.</param>
/// <param name="Title">Title.</param>
/// <param name="About">One sentence under the title.</param>
public sealed record FormHeading(string Key, string Title, string About);
