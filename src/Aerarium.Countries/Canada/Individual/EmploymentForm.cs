using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Pay, one block for each slip T4, box by box.</summary>
public sealed class EmploymentForm : Form
{
    /// <summary>Where somebody worked.</summary>
    public static readonly IReadOnlyList<Choice> Places =
    [
        new("bc", "British Columbia"), new("ab", "Alberta"), new("on", "Ontario"), new("qc", "Quebec"), new("sk", "Saskatchewan"), new("mb", "Manitoba"), new("ns", "Nova Scotia"), new("nb", "New Brunswick"),
        new("nl", "Newfoundland and Labrador"), new("pe", "Prince Edward Island"), new("yt", "Yukon"), new("nt", "Northwest Territories"), new("nu", "Nunavut"), new("zz", "Outside Canada"),
    ];

    private sealed record Slip(
        AmountLine Income, AmountLine Tax, AmountLine Plan, AmountLine Second, AmountLine Quebec, AmountLine QuebecSecond, AmountLine Premiums, AmountLine Parental, AmountLine Pensionable,
        AmountLine Insurable, AmountLine QuebecInsurable, AmountLine PensionPlan, AmountLine Adjustment, AmountLine Dues, AmountLine Gifts);

    /// <summary>Pay of all employers, slips and other.</summary>
    public readonly AmountLine Income;

    /// <summary>Tax deducted, box 22.</summary>
    public readonly AmountLine Tax;

    /// <summary>Pension plan contributions, boxes 16 and 16A, and 17 and 17A in Quebec.</summary>
    public readonly AmountLine Plan, Second, Quebec, QuebecSecond;

    /// <summary>Employment insurance premiums, box 18, and parental insurance premiums, box 55.</summary>
    public readonly AmountLine Premiums, Parental;

    /// <summary>Earnings that count for the pension plan and for insurance, and the part of the latter earned in Quebec.</summary>
    public readonly AmountLine Pensionable, Insurable, QuebecInsurable;

    /// <summary>Contributions to the employer's pension plan, box 20, and the pension adjustment, box 52.</summary>
    public readonly AmountLine PensionPlan, Adjustment;

    /// <summary>Dues and gifts deducted by the employer, boxes 44 and 46.</summary>
    public readonly AmountLine Dues, Gifts;

    /// <summary>Declares the form.</summary>
    public EmploymentForm(Definition definition, PensionAndInsuranceLaw law, ScopeForm scope)
        : base(definition, "employment", "Employment", "One block for each slip T4, box by box.", scope.Employment)
    {
        var slips = Repeating("slips", "Slips T4, Statement of Remuneration Paid", "slip T4", row =>
        {
            var payer = row.Text("payer", "Employer's name").From("slip T4, employer's name").Required();
            row.NamedBy(payer);
            var account = row.Identifier("account", "Employer's account number", CanadaIdentifiers.PayrollAccount).From("slip T4, box 54");
            var place = row.Choice("place", "Province of employment", Places).From("slip T4, box 10").Required();
            var income = row.Entry("income", "Employment income").TakesMoreIncome().From("slip T4, box 14").Required().Law("ITA 5; line 10100");
            var tax = row.Entry("tax", "Income tax deducted").From("slip T4, box 22").Law("line 43700");
            var plan = row.Entry("plan", "CPP contributions").From("slip T4, box 16").When(!place.Is("qc"));
            var second = row.Entry("second", "Second CPP contributions").From("slip T4, box 16A").When(!place.Is("qc"));
            var quebec = row.Entry("quebec", "QPP contributions").From("slip T4, box 17").When(place.Is("qc"));
            var quebecSecond = row.Entry("quebec-second", "Second QPP contributions").From("slip T4, box 17A").When(place.Is("qc"));
            var premiums = row.Entry("premiums", "Employment insurance premiums").From("slip T4, box 18");
            var parental = row.Entry("parental", "Parental insurance premiums").From("slip T4, box 55").When(place.Is("qc"));
            var pensionPlan = row.Entry("pension-plan", "Contributions to the employer's pension plan").From("slip T4, box 20");
            row.Text("plan-number", "Pension plan registration number").From("slip T4, box 50").When(pensionPlan > 0);
            var adjustment = row.Entry("adjustment", "Pension adjustment").From("slip T4, box 52").Hint("reduces next year's retirement savings room");
            var insurable = row.Entry("insurable", "Insurable earnings").From("slip T4, box 24").Hint("blank: the same as box 14");
            var pensionable = row.Entry("pensionable", "Pensionable earnings").From("slip T4, box 26").Hint("blank: the same as box 14");
            var planExempt = row.Answer("plan-exempt", "Exempt from CPP or QPP?").From("slip T4, box 28");
            var premiumsExempt = row.Answer("premiums-exempt", "Exempt from employment insurance?").From("slip T4, box 28");
            var dues = row.Entry("dues", "Union dues").From("slip T4, box 44");
            var gifts = row.Entry("gifts", "Gifts through the employer").From("slip T4, box 46");

            var counted = row.Line("counted-pensionable", "Pensionable earnings counted", If(planExempt, 0, pensionable.Or(income)));
            var insured = row.Line("counted-insurable", "Insurable earnings counted", If(premiumsExempt, 0, insurable.Or(income)));
            var insuredInQuebec = row.Line("insurable-in-quebec", "of which in Quebec", If(place.Is("qc"), insured, 0));
            if (law.IsKnown)
            {
                row.Warn("plan-above-most", plan > law.MostContribution | second > law.MostSecond | quebec > law.MostQuebecContribution | quebecSecond > law.MostSecond,
                    $"This employer deducted more than the yearly maximum of {law.MostContribution} (CPP), {law.MostQuebecContribution} (QPP) and {law.MostSecond} (second contributions); ask for a corrected slip.", plan);
                row.Error("premiums-above-rate", premiums > Round(If(place.Is("qc"), law.QuebecPremiumRate, law.PremiumRate) * insured, ToCents) + 1,
                    $"The premium of {premiums} does not fit insurable earnings of {insured}; check boxes 18 and 24.", premiums);
            }

            row.Warn("tax-too-high", tax > income * 0.6m, $"Tax of {tax} on pay of {income} looks too high; check boxes 14 and 22.", tax);
            row.Warn("earnings-assumed", income > 0 & ((pensionable.IsBlank() & !planExempt) | (insurable.IsBlank() & !premiumsExempt)),
                $"Box 24 or 26 is blank: earnings for insurance or pension are taken as the pay of {income}. Copy the box, or accept this when the slip leaves it blank.", pensionable, insurable);
            row.Error("slip-twice", row.RepeatsEarlier(payer, income), "This slip is entered twice: same employer, same pay. Keep one block for each slip.", income);
            row.Warn("account-of-slip", account.IsFilled() & !account.SatisfiesItsRule(), "The employer's account does not fit its form; the slip counts all the same.", account);
            return new Slip(income, tax, plan, second, quebec, quebecSecond, premiums, parental, counted, insured, insuredInQuebec, pensionPlan, adjustment, dues, gifts);
        }, "ITA 5; slip T4");

        var boxes = Repeating("boxes", "Boxes of slips that are not above", "box", row => OtherBox.In(row, Key, "Employment income, line 10400"), "ITA 5, 6", scope.Employment).AsGrid();

        Section("All employers", "ITA 5");
        var other = Entry("other", "Other employment income, not on a slip").TakesMoreIncome().Law("line 10400").Hint("tips, for example");
        Income = Line("income", "Employment income", slips.Sum(s => s.Income) + boxes.Sum(b => b.Income) + other).Law("ITA 5; lines 10100 and 10400").Subtotal();
        Tax = Line("tax", "Tax deducted by employers", slips.Sum(s => s.Tax) + boxes.Sum(b => b.Tax)).Law("line 43700");
        PensionPlan = Line("pension-plan", "Contributions to employers' pension plans", slips.Sum(s => s.PensionPlan)).Law("ITA 147.2(4); line 20700");
        Adjustment = Line("adjustment", "Pension adjustments", slips.Sum(s => s.Adjustment)).Law("line 20600");
        Dues = Line("dues", "Union dues on slips", slips.Sum(s => s.Dues)).Law("ITA 8(1)(i); line 21200");
        Gifts = Line("gifts", "Gifts through employers", slips.Sum(s => s.Gifts));

        Section("Contributions and premiums on slips", "CPP; Employment Insurance Act");
        Pensionable = Line("pensionable", "Pensionable earnings", slips.Sum(s => s.Pensionable));
        Insurable = Line("insurable", "Insurable earnings", slips.Sum(s => s.Insurable));
        QuebecInsurable = Line("insurable-in-quebec", "of which in Quebec", slips.Sum(s => s.QuebecInsurable));
        Plan = Line("plan", "CPP contributions", slips.Sum(s => s.Plan));
        Second = Line("second", "Second CPP contributions", slips.Sum(s => s.Second));
        Quebec = Line("quebec", "QPP contributions", slips.Sum(s => s.Quebec));
        QuebecSecond = Line("quebec-second", "Second QPP contributions", slips.Sum(s => s.QuebecSecond));
        Premiums = Line("premiums", "Employment insurance premiums", slips.Sum(s => s.Premiums));
        Parental = Line("parental", "Parental insurance premiums", slips.Sum(s => s.Parental));

        Error("no-slip", scope.Employment & slips.RowCount.Equals(0) & other.Equals(0), "Add each slip T4, or answer in Scope that nobody employed the taxpayer.", scope.Employment);
    }
}
