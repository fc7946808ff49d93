using Aerarium.Core.Engine;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Common;
using Aerarium.Filing;

namespace Aerarium.Countries.Canada.CompanyAlberta;

/// <summary>Writes a company's return for Alberta's authority; whole dollars. One schema serves all years.</summary>
public sealed class AlbertaEReturn : IEReturnMapping
{
    private const int SchemaYear = 2024;

    /// <inheritdoc />
    public string SchemaPath(int year) => $"ca/company-alberta/{SchemaYear}.xsd";

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:ca:company-alberta:{SchemaYear}", "AlbertaReturn");
        bool IsOpen(string line) => evaluation.IsOpen(evaluation.Definition.LineOf(line));
        x.Group("Header", () =>
        {
            x.Fixed("TaxYear", $"{evaluation.Definition.Year}");
            x.Line("Kind", "company.kind");
            x.Line("PriorAcknowledgement", "company.prior-acknowledgement");
            x.Named("scope", "begin", "end", "establishment", "federal-filed");
        });
        x.Group("Company", () =>
        {
            x.Line("Number", "company.bn");
            x.Named("company", "account", "name", "address", "contact", "contact-title", "contact-phone");
        });
        CompanyEReturn.Agent(x);
        x.GroupWhen(IsOpen("company.preparer"), "Preparer", () => x.Named("company", "filer-type", "preparer", "preparer-phone", "preparer-address"));
        x.GroupWhen(IsOpen("depreciation.claimed"), "Depreciation", () => CompanyEReturn.Depreciation(x));
        x.Group("Reconciliation", () =>
        {
            x.NamedAmounts("reconciliation", "federal", "allowance", "recapture", "terminal");
            x.Rows("Other", "reconciliation.others", () =>
            {
                x.Named("", "what", "effect");
                x.NamedAmounts("", "federal", "alberta", "carried");
            });
            x.NamedAmounts("reconciliation", "others-total", "net");
        });
        x.GroupWhen(IsOpen("gifts.deducted"), "Gifts", () => CompanyEReturn.Gifts(x));
        x.Group("Losses", () => CompanyEReturn.Losses(x));
        x.Group("Tax", () =>
        {
            x.Amount("Dividends", "federal.dividends");
            x.NamedAmounts("tax", "taxable", "revenue", "revenue-total", "salaries", "salaries-total", "income", "active", "limit", "small", "small-income", "before", "deduction", "tax");
        });
        x.Rows("Instalment", "balance.instalments", () =>
        {
            x.Line("Date", "date");
            x.Amount("Amount", "amount");
        });
        x.Group("Balance", () => x.NamedAmounts("balance", "tax", "paid", "balance"));
        CompanyEReturn.RefundAccount(x, evaluation);
        x.Group("Certification", () => x.Line("Position", "declaration.position"));
        x.Declaration();
        return x.Finish();
    }
}
