using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Kenya.Parameters;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>
/// The return of a resident individual with employment income (official individual resident return), for one year of
/// income. Left out on purpose: business, rent, farming, lump sums, pensions, share options, foreign employment,
/// non-residents; Scope stops with an error when they arise.
/// </summary>
public sealed class EmploymentIncomeReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ke/employment-income";

    private readonly EmploymentIncomeLaw _law;

    /// <summary>The definition for a year of income.</summary>
    public EmploymentIncomeReturn(int year)
        : base(ReturnId, year)
    {
        var law = _law = EmploymentIncomeLaw.For(year);
        var scope = new ScopeForm(this, law);
        var taxpayer = new TaxpayerForm(this, law, scope);
        var readings = new ReadingsForm(this, law, scope);
        var employment = new EmploymentForm(this, law, scope, readings, taxpayer);
        var deductions = new DeductionsForm(this, law, scope, readings, taxpayer, employment);
        var tax = new TaxForm(this, law, scope, readings, taxpayer, employment, deductions);
        var credits = new CreditsForm(this, law, scope, employment, tax);
        _ = new ChargesForm(this, law, scope, credits);
        _ = new PayoutForm(this, credits);
        _ = new DeclarationForm(this);
        // TPA s. 77 (likely): a deadline on a Saturday, Sunday or public holiday is the working day before. In practice the day itself has been
        // accepted, so lateness is counted from the day, and the working day before it is what people plan for.
        Deadlines =
        [
            law.Payment.OrTheWorkingDayBefore(KenyaHolidays.Calendar),
            (law.Filing with { ExtendedBy = scope.ExtendedTo.Line }).OrTheWorkingDayBefore(KenyaHolidays.Calendar),
        ];
        ChargesRunOn(credits.Running);
        PaidIn(new PaymentPart("Balance of the year", credits.Balance, law.Payment));
        Seal(
            new KeyFigure("Income", employment.Income.Line, ""),
            new KeyFigure("Deductions", deductions.Total.Line, "-"),
            new KeyFigure("Taxable", deductions.Taxable.Line, "="),
            new KeyFigure("Tax", tax.Tax.Line, ">"),
            new KeyFigure("Reliefs", tax.Reliefs.Line, "-"),
            new KeyFigure("Already paid", credits.AlreadyPaid.Line, "-"),
            new KeyFigure("Balance", credits.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Kenya, employee's return";

    /// <inheritdoc />
    public override string Country => "Kenya";

    /// <inheritdoc />
    public override string Currency => "KES";

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered =>
    [
        "other income: business, rent, farming, dividends, interest, gains",
        "lump sums, gratuity and terminal pay spread over years; pensions and retirement payouts",
        "share options",
        "employment abroad and credit for foreign tax",
        "the exemption of bonus and overtime of low pay",
        "a declaration jointly with a spouse",
        "tax an employer deducted and did not pay over: it is credited from the certificate, and disputed by hand",
        "persons not resident",
    ];

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateOnly due, DateFormula paid) => LateCharges.On(_law, unpaid, paid);
}
