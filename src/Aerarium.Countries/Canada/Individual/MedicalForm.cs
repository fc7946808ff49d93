using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Medical expenses of the family for twelve months that end in the year, and of other relatives.</summary>
public sealed class MedicalForm : Form
{
    private sealed record Relative(AmountLine Total, AmountLine NetIncome);

    private readonly RepeatingSection<Relative> _relatives;

    /// <summary>Expenses of taxpayer, spouse and children under 18 that are claimed here.</summary>
    public readonly AmountLine Claimed;

    /// <summary>Whether anything is claimed for other relatives.</summary>
    public Condition HasRelatives => _relatives.RowCount > 0;

    /// <summary>Expenses of other relatives above the threshold, each by that person's own net income.</summary>
    public Amount OfRelatives(FederalLaw law, Parameter cap) => _relatives.Sum(r => AtLeastZero(r.Total - Min(Round(law.MedicalShare * r.NetIncome, ToCents), cap)));

    /// <summary>Declares the form.</summary>
    public MedicalForm(Definition definition, FederalLaw law, ScopeForm scope)
        : base(definition, "medical", "Medical expenses", "Receipts with date, person and payer; any twelve months that end in the year. One of the spouses claims for both.", scope.Medical | scope.Spouse)
    {
        var (start, yearEnd) = (new DateOnly(law.Year, 1, 1), new DateOnly(law.Year, 12, 31));
        Section("The twelve months", "ITA 118.2(1)", scope.Medical);
        var end = Date("window-end", "Twelve months ending on").OfOneYear().Hint("blank: 31 December; the household finds the months that give most");
        var until = Line("window-until", "Last day", end.Or(yearEnd));
        var since = Line("window-since", "First day", until.AddDays(1).AddYears(-1));
        Warn("window-outside-year", end.IsFilled() & (end < start | end > yearEnd), $"The twelve months must end in {law.Year}; {end} lies outside it.", end);

        var receipts = Repeating("receipts", "Receipts of taxpayer, spouse and children under 18", "receipt", row =>
        {
            var date = row.Date("date", "Paid on").From("receipt").Required();
            row.Choice("person", "For", [new("self", "Taxpayer"), new("spouse", "Spouse"), new("child", "Child under 18")]).Required();
            var what = row.Text("what", "What, and paid to whom").From("receipt").Required();
            row.NamedBy(what);
            var amount = row.Entry("amount", "Paid").From("receipt").Required();
            var refunded = row.Entry("refunded", "Refunded by insurers").From("insurer's statement");
            var claimed = row.Answer("claimed-before", "Claimed last year?");
            row.Error("refund-above-receipt", refunded > amount, $"More is refunded, {refunded}, than was paid, {amount}; check the receipt.", refunded);
            row.Error("receipt-twice", row.RepeatsEarlier(date, what, amount), "This receipt is entered twice: same day, same payer, same amount.", what);
            row.Note("receipt-outside-window", date.IsFilled() & (date < since | date > until), $"Outside the twelve months to {until}; it does not count this year.", date);
            return row.Line("counts", "Counts", If(!claimed & date >= since & date <= until, amount - refunded, 0)).Law("ITA 118.2(2), (3)");
        }, "ITA 118.2", scope.Medical).AsGrid();

        Section("Who claims", "ITA 118.2(1)", scope.Medical | scope.Spouse);
        var total = Line("total", "Receipts that count", receipts.Sum(r => r));
        var bySpouse = Answer("claimed-by-spouse", "Claimed on the spouse's return?").OfOneYear().When(scope.Spouse & scope.Medical).Hint("compared for both in the household");
        Line("to-spouse", "Goes to the spouse's return", If(bySpouse, total, 0));
        var received = Entry("from-spouse", "From the spouse's return").OfOneYear().When(scope.Spouse).TiedTo(OfSpouse("to-spouse"));
        var spouseUntil = Date("from-spouse-until", "for the twelve months ending on").OfOneYear().When(scope.Spouse & received > 0).TiedTo(OfSpouse("window-until"));
        Claimed = Line("claimed", "Claimed here", If(bySpouse, 0, total) + received).Law("line 33099").Subtotal();
        Error("two-windows", received > 0 & total > 0 & spouseUntil.IsFilled() & spouseUntil.DiffersFrom(until), $"The spouse's receipts are for the twelve months to {spouseUntil}, these for those to {until}; one claim has one period.", end);

        _relatives = Pages("relatives", "Other relatives", "relative", page =>
        {
            page.Part("The relative");
            page.NamedBy(page.Text("name", "Name").Required());
            var income = page.Entry("net-income", "Net income, line 23600").OfOneYear().Required();
            var paid = page.RowsWithin("relative-receipts", "Receipts", "receipt", row =>
            {
                row.NamedBy(row.Text("what", "What, and paid to whom").From("receipt").Required());
                row.Date("date", "Paid on").From("receipt").Required();
                return row.Entry("amount", "Paid, less refunds").From("receipt").Required();
            }).AsGrid();
            page.Part("Together", "ITA 118.2(1)D");
            return new Relative(page.Line("total", "Receipts", PageScope.Sum(paid, p => p)), income);
        }, "ITA 118.2(1)D", scope.Medical);
    }

    private TieSource OfSpouse(string line) => new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line($"{Key}.{line}");
}
