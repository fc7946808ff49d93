using Aerarium.Filing;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Employers' annual certificates, from the authority or on paper: one block of the Employment form each.</summary>
public static class EmployerCertificates
{
    /// <summary>The record.</summary>
    public static readonly PublishedRecord Record = new(
        "Nothing is carried into this return: reliefs and deductions above their limits are lost, a refund is set off against other tax debts first (TPA s. 47), "
        + "and what is unpaid bears interest on its own year (TPA s. 38).",
        new StatementKind(
            "employer-certificate",
            "Employer's certificate",
            "employment.employers",
            "pin",
            "name",
            "pin",
            "employeePin",
            [
                new("employerPin", "pin"),
                new("employerName", "name"),
                new("months", "months"),
                new("basicSalary", "basic-pay"),
                new("houseAllowance", "house-allowance"),
                new("bonus", "bonus"),
                new("benefitsNonCash", "other-benefits"),
                new("totalGrossPay", "total-on-certificate"),
                new("schemeContributions", "retirement-contributions"),
                new("pensionablePay", "pensionable-pay"),
                new("ownerOccupiedInterest", "mortgage-in-payroll"),
                new("socialHealthInsurance", "health-insurance"),
                new("socialHealthInsuranceOctNov", "health-insurance-before-december"),
                new("socialHealthInsuranceDec", "health-insurance-december"),
                new("housingLevy", "housing-levy"),
                new("housingLevyMarNov", "housing-levy-before-december"),
                new("housingLevyDec", "housing-levy-december"),
                new("taxCharged", "tax-charged"),
                new("relief", "relief-given"),
                new("payeTax", "tax-deducted"),
            ]));
}
