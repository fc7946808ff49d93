using Aerarium.Core.Definitions;

namespace Aerarium.Core.Engine;

/// <summary>Money that was paid towards a return.</summary>
/// <param name="Day">The day.</param>
/// <param name="Amount">The amount, in the return's currency.</param>
public sealed record PaidAmount(DateOnly Day, decimal Amount);

/// <summary>What the authority assessed in place of what was filed.</summary>
/// <param name="Number">Number of the notice.</param>
/// <param name="Balance">The balance assessed, in the return's currency; below zero is to be repaid.</param>
/// <param name="PayBy">The day by which the notice asks for what it adds.</param>
public sealed record AssessedBalance(string Number, decimal Balance, DateOnly PayBy);

/// <summary>An amount that is added because a part is paid late.</summary>
/// <param name="Label">In words.</param>
/// <param name="Amount">The amount, in the return's currency.</param>
/// <param name="Law">Section of the law.</param>
/// <param name="Words">How it is computed, in words.</param>
public sealed record ChargedAmount(string Label, decimal Amount, string Law, string Words);

/// <summary>One part of what is to pay.</summary>
/// <param name="Label">In words.</param>
/// <param name="Due">Its day.</param>
/// <param name="Amount">The part, in the return's currency.</param>
/// <param name="Paid">What has been paid of it.</param>
/// <param name="Charges">What being late adds to it.</param>
public sealed record AdvisedPart(string Label, DateOnly Due, decimal Amount, decimal Paid, IReadOnlyList<ChargedAmount> Charges)
{
    /// <summary>What is left of it, without charges.</summary>
    public decimal Unpaid => Amount - Paid;

    /// <summary>All charges together.</summary>
    public decimal Charged => Charges.Sum(c => c.Amount);
}

/// <summary>
/// What is to be paid for a return on a day: its parts, what has been paid of each, and what being late adds. Payments go to the
/// part with the earliest day first; what is paid after that day, or not yet, is late. Where the law says so, the other parts fall due with one that was not paid by its day. What is paid beyond all parts goes to the charges.
/// </summary>
/// <param name="On">The day on which the rest is paid.</param>
/// <param name="Parts">The parts, earliest first.</param>
/// <param name="PaidBeyond">What was paid beyond all parts.</param>
public sealed record PaymentAdvice(DateOnly On, IReadOnlyList<AdvisedPart> Parts, decimal PaidBeyond)
{
    /// <summary>What is due by the day, charges included and payments taken off; zero when more than that was paid.</summary>
    public decimal DueBy => Math.Max(0, Parts.Where(p => p.Due <= On).Sum(p => p.Unpaid) + Parts.Sum(p => p.Charged) - PaidBeyond);

    /// <summary>What is left of all parts, later ones and charges included.</summary>
    public decimal Left => Math.Max(0, Parts.Sum(p => p.Unpaid + p.Charged) - PaidBeyond);

    /// <summary>The advice for an evaluated return.</summary>
    /// <param name="evaluation">The return.</param>
    /// <param name="payments">What has been paid.</param>
    /// <param name="on">The day on which the rest is to be paid.</param>
    /// <param name="assessed">
    /// What the authority assessed, or null. What it assessed less is taken off the last parts; what it assessed more is a part of its own, due by the notice, to
    /// which nothing is added here: what being late adds to it stands on the notice.
    /// </param>
    public static PaymentAdvice Of(Evaluation evaluation, IEnumerable<PaidAmount> payments, DateOnly on, AssessedBalance? assessed = null)
    {
        // What is paid on one day is one payment, or charges would be rounded by how it was split.
        var money = new Queue<PaidAmount>(payments.GroupBy(p => p.Day).OrderBy(d => d.Key).Select(d => new PaidAmount(d.Key, d.Sum(p => p.Amount))));
        var parts = new List<AdvisedPart>();
        DateOnly? fallen = null;
        foreach (var (label, itsDay, amount, ofReturn) in AmountsOf(evaluation, assessed))
        {
            var due = ofReturn && fallen < itsDay ? fallen.Value : itsDay;
            var taken = Take(ref money, amount);
            var late = taken.Where(p => p.Day > due).Append(new PaidAmount(on, amount - taken.Sum(p => p.Amount))).Where(p => p.Amount > 0 && p.Day > due).ToList();
            parts.Add(new AdvisedPart(label, due, amount, taken.Sum(p => p.Amount), ofReturn ? [.. Charges(evaluation, late, due, first: parts.Count == 0)] : []));
            if (evaluation.Definition.RestFallsDueWithAPart && late.Count > 0)
            {
                fallen ??= due;
            }
        }

        return new PaymentAdvice(on, parts, money.Sum(p => p.Amount));
    }

    /// <summary>The parts with what is to pay of each, earliest first.</summary>
    private static List<(string Label, DateOnly Due, decimal Amount, bool OfReturn)> AmountsOf(Evaluation evaluation, AssessedBalance? assessed)
    {
        List<(string Label, DateOnly Due, decimal Amount, bool OfReturn)> filed =
        [
            .. evaluation.Definition.PaymentParts.OrderBy(p => p.Due.Day)
                .Select(p => (p.Label, evaluation.DayOf(p.Due), Math.Max(0, evaluation.Amount(p.Amount.Line)), true)),
        ];
        var less = assessed is null ? 0 : filed.Sum(p => p.Amount) - Math.Max(0, assessed.Balance);
        for (var at = filed.Count - 1; at >= 0 && less > 0; at--)
        {
            var off = Math.Min(less, filed[at].Amount);
            filed[at] = filed[at] with { Amount = filed[at].Amount - off };
            less -= off;
        }

        if (less < 0)
        {
            filed.Add(($"Assessed in addition, notice {assessed!.Number}", assessed.PayBy, -less, false));
        }

        return [.. filed.Where(p => p.Amount > 0)];
    }

    private static List<PaidAmount> Take(ref Queue<PaidAmount> money, decimal needed)
    {
        var taken = new List<PaidAmount>();
        while (needed > 0 && money.TryDequeue(out var payment))
        {
            var here = Math.Min(needed, payment.Amount);
            taken.Add(payment with { Amount = here });
            needed -= here;
            if (payment.Amount > here)
            {
                money = new Queue<PaidAmount>([payment with { Amount = payment.Amount - here }, .. money]);
            }
        }

        return taken;
    }

    private static IEnumerable<ChargedAmount> Charges(Evaluation evaluation, IReadOnlyList<PaidAmount> late, DateOnly due, bool first)
    {
        foreach (var group in late.SelectMany(p => evaluation.Definition.LateChargesOn(p.Amount, due, p.Day)).GroupBy(c => (c.Label, c.Law, c.Line)))
        {
            var overridden = first && group.Key.Line?.Line.Override is { } given && evaluation.Value(given.Amount) is not null;
            var amount = overridden ? evaluation.Amount(group.Key.Line!.Line.Override!.Amount) : group.Sum(c => c.Amount.Evaluate(evaluation.Sheet));
            if (amount > 0)
            {
                yield return new ChargedAmount(
                    group.Key.Label, amount, group.Key.Law, overridden ? "overridden in the return, with its reason" : string.Join("; ", group.Select(c => c.Amount.Words)));
            }
        }
    }
}
