using System.Text.Json;
using Aerarium.Filing;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Employers' annual certificates as the authority holds them: one block of the Employment form each.</summary>
public sealed class EmployerCertificates : IAuthorityRecord
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    private static readonly StatementKind Certificate = new(
        "employer-certificate",
        "Employer's certificate",
        "employment.employers",
        "pin",
        "name",
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
        ]);

    /// <inheritdoc />
    public string Form => "employment";

    /// <inheritdoc />
    public string Path(string identifier, int year) => $"taxpayers/{Uri.EscapeDataString(identifier)}/certificates/{year}";

    /// <inheritdoc />
    public string RegistrationPath(string identifier) => $"taxpayers/{Uri.EscapeDataString(identifier)}";

    /// <inheritdoc />
    public IReadOnlyDictionary<string, string> ReadRegistration(string json)
    {
        var registered = JsonSerializer.Deserialize<Registration>(json, Json) ?? throw new JsonException("The registration is empty.");
        return new Dictionary<string, string?>
        {
            ["name"] = registered.Name,
            ["birth-date"] = registered.BirthDate,
            ["email"] = registered.Email,
            ["phone"] = registered.Phone,
            ["postal-address"] = registered.PostalAddress,
            ["payout-account-number"] = registered.AccountNumber,
        }.Where(p => p.Value is not null).ToDictionary(p => p.Key, p => p.Value!);
    }

    /// <inheritdoc />
    public string AssessmentPath(string identifier, int year) => $"taxpayers/{Uri.EscapeDataString(identifier)}/assessments/{year}";

    /// <inheritdoc />
    public LastAssessment ReadAssessment(string json)
    {
        var notice = JsonSerializer.Deserialize<Assessment>(json, Json) ?? throw new JsonException("The assessment is empty.");
        return new LastAssessment(
            $"Assessment {notice.Number} for {notice.Year}",
            [new("Tax assessed", notice.TaxAssessed), new("Paid", notice.Paid), new("Unpaid", notice.Unpaid), new("Refund not yet paid out", notice.RefundOpen)],
            "Nothing is carried into this return: reliefs and deductions above their limits are lost, a refund is set off against other tax debts first (TPA s. 47), "
            + "and what is unpaid bears interest on its own year (TPA s. 38).");
    }

    /// <inheritdoc />
    public StatementKind Statement => Certificate;

    /// <inheritdoc />
    public IReadOnlyList<RecordedItem> Read(string json)
    {
        var certificates = JsonSerializer.Deserialize<List<RecordedCertificate>>(json, Json) ?? [];
        return [.. certificates.Select(c => new RecordedItem(
            c.Number,
            $"{Certificate.Title}, {c.EmployerName}",
            c.EmployeePin,
            Certificate.Section,
            Certificate.MatchColumn,
            new Dictionary<string, string>(
                Certificate.Boxes.Where(b => c.Boxes.ContainsKey(b.Name)).Select(b => KeyValuePair.Create(b.Column, c.Boxes[b.Name])))
            {
                ["pin"] = c.EmployerPin,
                ["name"] = c.EmployerName,
            }))];
    }

    private sealed record RecordedCertificate(
        string Number, string EmployeePin, int Year, string EmployerPin, string EmployerName, Dictionary<string, string> Boxes);

    private sealed record Registration(
        string Name, string? BirthDate, string? Email, string? Phone, string? PostalAddress, string? AccountNumber);

    private sealed record Assessment(string Number, int Year, string TaxAssessed, string Paid, string Unpaid, string RefundOpen);
}
