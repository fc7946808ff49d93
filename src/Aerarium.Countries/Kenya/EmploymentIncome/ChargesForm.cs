using Aerarium.Core.Definitions;
using Aerarium.Countries.Kenya.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Penalty and interest when the return is filed or the balance paid late. Outside the balance of the return: the authority charges them.</summary>
public sealed class ChargesForm : Form
{
    /// <inheritdoc />
    public override bool OfOneYear => true;

    /// <summary>Declares the form.</summary>
    public ChargesForm(Definition definition, EmploymentIncomeLaw law, ScopeForm scope, CreditsForm credits)
        : base(definition, "charges", "Late filing and payment", "What the authority adds when the return or the payment is late.", scope.Late)
    {
        Section("Dates");
        var filed = Date("filed-on", "Filed on").Hint("the day it is or will be filed").Required();
        var paid = Date("paid-on", "Balance paid on").Hint("the day it is or will be paid").RequiredWhen(credits.Balance > 0);

        Section("Charges");
        var due = Line("tax-due", "Tax payable under the return, not paid yet", AtLeastZero(credits.Balance));
        var lateFiling = Line("late-filing", "Late filing penalty",
            LateCharges.LateFiling(law, If(scope.OtherTaxPaid, credits.Payable, due), filed.IsFilled() & filed > scope.FilingDay)).Law("TPA s. 83(1)");
        var isLate = paid.IsFilled() & paid > law.Payment.Day;
        var latePayment = Line("late-payment", "Late payment penalty", LateCharges.LatePayment(law, due, isLate) + LateCharges.LatePayment(law, credits.PaidLate, credits.PaidLate > 0), ToCents).Law("TPA s. 83A");
        var months = NumberLine("months-late", "Months late, part months counted whole", LateCharges.MonthsLate(law, paid, isLate)).Unit("months").Law("TPA s. 38");
        var interest = Line("interest", "Interest, at most the tax itself", LateCharges.Interest(law, due, months) + credits.InterestOnPaid).Law("TPA s. 38");
        Line("total-with-charges", "Balance with charges", due + lateFiling + latePayment + interest).Final();
    }
}
