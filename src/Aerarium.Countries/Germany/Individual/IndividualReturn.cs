using Aerarium.Core.Definitions;
using Aerarium.Countries.Germany.Parameters;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>
/// The income tax return of an employee resident in Germany, alone or together with the spouse, for one calendar year. What the law knows and this return does not compute stands in
/// <see cref="NotCovered"/>.
/// </summary>
public sealed class IndividualReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "de/individual";

    /// <summary>The definition for a tax year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public IndividualReturn(int year)
        : base(ReturnId, year)
    {
        var law = new IncomeTaxLaw(IncomeTaxLaw.Years.Contains(year) ? year : throw new ArgumentOutOfRangeException(nameof(year), year, "Germany, employee covers the tax years 2022 to 2025."));
        var scope = new ScopeForm(this, law);
        var taxpayer = new TaxpayerForm(this, year, scope);
        var wages = new WageForm(this, law, scope.Taxpayer);
        var spouseWages = new WageForm(this, law, scope.Spouse, wages);
        var work = new WorkCostsForm(this, law, scope, scope.Taxpayer, wages);
        var spouseWork = new WorkCostsForm(this, law, scope, scope.Spouse, spouseWages, work);
        var provident = new ProvidentForm(this, law, scope, scope.Taxpayer, wages);
        var spouseProvident = new ProvidentForm(this, law, scope, scope.Spouse, spouseWages, provident);
        var rate = new RateForm(this, law, (wages, spouseWages), (work, spouseWork));
        var tax = new TaxRule(law, scope.Joint | scope.WidowSplitting, rate.OneFifth, rate.Benefits);
        var children = new ChildrenForm(this, law, scope, tax);
        var capital = new CapitalForm(this, law, scope, taxpayer);
        var income = new IncomeForm(this, law, scope, taxpayer, (wages, spouseWages), (work, spouseWork), capital, children);
        var special = new SpecialForm(this, law, scope, (wages, spouseWages), children, income.Total);
        var burdens = new BurdensForm(this, law, scope, children, income.Total);
        var household = new HouseholdWorkForm(this, law, scope);
        var computed = new TaxForm(this, law, scope, taxpayer, income, capital, (provident, spouseProvident), special, burdens, children, household, (tax, rate), (wages, spouseWages));
        var balance = new BalanceForm(this, law, scope, computed, income, capital, (wages, spouseWages), rate);
        _ = new PayoutForm(this, balance);
        _ = new DeclarationForm(this);
        VoluntaryUntil = law.Voluntary;
        Deadlines = [law.Filing with { ExtendedBy = balance.FilingDay.Line }];
        ChargesRunOn(balance.Running);
        Seal(
            new KeyFigure("Income", income.Sum.Line, ""),
            new KeyFigure("Deductions", computed.Deductions.Line, "-"),
            new KeyFigure("Taxable", computed.Taxable.Line, ">"),
            new KeyFigure("Taxes", balance.Taxes.Line, ">"),
            new KeyFigure("Withheld and paid", balance.Paid.Line, "-"),
            new KeyFigure("Balance", balance.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Germany, employee";

    /// <inheritdoc />
    public override DateOnly? VoluntaryUntil { get; }

    /// <inheritdoc />
    public override string Country => "Germany";

    /// <inheritdoc />
    public override string Currency => "EUR";

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered =>
    [
        "rent, self-employment, pensions, private sales and foreign wages: their result is entered as other income",
        "losses from capital income; a spouse who saves for the subsidised pension only through the other; the bonus of young savers",
        "the one-fifth method together with the progression clause",
        "valuation of a company car; commuting premium; ceiling of the church tax and the fee of a member with a high-earning spouse",
        "losses of earlier years: the amount used now is entered; losses carried back",
        "energy renovation beyond the credit of the year, which is entered",
        "civil servants' old-age cap; allowances split between separated parents; a disabled child's lump sum passed on",
        "the surcharge for paying late (AO s. 240), which runs from the notice",
        "part-year residents and people living abroad",
    ];

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }
}
