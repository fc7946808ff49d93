using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Property let: a page for each.</summary>
public sealed class RentalForm : Form
{
    private sealed record Property(AmountLine Net);

    /// <summary>Rent less expenses, the taxpayer's share.</summary>
    public readonly AmountLine Net;

    /// <summary>Declares the form.</summary>
    public RentalForm(Definition definition, ScopeForm scope)
        : base(definition, "rental", "Property let", "A page for each property: rent and expenses of all owners, and the taxpayer's share.", scope.Rental)
    {
        var properties = Pages("properties", "Properties", "property", page =>
        {
            page.Part("The property");
            page.NamedBy(page.Text("address", "Address").Required());
            var share = page.Measure("share", "Share that belongs to the taxpayer", 2).Unit("%").Between(0.01m, 100).Hint("leave blank when all of it does");

            page.Part("Rent", "ITA 9; form T776");
            var rent = page.Entry("rent", "Rent, of all owners").From("rent book").Required().Law("line 12599");
            var expenses = page.RowsWithin("expenses", "Expenses", "expense", row =>
            {
                var kind = row.Choice("class", "Class", [
                    new("advertising", "Advertising"), new("insurance", "Insurance"), new("interest", "Interest"), new("office", "Office"), new("fees", "Professional fees"), new("management", "Management"),
                    new("repairs", "Repairs"), new("wages", "Wages"), new("tax", "Property tax"), new("travel", "Travel"), new("utilities", "Utilities"), new("capital-cost", "Capital cost allowance, as worked out"),
                    new("other", "Other"),
                ]).Required();
                row.NamedBy(kind);
                return row.Entry("amount", "Amount").From("invoices").Required();
            }, "ITA 18").AsGrid();

            page.Part("Net rent", "ITA 9");
            return new Property(page.Line("net", "Rent less expenses, taxpayer's share", (rent - PageScope.Sum(expenses, e => e)) * share.Or(100) / 100, ToCents).Law("line 12600").Subtotal());
        }, "ITA 9");

        Section("All properties", "ITA 9");
        Net = Line("net", "Net rent, or a loss if negative", properties.Sum(p => p.Net)).Law("line 12600").Final();
        Error("no-property", scope.Rental & properties.RowCount.Equals(0), "Add a page for each property let, or answer in Scope that there was none.", scope.Rental);
    }
}
