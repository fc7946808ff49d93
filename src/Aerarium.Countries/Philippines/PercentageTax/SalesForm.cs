using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.PercentageTax;

/// <summary>Gross sales and receipts of the quarter; with those of the quarters before where 8% no longer stands in the place of the tax.</summary>
public sealed class SalesForm : Form
{
    /// <summary>Sales and receipts that are taxed with this return.</summary>
    public readonly AmountLine Gross;

    /// <summary>The tax on them, each at the rate of its time; not rounded.</summary>
    public readonly Amount Tax;

    /// <summary>Declares the form.</summary>
    public SalesForm(Definition definition, IncomeTaxLaw law, PercentageTaxScopeForm scope)
        : base(definition, "sales", "Sales", "Gross, before any deduction.")
    {
        var quarter = Periods.QuarterOf(definition.Period);
        Section("Sales and receipts of the quarter", "NIRC s. 116; EOPT");
        var goods = Entry("goods", "Gross sales of goods").InWholeUnits().TakesMoreIncome().From("books, sales ledger");
        var services = Entry("services", law.ServicesBySales ? "Gross sales of services" : "Gross receipts for services").InWholeUnits().TakesMoreIncome().From("books, sales ledger");
        if (PercentageTaxScopeForm.IncomeTaxOf(definition) is { } income)
        {
            goods.TiedTo(income.Line("business.goods"));
            services.TiedTo(income.Line("business.services"));
        }

        var (sales, tax) = (goods + services, law.PercentageTaxOf(quarter) * (goods + services));
        if (quarter > 1)
        {
            Section("Earlier quarters, no longer taxed at 8%", "RR 8-2018", scope.Passed);
            var before = Entry("before", "Sales and receipts of the earlier quarters of the year").InWholeUnits().From("returns of the quarters before").Required();
            (sales, tax) = (sales + before, tax + TaxOfQuartersBefore(law, quarter, before));
        }

        Section("Together", "NIRC s. 116");
        Gross = Line("gross", "Sales and receipts taxed with this return", sales).Subtotal();
        Tax = tax;
        Note("no-sales", Gross.Equals(0), "A quarter without sales is filed all the same.", Gross);
        Warn("above-ceiling", goods + services > law.EightPerCentCeiling, $"The sales of this quarter alone are above {law.EightPerCentCeiling}: registration for value-added tax is due.", goods, services);
    }

    /// <summary>The tax on the quarters before; where its rate changed in July, each part at the rate of its time.</summary>
    private Amount TaxOfQuartersBefore(IncomeTaxLaw law, int quarter, AmountLine before)
    {
        if (!law.PercentageTaxChangesInJuly || quarter <= 2)
        {
            return law.PercentageTaxOf(quarter) * before;
        }

        var toJune = Entry("before-to-june", "of which until 30 June").InWholeUnits().From("returns of the quarters before").Required();
        Error("before-to-june", toJune > before, "More is entered until 30 June than for all earlier quarters; correct one of them.", toJune, before);
        return (law.PercentageTaxToJune * toJune) + (law.PercentageTax * (before - toJune));
    }
}
