using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.CompanyAlberta;

/// <summary>From federal net income to that of Alberta: each difference is a line.</summary>
public sealed class AlbertaReconciliationForm : Form
{
    private sealed record Difference(AmountLine Federal, AmountLine Alberta, ChoiceLine Effect);

    private static readonly IReadOnlyList<Choice> Effects = [new("deducted", "Deducted from income"), new("added", "Added to income")];

    /// <summary>Net income for Alberta.</summary>
    public readonly AmountLine NetIncome;

    /// <summary>Declares the form.</summary>
    public AlbertaReconciliationForm(Definition definition, AlbertaScopeForm scope, DepreciationForm depreciation)
        : base(definition, "reconciliation", "Net income for Alberta", "From federal net income; what is discretionary may differ, and carries forward on its own.")
    {
        Section("Federal net income", "ACTA 5");
        var federal = Entry("federal", "Net income for tax, federal return").InWholeUnits().MayBeNegative().OfOneYear().Required().TiedTo(definition.Federal("reconciliation.net")).From("federal return, line 300");

        Section("Capital cost allowance", "ACTA 5", scope.DepreciationDiffers, name: "depreciation");
        var (claimed, recapture, terminal) = (Federal("federal-allowance", "Federal claim", "depreciation.claimed"), Federal("federal-recapture", "Federal recapture", "depreciation.recapture"), Federal("federal-terminal", "Federal terminal losses", "depreciation.terminal"));
        var allowance = Line("allowance", "Difference of the claim", claimed - depreciation.Claimed);
        var recaptureDiffers = Line("recapture", "Difference of the recapture", depreciation.Recapture - recapture);
        var terminalDiffers = Line("terminal", "Difference of terminal losses", terminal - depreciation.Terminal);

        var others = Repeating("others", "Other differences", "difference", row =>
        {
            row.NamedBy(row.Text("what", "What").Required());
            var effect = row.Choice("effect", "It is", Effects).Required();
            var ofFederal = row.Entry("federal", "Federal return").InWholeUnits().OfOneYear().Required();
            var ofAlberta = row.Entry("alberta", "Alberta").InWholeUnits().OfOneYear().Required();
            row.Entry("carried", "Carried forward for Alberta").InWholeUnits().Hint("the balance of its own");
            return new Difference(ofFederal, ofAlberta, effect);
        }, "ACTA 5", scope.OtherDifferences).AsGrid();

        Section("Net income for Alberta", "ACTA 5", name: "net-income");
        var other = Line("others-total", "Other differences", others.Sum(o => If(o.Effect.Is("deducted"), o.Federal - o.Alberta, o.Alberta - o.Federal)));
        NetIncome = Line("net", "Net income for Alberta, or a loss if negative", federal + allowance + recaptureDiffers + terminalDiffers + other).Final();
        Note("differs", NetIncome.DiffersFrom(federal), $"Net income for Alberta is {NetIncome}, and {federal} federally; the reconciliation explains the difference.", NetIncome);

        AmountLine Federal(string name, string label, string line) => Entry(name, label).InWholeUnits().OfOneYear().TiedTo(definition.Federal(line)).From("federal return");
    }
}

/// <summary>Alberta's taxable income, its part of the income, and its tax.</summary>
public sealed class AlbertaTaxForm : Form
{
    /// <summary>Taxable income, and Alberta's tax.</summary>
    public readonly AmountLine Taxable, Tax;

    /// <summary>The amount the small business deduction is given for.</summary>
    public readonly AmountLine Small;

    /// <summary>Declares the form.</summary>
    public AlbertaTaxForm(Definition definition, CorporationLaw law, AmountLine netIncome, AmountLine gifts, LossesForm losses, AmountLine dividends)
        : base(definition, "tax", "Alberta tax", "Alberta's taxable income, its part of the income, its tax; in whole dollars.")
    {
        Section("Taxable income", "ACTA 5");
        Taxable = Line("taxable", "Taxable income", AtLeastZero(netIncome - gifts - dividends - losses.NonCapital - losses.Capital)).Final();

        Section("Part earned in Alberta", "ITR 402; ACTA 2", name: "allocation");
        var provinces = Whole("provinces", "Provinces with an establishment", "scope.provinces");
        var several = provinces > 1;
        var (revenue, allRevenue) = (Entry("revenue", "Gross revenue in Alberta", "allocation.revenue-ab", several), Entry("revenue-total", "Gross revenue", "allocation.revenue", several));
        var (salaries, allSalaries) = (Entry("salaries", "Salaries in Alberta", "allocation.salaries-ab", several), Entry("salaries-total", "Salaries", "allocation.salaries", several));
        var ofAlberta = Line("income", "Taxable income of Alberta", Part(Taxable), ToUnits);

        Section("Small business deduction", "ACTA 22", name: "small-business");
        var ccpc = Answer("ccpc", "Canadian-controlled private corporation throughout?").Required().TiedTo(definition.Federal("scope.ccpc"));
        var claimed = Answer("claim-small", "Claim the deduction?").OfOneYear().UsuallyYes().When(ccpc).RequiredWhen(ccpc);
        var active = Entry("active", "Active business income", "tax.active-counted", ccpc);
        var limit = Entry("limit", "Business limit", "group.limit", ccpc);
        Small = Line("small", "Amount the deduction is given for", If(ccpc & claimed, AtLeastZero(Min(active, Taxable, limit)), 0)).Law("ACTA 22");
        var smallOfAlberta = Line("small-income", "of which of Alberta", Part(Small), ToUnits);

        Section("Alberta tax", "ACTA 21, 22", name: "alberta-tax");
        var before = Line("before", "Tax", law.AlbertaRate * ofAlberta, ToUnits).Law("ACTA 21");
        var deduction = Line("deduction", "Small business deduction", law.AlbertaSmall * smallOfAlberta, ToUnits).Law("ACTA 22");
        Tax = Line("tax", "Alberta tax", before - deduction).Final();

        Amount Part(Amount amount)
        {
            var (byRevenue, bySalaries) = (amount * revenue / Max(allRevenue, 1), amount * salaries / Max(allSalaries, 1));
            return If(several, If(allSalaries.Equals(0), byRevenue, If(allRevenue.Equals(0), bySalaries, (byRevenue + bySalaries) / 2)), amount);
        }

        AmountLine Entry(string name, string label, string line, Condition when) => this.Entry(name, label).InWholeUnits().OfOneYear().When(when).RequiredWhen(when).TiedTo(definition.Federal(line)).From("federal return");
        AmountLine Whole(string name, string label, string line) => Count(name, label).OfOneYear().Required().TiedTo(definition.Federal(line));
    }
}

/// <summary>Alberta's balance, days and charges.</summary>
public sealed class AlbertaBalanceForm : Form
{
    private readonly LateCharges _late;

    /// <summary>Balance, a refund if negative.</summary>
    public readonly AmountLine Balance;

    /// <summary>What was paid.</summary>
    public readonly AmountLine Paid;

    /// <summary>Charges until today.</summary>
    public readonly AmountLine Running;

    /// <summary>The day of payment.</summary>
    public readonly DateLine PaymentDay;

    /// <summary>Declares the form.</summary>
    public AlbertaBalanceForm(Definition definition, CorporationLaw law, AlbertaScopeForm scope, AlbertaTaxForm tax)
        : base(definition, "balance", "Balance", "Alberta tax, what was paid to Alberta, the balance and its days.")
    {
        var instalments = Repeating("instalments", "Instalments paid to Alberta", "instalment", row =>
        {
            row.NamedBy(row.Date("date", "Paid on").From("statement of Alberta's authority").Required());
            return row.Entry("amount", "Amount").InWholeUnits().From("statement of Alberta's authority").Required();
        }, "ACTA 38", scope.Instalments).AsGrid();

        Section("Balance", "ACTA 38", name: "balance");
        var due = Line("tax", "Alberta tax", tax.Tax);
        Paid = Line("paid", "Instalments", instalments.Sum(i => i));
        Balance = Line("balance", "Balance, or a refund if negative", due - Paid).Final();

        Section("When it is due", "ACTA 38", name: "due");
        var taxableBefore = Entry("taxable-before", "Taxable income of the period before").InWholeUnits().OfOneYear().When(!scope.First).From("last return").TiedTo(definition.PeriodBefore(AlbertaReturn.ReturnId).Line("tax.taxable"));
        var threeMonths = Line("three-months", "Due after three months", tax.Small > 0 & (scope.First | taxableBefore <= law.BusinessLimit)).Law("ACTA 38; from memory, likely");
        PaymentDay = Line("payment-day", "Balance to be paid by", CompanyDays.PaymentDay(scope.End, threeMonths, law.Year)).Law("ACTA 38");

        Section("Instalments of the next period", "ACTA 38", name: "instalments-ahead");
        var asked = Line("instalments-due", "Instalments are due", tax.Tax > law.AlbertaInstalmentFree & !threeMonths).Law("ACTA 38; from memory, likely");
        Line("monthly", "Each month, by this period's tax", If(asked, tax.Tax / 12, 0), ToUnits);

        Section("Charges so far", "ACTA 37", OnToday > scope.FilingDay & scope.FilingDay.IsFilled(), name: "charges");
        _late = new LateCharges(new FederalLaw(law.Year), scope.FilingDay, PaymentDay);
        Running = Line("penalty", "Penalty if filed today", _late.Penalty(AtLeastZero(Balance))).Law("ACTA 37").Hint("Alberta's interest is not held here");
        Warn("late", OnToday > scope.FilingDay & scope.FilingDay.IsFilled() & Balance > 0, $"The return is late: it was due on {scope.FilingDay}. A penalty of {Running} has run until today; Alberta's interest is not computed here.", Balance);
        Note("balance-due", Balance > 0 & PaymentDay.IsFilled(), $"The balance of {Balance} is to be paid to Alberta by {PaymentDay}.", Balance);
    }

    /// <summary>What is added to an amount paid after its day.</summary>
    public IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid) => [new("Penalty for filing late", _late.Penalty(unpaid), "ACTA 37")];
}
