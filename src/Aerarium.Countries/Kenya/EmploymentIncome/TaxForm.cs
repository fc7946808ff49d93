using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Kenya.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Tax by the bands, and the reliefs set against it.</summary>
public sealed class TaxForm : Form
{
    private sealed record Policy(AmountLine Qualifying);

    /// <summary>Tax on taxable income, reliefs together, and tax after them.</summary>
    public readonly AmountLine Tax, Reliefs, NetTax;

    /// <summary>Declares the form.</summary>
    public TaxForm(
        Definition definition,
        EmploymentIncomeLaw law,
        ScopeForm scope,
        ReadingsForm readings,
        TaxpayerForm taxpayer,
        EmploymentForm employment,
        DeductionsForm deductions)
        : base(definition, "tax", "Tax and reliefs", "Tax by the bands of the year, less reliefs. A relief that exceeds the tax is lost.")
    {
        Section("Tax", "ITA s. 34, Third Schedule");
        Tax = law.UpperBandsBeginInJuly
            ? OverridableLine("tax", "Tax on taxable income", Progressive(law.Bands, deductions.Taxable),
                "The upper bands began on 1 July; tax above their edge can be computed otherwise. Say how.", ToCents).Law("ITA s. 34, Third Schedule Head B").Subtotal()
            : Line("tax", "Tax on taxable income", Progressive(law.Bands, deductions.Taxable), ToCents).Law("ITA s. 34, Third Schedule Head B").Subtotal();
        if (law.UpperBandsEdge is { } edge)
        {
            Warn("upper-bands-unsettled", deductions.Taxable > edge,
                $"The bands above {edge} began on 1 July {law.Year}; how they apply to the year is not settled. Their rates are averaged here: confirm the tax, or give it otherwise.", Tax);
        }

        var policies = Repeating("policies", "Insurance policies", "policy", PolicyBlock, "ITA s. 31", scope.Insurance);

        Section("Insurance relief", "ITA s. 31");
        Amount qualifying = policies.Sum(p => p.Qualifying);
        if (law.HospitalFundCounts)
        {
            qualifying += Entry("hospital-fund", law.ChangesInDecember ? "National hospital fund, January to September" : "National hospital fund").From("payslips");
        }

        if (readings is { HealthIsNoPremium: { } noPremium, OldRulesInDecember: { } oldRules })
        {
            qualifying += If(noPremium, 0, employment.Employers.Sum(e => e.Health!.EarnRelief!) + If(oldRules, employment.Employers.Sum(e => e.Health!.Deductible), 0));
        }

        var premiums = Line("insurance-base", "Premiums and contributions that qualify", qualifying);
        var insuranceUncapped = Line("insurance-share", $"{law.InsuranceReliefRate.ValueInWords} of premiums and contributions", law.InsuranceReliefRate * premiums, ToCents);
        var insurance = Line("insurance-relief", "Insurance relief", Min(insuranceUncapped, law.InsuranceReliefLimit)).Law("ITA s. 31").Subtotal();
        Warn("insurance-over-limit", insuranceUncapped > insurance,
            $"{insuranceUncapped - insurance} of insurance relief is above the limit and is lost.", premiums);
        Note("no-insurance", policies.RowCount.Equals(0) & deductions.Taxable > QuestioningThresholds.InsuranceIncome,
            "Ask for life, education or health insurance premiums.", scope.Insurance);

        Amount otherReliefs = 0;
        if (law.HousingReliefRate is { } housingRate && law.HousingReliefLimit is { } housingLimit)
        {
            Section("Affordable housing relief", "ITA s. 30A, to the November payroll");
            var levy = Line("levy-before-december", "Levy that earns relief, 19 March to November",
                employment.Employers.Sum(e => e.Levy!.EarnRelief!) + If(readings.OldRulesInDecember!, employment.Employers.Sum(e => e.Levy!.Deductible), 0));
            otherReliefs += Line("housing-relief", "Affordable housing relief", Min(Round(housingRate * levy, ToCents), housingLimit))
                .Law("ITA s. 30A").Subtotal();
        }

        if (law.MedicalReliefRate is { } medicalRate && law.MedicalReliefLimit is { } medicalLimit)
        {
            Section("Medical fund relief", "ITA s. 30B, to November");
            var contributions = Line("medical-before-december", "Contributions that earn relief, to November", deductions.MedicalEarningRelief!);
            otherReliefs += Line("medical-relief", "Post-retirement medical fund relief", Min(Round(medicalRate * contributions, ToCents), medicalLimit))
                .Law("ITA s. 30B").Subtotal();
        }

        Section("Reliefs", "ITA s. 29 to 31");
        var personal = Line("personal-relief", "Personal relief",
            If(taxpayer.PeriodMonths < 12, law.PersonalReliefMonth * taxpayer.PeriodMonths, law.PersonalRelief)).Law("ITA s. 30, Third Schedule Head A");
        Reliefs = Line("reliefs", "Reliefs", personal + insurance + otherReliefs).Subtotal();
        NetTax = Line("net-tax", "Tax after reliefs", AtLeastZero(Tax - Reliefs)).Law("ITA s. 29 to 31").Final();

        Warn("relief-unused", Reliefs > Tax & employment.Gross > 0,
            $"{Reliefs - Tax} of the reliefs is unused and lost.", Reliefs);
        Note("no-tax", NetTax.Equals(0) & employment.Gross > 0, "No tax remains; the return is filed all the same.", NetTax);
    }

    private static Policy PolicyBlock(RowScope row)
    {
        row.Identifier("insurer-pin", "Insurer's identification number", KenyaIdentifiers.PayerPin).From("insurer's certificate").Required();
        row.NamedBy(row.Text("insurer-name", "Insurer's name").From("insurer's certificate").Required());
        row.Text("policy-number", "Policy number").From("insurer's certificate").Required();
        var kind = row.Choice("kind", "Kind of policy",
            [new("life", "Life"), new("education", "Education"), new("health", "Health")]).Required();
        row.Choice("insured", "Insured", [new("self", "Taxpayer"), new("spouse", "Spouse"), new("child", "Child")]).Required();
        var commencement = row.Date("commencement", "Commencement").From("policy").Required();
        var maturity = row.Date("maturity", "Maturity").From("policy").When(!kind.Is("health")).RequiredWhen(kind.Is("education"));
        var premium = row.Entry("premium", "Premium paid in the year").From("insurer's certificate").Required();
        var shortEducation = kind.Is("education") & maturity.IsFilled() & commencement.IsFilled() & maturity < commencement.AddYears(10);
        var earlyHealth = kind.Is("health") & commencement.IsFilled() & commencement < new DateOnly(2007, 1, 1);
        var qualifying = row.Line("qualifying-premium", "Premium that qualifies", If(shortEducation | earlyHealth, 0, premium)).Law("ITA s. 31");

        row.Error("education-too-short", shortEducation & premium > 0, "An education policy must run at least ten years to qualify; remove the premium.", maturity);
        row.Error("health-too-early", earlyHealth & premium > 0, "A health policy must have commenced on or after 1 January 2007 to qualify; remove the premium.", commencement);
        row.Warn("policy-before-2003", !kind.Is("health") & commencement.IsFilled() & commencement < new DateOnly(2003, 1, 1) & premium > 0,
            "Life and education policies count when they commenced on or after 1 January 2003; check the policy.", commencement);
        return new Policy(qualifying);
    }
}
