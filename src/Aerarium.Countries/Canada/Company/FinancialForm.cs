using Aerarium.Core.Definitions;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Common.Accounts;

namespace Aerarium.Countries.Canada.Company;

/// <summary>The statements of the period in whole dollars, each item from the company's accounts (schedules 100 and 125).</summary>
public sealed class FinancialForm : StatementsForm
{
    /// <summary>Declares the form.</summary>
    public FinancialForm(Definition definition)
        : base(definition, new FormHeading("financial", "Financial statements", "In whole dollars, item by item from the accounts of the same period."), FinancialItems.Chart,
            (form, item) => form.Entry(item.Name, $"{item.Code} {item.Label}").InWholeUnits().MayBeNegative().OfOneYear().From("accounts").TiedTo(definition.SamePeriod(AccountsReturn.ReturnId).Line($"statements.{item.Name}")),
            placesRounding: true)
    {
        Error("balance-sheet", Difference.DiffersFrom(0), $"Total assets and total liabilities with equity differ by {Difference}; correct the accounts.", Difference);
        Error("no-statements", this[FinancialItems.Assets].Equals(0) & this[FinancialItems.Revenue].Equals(0) & this["9368"].Equals(0), "There are no financial statements: open the accounts of the same year, or enter the items here.", this[FinancialItems.Assets]);
        Note("rounded", Rounding!.DiffersFrom(0), $"Rounding each item to whole dollars moves the balance sheet by {Rounding}; it is counted in amounts payable.", Rounding);
    }
}
