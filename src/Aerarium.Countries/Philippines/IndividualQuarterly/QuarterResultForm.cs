using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualQuarterly;

/// <summary>Both columns together: what is to pay for the quarter, and what being late has cost so far.</summary>
public sealed class QuarterResultForm : Form
{
    /// <summary>Both columns together: income, taxable income, tax due, credits, balance, what is to pay now, charges so far.</summary>
    public readonly AmountLine Income, Taxable, Due, Credits, Balance, PayableNow, Running;

    /// <summary>At which rates lateness is charged.</summary>
    public readonly ChargeRates Rates;

    /// <summary>Declares the form.</summary>
    public QuarterResultForm(
        Definition definition,
        IncomeTaxLaw law,
        QuarterScopeForm scope,
        DateOnly due,
        (QuarterTaxForm Tax, QuarterCreditsForm Credits) own,
        (QuarterTaxForm Tax, QuarterCreditsForm Credits) spouse)
        : base(definition, "result", "Result", "Taxpayer and spouse together.")
    {
        Section("Together");
        Income = Line("income", "Income to date", own.Tax.Income + spouse.Tax.Income);
        Taxable = Line("taxable", "Taxable income to date", own.Tax.Taxable + spouse.Tax.Taxable);
        Due = Line("due", "Tax due to date", own.Tax.Due + spouse.Tax.Due);
        Credits = Line("credits", "Credits", own.Credits.Credits + spouse.Credits.Credits);
        Balance = Line("balance", "Balance: to pay, or carried into the next quarter if negative", own.Credits.Balance + spouse.Credits.Balance).Law("NIRC s. 74").Final();
        PayableNow = Line("payable-now", "To pay now", AtLeastZero(Balance)).Subtotal();

        var overdue = OnToday > due;
        Section("Size", "EOPT; RR 8-2024", scope.Late | overdue);
        var size = Choice("size", "Size by gross sales", SizeOfTaxpayer.Sizes);
        Rates = SizeOfTaxpayer.Rates(size, Answer("wilful", "Wilful neglect, or a false return?").OfOneYear().Hint("as the authority finds; blank: no").Law("NIRC s. 248(B)"));

        Section("Charges so far", "NIRC s. 248, 249", overdue);
        var charges = new LateCharges(law, Rates, PayableNow, due, OnToday);
        var surcharge = Line("surcharge-today", "Surcharge if paid today", charges.Surcharge, ToUnits).Law("NIRC s. 248");
        var days = NumberLine("days-late-today", "Days late today", charges.Days).Unit("days");
        var interest = Line("interest-today", "Interest if paid today", charges.InterestFor(days), ToUnits).Law("NIRC s. 249");
        Running = Line("charges-today", "Charges if paid today, without a compromise", surcharge + interest).Subtotal();

        Warn("payment-overdue", Balance > 0 & overdue & !scope.Late, $"{PayableNow} was to be paid by {due}: surcharge and interest run.", Balance);
        Warn("size-missing", scope.Late & size.IsBlank(), "Full rates are used; say the size by gross sales for the reduced ones.", size);
    }
}
