using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>The result of a return of a quarter: what is to pay, and what being late has cost so far.</summary>
public abstract class QuarterPaidForm : Form
{
    private protected QuarterPaidForm(Definition definition, string key, string title, string about)
        : base(definition, key, title, about)
    {
    }

    /// <summary>What is to pay now.</summary>
    public AmountLine PayableNow { get; private set; } = null!;

    /// <summary>Charges so far.</summary>
    public AmountLine Running { get; private set; } = null!;

    /// <summary>At which rates lateness is charged.</summary>
    public ChargeRates Rates { get; private set; } = null!;

    /// <summary>Declares what is to pay of a balance by a day, and the charges when it is late; once, after the balance.</summary>
    private protected void PaidBy(IncomeTaxLaw law, DateOnly due, AmountLine balance, AnswerLine late)
    {
        PayableNow = Line("payable-now", "To pay now", AtLeastZero(balance)).Subtotal();

        var overdue = OnToday > due;
        Section("Size", "EOPT; RR 8-2024", late | overdue);
        var size = Choice("size", "Size by gross sales", SizeOfTaxpayer.Sizes);
        Rates = SizeOfTaxpayer.Rates(size, Answer("wilful", "Wilful neglect, or a false return?").OfOneYear().Hint("as the authority finds; blank: no").Law("NIRC s. 248(B)"));

        Section("Charges so far", "NIRC s. 248, 249", overdue);
        var charges = new LateCharges(law, Rates, PayableNow, due, OnToday);
        var surcharge = Line("surcharge-today", "Surcharge if paid today", charges.Surcharge, ToUnits).Law("NIRC s. 248");
        var days = NumberLine("days-late-today", "Days late today", charges.Days).Unit("days");
        var interest = Line("interest-today", "Interest if paid today", charges.InterestFor(days), ToUnits).Law("NIRC s. 249");
        Running = Line("charges-today", "Charges if paid today, without a compromise", surcharge + interest).Subtotal();

        Warn("payment-overdue", balance > 0 & overdue & !late, $"{PayableNow} was to be paid by {due}: surcharge and interest run.", balance);
        Warn("size-missing", late & size.IsBlank(), "Full rates are used; say the size by gross sales for the reduced ones.", size);
    }
}
