using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Barbados.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Residential property let: a page for each, taxed at a rate of its own and apart from other income.</summary>
public sealed class RentalForm : Form
{
    private sealed record Property(AmountLine Base);

    /// <summary>Special tax on residential rent.</summary>
    public readonly AmountLine Tax;

    /// <summary>Declares the form.</summary>
    public RentalForm(Definition definition, IncomeTaxLaw law, ScopeForm scope)
        : base(definition, "rental", "Residential rent", "A page for each property let; the rent bears a rate of its own.", scope.Rental)
    {
        var properties = Pages("properties", "Properties", "property", page =>
        {
            page.Part("The property");
            page.NamedBy(page.Text("address", "Address").Required());
            var share = page.Measure("share", "Share that belongs to the taxpayer", 2).Unit("%").Between(0.01m, 100).Hint("leave blank when all of it does");

            page.Part("Rent", "ITA");
            var rent = page.Entry("rent", "Rent received, of all owners").From("rent book").Required();
            var costs = page.RowsWithin("costs", "Costs", "cost", row =>
            {
                var kind = row.Choice("class", "Class",
                    [new("repairs", "Repairs"), new("land-tax", "Land tax"), new("insurance", "Insurance"), new("interest", "Interest"), new("agent", "Agent"), new("other", "Other")]).Required();
                row.NamedBy(kind);
                return row.Entry("amount", "Amount").From("rent book").Required();
            }).AsGrid();

            page.Part("What is taxed", "ITA");
            var own = page.Line("own", "Rent, the taxpayer's share", rent * share.Or(100) / 100, ToCents);
            var net = page.Line("net", "Rent less costs, the taxpayer's share", (rent - PageScope.Sum(costs, c => c)) * share.Or(100) / 100, ToCents);
            var taxed = page.Entry("taxed", $"Amount on which {law.RentalRate.ValueInWords} is charged").RequiredWhen(own > 0)
                .Hint("the rent or the rent less costs: which of them is unsure, confirm with the year's guide");
            page.Error("taxed-above-rent", taxed > own, $"More is taxed than the rent of {own}; enter the rent or what is left after costs.", taxed);
            page.Warn("taxed-neither", taxed.IsFilled() & taxed.DiffersFrom(own) & taxed.DiffersFrom(AtLeastZero(net)),
                $"{taxed} is neither the rent of {own} nor the rent less costs of {AtLeastZero(net)}; say in a remark how it was found.", taxed);
            return new Property(taxed);
        }, "ITA");

        Section("All properties", "ITA");
        var base_ = Line("base", "Residential rent taxed", properties.Sum(p => p.Base)).Subtotal();
        Tax = Line("tax", "Special tax on residential rent", law.RentalRate * base_, ToCents).Law("ITA (likely)").Final();
        Error("no-property", scope.Rental & properties.RowCount.Equals(0), "Add a page for each property let, or answer in Scope that there was none.", scope.Rental);
        Unchecked.Warn(this, "rental-base", base_);
    }
}
