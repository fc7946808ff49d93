using Aerarium.Core.Engine;

namespace Aerarium.Countries.Tests;

/// <summary>
/// Worked computations of the law sheet: W1 to W15, constructed from the Income Tax Act and the provinces' acts by a script, all from memory; W12 follows the published guide
/// P113, Gifts and Income Tax, recalled from memory. The homes and Ontario's tuition of 2016 are common practice, no source.
/// </summary>
public class CanadaLawTests
{
    private static void Expect(CanadaCase @case, params (string Line, decimal Amount)[] expected)
    {
        var evaluation = @case.Evaluate();
        Assert.Equal(expected.Select(e => $"{e.Line} {e.Amount:0.00}"), expected.Select(e => $"{e.Line} {evaluation.Amount(e.Line):0.00}"));
    }

    private static void Has(Evaluation evaluation, string finding) => Assert.Contains(evaluation.Findings, f => f.Id == finding);

    private static void HasNot(Evaluation evaluation, string finding) => Assert.DoesNotContain(evaluation.Findings, f => f.Id == finding);

    [Fact]
    public void W1_British_Columbia_an_employee_with_joint_interest() => Expect(
        new CanadaCase(2024, "bc").Slip(68_000, 3_837.75m, 0, 1_049.12m, 11_900).Scope("retirement", "investment")
            .With("retirement.limit-stated", 20_000).With("retirement.contributions-year", 4_000).With("retirement.how", "all")
            .Row("investments.slips", ("payer", "Bank"), ("interest", 640), ("joint", "yes"), ("share", 50), ("owners", "Sister")),
        ("income.total", 68_320), ("contributions.enhanced", 645), ("income.net-income", 63_675), ("income.taxable", 63_675), ("federal.gross", 9_980.69m),
        ("federal.contributions", 4_241.87m), ("federal.amounts", 21_379.87m), ("federal.credits", 3_206.98m), ("federal.net-tax", 6_773.71m), ("bc.gross", 3_637.44m), ("bc.amounts", 16_821.87m),
        ("bc.credits", 851.19m), ("bc.tax", 2_786.25m), ("balance.payable", 9_559.96m), ("balance.balance", -2_340.04m));

    [Fact]
    public void W2_Ontario_both_layers_of_surtax() => Expect(
        new CanadaCase(2024, "on").Slip(130_000, 3_867.50m, 188, 1_049.12m, 35_500, ("pension-plan", 6_500), ("dues", 800)).Gift(1_000).Scope("political").With("federal.political", 500),
        ("contributions.enhanced", 838), ("income.taxable", 121_862), ("federal.gross", 22_466.12m), ("federal.amounts", 21_404.62m), ("federal.credits", 3_210.69m), ("federal.gift-credit", 262),
        ("federal.basic-tax", 18_993.43m), ("federal.political-credit", 350), ("federal.net-tax", 18_643.43m), ("ontario.gross", 9_422.34m), ("ontario.credits", 841.61m), ("ontario.gift-credit", 99.38m),
        ("ontario.after-credits", 8_481.35m), ("ontario.surtax", 1_079.88m), ("ontario.health-premium", 750), ("ontario.tax", 10_311.23m), ("balance.payable", 28_954.66m), ("balance.balance", -6_545.34m));

    [Fact]
    public void W3_Alberta_two_employers_contributions_overpaid() => Expect(
        new CanadaCase(2025, "ab").Slip(90_000, 4_034.10m, 396, 1_077.48m, 19_000).Slip(20_000, 981.75m, 0, 328, 2_400),
        ("contributions.plan-overpaid", 981.75m), ("contributions.premiums-overpaid", 328), ("contributions.base-credit", 3_356.10m), ("contributions.enhanced", 1_074), ("income.net-income", 108_926),
        ("federal.gross", 18_887.33m), ("federal.amounts", 22_033.58m), ("federal.net-tax", 15_692.46m), ("alberta.gross", 9_692.60m), ("alberta.amounts", 26_756.58m), ("alberta.tax", 7_552.07m),
        ("balance.payable", 23_244.53m), ("balance.credits", 22_709.75m), ("balance.balance", 534.78m));

    [Fact]
    public void W4_British_Columbia_a_student() => Expect(
        new CanadaCase(2025, "bc", "2005-02-03").Slip(18_600, 898.45m, 0, 305.04m, 900).Tuition(9_400).With("tuition.designee", "parent"),
        ("income.taxable", 18_449), ("federal.before-tuition", 18_652.49m), ("tuition.federal-claimed", 0), ("tuition.federal-transferred", 5_000), ("tuition.federal-carried", 4_400),
        ("bc.before-tuition", 13_984.49m), ("tuition.bc-claimed", 4_464.51m), ("tuition.bc-transferred", 535.49m), ("tuition.bc-carried", 4_400), ("balance.payable", 0), ("balance.balance", -900));

    [Fact]
    public void W4_British_Columbia_the_parent_who_receives_both_transfers() => Expect(
        new CanadaCase(2025, "bc").Slip(84_000, 4_034.10m, 396, 1_077.48m, 16_500).Scope("student-transfer").With("federal.tuition-received", 5_000).With("bc.tuition-received", 535.49m),
        ("income.net-income", 82_926), ("federal.gross", 13_557.33m), ("federal.amounts", 27_033.58m), ("federal.net-tax", 9_637.46m), ("bc.gross", 5_084.34m), ("bc.amounts", 17_901.07m),
        ("bc.tax", 4_178.55m), ("balance.payable", 13_816.01m), ("balance.balance", -2_683.99m));

    [Fact]
    public void W5_Ontario_a_spouse_with_little_income() => Expect(
        new CanadaCase(2025, "on").Slip(72_000, 4_034.10m, 28, 1_077.48m, 12_900).Spouse(4_200),
        ("income.net-income", 71_294), ("federal.spouse-amount", 11_929), ("federal.amounts", 33_962.58m), ("federal.net-tax", 6_248.20m), ("ontario.spouse-amount", 7_705),
        ("ontario.amounts", 24_885.58m), ("ontario.surtax", 0), ("ontario.tax", 3_698.36m), ("balance.payable", 9_946.56m), ("balance.balance", -2_953.44m));

    [Fact]
    public void W6_British_Columbia_a_senior_who_repays_benefits() => Expect(
        new CanadaCase(2024, "bc", "1950-01-01").Pension(71_000, 19_800).With("benefits.old-age", 8_618.88m).With("benefits.public-plan", 12_400).Scope("investment")
            .Row("investments.slips", ("payer", "Company"), ("eligible", 2_000)).Receipt(5_100).Gift(600),
        ("income.dividends", 2_760), ("income.net-before", 94_778.88m), ("income.repayment", 567.28m), ("income.net-income", 94_211.60m), ("federal.age-amount", 1_307.01m), ("federal.medical", 2_341),
        ("federal.amounts", 21_353.01m), ("federal.gross", 16_240.69m), ("federal.credits", 3_202.95m), ("federal.gift-credit", 146), ("federal.dividend-credit", 414.55m), ("federal.net-tax", 12_477.19m),
        ("bc.gross", 5_988.76m), ("bc.age-amount", 0), ("bc.medical", 2_484), ("bc.amounts", 16_064), ("bc.credits", 812.84m), ("bc.gift-credit", 77.32m), ("bc.dividend-credit", 331.20m), ("bc.tax", 4_767.40m),
        ("balance.payable", 17_811.87m), ("balance.balance", -1_988.13m));

    [Theory]
    [InlineData(2024, 173_205, 15_705)]
    [InlineData(2024, 173_206, 15_704.98)]
    [InlineData(2024, 200_000, 15_140.66)]
    [InlineData(2024, 246_751, 14_156.02)]
    [InlineData(2024, 246_752, 14_156)]
    [InlineData(2025, 200_000, 15_663.11)]
    public void W7_the_basic_amount_tapers(int year, decimal netIncome, decimal amount) => Expect(new CanadaCase(year, "ab").Exempt(netIncome), ("income.net-income", netIncome), ("federal.basic-amount", amount));

    [Theory]
    [InlineData(91_966, 3_241.02)]
    [InlineData(91_967, 3_241)]
    [InlineData(50_000, 4_500)]
    public void W8_medical_expenses_count_above_three_percent_or_the_cap(decimal netIncome, decimal counts) => Expect(new CanadaCase(2024, "ab").Exempt(netIncome).Receipt(6_000), ("federal.medical", counts));

    private static CanadaCase Home(int year, string bought, string sold, decimal proceeds, decimal cost, decimal outlays, int from, int to, string code = "2") => new CanadaCase(year, "ab").Scope("home")
        .Row("home.homes", ("address", "Lane"), ("bought", bought), ("sold", sold), ("resident-when-bought", "yes"), ("designation", code), ("proceeds", proceeds), ("cost", cost), ("outlays", outlays))
        .Row("home.years", ("of", 1), ("from", from), ("to", to));

    [Fact]
    public void W9_a_home_designated_for_ten_of_fifteen_years() => Expect(
        Home(2024, "2010-03-01", "2024-05-01", 640_000, 250_000, 32_000, 2010, 2019),
        ("home.gains", 95_466.67m), ("income.taxable-gains", 47_733.34m));

    [Fact]
    public void W9_all_years_but_one_are_enough() => Expect(Home(2024, "2010-03-01", "2024-05-01", 640_000, 250_000, 32_000, 2010, 2023, "1"), ("home.gains", 0), ("income.taxable-gains", 0));

    /// <summary>Common practice, no source: owned ten years, lived in for seven, gain 300,000: taxable gain 60,000, included 30,000.</summary>
    [Fact]
    public void A_home_owned_for_ten_years_and_lived_in_for_seven() => Expect(
        Home(2025, "2016-06-01", "2025-06-01", 700_000, 400_000, 0, 2016, 2022), ("home.gains", 60_000), ("income.taxable-gains", 30_000));

    [Fact]
    public void W10_retirement_savings_room() => Expect(
        new CanadaCase(2024, "ab").Scope("retirement").With("retirement.unused-room", 3_200).With("retirement.earned-income", 178_000).With("retirement.pension-adjustment", 9_400),
        ("retirement.limit", 25_360));

    [Theory]
    [InlineData(2024, 88)]
    [InlineData(2025, 87)]
    public void W12_a_gift_of_400(int year, decimal credit) => Expect(new CanadaCase(year, "ab").Exempt(40_000).Gift(400), ("federal.gift-credit", credit));

    [Theory]
    [InlineData(false, 676.80)]
    [InlineData(true, 161.14)]
    public void W13_a_work_space_at_home(bool shared, decimal deducted)
    {
        var @case = new CanadaCase(2024, "on").Exempt(60_000).Scope("work-costs").With("work-costs.certificate", "yes").With("work-costs.condition", "principal").With("work-costs.area", 180).With("work-costs.home-area", 1_500);
        foreach (var (kind, amount) in new[] { ("rent", 2_400), ("heat", 960), ("internet", 480), ("electricity", 1_800) })
        {
            @case.Row("work-costs.costs", ("class", kind), ("amount", amount));
        }

        Expect(shared ? @case.With("work-costs.shared", "yes").With("work-costs.hours", 40) : @case, ("work-costs.deduction", deducted));
    }

    [Fact]
    public void W14_Ontario_self_employed() => Expect(
        new CanadaCase(2025, "on").Business(75_000),
        ("contributions.self-base", 6_712.20m), ("contributions.self-added", 1_356), ("contributions.self-upper", 296), ("contributions.self-payable", 8_364.20m), ("contributions.self-credit", 3_356.10m),
        ("contributions.self-deduction", 5_008.10m), ("income.net-income", 69_991.90m), ("federal.gross", 10_905.84m), ("federal.amounts", 19_485.10m), ("federal.net-tax", 8_080.50m),
        ("ontario.gross", 4_235.93m), ("ontario.amounts", 16_103.10m), ("ontario.tax", 4_022.72m), ("balance.payable", 20_467.42m));

    [Fact]
    public void W15_Ontario_a_worker_with_little_income() => Expect(
        new CanadaCase(2024, "on").Slip(36_000, 1_933.75m, 0, 597.60m, 3_300),
        ("income.net-income", 35_675), ("federal.net-tax", 2_449.60m), ("ontario.gross", 1_801.59m), ("ontario.credits", 737.57m), ("ontario.reduction", 0), ("ontario.low-income", 716.25m),
        ("ontario.health-premium", 300), ("ontario.tax", 647.77m), ("balance.payable", 3_097.37m), ("balance.balance", -202.63m));

    /// <summary>Common practice, no source: Ontario, 2016, taxable income 13,950 of wages without contributions, fees 10,000, eight months full-time.</summary>
    [Fact]
    public void Ontario_2016_tuition_with_education_and_textbook_amounts() => Expect(
        new CanadaCase(2016, "on", "1997-01-01").Exempt(13_950).Tuition(10_000, 8).With("tuition.designee", "parent"),
        ("tuition.federal-current", 13_720), ("tuition.federal-claimed", 1_315), ("tuition.federal-transferred", 3_685), ("tuition.ontario-claimed", 3_939), ("tuition.ontario-transferred", 2_983));
}
