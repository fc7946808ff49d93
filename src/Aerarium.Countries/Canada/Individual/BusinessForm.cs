using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Own business or profession: a page for each.</summary>
public sealed class BusinessForm : Form
{
    private sealed record Business(AmountLine Profit);

    private static readonly IReadOnlyList<Choice> ExpenseClasses =
    [
        new("goods", "Goods and materials"), new("wages", "Wages"), new("rent", "Rent"), new("vehicle", "Vehicle, business part"), new("utilities", "Heat, light, water, telephone"), new("insurance", "Insurance"),
        new("repairs", "Repairs"), new("interest", "Interest and bank charges"), new("fees", "Professional fees"), new("advertising", "Advertising"), new("meals", "Meals and entertainment"), new("travel", "Travel"),
        new("office", "Office"), new("home-office", "Business use of the home, as worked out"), new("capital-cost", "Capital cost allowance, as worked out"), new("other", "Other"),
    ];

    /// <summary>Profit, or a loss if negative, of all businesses.</summary>
    public readonly AmountLine Profit;

    /// <summary>Declares the form.</summary>
    public BusinessForm(Definition definition, FederalLaw law, ScopeForm scope)
        : base(definition, "business", "Self-employment", "A page for each business: what it earned and what it spent. Half of meals counts.", scope.Business)
    {
        var businesses = Pages("businesses", "Businesses", "business", page =>
        {
            page.Part("The business");
            page.NamedBy(page.Text("description", "What the business does").Required());
            page.Identifier("industry", "Industry code", CanadaIdentifiers.Industry).Required();
            var place = page.Choice("place", "Province where it is carried on", EmploymentForm.Places).Required();
            page.Warn("business-elsewhere", place.IsFilled() & !place.SameAs(scope.Province), "The business is carried on outside the province of residence: its income is divided between the provinces, which is not covered here. Work the provinces' tax out by form T2203.", place);
            page.Date("began", "Began on").Hint("if it began in the year");
            page.Date("ended", "Ended on").OfOneYear().Hint("if it ended in the year");

            page.Part("Income", "ITA 9; form T2125");
            var gross = page.Entry("gross", "Gross income").TakesMoreIncome().From("books").Required().Law("line 13499");
            var expenses = page.RowsWithin("expenses", "Expenses", "expense", row =>
            {
                var kind = row.Choice("class", "Class", ExpenseClasses).Required();
                row.NamedBy(kind);
                var amount = row.Entry("amount", "Amount").From("books").Required();
                return row.Line("counts", "Counts", If(kind.Is("meals"), law.MealsShare * amount, amount), ToCents).Law("ITA 18, 67.1");
            }, "ITA 18").AsGrid();

            page.Part("Profit or loss", "ITA 9");
            var spent = page.Line("expenses-total", "Expenses", PageScope.Sum(expenses, e => e));
            var profit = page.Line("profit", "Profit, or a loss if negative", gross - spent).Law("line 13500").Subtotal();
            page.Warn("no-expenses", gross > 0 & spent.Equals(0), "No expenses are entered for this business; check that none were left out.", gross);
            return new Business(profit);
        }, "ITA 9");

        Section("All businesses", "ITA 9");
        Profit = Line("profit", "Profit or loss of all businesses", businesses.Sum(b => b.Profit)).Law("line 13500").Final();
        Error("no-business", scope.Business & businesses.RowCount.Equals(0), "Add a page for each business, or answer in Scope that there was none.", scope.Business);
    }
}
