using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;

namespace Aerarium.Countries.Philippines.PercentageTax;

/// <summary>
/// The percentage tax of a quarter on the gross sales of an individual who is not registered for value-added tax (NIRC s. 116). Who has elected 8% for the
/// year owes none; everybody else who is taxed by the graduated table does, quarter by quarter.
/// </summary>
public sealed class PercentageTaxReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ph/percentage-tax";

    private readonly IncomeTaxLaw _law;
    private readonly PercentageTaxForm _result;
    private readonly ChargesForm _charges;

    /// <summary>The definition for a quarter of a year.</summary>
    public PercentageTaxReturn(int year, string period)
        : base(ReturnId, year, period)
    {
        var law = _law = IncomeTaxLaw.For(year);
        var quarter = Periods.QuarterOf(period);
        var due = law.OfPercentageTax(quarter, "payment");
        Deadlines = [due, law.OfPercentageTax(quarter, "filing")];
        var scope = new PercentageTaxScopeForm(this, quarter, due.Day);
        var taxpayer = new TaxpayerForm(this);
        var sales = new SalesForm(this, law, scope);
        var result = _result = new PercentageTaxForm(this, law, scope, taxpayer, sales, due.Day);
        _charges = new ChargesForm(this, law, scope.Late, (result.PayableNow, 0), result.Rates, due.Day);
        _ = new DeclarationForm(this);
        ChargesRunOn(result.Running);
        PaidIn(new PaymentPart("Percentage tax of the quarter", result.PayableNow, due));
        Seal(
            new KeyFigure("Sales", sales.Gross.Line, ""),
            new KeyFigure("Tax", result.Tax.Line, ">"),
            new KeyFigure("Credits", result.Credits.Line, "-"),
            new KeyFigure("Balance", result.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Philippines, quarterly percentage tax";

    /// <inheritdoc />
    public override string Country => "Philippines";

    /// <inheritdoc />
    public override string Currency => "PHP";

    /// <inheritdoc />
    public override Core.Entries.DateOrder Dates => PhilippinesCountry.Dates;

    /// <inheritdoc />
    public override (string ToPay, string Overpaid) BalanceWords => ("To pay", "Overpaid");

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered => ["value added tax", "percentage taxes other than that of NIRC s. 116", "what becomes of an overpayment: claim it with the authority"];

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateOnly due, DateFormula paid) =>
        new LateCharges(_law, _result.Rates, unpaid, due, paid).Added(_charges);
}
