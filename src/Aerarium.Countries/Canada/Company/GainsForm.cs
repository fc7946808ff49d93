using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>Capital property sold (schedule 6).</summary>
public sealed class GainsForm : Form
{
    /// <summary>Taxable gains, and the loss of the year to be carried.</summary>
    public readonly AmountLine Taxable, Loss;

    /// <summary>Declares the form.</summary>
    public GainsForm(Definition definition, CorporationLaw law, ScopeForm scope)
        : base(definition, "gains", "Capital gains", "Property sold, other than at a gain within a class of depreciable property.", scope.CapitalGains)
    {
        var sold = Repeating("sold", "Property sold", "property", row =>
        {
            row.NamedBy(row.Text("description", "Property").From("contract").Required());
            row.Date("date", "Sold on").From("contract").Required();
            var proceeds = row.Entry("proceeds", "Proceeds").InWholeUnits().From("contract").Required();
            var cost = row.Entry("cost", "Adjusted cost base").InWholeUnits().From("books").Required();
            var outlays = row.Entry("outlays", "Costs of selling").InWholeUnits();
            return row.Line("gain", "Gain, or loss if negative", proceeds - cost - outlays);
        }, "ITA 38, 39, 40").AsGrid();

        Section("Gains of the period", "ITA 38, 39");
        var net = Line("net", "Gains less losses", sold.Sum(s => s)).Subtotal();
        Taxable = Line("taxable", "Taxable capital gains", law.Inclusion * AtLeastZero(net), ToUnits).Law("ITA 38(a)").Hint("line 113");
        Loss = Line("loss", "Net capital loss of the year, carried", law.Inclusion * AtLeastZero(0 - net), ToUnits).Law("ITA 111(8)");
    }
}
