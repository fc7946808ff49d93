using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Barbados.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Credits, what has been paid, and the balance.</summary>
public sealed class BalanceForm : Form
{
    private sealed record Payment(AmountLine Amount);

    /// <summary>All tax less credits, what has been paid, and the balance: more than zero is to pay, less than zero is a refund.</summary>
    public readonly AmountLine TaxAfterCredits, Credits, AlreadyPaid, Balance;

    /// <summary>Declares the form.</summary>
    public BalanceForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxForm tax, ForeignForm foreign, RentalForm rental, AmountLine deductedFromPay, AmountLine deductedFromPensions)
        : base(definition, "balance", "Credits, payments and balance", "What reduces the tax, what has been paid, and what is left.")
    {
        Section("Tax", "ITA");
        Line("tax", "Tax on taxable income", tax.Tax);
        Line("rental-tax", "Special tax on residential rent", rental.Tax);

        Section("Foreign tax", "ITA; treaties", scope.Foreign);
        var share = Line("foreign-share", "Tax that falls on income from abroad", If(tax.Assessable > 0, tax.Tax * foreign.Income / Max(tax.Assessable, 0.01m), 0), ToCents)
            .Law("ITA (likely; how it is apportioned is unsure)");
        var foreignCredit = Line("foreign-credit", "Foreign tax credited", Min(foreign.Tax, share)).Law("ITA; treaties").Subtotal();
        Note("foreign-tax-lost", foreign.Tax > share, $"{foreign.Tax - share} of the foreign tax is above the tax here on that income and is not credited.", foreignCredit);

        Section("Credits", "ITA", scope.Credits);
        var reverse = Entry("reverse-credit", "Reverse credit, amount allowed").OfOneYear().From("notice or guide");
        var compensatory = Entry("compensatory-credit", "Compensatory credit, amount allowed").OfOneYear().From("notice or guide");
        var currency = Entry("currency-credit", "Foreign currency earnings credit, amount allowed").OfOneYear().From("notice or guide");
        Unchecked.Warn(this, "reverse-credit", reverse);
        Unchecked.Warn(this, "compensatory-credit", compensatory);
        Unchecked.Warn(this, "currency-credit", currency);
        Error("both-credits", reverse > 0 & compensatory > 0, "A reverse and a compensatory credit exclude each other: their limits of income do not meet. Keep one.", reverse, compensatory);

        var payments = Repeating("payments", "Prepayments and other payments", "payment", row =>
        {
            row.Choice("kind", "Kind", [new("prepayment", "Prepayment"), new("other", "Other payment of the year's tax")]).Required();
            row.Date("date", "Paid on").From("receipt").Required();
            var reference = row.Text("reference", "Receipt").From("receipt").Required();
            row.NamedBy(reference);
            row.Error("payment-twice", row.RepeatsEarlier(reference), "This payment is entered twice; keep one row for each receipt.", reference);
            return new Payment(row.Entry("amount", "Amount").From("receipt").Required());
        }, "ITA", scope.Prepayments);

        Section("Balance", "ITA");
        Credits = Line("credits", "Credits", foreignCredit + reverse + compensatory + currency);
        TaxAfterCredits = Line("tax-after-credits", "Tax less credits", tax.Tax + rental.Tax - Credits).Subtotal();
        var deducted = Line("deducted", "Tax deducted at source", deductedFromPay + deductedFromPensions);
        var paid = Line("paid", "Prepayments and other payments", payments.Sum(p => p.Amount));
        AlreadyPaid = Line("already-paid", "Already paid", deducted + paid);
        Balance = Line("balance", "Balance: to pay, or a refund if negative", TaxAfterCredits - AlreadyPaid).Law("ITA").Final();

        Note("refund", Balance < 0, $"A refund of {0 - Balance} is claimed; it is paid into the bank account.", Balance);
        Note("pay-by", Balance > 0 & OnToday <= law.Payment.Day, $"Pay {Balance} by {law.Payment.Day}.", Balance);
        Warn("late", OnToday > scope.FilingDay,
            $"The return is late: it was due on {scope.FilingDay}. The authority may add {law.LateFilingFixed} and {law.LateFilingShare} of the tax unpaid, and {law.LateInterestMonth} interest a month (unsure; not added here).", Balance);
        Note("reverse-credit-due", tax.Assessable > 0 & tax.Assessable <= law.ReverseCreditLimit & reverse.Equals(0),
            $"With assessable income of {tax.Assessable}, up to {law.ReverseCreditLimit}, a reverse credit of {law.ReverseCredit} may be due: answer so in Scope and enter what is allowed.", Balance);
        Note("compensatory-credit-due", tax.Assessable > law.ReverseCreditLimit & tax.Assessable <= law.CompensatoryLimit & compensatory.Equals(0),
            $"With assessable income of {tax.Assessable}, between {law.ReverseCreditLimit} and {law.CompensatoryLimit}, a compensatory credit may be due: answer so in Scope and enter what is allowed.", Balance);
        Note("prepayments-ahead", scope.Business & Balance > 0,
            $"Self-employed persons may have to prepay the tax of {law.Year + 1} on 15 June, 15 September and 15 December (unsure).", Balance);
    }
}
