using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualQuarterly;

/// <summary>Both columns together: what is to pay for the quarter, and what being late has cost so far.</summary>
public sealed class QuarterResultForm : QuarterPaidForm
{
    /// <summary>Both columns together: income, taxable income, tax due, credits, balance.</summary>
    public readonly AmountLine Income, Taxable, Due, Credits, Balance;

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
        PaidBy(law, due, Balance, scope.Late);
    }
}
