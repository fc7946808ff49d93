using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>
/// Business or profession: sales and receipts of the period, other income, and the method chosen. The quarterly and the annual
/// return of one year share it; the method elected in the first quarter holds for the year and is followed by the later returns.
/// </summary>
public sealed class BusinessForm : Form
{
    private sealed record Other(AmountLine Amount);

    /// <summary>Net sales and receipts; other income that is not of operations; share in a professional partnership; cost of sales.</summary>
    public readonly AmountLine NetSales, NetGoods, NetServices, NonOperating, PartnershipShare, CostOfSales, Gross;

    /// <summary>The method: one of them holds when business income is declared.</summary>
    public readonly Condition EightPerCent, Itemised, Standard;

    /// <summary>The method, and whether it was elected in time.</summary>
    public readonly ChoiceLine Method;

    /// <summary>The percentage tax on the sales of the period, which 8% stands in the place of; filed by quarters in a return of its own.</summary>
    public readonly Amount PercentageTax;

    /// <summary>Declares the form.</summary>
    /// <param name="definition">The return.</param>
    /// <param name="law">The law of the year.</param>
    /// <param name="column">The taxpayer's or the spouse's column.</param>
    /// <param name="beside">The taxpayer's form, for the spouse's.</param>
    public BusinessForm(Definition definition, IncomeTaxLaw law, Column column, BusinessForm? beside = null)
        : base(definition, "business", "Business and profession", "Sales and receipts, and how they are taxed.", column.Business, Column.Spouse(beside))
    {
        Section("Registration");
        Text("nature", "Nature of business or profession").From("registration certificate").Required();
        var vat = Answer("vat-registered", "Registered for value-added tax?").From("registration certificate").Required();
        var otherTax = Answer("other-percentage-tax", "Subject to another percentage tax than that of NIRC s. 116?").Required();
        var onlyShare = Answer("partnership-only", "Business income only as a share of a general professional partnership?").Required();

        Section("Method", "NIRC s. 24(A)(2), 34(L); RR 8-2018");
        Method = Choice("method", "Method for the year",
            [new("itemised", "Graduated, itemised deductions"), new("standard", "Graduated, standard deduction"), new("eight", "8% on sales and receipts")]).Required().Elective("elected in the first quarter's return, for the whole year");
        var method = Method;
        if (definition.Period != Periods.Quarter(1))
        {
            method.TiedTo(new TiedReturn("ph/individual-quarterly", 0, Periods.Quarter(1), column.Relation).Line("business.method"));
        }

        EightPerCent = method.Is("eight");
        Itemised = method.Is("itemised");
        Standard = method.Is("standard");
        var elected = Answer("elected", "Elected in the first quarter's return, or on registration?").RequiredWhen(!Itemised).When(!Itemised)
            .From("first quarter's return, registration").Hint("the election holds for the year; without one, graduated and itemised");

        var owesPercentageTax = column.Business & method.IsFilled() & !EightPerCent & vat.IsFilled() & !vat & !otherTax;

        Section("Sales and receipts", "NIRC s. 32");
        var goods = Entry("goods", "Gross sales of goods").InWholeUnits().TakesMoreIncome().From("books, sales ledger");
        var services = Entry("services", "Gross receipts and fees for services").InWholeUnits().TakesMoreIncome().From("books, sales ledger");
        var goodsBack = Entry("goods-returns", "Returns, allowances and discounts on goods").InWholeUnits().From("books, sales ledger");
        var servicesBack = Entry("services-returns", "Allowances and discounts on services").InWholeUnits().From("books, sales ledger");
        var salesToJune = law.PercentageTaxChangesInJuly && definition.Period.Length == 0
            ? Entry("sales-to-june", "Gross sales and receipts until 30 June").InWholeUnits().From("percentage tax returns").Law("NIRC s. 116").When(owesPercentageTax)
            : null;
        NetGoods = Line("net-goods", "Net sales of goods", goods - goodsBack);
        NetServices = Line("net-services", "Net receipts for services", services - servicesBack);
        NetSales = Line("net-sales", "Net sales and receipts", NetGoods + NetServices).Subtotal();

        var others = Repeating("non-operating", "Other income, not of operations", "item", row =>
        {
            row.NamedBy(row.Text("name", "What it is").Required());
            return new Other(row.Entry("amount", "Amount").InWholeUnits().From("books").Required());
        });

        Section("Other");
        NonOperating = Line("other-income", "Other income, not of operations", others.Sum(o => o.Amount));
        PartnershipShare = Entry("partnership-share", "Share in a general professional partnership").InWholeUnits().From("partnership's certificate");
        CostOfSales = Entry("cost", "Cost of sales or services").InWholeUnits().From("accounts").When(Itemised).Law("NIRC s. 27(E)(4) by analogy");
        Gross = Line("gross", "Gross sales, receipts and other income", goods + services + NonOperating).Law("RR 8-2018").Subtotal();

        PercentageTax = If(owesPercentageTax, PercentageTaxOn(law, goods + services, salesToJune), 0);
        if (salesToJune is not null)
        {
            Error("sales-to-june", salesToJune > goods + services, "More is entered until 30 June than in the whole year; correct one of them.", salesToJune, goods, services);
            Warn("sales-to-june-missing", owesPercentageTax & (goods + services > 0) & salesToJune.IsBlank(),
                "Enter the sales and receipts until 30 June: the rate of the percentage tax changed on 1 July, and until then the comparison of methods counts all of them at the later rate.", salesToJune);
        }

        Error("returns-exceed-sales", NetGoods < 0 | NetServices < 0, "Returns and discounts are more than the sales; check the ledger.", goodsBack);
        Error("eight-not-open", EightPerCent & (vat | otherTax | onlyShare),
            "8% is not open to who is registered for value-added tax, subject to another percentage tax, or has only a partnership's share.", method);
        Error("eight-not-elected", EightPerCent & elected.IsFilled() & !elected, "8% was not elected in time: the graduated table and itemised deductions hold for the year.", elected, method);
        Error("standard-not-elected", Standard & elected.IsFilled() & !elected, "The standard deduction was not elected in time: itemised deductions hold for the year.", elected, method);
        Error("eight-with-share", EightPerCent & PartnershipShare > 0,
            "How a partnership's share is taxed beside 8% is not covered here; take another method, or file it elsewhere.", PartnershipShare, method);
        Warn("standard-with-share", Standard & PartnershipShare > 0, "The standard deduction does not apply to a partnership's share.", PartnershipShare);
        Note("percentage-tax", (Itemised | Standard) & vat.IsFilled() & !vat, "The percentage tax of NIRC s. 116 is due besides, quarter by quarter in its own return; 8% would have stood in its place.", method);
        if (definition.Period != Periods.Quarter(1))
        {
            Note("not-elected", Itemised & Gross <= law.EightPerCentCeiling,
                "Where nothing else was elected in the first quarter, the graduated table and itemised deductions hold for the whole year; 8% is open again with next year's first quarter.", method);
        }
        else
        {
            Note("before-election", method.IsBlank() | elected.IsBlank(), "Compare 8%, the standard deduction and itemised deductions before the election: it holds for the whole year.", method);
        }
    }

    /// <summary>The percentage tax on the sales of the period (NIRC s. 116); where its rate changed in July, each half of the year at its own.</summary>
    private Amount PercentageTaxOn(IncomeTaxLaw law, Amount sales, AmountLine? toJune) =>
        toJune is not null ? (law.PercentageTaxToJune * toJune) + (law.PercentageTax * (sales - toJune))
        : (Definition.Period == Periods.Quarter(1) ? law.PercentageTaxOf(1) : law.PercentageTax) * sales;
}
