using Aerarium.Core.Definitions;
using Aerarium.Filing;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>The parts that the e-returns of an individual have in common.</summary>
internal static class CommonParts
{
    /// <summary>Of which quarter a return is, and whether it amends an earlier one.</summary>
    public static void HeaderOfQuarter(this EReturnWriter x, Definition definition) => x.Group("Header", () =>
    {
        x.Fixed("TaxableYear", $"{definition.Year}");
        x.Fixed("Quarter", $"{Periods.QuarterOf(definition.Period)}");
        x.Line("Kind", "taxpayer.kind");
        x.Line("PriorAcknowledgement", "taxpayer.prior-acknowledgement");
    });

    /// <summary>Who files for the taxpayer, and whom to ask.</summary>
    public static void Representative(this EReturnWriter x) => x.Group("Representative", () =>
    {
        x.Line("Tin", "declaration.agent-tin");
        x.Line("Name", "declaration.agent-name");
        x.Line("Accreditation", "declaration.accreditation");
        x.Line("Contact", "declaration.contact-name");
        x.Line("Telephone", "declaration.contact-phone");
    });

    /// <summary>Other credits of a column.</summary>
    public static void OtherCredits(this EReturnWriter x, ColumnKeys column) => x.Rows("OtherCredit", column.Key("balance.other"), () =>
    {
        x.Line("Name", "name");
        x.Amount("Amount", "amount");
    });
}
