using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>The incomes of both persons, reliefs, and the total income (EStG s. 2(3), 24a, 24b).</summary>
public sealed class IncomeForm : Form
{
    /// <summary>Sum of incomes and total income.</summary>
    public readonly AmountLine Sum, Total;

    /// <summary>Other income of both; total income of each alone, by which church tax of one of them is shared.</summary>
    public readonly AmountLine Other, Own, OfSpouse;

    /// <summary>Declares the form.</summary>
    public IncomeForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxpayerForm taxpayer, (WageForm Own, WageForm Spouse) wages, (WorkCostsForm Own, WorkCostsForm Spouse) work, CapitalForm capital, ChildrenForm children)
        : base(definition, "income", "Incomes", "Employment and other income, reliefs, and the total.")
    {
        Section("Other income", "EStG s. 2(1)", scope.OtherIncome, "other");
        var other = Entry("other-income", "Other income, its result").MayBeNegative().RequiredWhen(scope.OtherIncome).Hint("rent, pension, business: not computed here");
        var spouseOther = Entry("spouse-other-income", "The spouse's").MayBeNegative().When(scope.Joint);
        Note("not-computed", Size(other) + Size(spouseOther) > 0, "Other income is taken as entered; its schedule is not computed here and is filed with it.", other);

        Section(Glossary.In("Sum of incomes"), "EStG s. 2(3)", name: "sum");
        var employment = Line("employment", Glossary.In("Employment income"), work.Own.Income);
        var spouseEmployment = Line("spouse-employment", "The spouse's", work.Spouse.Income);
        Other = Line("other", "Other income", other + spouseOther);
        var byTariff = Line("capital", Glossary.In("Capital income") + " taxed by the tariff", capital.ByTariff + capital.ByTariffOfSpouse).Law("EStG s. 32d(6)");
        Sum = Line("sum", Glossary.In("Sum of incomes"), employment + spouseEmployment + Other + byTariff).Subtotal();

        Section(Glossary.In("Total income"), "EStG s. 2(3), 24a, 24b", name: "total");
        var age = Relief("age-relief", "Relief for age", taxpayer.BirthDate, wages.Own, other + capital.ByTariff);
        var spouseAge = Relief("spouse-age-relief", "The spouse's", taxpayer.SpouseBirthDate, wages.Spouse, spouseOther + capital.ByTariffOfSpouse);
        var lone = Line("lone-parent", Glossary.In("Lone-parent relief"), children.LoneParent).Law("EStG s. 24b");
        Own = Line("own", "Income of the taxpayer alone", employment + other + capital.ByTariff - age);
        OfSpouse = Line("of-spouse", "Income of the spouse alone", spouseEmployment + spouseOther + capital.ByTariffOfSpouse - spouseAge);
        Total = Line("total-income", Glossary.In("Total income"), Sum - age - spouseAge - lone).Law("EStG s. 2(3)").Final();

        AmountLine Relief(string name, string label, DateLine born, WageForm wage, Amount otherIncome)
        {
            var base_ = wage.Gross - wage.Pensions + AtLeastZero(otherIncome);
            var first = Year(born.AddYears((int)law.AgeForRelief.Value)) + 1;
            return Line(name, label, If(born.IsFilled() & YearsFrom(born, new DateOnly(law.Year - 1, 12, 31)) >= law.AgeForRelief,
                Min(Step(law.AgeMost, first), Round(Step(law.AgeShare, first) * base_ / 100, new Rounding(1m, RoundingMode.Up))), 0)).Law("EStG s. 24a");
        }
    }
}
