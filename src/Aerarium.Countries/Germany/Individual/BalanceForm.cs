using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>What was withheld and paid against the three taxes; whether the return is compulsory, and by when it is filed.</summary>
public sealed class BalanceForm : Form
{
    /// <summary>All three taxes, what was withheld and paid, the balance: more than zero is to pay, less than zero is a refund.</summary>
    public readonly AmountLine Taxes, Paid, Balance, Running;

    /// <summary>The day by which the return is filed.</summary>
    public readonly DateLine FilingDay;

    /// <summary>Declares the form.</summary>
    public BalanceForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxForm tax, IncomeForm income, CapitalForm capital, (WageForm Own, WageForm Spouse) wages, RateForm rate)
        : base(definition, "balance", "Balance", "The three taxes against what was withheld and paid.")
    {
        var up = new Rounding(1m, RoundingMode.Up);
        Section(Glossary.In("Prepayments"), "EStG s. 37", scope.Prepayments, "prepayments");
        var prepaid = Entry("prepaid", "Income tax").From("notice, statements of account");
        var prepaidSurcharge = Entry("prepaid-surcharge", "Solidarity surcharge").From("notice, statements of account");
        var prepaidChurch = Entry("prepaid-church", "Church tax").From("notice, statements of account");

        Section("Income tax", "EStG s. 36(2)", name: "income-tax");
        var withheld = Line("withheld", Glossary.In("Wage tax") + " withheld, to the next euro", wages.Own.WageTax + wages.Spouse.WageTax, up).Law("EStG s. 36(3)");
        Amount energy = wages.Own.EnergyCredited is { } own && wages.Spouse.EnergyCredited is { } spouse ? Line("energy", "Energy lump sum credited", own + spouse).Law("EStG s. 115") : (Amount)0;
        var incomeTax = Line("income-tax", "Income tax: to pay, or a refund if negative", tax.IncomeTax - withheld - capital.Withheld - prepaid - energy).Subtotal();

        Section("Solidarity surcharge and church tax", "SolZG; church tax acts", name: "others");
        var surchargeWithheld = Line("surcharge-withheld", Glossary.In("Solidarity surcharge") + " withheld", wages.Own.Surcharge + wages.Spouse.Surcharge + capital.SurchargeWithheld);
        var surcharge = Line("surcharge", "Solidarity surcharge: to pay, or a refund", tax.Surcharge - surchargeWithheld - prepaidSurcharge).Subtotal();
        var churchWithheld = Line("church-withheld", Glossary.In("Church tax") + " withheld", wages.Own.ChurchTax + wages.Own.SpouseChurchTax + wages.Spouse.ChurchTax + wages.Spouse.SpouseChurchTax + capital.ChurchWithheld);
        var church = Line("church", "Church tax: to pay, or a refund", tax.ChurchTax - churchWithheld - prepaidChurch).Subtotal();

        Section("Together", "EStG s. 36(4)", name: "together");
        Taxes = Line("taxes", "Income tax, solidarity surcharge and church tax", tax.IncomeTax + tax.Surcharge + tax.ChurchTax);
        Paid = Line("paid", "Withheld and paid", withheld + capital.Withheld + prepaid + energy + surchargeWithheld + prepaidSurcharge + churchWithheld + prepaidChurch);
        Balance = Line("balance", "Balance: to pay, or a refund if negative", incomeTax + surcharge + church).Final();

        Section("Duty to file", "EStG s. 46(2), EStDV s. 56", name: "duty");
        var ownFigures = !scope.AnyWages & income.Total > law.BasicAllowance * If(scope.Joint, 2, 1);
        var classFive = scope.Joint & scope.Taxpayer.Employed & scope.Spouse.Employed & (wages.Own.ClassFive | wages.Spouse.ClassFive);
        var registered = (scope.Compulsory.Is("allowance") | scope.Compulsory.Is("provident")) & wages.Own.Gross + wages.Spouse.Gross > If(scope.Joint, law.RegisteredJoint, law.RegisteredAlone);
        var otherReason = scope.Compulsory.IsFilled() & !scope.Compulsory.Is("none") & !scope.Compulsory.Is("allowance") & !scope.Compulsory.Is("provident");
        var ofWages = rate.Benefits > law.HardshipLimit | income.Other > law.HardshipLimit | wages.Own.AtTheSameTime | wages.Spouse.AtTheSameTime | classFive | rate.OneFifth > 0 | registered;
        var duty = Line("duty", "The return is compulsory", ownFigures | otherReason | (scope.AnyWages & ofWages)).Law("EStG s. 46(2) no. 1 to 7").Hint("as far as the entries and the answer in Scope tell");
        FilingDay = Line("filing-day", "To be filed by", If(duty, If(scope.Advised, law.FilingAdvised, law.Filing.Day), law.Voluntary)).Law("AO s. 149(2), (3), 169(2)");
        Note("voluntary", !duty & Balance < 0, $"Nobody must file this return; it gives a refund of {0 - Balance}, and can be filed until {law.Voluntary}.", Balance);
        Note("voluntary-to-pay", !duty & Balance > 0, "Nobody must file this return, and it ends in a payment; consider not to file it. Once filed it can be withdrawn by an objection.", Balance);
        Error("too-late", !duty & OnToday > law.Voluntary, $"It is too late for a return that nobody must file: it could be filed until {law.Voluntary}.", FilingDay);
        Warn("late", duty & OnToday > FilingDay, $"The return is late: it was due on {FilingDay}. A late surcharge may be charged.", FilingDay);

        Section(Glossary.In("Late surcharge") + " and interest so far", "AO s. 152, 233a", when: (duty & OnToday > FilingDay) | OnToday >= law.InterestFrom.AddMonths(1), name: "late");
        var difference = tax.IncomeTax - withheld - capital.Withheld - prepaid;
        var late = duty & OnToday > FilingDay;
        var months = NumberLine("months-late", "Months begun since the day of filing", If(late, MonthsFrom(FilingDay.AddDays(1), OnToday) + 1, 0)).Unit("months").Law("AO s. 152(5)");
        var month = Line("late-month", "For a month", If(late, Max(law.LateShare * AtLeastZero(difference), law.LateLeast), 0)).Law("AO s. 152(5)");
        var surchargeToday = Line("late-today", "Late surcharge if filed today", Min(month * months, law.LateMost), DownToUnits).Law("AO s. 152(10)");
        var full = NumberLine("interest-months", $"Full months from {law.InterestFrom:d MMM yyyy}", If(OnToday >= law.InterestFrom, MonthsFrom(law.InterestFrom, OnToday), 0)).Unit("months").Law("AO s. 233a(2), 238(1)");
        var base_ = Line("interest-base", "Income tax to pay or refunded, cut to a multiple of 50", Cut(Size(difference))).Law("AO s. 238(2)");
        var computed = Line("interest-computed", "Interest on it if the notice took effect today", law.InterestMonth * full * base_).Law("AO s. 238(1a)");
        var favourable = Line("interest-rounded", "to the euro in the taxpayer's favour", If(difference < 0, 0 - Round(computed, up), Round(computed, DownToUnits))).Law("AO s. 239(2) s. 1");
        var interest = Line("interest", Glossary.In("Interest") + ": to pay, or paid out if negative", If(Size(favourable) < law.InterestLeast, 0, favourable)).Law("AO s. 239(2) s. 2");
        Running = Line("charges-today", "Late surcharge and interest so far", surchargeToday + AtLeastZero(interest)).Subtotal();
        var automatic = OnToday >= new DateOnly(law.Year, 12, 31).AddDays(1).AddMonths((int)law.SurchargeAutomatic.Value);
        Note("late-automatic", late & automatic & Balance > 0, "The late surcharge is automatic by now.", surchargeToday);
        Note("late-discretion", late & (!automatic | Balance <= 0), "The late surcharge is at the authority's discretion.", surchargeToday);
        Note("interest-paid-out", interest < 0, $"Interest of {0 - interest} would come with the refund if the notice took effect today; it stands on the notice.", interest);

        Section("Prepayments the authority may set", "EStG s. 37", name: "next-year");
        var yearly = Line("next-year", "Income tax of a year like this, less what is withheld", AtLeastZero(tax.IncomeTax - withheld - capital.Withheld)).Law("EStG s. 37(3)");
        var quarter = Line("next-quarter", "On 10 March, 10 June, 10 September and 10 December", If(yearly >= law.PrepaymentYear & Round(yearly / 4, DownToUnits) >= law.PrepaymentQuarter, yearly / 4, 0), DownToUnits).Law("EStG s. 37(1), (5)");
        Note("prepayments-next", quarter > 0, $"The authority may set prepayments of {quarter} a quarter; the notice says so.", quarter);

        Amount Cut(Amount amount) => Round(AtLeastZero(amount) / law.InterestStep, DownToUnits) * law.InterestStep;
    }
}
