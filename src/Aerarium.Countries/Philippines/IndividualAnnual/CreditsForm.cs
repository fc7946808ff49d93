using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>What has been paid and withheld, the balance, its two parts or its use.</summary>
public sealed class CreditsForm : Form
{
    private sealed record Other(AmountLine Amount);

    /// <summary>Credits together; the balance: more than zero is to pay, less than zero is an overpayment; what is to pay now; what has run so far.</summary>
    public readonly AmountLine Credits, Balance, PayableNow, Running;

    /// <summary>Whether the full rates of surcharge and interest hold.</summary>
    public readonly Condition FullRates;

    /// <summary>Declares the form.</summary>
    public CreditsForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxpayerForm taxpayer, CompensationForm compensation, TaxForm tax)
        : base(definition, "balance", "Credits and balance", "Paid and withheld, against the tax of the year.")
    {
        Section("Credits", "NIRC s. 57, 58, 74, 79");
        var prior = Entry("prior-excess", "Excess credit carried over from last year").InWholeUnits().From("last year's return");
        var quarters = Entry("quarterly-paid", "Paid for the first three quarters").InWholeUnits().From("quarterly returns, bank confirmations").When(scope.Business);
        var withheldBefore = Entry("withheld-quarters", "Withheld by payers, quarters 1 to 3").InWholeUnits().From("certificates of tax withheld").When(scope.Business);
        var withheldLast = Entry("withheld-last-quarter", "Withheld by payers, quarter 4").InWholeUnits().From("certificates of tax withheld").When(scope.Business);
        var employers = Line("withheld-employers", "Withheld by employers", compensation.Withheld);
        var foreign = Line("foreign-credit", "Credit for foreign tax", tax.ForeignCredit);
        var earlier = Entry("paid-with-earlier", "Paid with the return that is amended").InWholeUnits().From("earlier return").When(taxpayer.Amended).RequiredWhen(taxpayer.Amended);
        var others = Repeating("other", "Other credits", "credit", row =>
        {
            row.NamedBy(row.Text("name", "What it is").Required());
            return new Other(row.Entry("amount", "Amount").InWholeUnits().From("certificate").Required());
        });

        Section("Balance");
        Credits = Line("credits", "Credits", prior + quarters + withheldBefore + withheldLast + employers + foreign + earlier + others.Sum(o => o.Amount)).Subtotal();
        Balance = Line("balance", "Balance: to pay, or an overpayment if negative", tax.Due - Credits).Law("NIRC s. 56").Final();

        Section("In two parts", "NIRC s. 56(A)(2)", Balance > 0);
        var split = Answer("two-parts", "Pay in two parts?");
        var most = Line("second-most", "Most that may be left for the second part",
            If(tax.Due > law.InstalmentFrom, Min(Round(law.InstalmentShare * tax.Due, DownToUnits), Balance), 0)).Law("NIRC s. 56(A)(2)");
        var second = Entry("second-part", "Second part").InWholeUnits().When(split).RequiredWhen(split);
        PayableNow = Line("payable-now", "To pay now", AtLeastZero(Balance) - second).Subtotal();
        Error("second-not-open", split & second > 0 & tax.Due <= law.InstalmentFrom, $"Two parts are open only for a tax due above {law.InstalmentFrom}.", split);
        Error("second-too-much", split & second > most & tax.Due > law.InstalmentFrom, $"At most {most} may be left for the second part.", second);
        Warn("second-above-half", split & second > 0.5m * Balance & second <= most, "The statute speaks of two equal parts; the second is more than half of what is to pay.", second);

        Section("Overpayment", "NIRC s. 76 by analogy", Balance < 0);
        Choice("overpayment", "What becomes of it", [new("refund", "Refund"), new("certificate", "Tax credit certificate"), new("carry-over", "Carried over")]).Required();

        Section("Size", "EOPT; RR 8-2024", when: scope.Late | OnToday > law.Payment.Day);
        var size = Choice("size", "Size by gross sales",
            [new("micro", "Micro, below 3 million"), new("small", "Small, below 20 million"), new("medium", "Medium, below 1,000 million"), new("large", "Large")]).When(scope.Business);
        FullRates = !(size.Is("micro") | size.Is("small"));

        Section("Charges so far", "NIRC s. 248, 249", when: OnToday > law.Payment.Day);
        var charges = new LateCharges(law, FullRates, PayableNow, law.Payment.Day, OnToday);
        var surcharge = Line("surcharge-today", "Surcharge if paid today", charges.Surcharge, ToUnits).Law("NIRC s. 248");
        var days = NumberLine("days-late-today", "Days late today", charges.Days).Unit("days");
        var interest = Line("interest-today", "Interest if paid today", charges.InterestFor(days), ToUnits).Law("NIRC s. 249");
        Running = Line("charges-today", "Charges if paid today, without a compromise", surcharge + interest).Subtotal();

        Note("two-parts-open", Balance > 0 & tax.Due > law.InstalmentFrom & !split, $"The tax may be paid in two parts, up to {most} of it by {law.SecondPart.Day}.", split);
        Note("overpayment-use", Balance < 0, "Carrying over is usual; a refund needs a claim within two years.", Balance);
        Warn("payment-overdue", Balance > 0 & OnToday > law.Payment.Day & !scope.Late, $"{PayableNow} was to be paid by {law.Payment.Day}: surcharge and interest run.", Balance);
        Warn("size-missing", scope.Late & scope.Business & size.IsBlank(), "Full rates are used; say the size by gross sales for the reduced ones.", size);
    }
}

/// <summary>Surcharge and interest on tax that is paid late.</summary>
internal sealed class LateCharges(IncomeTaxLaw law, Condition fullRates, Amount unpaid, DateOnly due, DateFormula paid)
{
    /// <summary>Surcharge (NIRC s. 248; EOPT).</summary>
    public Amount Surcharge => If(paid > due, If(fullRates, law.Surcharge * unpaid, law.SurchargeSmall * unpaid), 0);

    /// <summary>Days late, from the day after the due date to the day of payment.</summary>
    public Amount Days => DaysAfter(due, paid);

    /// <summary>Interest for days late, by a year of 365 days (NIRC s. 249; EOPT; the divisor in leap years is likely).</summary>
    public Amount InterestFor(Amount days) => If(fullRates, law.Interest * unpaid, law.InterestSmall * unpaid) * days / 365;
}
