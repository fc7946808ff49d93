using Aerarium.Filing;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Employers' certificates of compensation, from the authority or on paper: one block of the Compensation form each.</summary>
public static class CompensationCertificates
{
    /// <summary>The record.</summary>
    public static readonly PublishedRecord Record = new(
        "An overpayment goes into this return as prior-year excess credit if last year's choice was to carry it over; "
        + "losses of the business are used from their own list (NIRC s. 34(D)(3)).",
        new StatementKind(
            "compensation-certificate",
            "Certificate of compensation",
            "compensation.employers",
            "tin",
            "name",
            "tin",
            "employeePin",
            [
                new("employerPin", "tin"),
                new("employerName", "name"),
                new("grossCompensation", "gross"),
                new("benefits", "benefits"),
                new("deMinimis", "de-minimis"),
                new("contributions", "contributions"),
                new("minimumWagePay", "minimum-wage"),
                new("taxableCompensation", "taxable"),
                new("taxWithheld", "withheld"),
            ]));
}
