using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.IndividualQuarterly;
using Aerarium.Countries.Philippines.Parameters;
using Aerarium.Countries.Philippines.WithholdingCredits;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>What has been paid and withheld for one column, its balance, and the part of it that may be paid later.</summary>
public sealed class CreditsForm : Form
{
    private sealed record Other(AmountLine Amount);

    /// <summary>Credits together; the balance: more than zero is to pay, less than zero is an overpayment; the part to be paid later.</summary>
    public readonly AmountLine Credits, Balance, SecondPart;

    /// <summary>Declares the form.</summary>
    public CreditsForm(
        Definition definition,
        IncomeTaxLaw law,
        Column column,
        TaxpayerForm taxpayer,
        CompensationForm compensation,
        BusinessForm business,
        TaxForm tax,
        CreditsForm? beside = null)
        : base(definition, "balance", "Credits and balance", "Paid and withheld, against the tax of the year.", column.Applies, Column.Spouse(beside))
    {
        Section("Credits", "NIRC s. 57, 58, 74, 79");
        var prior = Entry("prior-excess", "Excess credit carried over from last year").InWholeUnits().From("last year's return");
        if (beside is null)
        {
            prior.TiedTo(new TiedReturn(definition.Id, 1).Line("result.carried-over")).CountsOnce(CreditCounts.WhenAccepted);
        }

        var quarters = Entry("quarterly-paid", "Paid for the first three quarters").InWholeUnits().From("quarterly returns, bank confirmations").When(column.Business)
            .TiedTo(OfQuarters("payable")).CountsOnce(CreditCounts.WhenPaid);
        var withheldBefore = Entry("withheld-quarters", "Withheld by payers, quarters 1 to 3").InWholeUnits().From("certificates of tax withheld").When(column.Business)
            .TiedTo(OfQuarters("withheld-quarter")).CountsOnce(CreditCounts.WhenAccepted);
        var withheldLast = Entry("withheld-last-quarter", "Withheld by payers, quarter 4").InWholeUnits().From("certificates of tax withheld").When(column.Business)
            .TiedTo(List(4).Line("list.credit")).MustAgreeWithin(1).CountsOnce(CreditCounts.WhenAccepted);
        var listed = Entry("listed-payments", "Income payments on the lists of tax withheld").InWholeUnits().From("lists of tax withheld").When(column.Business)
            .TiedTo([.. Enumerable.Range(1, 4).Select(q => List(q).Line("list.payments"))]);
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
        var split = Answer("two-parts", "Pay in two parts?").Elective();
        var most = Line("second-most", "Most that may be left for the second part",
            If(tax.Due > law.InstalmentFrom, Min(Round(law.InstalmentShare * tax.Due, DownToUnits), Balance), 0)).Law("NIRC s. 56(A)(2)");
        SecondPart = Entry("second-part", "Second part").InWholeUnits().When(split).RequiredWhen(split);
        Error("second-not-open", split & SecondPart > 0 & tax.Due <= law.InstalmentFrom, $"Two parts are open only for a tax due above {law.InstalmentFrom}.", split);
        Error("second-too-much", split & SecondPart > most & tax.Due > law.InstalmentFrom, $"At most {most} may be left for the second part.", SecondPart);
        Warn("second-above-half", split & SecondPart > 0.5m * Balance & SecondPart <= most, "The statute speaks of two equal parts; the second is more than half of what is to pay.", SecondPart);
        Note("two-parts-open", Balance > 0 & tax.Due > law.InstalmentFrom & !split, $"The tax may be paid in two parts, up to {most} of it by {law.SecondPart.Day}.", split);
        Warn("lists-exceed-income", listed > business.Gross + business.PartnershipShare + 1,
            $"The lists of tax withheld show payments of {listed}, more than the sales and other income of {business.Gross + business.PartnershipShare}.", listed);

        TieSource[] OfQuarters(string line) =>
            [.. Enumerable.Range(1, 3).Select(q => new TiedReturn(IndividualQuarterlyReturn.ReturnId, 0, Periods.Quarter(q)).Line($"{Key}.{line}"))];

        TiedReturn List(int quarter) => new(WithholdingCreditsReturn.ReturnId, 0, Periods.Quarter(quarter), column.Relation);
    }
}
