using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Parameters;

namespace Aerarium.Countries.Canada.Company;

/// <summary>
/// The federal return of a corporation with establishments in British Columbia, Alberta or Ontario, for a period that ends in a calendar year. The federal authority assesses Ontario and British Columbia
/// too; Alberta has a return and an authority of its own.
/// </summary>
public sealed class CompanyReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ca/company";

    /// <summary>The years in which covered periods end.</summary>
    public static readonly IReadOnlyList<int> Years = [2024, 2025];

    private readonly BalanceForm _balance;

    /// <summary>The return of a period that ends in a year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public CompanyReturn(int year, string period = Periods.WholeYear)
        : base(ReturnId, Years.Contains(year) ? year : throw new ArgumentOutOfRangeException(nameof(year), year, "Canada, company covers periods that end in 2024 and 2025."), period)
    {
        var law = new CorporationLaw(year);
        var scope = new ScopeForm(this, law);
        _ = new CompanyForm(this, scope);
        var financial = new FinancialForm(this);
        var depreciation = new DepreciationForm(this, law, new CompanyPeriod(scope.End, scope.Days, scope.Short), scope.Depreciable, ReturnId, AssetSource.Register(this));
        var gains = new GainsForm(this, law, scope);
        var reconciliation = new ReconciliationForm(this, law, scope, financial, depreciation, gains);
        var gifts = new GiftsForm(this, law, scope.Gifts, reconciliation.NetIncome, ReturnId);
        var dividends = new DividendsForm(this, law, scope, gains, financial);
        var losses = new LossesForm(this, law, scope.Losses, new LossBases(reconciliation.NetIncome, reconciliation.NetIncome - gifts.Deducted - dividends.Deductible, gains.Taxable, gains.Loss), ReturnId);
        var group = new GroupForm(this, law, scope);
        var allocation = new AllocationForm(this, scope);
        var pages = new TaxPages(scope, financial, reconciliation, gifts, dividends, losses, group, allocation);
        var tax = new TaxForm(this, law, pages);
        var pools = new PoolsForm(this, law, scope, dividends, tax);
        _balance = new BalanceForm(this, law, pages, tax, pools);
        _ = new EffectiveRateForm(this, law, pages, depreciation, gains, tax, pools);
        _ = new PayoutForm(this, _balance.Balance);
        _ = new DeclarationForm(this);
        var payment = CompanyDays.Payment(year) with { ReckonedBy = _balance.PaymentDay.Line };
        Deadlines = [payment, CompanyDays.Filing(year) with { ReckonedBy = scope.FilingDay.Line }];
        PaidIn(new PaymentPart("Balance of the period", _balance.Balance, payment));
        ChargesRunOn(_balance.Running);
        Seal(
            new KeyFigure("Profit", financial[FinancialItems.Profit].Line, ""),
            new KeyFigure("Net income", reconciliation.NetIncome.Line, ">"),
            new KeyFigure("Taxable", tax.Taxable.Line, ">"),
            new KeyFigure("Federal tax", tax.PartOne.Line, ">"),
            new KeyFigure("Provinces", tax.Provinces.Line, "+"),
            new KeyFigure("Payable", _balance.Payable.Line, ">"),
            new KeyFigure("Paid", _balance.Credits.Line, "-"),
            new KeyFigure("Balance", _balance.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Canada, company";

    /// <inheritdoc />
    public override string Country => "Canada";

    /// <inheritdoc />
    public override string Currency => "CAD";

    /// <inheritdoc />
    public override bool OldestYearFirst => true;

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered =>
    [
        "additions of class 13 by the years of the lease: the amount of the period is entered; the business limit of a second period of associated companies (ITA 125(5)(a), from memory)",
        "establishments in other provinces or abroad, foreign affiliates, non-residents, other currencies",
        "capital dividends and elections, research credits, credits of the provinces, manufacturing and zero-emission rates",
        "personal services businesses, Part III.1 tax, Ontario's minimum tax, interest limitation, shareholder loans, form T1135, the schedule of first-time filers",
        "short-form statements of inactive companies; items outside the extract of the published list",
        "interest on instalments; late interest after 30 June 2026: the rates are not held",
        "agreements to share taxable capital otherwise than by the sums of the group; investment income other than that of the line of schedule 7",
    ];

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateOnly due, DateFormula paid) => _balance.LateChargesOn(unpaid, paid);
}
