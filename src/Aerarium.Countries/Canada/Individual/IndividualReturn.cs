using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>
/// The return of an individual resident in British Columbia, Alberta or Ontario, federal and provincial, for one calendar year. What the law knows and this return does not compute
/// stands in <see cref="NotCovered"/>.
/// </summary>
public sealed class IndividualReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ca/individual";

    /// <summary>The years covered.</summary>
    public static readonly IReadOnlyList<int> Years = [2016, 2023, 2024, 2025];

    private readonly int _year;
    private readonly BalanceForm _balance;

    /// <summary>The definition for a tax year.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The year is not covered.</exception>
    public IndividualReturn(int year)
        : base(ReturnId, year)
    {
        _year = Years.Contains(year) ? year : throw new ArgumentOutOfRangeException(nameof(year), year, "Canada, individual covers the tax years 2016 and 2023 to 2025.");
        var law = new FederalLaw(year);
        var contributionLaw = new PensionAndInsuranceLaw(year);
        var (ontarioLaw, bcLaw, albertaLaw) = (new OntarioLaw(year), new BritishColumbiaLaw(year), new AlbertaLaw(year));
        var scope = new ScopeForm(this, law);
        var taxpayer = new TaxpayerForm(this, year, scope);
        var family = new FamilyForm(this, law, scope);
        var employment = new EmploymentForm(this, contributionLaw, scope);
        var benefits = new BenefitsForm(this, law, scope, taxpayer);
        var investments = new InvestmentsForm(this, law, scope);
        var gains = new GainsForm(this, law, scope, investments.Gains);
        var home = new HomeForm(this, law, scope);
        var business = new BusinessForm(this, law, scope);
        var rental = new RentalForm(this, scope);
        var other = new OtherIncomeForm(this, scope);
        var contributions = new ContributionsForm(this, contributionLaw, scope, taxpayer, employment, business.Profit);
        var retirement = new RetirementForm(this, law, scope);
        var workCosts = new WorkCostsForm(this, law, scope, employment);
        var childCare = new ChildCareForm(this, law, scope, employment.Income + AtLeastZero(business.Profit));
        var income = new IncomeForm(this, law, scope, taxpayer,
            new IncomePages(employment, benefits, investments, gains, home, business, rental, other), new DeductionPages(contributions, retirement, workCosts, childCare), family.YoungChildren);
        var tuition = new TuitionForm(this, law, ontarioLaw, bcLaw, scope, taxpayer, family);
        var medical = new MedicalForm(this, law, scope);
        var gifts = new GiftsForm(this, law, scope, employment.Gifts, income.Net);
        var credits = new CreditPages(family, benefits, employment, contributions, tuition, medical, gifts);
        var federal = new FederalForm(this, law, scope, taxpayer, income, credits, investments);
        var pages = new ProvincePages(scope, taxpayer, income, federal, credits, investments);
        var provinces = (new OntarioForm(this, law, ontarioLaw, pages), new BritishColumbiaForm(this, law, bcLaw, pages), new AlbertaForm(this, law, albertaLaw, pages));
        var balance = new BalanceForm(this, law, pages, contributions, other, business.Profit, provinces);
        _ = new PayoutForm(this, balance.Balance);
        _ = new DeclarationForm(this);
        Deadlines = [law.Payment with { ExtendedBy = scope.PaymentDay.Line }, law.Filing with { ExtendedBy = scope.FilingDay.Line }];
        PaidIn(new PaymentPart("Balance of the year", balance.Balance, law.Payment));
        _balance = balance;
        ChargesRunOn(balance.Running);
        Seal(
            new KeyFigure("Income", income.Total.Line, ""),
            new KeyFigure("Net income", income.Net.Line, ">"),
            new KeyFigure("Taxable", income.Taxable.Line, ">"),
            new KeyFigure("Federal tax", federal.Net.Line, ">"),
            new KeyFigure("Province", balance.ProvincialTax.Line, "+"),
            new KeyFigure("Payable", balance.Payable.Line, ">"),
            new KeyFigure("Deducted and paid", balance.Credits.Line, "-"),
            new KeyFigure("Balance", balance.Balance.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Canada, individual";

    /// <inheritdoc />
    public override string Country => "Canada";

    /// <inheritdoc />
    public override string Currency => "CAD";

    /// <inheritdoc />
    public override bool OldestYearFirst => true;

    /// <inheritdoc />
    public override IReadOnlyList<string> NotCovered =>
    [
        .. _year == 2016
            ? ["the tax of the provinces for 2016, ceilings and rates of pension plan and insurance, age, disability and caregiver amounts, thresholds of repayments: they are entered; Ontario's tuition is computed"]
            : Array.Empty<string>(),
        .. _year == 2023 ? ["the tax of the provinces for 2023: it is entered"] : Array.Empty<string>(),
        "Alberta's workers benefit, the second earner's exemption and the supplement for disability: they are entered as worked out",
        "credits for training of the provinces, senior and fertility credits, trillium and rent benefits that are paid by the month",
        "the minimum tax (told when it may apply), split-income tax, the lifetime capital gains exemption",
        "foreign tax credits, moving expenses, support paid, business investment losses, repayments of the home buyers' plan",
        "depreciation of a business or a property let, and the home office of a business: enter them as an expense, as worked out",
        "caregiver amounts and child disability supplements of the provinces; the spouse's caregiver top-up",
        "business income earned in several provinces; contributions to both pension plans in one year; work in Quebec and elsewhere in one year",
        "spouses who live in different provinces on 31 December: amounts transferred between them are worked out by hand",
        _year < 2024 ? "interest on instalments, and late interest before 2024: the rates are not held" : "late interest after 30 June 2026: the rates are not held",
        "penalties for false statements and for income left out",
        "part-year residents, non-residents, residents of other provinces, bankrupts",
    ];

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateOnly due, DateFormula paid) => _balance.LateChargesOn(unpaid, paid);

    /// <summary>A line of the spouse's return of the same year.</summary>
    internal static TieSource OfSpouse(string line) => new TiedReturn(ReturnId, Relation: "spouse").Line(line);

    /// <summary>A line of the returns of children who name the taxpayer for their tuition.</summary>
    internal static TieSource FromStudent(string line) => new TiedReturn(ReturnId, Relation: "child").Line(line) with { AddressedBy = "tuition.designee-sin" };
}
