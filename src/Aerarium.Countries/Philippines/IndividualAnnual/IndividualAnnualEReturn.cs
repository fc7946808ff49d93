using Aerarium.Core.Engine;
using Aerarium.Filing;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Writes the annual return of an individual in the form the authority's schema of the year asks for.</summary>
public sealed class IndividualAnnualEReturn : IEReturnMapping
{
    /// <inheritdoc />
    public string SchemaPath(int year) => $"ph/individual-annual/{year}.xsd";

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        bool Yes(string key) => evaluation.Value(evaluation.Definition.LineOf(key)) == "yes";
        string? Text(string key) => evaluation.Value(evaluation.Definition.LineOf(key));
        var year = evaluation.Definition.Year;
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:ph:individual-annual:{year}", "AnnualIncomeTaxReturn");
        x.Group("Header", () =>
        {
            x.Fixed("TaxableYear", $"{year}");
            x.Line("Kind", "taxpayer.kind");
            x.Line("PriorAcknowledgement", "taxpayer.prior-acknowledgement");
        });
        x.Group("Taxpayer", () =>
        {
            x.Line("Tin", "taxpayer.tin");
            x.Line("DistrictOffice", "taxpayer.district-office");
            x.Line("Name", "taxpayer.name");
            x.Line("BirthDate", "taxpayer.birth-date");
            x.Line("Citizenship", "taxpayer.citizenship");
            x.Line("Status", "scope.status");
            x.Line("Address", "taxpayer.address");
            x.Line("Email", "taxpayer.email");
            x.Line("Telephone", "taxpayer.phone");
        });
        x.Group("Representative", () =>
        {
            x.Line("Tin", "declaration.agent-tin");
            x.Line("Name", "declaration.agent-name");
            x.Line("Accreditation", "declaration.accreditation");
            x.Line("Contact", "declaration.contact-name");
            x.Line("Telephone", "declaration.contact-phone");
        });
        x.GroupWhen(Yes("scope.compensation"), "Compensation", () =>
        {
            x.Rows("Employer", "compensation.employers", () =>
            {
                x.Line("Tin", "tin");
                x.Line("Name", "name");
                x.Amount("Gross", "gross");
                x.Amount("Benefits", "benefits");
                x.Amount("ExemptBesides", "exempt-besides");
                x.Amount("TaxWithheld", "withheld");
            });
            x.Amount("Gross", "compensation.gross");
            x.Amount("Exempt", "compensation.exempt");
            x.Amount("Taxable", "compensation.taxable");
        });
        x.GroupWhen(Yes("scope.business"), "Business", () =>
        {
            x.Line("Nature", "business.nature");
            x.Line("VatRegistered", "business.vat-registered");
            x.Line("Method", "business.method");
            x.Amount("NetGoods", "business.net-goods");
            x.Amount("NetServices", "business.net-services");
            x.Amount("OtherIncome", "business.other-income");
            x.Amount("PartnershipShare", "business.partnership-share");
            if (Text("business.method") == "itemised")
            {
                x.Amount("Cost", "business.cost");
                x.Rows("Expense", "deductions.expenses", () =>
                {
                    x.Line("Kind", "kind");
                    x.Amount("Amount", "amount");
                });
                x.Amount("Entertainment", "deductions.entertainment");
                x.Amount("InterestAllowed", "deductions.interest-allowed");
                x.Amount("ContributionsLimited", "deductions.contributions-allowed");
                x.Amount("ContributionsFull", "deductions.contributions-full");
                x.Amount("Ordinary", "deductions.ordinary");
                x.Amount("Special", "deductions.special-total");
                x.Amount("LossesUsed", "deductions.losses-used");
            }
        });
        x.GroupWhen(Yes("scope.foreign-tax"), "Foreign", () => x.Rows("Country", "tax.foreign", () =>
        {
            x.Line("Name", "country");
            x.Amount("Income", "income");
            x.Amount("Paid", "paid");
            x.Amount("Allowed", "allowed");
        }));
        x.Group("Computation", () =>
        {
            x.Amount("TaxableIncome", "tax.taxable");
            x.Amount("TaxByTable", "tax.by-table");
            x.Amount("TaxOfEightPerCent", "tax.eight-tax");
            x.Amount("TaxDue", "tax.due");
            x.Amount("PriorExcess", "balance.prior-excess");
            x.Amount("QuarterlyPaid", "balance.quarterly-paid");
            x.Amount("WithheldQuarters", "balance.withheld-quarters");
            x.Amount("WithheldLastQuarter", "balance.withheld-last-quarter");
            x.Amount("WithheldEmployers", "balance.withheld-employers");
            x.Amount("ForeignCredit", "balance.foreign-credit");
            x.Amount("PaidWithEarlier", "balance.paid-with-earlier");
            x.Rows("OtherCredit", "balance.other", () =>
            {
                x.Line("Name", "name");
                x.Amount("Amount", "amount");
            });
            x.Amount("Credits", "balance.credits");
            x.Amount("Balance", "balance.balance");
            x.Amount("SecondPart", "balance.second-part");
            x.Line("Overpayment", "balance.overpayment");
        });
        x.Group("Declaration", () =>
        {
            x.Line("TrueAndComplete", "declaration.true-and-complete");
            x.Line("Name", "declaration.name");
            x.Line("Capacity", "declaration.capacity");
            x.Line("Date", "declaration.date");
        });
        return x.Finish();
    }
}
