using System.Text.Json;
using Aerarium.Filing;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Employers' annual certificates as the authority holds them: one block of the Employment form each.</summary>
public sealed class EmployerCertificates : IAuthorityRecord
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    private static readonly Dictionary<string, string> ColumnByBox = new()
    {
        ["months"] = "months",
        ["basicSalary"] = "basic-pay",
        ["houseAllowance"] = "house-allowance",
        ["bonus"] = "bonus",
        ["benefitsNonCash"] = "other-benefits",
        ["totalGrossPay"] = "total-on-certificate",
        ["schemeContributions"] = "retirement-contributions",
        ["pensionablePay"] = "pensionable-pay",
        ["ownerOccupiedInterest"] = "mortgage-in-payroll",
        ["socialHealthInsurance"] = "health-insurance",
        ["socialHealthInsuranceOctNov"] = "health-insurance-before-december",
        ["socialHealthInsuranceDec"] = "health-insurance-december",
        ["housingLevy"] = "housing-levy",
        ["housingLevyMarNov"] = "housing-levy-before-december",
        ["housingLevyDec"] = "housing-levy-december",
        ["taxCharged"] = "tax-charged",
        ["relief"] = "relief-given",
        ["payeTax"] = "tax-deducted",
    };

    /// <inheritdoc />
    public string Form => "employment";

    /// <inheritdoc />
    public string Path(string identifier, int year) => $"taxpayers/{Uri.EscapeDataString(identifier)}/certificates/{year}";

    /// <inheritdoc />
    public IReadOnlyList<RecordedItem> Read(string json)
    {
        var certificates = JsonSerializer.Deserialize<List<Certificate>>(json, Json) ?? [];
        return [.. certificates.Select(c => new RecordedItem(
            c.Number,
            $"Employer's certificate, {c.EmployerName}",
            c.EmployeePin,
            "employment.employers",
            "pin",
            new Dictionary<string, string>(
                c.Boxes.Where(b => ColumnByBox.ContainsKey(b.Key)).Select(b => KeyValuePair.Create(ColumnByBox[b.Key], b.Value)))
            {
                ["pin"] = c.EmployerPin,
                ["name"] = c.EmployerName,
            }))];
    }

    private sealed record Certificate(
        string Number, string EmployeePin, int Year, string EmployerPin, string EmployerName, Dictionary<string, string> Boxes);
}
