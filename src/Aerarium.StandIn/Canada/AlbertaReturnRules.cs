namespace Aerarium.StandIn.Canada;

/// <summary>The arithmetic of a company's return as Alberta's simulated authority checks it, and whether the account is the company's.</summary>
public sealed class AlbertaReturnRules(Registry registry) : IDocumentRules
{
    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Company/Number", "Company/Name", "Header/TaxYear", "Header/Kind", "Agent/Number") { End = "Header/End" };

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(["Reconciliation/Net", "Tax/Taxable", "Tax/Tax", "Balance/Paid", "Balance/Balance"], "Balance/Paid", "Balance/Balance");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document) =>
        Sums(document).Concat(CompanyParts.Depreciation(document)).Concat(CompanyParts.Losses(document)).Select(c => document.Differs(c.Path, c.Expected, c.Rule)).OfType<Reason>().Concat(Others(document));

    private static IEnumerable<(string Path, decimal Expected, string Rule)> Sums(Document document)
    {
        decimal Net(string name) => document.Amount($"Reconciliation/{name}");
        decimal Of(string name) => document.Amount($"Tax/{name}");
        yield return ("Reconciliation/Net", Net("Federal") + Net("Allowance") + Net("Recapture") + Net("Terminal") + Net("OthersTotal"), "federal net income with the differences");
        yield return ("Reconciliation/OthersTotal",
            document.SumWhere("Reconciliation/Other", "Federal", "Effect", "deducted") - document.SumWhere("Reconciliation/Other", "Alberta", "Effect", "deducted")
                + document.SumWhere("Reconciliation/Other", "Alberta", "Effect", "added") - document.SumWhere("Reconciliation/Other", "Federal", "Effect", "added"),
            "the sum of the other differences");
        yield return ("Tax/Taxable", Math.Max(0, Net("Net") - document.Amount("Gifts/Deducted") - Of("Dividends") - document.Amount("Losses/UsedTotal") - document.Amount("Losses/CapitalUsed")), "net income less what is deducted from it");
        yield return ("Tax/Income", CompanyParts.Dollars(Of("Taxable") * Factor(document)), "Alberta's part of taxable income");
        yield return ("Tax/SmallIncome", CompanyParts.Dollars(Of("Small") * Factor(document)), "Alberta's part of the small business amount");
        yield return ("Tax/Before", CompanyParts.Dollars(Of("Income") * 0.08m), "8% of Alberta's income");
        yield return ("Tax/Deduction", CompanyParts.Dollars(Of("SmallIncome") * 0.06m), "6% of the small business part");
        yield return ("Tax/Tax", Of("Before") - Of("Deduction"), "tax less deduction");
        yield return ("Balance/Tax", Of("Tax"), "Alberta tax");
        yield return ("Balance/Paid", document.Sum("Instalment", "Amount"), "the sum of the instalments");
        yield return ("Balance/Balance", document.Amount("Balance/Tax") - document.Amount("Balance/Paid"), "tax less instalments");
    }

    private IEnumerable<Reason> Others(Document document)
    {
        var registered = registry.Taxpayer(document.Text(Header.Identifier) ?? "")?.AlbertaAccount;
        if (registered is null || registered != document.Text("Company/Account"))
        {
            yield return new Reason("ACCOUNT", document.Path("Company/Account"), "The Alberta corporate account number is not that of this company; copy it from a notice of this authority.");
        }

        if (document.Text("Header/Establishment") != "true")
        {
            yield return new Reason("ESTABLISHMENT", document.Path("Header/Establishment"), "A return is due from companies with an establishment in Alberta only.");
        }
    }

    private static decimal Factor(Document document)
    {
        decimal Of(string name) => document.Amount($"Tax/{name}");
        return Of("RevenueTotal") == 0 && Of("SalariesTotal") == 0 ? 1
            : Of("SalariesTotal") == 0 ? Of("Revenue") / Of("RevenueTotal")
            : Of("RevenueTotal") == 0 ? Of("Salaries") / Of("SalariesTotal")
            : ((Of("Revenue") / Of("RevenueTotal")) + (Of("Salaries") / Of("SalariesTotal"))) / 2;
    }
}
