using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Old age security, public plan benefits, pensions and their splitting, employment insurance and other benefits.</summary>
public sealed class BenefitsForm : Form
{
    private sealed record Pension(AmountLine Amount, AmountLine Qualifying, AmountLine QualifyingUnder65, AmountLine Tax, AmountLine QualifyingTax);

    private sealed record Insurance(AmountLine Total, AmountLine Repaid, AmountLine Tax);

    /// <summary>Kinds of income by source.</summary>
    public readonly AmountLine OldAge, PublicPlan, Pensions, Insured, Exempt;

    /// <summary>Regular benefits that may have to be repaid.</summary>
    public readonly AmountLine Repayable;

    /// <summary>Pension income for which the pension amount is given, after splitting.</summary>
    public readonly AmountLine Eligible;

    /// <summary>Pension given to the spouse, and received from the spouse.</summary>
    public readonly AmountLine SplitGiven, SplitReceived;

    /// <summary>Tax deducted, after what moves with a split pension.</summary>
    public readonly AmountLine Tax;

    /// <summary>Declares the form.</summary>
    public BenefitsForm(Definition definition, FederalLaw law, ScopeForm scope, TaxpayerForm taxpayer)
        : base(definition, "benefits", "Pensions and benefits", "Slips of pensions and benefits, box by box, and what is shared with the spouse.", scope.Pension | scope.Benefits | scope.Spouse)
    {
        var senior = taxpayer.Age >= law.SeniorAge;
        Section("Old age security and public plan", "ITA 56(1)(a)", scope.Pension);
        OldAge = Entry("old-age", "Old age security pension").From("slip T4A(OAS), box 18").Law("line 11300");
        var oldAgeTax = Entry("old-age-tax", "Tax deducted from old age security").From("slip T4A(OAS), box 22").Law("line 43700");
        PublicPlan = Entry("public-plan", "Canada or Quebec pension plan benefits").From("slip T4A(P), box 20").Law("line 11400");
        var publicPlanTax = Entry("public-plan-tax", "Tax deducted from plan benefits").From("slip T4A(P), box 22").Law("line 43700");

        var pensions = Repeating("pensions", "Other pensions: slips T4A, T4RIF, T4RSP annuities, T3", "pension slip", row =>
        {
            row.NamedBy(row.Text("payer", "Payer").From("slip").Required());
            var kind = row.Choice("kind", "Kind", [
                new("plan", "Life annuity from an employer's pension plan (T4A, box 016)"),
                new("fund", "Retirement income fund or savings annuity (T4RIF, box 16; T4RSP)"),
                new("survivor", "Received because the spouse died"),
                new("other", "Pension that gives no pension amount"),
            ]).Required();
            var amount = row.Entry("amount", "Pension").TakesMoreIncome().From("slip T4A, box 016, or T4RIF, box 16").Required().Law("line 11500");
            var tax = row.Entry("tax", "Tax deducted").From("slip T4A, box 022, or T4RIF, box 28");
            var under65 = row.Line("qualifying-under-65", "Qualifies at any age", If(kind.Is("plan") | kind.Is("survivor"), amount, 0));
            var qualifying = row.Line("qualifying", "Qualifies for the pension amount", If(kind.Is("other"), 0, If(senior, amount, under65))).Law("ITA 118(3), (7)");
            return new Pension(amount, qualifying, under65, tax, row.Line("qualifying-tax", "Tax on what qualifies", If(qualifying > 0, tax, 0)));
        }, "ITA 56(1)(a)", scope.Pension);

        var insurance = Repeating("insurance", "Employment insurance benefits: slip T4E", "slip T4E", row =>
        {
            row.NamedBy(row.Text("payer", "Issued by").From("slip T4E").Required());
            var total = row.Entry("total", "Total benefits").From("slip T4E, box 14").Required().Law("line 11900");
            var regular = row.Entry("regular", "of which regular benefits").From("slip T4E, box 15");
            var rate = row.Measure("rate", "Repayment rate", 0).Unit("%").Between(0, 30).From("slip T4E, box 7").Hint("30, or 0 where nothing is repaid");
            row.Error("regular-above-total", regular > total, $"Regular benefits of {regular} are above the total of {total}; check boxes 14 and 15.", regular);
            row.Error("repayment-rate", regular > 0 & rate.IsBlank(),
                "Copy the repayment rate of box 7: by it some benefits are repaid.", rate);
            return new Insurance(total, row.Line("repayable", "Benefits that may have to be repaid", If(rate > 0, regular, 0)), row.Entry("tax", "Tax deducted").From("slip T4E, box 22"));
        }, "ITA 56(1)(a)(iv)", scope.Benefits);

        var boxes = Repeating("boxes", "Boxes of slips that are not above", "box", row => OtherBox.In(row, Key, "Other pensions, line 11500"), "ITA 56", scope.Pension | scope.Benefits).AsGrid();

        Section("Benefits without tax", "ITA 56(1)(u), (v); 110(1)(f)", scope.Benefits);
        var compensation = Entry("compensation", "Workers' compensation").From("slip T5007, box 10").Law("line 14400");
        var assistance = Entry("assistance", "Social assistance").From("slip T5007, box 11").Law("line 14500");
        var supplements = Entry("supplements", "Net federal supplements").From("slip T4A(OAS), box 21").Law("line 14600");

        Section("Pension income that qualifies", "ITA 118(3), (7)", scope.Pension, name: "qualifying");
        var eligibleBefore = Line("eligible-before", "Pension that qualifies and can be shared", pensions.Sum(p => p.Qualifying)).Law("ITA 60.03, 118(7)");

        Section("Pension shared with the spouse", "ITA 60.03", scope.Spouse);
        SplitGiven = Entry("split-given", "Pension given to the spouse").OfOneYear().Law("ITA 60(c); line 21000").Hint("up to half; both sign form T1032");
        var given = NumberLine("split-share", "Share of the pension given", If(eligibleBefore > 0, SplitGiven / Max(eligibleBefore, 0.01m), 0));
        Line("split-qualifying", "of it, qualifying at any age", Round(pensions.Sum(p => p.QualifyingUnder65) * given, ToCents));
        var taxGiven = Line("split-tax-given", "Tax deducted that goes with it", Round(pensions.Sum(p => p.QualifyingTax) * given, ToCents)).Law("ITA 153(2)");
        SplitReceived = Entry("split-received", "Pension received from the spouse").OfOneYear().Law("ITA 56(1)(a.2); line 11600").TiedTo(OfSpouse("split-given"));
        var receivedQualifying = Entry("split-received-qualifying", "of it, qualifying at any age").OfOneYear().When(SplitReceived > 0).TiedTo(OfSpouse("split-qualifying"));
        var taxReceived = Entry("split-tax-received", "Tax deducted that came with it").OfOneYear().When(SplitReceived > 0).TiedTo(OfSpouse("split-tax-given"));
        Error("split-above-half", SplitGiven > Round(law.PensionShared * eligibleBefore, ToCents), $"At most half of the pension that can be shared, {eligibleBefore}, can be given.", SplitGiven);
        Error("split-both-ways", SplitGiven > 0 & SplitReceived > 0, "Only one of the spouses can give pension to the other; clear one side.", SplitGiven, SplitReceived);
        Warn("split-possible", eligibleBefore > 0 & SplitGiven.IsBlank() & SplitReceived.Equals(0), $"Pension of {eligibleBefore} can be shared with the spouse and may lower the tax of both: try it in the household, or enter 0.", SplitGiven);

        Section("Together", "ITA 56(1)(a)");
        Pensions = Line("pensions-total", "Other pensions", pensions.Sum(p => p.Amount) + boxes.Sum(b => b.Income)).Law("line 11500");
        Insured = Line("insured", "Employment insurance benefits", insurance.Sum(i => i.Total)).Law("line 11900");
        Repayable = Line("repayable", "Regular benefits that may have to be repaid", insurance.Sum(i => i.Repaid));
        Exempt = Line("exempt", "Benefits that count as income and are deducted again", compensation + assistance + supplements).Law("ITA 110(1)(f); line 25000");
        Eligible = Line("eligible", "Pension income for the pension amount", AtLeastZero(eligibleBefore - SplitGiven) + If(senior, SplitReceived, receivedQualifying)).Law("ITA 118(3)");
        Tax = Line("tax", "Tax deducted from pensions and benefits", oldAgeTax + publicPlanTax + pensions.Sum(p => p.Tax) + insurance.Sum(i => i.Tax) + boxes.Sum(b => b.Tax) - taxGiven + taxReceived).Law("line 43700");
    }

    private TieSource OfSpouse(string line) => new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line($"{Key}.{line}");
}
