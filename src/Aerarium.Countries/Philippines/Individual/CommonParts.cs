using Aerarium.Filing;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>The parts that the annual and the quarterly e-return of an individual have in common.</summary>
internal static class CommonParts
{
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
