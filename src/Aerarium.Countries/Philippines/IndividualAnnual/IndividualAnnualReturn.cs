using Aerarium.Core.Definitions;
using Aerarium.Countries.Philippines.Parameters;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>
/// The annual income tax return of an individual: compensation, business or profession, or both, by the graduated table or by
/// 8%. Left out on purpose, so far: the spouse's column, exempt income and special rates; Scope stops with an error when they
/// arise. Losses of earlier years are used as one sum, not year by year.
/// </summary>
public sealed class IndividualAnnualReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ph/individual-annual";

    /// <summary>The definition for a taxable year.</summary>
    public IndividualAnnualReturn(int year)
        : base(ReturnId, year)
    {
        var law = IncomeTaxLaw.For(year);
        Deadlines = [law.Payment, law.Filing, law.SecondPart];
        var scope = new ScopeForm(this, law);
        var taxpayer = new TaxpayerForm(this);
        var compensation = new CompensationForm(this, law, scope, taxpayer);
        var business = new BusinessForm(this, law, scope);
        var deductions = new DeductionsForm(this, law, scope, business);
        var tax = new TaxForm(this, law, scope, compensation, business, deductions);
        var credits = new CreditsForm(this, law, scope, taxpayer, compensation, tax);
        _ = new ChargesForm(this, law, scope, credits);
        _ = new DeclarationForm(this);
        ChargesRunOn(credits.Running);
        Seal(
            new KeyFigure("Income", tax.Income.Line, ""),
            new KeyFigure("Deductions", tax.Deductions.Line, "-"),
            new KeyFigure("Taxable", tax.Taxable.Line, "="),
            new KeyFigure("Tax due", tax.Due.Line, ">"),
            new KeyFigure("Credits", credits.Credits.Line, "-"),
            new KeyFigure("Balance", credits.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Philippines, annual return of an individual";

    /// <inheritdoc />
    public override string Country => "Philippines";

    /// <inheritdoc />
    public override string Currency => "PHP";

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }
}
