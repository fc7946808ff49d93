using Aerarium.Core.Engine;
using Aerarium.Countries.Germany;

namespace Aerarium.Countries.Tests;

/// <summary>
/// Capital income (EStG s. 20(9), 32d), the subsidised private pension (s. 10a, 79 to 86), interest (AO s. 233a), prepayments (EStG s. 37) and what makes a return compulsory: the law sheet's formulas
/// and examples, typed anew here; all from memory of the statutes.
/// </summary>
public class GermanyCapitalTests
{
    private static GermanyCase Certificate(GermanyCase entered, string way, decimal income, decimal used = 0, decimal tax = 0, params (string, object)[] more) => entered.Scope("capital").With("capital.way", way)
        .Row("capital.certificates", [("payer", "Dyke Bank"), ("income", income), ("used", used), ("tax", tax), .. more]);

    private static GermanyCase Employee(decimal gross = 40_000, int year = 2025, string state = "he") => new GermanyCase(year, state).Wages(gross);

    private static decimal Of(GermanyCase entered, string line) => entered.Evaluate().Amount(line);

    private static void Turns(string finding, GermanyCase with, GermanyCase without)
    {
        Assert.Contains(with.Evaluate().Findings, f => f.Id == finding);
        Assert.DoesNotContain(without.Evaluate().Findings, f => f.Id == finding);
    }

    /// <summary>The sheet's example, 3.6: taxable income 15,000 and 3,000 of capital income, 2025, single: 18,000 bears 1,149, 15,000 bears 485; 664 is less than 750.</summary>
    [Fact]
    public void The_tariff_is_cheaper_for_a_low_income()
    {
        GermanyCase Of15000(string way) => Certificate(Employee(15_000 + 36 + 1_230), way, 4_000);
        var (flat, tariff) = (Of15000("assessed").Evaluate(), Of15000("tariff").Evaluate());
        Assert.Equal((15_000, 485, 750, 41.25m), (flat.Amount("tax.taxable"), flat.Amount("tax.by-tariff"), flat.Amount("capital.flat"), flat.Amount("capital.surcharge")));
        Assert.Equal(485 + 750, flat.Amount("tax.income-tax"));
        Assert.Equal((18_000, 1_149, 664, 0), (tariff.Amount("tax.taxable"), tariff.Amount("tax.income-tax"), tariff.Amount("tax.tariff-on-capital"), tariff.Amount("capital.flat")));
        Turns("tariff-better", Of15000("assessed"), Certificate(Employee(60_000), "assessed", 4_000));
        Turns("tariff-worse", Certificate(Employee(60_000), "tariff", 4_000), Of15000("tariff"));

        var election = Assert.Single(Alternatives.Of(flat, new DateOnly(2026, 3, 1)), e => e.Line.Key == "capital.way");
        Assert.Equal("tariff", election.Better!.Value.Choice.Code);
        Assert.Equal(750 + 41.25m - 664, election.Better.Value.Less);
    }

    /// <summary>EStG s. 32d(1): (e - 4q) / (4 + k), church tax k of it, the surcharge without a limit; e is what is above the saver's allowance.</summary>
    [Theory]
    [InlineData(2025, "he", "none", 3_000, 0, 500, 27.50, 0)]
    [InlineData(2025, "he", "ev", 3_000, 0, 488.99, 26.89, 44.00)]
    [InlineData(2025, "by", "rk", 3_000, 0, 490.19, 26.96, 39.21)]
    [InlineData(2025, "bw", "rk", 3_000, 100, 392.15, 21.56, 31.37)]
    [InlineData(2025, "he", "none", 3_000, 600, 0, 0, 0)]
    [InlineData(2025, "he", "none", 1_000, 0, 0, 0, 0)]
    [InlineData(2022, "he", "none", 2_801, 0, 500, 27.50, 0)]
    [InlineData(2023, "he", "none", 3_000, 0, 500, 27.50, 0)]
    public void The_flat_rate(int year, string state, string religion, decimal income, decimal foreign, decimal tax, decimal surcharge, decimal church)
    {
        var evaluation = Certificate(Employee(40_000, year, state).With("taxpayer.religion", religion), "assessed", income, 0, 0, ("foreign", foreign)).Evaluate();
        Assert.Equal((tax, surcharge, church), (evaluation.Amount("capital.flat"), evaluation.Amount("capital.surcharge"), evaluation.Amount("capital.church-tax")));
        var without = Employee(40_000, year, state).With("taxpayer.religion", religion).Evaluate();
        Assert.Equal(without.Balance + tax + surcharge + church, evaluation.Balance);
    }

    /// <summary>Left as taxed at source, only what bore no tax is assessed, with what the other certificates leave of the allowance; what is assessed is credited.</summary>
    [Fact]
    public void What_is_left_as_taxed_at_source()
    {
        GermanyCase Two(string way) => Certificate(Certificate(Employee(), way, 2_000, 700, 325, ("surcharge", 17.87m)), way, 900);
        var source = Two("source").Evaluate();
        Assert.Equal((900 - 300, 150, 0), (source.Amount("capital.own-taxed"), source.Amount("capital.flat"), source.Amount("capital.withheld")));
        var assessed = Two("assessed").Evaluate();
        Assert.Equal((1_900, 475, 325, 17.87m), (assessed.Amount("capital.own-taxed"), assessed.Amount("capital.flat"), assessed.Amount("capital.withheld"), assessed.Amount("capital.surcharge-withheld")));
        Assert.Equal(source.Amount("balance.income-tax"), assessed.Amount("balance.income-tax"));

        // The allowance was not used: all of it counts once all is assessed, and the tax of the bank, to the next euro, comes back.
        var unused = Certificate(Employee(), "assessed", 1_000, 0, 249.01m).Evaluate();
        Assert.Equal((0, 250, Employee().Evaluate().Balance - 250), (unused.Amount("capital.flat"), unused.Amount("capital.withheld"), unused.Balance));
        Turns("allowance-unused", Certificate(Employee(), "source", 2_000, 999, 250), Certificate(Employee(), "source", 2_000, 1_000, 250));
        Turns("allowance-above-income", Certificate(Employee(), "source", 10, 11), Certificate(Employee(), "source", 10, 10));
        Turns("no-church-tax", Certificate(Employee().With("taxpayer.religion", "ev"), "source", 2_000, 0, 9), Certificate(Employee().With("taxpayer.religion", "ev"), "source", 2_000, 0, 9, ("church-tax", 1)));
        Turns("no-certificate", Employee().Scope("capital"), Certificate(Employee(), "source", 1));
    }

    /// <summary>Half an allowance each; what one does not use is the other's, and both swapped give the same tax.</summary>
    [Theory]
    [InlineData(3_000, 400, 1_400, 0)]
    [InlineData(1_500, 1_200, 500, 200)]
    [InlineData(1_100, 900, 0, 0)]
    [InlineData(0, 2_600, 0, 600)]
    public void The_allowance_of_a_couple(decimal own, decimal ofSpouse, decimal ownTaxed, decimal spouseTaxed)
    {
        GermanyCase Couple(decimal one, decimal other) =>
            Certificate(Certificate(Employee().Couple(), "assessed", one, 0, 0, ("whose", "taxpayer")), "assessed", other, 0, 0, ("whose", "spouse"));
        Assert.Equal((ownTaxed, spouseTaxed), (Of(Couple(own, ofSpouse), "capital.own-taxed"), Of(Couple(own, ofSpouse), "capital.spouse-taxed")));
        Assert.Equal(Of(Couple(own, ofSpouse), "balance.balance"), Of(Couple(ofSpouse, own), "balance.balance"));
        Assert.Equal(Of(Couple(own, ofSpouse).With("capital.way", "tariff"), "income.sum"), Of(Couple(ofSpouse, own).With("capital.way", "tariff"), "income.sum"));
    }

    /// <summary>EStG s. 32d(6) s. 2: foreign tax reduces the tariff's tax on the capital income, and no more than that; s. 46(3): no hardship relief for it; s. 24a: it counts for the relief for age.</summary>
    [Fact]
    public void Capital_income_by_the_tariff()
    {
        GermanyCase With(decimal foreign) => Certificate(Employee(15_000 + 36 + 1_230), "tariff", 4_000, 0, 0, ("foreign", foreign));
        Assert.Equal((1_149 - 100, 485), (Of(With(100), "tax.income-tax"), Of(With(700), "tax.income-tax")));
        Assert.Equal(0, Of(Certificate(Employee(), "tariff", 1_300), "tax.hardship"));
        Assert.Equal(300 + 38_770, Of(Certificate(Employee(), "tariff", 1_300), "income.sum"));
        Assert.Equal(Math.Ceiling(0.132m * 1_500), Of(Certificate(Employee(1_000).With("taxpayer.birth-date", "1960-06-01"), "tariff", 1_500), "income.age-relief"));
    }

    private static GermanyCase Pension(decimal paid, decimal wage, int children = 0, int older = 0, decimal gross = 40_000, int year = 2024) => Employee(gross, year).Scope("subsidised-pension")
        .With("provident.pension-paid", paid).With("provident.pension-wage", wage).With("provident.pension-children", children).With("provident.pension-older-children", older);

    /// <summary>EStG s. 84 to 86: 175, 300 for a child born since 2008, 185 before; in full where 4% of last year's wage, 2,100 at most, less the allowances is paid, and 60 at least; else in proportion.</summary>
    [Theory]
    [InlineData(1_925, 60_000, 0, 0, 175, 2_100)]
    [InlineData(1_425, 40_000, 0, 0, 175, 1_600)]
    [InlineData(712.50, 40_000, 0, 0, 87.50, 800)]
    [InlineData(340, 40_000, 3, 1, 1_260, 1_600)]
    [InlineData(60, 20_000, 3, 0, 1_075, 1_135)]
    [InlineData(30, 20_000, 3, 0, 537.50, 567.50)]
    [InlineData(2_100, 90_000, 0, 0, 175, 2_100)]
    [InlineData(0, 40_000, 1, 0, 0, 0)]
    public void Allowances_of_the_subsidised_pension(decimal paid, decimal wage, int children, int older, decimal allowances, decimal deductible)
    {
        var evaluation = Pension(paid, wage, children, older).Evaluate();
        Assert.Equal((allowances, deductible), (evaluation.Amount("provident.pension-allowances"), evaluation.Amount("provident.pension")));
        Assert.Equal(paid > 0 && allowances < 175 + (300 * children) + (185 * older), evaluation.Findings.Any(f => f.Id == "pension-cut"));
    }

    /// <summary>The deduction counts where it saves more than the allowances, which then are added to the tax; otherwise nothing changes.</summary>
    [Theory]
    [InlineData(40_000, 0)]
    [InlineData(90_000, 0)]
    [InlineData(90_000, 3)]
    [InlineData(25_000, 3)]
    public void The_better_of_deduction_and_allowances(decimal gross, int children)
    {
        var (with, without) = (Pension(1_925, 90_000, children, 0, gross).Evaluate(), Employee(gross, 2024).Evaluate());
        var allowances = 175m + (300 * children);
        var deducted = Employee(gross - 2_100, 2024).Evaluate();
        var saved = without.Amount("tax.by-tariff") - deducted.Amount("tax.by-tariff");
        Assert.Equal(saved, with.Amount("tax.pension-saved"));
        Assert.Equal(saved > allowances ? deducted.Amount("tax.by-tariff") + allowances : without.Amount("tax.by-tariff"), with.Amount("tax.income-tax"));
        Assert.Contains(with.Findings, f => f.Id == (saved > allowances ? "pension-better" : "pension-allowances-better"));
        Assert.DoesNotContain(with.Findings, f => f.Id == (saved > allowances ? "pension-allowances-better" : "pension-better"));
    }

    /// <summary>E16 of the sheet: the run starts on 1 September 2024, five full months until 20 February 2025, 4,372 is cut to 4,350: 32 to pay, 33 paid out; less than ten is not set.</summary>
    [Theory]
    [InlineData(4_372, "2025-02-20", 32)]
    [InlineData(-4_372, "2025-02-20", -33)]
    [InlineData(4_372, "2025-01-31", 26)]
    [InlineData(4_372, "2025-02-01", 32)]
    [InlineData(4_372, "2024-10-01", 0)]
    [InlineData(4_372, "2024-09-15", 0)]
    [InlineData(6_700, "2024-10-01", 10)]
    [InlineData(6_649, "2024-10-01", 0)]
    public void Interest(decimal difference, string today, decimal interest)
    {
        GermanyCase Prepaid(decimal paid) => Employee(100_000, 2022).Scope("prepayments").With("balance.prepaid", paid).On(DateOnly.ParseExact(today, "yyyy-MM-dd"));
        var tax = Of(Prepaid(0), "tax.income-tax");
        var evaluation = Prepaid(tax - difference).Evaluate();
        Assert.Equal(interest, evaluation.Amount("balance.interest"));
        Assert.Equal(Math.Max(0, interest), evaluation.Amount("balance.charges-today"));
        Assert.Equal(interest < 0, evaluation.Findings.Any(f => f.Id == "interest-paid-out"));
    }

    [Theory]
    [InlineData(2022, "2024-09-01")]
    [InlineData(2023, "2025-07-01")]
    [InlineData(2024, "2026-06-01")]
    [InlineData(2025, "2027-04-01")]
    public void The_day_from_which_tax_bears_interest(int year, string day) => Assert.Equal(day, new Germany.Parameters.IncomeTaxLaw(year).InterestFrom.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture));

    /// <summary>EStG s. 37(5): from 400 a year and 100 a quarter.</summary>
    [Theory]
    [InlineData(399, 0)]
    [InlineData(400, 100)]
    [InlineData(403, 100)]
    [InlineData(5_000, 1_250)]
    public void Prepayments_of_the_next_year(decimal left, decimal quarter)
    {
        var tax = Of(Employee(), "tax.income-tax");
        var evaluation = new GermanyCase(2025).Wages(40_000, tax - left).Evaluate();
        Assert.Equal(quarter, evaluation.Amount("balance.next-quarter"));
        Assert.Equal(quarter > 0, evaluation.Findings.Any(f => f.Id == "prepayments-next"));
    }

    /// <summary>EStG s. 46(2) no. 3 and 4: the wage of the sheet's table, on both sides; the other reasons without an edge.</summary>
    [Fact]
    public void Reasons_why_a_return_is_compulsory()
    {
        static bool Duty(GermanyCase entered) => entered.Evaluate().IsYes("balance.duty");
        foreach (var (year, alone, together) in new[] { (2022, 13_150, 24_950), (2023, 12_174, 23_118), (2024, 13_050, 24_870), (2025, 13_362, 25_494) })
        {
            foreach (var reason in new[] { "allowance", "provident" })
            {
                Assert.Equal((false, true), (Duty(Employee(alone, year).With("scope.compulsory", reason)), Duty(Employee(alone + 0.01m, year).With("scope.compulsory", reason))));
                Assert.Equal((false, true), (Duty(Employee(together, year).Couple().With("scope.compulsory", reason)), Duty(Employee(together - 1, year).Couple().Wages(1.01m, 0, "-spouse").With("scope.compulsory", reason))));
            }
        }

        Assert.All(["new-employer", "remarried", "apart", "asked"], reason => Assert.True(Duty(Employee().With("scope.compulsory", reason))));
        Assert.False(Duty(Employee().With("scope.compulsory", "none")));
    }

    /// <summary>The layouts of the sheet's table: each state's numbers begin in its own way.</summary>
    [Fact]
    public void A_tax_number_of_another_state_is_asked_about()
    {
        Assert.Equal(16, GermanyIdentifiers.BeginningsByState.Values.Distinct().Count());
        Turns("tax-number-of-other-state", Employee(40_000, 2025, "by").With("taxpayer.tax-number", "2618034251607"), Employee(40_000, 2025, "by").With("taxpayer.tax-number", "9214031740526"));
        Turns("tax-number-of-other-state", Employee(40_000, 2025, "sh").With("taxpayer.tax-number", "9214031740526"), Employee(40_000, 2025, "he").With("taxpayer.tax-number", "2618034251607"));
    }
}
