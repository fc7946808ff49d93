using Aerarium.Core.Definitions;
using Aerarium.Countries.Barbados.Parameters;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>
/// The return of a resident individual for one income year. Left out on purpose: the rates of 2018 and 2019, which changed within the year (the tax is entered),
/// capital allowances of the self-employed, reliefs of earlier years, remittance rules beyond the question, penalties and interest (told, not added), non-residents.
/// </summary>
public sealed class IndividualReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "bb/individual";

    /// <summary>The definition for an income year.</summary>
    public IndividualReturn(int year)
        : base(ReturnId, year)
    {
        var law = IncomeTaxLaw.For(year);
        var scope = new ScopeForm(this, law);
        var taxpayer = new TaxpayerForm(this, law);
        var employment = new EmploymentForm(this, scope);
        var pensions = new PensionsForm(this, scope);
        var investments = new InvestmentsForm(this, scope);
        var foreign = new ForeignForm(this, scope);
        var business = new BusinessForm(this, year, scope);
        var rental = new RentalForm(this, law, scope);
        var allowances = new AllowancesForm(this, law, scope);
        var deductions = new DeductionsForm(this, law, scope, taxpayer, allowances);
        var income = new IncomeOfTheYear(employment.Income, pensions.Income, business.Income, foreign.Income, investments.Income);
        var tax = new TaxForm(this, law, scope, taxpayer, income, deductions.Total);
        var balance = new BalanceForm(this, law, scope, tax, foreign, rental, employment.TaxDeducted, pensions.TaxDeducted);
        _ = new PayoutForm(this, balance);
        _ = new DeclarationForm(this);
        Deadlines =
        [
            law.Payment.OrTheWorkingDayBefore(BarbadosHolidays.Calendar),
            (law.Filing with { ExtendedBy = scope.ExtendedTo.Line }).OrTheWorkingDayBefore(BarbadosHolidays.Calendar),
        ];
        PaidIn(new PaymentPart("Balance of the year", balance.Balance, law.Payment));
        Seal(
            new KeyFigure("Income", tax.Assessable.Line, ""),
            new KeyFigure("Deductions", tax.Deductions.Line, "-"),
            new KeyFigure("Allowance", tax.Allowance.Line, "-"),
            new KeyFigure("Taxable", tax.Taxable.Line, "="),
            new KeyFigure("Tax less credits", balance.TaxAfterCredits.Line, ">"),
            new KeyFigure("Already paid", balance.AlreadyPaid.Line, "-"),
            new KeyFigure("Balance", balance.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Barbados, resident individual";

    /// <inheritdoc />
    public override string Country => "Barbados";

    /// <inheritdoc />
    public override string Currency => "BBD";

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered =>
    [
        "the tax of 2018 and 2019, whose rates changed within the year: it is entered",
        "capital allowances of a business: enter them as an expense, as worked out in the accounts",
        "reverse, compensatory and foreign currency earnings credits: the amount allowed is entered",
        "savings, share and retirement plan reliefs of earlier years, alimony and covenants",
        "remittance rules and special entrants beyond the question whether somebody is domiciled",
        "penalties and interest for lateness: told, not added",
        "persons not resident",
    ];

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }
}
