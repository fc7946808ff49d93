using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Both columns together: what is to pay now, or what becomes of an overpayment, and what being late has cost so far.</summary>
public sealed class ResultForm : Form
{
    /// <summary>Both columns together: income, deductions, taxable income, tax due, credits, balance, what is to pay now and later, charges so far.</summary>
    public readonly AmountLine Income, Deductions, Taxable, Due, Credits, Balance, PayableNow, Later, Running;

    /// <summary>At which rates lateness is charged.</summary>
    public readonly ChargeRates Rates;

    /// <summary>Declares the form.</summary>
    public ResultForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, CompensationForm compensation, (TaxForm Tax, CreditsForm Credits) own, (TaxForm Tax, CreditsForm Credits) spouse)
        : base(definition, "result", "Result", "Taxpayer and spouse together; an overpayment of one reduces what the other pays.")
    {
        Section("Together");
        Income = Line("income", "Income", own.Tax.Income + spouse.Tax.Income);
        Deductions = Line("deductions", "Deductions and reductions", own.Tax.Deductions + spouse.Tax.Deductions);
        Taxable = Line("taxable", "Taxable income", own.Tax.Taxable + spouse.Tax.Taxable);
        Due = Line("due", "Tax due", own.Tax.Due + spouse.Tax.Due).Law("NIRC s. 51(D)");
        Credits = Line("credits", "Credits", own.Credits.Credits + spouse.Credits.Credits);
        Balance = Line("balance", "Balance: to pay, or an overpayment if negative", own.Credits.Balance + spouse.Credits.Balance)
            .Law("NIRC s. 51(D), 56; the form").Final();
        Later = Line("second-parts", "Second parts together, to be paid later", own.Credits.SecondPart + spouse.Credits.SecondPart).Law("NIRC s. 56(A)(2)");
        PayableNow = Line("payable-now", "To pay now", AtLeastZero(Balance) - Later).Subtotal();
        Error("second-parts-exceed-balance", Later > AtLeastZero(Balance), "The second parts together are more than what is to pay; lower one of them.", Later);

        Section("Overpayment", "NIRC s. 76 by analogy", Balance < 0);
        var use = Choice("overpayment", "What becomes of it", [new("refund", "Refund"), new("certificate", "Tax credit certificate"), new("carry-over", "Carried over")]).Required().Elective("once chosen it is not changed (likely)");
        Line("carried-over", "Carried over into next year", If(use.Is("carry-over"), 0 - Balance, 0)).Law("NIRC s. 76 by analogy");

        var overdue = OnToday > law.Payment.Day;
        Section("Size", "EOPT; RR 8-2024", scope.Late | overdue);
        var business = scope.Taxpayer.Business | scope.Spouse.Business;
        var size = Choice("size", "Size by gross sales", SizeOfTaxpayer.Sizes).When(business);
        Rates = SizeOfTaxpayer.Rates(size, Answer("wilful", "Wilful neglect, or a false return?").OfOneYear().Hint("as the authority finds; blank: no").Law("NIRC s. 248(B)"));

        Section("Charges so far", "NIRC s. 248, 249", overdue);
        var charges = new LateCharges(law, Rates, PayableNow + Later, law.Payment.Day, OnToday);
        var surcharge = Line("surcharge-today", "Surcharge if paid today", charges.Surcharge, ToUnits).Law("NIRC s. 248");
        var days = NumberLine("days-late-today", "Days late today", charges.Days).Unit("days");
        var interest = Line("interest-today", "Interest if paid today", charges.InterestFor(days), ToUnits).Law("NIRC s. 249");
        Running = Line("charges-today", "Charges if paid today, without a compromise", surcharge + interest).Subtotal();

        Note("overpayment-use", Balance < 0, "Carrying over is usual; a refund needs a claim within two years.", Balance);
        Warn("payment-overdue", Balance > 0 & overdue & !scope.Late, $"{PayableNow} was to be paid by {law.Payment.Day}: surcharge and interest run.", Balance);
        Warn("second-part-fallen-due", overdue & Later > 0, $"Where the first part was not paid by {law.Payment.Day}, the second part of {Later} is due at once and is charged with it.", Later);
        Note("not-needed",
            scope.Taxpayer.Compensation & !scope.Taxpayer.Business & !scope.Joint & !scope.Special & !scope.Taxpayer.ForeignTax
            & compensation.Employers.Equals(1) & (Due - compensation.Withheld).Equals(0) & Due > 0,
            "The only employer withheld exactly the tax due and there is no other income: an annual return is not needed (NIRC s. 51-A).", Balance);
        Warn("size-missing", scope.Late & business & size.IsBlank(), "Full rates are used; say the size by gross sales for the reduced ones.", size);
    }
}
