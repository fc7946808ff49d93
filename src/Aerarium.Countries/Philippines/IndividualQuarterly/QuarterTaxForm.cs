using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualQuarterly;

/// <summary>
/// Tax of one column on the income from 1 January to the end of the quarter. Who has elected 8% and passes its ceiling is
/// graduated on all income of the year from the quarter of passing on; what was paid before is a credit.
/// </summary>
public sealed class QuarterTaxForm : Form
{
    /// <summary>Income to date, taxable income to date, tax due on it.</summary>
    public readonly AmountLine Income, Taxable, Due;

    /// <summary>Declares the form.</summary>
    public QuarterTaxForm(Definition definition, IncomeTaxLaw law, Column column, BusinessForm business, DeductionsForm deductions, QuarterTaxForm? beside = null)
        : base(definition, "tax", "Tax due", "On the income from 1 January to the end of the quarter.", column.Applies, Column.Spouse(beside))
    {
        // Every figure 'to date' follows the same line of the quarter before, which already holds the quarters before that.
        TieSource[] Before(string line) => [.. IndividualQuarterlyReturn.Earlier(definition).TakeLast(1).Select(q => q.Line($"{Key}.{line}"))];

        Section("This quarter", "NIRC s. 74", column.Business & !business.EightPerCent, opensFor: "business income not taxed at 8%");
        var standard = Line("standard-deduction", "Optional standard deduction", If(business.Standard, law.StandardDeduction * business.NetSales, 0), ToUnits).Law("NIRC s. 34(L)");
        var itemised = Line("itemised", "Itemised deductions", If(business.Itemised, deductions.Ordinary + deductions.Special, 0));
        var quarter = Line("quarter-income", "Income of the quarter",
            business.NetSales - business.CostOfSales - standard - itemised + business.NonOperating + business.PartnershipShare).Subtotal();

        Section("Sales to date", "NIRC s. 24(A)(2)(b); RR 8-2018", column.Business);
        var grossBefore = Entry("gross-before", "Gross sales, receipts and other income of earlier quarters").InWholeUnits().From("return of the quarter before").TiedTo(Before("gross-to-date"));
        var gross = Line("gross-to-date", "Gross sales, receipts and other income to date", grossBefore + business.Gross).Subtotal();
        var netBefore = Entry("net-before", "Net sales, receipts and other income of earlier quarters").InWholeUnits().From("return of the quarter before").TiedTo(Before("net-to-date"));
        var netToDate = Line("net-to-date", "Net sales, receipts and other income to date", netBefore + business.NetSales + business.NonOperating).Subtotal();
        var passed = business.EightPerCent & gross > law.EightPerCentCeiling;

        Section("8% to date", "NIRC s. 24(A)(2)(b), (c); RR 8-2018", column.Business & business.EightPerCent & !passed, opensFor: "business income taxed at 8% while the ceiling is not passed");
        var reduction = Line("reduction", "Reduction, for who has no compensation in the year", If(column.Compensation, 0, law.EightPerCentReduction));
        var eightBase = Line("eight-base", "Sales, receipts and other income to date less the reduction", AtLeastZero(netToDate - reduction));
        var eightTax = Line("eight-tax", "Tax of 8%", law.EightPerCent * eightBase, ToUnits).Law("NIRC s. 24(A)(2)(b)");

        Section("Ceiling of 8% passed", "NIRC s. 24(A)(2)(b); RR 8-2018", column.Business & passed, opensFor: "business income at 8% once sales and receipts pass the ceiling");
        var costToDate = Entry("cost-to-date", "Cost of sales and itemised deductions from 1 January to date").InWholeUnits().From("accounts").Required();
        var passedIncome = Line("passed-income", "Income to date, graduated", netToDate - costToDate).Subtotal();

        Section("Graduated, to date", "NIRC s. 74, 24(A)", column.Business & !business.EightPerCent, opensFor: "business income not taxed at 8%");
        var incomeBefore = Entry("income-before", "Income of earlier quarters, or their loss if negative").InWholeUnits().MayBeNegative().From("return of the quarter before").TiedTo(Before("income-to-date"));
        var incomeToDate = Line("income-to-date", "Income to date, or the loss if negative", incomeBefore + quarter).Subtotal();
        var losses = Entry("losses-used", "Losses of earlier years used, to date").InWholeUnits().From("returns of those years").When(business.Itemised).Law("NIRC s. 34(D)(3)")
            .Hint("whether a quarter may use them is likely, not certain");

        Section("Tax", "NIRC s. 24(A)");
        Income = Line("income", "Income to date", If(business.EightPerCent & !passed, netToDate, If(passed, passedIncome, incomeToDate)));
        Taxable = Line("taxable", "Taxable income to date", If(business.EightPerCent & !passed, eightBase, AtLeastZero(If(passed, passedIncome, incomeToDate - losses)))).Subtotal();
        var byTable = Line("by-table", "Tax by the graduated table", If(business.EightPerCent & !passed, 0, Progressive(law.Table, Taxable)), ToUnits).Law("NIRC s. 24(A)(2)(a)");
        Due = Line("due", "Tax due to date", byTable + eightTax).Final();

        Error("losses-exceed-income", losses > AtLeastZero(incomeToDate), "More losses are used than there is income to date.", losses);
        Warn("ceiling-passed", passed, $"Gross sales and other income to date are {gross}, above {law.EightPerCentCeiling}: the year is graduated; what was paid at 8% is credited.", gross);
        if (IndividualQuarterlyReturn.Earlier(definition).Any())
        {
            Warn("earlier-quarters-blank", column.Business & grossBefore.IsBlank(), "The quarters before are missing; enter what they showed, or zero.", grossBefore);
        }
    }
}
