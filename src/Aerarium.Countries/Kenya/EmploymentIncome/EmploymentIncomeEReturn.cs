using Aerarium.Core.Engine;
using Aerarium.Countries.Common;
using Aerarium.Filing;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Writes the employee's return in the form the authority's schema of the year asks for.</summary>
public sealed class EmploymentIncomeEReturn : IEReturnMapping
{
    /// <inheritdoc />
    public string SchemaPath(int year) => $"ke/employment-income/{year}.xsd";

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        var year = evaluation.Definition.Year;
        var contributions = new Contributions(
            evaluation.Definition.FindLine("employment.employers.health-insurance") is not null,
            evaluation.Definition.FindLine("employment.employers.housing-levy-december") is not null);
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:ke:employment-income:{year}", "EmployeeReturn");
        x.Group("Header", () =>
        {
            x.Fixed("YearOfIncome", $"{year}");
            x.Line("PeriodFrom", "taxpayer.from");
            x.Line("PeriodTo", "taxpayer.to");
            x.Line("ShortPeriodReason", "taxpayer.short-period-reason");
            x.Line("Kind", "taxpayer.kind");
            x.Line("PriorAcknowledgement", "taxpayer.prior-acknowledgement");
        });
        x.Group("Taxpayer", () =>
        {
            x.Line("Pin", "taxpayer.pin");
            x.Line("Name", "taxpayer.name");
            x.Line("BirthDate", "taxpayer.birth-date");
            x.Line("Email", "taxpayer.email");
            x.Line("Telephone", "taxpayer.phone");
            x.Line("PostalAddress", "taxpayer.postal-address");
            x.Line("RepresentativePin", "taxpayer.representative-pin");
            x.Line("RepresentativeName", "taxpayer.representative-name");
        });
        x.Group("Agent", () =>
        {
            x.Line("Pin", "declaration.agent-pin");
            x.Line("Name", "declaration.agent-name");
            x.Line("Contact", "declaration.contact-name");
            x.Line("Telephone", "declaration.contact-phone");
        });
        x.Group("Employers", () => x.Rows("Employer", "employment.employers", () => Employer(x, contributions)));
        x.Group("Cars", () => x.Rows("Car", "employment.cars", () =>
        {
            x.RowNumber("EmployerNumber", "provided-by");
            x.Line("RegistrationMark", "registration-mark");
            x.Line("Arrangement", "arrangement");
            x.Line("Body", "body");
            x.Line("EngineCc", "engine-cc");
            x.Line("Cost", "cost");
            x.Line("LeaseCost", "lease-cost");
            x.Line("Months", "months");
            x.Amount("Benefit", "benefit");
        }));
        x.GroupWhen(evaluation.Value(evaluation.Definition.LineOf("employment.disability-certificate")) is not null, "Disability", () =>
        {
            x.Line("CertificateNumber", "employment.disability-certificate");
            x.Line("From", "employment.disability-from");
            x.Line("To", "employment.disability-to");
            x.Amount("Exempt", "employment.disability-exempt");
            x.Amount("CareAllowed", "employment.care-allowed");
        });
        x.Group("Deductions", () => Deductions(x, contributions));
        x.Group("Reliefs", () => Reliefs(x, contributions));
        x.Group("Payments", () => x.Rows("Payment", "balance.payments", () =>
        {
            x.Line("Kind", "kind");
            x.Line("Date", "date");
            x.Line("Reference", "reference");
            x.Amount("Amount", "amount");
        }));
        x.Group("Computation", () =>
        {
            x.Amount("Gross", "employment.gross");
            x.Amount("Income", "employment.income");
            x.Amount("Deductions", "deductions.total");
            x.Amount("TaxableIncome", "deductions.taxable-income");
            x.Amount("Tax", "tax.tax");
            x.Amount("Reliefs", "tax.reliefs");
            x.Amount("NetTax", "tax.net-tax");
            x.Amount("TaxDeducted", "balance.tax-deducted");
            x.Amount("AlreadyPaid", "balance.already-paid");
            x.Amount("Balance", "balance.balance");
        });
        x.GroupWhen(evaluation.Balance < 0, "Payout", () =>
        {
            x.Line("Route", "payout.route");
            x.Line("Bank", "payout.bank");
            x.Line("Branch", "payout.branch");
            x.Line("AccountName", "payout.account-name");
            x.Line("AccountNumber", "payout.account-number");
            x.Line("MobileNumber", "payout.mobile-number");
        });
        x.Declaration();
        return x.Finish();
    }

    /// <summary>How the year takes social contributions: for the whole year, split with the change in December, or not at all.</summary>
    private sealed record Contributions(bool WholeYear, bool SplitInDecember);

    private static void Employer(EReturnWriter x, Contributions contributions)
    {
        x.Line("Pin", "pin");
        x.Line("Name", "name");
        x.Line("Months", "months");
        x.Amount("BasicPay", "basic-pay");
        x.Amount("CashPay", "cash-pay");
        x.Amount("OtherBenefits", "benefits");
        x.Amount("MinorBenefitsTaxable", "minor-benefits-taxable");
        x.Amount("CarBenefit", "car-benefit");
        x.Line("HousingClass", "housing-class");
        x.Amount("HousingBenefit", "housing-benefit");
        x.Amount("Gross", "gross");
        x.Amount("RetirementContributions", "retirement-contributions");
        x.Amount("PensionablePay", "pensionable-pay");
        if (contributions.SplitInDecember)
        {
            x.Amount("HealthInsuranceBeforeDecember", "health-insurance-before-december");
            x.Amount("HealthInsuranceDecember", "health-insurance-december");
            x.Amount("HousingLevyBeforeDecember", "housing-levy-before-december");
            x.Amount("HousingLevyDecember", "housing-levy-december");
        }
        else if (contributions.WholeYear)
        {
            x.Amount("HealthInsurance", "health-insurance");
            x.Amount("HousingLevy", "housing-levy");
        }

        x.Amount("TaxDeducted", "tax-deducted");
    }

    private static void Deductions(EReturnWriter x, Contributions contributions)
    {
        x.Rows("Fund", "deductions.funds", () =>
        {
            x.Line("Name", "name");
            x.Line("RegistrationNumber", "registration-number");
            x.Line("Kind", "kind");
            x.Amount("Contributions", "contributions");
        });
        x.Rows("Loan", "deductions.loans", () =>
        {
            x.Line("LenderPin", "lender-pin");
            x.Line("LenderName", "lender-name");
            x.Line("Account", "account");
            x.Line("Purpose", "purpose");
            x.Amount("Interest", "interest");
        });
        var taken = contributions is { WholeYear: true } or { SplitInDecember: true };
        if (taken)
        {
            MedicalFunds(x, contributions);
        }

        x.Amount("RetirementAllowed", "deductions.retirement-allowed");
        x.Amount("InterestAllowed", "deductions.mortgage-allowed");
        if (taken)
        {
            x.Amount("MedicalAllowed", "deductions.medical-allowed");
            x.Amount("HealthInsurance", "deductions.health-insurance");
            x.Amount("HousingLevy", "deductions.housing-levy");
        }
    }

    private static void MedicalFunds(EReturnWriter x, Contributions contributions) => x.Rows("MedicalFund", "deductions.medical-funds", () =>
    {
        x.Line("Name", "name");
        if (contributions.SplitInDecember)
        {
            x.Amount("ContributionsBeforeDecember", "contributions-before-december");
            x.Amount("ContributionsDecember", "contributions-december");
        }
        else
        {
            x.Amount("Contributions", "contributions");
        }
    });

    private static void Reliefs(EReturnWriter x, Contributions contributions)
    {
        x.Rows("Policy", "tax.policies", () =>
        {
            x.Line("InsurerPin", "insurer-pin");
            x.Line("InsurerName", "insurer-name");
            x.Line("PolicyNumber", "policy-number");
            x.Line("Kind", "kind");
            x.Line("Insured", "insured");
            x.Line("Commencement", "commencement");
            x.Line("Maturity", "maturity");
            x.Amount("Premium", "premium");
        });
        x.Amount("Personal", "tax.personal-relief");
        x.Amount("Insurance", "tax.insurance-relief");
        if (contributions.SplitInDecember)
        {
            x.Amount("Housing", "tax.housing-relief");
            x.Amount("Medical", "tax.medical-relief");
        }
    }
}
