using Aerarium.Core.Engine;
using Aerarium.Countries.Common;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Filing;

namespace Aerarium.Countries.Philippines.PercentageTax;

/// <summary>Writes the percentage tax of a quarter as the authority's schema of the year asks for it.</summary>
public sealed class PercentageTaxEReturn : IEReturnMapping
{
    /// <inheritdoc />
    public string SchemaPath(int year) => $"ph/percentage-tax/{year}.xsd";

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        var definition = evaluation.Definition;
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:ph:percentage-tax:{definition.Year}", "PercentageTaxReturn");
        x.HeaderOfQuarter(definition);
        x.Group("Taxpayer", () => x.Named("taxpayer", "tin", "district-office", "name", "citizenship", "address"));
        x.Representative();
        x.Group("Sales", () =>
        {
            x.NamedAmounts("sales", "goods", "services");
            x.AmountIfThere("Before", "sales.before");
            x.AmountIfThere("BeforeToJune", "sales.before-to-june");
            x.Amount("Gross", "sales.gross");
        });
        x.Group("Result", () => x.NamedAmounts("result", "tax", "withheld", "paid-with-earlier", "credits", "balance", "payable-now"));
        x.Declaration();
        return x.Finish();
    }
}
