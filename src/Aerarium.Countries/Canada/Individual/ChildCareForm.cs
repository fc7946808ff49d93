using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Child care, child by child, within the limits by age and two thirds of what the taxpayer earned.</summary>
public sealed class ChildCareForm : Form
{
    private sealed record Child(AmountLine Counts);

    /// <summary>Child care deducted.</summary>
    public readonly AmountLine Deduction;

    /// <summary>Declares the form.</summary>
    public ChildCareForm(Definition definition, FederalLaw law, ScopeForm scope, Amount earned)
        : base(definition, "child-care", "Child care", "Paid so that a parent could work or study; as a rule deducted by the parent with the lower net income.", scope.ChildCare)
    {
        var yearEnd = new DateOnly(law.Year, 12, 31);
        var children = Repeating("children", "Children", "child", row =>
        {
            row.NamedBy(row.Text("name", "Name").Required());
            var born = row.Date("birth-date", "Date of birth").Required();
            var disabled = row.Answer("disabled", "Disability certified?");
            var age = row.NumberLine("age", "Age on 31 December", YearsFrom(born, yearEnd)).Unit("years");
            row.Text("carer", "Who was paid, with social insurance number for a person").From("receipt").Required();
            var cost = row.Entry("cost", "Paid").From("receipts").Required();
            var most = row.Line("most", "At most", Decide("child care of a child", law.ChildCareOlder, (disabled, law.ChildCareDisabled), (age < law.ChildCareAge, law.ChildCareYoung), (age > law.ChildCareLastAge, 0))).Law("ITA 63(3)");
            var counts = row.Line("counts", "Counts", Min(cost, most));
            row.Note("child-care-cut", cost > counts, $"{cost - counts} is above the limit of {most} for this child and is lost.", cost);
            row.Warn("child-too-old-for-care", age > law.ChildCareLastAge & !disabled & cost > 0, $"At {age} child care counts only for an infirm child.", cost);
            return new Child(counts);
        }, "ITA 63");

        Section("What is deducted", "ITA 63");
        var all = Line("costs", "Costs within the limits", children.Sum(c => c.Counts));
        var income = Line("earned", "Earned income", AtLeastZero(earned)).Law("ITA 63(3) \"earned income\"");
        var share = Line("share", "Two thirds of it", income * 2 / 3, ToCents);
        Deduction = Line("deduction", "Child care", Min(all, share)).Law("ITA 63; line 21400").Final();
        Note("child-care-above-income", all > share, $"{all - share} is above two thirds of the earned income and is lost.", Deduction);
        Error("no-child-in-care", scope.ChildCare & children.RowCount.Equals(0), "Add each child, or answer in Scope that nothing was paid for care.", scope.ChildCare);
    }
}
