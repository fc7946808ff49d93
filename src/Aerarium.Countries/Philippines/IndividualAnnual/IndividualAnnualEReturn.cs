using Aerarium.Core.Engine;
using Aerarium.Countries.Common;
using Aerarium.Countries.Philippines.Individual;
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
        var year = evaluation.Definition.Year;
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:ph:individual-annual:{year}", "AnnualIncomeTaxReturn");
        x.Group("Header", () =>
        {
            x.Fixed("TaxableYear", $"{year}");
            x.Line("PeriodFrom", "taxpayer.from");
            x.Line("PeriodTo", "taxpayer.to");
            x.Line("Kind", "taxpayer.kind");
            x.Line("PriorAcknowledgement", "taxpayer.prior-acknowledgement");
        });
        x.Group("Taxpayer", () =>
        {
            x.Line("Tin", "taxpayer.tin");
            x.Line("DistrictOffice", "taxpayer.district-office");
            x.Line("Name", "taxpayer.name");
            x.Line("Surname", "taxpayer.surname");
            x.Line("FirstName", "taxpayer.first-name");
            x.Line("MiddleName", "taxpayer.middle-name");
            x.Line("Type", "taxpayer.type");
            x.Line("TradeName", "taxpayer.trade-name");
            x.Line("BirthDate", "taxpayer.birth-date");
            x.Line("Citizenship", "taxpayer.citizenship");
            x.Line("Status", "scope.status");
            x.Line("Address", "taxpayer.address");
            x.Line("Email", "taxpayer.email");
            x.Line("Telephone", "taxpayer.phone");
        });
        x.Representative();
        WriteColumn(x, evaluation, new ColumnKeys(evaluation, "", "scope."));
        x.GroupWhen(Yes("scope.joint"), "SpouseColumn", () =>
        {
            x.Line("Tin", "taxpayer.spouse-tin");
            x.Line("Name", "taxpayer.spouse-name");
            x.Line("Surname", "taxpayer.spouse-surname");
            x.Line("FirstName", "taxpayer.spouse-first-name");
            x.Line("MiddleName", "taxpayer.spouse-middle-name");
            x.Line("Citizenship", "taxpayer.spouse-citizenship");
            x.Line("Status", "scope.spouse-status");
            WriteColumn(x, evaluation, new ColumnKeys(evaluation, "-spouse", "scope.spouse-"));
        });
        x.GroupWhen(Yes("scope.undivided"), "Undivided", () => x.Amount("Income", "undivided.income"));
        x.GroupWhen(Yes("scope.special-rate"), "SpecialIncome", () => x.Rows("Activity", "special.items", () =>
        {
            x.Line("Treatment", "kind");
            x.Line("Name", "activity");
            x.Line("Basis", "basis");
            x.Line("Until", "until");
            x.Amount("Gross", "gross");
            x.Amount("Deductions", "deductions");
            x.Line("Rate", "rate");
            x.Amount("Tax", "tax");
        }));
        x.Group("Result", () =>
        {
            x.Amount("TaxDue", "result.due");
            x.Amount("Credits", "result.credits");
            x.Amount("Balance", "result.balance");
            x.Amount("PayableNow", "result.payable-now");
            x.Line("Overpayment", "result.overpayment");
        });
        x.GroupWhen(evaluation.Value(evaluation.Definition.LineOf("attachments.total")) is not null, "Attachments", () =>
        {
            x.Line("CompensationCertificates", "attachments.compensation-certificates");
            x.Line("FinancialStatements", "attachments.financial-statements");
            x.Line("ForeignTaxProofs", "attachments.foreign-tax");
            x.Line("Others", "attachments.other");
        });
        x.Declaration();
        return x.Finish();
    }

    private static void WriteColumn(EReturnWriter x, Evaluation evaluation, ColumnKeys column)
    {
        x.GroupWhen(column.Answered("compensation"), "Compensation", () =>
        {
            x.Rows("Employer", column.Key("compensation.employers"), () =>
            {
                x.Line("Tin", "tin");
                x.Line("Name", "name");
                x.Amount("Gross", "gross");
                x.Amount("Benefits", "benefits");
                x.Amount("ExemptBesides", "exempt-besides");
                x.Amount("TaxWithheld", "withheld");
            });
            x.Amount("Gross", column.Key("compensation.gross"));
            x.Amount("Exempt", column.Key("compensation.exempt"));
            x.Amount("Taxable", column.Key("compensation.taxable"));
        });
        x.GroupWhen(column.Answered("business"), "Business", () =>
        {
            x.Line("Nature", column.Key("business.nature"));
            x.Line("VatRegistered", column.Key("business.vat-registered"));
            x.Line("Method", column.Key("business.method"));
            x.Amount("NetGoods", column.Key("business.net-goods"));
            x.Amount("NetServices", column.Key("business.net-services"));
            x.Amount("OtherIncome", column.Key("business.other-income"));
            x.Amount("PartnershipShare", column.Key("business.partnership-share"));
            if (evaluation.Value(evaluation.Definition.LineOf(column.Key("business.method"))) == "itemised")
            {
                x.Amount("Cost", column.Key("business.cost"));
                x.Rows("Expense", column.Key("deductions.expenses"), () =>
                {
                    x.Line("Kind", "kind");
                    x.Amount("Amount", "amount");
                });
                x.Amount("Entertainment", column.Key("deductions.entertainment"));
                x.Amount("InterestAllowed", column.Key("deductions.interest-allowed"));
                x.Amount("ContributionsLimited", column.Key("deductions.contributions-allowed"));
                x.Amount("ContributionsFull", column.Key("deductions.contributions-full"));
                x.Amount("Ordinary", column.Key("deductions.ordinary"));
                x.Amount("Special", column.Key("deductions.special-total"));
                x.Amount("LossesUsed", column.Key("deductions.losses-used"));
            }
        });
        x.GroupWhen(column.Answered("foreign-tax"), "Foreign", () => x.Rows("Country", column.Key("tax.foreign"), () =>
        {
            x.Line("Name", "country");
            x.Amount("Income", "income");
            x.Amount("Paid", "paid");
            x.Amount("Allowed", "allowed");
        }));
        x.Group("Computation", () =>
        {
            x.Amount("TaxableIncome", column.Key("tax.taxable"));
            x.Amount("TaxByTable", column.Key("tax.by-table"));
            x.Amount("TaxOfEightPerCent", column.Key("tax.eight-tax"));
            x.Amount("HalfOfUndivided", column.Key("tax.undivided"));
            if (column.IsTaxpayer)
            {
                x.Amount("TaxOfSpecialRates", "special.special-tax");
            }

            x.Amount("TaxDue", column.Key("tax.due"));
            x.Amount("PriorExcess", column.Key("balance.prior-excess"));
            x.Amount("QuarterlyPaid", column.Key("balance.quarterly-paid"));
            x.Amount("WithheldQuarters", column.Key("balance.withheld-quarters"));
            x.Amount("WithheldLastQuarter", column.Key("balance.withheld-last-quarter"));
            x.Amount("WithheldEmployers", column.Key("balance.withheld-employers"));
            x.Amount("ForeignCredit", column.Key("balance.foreign-credit"));
            x.Amount("PaidWithEarlier", column.Key("balance.paid-with-earlier"));
            x.OtherCredits(column);
            x.Amount("Credits", column.Key("balance.credits"));
            x.Amount("Balance", column.Key("balance.balance"));
            x.Amount("SecondPart", column.Key("balance.second-part"));
        });
    }
}
