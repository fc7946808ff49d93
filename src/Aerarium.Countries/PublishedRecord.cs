using System.Text.Json;
using Aerarium.Filing;

namespace Aerarium.Countries;

/// <summary>
/// What an authority holds about a taxpayer, in the form in which the simulated authorities publish it: the registration, the
/// payers' statements of a year, and the assessment of a year.
/// </summary>
/// <param name="carriedForward">What an assessment carries into the next return, and by which law, in words.</param>
/// <param name="statements">The kinds of statement.</param>
public sealed class PublishedRecord(string carriedForward, params StatementKind[] statements) : IAuthorityRecord
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    /// <inheritdoc />
    public IReadOnlyList<string> NeverHeld { get; init; } = [];

    /// <inheritdoc />
    public IReadOnlyList<StatementKind> Statements => statements;

    /// <inheritdoc />
    public string Path(string identifier, int year) => $"taxpayers/{Uri.EscapeDataString(identifier)}/statements/{year}";

    /// <inheritdoc />
    public string RegistrationPath(string identifier) => $"taxpayers/{Uri.EscapeDataString(identifier)}";

    /// <inheritdoc />
    public string AssessmentPath(string identifier, int year) => $"taxpayers/{Uri.EscapeDataString(identifier)}/assessments/{year}";

    /// <inheritdoc />
    public IReadOnlyList<RecordedItem> Read(string json) =>
    [
        .. (JsonSerializer.Deserialize<List<RecordedStatement>>(json, Json) ?? [])
            .Select(held => (Held: held, Kind: statements.FirstOrDefault(k => k.Name == held.Kind)))
            .Where(pair => pair.Kind is not null)
            .Select(pair => ItemOf(pair.Held, pair.Kind!)),
    ];

    private static RecordedItem ItemOf(RecordedStatement held, StatementKind kind)
    {
        var values = kind.Boxes.Where(b => held.Boxes.ContainsKey(b.Name)).ToDictionary(b => b.Column, b => held.Boxes[b.Name]);
        if (kind.PayerColumn is { } number && held.PayerNumber is not null)
        {
            values[number] = held.PayerNumber;
        }

        values[kind.TitleColumn] = held.PayerName;
        return new RecordedItem(held.Number, $"{kind.Title}, {held.PayerName}", held.Identifier, kind.Section, kind.MatchColumn, values);
    }

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

    private sealed record RecordedStatement(
        string Number, string Kind, string Identifier, int Year, string? PayerNumber, string PayerName, Dictionary<string, string> Boxes);

    private sealed record Registration(string Name, string? BirthDate, string? Email, string? Phone, string? PostalAddress, string? AccountNumber);

    private sealed record Assessment(string Number, int Year, string TaxAssessed, string Paid, string Unpaid, string RefundOpen);
}
