using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Interest and dividends; an account held jointly is shared by what each put into it, and the spouse's share appears on the spouse's return.</summary>
public sealed class InvestmentsForm : Form
{
    private sealed record Slip(AmountLine Interest, AmountLine Eligible, AmountLine Other, AmountLine Gains);

    /// <summary>Interest.</summary>
    public readonly AmountLine Interest;

    /// <summary>Taxable amounts of eligible and of other dividends.</summary>
    public readonly AmountLine EligibleDividends, OtherDividends;

    /// <summary>Capital gains dividends.</summary>
    public readonly AmountLine Gains;

    /// <summary>Tax deducted, by boxes that are not on the page.</summary>
    public readonly AmountLine Tax;

    /// <summary>By how much dividends are grossed up.</summary>
    public readonly AmountLine GrossUp;

    /// <summary>Declares the form.</summary>
    public InvestmentsForm(Definition definition, FederalLaw law, ScopeForm scope)
        : base(definition, "investments", "Investments", "Slips T5 and T3, box by box; amounts below 50 without a slip count too.", scope.Investment | scope.Spouse | scope.AuthorityInterest)
    {
        var slips = Repeating("slips", "Slips T5 and T3, Statement of Investment Income", "slip T5 or T3", row =>
        {
            var payer = row.Text("payer", "Bank, company or fund").From("slip T5 or T3, payer").Required();
            row.NamedBy(payer);
            var interest = row.Entry("interest", "Interest and foreign income").TakesMoreIncome().From("slip T5, box 13, or T3, box 26").Law("line 12100");
            var eligible = row.Entry("eligible", "Eligible dividends, actual amount").From("slip T5, box 24, or T3, box 49").Law("line 12000");
            var other = row.Entry("other", "Other dividends, actual amount").From("slip T5, box 10, or T3, box 23").Law("line 12010");
            var gains = row.Entry("gains", "Capital gains dividends").From("slip T5, box 18, or T3, box 21");
            var joint = row.Answer("joint", "Held jointly?");
            var share = row.Measure("share", "Taxpayer's share", 2).Unit("%").When(joint).RequiredWhen(joint).Hint("by what each put into the account");
            var owners = row.Text("owners", "Other owners").When(joint).RequiredWhen(joint & (share < 100));
            var withSpouse = row.Answer("with-spouse", "Is the other owner the spouse?").When(joint & scope.Spouse).RequiredWhen(joint & scope.Spouse);
            row.Error("share-out-of-range", share < 0 | share > 100, $"The share must be from 0 to 100 percent; {share} is entered.", share);

            Amount Own(Amount amount) => Round(If(joint, amount * share / 100, amount), ToCents);
            AmountLine OfOther(string name, string label, AmountLine amount, Amount own) => row.Line(name, label, If(joint & withSpouse, amount - own, 0));
            var ownInterest = row.Line("own-interest", "Interest, taxpayer's share", Own(interest));
            var ownEligible = row.Line("own-eligible", "Eligible dividends, taxpayer's share", Own(eligible));
            var ownOther = row.Line("own-other", "Other dividends, taxpayer's share", Own(other));
            row.Line("account-of-spouse", "Goes to the spouse's return", If(joint & withSpouse, payer, ""));
            OfOther("spouse-interest", "Interest, spouse's share", interest, ownInterest);
            OfOther("spouse-eligible", "Eligible dividends, spouse's share", eligible, ownEligible);
            OfOther("spouse-other", "Other dividends, spouse's share", other, ownOther);
            return new Slip(ownInterest, ownEligible, ownOther, row.Line("own-gains", "Capital gains dividends, taxpayer's share", Own(gains)));
        }, "ITA 12(1)(c), (j), (k)", scope.Investment);

        var joint = Repeating("from-spouse", "Joint accounts on the spouse's return", "account", row =>
        {
            row.NamedBy(row.Text("payer", "Bank, company or fund").Required());
            return new Slip(
                row.Entry("interest", "Interest, taxpayer's share"), row.Entry("eligible", "Eligible dividends, taxpayer's share"), row.Entry("other", "Other dividends, taxpayer's share"),
                row.Entry("gains", "Capital gains dividends, taxpayer's share"));
        }, "ITA 12(1)(c), (j), (k)", scope.Spouse).TiedTo(new RowTie(
            new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse"),
            $"{Key}.slips",
            "account-of-spouse",
            [new TiedColumn("payer", "account-of-spouse"), new TiedColumn("interest", "spouse-interest"), new TiedColumn("eligible", "spouse-eligible"), new TiedColumn("other", "spouse-other")]));

        var boxes = Repeating("boxes", "Boxes of slips that are not above", "box", row => OtherBox.In(row, Key, "Interest and other investment income, line 12100"), "ITA 12(1)", scope.Investment).AsGrid();

        Section("From the authority", "ITA 12(1)(c)", scope.AuthorityInterest);
        var ofAuthority = Entry("authority-interest", "Interest the authority paid on refunds").OfOneYear().From("notice of assessment").Law("line 12100").Hint("it is income of the year it is paid in");

        Section("All investments", "ITA 12(1), 82(1)");
        Interest = Line("interest", "Interest and other investment income", slips.Sum(s => s.Interest) + joint.Sum(j => j.Interest) + boxes.Sum(b => b.Income) + ofAuthority).Law("line 12100").Subtotal();
        var eligibleActual = Line("eligible-actual", "Eligible dividends received", slips.Sum(s => s.Eligible) + joint.Sum(j => j.Eligible));
        var otherActual = Line("other-actual", "Other dividends received", slips.Sum(s => s.Other) + joint.Sum(j => j.Other));
        EligibleDividends = Line("eligible", "Eligible dividends, taxable amount", eligibleActual * (1 + (Amount)law.EligibleGrossUp), ToCents).Law("ITA 82(1)");
        OtherDividends = Line("other", "Other dividends, taxable amount", otherActual * (1 + (Amount)law.OtherGrossUp), ToCents).Law("ITA 82(1); line 12010");
        GrossUp = Line("gross-up", "of which gross-up", EligibleDividends + OtherDividends - eligibleActual - otherActual);
        Gains = Line("gains", "Capital gains dividends", slips.Sum(s => s.Gains) + joint.Sum(j => j.Gains)).Law("Schedule 3");

        Tax = Line("tax", "Tax deducted", boxes.Sum(b => b.Tax)).Law("line 43700");

        Error("no-investment", scope.Investment & slips.RowCount.Equals(0), "Add each slip T5 or T3, or answer in Scope that there was none.", scope.Investment);
    }
}
