using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Taxable income and the tax on it, by the method chosen.</summary>
public sealed class TaxForm : Form
{
    private sealed record Country(AmountLine Income, AmountLine Allowed);

    /// <summary>Income, deductions, taxable income, tax due and the credit for foreign tax.</summary>
    public readonly AmountLine Income, Deductions, Taxable, Due, ForeignCredit;

    /// <summary>Declares the form.</summary>
    public TaxForm(
        Definition definition, IncomeTaxLaw law, ScopeForm scope, CompensationForm compensation, BusinessForm business, DeductionsForm deductions)
        : base(definition, "tax", "Tax due", "By the graduated table, or by 8% on sales and the table on compensation.")
    {
        Section("Business income", "NIRC s. 24(A), 34", scope.Business & !business.EightPerCent);
        var cost = business.CostOfSales;
        var standard = Line("standard-deduction", "Optional standard deduction", If(business.Standard, law.StandardDeduction * business.NetSales, 0), ToUnits)
            .Law("NIRC s. 34(L)");
        var itemised = Line("itemised", "Itemised deductions", If(business.Itemised, deductions.Ordinary + deductions.Special + deductions.LossesUsed, 0));
        var net = Line("net-business", "Net income of operations", business.NetSales - cost - standard - itemised);
        var all = Line("business-income", "Business income", net + business.NonOperating + business.PartnershipShare).Subtotal();
        var taxableBusiness = Line("business-taxable", "Taxable business income; a loss never reduces compensation", AtLeastZero(all)).Law("NIRC s. 34, opening words");

        Section("8% on sales and receipts", "NIRC s. 24(A)(2)(b), (c); RR 8-2018", scope.Business & business.EightPerCent);
        var reduction = Line("reduction", "Reduction, for who has no compensation in the year", If(scope.Compensation, 0, law.EightPerCentReduction));
        var eightBase = Line("eight-base", "Sales, receipts and other income less the reduction", AtLeastZero(business.NetSales + business.NonOperating - reduction));
        var eightTax = Line("eight-tax", "Tax of 8%", law.EightPerCent * eightBase, ToUnits).Law("NIRC s. 24(A)(2)(b)");

        Section("Tax", "NIRC s. 24(A)");
        Income = Line("income", "Income", compensation.Taxable + If(business.EightPerCent, business.NetSales + business.NonOperating, business.NetSales - cost + business.NonOperating + business.PartnershipShare));
        Deductions = Line("deductions", "Deductions and reductions", If(business.EightPerCent, reduction, standard + itemised));
        Taxable = Line("taxable", "Taxable income", compensation.Taxable + If(business.EightPerCent, eightBase, taxableBusiness)).Subtotal();
        var byTable = Line("by-table", "Tax by the graduated table", Progressive(law.Table, If(business.EightPerCent, compensation.Taxable, Taxable)), ToUnits).Law("NIRC s. 24(A)(2)(a)");
        Due = Line("due", "Tax due", byTable + eightTax).Final();

        var countries = Repeating("foreign", "Tax paid abroad", "country", row =>
        {
            row.NamedBy(row.Text("country", "Country").Required());
            var income = row.Entry("income", "Taxable income from there").InWholeUnits().From("foreign assessment").Required();
            var paid = row.Entry("paid", "Tax paid there").InWholeUnits().From("foreign assessment").Required();
            var limit = row.Line("limit", "Limit for the country", If(Taxable > 0, Due * income / Taxable, 0), ToUnits).Law("NIRC s. 34(C)(4)(a)");
            row.Warn("foreign-cut", paid > limit, $"{paid - limit} of the tax paid there is above the country's limit and is lost.", paid);
            return new Country(income, row.Line("allowed", "Allowed for the country", Min(paid, AtLeastZero(limit))));
        }, "NIRC s. 34(C)", scope.ForeignTax);

        Section("Credit for foreign tax", "NIRC s. 34(C)(4)", scope.ForeignTax);
        var overall = Line("foreign-limit", "Limit for all countries together", If(Taxable > 0, Due * countries.Sum(c => c.Income) / Taxable, 0), ToUnits).Law("NIRC s. 34(C)(4)(b)");
        ForeignCredit = Line("foreign-credit", "Credit for foreign tax", Min(countries.Sum(c => c.Allowed), AtLeastZero(overall))).Subtotal();

        Warn("business-loss", all < 0 & scope.Compensation, $"The business loss of {AtLeastZero(0 - all)} cannot reduce compensation.", all);
        Warn("foreign-with-eight", scope.ForeignTax & business.EightPerCent, "Whether the credit for foreign tax goes with 8% is unsure; confirm it with the authority.", ForeignCredit);
    }
}
