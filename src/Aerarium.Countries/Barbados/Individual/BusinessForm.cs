using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Own business, profession, farming or fishing: a page for each, and losses of earlier years.</summary>
public sealed class BusinessForm : Form
{
    private sealed record Business(AmountLine Profit);

    private sealed record Loss(AmountLine Used);

    private static readonly IReadOnlyList<Choice> Kinds =
        [new("trade", "Trade"), new("profession", "Profession"), new("farming", "Farming"), new("fishing", "Fishing"), new("other", "Other")];

    private static readonly IReadOnlyList<Choice> ExpenseClasses =
    [
        new("purchases", "Goods and materials"), new("wages", "Wages and national insurance"), new("rent", "Rent"), new("vehicle", "Vehicle"), new("utilities", "Light, water, telephone"),
        new("insurance", "Insurance"), new("repairs", "Repairs"), new("interest", "Interest"), new("fees", "Professional fees"), new("advertising", "Advertising"), new("travel", "Travel"),
        new("bait-and-feed", "Bait, feed, seed and fertiliser"), new("capital-allowances", "Capital allowances, as worked out in the accounts"), new("other", "Other"),
    ];

    /// <summary>Income from business after losses of earlier years, never below zero.</summary>
    public readonly AmountLine Income;

    /// <summary>Declares the form.</summary>
    public BusinessForm(Definition definition, int year, ScopeForm scope)
        : base(definition, "business", "Business", "A page for each business: turnover, expenses, assets; profits and losses come together below.", scope.Business)
    {
        var businesses = Pages("businesses", "Businesses", "business", page =>
        {
            page.Part("The business");
            page.NamedBy(page.Text("description", "What the business does").Required());
            page.Choice("kind", "Kind", Kinds).Required();
            page.Text("place", "Where it is carried on");

            page.Part("Turnover", "ITA");
            var turnover = page.Entry("turnover", "Turnover").From("books").Required();

            var expenses = page.RowsWithin("expenses", "Expenses", "expense", row =>
            {
                var kind = row.Choice("class", "Class", ExpenseClasses).Required();
                row.NamedBy(kind);
                return row.Entry("amount", "Amount").From("books").Required();
            }, "ITA").AsGrid();

            page.RowsWithin("assets", "Assets used", "asset", row =>
            {
                row.NamedBy(row.Text("description", "Asset").Required());
                var bought = row.Date("bought", "Bought on").From("invoice");
                row.Entry("cost", "Cost").From("invoice").Required();
                var sold = row.Date("sold", "Sold or given up on");
                row.Error("sold-before-bought", bought.IsFilled() & sold.IsFilled() & sold < bought, "The asset is given up before it was bought; check both dates.", sold);
                return sold;
            }).AsGrid();

            page.Part("Profit or loss", "ITA");
            var spent = page.Line("expenses-total", "Expenses", PageScope.Sum(expenses, e => e));
            var profit = page.Line("profit", "Profit, or a loss if negative", turnover - spent).Subtotal();
            page.Warn("no-expenses", turnover > 0 & spent.Equals(0), "No expenses are entered for this business; check that none were left out.", turnover);
            return new Business(profit);
        }, "ITA");

        Section("All businesses", "ITA");
        var result = Line("result", "Profit or loss of all businesses", businesses.Sum(b => b.Profit)).Subtotal();
        var loss = Line("loss", $"Loss of {year}, carried forward", AtLeastZero(-result));
        var profit = Line("profit", "Profit before losses of earlier years", AtLeastZero(result));

        // Which losses may be used, and how far, is unsure: the preparer enters what is used; what is left goes on year by year.
        var losses = Repeating("losses", "Losses of earlier years", "loss", row =>
        {
            var of = row.CalendarYear("year", "Year of the loss").Between(year - 30, year - 1).Required();
            row.NamedBy(of);
            var amount = row.Entry("amount", "Loss").From("earlier return").Required();
            var before = row.Entry("used-before", "of which used in earlier years").From("earlier return");
            var used = row.Entry("used", "used this year").OfOneYear();
            var left = row.Line("left", "Left for later years", AtLeastZero(amount - before - used));
            row.Error("loss-overused", before + used > amount, $"More is used than the loss of {amount}; {AtLeastZero(amount - before)} was left.", used);
            row.Error("loss-twice", row.RepeatsEarlier(of), "The loss of this year is entered twice; keep one row for each year.", of);
            row.Note("older-loss-first", used > 0 & row.SumOfEarlier(left, of) > 0, "An older loss is not used up yet; the oldest is usually used first.", used);
            return new Loss(used);
        }, "ITA").TiedTo(new RowTie(
            new TiedReturn(IndividualReturn.ReturnId, 1),
            "business.losses",
            "year",
            [new TiedColumn("year", "year"), new TiedColumn("amount", "amount"), new TiedColumn("used-before", "used-before", "used")])
        {
            LeftOutAtZero = "left",
            AndSingle = new TiedSingle("business.loss", AmountIn: "amount", YearIn: "year"),
        });

        Section("Income from business", "ITA");
        var usedLosses = Line("losses-used", "Losses of earlier years used", losses.Sum(l => l.Used));
        Income = Line("income", "Income from business", AtLeastZero(profit - usedLosses)).Final();

        Error("no-business", scope.Business & businesses.RowCount.Equals(0), "Add a page for each business, or answer in Scope that there was none.", scope.Business);
        Warn("loss-of-year", loss > 0, $"The loss of {loss} is not set against pay or other income (whether it may be is unsure); it is carried forward.", loss);
        Error("losses-above-profit", usedLosses > profit, $"Losses of {usedLosses} are used against a profit of {profit}; use no more than the profit.", usedLosses);
        Unchecked.Warn(this, "losses-used", usedLosses);
    }
}
