using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>
/// Income that an incentive law exempts or taxes at a rate of its own. The rates of those laws are not kept here: the rate is
/// entered from the certificate that grants it, and the line says so.
/// </summary>
public sealed class SpecialIncomeForm : Form
{
    private sealed record Item(AmountLine Net, AmountLine Exempt, AmountLine Tax);

    /// <summary>Net income under special rates, exempt income, and the tax by special rates.</summary>
    public readonly AmountLine Income, Exempt, Tax;

    /// <summary>Declares the form.</summary>
    public SpecialIncomeForm(Definition definition, ScopeForm scope)
        : base(definition, "special", "Exempt and special-rate income", "Income under an incentive or micro-enterprise law, apart from all other income.", scope.Special)
    {
        var items = Repeating("items", "Exempt or under a special rate", "activity", row =>
        {
            var kind = row.Choice("kind", "How it is treated", [new("exempt", "Exempt"), new("special", "Special rate")]).Required();
            row.NamedBy(row.Text("activity", "Activity").From("certificate of registration").Required());
            row.Text("basis", "Law or contract it rests on").From("certificate of registration").Required();
            var until = row.Date("until", "Holds until").From("certificate of registration").Required();
            var gross = row.Entry("gross", "Gross income of the activity").InWholeUnits().From("accounts").Required();
            var deductions = row.Entry("deductions", "Costs and deductions that belong to it").InWholeUnits().From("accounts");
            var rate = row.Entry("rate", "Special rate").Unit("%").Hint("from the certificate; not kept here").Between(0, 35).When(kind.Is("special")).RequiredWhen(kind.Is("special"));
            var net = row.Line("net", "Net income of the activity", gross - deductions);
            var exempt = row.Line("exempt", "Exempt", If(kind.Is("exempt"), net, 0));
            var tax = row.Line("tax", "Tax by the special rate", If(kind.Is("special"), AtLeastZero(net) * rate / 100, 0), ToUnits);
            row.Error("incentive-ended", until.IsFilled() & until < new DateOnly(definition.Year, 1, 1), "The incentive had ended before the year began; its income is taxed like any other.", until);
            row.Warn("incentive-ends", until.IsFilled() & until >= new DateOnly(definition.Year, 1, 1) & until < new DateOnly(definition.Year, 12, 31),
                $"The incentive ends on {until}, within the year: only income until then belongs here.", until);
            return new Item(net, exempt, tax);
        });

        Section("Together");
        Exempt = Line("exempt-total", "Exempt income", items.Sum(i => i.Exempt));
        Income = Line("special-income", "Net income under special rates", items.Sum(i => i.Net) - Exempt);
        Tax = Line("special-tax", "Tax by special rates", items.Sum(i => i.Tax)).Subtotal();
        Error("no-activity", scope.Special & items.RowCount.Equals(0), "Enter each activity, or answer in Scope that nothing is exempt or under a special rate.", scope.Special);
    }
}
