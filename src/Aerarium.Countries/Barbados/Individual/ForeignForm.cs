using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Income from abroad before the foreign tax, in Barbados dollars, and that tax.</summary>
public sealed class ForeignForm : Form
{
    private sealed record Item(AmountLine Income, AmountLine Tax);

    /// <summary>Income from abroad and the tax paid on it, in Barbados dollars.</summary>
    public readonly AmountLine Income, Tax;

    /// <summary>Declares the form.</summary>
    public ForeignForm(Definition definition, ScopeForm scope)
        : base(definition, "foreign", "Income from abroad", "Each source as its statement has it, before foreign tax; an exchange rate turns it into Barbados dollars.", scope.Foreign)
    {
        var items = Repeating("items", "Sources abroad", "source", row =>
        {
            row.NamedBy(row.Text("country", "Country").Required());
            row.Choice("kind", "Kind", [new("pay", "Pay"), new("pension", "Pension"), new("interest", "Interest"), new("dividend", "Dividends"), new("rent", "Rent"), new("other", "Other")]).Required();
            var rate = row.Measure("exchange-rate", "Barbados dollars for one unit", 6).Between(0.000001m, 1_000_000).Hint("leave blank when the statement is in Barbados dollars");
            var amount = row.Entry("amount", "Income before foreign tax").From("foreign statement").Required();
            var tax = row.Entry("tax", "Foreign tax").From("foreign statement");
            var income = row.Line("income", "Income in Barbados dollars", amount * rate.Or(1), ToCents);
            var taxHere = row.Line("tax-here", "Foreign tax in Barbados dollars", tax * rate.Or(1), ToCents);
            row.Error("foreign-tax-above-income", tax > amount, $"The foreign tax of {tax} is higher than the income of {amount}; check the statement.", tax);
            row.Warn("no-foreign-tax", amount > 0 & tax.Equals(0), "No foreign tax is entered. Is relief due for tax paid there?", tax);
            return new Item(income, taxHere);
        }, "ITA; treaties");

        Section("All sources abroad", "ITA");
        Income = Line("income", "Income from abroad", items.Sum(i => i.Income)).Subtotal();
        Tax = Line("tax", "Foreign tax", items.Sum(i => i.Tax));
        Error("no-source", scope.Foreign & items.RowCount.Equals(0), "Add each source abroad, or answer in Scope that there was none.", scope.Foreign);
    }
}
