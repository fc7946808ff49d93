using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Canada.Parameters;

namespace Aerarium.Countries.Canada.CompanyAlberta;

/// <summary>
/// Alberta's return of a corporation with an establishment there, to Alberta's own authority. What is the same is tied to the federal return of the same period; what is discretionary has pools of its own.
/// </summary>
public sealed class AlbertaReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ca/company-alberta";

    private readonly AlbertaBalanceForm _balance;

    /// <summary>The return of a period that ends in a year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public AlbertaReturn(int year, string period = Periods.WholeYear)
        : base(ReturnId, CompanyReturn.Years.Contains(year) ? year : throw new ArgumentOutOfRangeException(nameof(year), year, "Canada, company in Alberta covers periods that end in 2024 and 2025."), period)
    {
        var law = new CorporationLaw(year);
        var scope = new AlbertaScopeForm(this, law);
        _ = new AlbertaCompanyForm(this, scope);
        var depreciation = new DepreciationForm(this, law, new CompanyPeriod(scope.End, scope.Days, scope.Short), scope.DepreciationDiffers, ReturnId, AssetSource.FederalReturn(this));
        var reconciliation = new AlbertaReconciliationForm(this, scope, depreciation);
        var gifts = new GiftsForm(this, law, scope.Gifts, reconciliation.NetIncome, ReturnId, this.Federal("gifts.of-year"));
        var carried = new CarriedForm(this);
        var losses = new LossesForm(this, law, scope.Losses, new LossBases(reconciliation.NetIncome, reconciliation.NetIncome - gifts.Deducted - carried.Dividends, carried.TaxableGains, carried.CapitalLoss), ReturnId);
        var tax = new AlbertaTaxForm(this, law, reconciliation.NetIncome, gifts.Deducted, losses, carried.Dividends);
        _balance = new AlbertaBalanceForm(this, law, scope, tax);
        _ = new PayoutForm(this, _balance.Balance);
        _ = new AlbertaDeclarationForm(this);
        var payment = CompanyDays.Payment(year) with { ReckonedBy = _balance.PaymentDay.Line, Source = "ACTA 38", Confidence = Confidence.Likely };
        Deadlines = [payment, CompanyDays.Filing(year) with { ReckonedBy = scope.FilingDay.Line, Source = "ACTA 36", Confidence = Confidence.Likely }];
        PaidIn(new PaymentPart("Balance of the period, to Alberta", _balance.Balance, payment));
        ChargesRunOn(_balance.Running);
        Seal(
            new KeyFigure("Net income", reconciliation.NetIncome.Line, ""),
            new KeyFigure("Taxable", tax.Taxable.Line, ">"),
            new KeyFigure("Alberta tax", tax.Tax.Line, ">"),
            new KeyFigure("Paid", _balance.Paid.Line, "-"),
            new KeyFigure("Balance", _balance.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Canada, company in Alberta";

    /// <inheritdoc />
    public override string Country => "Canada";

    /// <inheritdoc />
    public override string Currency => "CAD";

    /// <inheritdoc />
    public override bool OldestYearFirst => true;

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered =>
    [
        "the exemption from filing of small companies without tax: its conditions are not known here",
        "Alberta's interest on tax and instalments, research grants, investment credits",
        "resource pools: enter them as other differences",
    ];

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateOnly due, DateFormula paid) => _balance.LateChargesOn(unpaid);
}

/// <summary>What is the same federally and in Alberta, taken from the federal return.</summary>
public sealed class CarriedForm : Form
{
    /// <summary>Dividends deductible, taxable gains, net capital loss of the year.</summary>
    public readonly AmountLine Dividends, TaxableGains, CapitalLoss;

    /// <summary>Declares the form.</summary>
    public CarriedForm(Definition definition)
        : base(definition, "federal", "From the federal return", "Amounts that are the same federally and in Alberta.")
    {
        Section("The same in both returns", "ACTA 5");
        Dividends = Same("dividends", "Taxable dividends deductible", "dividends.deductible");
        TaxableGains = Same("taxable-gains", "Taxable capital gains", "gains.taxable");
        CapitalLoss = Same("capital-loss", "Net capital loss of the year", "gains.loss");

        AmountLine Same(string name, string label, string line) => Entry(name, label).InWholeUnits().OfOneYear().TiedTo(definition.Federal(line)).From("federal return");
    }
}
