using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Retirement savings withdrawn, scholarships and whatever else is income.</summary>
public sealed class OtherIncomeForm : Form
{
    private sealed record Item(AmountLine Savings, AmountLine HomeSavings, AmountLine Scholarships, AmountLine Other, AmountLine Tax);

    /// <summary>Amounts by line of the return.</summary>
    public readonly AmountLine Savings, HomeSavings, Scholarships, Other;

    /// <summary>Tax deducted.</summary>
    public readonly AmountLine Tax;

    /// <summary>Declares the form.</summary>
    public OtherIncomeForm(Definition definition, ScopeForm scope)
        : base(definition, "other", "Other income", "One block for each slip or kind of income.", scope.Other)
    {
        var items = Repeating("items", "Slips T4RSP, T4A and T4FHSA, and other income", "income", row =>
        {
            var kind = row.Choice("kind", "Kind", [
                new("retirement", "Retirement savings withdrawn (T4RSP, box 22)"), new("home-savings", "First home savings withdrawn, not for a home (T4FHSA, box 22)"),
                new("scholarship", "Scholarship, taxable part (T4A, box 105)"), new("lump-sum", "Lump sum (T4A, box 018)"), new("other", "Other (T4A, box 028)"),
            ]).Required();
            row.NamedBy(row.Text("payer", "Payer, or what it is").From("slip").Required());
            var amount = row.Entry("amount", "Amount").TakesMoreIncome().From("slip T4RSP, box 22, or T4A, box 018, 028 or 105").Required();
            AmountLine Of(string name, string label, params string[] kinds) => row.Line(name, label, kinds.Select(k => (Amount)Core.Formulas.Law.If(kind.Is(k), amount, 0)).Aggregate((a, b) => a + b));
            return new Item(
                Of("savings", "Retirement savings", "retirement"), Of("first-home", "First home savings", "home-savings"), Of("scholarships", "Scholarships", "scholarship"),
                Of("rest", "Other", "lump-sum", "other"), row.Entry("tax", "Tax deducted").From("slip T4RSP, box 30, or T4A, box 022"));
        }, "ITA 56");

        Section("Together", "ITA 56");
        Savings = Line("savings", "Retirement savings withdrawn", items.Sum(i => i.Savings)).Law("ITA 146(8); line 12900");
        HomeSavings = Line("first-home", "First home savings withdrawn", items.Sum(i => i.HomeSavings)).Law("ITA 146.6; line 12905");
        Scholarships = Line("scholarships", "Scholarships", items.Sum(i => i.Scholarships)).Law("ITA 56(1)(n); line 13010");
        Other = Line("rest", "Other income", items.Sum(i => i.Other)).Law("ITA 56; line 13000");
        Tax = Line("tax", "Tax deducted", items.Sum(i => i.Tax)).Law("line 43700");
        Error("no-other-income", scope.Other & items.RowCount.Equals(0), "Add each slip or kind of income, or answer in Scope that there was none.", scope.Other);
    }
}
