using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Kenya.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>What the authority adds when the return is filed, or the balance paid, after its day.</summary>
internal static class LateCharges
{
    /// <summary>Penalty for filing late: a share of the tax payable, at least a fixed amount (TPA s. 83(1)).</summary>
    public static Amount LateFiling(EmploymentIncomeLaw law, Amount due, Condition isLate) =>
        If(isLate, Max(Round(law.LateFilingRate * due, ToCents), law.LateFilingLeast), 0);

    /// <summary>Penalty for paying late (TPA s. 83A).</summary>
    public static Amount LatePayment(EmploymentIncomeLaw law, Amount due, Condition isLate) => If(isLate, law.LatePaymentRate * due, 0);

    /// <summary>What is added to tax paid on a day after its own.</summary>
    public static IReadOnlyList<LateCharge> On(EmploymentIncomeLaw law, Amount unpaid, DateFormula paid) =>
    [
        new("Late payment penalty", Round(LatePayment(law, unpaid, paid > law.Payment.Day), ToCents), "TPA s. 83A"),
        new("Interest, at most the tax itself", Interest(law, unpaid, MonthsLate(law, paid, paid > law.Payment.Day)), "TPA s. 38"),
    ];

    /// <summary>Months late, part months counted whole (TPA s. 38).</summary>
    public static Amount MonthsLate(EmploymentIncomeLaw law, DateFormula paid, Condition isLate) =>
        If(isLate, MonthsBegunAfter(law.Payment.Day, paid), 0);

    /// <summary>Interest, at most the tax itself (TPA s. 38).</summary>
    public static Amount Interest(EmploymentIncomeLaw law, Amount due, Amount months) =>
        Min(due, Round(law.InterestRateMonth * due * months, ToCents));
}
