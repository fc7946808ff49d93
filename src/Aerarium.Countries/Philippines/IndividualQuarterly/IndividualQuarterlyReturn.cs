using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;

namespace Aerarium.Countries.Philippines.IndividualQuarterly;

/// <summary>
/// The quarterly income tax return of an individual or a couple, for the first three quarters: business and profession only,
/// cumulative from 1 January. The method elected in the first quarter holds for the year. Compensation is not entered.
/// </summary>
public sealed class IndividualQuarterlyReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ph/individual-quarterly";

    /// <summary>The quarters that have a return; the fourth is in the annual one.</summary>
    public static readonly IReadOnlyList<string> Quarters = [.. Periods.Quarters.Take(3)];

    private readonly IncomeTaxLaw _law;
    private readonly OtherTax[] _others;
    private readonly QuarterResultForm _result;
    private readonly ChargesForm _charges;

    /// <summary>The definition for a quarter of a taxable year.</summary>
    public IndividualQuarterlyReturn(int year, string period)
        : base(ReturnId, year, period)
    {
        var law = _law = IncomeTaxLaw.For(year);
        var due = law.OfQuarter(Periods.QuarterOf(period), "payment");
        Deadlines = [due, law.OfQuarter(Periods.QuarterOf(period), "filing")];
        var scope = new QuarterScopeForm(this, due.Day);
        var taxpayer = new TaxpayerForm(this, null, scope.Joint);
        var (own, spouse) = (scope.Taxpayer, scope.Spouse);
        var business = new BusinessForm(this, law, own);
        var spouseBusiness = new BusinessForm(this, law, spouse, business);
        var deductions = new DeductionsForm(this, law, own, business);
        var spouseDeductions = new DeductionsForm(this, law, spouse, spouseBusiness, deductions);
        var tax = new QuarterTaxForm(this, law, own, business, deductions);
        var spouseTax = new QuarterTaxForm(this, law, spouse, spouseBusiness, spouseDeductions, tax);
        var credits = new QuarterCreditsForm(this, own, taxpayer, tax);
        var spouseCredits = new QuarterCreditsForm(this, spouse, taxpayer, spouseTax, credits);
        var result = _result = new QuarterResultForm(this, law, scope, due.Day, (tax, credits), (spouseTax, spouseCredits));
        _charges = new ChargesForm(this, law, scope.Late, (result.PayableNow, 0), result.Rates, due.Day);
        _ = new DeclarationForm(this);
        _others = period == Periods.Quarter(1) ? [new("Percentage tax on sales, in its own returns", business.PercentageTax + spouseBusiness.PercentageTax, "NIRC s. 116")] : [];
        ChargesRunOn(result.Running);
        PaidIn(new PaymentPart("Tax of the quarter", result.PayableNow, due));
        Seal(
            new KeyFigure("Income to date", result.Income.Line, ""),
            new KeyFigure("Taxable", result.Taxable.Line, ">"),
            new KeyFigure("Tax due", result.Due.Line, ">"),
            new KeyFigure("Credits", result.Credits.Line, "-"),
            new KeyFigure("Balance", result.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override IReadOnlyList<OtherTax> OtherTaxes => _others;

    /// <inheritdoc />
    public override string Title => "Philippines, quarterly return of an individual";

    /// <inheritdoc />
    public override string Country => "Philippines";

    /// <inheritdoc />
    public override string Currency => "PHP";

    /// <inheritdoc />
    public override Core.Entries.DateOrder Dates => PhilippinesCountry.Dates;

    /// <inheritdoc />
    public override (string ToPay, string Overpaid) BalanceWords => ("To pay", "Carried on");

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered => OutsideIncomeTax.Of;

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateOnly due, DateFormula paid) =>
        new LateCharges(_law, _result.Rates, unpaid, due, paid).Added(_charges);

    /// <summary>The quarters of the same year before this one, of the client's own return.</summary>
    internal static IEnumerable<TiedReturn> Earlier(Definition definition) =>
        Enumerable.Range(1, Periods.QuarterOf(definition.Period) - 1).Select(q => new TiedReturn(ReturnId, 0, Periods.Quarter(q)));
}
