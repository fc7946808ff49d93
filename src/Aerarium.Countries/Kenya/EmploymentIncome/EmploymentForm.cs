using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Kenya.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Employment income: the employers' certificates, benefits in kind, and what is exempt.</summary>
public sealed class EmploymentForm : Form
{
    /// <summary>What is copied from an employer's certificate, as other lines use it.</summary>
    public sealed record Employer(
        TextLine Pin,
        AmountLine Months,
        AmountLine FirstMonth,
        AmountLine Cash,
        AmountLine Benefits,
        AmountLine Meals,
        AmountLine MinorBenefits,
        AmountLine PensionablePay,
        AmountLine Retirement,
        AmountLine MortgageInPayroll,
        AmountLine MedicalInPayroll,
        Contributions? Health,
        Contributions? Levy,
        AmountLine TotalOnCertificate,
        AmountLine TaxDeducted,
        Premises Premises);

    /// <summary>Contributions taken by payroll. <paramref name="EarnRelief"/> exists only in the year the rules changed: what was taken before the change.</summary>
    public sealed record Contributions(AmountLine Deductible, AmountLine? EarnRelief);

    /// <summary>Housing provided by an employer.</summary>
    public sealed record Premises(
        ChoiceLine Class, ChoiceLine Arrangement, AmountLine Months, AmountLine RentByEmployer, AmountLine MarketRent, AmountLine RentByEmployee, AmountLine OtherIncome);

    private sealed record Car(RowLine Provider, AmountLine Benefit);

    /// <summary>Employers.</summary>
    public readonly RepeatingSection<Employer> Employers;

    /// <summary>Total pay and benefits, and employment income after exemptions.</summary>
    public readonly AmountLine Gross, Income;

    /// <summary>Declares the form.</summary>
    public EmploymentForm(Definition definition, EmploymentIncomeLaw law, ScopeForm scope, ReadingsForm readings, TaxpayerForm taxpayer)
        : base(definition, "employment", "Employment", "One block for each employer, copied from the annual deduction certificate (Form P9A).")
    {
        Employers = Repeating("employers", "Employers", "employer", row => Certificate(row, law, scope), "ITA s. 3, 5");
        var cars = Repeating("cars", "Cars provided by an employer", "car", row => CarBlock(row, law, Employers), "ITA s. 5(2B)", scope.Car);

        Section("Minor benefits", "ITA s. 5(2)(b)");
        var minor = Line("minor-benefits", "Minor non-cash benefits, all employers", Employers.Sum(e => e.MinorBenefits));
        Amount minorLimit = readings.MinorBenefitsRaised is { } raised ? If(raised, law.MinorBenefitsLimitRaised!, law.MinorBenefitsLimit) : law.MinorBenefitsLimit;

        Section("Meals", "ITA s. 5(4)(f)", scope.Benefits);
        var meals = Line("meals", "Meals provided, all employers", Employers.Sum(e => e.Meals));
        var mealsExempt = Line("meals-exempt", "Meals exempt", Min(meals, law.MealsExempt));
        var gross = Continue(Employers, row => BlockTotals(row, law, readings, Employers.Columns, cars, (minor, minorLimit), mealsExempt));

        Section("Employment income");
        Gross = Line("gross", "Pay and benefits, all employers", Employers.Sum(_ => gross)).Law("ITA s. 5").Subtotal();

        Section("Disability exemption", "L.N. 36/2010", scope.Disability);
        var certificate = Text("disability-certificate", "Exemption certificate number").From("exemption certificate").Required();
        var from = Date("disability-from", "Certificate in force from").From("exemption certificate").Required();
        var to = Date("disability-to", "Certificate in force to").From("exemption certificate").Required();
        var months = NumberLine("disability-months", "Months in force during the period",
            If(from.IsFilled() & to.IsFilled(), MonthsTouched(Later(from, taxpayer.From), Earlier(to, taxpayer.To)), 0)).Unit("months");
        var exempt = Line("disability-exempt", "Income exempt", Min(Gross, law.DisabilityExemptionMonth * months)).Subtotal();
        var carePaid = Entry("care-paid", "Home and personal care paid").From("receipts");
        var care = Line("care-allowed", "Home and personal care allowed", Min(carePaid, law.CareLimitMonth * months));
        Error("disability-dates", from.IsFilled() & to.IsFilled() & from > to,
            "The exemption certificate ends before it begins; check both dates.", from, to);
        Warn("disability-part-year", certificate.IsFilled() & from.IsFilled() & to.IsFilled() & months < taxpayer.PeriodMonths,
            $"The exemption covers {months} of {taxpayer.PeriodMonths} months only; renew the certificate if it has lapsed.", from, to);
        Warn("care-over-limit", carePaid > care,
            $"{carePaid - care} of care is above the limit and does not count.", carePaid);

        Section("Result");
        Income = Line("income", "Employment income", AtLeastZero(Gross - exempt - care)).Law("ITA s. 3, 5").Final();

        Error("no-employer", scope.Employers.IsFilled() & !scope.Employers.Is("none") & Employers.RowCount.Equals(0),
            "Add each employer of the year, from its annual deduction certificate.", Income);
        Warn("employers-differ-from-scope", (scope.Employers.Is("one") & Employers.RowCount > 1) | (scope.Employers.Is("none") & Employers.RowCount > 0),
            "There are more employers here than Scope says; correct one of the two.", scope.Employers);
        Error("no-car", scope.Car & cars.RowCount.Equals(0), "Scope says that an employer provided a car; add each car.", scope.Car);
        Error("no-housing", scope.Housing & Employers.RowCount > 0 & !Employers.Any(e => e.Premises.Class.IsFilled()),
            "Scope says that an employer provided housing; complete the housing lines of that employer.", scope.Housing);
    }

    private static Employer Certificate(RowScope row, EmploymentIncomeLaw law, ScopeForm scope)
    {
        var pin = row.Identifier("pin", "Employer's identification number", KenyaIdentifiers.PayerPin).From("P9A, employer's PIN").Required();
        row.NamedBy(row.Text("name", "Employer's name").From("P9A, employer's name").Required());
        var months = row.Count("months", "Months worked").From("P9A, months with pay").Unit("months").Between(1, 12).Required();
        var several = scope.Employers.Is("several");
        var first = row.Count("first-month", "First month of the year, 1 to 12").From("P9A, months with pay").Between(1, 12).When(several);
        var last = row.Count("last-month", "Last month of the year, 1 to 12").From("P9A, months with pay").Between(1, 12).When(several);
        var from = row.NumberLine("counted-from", "Counted from month", first.Or(1)).When(several);
        var until = row.NumberLine("counted-to", "Counted to month", last.Or(12)).When(several);

        var basic = row.Entry("basic-pay", "Basic pay").TakesMoreIncome().From("P9A, basic salary, total").Required();
        var house = row.Entry("house-allowance", "House allowance").From("payslips");
        var transport = row.Entry("transport-allowance", "Transport allowance").From("payslips");
        var leave = row.Entry("leave-allowance", "Leave pay").From("payslips");
        var overtime = row.Entry("overtime", "Overtime").From("payslips");
        var bonus = row.Entry("bonus", "Bonus").From("payslips");
        var commission = row.Entry("commission", "Commission").From("payslips");
        var other = row.Entry("other-allowances", "Other allowances, taxable part").From("payslips");
        var subsistence = Subsistence(row, law, scope);
        var cash = row.Line("cash-pay", "Cash pay", basic + house + transport + leave + overtime + bonus + commission + other + subsistence)
            .Law("ITA s. 5(2)(a)").Subtotal();

        var otherBenefits = row.Entry("other-benefits", "Non-cash benefits except car and housing").From("P9A, benefits non-cash, total")
            .Hint("without what is computed from its cost below");
        var minor = row.Entry("minor-benefits", "Minor non-cash benefits, before exemption").From("employer's statement");
        var premises = Housing(row, scope, months);
        var (benefits, meals) = BenefitsByCost(row, law, scope, months, premises);
        row.Entry("quarters-on-certificate", "Value of quarters as certified").From("P9A, value of quarters, total");
        var total = row.Entry("total-on-certificate", "Total gross pay as certified").From("P9A, total gross pay, total").Required();

        var retirement = row.Entry("retirement-contributions", "Retirement contributions deducted").From("P9A, defined contribution scheme, actual, total")
            .Hint("own share, with social security; never the employer's");
        var pensionable = row.Entry("pensionable-pay", "Pensionable pay").From("P9A, basic salary, total").RequiredWhen(retirement > 0);
        var mortgage = row.Entry("mortgage-in-payroll", "Home loan interest used in payroll").From("P9A, owner-occupied interest, total");
        var medical = row.Entry("medical-in-payroll", "Medical fund contributions used in payroll").From("P9A, post-retirement medical fund, total");
        var (health, levy) = !law.HasSocialContributions ? (null, null) : law.ChangesInDecember ? SplitContributions(row) : WholeYearContributions(row);

        row.Entry("tax-charged", "Tax charged").From("P9A, tax charged, total");
        row.Entry("relief-given", "Relief given").From("P9A, personal relief and insurance relief, total");
        var tax = row.Entry("tax-deducted", "Tax deducted (PAYE)").From("P9A, PAYE tax, total").Required();

        row.Error("employer-twice", row.RepeatsEarlier(pin) & (!several | row.OverlapsEarlier(from, until, pin)),
            "This employer is entered twice for the same months; keep one block for each certificate. Where there are two, answer in Scope that there were several employers, and give the first and the last month of each.", pin);
        row.Error("months-outside", first > last | (first.IsFilled() & last.IsFilled() & months > last - first + 1),
            "The months worked do not lie between the first and the last month; correct one of the three.", months);
        row.Warn("benefit-counted-twice", otherBenefits > 0 & otherBenefits >= benefits & benefits > 0,
            $"Benefits computed from their cost come to {benefits}; check that the non-cash benefits of the certificate do not hold them too.", otherBenefits);
        row.Error("tax-above-pay", tax > cash + otherBenefits + benefits + minor + total,
            "The tax deducted is more than this employer's pay; check the certificate.", tax);
        row.Error("contributions-without-base", retirement > 0 & pensionable.IsFilled() & pensionable.Equals(0),
            $"Enter the pensionable pay, which the limit of {law.PensionShare} is measured on.", pensionable);
        var beforeMeals = row.Line("benefits-before-meals", "Non-cash benefits before meals", otherBenefits + benefits);
        return new Employer(
            pin, months, from, cash, beforeMeals, meals, minor, pensionable, retirement, mortgage, medical, health, levy, total, tax, premises);
    }

    private static Amount Subsistence(RowScope row, EmploymentIncomeLaw law, ScopeForm scope)
    {
        var paid = row.Entry("subsistence", "Travel on duty: allowances paid").From("payslips").When(scope.Benefits);
        var days = row.Count("subsistence-days", law.SubsistenceChangesInJuly ? "Travel on duty: days to June" : "Travel on duty: days").Unit("days").Between(0, 366).When(scope.Benefits);
        Amount repaid = law.SubsistenceDay * days;
        if (law.SubsistenceDayFromJuly is { } raised)
        {
            repaid += raised * row.Count("subsistence-days-from-july", "Travel on duty: days from July").Unit("days").Between(0, 184).When(scope.Benefits);
        }

        return row.Line("subsistence-taxable", "Travel on duty: allowances above what is repaid for the days", AtLeastZero(paid - repaid)).When(scope.Benefits).Law("ITA s. 5(2)(a)");
    }

    private static (AmountLine Benefits, AmountLine Meals) BenefitsByCost(RowScope row, EmploymentIncomeLaw law, ScopeForm scope, AmountLine worked, Premises premises)
    {
        var given = scope.Benefits;
        var onTheLand = premises.Class.Is("agricultural");
        var furnitureCost = row.Entry("furniture-cost", "Furniture: cost to the employer").From("employer's asset record").When(given);
        var furnitureMonths = row.Count("furniture-months", "Furniture: months").Unit("months").Between(0, 12).When(given).Hint("blank means all months worked");
        var furniture = row.Line("furniture-benefit", "Furniture", law.FurnitureRate * furnitureCost * furnitureMonths.Or(worked), ToCents).When(given).Law("ITA s. 5(2); prescribed rates");
        var bill = row.Entry("telephone-bill", "Telephone: bills paid by the employer").From("employer's statement").When(given);
        var telephone = row.Line("telephone-benefit", "Telephone", law.TelephoneShare * bill, ToCents).When(given).Law("ITA s. 5(2); prescribed rates");
        var electricity = Supply(row, given, ("electricity", "Electricity"), If(onTheLand, law.ElectricityMonthAgricultural, law.ElectricityMonth));
        var water = Supply(row, given, ("water", "Water"), If(onTheLand, law.WaterMonthAgricultural, law.WaterMonth));
        var staff = row.Entry("domestic-staff", "Domestic staff: wages paid by the employer").From("employer's statement").When(given).Law("ITA s. 5(2)");
        var meals = row.Entry("meals", "Meals: cost to the employer").From("employer's statement").When(given).Law("ITA s. 5(4)(f)");
        return (row.Line("benefits-by-cost", "Benefits computed from their cost", furniture + telephone + electricity + water + staff).When(given).Law("ITA s. 5(2)"), meals);
    }

    /// <summary>Electricity or water from the employer: the prescribed rate of the months, or the cost where that is higher.</summary>
    private static AmountLine Supply(RowScope row, Condition given, (string Name, string Label) of, Amount rate)
    {
        var months = row.Count($"{of.Name}-months", $"{of.Label}: months").Unit("months").Between(0, 12).When(given);
        var cost = row.Entry($"{of.Name}-cost", $"{of.Label}: cost to the employer").From("employer's statement").When(given);
        return row.Line($"{of.Name}-benefit", of.Label, Max(rate * months, cost)).When(given).Law("ITA s. 5(2); prescribed rates");
    }

    private static (Contributions Health, Contributions Levy) WholeYearContributions(RowScope row)
    {
        var health = row.Entry("health-insurance", "Social health insurance deducted").From("P9A, social health insurance, total").Required();
        var levy = row.Entry("housing-levy", "Affordable housing levy deducted").From("P9A, affordable housing levy, total").Required();
        return (new Contributions(health, null), new Contributions(levy, null));
    }

    private static (Contributions Health, Contributions Levy) SplitContributions(RowScope row)
    {
        var healthBefore = row.Entry("health-insurance-before-december", "Social health insurance, October and November").From("payslips").Required();
        var health = row.Entry("health-insurance-december", "Social health insurance, December").From("December payslip").Required();
        var levyBefore = row.Entry("housing-levy-before-december", "Affordable housing levy, 19 March to November").From("payslips").Required();
        var levy = row.Entry("housing-levy-december", "Affordable housing levy, December").From("December payslip").Required();
        return (new Contributions(health, healthBefore), new Contributions(levy, levyBefore));
    }

    private static Premises Housing(RowScope row, ScopeForm scope, AmountLine months)
    {
        var housingClass = row.Choice("housing-class", "Housing: the employee is",
        [
            new("ordinary", "Employee"),
            new("service-director", "Whole-time service director"),
            new("other-director", "Other director"),
            new("agricultural", "Agricultural employee required to live there"),
        ]).From("contract of employment").When(scope.Housing).Law("ITA s. 5(3)");
        var housed = scope.Housing & housingClass.IsFilled();
        var arrangement = row.Choice("housing-arrangement", "Housing: arrangement",
        [
            new("lease", "Leased at arm's length"),
            new("related-lease", "Leased, not at arm's length"),
            new("owned", "Owned by the employer"),
        ]).From("lease").When(housed & !housingClass.Is("agricultural")).RequiredWhen(housed);
        var leased = arrangement.Is("lease") | arrangement.Is("related-lease");
        var director = housingClass.Is("service-director") | housingClass.Is("other-director");
        var needsMarketRent = arrangement.Is("owned") | arrangement.Is("related-lease") | director;

        var monthsHoused = row.Count("months-housed", "Housing: months").From("lease").Unit("months").Between(0, 12).When(housed)
            .Hint("blank means all months worked");
        var paid = row.Entry("rent-by-employer", "Housing: rent paid by the employer").From("lease").When(housed & leased).RequiredWhen(leased);
        var market = row.Entry("market-rent", "Housing: fair market rent").From("valuation")
            .When(housed & needsMarketRent).RequiredWhen(needsMarketRent);
        var own = row.Entry("rent-by-employee", "Housing: rent paid by the employee").From("payslip").When(housed);
        var otherIncome = row.Entry("director-other-income", "Housing: the director's other income").When(housed & housingClass.Is("other-director"));
        row.Error("housed-longer-than-employed", monthsHoused > months, "More months housed than worked for this employer.", monthsHoused);
        return new Premises(housingClass, arrangement, monthsHoused, paid, market, own, otherIncome);
    }

    private static Car CarBlock(RowScope row, EmploymentIncomeLaw law, RepeatingSection<Employer> employers)
    {
        var provider = row.RowOf("provided-by", "Provided by", employers).RequiredWhen(employers.RowCount > 1);
        row.NamedBy(row.Text("registration-mark", "Registration mark").From("logbook").Required());
        var arrangement = row.Choice("arrangement", "Arrangement",
            [new("owned", "Owned by the employer"), new("leased", "Hired or leased by the employer")]).From("employer's statement").Required();
        var owned = arrangement.Is("owned");
        var body = row.Choice("body", "Body",
        [
            new("saloon", "Saloon, hatchback or estate"),
            new("pick-up", "Pick-up or panel van"),
            new("utility", "Four-wheel utility"),
        ]).From("logbook").When(owned).RequiredWhen(owned);
        var engine = row.Count("engine-cc", "Engine").Unit("cc").From("logbook").Between(0, 20_000).When(owned).RequiredWhen(owned);
        var cost = row.Entry("cost", "Cost to the employer").From("employer's asset record").When(owned).RequiredWhen(owned);
        var lease = row.Entry("lease-cost", "Cost of hire or lease for the months").From("lease invoices")
            .When(arrangement.Is("leased")).RequiredWhen(arrangement.Is("leased"));
        var months = row.Count("months", "Months provided").Unit("months").From("employer's statement").Between(1, 12).Required();
        var determined = row.Entry("determined-value", "Lower value determined by the commissioner").From("commissioner's letter")
            .Hint("restricted use, on proof only; for the months provided");

        var fixedRate = row.Line("fixed-rate", "Fixed rate for a month",
            If(body.Is("saloon"), Step(law.SaloonRates, engine),
                If(body.Is("pick-up"), Step(law.PickUpRates, engine),
                    If(body.Is("utility"), law.UtilityRate, 0)))).When(owned).Law("Prescribed rates under ITA s. 5(2B)");
        var byCost = row.Line("rate-by-cost", "Part of the cost for a month", law.CarCostRate * cost, ToCents).When(owned).Law("ITA s. 5(2B)");
        var value = row.Line("value", "Car benefit by the rules", If(owned, Max(fixedRate, byCost) * months, lease), ToCents).Law("ITA s. 5(2B)");
        var benefit = row.Line("benefit", "Car benefit", If(determined.IsFilled(), Min(determined, value), value)).Law("ITA s. 5(2B)").Subtotal();

        row.Error("car-longer-than-employed", employers.Any(e => provider.IsThisRow() & months > e.Months),
            "The car was provided for more months than were worked for its employer.", months);
        row.Warn("determined-not-lower", determined > value & value > 0,
            $"The value determined by the commissioner is not below {value}, so that it changes nothing; copy it from the letter, for the months provided.", determined);
        row.Warn("car-figures-unusual", owned & ((cost.IsFilled() & cost < QuestioningThresholds.CarCostLeast) | engine > QuestioningThresholds.CarEngineMost),
            $"The cost is below {QuestioningThresholds.CarCostLeast} or the engine above {QuestioningThresholds.CarEngineMost} cc; check the figures.", cost, engine);
        return new Car(provider, benefit);
    }

    private static AmountLine BlockTotals(
        RowScope row, EmploymentIncomeLaw law, ReadingsForm readings, Employer e, RepeatingSection<Car> cars, (AmountLine Total, Amount Limit) minorOfAll, AmountLine mealsExempt)
    {
        var minor = row.Line("minor-benefits-taxable", "Minor benefits taxable", If(minorOfAll.Total < minorOfAll.Limit, 0, e.MinorBenefits))
            .Law("ITA s. 5(2)(b)");
        var meals = row.Line("meals-taxable", "Meals above what is exempt, the first employer's exempt first", e.Meals - row.UsedInOrder(e.Meals, e.FirstMonth, mealsExempt))
            .Law("ITA s. 5(4)(f)");
        var benefits = row.Line("benefits", "Non-cash benefits", e.Benefits + meals).Law("ITA s. 5(2)").Subtotal();
        var car = row.Line("car-benefit", "Car benefit", cars.Sum(c => c.Benefit, where: c => c.Provider.IsThisRow())).Law("ITA s. 5(2B)");
        var before = row.Line("pay-before-housing", "Pay and benefits before housing", e.Cash + benefits + minor + car).Subtotal();

        var premises = e.Premises;
        var monthsWorked = Max(e.Months, 1);
        var ofHousedMonths = If(
            premises.Months.IsFilled() & premises.Months < monthsWorked,
            before * premises.Months / monthsWorked,
            before);
        var share = row.Line("housing-share", "Share of pay",
            If(premises.Class.Is("agricultural"),
                law.HousingShareAgricultural * ofHousedMonths,
                law.HousingShare * (ofHousedMonths + premises.OtherIncome)), ToCents)
            .When(premises.Class.IsFilled()).Law("ITA s. 5(3)");
        var rents = Max(premises.RentByEmployer, premises.MarketRent);
        var rentsAlone = readings.RentsAlone & premises.Class.Is("ordinary") & !premises.Arrangement.Is("lease");
        var housing = row.Line("housing-benefit", "Housing benefit", AtLeastZero(If(rentsAlone, rents, Max(share, rents)) - premises.RentByEmployee))
            .When(premises.Class.IsFilled()).Law("ITA s. 5(3)");
        var gross = row.Line("gross", "Pay and benefits of this employer", before + housing).Law("ITA s. 5").Final();

        row.Note("housing-share-unsure", premises.Class.Is("ordinary") & !premises.Arrangement.Is("lease") & !rentsAlone & share > premises.MarketRent & premises.MarketRent > 0,
            "The share of pay is above the market rent; whether it applies to housing not leased at arm's length is unsure. Check it against the section, or take the other reading in Readings of the law.", share);
        row.Warn("differs-from-certificate", e.TotalOnCertificate.IsFilled() & Size(gross - e.TotalOnCertificate) > QuestioningThresholds.CertificateTolerance,
            $"The components come to {gross}, the certificate's total is {e.TotalOnCertificate}; find the difference.", e.TotalOnCertificate);
        if (e is { Levy.EarnRelief: null, Health.EarnRelief: null } && law is { LevyRate: { } levyRate, HealthInsuranceRate: { } healthRate, HealthInsuranceLeastMonth: { } leastMonth })
        {
            var levy = levyRate * e.Cash;
            var health = healthRate * e.Cash;
            row.Warn("levy-unusual", e.Levy.Deductible.IsFilled() & Size(e.Levy.Deductible - levy) > QuestioningThresholds.ContributionTolerance * levy,
                $"The levy differs from {levyRate} of cash pay, {Round(levy, ToCents)}; check the certificate.", e.Levy.Deductible);
            row.Warn("health-insurance-low", e.Health.Deductible.IsFilled()
                & (e.Health.Deductible < health - (QuestioningThresholds.ContributionTolerance * health) | e.Health.Deductible < leastMonth * e.Months),
                $"The social health insurance looks low beside {healthRate} of cash pay; check the certificate.", e.Health.Deductible);
        }

        return gross;
    }
}
