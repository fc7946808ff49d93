using Aerarium.Core.Definitions;
using Aerarium.Countries.Kenya.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>What has been paid already, and the balance.</summary>
public sealed class CreditsForm : Form
{
    private sealed record Payment(AmountLine Amount, AmountLine OfBalance, AmountLine Late, AmountLine Interest);

    /// <summary>Tax already paid, and the balance: more than zero is to pay, less than zero is a refund.</summary>
    public readonly AmountLine AlreadyPaid, Balance;

    /// <summary>Tax payable under the return before what was paid of the balance, what of that was paid after its day, and interest on it until it was paid.</summary>
    public readonly AmountLine Payable, PaidLate, InterestOnPaid;

    /// <summary>Penalty and interest that have run until today.</summary>
    public readonly AmountLine Running;

    /// <summary>Declares the form.</summary>
    public CreditsForm(Definition definition, EmploymentIncomeLaw law, ScopeForm scope, EmploymentForm employment, TaxForm tax)
        : base(definition, "balance", "Payments and balance", "Tax deducted by employers and paid otherwise, against the tax of the year.")
    {
        var payments = Repeating("payments", "Tax paid other than through payroll", "payment", row =>
        {
            var kind = row.Choice("kind", "Kind of payment",
                [new("advance", "Advance tax"), new("instalment", "Instalment"), new("self-assessment", "Self-assessment")]).Required();
            var date = row.Date("date", "Date").From("payment slip").Required();
            var reference = row.Text("reference", "Reference").From("payment slip").Required();
            row.NamedBy(reference);
            row.Error("payment-twice", row.RepeatsEarlier(reference), "This payment is entered twice; keep one row for each payment slip.", reference);
            var amount = row.Entry("amount", "Amount").From("payment slip").Required();
            var ofBalance = row.Line("of-balance", "Of the balance", If(kind.Is("self-assessment"), amount, 0));
            var late = row.Line("late", "Paid after its day", If(date > law.Payment.Day, ofBalance, 0));
            return new Payment(amount, ofBalance, late, row.Line("interest", "Interest on it", LateCharges.Interest(law, late, LateCharges.MonthsLate(law, date, date > law.Payment.Day))).Law("TPA s. 38"));
        }, when: scope.OtherTaxPaid);

        Section("Balance");
        var deducted = Line("tax-deducted", "Tax deducted by employers", employment.Employers.Sum(e => e.TaxDeducted)).Law("ITA s. 37");
        AlreadyPaid = Line("already-paid", "Tax already paid", deducted + payments.Sum(p => p.Amount)).Subtotal();
        Balance = Line("balance", "Balance: to pay, or a refund if negative", tax.NetTax - AlreadyPaid).Law("ITA s. 92; TPA s. 47").Final();

        Warn("relief-from-each-employer", employment.Employers.CountWhere(e => e.TaxDeducted > 0) > 1 & deducted < tax.NetTax,
            $"Several employers deducted tax, together {tax.NetTax - deducted} too little: each may have given the personal relief and the lower bands.", deducted);
        Note("refund", Balance < 0, "A refund is claimed; keep the certificates, the claim is checked.", Balance);
        Note("pay-by", Balance > 0 & OnToday <= law.Payment.Day,
            $"Pay {Balance} by {law.Payment.Day}, although filing runs to {law.Filing.Day}.", Balance);
        Warn("payment-overdue", Balance > 0 & OnToday > law.Payment.Day & !scope.Late,
            $"{Balance} was to be paid by {law.Payment.Day}: a penalty of {law.LatePaymentRate} and interest of {law.InterestRateMonth} a month run.", Balance);

        Section("Paid of the balance", "TPA s. 38, 83, 83A", when: scope.OtherTaxPaid);
        Payable = Line("payable", "Tax payable under the return", AtLeastZero(Balance + payments.Sum(p => p.OfBalance))).Hint("before self-assessment payments").Law("TPA s. 83(1)");
        PaidLate = Line("paid-late", "Paid after its day", Min(payments.Sum(p => p.Late), Payable)).Law("TPA s. 83A");
        InterestOnPaid = Line("interest-on-paid", "Interest on what was paid after its day", payments.Sum(p => p.Interest)).Law("TPA s. 38");

        Section("Charges so far", "TPA s. 38, 83, 83A", when: OnToday > law.Payment.Day);
        var unpaid = Line("unpaid", "Tax payable under the return, not paid yet", AtLeastZero(Balance));
        var lateFiling = Line("late-filing-today", "Late filing penalty if filed today",
            LateCharges.LateFiling(law, If(scope.OtherTaxPaid, Payable, unpaid), OnToday > scope.FilingDay)).Law("TPA s. 83(1)");
        var latePayment = Line("late-payment-today", "Late payment penalty if paid today",
            LateCharges.LatePayment(law, unpaid + PaidLate, OnToday > law.Payment.Day), ToCents).Law("TPA s. 83A");
        var months = NumberLine("months-late-today", "Months late today", LateCharges.MonthsLate(law, OnToday, OnToday > law.Payment.Day))
            .Unit("months").Law("TPA s. 38");
        var interest = Line("interest-today", "Interest if paid today", LateCharges.Interest(law, unpaid, months) + InterestOnPaid).Law("TPA s. 38");
        Running = Line("charges-today", "Charges if filed and paid today", lateFiling + latePayment + interest).Subtotal();
    }
}
