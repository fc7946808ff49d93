using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>What a company pays late: penalty and interest, the same for the federal authority and Alberta's.</summary>
/// <param name="law">Figures of penalties, which individuals share.</param>
/// <param name="filingDay">Day of filing.</param>
/// <param name="paymentDay">Day of payment.</param>
public sealed class LateCharges(FederalLaw law, DateLine filingDay, DateLine paymentDay)
{
    /// <summary>Penalty for filing late today on what is unpaid.</summary>
    public Amount Penalty(Amount unpaid) => Late(unpaid * First);

    /// <summary>The same, doubled where it is repeated after a formal demand.</summary>
    public Amount Penalty(Amount unpaid, Condition repeated) => Late(unpaid * If(repeated, law.RepeatedPenalty + (law.RepeatedPenaltyMonth * Min(Months, law.RepeatedPenaltyMonths)), First));

    private Amount Months => MonthsFrom(filingDay, OnToday);

    private Amount First => law.LatePenalty + (law.LatePenaltyMonth * Min(Months, law.LatePenaltyMonths));

    private Amount Late(Amount penalty) => If(OnToday > filingDay, Round(penalty, ToCents), 0);

    /// <summary>Interest on what is paid after its day.</summary>
    public Amount Interest(Amount unpaid, DateFormula paid) => Round(PrescribedInterest.On(unpaid, paymentDay, paid), ToCents);
}

/// <summary>Tax of the return, what was paid, and the balance; days, instalments, charges.</summary>
public sealed class BalanceForm : Form
{
    private sealed record Instalment(AmountLine Amount);

    private readonly LateCharges _late;
    private readonly AnswerLine _repeated;

    /// <summary>Balance, a refund if negative.</summary>
    public readonly AmountLine Balance;

    /// <summary>Tax payable and what was paid.</summary>
    public readonly AmountLine Payable, Credits;

    /// <summary>Penalty and interest until today.</summary>
    public readonly AmountLine Running;

    /// <summary>The day of payment.</summary>
    public readonly DateLine PaymentDay;

    /// <summary>Declares the form.</summary>
    public BalanceForm(Definition definition, CorporationLaw law, TaxPages pages, TaxForm tax, PoolsForm pools)
        : base(definition, "balance", "Balance", "Tax, what was paid, the balance, and the days by which everything is due.")
    {
        var (scope, year) = (pages.Scope, law.Year);
        var instalments = Repeating("instalments", "Instalments paid", "instalment", row =>
        {
            row.NamedBy(row.Date("date", "Paid on").From("authority's statement").Required());
            return new Instalment(row.Entry("amount", "Amount").InWholeUnits().From("authority's statement").Required());
        }, "ITA 157", scope.Instalments).AsGrid();

        Section("Balance", "ITA 157", name: "balance");
        var partOne = Line("part-one", "Part I tax", tax.PartOne).Hint("line 700");
        var partFour = Line("part-four", "Part IV tax", pools.PartFour).Hint("line 712");
        var provinces = Line("provinces", "Tax of Ontario and British Columbia", tax.Provinces).Hint("line 760");
        Payable = Line("payable", "Tax payable", partOne + partFour + provinces).Hint("line 770").Subtotal();
        var refund = Line("dividend-refund", "Dividend refund", pools.Refund).Hint("line 784");
        var withheld = Entry("withheld", "Tax withheld at source").InWholeUnits().OfOneYear().From("slips").Hint("line 800");
        var paid = Line("instalments-paid", "Instalments", instalments.Sum(i => i.Amount)).Hint("line 840");
        Credits = Line("credits", "Refunded, withheld and paid", refund + withheld + paid).Hint("line 890");
        Balance = Line("balance", "Balance, or a refund if negative", Payable - Credits).Final();

        Section("When it is due", "ITA 157(1)(b)", name: "due");
        var taxableBefore = Last("taxable-before", "Taxable income of the period before", "tax.taxable", scope).Hint("of a group: of all its companies");
        var limitBefore = Last("limit-before", "Business limit of the period before", "group.share", scope).Hint("of a group: of all its companies");
        var smallBefore = Last("small-before", "Amount the small business deduction was given for then", "tax.small", scope);
        var threeMonths = Line("three-months", "Due after three months", scope.Private & (tax.Small > 0 | smallBefore > 0) & (scope.First | taxableBefore <= limitBefore)).Law("ITA 157(1)(b)(i)");
        PaymentDay = Line("payment-day", "Balance to be paid by", CompanyDays.PaymentDay(scope.End, threeMonths, year)).Law("ITA 157(1)(b)");

        Section("Instalments of the next period", "ITA 157(1), (1.1), (2.1)", name: "instalments-ahead");
        var taxBefore = Last("tax-before", "Tax of the period before", "balance.asked", scope);
        var asked = Line("asked", "Tax that counts for instalments", Payable - refund);
        var due = Line("instalments-due", "Instalments are due", asked > law.InstalmentFree).Law("ITA 157(2.1)");
        var monthly = Line("monthly", "Each month, by this period's tax", If(due, AtLeastZero(asked) / 12, 0), ToUnits).Law("ITA 157(1)(a)(ii)");
        var first = Line("monthly-first", "Or the first two months, by that of the period before", If(due, AtLeastZero(taxBefore) / 12, 0), ToUnits).Law("ITA 157(1)(a)(iii)");
        Line("monthly-then", "and each of the ten that follow", If(due, AtLeastZero(asked - (2 * first)) / 10, 0), ToUnits).Law("ITA 157(1)(a)(iii)");
        Line("quarterly", "Each quarter, where the company may pay so", If(due & scope.Private & tax.Small > 0 & tax.Taxable <= law.BusinessLimit, AtLeastZero(asked) / 4, 0), ToUnits).Law("ITA 157(1.1)");
        Note("instalments", due, $"Instalments are due in the next period: {monthly} each month by this period's tax, or {first} for two months first.", asked);

        Section("Charges so far", "ITA 161(1), 162(1), (2)", OnToday > PaymentDay & PaymentDay.IsFilled(), name: "charges");
        _late = new LateCharges(new FederalLaw(year), scope.FilingDay, PaymentDay);
        _repeated = Answer("repeated", "Late again, after a formal demand?").OfOneYear().When(OnToday > scope.FilingDay & Balance > 0).Law("ITA 162(2)");
        var unpaid = Line("unpaid", "Balance unpaid", AtLeastZero(Balance));
        var penalty = Line("penalty", "Penalty if filed today", _late.Penalty(unpaid, _repeated)).Law("ITA 162(1), (2)");
        var interest = Line("interest", "Interest if paid today", _late.Interest(unpaid, OnToday)).Law("ITA 161(1)");
        Running = Line("charges-today", "Charges if filed and paid today", penalty + interest).Subtotal();

        Warn("late", OnToday > scope.FilingDay & scope.FilingDay.IsFilled() & Balance > 0, $"The return is late: it was due on {scope.FilingDay}. A penalty of {penalty} and interest of {interest} have run until today.", Balance);
        Note("late-refund", OnToday > scope.FilingDay & scope.FilingDay.IsFilled() & Balance <= 0, $"The return was due on {scope.FilingDay}; without a balance there is no penalty.", Balance);
        Note("balance-due", Balance > 0 & PaymentDay.IsFilled(), $"The balance of {Balance} is to be paid by {PaymentDay}.", Balance);
    }

    /// <summary>What is added to an amount paid after its day.</summary>
    public IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateFormula paid) =>
    [
        new("Penalty for filing late", _late.Penalty(unpaid, _repeated), "ITA 162(1), (2)"),
        new("Interest, compounded daily", _late.Interest(unpaid, paid), "ITA 161(1)"),
    ];

    private AmountLine Last(string name, string label, string line, ScopeForm scope) => Entry(name, label).InWholeUnits().OfOneYear().When(!scope.First).MayBeNegative().From("last return")
        .TiedTo(Definition.PeriodBefore(CompanyReturn.ReturnId).Line(line));
}
