using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Business or profession: sales and receipts, other income, and the method chosen.</summary>
public sealed class BusinessForm : Form
{
    /// <summary>From where on sales are questioned; our own threshold, no law.</summary>
    private const decimal NearCeiling = 2_700_000;

    private sealed record Other(AmountLine Amount);

    /// <summary>Net sales and receipts; other income that is not of operations; share in a professional partnership; cost of sales.</summary>
    public readonly AmountLine NetSales, NetGoods, NetServices, NonOperating, PartnershipShare, CostOfSales, Gross;

    /// <summary>The method: one of them holds when business income is declared.</summary>
    public readonly Condition EightPerCent, Itemised, Standard;

    /// <summary>Declares the form.</summary>
    public BusinessForm(Definition definition, IncomeTaxLaw law, ScopeForm scope)
        : base(definition, "business", "Business and profession", "Sales and receipts, and how they are taxed.", scope.Business)
    {
        Section("Registration");
        Text("nature", "Nature of business or profession").From("registration certificate").Required();
        var vat = Answer("vat-registered", "Registered for value-added tax?").From("registration certificate").Required();
        var otherTax = Answer("other-percentage-tax", "Subject to another percentage tax than that of NIRC s. 116?").Required();
        var onlyShare = Answer("partnership-only", "Business income only as a share of a general professional partnership?").Required();

        Section("Method", "NIRC s. 24(A)(2), 34(L); RR 8-2018");
        var method = Choice("method", "Method for the year",
            [new("itemised", "Graduated, itemised deductions"), new("standard", "Graduated, standard deduction"), new("eight", "8% on sales and receipts")]).Required();
        EightPerCent = method.Is("eight");
        Itemised = method.Is("itemised");
        Standard = method.Is("standard");
        var elected = Answer("elected", "Elected in the first quarter's return, or on registration?").Required()
            .From("first quarter's return, registration").Hint("the election holds for the year; without one, graduated and itemised");

        Section("Sales and receipts", "NIRC s. 32");
        var goods = Entry("goods", "Gross sales of goods").InWholeUnits().From("books, sales ledger");
        var services = Entry("services", "Gross receipts and fees for services").InWholeUnits().From("books, sales ledger");
        var goodsBack = Entry("goods-returns", "Returns, allowances and discounts on goods").InWholeUnits().From("books, sales ledger");
        var servicesBack = Entry("services-returns", "Allowances and discounts on services").InWholeUnits().From("books, sales ledger");
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

        Error("no-sales", scope.Business & Gross.Equals(0) & PartnershipShare.Equals(0), "Enter sales, receipts or other income, or answer in Scope that there is no business.", goods);
        Error("returns-exceed-sales", NetGoods < 0 | NetServices < 0, "Returns and discounts are more than the sales; check the ledger.", goodsBack);
        Error("eight-above-ceiling", EightPerCent & Gross > law.EightPerCentCeiling,
            $"Sales, receipts and other income are {Gross}, above {law.EightPerCentCeiling}: 8% is not open, the whole year is graduated.", method);
        Error("eight-not-open", EightPerCent & (vat | otherTax | onlyShare),
            "8% is not open to who is registered for value-added tax, subject to another percentage tax, or has only a partnership's share.", method);
        Error("eight-not-elected", EightPerCent & elected.IsFilled() & !elected, "8% was not elected in time: the graduated table and itemised deductions hold for the year.", elected);
        Error("standard-not-elected", Standard & elected.IsFilled() & !elected, "The standard deduction was not elected in time: itemised deductions hold for the year.", elected);
        Error("eight-with-share", EightPerCent & PartnershipShare > 0,
            "How a partnership's share is taxed beside 8% is not covered here; take another method, or file it elsewhere.", PartnershipShare);
        Warn("near-ceiling", EightPerCent & Gross >= NearCeiling & Gross <= law.EightPerCentCeiling,
            $"Sales and other income, {Gross}, are near the ceiling of {law.EightPerCentCeiling}; check that nothing is missing.", goods);
        Warn("standard-with-share", Standard & PartnershipShare > 0, "The standard deduction does not apply to a partnership's share.", PartnershipShare);
        Note("percentage-tax", (Itemised | Standard) & vat.IsFilled() & !vat, "The percentage tax of NIRC s. 116 is due besides; 8% would have stood in its place.", method);
    }
}
