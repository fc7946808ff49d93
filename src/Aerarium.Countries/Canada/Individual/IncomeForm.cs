using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>The pages that bring income.</summary>
public sealed record IncomePages(
    EmploymentForm Employment, BenefitsForm Benefits, InvestmentsForm Investments, GainsForm Gains, HomeForm Home, BusinessForm Business, RentalForm Rental, OtherIncomeForm Other);

/// <summary>The pages that bring deductions.</summary>
public sealed record DeductionPages(ContributionsForm Contributions, RetirementForm Retirement, WorkCostsForm WorkCosts, ChildCareForm ChildCare);

/// <summary>Total, net and taxable income, line by line of the return.</summary>
public sealed class IncomeForm : Form
{
    private sealed record Loss(AmountLine Used, AmountLine Left);

    /// <summary>Total income, line 15000.</summary>
    public readonly AmountLine Total;

    /// <summary>Taxable capital gains, line 12700.</summary>
    public readonly AmountLine TaxableGains;

    /// <summary>Carrying charges, line 22100.</summary>
    public readonly AmountLine Carrying;

    /// <summary>All deductions from total income, and those for contributions.</summary>
    public readonly AmountLine Deductions;

    /// <summary>Benefits repaid, line 23500.</summary>
    public readonly AmountLine Repayment;

    /// <summary>Net income, line 23600.</summary>
    public readonly AmountLine Net;

    /// <summary>Losses of other years, line 25200.</summary>
    public readonly AmountLine OtherLosses;

    /// <summary>Taxable income, line 26000.</summary>
    public readonly AmountLine Taxable;

    /// <summary>Declares the form.</summary>
    public IncomeForm(Definition definition, FederalLaw law, ScopeForm scope, TaxpayerForm taxpayer, IncomePages from, DeductionPages less, AmountLine youngChildren)
        : base(definition, "income", "Income", "Total, net and taxable income; each figure leads to the page it comes from.")
    {
        var year = law.Year;
        Section("Total income", "ITA 3");
        var employment = Line("employment", "Employment income", from.Employment.Income).Law("lines 10100, 10400");
        var oldAge = Line("old-age", "Old age security pension", from.Benefits.OldAge).Law("line 11300");
        var publicPlan = Line("public-plan", "Pension plan benefits", from.Benefits.PublicPlan).Law("line 11400");
        var pensions = Line("pensions", "Other pensions", from.Benefits.Pensions).Law("line 11500");
        var split = Line("split-received", "Pension received from the spouse", from.Benefits.SplitReceived).Law("line 11600");
        var insured = Line("insured", "Employment insurance benefits", from.Benefits.Insured).Law("line 11900");
        var dividends = Line("dividends", "Dividends, taxable amount", from.Investments.EligibleDividends + from.Investments.OtherDividends).Law("line 12000");
        var interest = Line("interest", "Interest and other investment income", from.Investments.Interest).Law("line 12100");
        var rental = Line("rental", "Net rent", from.Rental.Net).Law("line 12600");
        var gains = Line("gains", "Capital gains less losses", from.Gains.Gains + from.Home.Gains);
        TaxableGains = Line("taxable-gains", "Taxable capital gains", law.Inclusion * AtLeastZero(gains), ToCents).Law("ITA 38; line 12700");
        var savings = Line("savings", "Retirement savings withdrawn", from.Other.Savings).Law("line 12900");
        var homeSavings = Line("home-savings", "First home savings withdrawn", from.Other.HomeSavings).Law("line 12905");
        var scholarships = Line("scholarships", "Scholarships", from.Other.Scholarships).Law("line 13010");
        var other = Line("other", "Other income", from.Other.Other).Law("line 13000");
        var business = Line("business", "Self-employment", from.Business.Profit + from.Home.BusinessIncome).Law("line 13500");
        var exempt = Line("exempt", "Workers' compensation, social assistance, supplements", from.Benefits.Exempt).Law("lines 14400 to 14600");
        Total = Line("total", "Total income",
            employment + oldAge + publicPlan + pensions + split + insured + dividends + interest + rental + TaxableGains + savings + homeSavings + scholarships + other + business + exempt).Law("ITA 3; line 15000").Subtotal();
        Line("capital-loss", $"Net capital loss of {year}, carried", law.Inclusion * AtLeastZero(-gains), ToCents).Law("ITA 111(8)");

        Section("Dues and carrying charges", "ITA 8(1)(i), 20(1)", scope.Carrying, name: "dues-and-charges");
        var otherDues = Entry("other-dues", "Union and professional dues not on slips").OfOneYear().From("receipts").Law("line 21200");
        Carrying = Entry("carrying", "Carrying charges and interest to earn income").OfOneYear().From("statements").Law("line 22100");

        Section("Net income", "ITA 3, 60");
        var pensionPlan = Line("pension-plan", "Contributions to employers' pension plans", from.Employment.PensionPlan).Law("line 20700");
        var retirement = Line("retirement", "Retirement savings", less.Retirement.Deduction).Law("line 20800");
        var firstHome = law.HomeSavingsYear is null ? (Amount)0 : Line("first-home", "First home savings", less.Retirement.HomeSavings).Law("line 20805");
        var splitGiven = Line("split-given", "Pension given to the spouse", from.Benefits.SplitGiven).Law("line 21000");
        var dues = Line("dues", "Union and professional dues", from.Employment.Dues + otherDues).Law("line 21200");
        var childCare = Line("child-care", "Child care", less.ChildCare.Deduction).Law("line 21400");
        var carrying = Line("carrying-charges", "Carrying charges", Carrying).Law("line 22100");
        var self = Line("self-contributions", "Contributions on self-employment", less.Contributions.SelfDeduction).Law("line 22200");
        var enhanced = year < 2019 ? (Amount)0 : Line("enhanced", "Enhanced pension plan contributions", less.Contributions.Enhanced).Law("line 22215");
        var workCosts = Line("work-costs", "Employment expenses", less.WorkCosts.Deduction).Law("line 22900");
        Deductions = Line("deductions", "Deductions", pensionPlan + retirement + firstHome + splitGiven + dues + childCare + carrying + self + enhanced + workCosts).Subtotal();
        var before = Line("net-before", "Net income before repayments", AtLeastZero(Total - Deductions)).Law("line 23400").Subtotal();
        AmountLine insuredRepaid;
        if (law.BenefitThreshold is { } benefitThreshold && law.OldAgeThreshold is { } oldAgeThreshold)
        {
            insuredRepaid = Line("insured-repaid", "Employment insurance benefits repaid",
                Min(Round(law.BenefitRate * AtLeastZero(before - benefitThreshold), ToCents), Round(law.BenefitRate * from.Benefits.Repayable, ToCents))).Law("Employment Insurance Act 145");
            var oldAgeRepaid = Line("old-age-repaid", "Old age security repaid",
                Min(from.Benefits.OldAge, Round(law.OldAgeRate * AtLeastZero(before - insuredRepaid - oldAgeThreshold), ToCents))).Law("ITA 180.2");
            Repayment = Line("repayment", "Benefits repaid", insuredRepaid + oldAgeRepaid).Law("ITA 60(w), (v.1); line 23500");
            Warn("benefits-repaid", Repayment > 0, $"{Repayment} of the benefits received must be repaid: net income of {before} is above the threshold.", Repayment);
        }
        else
        {
            Repayment = Entry("repayment", "Benefits repaid").OfOneYear().Law("ITA 60(w), (v.1); line 23500").Hint("thresholds of the year are not held here");
        }

        Net = Line("net-income", "Net income", before - Repayment).Law("line 23600").Final();

        var losses = Losses("losses", "Losses of earlier years", "ITA 111(1)(a); line 25200", "income.loss-of-year", law.LossYears);
        var capital = Losses("capital-losses", "Net capital losses of earlier years", "ITA 111(1)(b); line 25300", "income.capital-loss", null);

        Section("Taxable income", "ITA 2(2), 110 to 111");
        var exempted = Line("exempted", "Workers' compensation, social assistance, supplements, deducted again", exempt).Law("ITA 110(1)(f); line 25000");
        var mostLosses = Entry("losses-at-most", "Use of these losses at most").OfOneYear().When(scope.Losses).Hint("blank: as much as the income takes");
        OtherLosses = Line("losses-used", "Losses of earlier years", Min(losses.Held, AtLeastZero(Net - exempted), If(mostLosses.IsFilled(), mostLosses, losses.Held))).Law("ITA 111(1)(a); line 25200");
        var mostCapital = Entry("capital-losses-at-most", "Use of net capital losses at most").OfOneYear().When(scope.Losses).Hint("blank: as much as the gains take");
        var capitalUsed = Line("capital-losses-used", "Net capital losses of earlier years",
            Min(capital.Held, TaxableGains, If(mostCapital.IsFilled(), mostCapital, capital.Held))).Law("ITA 111(1)(b), 111(1.1); line 25300");
        Taxable = Line("taxable", "Taxable income", AtLeastZero(Net - exempted - OtherLosses - capitalUsed)).Law("line 26000").Final();
        Line("loss-of-year", $"Loss of {year}, carried", Min(AtLeastZero(-business) + AtLeastZero(-rental), AtLeastZero(Deductions - Total))).Law("ITA 111(8) \"non-capital loss\"");
        losses.Use(OtherLosses);
        capital.Use(capitalUsed);

        Error("capital-losses-above-gains", mostCapital > TaxableGains, $"Net capital losses are set against taxable gains only, {TaxableGains} this year; {mostCapital} is asked for.", mostCapital);
        Warn("child-care-on-higher-return", childCare > 0 & scope.Spouse & Net > taxpayer.SpouseIncome,
            $"Child care is as a rule deducted by the spouse with the lower net income: {taxpayer.SpouseIncome} against {Net} here. The higher-income spouse may deduct it only while the other studies, is ill or in prison.", childCare);
        Note("child-care-not-claimed", from.Employment.Income + from.Business.Profit > 0 & youngChildren > 0 & childCare.Equals(0), "Children of 16 or under are entered and no child care is deducted; the deduction can be large. Ask the client, and answer so in Scope.", childCare);
        if (law.TaperFrom.Value < law.TaperTo.Value && law.Basic.Value > law.BasicLeast.Value)
        {
            Warn("basic-reduced", Net > law.TaperFrom, $"The basic amount is reduced: net income of {Net} is above {law.TaperFrom}.", Net);
        }

        PoolByYear Losses(string name, string title, string citation, string ofYear, Parameter? years) => YearPool(new PoolWords(
            name, title, "loss", "Year of the loss", "Left at the beginning of the year", "last assessment notice", "Losses", 1_972, year - 1, years)
        {
            Law = citation,
            When = scope.Losses,
            Before = (new TiedReturn(IndividualReturn.ReturnId, 1), ofYear),
        });
    }
}
