using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Barbados.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Allowances for a spouse with little income and for children; the amounts allowed are entered.</summary>
public sealed class AllowancesForm : Form
{
    private sealed record Child(AmountLine Amount);

    /// <summary>Allowances for spouse and children.</summary>
    public readonly AmountLine Total;

    /// <summary>Declares the form.</summary>
    public AllowancesForm(Definition definition, IncomeTaxLaw law, ScopeForm scope)
        : base(definition, "allowances", "Spouse and children", "Whom the taxpayer supports.", scope.Spouse | scope.Children)
    {
        var yearEnd = new DateOnly(law.Year, 12, 31);
        Section("Spouse", "ITA", scope.Spouse);
        Text("spouse-name", "Spouse's name").Required();
        Identifier("spouse-registration", "Spouse's national registration number", BarbadosIdentifiers.NationalRegistration).Required();
        var income = Entry("spouse-income", "Spouse's income").Required().OfOneYear()
            .TiedTo(new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line("tax.assessable"));
        var spouse = Entry("spouse-allowance", "Allowance for the spouse, amount allowed").Required().OfOneYear()
            .Hint($"{law.SpouseAllowance.ValueInWords}; less what the income above {law.SpouseIncomeTest.ValueInWords} takes away: unsure");
        Warn("spouse-income-test", income > law.SpouseIncomeTest & spouse > 0,
            $"The spouse's income of {income} is above {law.SpouseIncomeTest}: check how far the allowance is reduced.", spouse, income);
        Warn("spouse-above-allowance", spouse > law.SpouseAllowance, $"The allowance for a spouse is {law.SpouseAllowance} (likely); {spouse} is entered.", spouse);
        Unchecked.Warn(this, "spouse", spouse);

        var children = Repeating("children", "Children", "child", row =>
        {
            row.NamedBy(row.Text("name", "Name").Required());
            var born = row.Date("birth-date", "Date of birth").Required();
            var age = row.NumberLine("age", "Age on 31 December", YearsFrom(born, yearEnd)).Unit("years");
            var student = row.Answer("in-education", "In full-time education?").OfOneYear().RequiredWhen(age >= law.ChildAge);
            var amount = row.Entry("amount", "Allowance, amount allowed").OfOneYear().Hint("in force in each year? unsure; leave blank for none");
            row.Error("child-born-later", born > yearEnd, $"The child was born after {law.Year}; leave it for next year.", born);
            row.Warn("child-too-old", amount > 0 & age >= law.ChildAge & !student, $"At {age} a child counts only in education (unsure); answer whether it is, or leave the allowance out.", amount);
            row.Warn("student-too-old", amount > 0 & student & age > law.StudentAge, $"A child in education counts to the age of {law.StudentAge} (unsure); this one is {age}.", amount);
            return new Child(amount);
        }, "ITA", scope.Children);

        Section("Together", "ITA");
        var childrenTotal = Line("children-total", "Allowances for children", children.Sum(c => c.Amount));
        Total = Line("total", "Allowances for spouse and children", spouse + childrenTotal).Subtotal();
        Error("no-child", scope.Children & children.RowCount.Equals(0), "Add each child, or answer in Scope that there is none.", scope.Children);
        Warn("too-many-children", children.CountWhere(c => c.Amount > 0) > law.MostChildren,
            $"An allowance is given for {law.MostChildren} children at most (unsure); {children.CountWhere(c => c.Amount > 0)} are claimed.", childrenTotal);
        Unchecked.Warn(this, "children", childrenTotal);
    }
}
