using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>What is payable in all, what has been paid, and the balance.</summary>
public sealed class BalanceForm : Form
{
    private sealed record Instalment(AmountLine Amount);

    /// <summary>Federal and provincial tax with repayments and contributions; what was deducted and paid; the balance: more than zero is to pay, less than zero is a refund.</summary>
    public readonly AmountLine Payable, ProvincialTax, Credits, Balance;

    /// <summary>Declares the form.</summary>
    public BalanceForm(Definition definition, FederalLaw law, ProvincePages from, ContributionsForm contributions, OtherIncomeForm other, AmountLine profit, (OntarioForm Ontario, BritishColumbiaForm BritishColumbia, AlbertaForm Alberta) provinces)
        : base(definition, "balance", "Balance", "All tax, what has been deducted and paid, and what is left.")
    {
        var scope = from.Scope;
        var year = law.Year;
        Section("Payable", "ITA 153 to 156");
        var federal = Line("federal", "Net federal tax", from.Federal.Net).Law("line 42000");
        var self = Line("self-contributions", "Contributions on self-employment", contributions.SelfPayable).Law("line 42100");
        var repayment = Line("repayment", "Benefits repaid", from.Income.Repayment).Law("line 42200");
        ProvincialTax = Line("provincial", "Tax of the province", provinces.Ontario.Tax + provinces.BritishColumbia.Tax + provinces.Alberta.Tax).Law("line 42800");
        Payable = Line("payable", "Payable in all", federal + self + repayment + ProvincialTax).Law("line 43500").Subtotal();

        var instalments = Repeating("instalments", "Instalments paid", "instalment", row =>
        {
            var date = row.Date("date", "Paid on").From("authority's statement").Required();
            row.NamedBy(date);
            var amount = row.Entry("amount", "Amount").From("authority's statement").Required();
            row.Error("instalment-twice", row.RepeatsEarlier(date, amount), "This instalment is entered twice: same day, same amount.", date);
            return new Instalment(amount);
        }, "ITA 156; line 47600", scope.Instalments);

        Section("Deducted, refunded and paid", "ITA 153, 156");
        var employment = from.Credits.Employment;
        var deducted = Line("deducted", "Tax deducted", employment.Tax + from.Credits.Benefits.Tax + other.Tax).Law("line 43700");
        var plan = Line("plan-overpaid", "Pension plan contributions overpaid", contributions.PlanOverpaid).Law("line 44800");
        var premiums = Line("premiums-overpaid", "Insurance premiums overpaid", contributions.PremiumsOverpaid).Law("line 45000");
        Amount supplementAmount = 0;
        if (law.SupplementMost is { } most && law.SupplementEarned is { } earned && law.SupplementThreshold is { } threshold)
        {
            supplementAmount = Line("medical-supplement", "Refundable medical expense supplement",
                If(employment.Income + AtLeastZero(profit) >= earned,
                    AtLeastZero(Min(most, Round(law.SupplementShare * from.Federal.Medical, ToCents))
                        - Round(law.SupplementTaper * AtLeastZero(from.Income.Net + If(scope.Spouse, from.Taxpayer.SpouseIncome, 0) - threshold), ToCents)), 0)).Law("ITA 122.51; line 45200");
        }

        var training = law.TrainingShare is null ? (Amount)0 : Line("training", "Training credit", from.Credits.Tuition.Training).Law("line 45350");
        var paid = Line("instalments-paid", "Instalments", instalments.Sum(i => i.Amount)).Law("line 47600");
        var renters = Line("renters", "Renter's credit", provinces.BritishColumbia.Renters).Law("line 47900");
        Credits = Line("credits", "Deducted, refunded and paid", deducted + plan + premiums + supplementAmount + training + paid + renters).Law("line 48200").Subtotal();

        Section("Balance", "ITA 164, 156.1");
        var difference = Line("difference", "Payable less credits", Payable - Credits);
        Balance = Line("balance", "Balance: to pay, or a refund if negative", If(Size(difference) <= law.SmallBalance, 0, difference)).Law("lines 48400, 48500").Final();
        Note("small-balance", Size(difference) > 0 & Size(difference) <= law.SmallBalance, $"A balance of {Size(difference)} is neither charged nor refunded.", Balance);
        Note("refund", Balance < 0, $"A refund of {0 - Balance} is claimed.", Balance);
        Note("pay-by", Balance > 0 & OnToday <= scope.PaymentDay, $"Pay {Balance} by {scope.PaymentDay}.", Balance);
        var penaltyMonths = Min(MonthsFrom(scope.FilingDay, OnToday), law.LatePenaltyMonths);
        var penalty = Round(Balance * (law.LatePenalty + (law.LatePenaltyMonth * penaltyMonths)), ToCents);
        Warn("late", OnToday > scope.FilingDay & Balance > 0,
            $"The return is late: it was due on {scope.FilingDay}. Filed today a penalty of {penalty} is charged, {law.LatePenalty} of {Balance} and {law.LatePenaltyMonth} for each complete month, and interest runs from {scope.PaymentDay} (not added here). Where the balance was paid before that day there is no penalty.", Balance);
        Note("late-refund", OnToday > scope.FilingDay & Balance <= 0, $"The return was due on {scope.FilingDay}; without a balance there is no penalty.", Balance);

        Section("Instalments for next year", "ITA 156, 156.1", name: "instalments-ahead");
        var owing = Line("net-tax-owing", "Net tax owing", AtLeastZero(federal + repayment + ProvincialTax - deducted)).Law("ITA 156.1(1)");
        var lastYear = Entry("owing-last-year", $"Net tax owing of {year - 1}").OfOneYear().MayBeNegative().From("last assessment notice").TiedTo(new TiedReturn(IndividualReturn.ReturnId, 1).Line($"{Key}.net-tax-owing"));
        Note("instalments-ahead", owing > law.InstalmentThreshold & lastYear > law.InstalmentThreshold,
            $"Net tax owing is above {law.InstalmentThreshold} in {year} and {year - 1}: instalments will be asked for on 15 March, June, September and December {year + 1}, a quarter of {owing} each by this year's figures.", owing);
    }
}
