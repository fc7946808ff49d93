using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.WithholdingCredits;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualQuarterly;

/// <summary>What one column has paid, and what was withheld, from 1 January to the end of the quarter.</summary>
public sealed class QuarterCreditsForm : Form
{
    private sealed record Other(AmountLine Amount);

    /// <summary>Credits; the balance: more than zero is to pay, less than zero is carried into the next quarter.</summary>
    public readonly AmountLine Credits, Balance;

    /// <summary>Declares the form.</summary>
    public QuarterCreditsForm(Definition definition, Column column, TaxpayerForm taxpayer, QuarterTaxForm tax, QuarterCreditsForm? beside = null)
        : base(definition, "balance", "Credits and balance", "Paid and withheld to date, against the tax to date.", column.Applies, Column.Spouse(beside))
    {
        TieSource[] Before(string line) => [.. IndividualQuarterlyReturn.Earlier(definition).Select(q => q.Line($"{Key}.{line}"))];

        Section("Credits", "NIRC s. 58, 74");
        var prior = Entry("prior-excess", "Excess credit carried over from last year").InWholeUnits().From("last year's return");
        if (beside is null)
        {
            prior.TiedTo(new TiedReturn(IndividualAnnual.IndividualAnnualReturn.ReturnId, 1).Line("result.carried-over")).CountsOnce(CreditCounts.WhenAccepted);
        }

        var paidBefore = Entry("paid-before", "Paid for earlier quarters").InWholeUnits().From("returns of the quarters before, bank confirmations").TiedTo(Before("payable")).CountsOnce(CreditCounts.WhenPaid);
        var withheldBefore = Entry("withheld-before", "Withheld by payers in earlier quarters").InWholeUnits().From("lists of tax withheld").TiedTo(Before("withheld-quarter")).CountsOnce(CreditCounts.WhenAccepted);
        var withheld = Entry("withheld-quarter", "Withheld by payers in this quarter").InWholeUnits().From("list of tax withheld")
            .TiedTo(new TiedReturn(WithholdingCreditsReturn.ReturnId, 0, definition.Period, column.Relation).Line("list.credit")).MustAgreeWithin(1).CountsOnce(CreditCounts.WhenAccepted);
        var foreign = Entry("foreign-credit", "Credit for foreign tax").InWholeUnits().From("foreign assessments").When(column.ForeignTax).Law("NIRC s. 34(C)");
        var earlier = Entry("paid-with-earlier", "Paid with the return that is amended").InWholeUnits().From("earlier return").When(taxpayer.Amended).RequiredWhen(taxpayer.Amended);
        var others = Repeating("other", "Other credits", "credit", row =>
        {
            row.NamedBy(row.Text("name", "What it is").Required());
            return new Other(row.Entry("amount", "Amount").InWholeUnits().From("certificate").Required());
        });

        Section("Balance");
        Credits = Line("credits", "Credits", prior + paidBefore + withheldBefore + withheld + foreign + earlier + others.Sum(o => o.Amount)).Subtotal();
        Balance = Line("balance", "Balance: to pay, or carried into the next quarter if negative", tax.Due - Credits).Law("NIRC s. 74").Final();
        Line("payable", "To pay for the quarter", AtLeastZero(Balance));
    }
}
