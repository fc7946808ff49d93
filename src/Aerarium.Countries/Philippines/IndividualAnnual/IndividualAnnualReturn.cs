using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>
/// The annual income tax return of an individual or, in two parallel columns, of a couple: compensation, business or
/// profession, or both, by the graduated table or by 8%; income that is exempt or under a special rate apart from it.
/// </summary>
public sealed class IndividualAnnualReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ph/individual-annual";

    private readonly IncomeTaxLaw _law;
    private readonly OtherTax[] _others;
    private readonly ResultForm _result;
    private readonly ChargesForm _charges;

    /// <summary>The definition for a taxable year.</summary>
    public IndividualAnnualReturn(int year)
        : base(ReturnId, year)
    {
        var law = _law = IncomeTaxLaw.For(year);
        Deadlines = [law.Payment, law.Filing, law.SecondPart];
        var scope = new ScopeForm(this, law);
        var taxpayer = new TaxpayerForm(this, scope.Taxpayer, scope.Joint);
        var (own, spouse) = (scope.Taxpayer, scope.Spouse);
        var compensation = new CompensationForm(this, law, own, taxpayer);
        var spouseCompensation = new CompensationForm(this, law, spouse, taxpayer, compensation);
        var business = new BusinessForm(this, law, own);
        var spouseBusiness = new BusinessForm(this, law, spouse, business);
        var deductions = new DeductionsForm(this, law, own, business, null, LossesOfLastYear.In("deductions"));
        var spouseDeductions = new DeductionsForm(this, law, spouse, spouseBusiness, deductions, LossesOfLastYear.In("deductions-spouse"));
        var undivided = new UndividedForm(this, scope);
        var special = new SpecialIncomeForm(this, scope);
        var tax = new TaxForm(this, law, own, compensation, business, deductions, undivided.Taxpayer, special);
        var spouseTax = new TaxForm(this, law, spouse, spouseCompensation, spouseBusiness, spouseDeductions, undivided.Spouse, null, tax);
        var credits = new CreditsForm(this, law, own, taxpayer, compensation, business, tax);
        var spouseCredits = new CreditsForm(this, law, spouse, taxpayer, spouseCompensation, spouseBusiness, spouseTax, credits);
        var result = _result = new ResultForm(this, law, scope, compensation, (tax, credits), (spouseTax, spouseCredits));
        _charges = new ChargesForm(this, law, scope.Late, (result.PayableNow, result.Later), result.Rates, law.Payment.Day);
        _ = new AttachmentsForm(this, law, scope, (compensation, business), (spouseCompensation, spouseBusiness));
        _ = new DeclarationForm(this);
        _others = [new("Percentage tax on sales, in its own returns", business.PercentageTax + spouseBusiness.PercentageTax, "NIRC s. 116")];
        ChargesRunOn(result.Running);
        PaidIn(new PaymentPart("Tax of the year, or its first part", result.PayableNow, law.Payment), new PaymentPart("Second part", result.Later, law.SecondPart));
        Seal(
            new KeyFigure("Income", result.Income.Line, ""),
            new KeyFigure("Deductions", result.Deductions.Line, "-"),
            new KeyFigure("Taxable", result.Taxable.Line, "="),
            new KeyFigure("Tax due", result.Due.Line, ">"),
            new KeyFigure("Credits", result.Credits.Line, "-"),
            new KeyFigure("Balance", result.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override IReadOnlyList<OtherTax> OtherTaxes => _others;

    /// <inheritdoc />
    public override string Title => "Philippines, annual return of an individual";

    /// <inheritdoc />
    public override string Country => "Philippines";

    /// <inheritdoc />
    public override string Currency => "PHP";

    /// <inheritdoc />
    public override Core.Entries.DateOrder Dates => PhilippinesCountry.Dates;

    /// <inheritdoc />
    public override (string ToPay, string Overpaid) BalanceWords => ("To pay", "Overpaid");

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered => OutsideIncomeTax.Of;

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override bool RestFallsDueWithAPart => true;

    /// <inheritdoc />
    public override IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateOnly due, DateFormula paid) =>
        new LateCharges(_law, _result.Rates, unpaid, due, paid).Added(_charges);
}
