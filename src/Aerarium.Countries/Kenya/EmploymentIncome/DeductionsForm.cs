using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Kenya.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>What is set against employment income.</summary>
public sealed class DeductionsForm : Form
{
    private sealed record Fund(ChoiceLine Kind, AmountLine Contributions);

    private sealed record Loan(ChoiceLine Purpose, AmountLine Interest);

    private sealed record MedicalFund(AmountLine Deductible, AmountLine? EarnRelief);

    private readonly EmploymentIncomeLaw _law;
    private readonly ReadingsForm _readings;
    private readonly TaxpayerForm _taxpayer;

    /// <summary>Deductions together, taxable income, and medical fund contributions that earn relief instead.</summary>
    public readonly AmountLine Total, Taxable;

    /// <summary>Medical fund contributions before the change in December, which earn relief; null in other years.</summary>
    public readonly Amount? MedicalEarningRelief;

    /// <summary>Declares the form.</summary>
    public DeductionsForm(
        Definition definition, EmploymentIncomeLaw law, ScopeForm scope, ReadingsForm readings, TaxpayerForm taxpayer, EmploymentForm employment)
        : base(definition, "deductions", "Deductions", "Set against income. Amounts from the employers' certificates are taken over; the rest comes from receipts.")
    {
        _law = law;
        _readings = readings;
        _taxpayer = taxpayer;
        var retirement = RetirementSaving(scope, employment);
        var mortgage = HomeLoanInterest(scope, employment);
        Amount deductions = retirement + mortgage;
        if (scope.MedicalFund is { } contributed && law.MedicalLimit is { } medicalLimit)
        {
            var (medical, medicalBefore) = PostRetirementMedicalFund(contributed, medicalLimit, employment);
            deductions += medical;
            MedicalEarningRelief = medicalBefore;
        }

        if (law.HasSocialContributions)
        {
            Section("Social contributions", law.ChangesInDecember ? "ITA s. 15, from the December payroll" : "ITA s. 15, as amended 27 December 2024");
            deductions += Line("health-insurance", law.ChangesInDecember ? "Social health insurance, December" : "Social health insurance",
                UnderTheNewRules(employment.Employers.Sum(e => e.Health!.Deductible))).Law("ITA s. 15; Social Health Insurance Act 2023");
            deductions += Line("housing-levy", law.ChangesInDecember ? "Affordable housing levy, December" : "Affordable housing levy",
                UnderTheNewRules(employment.Employers.Sum(e => e.Levy!.Deductible))).Law("ITA s. 15; AHA 2024 s. 4");
        }

        Section("Taxable income");
        Total = Line("total", "Deductions", deductions).Subtotal();
        Taxable = Line("taxable-income", "Taxable income", AtLeastZero(employment.Income - Total)).Law("ITA s. 3, 15").Final();
    }

    private AmountLine RetirementSaving(ScopeForm scope, EmploymentForm employment)
    {
        var funds = Repeating("funds", "Retirement contributions outside payroll", "fund", row =>
        {
            row.NamedBy(row.Text("name", "Fund's name").From("fund's statement").Required());
            row.Text("registration-number", "Fund's registration number").From("fund's statement").Required();
            var kind = row.Choice("kind", "Kind of fund",
            [
                new("social-security", "National social security"),
                new("occupational", "Occupational scheme"),
                new("individual", "Individual retirement fund"),
            ]).Required();
            var contributions = row.Entry("contributions", "Own contributions in the year").From("fund's statement").Required();
            row.Warn("counted-twice", contributions > 0 & !kind.Is("individual"),
                "Contributions to this kind of fund exceed those on the certificate; they are normally there already. Check that they are not counted twice.", contributions);
            return new Fund(kind, contributions);
        }, "ITA s. 22A, 22B", scope.RetirementOutsidePayroll);

        Section("Retirement saving", "ITA s. 22A, 22B");
        var onCertificates = Line("retirement-on-certificates", "Own contributions on the certificates", employment.Employers.Sum(e => e.Retirement));
        var own = Line("retirement-contributions", "Own contributions to registered funds", onCertificates + funds.Sum(f => f.Contributions)).Subtotal();
        var share = Line("retirement-share-of-pay", $"{_law.PensionShare.ValueInWords} of pensionable pay",
            _law.PensionShare * employment.Employers.Sum(e => e.PensionablePay), ToCents);
        var limit = Line("retirement-limit", "Limit of retirement saving",
            Limit("retirement", "contributed", _law.PensionLimit, _law.PensionLimitMonth, _law.PensionLimitMonthBefore, _readings.PensionLimit));
        var allowed = Line("retirement-allowed", "Retirement saving allowed", Min(own, share, limit)).Law("ITA s. 22A, 22B").Subtotal();

        // Where a certificate shows contributions its own block asks for the pensionable pay; here it is missed only for contributions outside payroll.
        var hasBase = employment.Employers.Sum(e => e.PensionablePay) > 0;
        Error("retirement-without-base", own > 0 & onCertificates.Equals(0) & !hasBase,
            $"Enter the pensionable pay in Employment, which the limit of {_law.PensionShare} is measured on.", share);
        Warn("retirement-over-limit", own > allowed & hasBase,
            $"{own - allowed} of retirement contributions is above the limit and is lost; it does not carry forward.", own, allowed);
        Note("retirement-room", allowed < Min(share, limit) - QuestioningThresholds.RetirementRoom,
            $"Retirement contributions could have been {Min(share, limit) - allowed} higher this year.", allowed);
        if (_law.ChangesInDecember)
        {
            Warn("retirement-change-in-december", own > _law.PensionLimitMonthBefore! * 12,
                "The change of 27 December 2024 splits the year, and the limit for 2024 is read in several ways; confirm the limit used, or choose another in Readings of the law.", limit);
        }

        return allowed;
    }

    private AmountLine HomeLoanInterest(ScopeForm scope, EmploymentForm employment)
    {
        Choice[] purposes = _law.ConstructionQualifies
            ? [new("purchase", "Purchase"), new("improvement", "Improvement"), new("construction", "Construction, from 1 July 2025")]
            : [new("purchase", "Purchase"), new("improvement", "Improvement")];
        var loans = Repeating("loans", "Loans for the home", "loan", row =>
        {
            row.Identifier("lender-pin", "Lender's identification number", KenyaIdentifiers.PayerPin).From("lender's interest certificate").Required();
            row.NamedBy(row.Text("lender-name", "Lender's name").From("lender's interest certificate").Required());
            row.Text("account", "Loan account").From("lender's interest certificate").Required();
            row.Date("loan-date", "Date of the loan").From("lender's interest certificate");
            var purpose = row.Choice("purpose", "Purpose", purposes).Required();
            row.Entry("outstanding", "Outstanding at year end").From("lender's interest certificate");
            var interest = row.Entry("interest", "Interest paid in the year").From("lender's interest certificate").Required();
            if (_law.ConstructionQualifies)
            {
                row.Warn("construction-from-july", purpose.Is("construction") & interest > 0,
                    "For construction only interest from 1 July 2025 counts; confirm that nothing earlier is included.", interest);
            }

            return new Loan(purpose, interest);
        }, "ITA s. 15(3)(b)", scope.Mortgage);

        Section("Home loan interest", "ITA s. 15(3)(b)", scope.Mortgage);
        var oneHome = Answer("one-home", "All loans are for the one home lived in").RequiredWhen(loans.RowCount > 1);
        var paid = Line("mortgage-interest", "Interest paid", loans.Sum(l => l.Interest));
        var limit = Line("mortgage-limit", "Limit of interest",
            Limit("mortgage", "lived in the home", _law.MortgageLimit, _law.MortgageLimitMonth, _law.MortgageLimitMonthBefore, _readings.MortgageLimit));
        var allowed = Line("mortgage-allowed", "Interest allowed", Min(paid, limit)).Law("ITA s. 15(3)(b)").Subtotal();

        Error("several-homes", oneHome.IsFilled() & !oneHome, "Interest is allowed for one home only; remove the loans for other homes.", oneHome);
        Warn("mortgage-over-limit", paid > limit, $"{paid - limit} of interest paid is above the limit and is lost; it does not carry forward.", paid, allowed);
        Note("no-lender-certificate", scope.Mortgage & loans.RowCount.Equals(0), "Ask the lender for the interest certificate.", scope.Mortgage);
        Note("mortgage-in-payroll", employment.Employers.Sum(e => e.MortgageInPayroll) > 0 & !scope.Mortgage,
            "A certificate shows home loan interest used in payroll; answer Scope and enter the loan, otherwise the deduction is lost.", scope.Mortgage);
        if (_law.ChangesInDecember)
        {
            Warn("mortgage-change-in-december", paid > _law.MortgageLimitMonthBefore! * 12,
                "The change of 27 December 2024 splits the year, and the limit for 2024 is read in several ways; confirm the limit used, or choose another in Readings of the law.", limit);
        }

        return allowed;
    }

    private (AmountLine Allowed, Amount? EarnRelief) PostRetirementMedicalFund(AnswerLine contributed, Parameter yearLimit, EmploymentForm employment)
    {
        var funds = Repeating("medical-funds", "Post-retirement medical funds", "medical fund", row =>
        {
            row.NamedBy(row.Text("name", "Fund's name").From("fund's certificate").Required());
            if (!_law.ChangesInDecember)
            {
                return new MedicalFund(row.Entry("contributions", "Own contributions in the year").From("fund's certificate").Required(), null);
            }

            var before = row.Entry("contributions-before-december", "Own contributions to November").From("fund's certificate").Required();
            return new MedicalFund(row.Entry("contributions-december", "Own contributions, December").From("fund's certificate").Required(), before);
        }, "ITA s. 15; TLAA 2024", contributed);

        Section("Post-retirement medical fund", "ITA s. 15; TLAA 2024", contributed);
        var paid = Line("medical-contributions", _law.ChangesInDecember ? "Contributions, December" : "Contributions", UnderTheNewRules(funds.Sum(f => f.Deductible)));
        Amount limit = yearLimit;
        if (!_law.ChangesInDecember)
        {
            var months = Count("medical-months", "Months contributed").Unit("months").Between(0, 12).Hint("blank means all months of the period");
            limit = Min(limit, _law.MedicalLimitMonth! * months.Or(_taxpayer.PeriodMonths));
        }

        var allowed = Line("medical-allowed", "Medical fund contributions allowed", Min(paid, limit)).Law("ITA s. 15; TLAA 2024").Subtotal();
        Warn("medical-over-limit", paid > allowed, $"{paid - allowed} of medical fund contributions is above the limit and is lost.", paid, allowed);
        Note("medical-in-payroll", employment.Employers.Sum(e => e.MedicalInPayroll) > 0 & !contributed,
            "A certificate shows medical fund contributions used in payroll; answer Scope and enter the fund, otherwise the deduction is lost.", contributed);
        return (allowed, _readings.OldRulesInDecember is { } oldRules ? funds.Sum(f => f.EarnRelief!) + If(oldRules, funds.Sum(f => f.Deductible), 0) : null);
    }

    /// <summary>What is deducted of an amount of December: nothing where the rules before are read to hold for it, all in other years.</summary>
    private Amount UnderTheNewRules(Amount ofDecember) => _readings.OldRulesInDecember is { } oldRules ? If(oldRules, 0, ofDecember) : ofDecember;

    /// <summary>
    /// A limit of the year that counts months: all at one monthly figure or, in the year it changed, those to November and December apart, unless one of the
    /// two figures is read to hold for the whole year. Blank months mean all months of the period.
    /// </summary>
    private Amount Limit(string name, string did, Parameter year, Parameter month, Parameter? monthBefore, ChoiceLine? reading)
    {
        if (monthBefore is null || reading is null)
        {
            return Min(year, month * Count($"{name}-months", $"Months {did}").Unit("months").Between(0, 12)
                .Hint("blank means all months of the period").Or(_taxpayer.PeriodMonths));
        }

        var before = Count($"{name}-months-before-december", $"Months {did}, to November").Unit("months").Between(0, 11)
            .Hint("blank means all months of the period");
        var december = Count($"{name}-months-december", $"Months {did}, December").Unit("months").Between(0, 1)
            .Hint("1 or 0; blank means as the period");
        var (monthsBefore, monthsAfter) = (before.Or(_taxpayer.MonthsToNovember), december.Or(_taxpayer.MonthsInDecember));
        return If(reading.Is(ReadingsForm.Before), monthBefore * (monthsBefore + monthsAfter),
            If(reading.Is(ReadingsForm.After), month * (monthsBefore + monthsAfter),
                Min(year, (monthBefore * monthsBefore) + (month * monthsAfter))));
    }
}
