using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Securities and property sold, the home apart.</summary>
public sealed class GainsForm : Form
{
    private sealed record Sale(AmountLine Gain);

    /// <summary>Gains less losses.</summary>
    public readonly AmountLine Gains;

    /// <summary>Declares the form.</summary>
    public GainsForm(Definition definition, FederalLaw law, ScopeForm scope, AmountLine dividends)
        : base(definition, "gains", "Capital gains", "Each sale with what it brought, what it had cost and what selling cost.", scope.Gains | scope.Investment)
    {
        var sales = Repeating("sales", "Securities and property sold", "sale", row =>
        {
            row.NamedBy(row.Text("description", "Security or property, with address").From("slip T5008, or closing statement").Required());
            var kind = row.Choice("kind", "Kind", [
                new("shares", "Shares, funds and other securities"), new("bonds", "Bonds and other debts"), new("real-estate", "Land or building, no home"), new("personal", "Personal-use property"),
            ]).Required();
            row.CalendarYear("acquired", "Year acquired").Between(1_950, law.Year);
            var proceeds = row.Entry("proceeds", "Proceeds").From("slip T5008, box 21").Required();
            var cost = row.Entry("cost", "Cost base").From("broker's statement").Required();
            var outlays = row.Entry("outlays", "Costs of selling").From("broker's statement");
            var floor = kind.Is("personal");
            return new Sale(row.Line("gain", "Gain, or loss if negative", If(
                floor,
                AtLeastZero(Max(proceeds, law.PersonalUseFloor) - Max(cost, law.PersonalUseFloor) - outlays),
                proceeds - cost - outlays)).Law("ITA 40, 46, 54").Subtotal());
        }, "ITA 38 to 40; Schedule 3", scope.Gains).AsGrid();

        Section("All sales", "ITA 38 to 40");
        Gains = Line("gains", "Gains less losses", sales.Sum(s => s.Gain) + dividends).Law("Schedule 3").Subtotal();
        Error("no-sale", scope.Gains & sales.RowCount.Equals(0), "Add each sale, or answer in Scope that nothing was sold.", scope.Gains);
    }
}
