using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Children: allowances against child benefit, childcare, school fees, training away from home (EStG s. 10(1) no. 5, 9, 24b, 31, 32, 33a(2)).</summary>
public sealed class ChildrenForm : Form
{
    private sealed record Child(AmountLine Allowance, AmountLine Benefit, AmountLine Taken, AmountLine BenefitOfTaken, AmountLine Care, AmountLine School, AmountLine Away);

    private readonly RepeatingSection<Child> _children;

    /// <summary>Income before child allowances; given later.</summary>
    public readonly AmountLine IncomeBefore;

    /// <summary>Allowances of all children, those that are taken, and the child benefit that is added to the tax for those.</summary>
    public readonly AmountLine Allowances, Taken, BenefitOfTaken;

    /// <summary>Childcare and school fees; children in training away; relief of a lone parent.</summary>
    public readonly AmountLine Care, School, Away, LoneParent;

    /// <summary>How many children there are.</summary>
    public Amount HowMany => _children.RowCount;

    /// <summary>Declares the form.</summary>
    /// <param name="definition">The return.</param>
    /// <param name="law">The law.</param>
    /// <param name="scope">Scope.</param>
    /// <param name="tax">The tax on a taxable income.</param>
    public ChildrenForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxRule tax)
        : base(definition, "children", "Children", "One block for each child.", scope.Children)
    {
        Section("Before the allowances", "EStG s. 31");
        IncomeBefore = Line("income-before", "Income before child allowances");
        Amount TaxWithout(Amount allowances) => tax.On(Round(AtLeastZero(IncomeBefore - allowances), DownToUnits));

        var (first, last) = (new DateOnly(law.Year, 1, 1), new DateOnly(law.Year, 12, 31));
        _children = Repeating("children", "Children", "child", row =>
        {
            row.NamedBy(row.Text("name", "Name").From("birth certificate").Required());
            row.Identifier("number", Glossary.In("Identification number"), GermanyIdentifiers.Person).From("authority's letter").Required("Enter the child's identification number; without it there is no allowance, unless the child lives abroad.");
            var born = row.Date("born", "Date of birth").From("birth certificate").Required();
            var months = row.Count("months", "Months with a right to child benefit").Between(0, 12).From("child benefit notice").Required();
            var half = row.Answer("half", "The other parent has half?").Required().Hint("parents apart, or assessed separately");
            var share = If(half, 0.5m, 1);
            var allowance = row.Line("allowance", Glossary.In("Child allowances"), Round(law.ChildAllowance * share * months / 12, ToCents)).Law("EStG s. 32(6)");
            var order = row.NumberLine("order", "Days from 1900 until birth", DaysAfter(new DateOnly(1900, 1, 1), born)).Unit("days");
            var older = row.NumberLine("older", "Older children", row.SumOfEarlier(1, order));
            var bonus = law.ChildBonus is { } once ? If(months > 0, once, 0) : (Amount)0;
            var benefit = row.Line("benefit", Glossary.In("Child benefit") + ", right of these months", share * ((Step(law.ChildBenefit, older) * months) + bonus)).Law("EStG s. 31, 66");
            var before = row.Line("before", "Allowances of older children", row.SumOfEarlier(allowance, order));
            var saved = row.Line("saved", "Tax the allowances save", TaxWithout(before) - TaxWithout(before + allowance)).Law("EStG s. 31 s. 4");
            var better = row.Line("better", "The allowances are better", saved > benefit);
            var care = row.Entry("care", "Childcare, less what was refunded").From("invoices paid to an account").Hint("until the fourteenth birthday");
            var school = row.Entry("school", "School fees").From("school's certificate").Hint("without board and lodging");
            var away = row.Count("months-away", "Months above 18, in training and living away").Between(0, 12);
            row.Error("child-born-later", born > last, $"The child was born after {law.Year}; leave it for that year.", born);
            row.Warn("care-too-old", care > 0 & YearsFrom(born, first) >= law.ChildcareAge, "Childcare counts until the fourteenth birthday, unless the child is disabled.", care);
            row.Warn("away-too-young", away > 0 & YearsFrom(born, last) < law.AwayAge, "This amount is for children above 18.", away);
            row.Note("better", better, $"The allowances save {saved}, more than the child benefit of {benefit}.", allowance);
            return new Child(
                allowance, benefit,
                row.Line("taken", "Allowances taken", If(better, allowance, 0)),
                row.Line("benefit-of-taken", "Child benefit added to the tax", If(better, benefit, 0)).Law("EStG s. 31 s. 4, 36(2)"),
                row.Line("care-allowed", Glossary.In("Childcare"), Min(law.ChildcareShare * care, law.ChildcareMost), ToCents).Law("EStG s. 10(1) no. 5"),
                row.Line("school-allowed", "School fees", Min(law.SchoolShare * school, law.SchoolMost), ToCents).Law("EStG s. 10(1) no. 9"),
                row.Line("away-allowed", "Training away", law.ChildAway * away / 12, ToCents).Law("EStG s. 33a(2)"));
        }, "EStG s. 31, 32");

        Section("Lone parent", "EStG s. 24b", !scope.Joint);
        var alone = Answer("alone", "Living alone with a child, without another adult?").Hint("for whom there is child benefit");
        var monthsAlone = Count("alone-months", "Months of it").Between(1, 12).When(alone).RequiredWhen(alone);
        LoneParent = Line("lone-parent", Glossary.In("Lone-parent relief"), If(alone & HowMany > 0, (law.LoneParent + (law.LoneParentChild * AtLeastZero(HowMany - 1))) * monthsAlone / 12, 0), ToCents).Law("EStG s. 24b");

        Section("All children", "EStG s. 31");
        Allowances = Line("allowances", "Allowances of all children", _children.Sum(c => c.Allowance)).Law("EStG s. 32(6)");
        Taken = Line("allowances-taken", "Allowances taken", _children.Sum(c => c.Taken)).Law("EStG s. 31").Subtotal();
        BenefitOfTaken = Line("benefit-of-taken", "Child benefit added to the tax", _children.Sum(c => c.BenefitOfTaken)).Law("EStG s. 31 s. 4");
        Care = Line("care", Glossary.In("Childcare"), _children.Sum(c => c.Care));
        School = Line("school", "School fees", _children.Sum(c => c.School));
        Away = Line("away", "Children in training away from home", _children.Sum(c => c.Away));

        Error("no-child", scope.Children & HowMany.Equals(0), "Enter each child, or answer in Scope that there are none.", scope.Children);
    }
}
