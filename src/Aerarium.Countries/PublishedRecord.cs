using System.Text.Json;
using Aerarium.Filing;

namespace Aerarium.Countries;

/// <summary>
/// What an authority holds about a taxpayer, in the form in which the simulated authorities publish it: the registration, the
/// employers' certificates of a year, and the assessment of a year.
/// </summary>
/// <param name="form">Key of the form on which the record is offered.</param>
/// <param name="statement">The kind of statement the certificates are.</param>
/// <param name="payerNumber">The column that takes the payer's number.</param>
/// <param name="carriedForward">What an assessment carries into the next return, and by which law, in words.</param>
public sealed class PublishedRecord(string form, StatementKind statement, string payerNumber, string carriedForward) : IAuthorityRecord
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <inheritdoc />
    public string Form => form;

    /// <inheritdoc />
    public StatementKind Statement => statement;

    /// <inheritdoc />
    public string Path(string identifier, int year) => $"taxpayers/{Uri.EscapeDataString(identifier)}/certificates/{year}";

    /// <inheritdoc />
    public string RegistrationPath(string identifier) => $"taxpayers/{Uri.EscapeDataString(identifier)}";

    /// <inheritdoc />
    public string AssessmentPath(string identifier, int year) => $"taxpayers/{Uri.EscapeDataString(identifier)}/assessments/{year}";

    /// <inheritdoc />
    public IReadOnlyList<RecordedItem> Read(string json) =>
    [
        .. (JsonSerializer.Deserialize<List<RecordedCertificate>>(json, Json) ?? []).Select(c => new RecordedItem(
            c.Number,
            $"{statement.Title}, {c.EmployerName}",
            c.EmployeePin,
            statement.Section,
            statement.MatchColumn,
            new Dictionary<string, string>(
                statement.Boxes.Where(b => c.Boxes.ContainsKey(b.Name)).Select(b => KeyValuePair.Create(b.Column, c.Boxes[b.Name])))
            {
                [payerNumber] = c.EmployerPin,
                [statement.TitleColumn] = c.EmployerName,
            })),
    ];

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
    public LastAssessment ReadAssessment(string json)
    {
        var notice = JsonSerializer.Deserialize<Assessment>(json, Json) ?? throw new JsonException("The assessment is empty.");
        return new LastAssessment(
            $"Assessment {notice.Number} for {notice.Year}",
            [new("Tax assessed", notice.TaxAssessed), new("Paid", notice.Paid), new("Unpaid", notice.Unpaid), new("Refund not yet paid out", notice.RefundOpen)],
            carriedForward);
    }

    private sealed record RecordedCertificate(
        string Number, string EmployeePin, int Year, string EmployerPin, string EmployerName, Dictionary<string, string> Boxes);

    private sealed record Registration(string Name, string? BirthDate, string? Email, string? Phone, string? PostalAddress, string? AccountNumber);

    private sealed record Assessment(string Number, int Year, string TaxAssessed, string Paid, string Unpaid, string RefundOpen);
}
