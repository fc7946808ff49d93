using Aerarium.Core.Engine;
using Aerarium.Countries.Common;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Filing;

namespace Aerarium.Countries.Philippines.IndividualQuarterly;

/// <summary>Writes the quarterly return of an individual as the authority's schema of the year asks for it, in XML or in JSON.</summary>
public sealed class IndividualQuarterlyEReturn(EReturnFormat format) : IEReturnMapping
{
    /// <inheritdoc />
    public EReturnFormat Format => format;

    /// <inheritdoc />
    public IEReturnMapping? AsJson => format == EReturnFormat.Json ? null : new IndividualQuarterlyEReturn(EReturnFormat.Json);

    /// <inheritdoc />
    public string SchemaPath(int year) => $"ph/individual-quarterly/{year}{(format == EReturnFormat.Json ? JsonSchemaCheck.Ending : ".xsd")}";

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        var definition = evaluation.Definition;
        bool Yes(string key) => evaluation.Value(definition.LineOf(key)) == "yes";
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:ph:individual-quarterly:{definition.Year}", "QuarterlyIncomeTaxReturn", format);
        x.HeaderOfQuarter(definition);
        x.Group("Taxpayer", () =>
        {
            x.Line("Tin", "taxpayer.tin");
            x.Line("DistrictOffice", "taxpayer.district-office");
            x.Line("Name", "taxpayer.name");
            x.Line("Citizenship", "taxpayer.citizenship");
            x.Line("Status", "scope.status");
            x.Line("Address", "taxpayer.address");
        });
        x.Representative();
        WriteColumn(x, new ColumnKeys(evaluation, "", "scope."));
        x.GroupWhen(Yes("scope.joint"), "SpouseColumn", () =>
        {
            x.Line("Tin", "taxpayer.spouse-tin");
            x.Line("Name", "taxpayer.spouse-name");
            WriteColumn(x, new ColumnKeys(evaluation, "-spouse", "scope.spouse-"));
        });
        x.Group("Result", () =>
        {
            x.Amount("Balance", "result.balance");
            x.Amount("PayableNow", "result.payable-now");
        });
        x.Declaration();
        return x.Finish();
    }

    private static void WriteColumn(EReturnWriter x, ColumnKeys column)
    {
        x.GroupWhen(column.Answered("business"), "Business", () =>
        {
            x.Line("Nature", column.Key("business.nature"));
            x.Line("Method", column.Key("business.method"));
            x.Amount("NetSales", column.Key("business.net-sales"));
            x.Amount("OtherIncome", column.Key("business.other-income"));
            x.Amount("PartnershipShare", column.Key("business.partnership-share"));
            x.Amount("Cost", column.Key("business.cost"));
            x.Amount("Deductions", column.Key("tax.itemised"));
            x.Amount("StandardDeduction", column.Key("tax.standard-deduction"));
            x.Amount("GrossToDate", column.Key("tax.gross-to-date"));
        });
        x.Group("Computation", () =>
        {
            x.Amount("IncomeToDate", column.Key("tax.income"));
            x.Amount("TaxableToDate", column.Key("tax.taxable"));
            x.Amount("TaxDue", column.Key("tax.due"));
            x.Amount("PriorExcess", column.Key("balance.prior-excess"));
            x.Amount("PaidBefore", column.Key("balance.paid-before"));
            x.Amount("WithheldBefore", column.Key("balance.withheld-before"));
            x.Amount("WithheldThisQuarter", column.Key("balance.withheld-quarter"));
            x.Amount("ForeignCredit", column.Key("balance.foreign-credit"));
            x.Amount("PaidWithEarlier", column.Key("balance.paid-with-earlier"));
            x.OtherCredits(column);
            x.Amount("Credits", column.Key("balance.credits"));
            x.Amount("Balance", column.Key("balance.balance"));
        });
    }
}
