using Aerarium.Filing;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>What payers and charities state, from the authority or on paper: employers, pensions, gifts.</summary>
public static class PayerStatements
{
    /// <summary>The record.</summary>
    public static readonly PublishedRecord Record = new(
        "A business loss and the years of energy-saving works go on from last year's return here, not from the assessment; a refund is set off against other tax debts first (likely).",
        new StatementKind(
            "employer-certificate",
            "Employer's certificate",
            "employment.employers",
            "number",
            "name",
            "number",
            "taxpayerNumber",
            [new("employerNumber", "number"), new("employerName", "name"), new("grossPay", "pay"), new("benefits", "benefits"), new("taxDeducted", "tax-deducted")]),
        new StatementKind(
            "pension-certificate",
            "Pension certificate",
            "pensions.pensions",
            "payer",
            "payer",
            null,
            "taxpayerNumber",
            [new("payerName", "payer"), new("pension", "amount"), new("taxDeducted", "tax-deducted")]),
        new StatementKind(
            "gift-report",
            "Charity's report of a gift",
            "deductions.gifts",
            "number",
            "charity",
            "number",
            "taxpayerNumber",
            [new("charityNumber", "number"), new("charityName", "charity"), new("gift", "amount")]));
}
