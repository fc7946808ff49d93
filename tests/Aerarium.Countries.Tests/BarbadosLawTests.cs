using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries.Barbados;
using Aerarium.Countries.Barbados.Individual;
using Aerarium.Countries.Barbados.Parameters;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>
/// Worked computations of the law sheet (1 to 7, constructed from the Income Tax Act, Cap. 73, from memory: no published example recalled well enough to cite),
/// the figures of every year typed anew, edges, and each finding on both sides of its edge.
/// </summary>
public class BarbadosLawTests
{
    private static readonly int[] Computed = [2020, 2021, 2022, 2023, 2024, 2025];

    private static void Has(Evaluation evaluation, string finding) => Assert.Contains(evaluation.Findings, f => f.Id == finding);

    private static void HasNot(Evaluation evaluation, string finding) => Assert.DoesNotContain(evaluation.Findings, f => f.Id == finding);

    private static void Expect(BarbadosCase @case, decimal taxable, decimal tax, decimal balance)
    {
        var evaluation = @case.Evaluate();
        Assert.Equal((taxable, tax, balance), (evaluation.Amount("tax.taxable"), evaluation.Amount("tax.tax"), evaluation.Balance));
    }

    [Fact]
    public void Example_1_employee() => Expect(new BarbadosCase(2024).Employer(64_000, 4_875), 39_000, 4_875, 0);

    [Fact]
    public void Example_2_above_the_band() => Expect(new BarbadosCase(2023).Employer(120_000, 18_000), 95_000, 19_075, 1_075);

    [Fact]
    public void Example_3_pensioner() => Expect(new BarbadosCase(2022).With("taxpayer.birth-date", "1950-04-04").Pension(47_000, 1_000), 7_000, 875, -125);

    [Fact]
    public void Example_4_energy_saving_works()
    {
        var evaluation = new BarbadosCase(2024).Employer(99_000).Energy(1, 11_500).Evaluate();
        Assert.Equal(10_000, evaluation.Amount("deductions.energy"));
        Assert.Equal(64_000, evaluation.Amount("tax.taxable"));
        Assert.Equal(10_240, evaluation.Amount("tax.tax"));
        Assert.Equal(1_500, evaluation.Amount("deductions.energy-left"));
        Assert.Equal(2, evaluation.Amount("deductions.energy-next-year"));
    }

    [Fact]
    public void Example_5_nothing_to_pay() => Expect(new BarbadosCase(2021).Employer(21_400, 40), 0, 0, -40);

    [Fact]
    public void Example_6_just_above_the_edge() => Expect(new BarbadosCase(2020).Employer(75_100), 50_100, 6_278.50m, 6_278.50m);

    [Fact]
    public void Example_7_a_loss_is_carried_forward()
    {
        var evaluation = new BarbadosCase(2023).Employer(70_000).Business(2_000, 10_000).Evaluate();
        Assert.Equal((45_000m, 5_625m), (evaluation.Amount("tax.taxable"), evaluation.Amount("tax.tax")));
        Assert.Equal(8_000, evaluation.Amount("business.loss"));
        Has(evaluation, "loss-of-year");
    }

    /// <summary>Tax at the edges: Income Tax Act (Cap. 73) as amended in 2019, 12.5% to 50,000 and 28.5% above (from memory).</summary>
    [Fact]
    public void The_bands_of_every_year_that_is_computed()
    {
        foreach (var year in Computed)
        {
            var bands = IncomeTaxLaw.For(year).Bands;
            Assert.Equal([0m, 0.125m, 6_250m, 6_250.285m, 20_500m], new[] { 0m, 1m, 50_000m, 50_001m, 100_000m }.Select(bands.Apply));
            Assert.Equal(Confidence.Certain, bands.Confidence);
        }
    }

    /// <summary>Every figure typed anew from the law sheet; unsure ones say so.</summary>
    [Fact]
    public void The_figures_are_those_of_the_sheet()
    {
        foreach (var year in IncomeTaxLaw.Years)
        {
            var law = IncomeTaxLaw.For(year);
            (Parameter Figure, decimal Value, Confidence Confidence)[] expected =
            [
                (law.RentalRate, 0.15m, Confidence.Likely), (law.PersonalAllowance, 25_000, year < 2025 ? Confidence.Certain : Confidence.Likely),
                (law.PensionerAllowance, 40_000, year < 2025 ? Confidence.Certain : Confidence.Unsure), (law.PensionerAge, 60, Confidence.Likely), (law.SpouseAllowance, 3_000, Confidence.Likely),
                (law.SpouseIncomeTest, 800, Confidence.Likely), (law.MostChildren, 2, Confidence.Unsure), (law.ChildAge, 18, Confidence.Unsure), (law.StudentAge, 25, Confidence.Unsure),
                (law.EnergyLimit, 10_000, Confidence.Likely), (law.EnergyYears, 5, Confidence.Likely), (law.MedicalLimit, 750, Confidence.Unsure), (law.MedicalAge, 40, Confidence.Unsure),
                (law.DuesCeiling, 240, Confidence.Unsure), (law.ReverseCredit, 1_300, Confidence.Likely), (law.ReverseCreditLimit, 25_000, Confidence.Likely),
                (law.CompensatoryLimit, 35_000, Confidence.Unsure), (law.LateFilingFixed, 500, Confidence.Unsure), (law.LateFilingShare, 0.1m, Confidence.Unsure), (law.LateInterestMonth, 0.01m, Confidence.Unsure),
            ];
            Assert.All(expected, e => Assert.Equal((e.Value, e.Confidence), (e.Figure.Value, e.Figure.Confidence)));
            Assert.Equal(new DateOnly(year + 1, 4, 30), law.Payment.Day);
            Assert.Equal(new DateOnly(year + 1, 4, 30), law.Filing.Day);
            Assert.Equal(year >= 2020, law.ComputesTax);
        }

        Assert.Throws<ArgumentOutOfRangeException>(() => IncomeTaxLaw.For(2017));
        Assert.Throws<ArgumentOutOfRangeException>(() => IncomeTaxLaw.For(2026));
    }

    /// <summary>The mean of the two halves of 2018 and 2019 as the sheet gives it: 16% to 35,000, 33.5% to 75,000, 36.75% above; 14.25%, 23% to 50,000, 33.5% to 75,000, 36.75%.</summary>
    [Theory]
    [InlineData(2018, 100_000, 28_187.50)]
    [InlineData(2018, 35_000, 5_600)]
    [InlineData(2019, 100_000, 26_000)]
    [InlineData(2019, 50_000, 8_437.50)]
    public void In_2018_and_2019_the_tax_is_entered_beside_a_hint(int year, decimal taxable, decimal hint)
    {
        var without = new BarbadosCase(year).Employer(taxable + 25_000).Evaluate();
        Assert.Equal(hint, without.Amount("tax.tax-hint"));
        Assert.Equal(0, without.Amount("tax.tax"));
        Has(without, "tax-by-hand");
        var with = new BarbadosCase(year).Employer(taxable + 25_000).With("tax.tax-entered", 9_000).Evaluate();
        Assert.Equal((9_000, 9_000), (with.Amount("tax.tax"), with.Balance));
        HasNot(with, "tax-by-hand");
        HasNot(new BarbadosCase(year).Employer(25_000).Evaluate(), "tax-by-hand");
        Assert.Equal(Confidence.Unsure, IncomeTaxLaw.For(year).Bands.Confidence);
    }

    [Theory]
    [InlineData("1965-12-31", 25_000)]
    [InlineData("1964-12-31", 40_000)]
    [InlineData("1965-01-01", 25_000)]
    public void The_higher_allowance_needs_a_pension_and_the_age_of_60_by_31_December(string born, decimal allowance)
    {
        var evaluation = new BarbadosCase(2024).With("taxpayer.birth-date", born).Pension(50_000).With("tax.pensioner-claimed", "yes").Evaluate();
        Assert.Equal(allowance, evaluation.Amount("tax.allowance"));
        Assert.Equal(allowance == 25_000, evaluation.Findings.Any(f => f.Id == "pensioner-not-entitled"));
        Assert.Equal(25_000, new BarbadosCase(2024).With("taxpayer.birth-date", born).Employer(50_000).Evaluate().Amount("tax.allowance"));
    }

    [Theory]
    [InlineData(4, 9_000, 9_000, 0, 5)]
    [InlineData(4, 12_000, 10_000, 2_000, 5)]
    [InlineData(5, 12_000, 10_000, 0, 0)]
    [InlineData(6, 12_000, 0, 0, 0)]
    public void Energy_saving_works_are_cut_to_their_limit_and_end_after_five_years(int claimYear, decimal cost, decimal deducted, decimal left, decimal next)
    {
        var evaluation = new BarbadosCase(2024).Employer(99_000).Energy(claimYear, cost).Evaluate();
        Assert.Equal((deducted, left, next), (evaluation.Amount("deductions.energy"), evaluation.Amount("deductions.energy-left"), evaluation.Amount("deductions.energy-next-year")));
        Assert.Equal(claimYear > 5, evaluation.Findings.Any(f => f.Id == "energy-too-long"));
        Assert.Equal(claimYear < 5, evaluation.Findings.Any(f => f.Id == "energy-continues"));
        Assert.Equal(claimYear == 5, evaluation.Findings.Any(f => f.Id == "energy-lost"));
    }

    [Fact]
    public void Works_of_earlier_years_are_deducted_with_those_of_the_year() =>
        Assert.Equal(9_500, new BarbadosCase(2024).Employer(99_000).Energy(2, 8_000).With("deductions.energy-before", 1_500).Evaluate().Amount("deductions.energy"));

    [Fact]
    public void Deductions_are_what_was_entered_each_once()
    {
        var evaluation = new BarbadosCase(2024).Employer(200_000).Energy(1, 1)
            .Scope("dues", "gifts", "agriculture", "culture", "medical", "domestic-worker", "pension-plan", "spouse", "children")
            .Row("deductions.dues", ("body", "Union"), ("amount", 10)).Row("deductions.dues", ("body", "Body"), ("amount", 100))
            .Row("deductions.gifts", ("charity", "C"), ("number", "1"), ("amount", 5_000)).With("deductions.gifts-allowed", 1_000)
            .Row("deductions.agriculture", ("certificate", "A"), ("amount", 10_000)).Row("deductions.culture", ("certificate", "B"), ("amount", 20_000))
            .With("deductions.medical", 700).With("deductions.domestic-worker", 3_000).With("deductions.pension-plan", 40_000)
            .With("allowances.spouse-allowance", 2_000).Row("allowances.children", ("name", "K"), ("birth-date", "2015-01-01"), ("amount", 500)).Evaluate();
        Assert.Equal(10 + 100 + 1 + 1_000 + 10_000 + 20_000 + 700 + 3_000 + 40_000 + 2_000 + 500, evaluation.Amount("deductions.total"));
        foreach (var name in new[] { "dues", "energy", "gifts", "agriculture", "culture", "medical", "domestic-worker", "pension-plan", "spouse", "children" })
        {
            Has(evaluation, $"{name}-unchecked");
        }
    }

    [Fact]
    public void Income_of_all_kinds_is_assessed_together_and_what_was_taxed_at_source_is_not()
    {
        var evaluation = new BarbadosCase(2024).Employer(10_000, 0, 1_000).Pension(20_000).Business(5_000, 1_000).Abroad(1_000, 100, 2.000125m).Scope("investment")
            .Row("investments.investments", ("payer", "Bank"), ("kind", "interest"), ("amount", 700), ("taxed-at-source", "no"))
            .Row("investments.investments", ("payer", "Shop"), ("kind", "dividend"), ("amount", 900), ("taxed-at-source", "yes")).Evaluate();
        Assert.Equal(11_000 + 20_000 + 4_000 + 2_000.13m + 700, evaluation.Amount("tax.assessable"));
        Assert.Equal(200.01m, evaluation.Amount("foreign.tax"));
        Has(evaluation, "taxed-twice");
        Has(evaluation, "two-payers");
    }

    /// <summary>Tax 19,075 on 120,000, of which 30,000 come from abroad: 4,768.75 falls on them.</summary>
    [Theory]
    [InlineData(4_768.75, 4_768.75)]
    [InlineData(4_768.76, 4_768.75)]
    [InlineData(1_000, 1_000)]
    public void Foreign_tax_is_credited_up_to_the_tax_on_that_income(decimal foreignTax, decimal credited)
    {
        var evaluation = new BarbadosCase(2024).Employer(90_000).Abroad(30_000, foreignTax).Evaluate();
        Assert.Equal(credited, evaluation.Amount("balance.foreign-credit"));
        Assert.Equal(19_075 - credited, evaluation.Balance);
        Assert.Equal(foreignTax > credited, evaluation.Findings.Any(f => f.Id == "foreign-tax-lost"));
    }

    [Fact]
    public void Rent_is_taxed_apart_at_its_own_rate()
    {
        var evaluation = new BarbadosCase(2024).Employer(64_000).Property(18_000, 14_750.33m).Evaluate();
        Assert.Equal(2_212.55m, evaluation.Amount("rental.tax"));
        Assert.Equal(4_875 + 2_212.55m, evaluation.Balance);
        Has(evaluation, "taxed-neither");
        HasNot(new BarbadosCase(2024).Property(18_000, 18_000).Evaluate(), "taxed-neither");
        var shared = new BarbadosCase(2024).Scope("rental").Row("rental.properties", ("address", "Lane"), ("share", 33.33m), ("rent", 18_000), ("taxed", 5_666.10m))
            .Row("rental.costs", ("of", 1), ("class", "repairs"), ("amount", 1_000)).Evaluate();
        Assert.Equal((5_999.40m, 5_666.10m), (shared.Amount("rental.properties.own"), shared.Amount("rental.properties.net")));
        HasNot(shared, "taxed-neither");
        Has(new BarbadosCase(2024).Property(18_000, 18_000.01m).Evaluate(), "taxed-above-rent");
    }

    [Fact]
    public void Credits_and_payments_reduce_the_balance_and_a_reverse_credit_is_paid_out()
    {
        var evaluation = new BarbadosCase(2024).Employer(20_000, 30).Scope("credits", "prepayments").With("balance.reverse-credit", 1_300).With("balance.currency-credit", 5)
            .Row("balance.payments", ("kind", "prepayment"), ("date", "2024-06-15"), ("reference", "R"), ("amount", 70)).Evaluate();
        Assert.Equal(-1_300 - 5 - 30 - 70, evaluation.Balance);
        Has(evaluation, "refund");
        Has(evaluation, "no-account");
        Has(new BarbadosCase(2024).Scope("credits").With("balance.reverse-credit", 1).With("balance.compensatory-credit", 1).Evaluate(), "both-credits");
    }

    [Theory]
    [InlineData(25_000, true, false)]
    [InlineData(25_000.01, false, true)]
    [InlineData(35_000, false, true)]
    [InlineData(35_000.01, false, false)]
    public void A_credit_that_may_be_due_is_told(decimal assessable, bool reverse, bool compensatory)
    {
        var evaluation = new BarbadosCase(2024).Employer(assessable).Evaluate();
        Assert.Equal((reverse, compensatory), (evaluation.Findings.Any(f => f.Id == "reverse-credit-due"), evaluation.Findings.Any(f => f.Id == "compensatory-credit-due")));
    }

    [Theory]
    [InlineData(8_000, 3_000, 5_000, 0, 0)]
    [InlineData(8_000, 3_000, 4_000, 1_000, 1_000)]
    public void Losses_of_earlier_years_are_used_and_the_rest_goes_on(decimal loss, decimal before, decimal used, decimal left, decimal income)
    {
        var evaluation = new BarbadosCase(2024).Business(6_000, 1_000)
            .Row("business.losses", ("year", 2022), ("amount", loss), ("used-before", before), ("used", used)).Evaluate();
        Assert.Equal(left, evaluation.Amount("business.losses.left"));
        Assert.Equal(income, evaluation.Amount("business.income"));
        Has(evaluation, "losses-used-unchecked");
        HasNot(evaluation, "loss-overused");
        Has(new BarbadosCase(2024).Business(6_000, 1_000).Row("business.losses", ("year", 2022), ("amount", loss), ("used-before", before), ("used", loss - before + 0.01m)).Evaluate(), "loss-overused");
        Has(new BarbadosCase(2024).Business(6_000, 1_000).Row("business.losses", ("year", 2022), ("amount", 9_000), ("used", 5_000.01m)).Evaluate(), "losses-above-profit");
        Has(new BarbadosCase(2024).Business(6_000, 1_000).Row("business.losses", ("year", 2023), ("amount", 9_000), ("used", 1)).Row("business.losses", ("year", 2022), ("amount", 9)).Evaluate(), "older-loss-first");
    }

    [Theory]
    [InlineData("dues-ceiling", "240", "240.01")]
    [InlineData("spouse-income-test", "800", "800.01")]
    [InlineData("spouse-above-allowance", "3000", "3000.01")]
    [InlineData("medical-above-hint", "750", "750.01")]
    [InlineData("medical-too-young", "1983-12-31", "1984-01-01")]
    [InlineData("late", "2025-04-30", "2025-05-01")]
    [InlineData("tax-above-pay", "1000", "1000.01")]
    [InlineData("tax-above-pension", "1000", "1000.01")]
    [InlineData("foreign-tax-above-income", "1000", "1000.01")]
    [InlineData("gifts-above-given", "100", "100.01")]
    [InlineData("extended-too-early", "2025-05-01", "2025-04-30")]
    [InlineData("born-later", "2024-12-31", "2025-01-01")]
    [InlineData("child-born-later", "2024-12-31", "2025-01-01")]
    [InlineData("child-too-old", "2007-01-01", "2006-12-31")]
    [InlineData("student-too-old", "1999-01-01", "1998-12-31")]
    [InlineData("registration-other-birth", "800506-0001", "800507-0001")]
    [InlineData("registration-other-birth", "800506-0001", "801332-0001")]
    [InlineData("no-foreign-tax", "0.01", "0")]
    [InlineData("no-expenses", "0.01", "0")]
    public void A_finding_is_there_just_beyond_its_edge_and_not_before(string finding, string within, string beyond)
    {
        BarbadosCase Case(string value) => finding switch
        {
            "dues-ceiling" => new BarbadosCase(2024).Scope("dues").Row("deductions.dues", ("body", "U"), ("amount", value)),
            "spouse-income-test" => new BarbadosCase(2024).Scope("spouse").With("allowances.spouse-income", value).With("allowances.spouse-allowance", 1),
            "spouse-above-allowance" => new BarbadosCase(2024).Scope("spouse").With("allowances.spouse-allowance", value),
            "medical-above-hint" => new BarbadosCase(2024).Scope("medical").With("deductions.medical", value),
            "medical-too-young" => new BarbadosCase(2024).Scope("medical").With("deductions.medical", 1).With("taxpayer.birth-date", value),
            "late" => new BarbadosCase(2024).On(DateOnly.Parse(value, System.Globalization.CultureInfo.InvariantCulture)),
            "tax-above-pay" => new BarbadosCase(2024).Employer(1_000, decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture)),
            "tax-above-pension" => new BarbadosCase(2024).Pension(1_000, decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture)),
            "foreign-tax-above-income" => new BarbadosCase(2024).Abroad(1_000, decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture)),
            "no-foreign-tax" => new BarbadosCase(2024).Abroad(1_000, decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture)),
            "no-expenses" => new BarbadosCase(2024).Business(1_000, decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture)),
            "gifts-above-given" => new BarbadosCase(2024).Scope("gifts").Row("deductions.gifts", ("charity", "C"), ("number", "1"), ("amount", 100)).With("deductions.gifts-allowed", value),
            "extended-too-early" => new BarbadosCase(2024).Scope("extension").With("scope.extended-to", value),
            "born-later" => new BarbadosCase(2024).With("taxpayer.birth-date", value),
            "child-born-later" or "child-too-old" => new BarbadosCase(2024).Scope("children").Row("allowances.children", ("name", "K"), ("birth-date", value), ("amount", 1)),
            "student-too-old" => new BarbadosCase(2024).Scope("children").Row("allowances.children", ("name", "K"), ("birth-date", value), ("amount", 1), ("in-education", "yes")),
            _ => new BarbadosCase(2024).With("taxpayer.national-registration", value),
        };

        HasNot(Case(within).Evaluate(), finding);
        Has(Case(beyond).Evaluate(), finding);
    }

    private static decimal Cents(string value) => decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture);

    private static DateOnly Day(string value) => DateOnly.Parse(value, System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>Findings about what came of the entries, each one cent, one row or one day before its edge and at it.</summary>
    public static TheoryData<string, string, string, Func<string, BarbadosCase>> Edges => new()
    {
        { "pay-by", "2025-05-01", "2025-04-30", day => new BarbadosCase(2024).Employer(64_000).On(Day(day)) },
        { "pay-by", "4875", "4874.99", paid => new BarbadosCase(2024).Employer(64_000, Cents(paid)) },
        { "refund", "4875", "4875.01", paid => new BarbadosCase(2024).Employer(64_000, Cents(paid)) },
        { "no-account", "4875", "4875.01", paid => new BarbadosCase(2024).Employer(64_000, Cents(paid)).With("payout.bank", "Bank") },
        { "no-account", "4875", "4875.01", paid => new BarbadosCase(2024).Employer(64_000, Cents(paid)).With("payout.account-number", "1") },
        { "energy-lost", "10000", "10000.01", cost => new BarbadosCase(2024).Energy(5, Cents(cost)) },
        { "energy-continues", "0", "0.01", cost => new BarbadosCase(2024).Energy(4, Cents(cost)) },
        { "energy-too-long", "0", "0.01", cost => new BarbadosCase(2024).Energy(6, Cents(cost)) },
        { "energy-too-long", "5", "6", year => new BarbadosCase(2024).Energy(int.Parse(year, System.Globalization.CultureInfo.InvariantCulture), 1) },
        { "energy-unchecked", "0", "0.01", cost => new BarbadosCase(2024).Energy(1, Cents(cost)) },
        { "loss-of-year", "1000", "1000.01", spent => new BarbadosCase(2024).Business(1_000, Cents(spent)) },
        { "losses-above-profit", "5000", "5000.01", used => new BarbadosCase(2024).Business(6_000, 1_000).Row("business.losses", ("year", 2022), ("amount", 9_000), ("used", used)) },
        { "losses-used-unchecked", "0", "0.01", used => new BarbadosCase(2024).Business(6_000, 1_000).Row("business.losses", ("year", 2022), ("amount", 9_000), ("used", used)) },
        {
            "older-loss-first", "0", "0.01",
            used => new BarbadosCase(2024).Business(6_000, 1_000).Row("business.losses", ("year", 2023), ("amount", 9_000), ("used", used)).Row("business.losses", ("year", 2022), ("amount", 9))
        },
        {
            "older-loss-first", "9", "8.99",
            used => new BarbadosCase(2024).Business(6_000, 1_000).Row("business.losses", ("year", 2023), ("amount", 9), ("used", 1)).Row("business.losses", ("year", 2022), ("amount", 9), ("used", used))
        },
        { "prepayments-ahead", "25000", "25000.08", turnover => new BarbadosCase(2024).Business(Cents(turnover), 0) },
        { "reverse-credit-due", "0", "0.01", pay => new BarbadosCase(2024).Employer(Cents(pay)) },
        { "reverse-credit-due", "0.01", "0", credit => new BarbadosCase(2024).Employer(20_000).Scope("credits").With("balance.reverse-credit", credit) },
        { "compensatory-credit-due", "0.01", "0", credit => new BarbadosCase(2024).Employer(30_000).Scope("credits").With("balance.compensatory-credit", credit) },
        { "both-credits", "0", "0.01", credit => new BarbadosCase(2024).Scope("credits").With("balance.reverse-credit", credit).With("balance.compensatory-credit", 1) },
        { "both-credits", "0", "0.01", credit => new BarbadosCase(2024).Scope("credits").With("balance.compensatory-credit", credit).With("balance.reverse-credit", 1) },
        { "reverse-credit-unchecked", "0", "0.01", credit => new BarbadosCase(2024).Scope("credits").With("balance.reverse-credit", credit) },
        { "compensatory-credit-unchecked", "0", "0.01", credit => new BarbadosCase(2024).Scope("credits").With("balance.compensatory-credit", credit) },
        { "currency-credit-unchecked", "0", "0.01", credit => new BarbadosCase(2024).Scope("credits").With("balance.currency-credit", credit) },
        { "taxed-above-rent", "18000", "18000.01", taxed => new BarbadosCase(2024).Property(18_000, Cents(taxed)) },
        { "taxed-neither", "0", "0.01", taxed => new BarbadosCase(2024).Scope("rental").Row("rental.properties", ("address", "L"), ("rent", 9), ("taxed", taxed)).Row("rental.costs", ("of", 1), ("class", "other"), ("amount", 10)) },
        { "rental-base-unchecked", "0", "0.01", taxed => new BarbadosCase(2024).Property(18_000, Cents(taxed)) },
        { "taxed-twice", "0", "0.01", amount => new BarbadosCase(2024).Scope("investment").Row("investments.investments", ("payer", "B"), ("kind", "interest"), ("amount", amount), ("taxed-at-source", "yes")) },
        { "taxed-twice", "no", "yes", taxed => new BarbadosCase(2024).Scope("investment").Row("investments.investments", ("payer", "B"), ("kind", "interest"), ("amount", 1), ("taxed-at-source", taxed)) },
        { "spouse-income-test", "0", "0.01", allowed => new BarbadosCase(2024).Scope("spouse").With("allowances.spouse-income", 801).With("allowances.spouse-allowance", allowed) },
        { "medical-too-young", "0", "0.01", amount => new BarbadosCase(2024).Scope("medical").With("deductions.medical", amount).With("taxpayer.birth-date", "2000-01-01") },
        { "child-too-old", "0", "0.01", amount => new BarbadosCase(2024).Scope("children").Row("allowances.children", ("name", "K"), ("birth-date", "2001-01-01"), ("amount", amount)) },
        { "child-too-old", "yes", "no", student => new BarbadosCase(2024).Scope("children").Row("allowances.children", ("name", "K"), ("birth-date", "2001-01-01"), ("amount", 1), ("in-education", student)) },
        { "student-too-old", "0", "0.01", amount => new BarbadosCase(2024).Scope("children").Row("allowances.children", ("name", "K"), ("birth-date", "1990-01-01"), ("amount", amount), ("in-education", "yes")) },
        { "two-payers", "0", "1", pensions => pensions == "0" ? new BarbadosCase(2024).Employer(1) : new BarbadosCase(2024).Employer(1).Pension(1) },
        { "several-employers", "1", "2", employers => employers == "1" ? new BarbadosCase(2024).Employer(1) : new BarbadosCase(2024).Employer(1).Employer(1) },
        { "allowances-assumed", "0", "0.01", pay => new BarbadosCase(2025).Employer(Cents(pay)) },
        { "tax-by-hand", "25000", "25000.01", pay => new BarbadosCase(2018).Employer(Cents(pay)) },
        { "not-domiciled", "yes", "no", answer => new BarbadosCase(2024).With("scope.domiciled", answer) },
        { "not-resident", "yes", "no", answer => new BarbadosCase(2024).With("scope.resident", answer) },
        { "no-expenses", "0", "0.01", turnover => new BarbadosCase(2024).Business(Cents(turnover), 0) },
        { "no-foreign-tax", "0", "0.01", income => new BarbadosCase(2024).Abroad(Cents(income), 0) },
        { "late", "2025-06-01", "2025-06-02", day => new BarbadosCase(2024).Scope("extension").With("scope.extended-to", "2025-06-01").On(Day(day)) },
    };

    [Theory]
    [MemberData(nameof(Edges), DisableDiscoveryEnumeration = true)]
    public void A_finding_turns_at_its_edge(string finding, string before, string at, Func<string, BarbadosCase> entered)
    {
        HasNot(entered(before).Evaluate(), finding);
        Has(entered(at).Evaluate(), finding);
    }

    [Fact]
    public void More_than_two_children_are_questioned_only_when_claimed()
    {
        BarbadosCase With(int claimed) => Enumerable.Range(0, 3).Aggregate(new BarbadosCase(2024).Scope("children"), (c, n) =>
            c.Row("allowances.children", [("name", $"K{n}"), ("birth-date", "2015-01-01"), .. n < claimed ? [("amount", (object)1)] : Array.Empty<(string, object)>()]));
        HasNot(With(2).Evaluate(), "too-many-children");
        Has(With(3).Evaluate(), "too-many-children");
    }

    [Fact]
    public void What_scope_says_and_is_not_entered_is_an_error_and_the_law_of_2025_is_assumed()
    {
        var evaluation = new BarbadosCase(2025).Scope("employment", "pension", "business", "investment", "foreign", "rental", "children").Evaluate();
        foreach (var missing in new[] { "no-employer", "no-pension", "no-business", "no-investment", "no-source", "no-property", "no-child" })
        {
            Has(evaluation, missing);
        }

        Has(new BarbadosCase(2025).Employer(1).Evaluate(), "allowances-assumed");
        HasNot(new BarbadosCase(2024).Employer(1).Evaluate(), "allowances-assumed");
        Has(new BarbadosCase(2024).With("scope.resident", "no").Evaluate(), "not-resident");
        Has(new BarbadosCase(2024).With("scope.domiciled", "no").Evaluate(), "not-domiciled");
        Has(new BarbadosCase(2024).Employer(1).Employer(1).Evaluate(), "several-employers");
    }

    [Fact]
    public void Rows_entered_twice_are_told()
    {
        var evaluation = new BarbadosCase(2024).Scope("employment", "pension", "gifts", "prepayments", "business")
            .Row("employment.employers", ("number", "E"), ("pay", 1)).Row("employment.employers", ("number", "E"), ("pay", 2))
            .Row("pensions.pensions", ("payer", "P"), ("amount", 1)).Row("pensions.pensions", ("payer", "P"), ("amount", 2))
            .Row("deductions.gifts", ("number", "1"), ("amount", 5)).Row("deductions.gifts", ("number", "1"), ("amount", 5)).Row("deductions.gifts", ("number", "1"), ("amount", 6))
            .Row("balance.payments", ("reference", "R"), ("amount", 1)).Row("balance.payments", ("reference", "R"), ("amount", 2))
            .Row("business.losses", ("year", 2022), ("amount", 1)).Row("business.losses", ("year", 2022), ("amount", 1))
            .Row("business.assets", ("of", "1"), ("description", "Boat"), ("cost", 1), ("bought", "2024-05-02"), ("sold", "2024-05-01")).Business(1, 1).Evaluate();
        Assert.Equal(
            ["employer-twice", "gift-twice", "loss-twice", "payment-twice", "pension-twice", "sold-before-bought"],
            evaluation.Findings.Where(f => f.Id.EndsWith("-twice", StringComparison.Ordinal) || f.Id == "sold-before-bought").Select(f => f.Id).Order());
    }

    /// <summary>Tax never falls as income rises; the order of rows never matters; two employers of half the pay give the tax of one.</summary>
    [Fact]
    public void Properties() => Gen.Select(Gen.Int[0, 30_000_000], Gen.Int[0, 2_000_000], Gen.Int[2020, 2025]).Sample(
        (cents, more, year) =>
        {
            var (pay, added) = (cents / 100m, more / 100m);
            var tax = new BarbadosCase(year).Employer(pay).Evaluate().Balance;
            Assert.True(new BarbadosCase(year).Employer(pay + added).Evaluate().Balance >= tax);
            Assert.Equal(new BarbadosCase(year).Employer(pay).Employer(added).Evaluate().Balance, new BarbadosCase(year).Employer(added).Employer(pay).Evaluate().Balance);
            Assert.Equal(new BarbadosCase(year).Employer(pay + added).Evaluate().Balance, new BarbadosCase(year).Employer(pay).Employer(added).Evaluate().Balance);
        },
        iter: 400);

    /// <summary>Identifiers of the law sheet, section 1.</summary>
    [Theory]
    [InlineData("850314-0007", true)]
    [InlineData("9902281234", true)]
    [InlineData("8503140", false)]
    public void National_registration_numbers(string number, bool accepted) =>
        Assert.Equal(accepted, BarbadosIdentifiers.NationalRegistration.Accepts(Core.Identifiers.IdentifierRule.Normalise(number)));

    [Theory]
    [InlineData("1000000000017", true)]
    [InlineData("1234500000009", true)]
    [InlineData("100000000001", false)]
    [InlineData("10000000000A7", false)]
    public void Taxpayer_identification_numbers(string number, bool accepted) => Assert.Equal(accepted, BarbadosIdentifiers.TaxpayerNumber.Accepts(number));

    /// <summary>Public holidays of 2026 and the day to plan for, from a calendar written out by hand (Easter Sunday is 5 April 2026).</summary>
    [Fact]
    public void The_holidays_of_a_year_in_full()
    {
        Assert.Equal(
            ["01-01", "01-21", "04-03", "04-06", "04-28", "05-01", "05-25", "08-01", "08-03", "11-30", "12-25", "12-26"],
            BarbadosHolidays.Calendar.Holidays.Select(h => h.Day(2026)).Order().Select(d => d.ToString("MM-dd", System.Globalization.CultureInfo.InvariantCulture)));
        // New Year's Day of 2023 and National Heroes' Day of 2024 fell on a Sunday.
        Assert.Contains(new DateOnly(2023, 1, 2), BarbadosHolidays.Calendar.Holidays.Select(h => h.Day(2023)));
        Assert.Contains(new DateOnly(2024, 4, 29), BarbadosHolidays.Calendar.Holidays.Select(h => h.Day(2024)));
        // 30 April 2022 and 2023 were a Saturday and a Sunday, and 28 April 2023 a Friday.
        Assert.Equal(
            [new DateOnly(2022, 4, 29), new DateOnly(2023, 4, 27), new DateOnly(2026, 4, 30)],
            new[] { 2021, 2022, 2025 }.Select(year => Catalogue.Get(IndividualReturn.ReturnId, year).Deadlines[0].SafeDay));
    }

    /// <summary>A year is a number that is never grouped: not where it is refused, not in a message.</summary>
    [Fact]
    public void A_year_is_written_by_its_digits()
    {
        var reading = EntryReader.Read(Catalogue.Get("bb/individual", 2024).LineOf("business.losses.year"), "1901");
        Assert.Equal("Year of the loss must be between 1994 and 2023; 1901 is too low.", reading.Problem);
        Assert.Equal("2021", EntryReader.Read(Catalogue.Get("bb/individual", 2024).LineOf("business.losses.year"), "2,021").Value);
    }
}
