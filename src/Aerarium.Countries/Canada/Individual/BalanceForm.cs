using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>What is payable in all, what has been paid, and the balance.</summary>
public sealed class BalanceForm : Form
{
    private sealed record Instalment(DateLine Date, AmountLine Amount);

    private readonly FederalLaw _law;
    private readonly ScopeForm _scope;
    private readonly AnswerLine _repeated;

    /// <summary>Federal and provincial tax with repayments and contributions; what was deducted and paid; the balance: more than zero is to pay, less than zero is a refund.</summary>
    public readonly AmountLine Payable, ProvincialTax, Credits, Balance;

    /// <summary>Penalty and interest that have run until today.</summary>
    public readonly AmountLine Running;

    /// <summary>Declares the form.</summary>
    public BalanceForm(Definition definition, FederalLaw law, ProvincePages from, ContributionsForm contributions, OtherIncomeForm other, AmountLine profit, (OntarioForm Ontario, BritishColumbiaForm BritishColumbia, AlbertaForm Alberta) provinces)
        : base(definition, "balance", "Balance", "All tax, what has been deducted and paid, and what is left.")
    {
        var scope = from.Scope;
        var year = law.Year;
        (_law, _scope) = (law, scope);
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
            return new Instalment(date, amount);
        }, "ITA 156; line 47600", scope.Instalments);

        var workersBenefit = WorkersBenefit(law, from, profit);

        Section("Deducted, refunded and paid", "ITA 153, 156");
        var employment = from.Credits.Employment;
        var deducted = Line("deducted", "Tax deducted", employment.Tax + from.Credits.Benefits.Tax + from.Investments.Tax + other.Tax).Law("line 43700");
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
        var workers = workersBenefit is null ? (Amount)0 : Line("workers-benefit", "Workers benefit", workersBenefit).Law("ITA 122.7; line 45300");
        var paid = Line("instalments-paid", "Instalments", instalments.Sum(i => i.Amount)).Law("line 47600");
        var renters = Line("renters", "Renter's credit", provinces.BritishColumbia.Renters).Law("line 47900");
        Credits = Line("credits", "Deducted, refunded and paid", deducted + plan + premiums + supplementAmount + training + workers + paid + renters).Law("line 48200").Subtotal();

        Section("Balance", "ITA 164, 156.1");
        var difference = Line("difference", "Payable less credits", Payable - Credits);
        Balance = Line("balance", "Balance: to pay, or a refund if negative", If(Size(difference) <= law.SmallBalance, 0, difference)).Law("lines 48400, 48500").Final();
        Note("small-balance", Size(difference) > 0 & Size(difference) <= law.SmallBalance, $"A balance of {Size(difference)} is neither charged nor refunded.", Balance);
        Note("refund", Balance < 0, $"A refund of {0 - Balance} is claimed.", Balance);
        Note("pay-by", Balance > 0 & OnToday <= scope.PaymentDay, $"Pay {Balance} by {scope.PaymentDay}.", Balance);
        Warn("late", OnToday > scope.FilingDay & Balance > 0,
            $"The return is late: it was due on {scope.FilingDay}. What is unpaid on that day is charged {law.LatePenalty} and {law.LatePenaltyMonth} for each complete month, and interest runs from {scope.PaymentDay}; see Charges so far. Where the balance was paid before that day there is no penalty.", Balance);
        Note("late-refund", OnToday > scope.FilingDay & Balance <= 0, $"The return was due on {scope.FilingDay}; without a balance there is no penalty.", Balance);

        Section("Net tax owing", "ITA 156.1(1)", name: "net-tax-owing");
        var owing = Line("net-tax-owing", "Net tax owing", AtLeastZero(federal + repayment + ProvincialTax - deducted)).Law("ITA 156.1(1)");
        var lastYear = Owing("owing-last-year", 1);
        var selfLastYear = Contributed("self-last-year", 1, lastYear);
        var (ofThisYear, ofLastYear) = (owing + self, lastYear + selfLastYear);

        Amount charged = 0;
        if (year >= PrescribedInterest.KnownFrom.Year)
        {
            var yearBefore = Owing("owing-year-before", 2);
            var selfYearBefore = Contributed("self-year-before", 2, yearBefore);
            charged = InstalmentCharges(
                instalments, owing > law.InstalmentThreshold & (lastYear > law.InstalmentThreshold | yearBefore > law.InstalmentThreshold), (ofThisYear, ofLastYear, yearBefore + selfYearBefore));
        }

        Section("Instalments for next year", "ITA 156, 156.1", name: "instalments-ahead");
        var asked = owing > law.InstalmentThreshold & lastYear > law.InstalmentThreshold;
        Line("instalment-this-year", "Each instalment, by this year's figures", If(asked, ofThisYear / 4, 0), ToCents).Law("ITA 156(1)(a)");
        Line("instalment-last-year", "Each instalment, by last year's", If(asked, ofLastYear / 4, 0), ToCents).Law("ITA 156(1)(b)");
        var early = Line("instalment-reminder-early", "By the authority's reminders: March and June, each", If(asked, ofLastYear / 4, 0), ToCents).Law("ITA 156(1)(b)(ii)");
        var late = Line("instalment-reminder-late", "September and December, each", If(asked, AtLeastZero(ofThisYear - (2 * early)) / 2, 0), ToCents).Law("ITA 156(1)(b)(ii)");
        Note("instalments-ahead", asked,
            $"Net tax owing is above {law.InstalmentThreshold} in {year} and {year - 1}: instalments will be asked for on 15 March, June, September and December {year + 1}. The reminders will ask for {early} each in March and June and {late} each in September and December; who pays that owes no interest, whatever next year brings.", owing);

        Section("Charges so far", "ITA 161(1), 162(1), (2)", when: OnToday > scope.PaymentDay, name: "charges");
        _repeated = Answer("repeated", "Late again, after a formal demand?").OfOneYear().When(OnToday > scope.FilingDay & Balance > 0).Hint("penalty in one of the last three years; doubles it").Law("ITA 162(2)");
        var unpaid = Line("unpaid", "Balance unpaid", AtLeastZero(Balance));
        var penalty = Line("late-filing-today", "Penalty if filed today", LateFiling(unpaid)).Law("ITA 162(1), (2)");
        var interest = Line("interest-today", "Interest if paid today", LateInterest(unpaid, OnToday)).Law("ITA 161(1)");
        Running = Line("charges-today", "Charges if filed and paid today", penalty + interest + charged).Subtotal();
        Note("interest-unknown", OnToday > Later(scope.PaymentDay, PrescribedInterest.KnownUntil) & Balance > 0, $"Interest is computed until {PrescribedInterest.KnownUntil}: the rates after that day are not held here.", interest);
        if (year + 1 < PrescribedInterest.KnownFrom.Year)
        {
            Note("interest-not-before", Balance > 0 & OnToday > scope.PaymentDay, $"Interest before {PrescribedInterest.KnownFrom} is not computed: its rates are not held here.", interest);
        }

        AmountLine Owing(string key, int yearsBefore) => Entry(key, $"Net tax owing of {year - yearsBefore}").OfOneYear().MayBeNegative().From("last assessment notice")
            .TiedTo(new TiedReturn(IndividualReturn.ReturnId, yearsBefore).Line($"{Key}.net-tax-owing"));

        AmountLine Contributed(string key, int yearsBefore, AmountLine ofYear) => Entry(key, $"Contributions on self-employment of {year - yearsBefore}").OfOneYear().When(scope.Business & ofYear > 0)
            .From("assessment notice").TiedTo(new TiedReturn(IndividualReturn.ReturnId, yearsBefore).Line($"{Key}.self-contributions"));
    }

    /// <summary>What is added to an amount paid after its day: the penalty where it was still unpaid when the return had to be filed, and interest.</summary>
    public IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateFormula paid) =>
    [
        new("Penalty for filing late", If(paid > _scope.FilingDay, LateFiling(unpaid), 0), "ITA 162(1), (2)"),
        new("Interest, compounded daily", LateInterest(unpaid, paid), "ITA 161(1)"),
    ];

    /// <summary>Penalty for filing late today, on what was unpaid on the day of filing (ITA 162(1), and 162(2) where it is repeated).</summary>
    private Amount LateFiling(Amount unpaid)
    {
        var months = MonthsFrom(_scope.FilingDay, OnToday);
        return If(OnToday > _scope.FilingDay & !Relieved(OnToday),
            Round(unpaid * If(_repeated,
                _law.RepeatedPenalty + (_law.RepeatedPenaltyMonth * Min(months, _law.RepeatedPenaltyMonths)),
                _law.LatePenalty + (_law.LatePenaltyMonth * Min(months, _law.LatePenaltyMonths))), ToCents), 0);
    }

    /// <summary>Interest on what is paid after its day (ITA 161(1)).</summary>
    private Amount LateInterest(Amount unpaid, DateFormula paid) => Round(PrescribedInterest.On(unpaid, InterestAfter, paid), ToCents);

    /// <summary>The day after which interest runs; for those who report gains of 2024 the first of June.</summary>
    private DateFormula InterestAfter => _law.GainsRelief is { } relief ? If(_scope.Gains | _scope.Home, Later(_scope.PaymentDay, relief.AddDays(-1)), _scope.PaymentDay) : _scope.PaymentDay;

    private Condition Relieved(DateFormula filed) => _law.GainsRelief is { } relief ? (_scope.Gains | _scope.Home) & filed <= relief : new FixedDate(default) > OnToday;

    /// <summary>
    /// Interest and penalty on instalments paid late or short, until the balance is due: by whichever of this year's, last year's and the reminders' figures asks least, less what early
    /// payments earn (ITA 161(2), (2.2), (4.01), 163.1).
    /// </summary>
    private Amount InstalmentCharges(RepeatingSection<Instalment> paid, Condition required, (Amount This, Amount Last, Amount Before) bases)
    {
        Section($"Instalments of {_law.Year}", "ITA 156, 161(2), 163.1", name: "instalment-charges");
        var due = Line("instalments-required", "Instalments were required", required & !_scope.DiedOn.IsFilled()).Law("ITA 156.1(2)");
        var byThisYear = Interest("instalment-interest-this-year", "Interest on all instalments, by this year's figures", bases.This / 4, bases.This / 4);
        var byLastYear = Interest("instalment-interest-last-year", "By last year's", bases.Last / 4, bases.Last / 4);
        var byReminders = Interest("instalment-interest-reminders", "By the authority's reminders", bases.Before / 4, AtLeastZero(bases.Last - (bases.Before / 2)) / 2);
        var asked = Line("instalment-interest-least", "The least of them", Min(byThisYear, byLastYear, byReminders)).Law("ITA 161(4.01)");
        var earned = Line("instalment-interest-earned", "Earned by what was paid", If(due, Round(paid.Sum(i => PrescribedInterest.On(i.Amount, i.Date, _scope.PaymentDay)), ToCents), 0)).Law("ITA 161(2.2)");
        var left = Line("instalment-interest-left", "Left", AtLeastZero(asked - earned));
        var interest = Line("instalment-interest", "Interest on instalments", If(left <= _law.InstalmentInterestFree, 0, left)).Law("ITA 161(2), (2.1)").Subtotal();
        var penalty = Line("instalment-penalty", "Penalty on instalments",
            AtLeastZero(_law.InstalmentPenalty * (interest - Max(_law.InstalmentPenaltyFrom, _law.InstalmentPenaltyShare * asked))), ToCents).Law("ITA 163.1").Subtotal();
        Note("instalments-short", interest > 0, $"Instalments of {_law.Year} were paid late or short: interest of {interest} and a penalty of {penalty} will be charged by the assessment; they are not part of the balance.", interest);
        return interest + penalty;

        AmountLine Interest(string key, string label, Amount early, Amount late)
        {
            var (march, june, september, december) = _law.InstalmentDays;
            Amount OfDay(Amount amount, DateOnly day) => PrescribedInterest.On(amount, day, _scope.PaymentDay);
            return Line(key, label, If(due, OfDay(early, march) + OfDay(early, june) + OfDay(late, september) + OfDay(late, december), 0), ToCents).Law("ITA 161(2), (4.01)");
        }
    }

    /// <summary>
    /// The refundable benefit of those who work for little: it grows with income from work and shrinks with net income, of a couple both together. Null for years whose figures are not
    /// held. Alberta's own figures, the exemption of the second earner and the supplement for disability are not held: what they give is entered.
    /// </summary>
    private AmountLine? WorkersBenefit(FederalLaw law, ProvincePages from, AmountLine profit)
    {
        if (law.WorkersAlone is not { } alone || law.WorkersFamily is not { } familyMost || law.WorkersAloneThreshold is not { } threshold || law.WorkersFamilyThreshold is not { } familyThreshold)
        {
            return null;
        }

        var (scope, family) = (from.Scope, from.Credits.Family);
        Section("Workers benefit", "ITA 122.7", name: "workers");
        var work = Line("working-income", "Income from work", from.Credits.Employment.Income + AtLeastZero(profit)).Law("ITA 122.7(1) \"working income\"");
        var ofSpouse = Entry("spouse-working-income", "Spouse's income from work").OfOneYear().When(scope.Spouse).TiedTo(IndividualReturn.OfSpouse($"{Key}.working-income"));
        var hasFamily = Line("with-family", "With a spouse or a child", scope.Spouse | family.YoungChildren > 0 | family.ClaimsEligible);
        var together = Line("working-income-family", "Income from work, with the spouse's", work + ofSpouse);
        var secondEarner = Entry("second-earner", "Exemption of the second earner").OfOneYear().When(scope.Spouse & work > 0 & ofSpouse > 0).From("year's schedule 6").Hint("not held here; blank: none");
        var income = Line("workers-net-income", "Net income, with the spouse's", AtLeastZero(from.Income.Net + If(scope.Spouse, from.Taxpayer.SpouseIncome, 0) - secondEarner));
        var grown = Line("workers-grown", "Grown with income from work", Min(If(hasFamily, familyMost, alone), Round(law.WorkersShare * AtLeastZero(together - law.WorkersFrom), ToCents))).Law("ITA 122.7(2)");
        var most = Line("workers-most", "Left after the reduction for income", AtLeastZero(grown - Round(law.WorkersTaper * AtLeastZero(income - If(hasFamily, familyThreshold, threshold)), ToCents))).Law("ITA 122.7(2)");
        var ofAge = hasFamily | from.Taxpayer.Age >= law.WorkersAge;
        var claim = Answer("workers-claimed", "Claim the workers benefit here?").OfOneYear().When(most > 0 & ofAge & !scope.LivesIn("ab")).RequiredWhen(most > 0 & ofAge & !scope.LivesIn("ab"))
            .Hint("one of the spouses; not after more than thirteen weeks of full-time study without a child");
        var albertan = Entry("workers-alberta", "Alberta: workers benefit, amount allowed").OfOneYear().When(scope.LivesIn("ab") & work > law.WorkersFrom).From("year's schedule 6, Alberta");
        var supplement = Entry("workers-disability", "Disability supplement, amount allowed").OfOneYear().When(from.Federal.Disabled & work > 0).From("year's schedule 6");
        Note("workers-alberta", scope.LivesIn("ab") & most > 0 & albertan.IsBlank(), "Alberta has figures of its own for the workers benefit, which are not held here: work it out by the year's schedule 6 and enter it.", albertan);
        Note("second-earner", scope.Spouse & work > 0 & ofSpouse > 0 & secondEarner.IsBlank() & grown > most,
            $"Where both work, a part of the lower income is left out before the benefit shrinks; the figure is not held here. The benefit of {most} may be higher.", secondEarner);
        return Line("workers", "Workers benefit", If(claim, most, 0) + albertan + supplement).Law("ITA 122.7; line 45300").Subtotal();
    }
}
