using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.IndividualQuarterly;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Taxable income of one column and the tax on it, by the method chosen.</summary>
public sealed class TaxForm : Form
{
    /// <summary>From where on sales are questioned; our own threshold, no law.</summary>
    private const decimal NearCeiling = 2_700_000;

    private sealed record Country(AmountLine Income, AmountLine Allowed);

    /// <summary>Income, deductions, taxable income, tax due and the credit for foreign tax.</summary>
    public readonly AmountLine Income, Deductions, Taxable, Due, ForeignCredit;

    /// <summary>Declares the form.</summary>
    /// <param name="definition">The return.</param>
    /// <param name="law">The law of the year.</param>
    /// <param name="column">The taxpayer's or the spouse's column.</param>
    /// <param name="compensation">Compensation of the column.</param>
    /// <param name="business">Business of the column.</param>
    /// <param name="deductions">Itemised deductions of the column.</param>
    /// <param name="undivided">The column's half of income that belongs to neither spouse alone.</param>
    /// <param name="special">Exempt and special-rate income; in the taxpayer's column only.</param>
    /// <param name="beside">The taxpayer's form, for the spouse's.</param>
    public TaxForm(
        Definition definition,
        IncomeTaxLaw law,
        Column column,
        CompensationForm compensation,
        BusinessForm business,
        DeductionsForm deductions,
        AmountLine undivided,
        SpecialIncomeForm? special,
        TaxForm? beside = null)
        : base(definition, "tax", "Tax due", "By the graduated table, or by 8% on sales and the table on compensation.", column.Applies, Column.Spouse(beside))
    {
        Section("Business income", "NIRC s. 24(A), 34", column.Business & !business.EightPerCent, opensFor: "business income not taxed at 8%");
        var cost = business.CostOfSales;
        var standard = Line("standard-deduction", "Optional standard deduction", If(business.Standard, law.StandardDeduction * business.NetSales, 0), ToUnits)
            .Law("NIRC s. 34(L)");
        var itemised = Line("itemised", "Itemised deductions", If(business.Itemised, deductions.Ordinary + deductions.Special + deductions.LossesUsed, 0));
        var net = Line("net-business", "Net income of operations", business.NetSales - cost - standard - itemised);
        var all = Line("business-income", "Business income", net + business.NonOperating + business.PartnershipShare).Subtotal();
        var taxableBusiness = Line("business-taxable", "Taxable business income; a loss never reduces compensation", AtLeastZero(all)).Law("NIRC s. 34, opening words");

        Section("8% on sales and receipts", "NIRC s. 24(A)(2)(b), (c); RR 8-2018", column.Business & business.EightPerCent, opensFor: "business income taxed at 8% of sales and receipts");
        var reduction = Line("reduction", "Reduction, for who has no compensation in the year", If(column.Compensation, 0, law.EightPerCentReduction));
        var eightBase = Line("eight-base", "Sales, receipts and other income less the reduction", AtLeastZero(business.NetSales + business.NonOperating + undivided - reduction));
        var eightTax = Line("eight-tax", "Tax of 8%", law.EightPerCent * eightBase, ToUnits).Law("NIRC s. 24(A)(2)(b)");

        Section("Tax", "NIRC s. 24(A)");
        var half = Line("undivided", "Half of the income that belongs to neither spouse alone", undivided).Law("NIRC s. 51(D)");
        var specialIncome = special is null ? (Amount)0 : special.Income;
        Income = Line("income", "Income",
            compensation.Taxable + half + specialIncome
            + If(business.EightPerCent, business.NetSales + business.NonOperating, business.NetSales - cost + business.NonOperating + business.PartnershipShare));
        Deductions = Line("deductions", "Deductions and reductions", If(business.EightPerCent, reduction, standard + itemised));
        Taxable = Line("taxable", "Taxable income", compensation.Taxable + If(business.EightPerCent, eightBase, taxableBusiness + half)).Subtotal();
        var byTable = Line("by-table", "Tax by the graduated table", Progressive(law.Table, If(business.EightPerCent, compensation.Taxable, Taxable)), ToUnits).Law("NIRC s. 24(A)(2)(a)");
        var ordinaryDue = byTable + eightTax;
        Due = Line("due", "Tax due", special is null ? ordinaryDue : ordinaryDue + special.Tax).Final();

        var countries = Repeating("foreign", "Tax paid abroad", "country", row =>
        {
            row.NamedBy(row.Text("country", "Country").Required());
            var income = row.Entry("income", "Taxable income from there, less than zero for a loss").InWholeUnits().MayBeNegative().From("foreign assessment").Required();
            var paid = row.Entry("paid", "Tax paid there").InWholeUnits().From("foreign assessment").Required();
            var limit = row.Line("limit", "Limit for the country", If(Taxable > 0, ordinaryDue * AtLeastZero(income) / Taxable, 0), ToUnits).Law("NIRC s. 34(C)(4)(a)");
            row.Note("foreign-loss", income < 0, "A loss there lowers the limit of all countries together (NIRC s. 34(C)(4)(b)); nothing is credited for the country itself.", income);
            row.Warn("foreign-cut", paid > limit, $"{paid - limit} of the tax paid there is above the country's limit and is lost.", paid);
            return new Country(income, row.Line("allowed", "Allowed for the country", Min(paid, limit)));
        }, "NIRC s. 34(C)", column.ForeignTax);

        Section("Credit for foreign tax", "NIRC s. 34(C)(4)", column.ForeignTax);
        var overall = Line("foreign-limit", "Limit for all countries together", If(Taxable > 0, ordinaryDue * AtLeastZero(countries.Sum(c => c.Income)) / Taxable, 0), ToUnits).Law("NIRC s. 34(C)(4)(b)");
        ForeignCredit = Line("foreign-credit", "Credit for foreign tax", Min(countries.Sum(c => c.Allowed), overall)).Subtotal();

        Section("The quarters beside the year", "NIRC s. 74, 75 by analogy", column.Business);
        var quarters = Entry("quarters-gross", "Sales, receipts and other income of the first three quarters").InWholeUnits().From("quarterly returns")
            .TiedTo([.. Enumerable.Range(1, 3).Select(q => new TiedReturn(IndividualQuarterlyReturn.ReturnId, 0, Periods.Quarter(q)).Line($"{business.Key}.gross"))]);
        var last = Entry("last-quarter-gross", "Sales, receipts and other income of the fourth quarter").InWholeUnits().From("books, sales ledger");
        var together = Line("all-quarters-gross", "All quarters together", quarters + last).Subtotal();
        Warn("quarters-differ", last.IsFilled() & Size(together - business.Gross) > 1,
            $"The quarters together are {together}, the year is {business.Gross}; find what one of them misses.", last);
        Warn("quarters-exceed-year", last.IsBlank() & quarters > business.Gross + 1,
            $"The first three quarters, {quarters}, are already more than the year, {business.Gross}; find what the year misses.", quarters);

        Error("no-sales", column.Business & business.Gross.Equals(0) & business.PartnershipShare.Equals(0),
            "Enter sales, receipts or other income, or answer in Scope that there is no business.", business.Gross);
        Error("eight-above-ceiling", business.EightPerCent & business.Gross > law.EightPerCentCeiling,
            $"Sales, receipts and other income are {business.Gross}, above {law.EightPerCentCeiling}: 8% is not open, the whole year is graduated.", business.Method);
        Warn("near-ceiling", business.EightPerCent & business.Gross >= NearCeiling & business.Gross <= law.EightPerCentCeiling,
            $"Sales and other income, {business.Gross}, are near the ceiling of {law.EightPerCentCeiling}; check that nothing is missing.", business.Gross);
        Warn("business-loss", all < 0 & column.Compensation, $"The business loss of {AtLeastZero(0 - all)} cannot reduce compensation.", all);
        Warn("foreign-with-eight", column.ForeignTax & business.EightPerCent, "Whether the credit for foreign tax goes with 8% is unsure; confirm it with the authority.", ForeignCredit);
        Warn("undivided-with-eight", half > 0 & business.EightPerCent, "How income of both spouses is taxed beside 8% is unsure; it is added to sales here. Confirm it with the authority.", half);
    }
}
