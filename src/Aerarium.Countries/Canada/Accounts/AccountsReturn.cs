using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Common.Accounts;

namespace Aerarium.Countries.Canada.Accounts;

/// <summary>
/// The accounts of a company for a period: trial balance, mapping to the published items, adjustments, statements, fixed assets. They go to no authority; the company's tax returns are tied to their
/// lines.
/// </summary>
public sealed class AccountsReturn : Definition
{
    /// <summary>Id of the accounts.</summary>
    public const string ReturnId = "ca/accounts";

    /// <summary>The years in which covered periods end.</summary>
    public static readonly IReadOnlyList<int> Years = [2023, 2024, 2025];

    /// <summary>The accounts of a period that ends in a year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public AccountsReturn(int year, string periodOfYear = Periods.WholeYear)
        : base(ReturnId, Years.Contains(year) ? year : throw new ArgumentOutOfRangeException(nameof(year), year, "Canada, accounts cover periods that end in 2023 to 2025."), periodOfYear)
    {
        var chart = FinancialItems.Chart;
        var lastYear = this.PeriodBefore(ReturnId);
        var period = new PeriodForm(this, year);
        var trialBalance = new TrialBalanceForm(this, chart);
        var adjustments = new AdjustmentsForm(this, trialBalance);
        trialBalance.Complete(adjustments.ByAccount);
        var statements = new CompanyStatementsForm(this, chart, trialBalance, lastYear);
        _ = new AssetsForm(
            this, (period.Begin, period.End), DepreciationClasses.Choices, new RegisterTotals(statements["2008"], 0 - statements["2009"], statements[FinancialItems.Amortisation]), lastYear);
        Deadlines = [CompanyDays.Filing(year) with { Label = "Accounts, with the return they support", ReckonedBy = period.FilingDay.Line }];
        Seal(
            new KeyFigure("Assets", statements[FinancialItems.Assets].Line, ""),
            new KeyFigure("Revenue", statements[FinancialItems.Revenue].Line, ""),
            new KeyFigure("Before tax", statements[FinancialItems.BeforeTax].Line, ">"),
            new KeyFigure("Retained", statements[FinancialItems.Retained].Line, ""),
            new KeyFigure("Profit", statements[FinancialItems.Profit].Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Canada, accounts of a company";

    /// <inheritdoc />
    public override string Country => "Canada";

    /// <inheritdoc />
    public override string Currency => "CAD";

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered =>
    [
        "items of farming, of partnerships and of other comprehensive income; items outside the extract of the published list",
        "accounts in another currency than the Canadian dollar",
    ];

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override bool HasBalance => false;

    /// <inheritdoc />
    public override (string ToPay, string Overpaid) BalanceWords => ("Profit", "Loss");
}

/// <summary>The statements from the accounts, with those of the year before beside them.</summary>
public sealed class CompanyStatementsForm : StatementsForm
{
    /// <summary>Declares both columns.</summary>
    public CompanyStatementsForm(Definition definition, Chart chart, TrialBalanceForm trialBalance, TiedReturn lastYear)
        : base(definition, Heading, chart, (form, item) => form.Line(item.Name, $"{item.Code} {item.Label}", trialBalance.Of(item)))
    {
        Error("statements-differ", Difference.DiffersFrom(0) & trialBalance.Unmapped.DiffersFrom(0),
            $"Assets and liabilities with equity differ by {Difference}: accounts with a balance of {trialBalance.Unmapped} go to no item yet.", Difference);
        Error("statements-out-of-balance", Difference.DiffersFrom(0) & trialBalance.Unmapped.Equals(0),
            $"Assets and liabilities with equity differ by {Difference}, as the trial balance does not balance.", Difference);
        var before = new StatementsForm(definition, Heading, chart,
            (form, item) => form.Entry(item.Name, $"{item.Code} {item.Label}").MayBeNegative().OfOneYear().From("last year's statements").TiedTo(lastYear.Line($"{Heading.Key}.{item.Name}")),
            new Beside(this, "Last year", "This year"));
        Error("retained-do-not-roll", before[chart.ClosingRetained].DiffersFrom(0) & before[chart.ClosingRetained].DiffersFrom(this[chart.OpeningRetained]),
            $"Retained earnings begin with {this[chart.OpeningRetained]}, and last year ended with {before[chart.ClosingRetained]}. Find what was booked to retained earnings in between.", this[chart.OpeningRetained]);
    }

    private static FormHeading Heading => new("statements", "Statements", "Balance sheet and income statement by the published items, last year beside.");
}
