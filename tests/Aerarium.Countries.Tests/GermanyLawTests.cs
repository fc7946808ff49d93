using Aerarium.Core.Engine;

namespace Aerarium.Countries.Tests;

/// <summary>
/// The worked examples of the law sheet (constructed there unless a source is named) and the edges of the law: EStG, SolZG, AO; all from memory of the statutes.
/// </summary>
public class GermanyLawTests
{
    private static void Expect(GermanyCase entered, params (string Line, decimal Amount)[] amounts)
    {
        var evaluation = entered.Evaluate();
        Assert.Equal(amounts, amounts.Select(a => (a.Line, evaluation.Amount(a.Line))));
    }

    /// <summary>A return whose taxable income is a given amount: wages so chosen, without contributions, single.</summary>
    private static Evaluation WithTaxable(int year, decimal taxable, GermanyCase? from = null)
    {
        var entered = (from ?? new GermanyCase(year)).Wages(taxable + 36 + (year == 2022 ? 1_200 : 1_230));
        var evaluation = entered.Evaluate();
        Assert.Equal(taxable, evaluation.Amount("tax.taxable"));
        return evaluation;
    }

    [Fact]
    public void E1_a_single_employee_with_church_and_own_car()
    {
        var employee = new GermanyCase(2024).With("taxpayer.religion", "ev").Wages(48_000, 6_483.12m, "", ("church-tax", 520), ("employer-pension", 4_464), ("employee-pension", 4_464), ("health", 3_900), ("care", 1_104), ("unemployment", 624))
            .Way(160, 32, 32).Scope("home-office", "tools", "own-insurance").With("work-costs.home-office-days", 60)
            .Row("work-costs.tools", ("what", "Monitor"), ("bought", "2024-03-01"), ("net", 300), ("gross", 350)).Row("work-costs.costs", ("class", "account-fee"), ("amount", 16))
            .With("provident.sickness-pay", "yes").With("provident.subsidised", "yes").Row("provident.policies", ("kind", "liability"), ("amount", 240));
        Expect(employee,
            ("work-costs.commuting", 1_689.60m), ("work-costs.home-office", 360), ("work-costs.total", 2_415.60m), ("income.total-income", 45_584.40m), ("special.allowed", 520), ("tax.old-age-deducted", 4_464),
            ("tax.basic", 4_848), ("tax.other-insurance", 1_020), ("tax.other-deducted", 4_848), ("tax.taxable", 35_752), ("tax.by-tariff", 6_121), ("tax.surcharge", 0), ("tax.church-tax", 550.89m),
            ("balance.withheld", 6_484), ("balance.income-tax", -363), ("balance.church", 30.89m));

        // E18: household help and craftsmen of the same person. E19: medical costs.
        Expect(employee.Scope("household-work").Row("household.work", ("kind", "service"), ("payee", "Cleaner"), ("total", 850), ("account", "yes"))
                .Row("household.work", ("kind", "craftsman"), ("payee", "Roofer"), ("total", 9_300), ("labour", 7_000), ("account", "yes")),
            ("household.services", 170), ("household.craftsmen", 1_200), ("tax.income-tax", 4_751), ("tax.surcharge-base", 4_751), ("tax.church-tax", 427.59m));
        Expect(employee.Scope("burdens").Row("burdens.costs", ("what", "Dentist"), ("kind", "medical"), ("cost", 3_500), ("refunded", 300)),
            ("burdens.own-share", 2_581.66m), ("burdens.allowed", 618.34m));
    }

    [Fact]
    public void E2_a_couple_with_an_odd_taxable_income() => Expect(
        new GermanyCase(2024).Couple().Wages(62_000, 0, "", ("employer-pension", 5_766), ("employee-pension", 5_766), ("health", 5_000), ("care", 1_054), ("unemployment", 806 + 187))
            .Wages(25_001, 0, "-spouse", ("employer-pension", 2_325), ("employee-pension", 2_325), ("health", 2_025), ("care", 425), ("unemployment", 138))
            .With("provident.sickness-pay", "yes").With("provident-spouse.sickness-pay", "yes").With("provident.subsidised", "yes").With("provident-spouse.subsidised", "yes"),
        ("income.sum", 84_541), ("tax.old-age-deducted", 8_091), ("tax.basic", 8_223), ("tax.other-insurance", 1_412), ("tax.other-deducted", 8_223), ("special.allowed", 72), ("tax.taxable", 68_155), ("tax.by-tariff", 11_222), ("tax.surcharge", 0));

    [Fact]
    public void E3_the_progression_clause()
    {
        var worker = new GermanyCase(2023).Wages(24_500 + 36 + 1_230).Scope("benefits").Row("wages.benefits", ("kind", "parental"), ("payer", "Office"), ("amount", 9_000));
        Expect(worker, ("tax.taxable", 24_500), ("rate.benefits", 9_000), ("tax.by-tariff", 4_205));
        Assert.Equal(3_143, WithTaxable(2023, 24_500).Amount("tax.by-tariff"));
        Expect(new GermanyCase(2023).Scope("employed", "benefits", "other-income").With("income.other-income", 9_036).Row("wages.benefits", ("kind", "unemployment"), ("payer", "Office"), ("amount", 12_000)),
            ("tax.taxable", 9_000), ("rate.benefits", 10_770), ("tax.by-tariff", 863));
    }

    [Theory]
    [InlineData(19_950, 0)]
    [InlineData(19_951, 0.11)]
    [InlineData(21_000, 124.95)]
    [InlineData(30_000, 1_195.95)]
    [InlineData(37_093, 2_040.01)]
    [InlineData(37_094, 2_040.13)]
    [InlineData(37_095, 2_040.22)]
    [InlineData(40_000, 2_200)]
    public void E4_the_solidarity_surcharge(decimal tax, decimal surcharge)
    {
        // In the zone of 42% of 2025 the income that gives this tax, to the euro: 0.42 x - 10,911.92.
        var taxable = Math.Ceiling((tax + 10_911.92m) / 0.42m);
        var evaluation = WithTaxable(2025, taxable);
        Assert.Equal((tax, surcharge), (evaluation.Amount("tax.surcharge-base"), evaluation.Amount("tax.surcharge")));
    }

    [Fact]
    public void E5_the_energy_lump_sum_paid_by_the_employer() => Expect(
        new GermanyCase(2022).Wages(40_300, 0, "", ("letters", "E"), ("employer-pension", 3_720), ("employee-pension", 3_720), ("health", 3_200), ("care", 680)).With("wages.energy-from-assessment", "no")
            .Way(90, 15, 15).Scope("home-office").With("work-costs.home-office-days", 130).With("provident.sickness-pay", "yes").With("provident.subsidised", "yes"),
        ("work-costs.total", 1_005), ("work-costs.allowed", 1_200), ("tax.old-age-deducted", 3_273.60m), ("tax.other-deducted", 3_752), ("tax.taxable", 32_038), ("tax.by-tariff", 5_575), ("balance.energy", 0));

    [Fact]
    public void The_energy_lump_sum_from_the_assessment() => Expect(
        new GermanyCase(2022).Wages(40_000).With("wages.energy-from-assessment", "yes"), ("wages.gross", 40_300), ("balance.energy", 300));

    [Fact]
    public void E6_part_of_a_year_and_all_refunded() => Expect(
        new GermanyCase(2025).Wages(9_500, 214.08m, "", ("employer-pension", 884), ("employee-pension", 884), ("health", 700), ("care", 171), ("unemployment", 123)).With("provident.sickness-pay", "yes").With("provident.subsidised", "yes"),
        ("tax.basic", 843), ("tax.other-insurance", 151), ("tax.other-deducted", 994), ("tax.taxable", 6_356), ("tax.by-tariff", 0), ("balance.withheld", 215), ("balance.balance", -215));

    /// <summary>E7: tax at the limits of every zone, one euro above, and within.</summary>
    [Theory]
    [InlineData(2022, "10347 0 10348 0 10447 14 14926 869 14927 869 30000 4951 45000 9945 58596 15273 58597 15274 90000 28463 277825 107350 277826 107350 300000 117328")]
    [InlineData(2023, "10908 0 10909 0 11008 14 15999 966 16000 966 30000 4700 45000 9537 62809 16406 62810 16407 90000 27827 277825 106713 277826 106713 300000 116692")]
    [InlineData(2024, "11784 0 11785 0 11884 14 17005 991 17006 991 30000 4412 45000 9121 66760 17402 66761 17403 90000 27163 277825 106050 277826 106050 300000 116028")]
    [InlineData(2025, "12096 0 12097 0 12196 14 17443 1015 17444 1015 30000 4303 45000 8961 68480 17849 68481 17850 90000 26888 277825 105774 277826 105775 300000 115753")]
    public void E7_the_tariff(int year, string points)
    {
        foreach (var point in points.Split(' ').Select(decimal.Parse).Chunk(2))
        {
            Assert.Equal((point[0], point[1]), (point[0], WithTaxable(year, point[0]).Amount("tax.by-tariff")));
        }
    }

    /// <summary>The tariff by a formula of the test's own, typed anew from the statute's coefficients; each zone joins the next, and a couple pays twice the tax on half.</summary>
    [Theory]
    [InlineData(2022, 10_347, 1_088.67, 14_926, 206.43, 869.32, 58_596, 9_336.45, 17_671.20)]
    [InlineData(2023, 10_908, 979.18, 15_999, 192.59, 966.53, 62_809, 9_972.98, 18_307.73)]
    [InlineData(2024, 11_784, 954.80, 17_005, 181.19, 991.21, 66_760, 10_636.31, 18_971.06)]
    [InlineData(2025, 12_096, 932.30, 17_443, 176.64, 1_015.13, 68_480, 10_911.92, 19_246.67)]
    public void The_tariff_by_the_statute(int year, decimal free, decimal a, decimal second, decimal b, decimal start, decimal third, decimal less, decimal top)
    {
        decimal Tax(decimal x)
        {
            var (y, z) = ((x - free) / 10_000, (x - second) / 10_000);
            return decimal.Floor(x <= free ? 0 : x <= second ? ((a * y) + 1_400) * y : x <= third ? (((b * z) + 2_397) * z) + start : x <= 277_825 ? (0.42m * x) - less : (0.45m * x) - top);
        }

        foreach (var x in new[] { free + 1_000, second - 7, second + 1, 37_777, third - 1, third + 3, 99_999, 277_824, 277_830, 400_001 })
        {
            Assert.Equal((x, Tax(x)), (x, WithTaxable(year, x).Amount("tax.by-tariff")));
            Assert.InRange(Tax(x + 1) - Tax(x), 0, 1);
            var couple = new GermanyCase(year).Couple().Wages((2 * x) + 1 + 72 + (year == 2022 ? 1_200 : 1_230)).Evaluate();
            Assert.Equal(2 * Tax(x), couple.Amount("tax.by-tariff"));
        }
    }

    /// <summary>E8 with the rates from 2022 on: 100 km, 30 of them by car to the station, then train (layout of the example in the Ministry's letter of 18 November 2021). E9: the cap and its exceptions.</summary>
    [Fact]
    public void E8_and_E9_ways_to_work()
    {
        Expect(new GermanyCase(2024).Wages(60_000).Way(220, 100, 30, 2_160), ("work-costs.by-car", 220 * ((20 * 0.30m) + (10 * 0.38m))), ("work-costs.by-other", 4_500), ("work-costs.commuting", 2_156 + 4_500));
        Expect(new GermanyCase(2024).Wages(60_000).Way(210, 65, 0, 4_860), ("work-costs.by-other", 4_500), ("work-costs.commuting", 4_860));
        Expect(new GermanyCase(2024).Wages(60_000).Way(210, 65.9m, 65.9m), ("work-costs.commuting", 4_851));
        Expect(new GermanyCase(2024).Wages(60_000, 0, "", ("commuting-flat", 600)).Way(210, 65, 65), ("work-costs.commuting", 4_251));
        Expect(new GermanyCase(2024).Wages(60_000).Way(100, 10, 10).With("work-costs.severely-disabled", "yes"), ("work-costs.commuting", 600));
    }

    [Fact]
    public void E10_donations_above_a_fifth() => Expect(
        new GermanyCase(2024).Wages(32_480, 0, "", ("church-tax", 180)).With("taxpayer.religion", "rk").Scope("donations").Row("special.gifts", ("recipient", "Harbour Aid"), ("kind", "charity"), ("amount", 7_000), ("proof", "receipt"))
            .With("special.donations-before", 500),
        ("income.total-income", 31_250), ("special.donations-allowed", 6_250), ("special.donations-left", 1_250), ("special.allowed", 6_430));

    [Theory]
    [InlineData(410, 410)]
    [InlineData(411, 409)]
    [InlineData(500, 320)]
    [InlineData(700, 120)]
    [InlineData(819, 1)]
    [InlineData(820, 0)]
    [InlineData(900, 0)]
    public void E11_hardship_relief(decimal other, decimal relief) => Expect(new GermanyCase(2024).Wages(40_000).Scope("other-income").With("income.other-income", other), ("tax.hardship", relief));

    [Theory]
    [InlineData("yes", 1_450, 700, 1_900)]
    [InlineData("no", 1_450, 1_600, 2_800)]
    public void E12_other_provident_expenses(string subsidised, decimal basic, decimal other, decimal deducted) => Expect(
        new GermanyCase(2024).Wages(40_000, 0, "", ("care", basic)).Scope("own-insurance").With("provident.subsidised", subsidised).Row("provident.policies", ("kind", "accident"), ("amount", other)), ("tax.other-deducted", deducted));

    [Fact]
    public void E13_old_age_contributions()
    {
        GermanyCase With(int year, decimal each, decimal contract) => new GermanyCase(year).Wages(90_000, 0, "", ("employer-pension", each), ("employee-pension", each)).Scope("own-insurance").With("provident.contracts", contract);
        Expect(With(2025, 8_984, 14_000), ("tax.old-age-deducted", 20_360));
        Expect(With(2022, 4_000, 3_000), ("tax.old-age-deducted", 6_340));
    }

    [Fact]
    public void E14_child_allowance_or_child_benefit()
    {
        GermanyCase Parents(decimal before) => new GermanyCase(2024).Couple().Wages(before + 72 + 1_230).Child();
        Expect(Parents(60_000), ("children.income-before", 60_000), ("children.children.saved", 2_654), ("children.children.benefit", 3_000), ("children.allowances-taken", 0), ("tax.income-tax", 8_824), ("tax.surcharge-base", 6_170));
        Expect(Parents(120_000), ("children.children.saved", 3_690), ("children.allowances-taken", 9_540), ("tax.taxable", 110_460), ("tax.by-tariff", 25_602), ("tax.income-tax", 28_602), ("tax.surcharge-base", 25_602));
    }

    [Fact]
    public void E15_severance_by_the_one_fifth_method() => Expect(
        new GermanyCase(2025).Wages(63_000 + 36 + 1_230, 0, "", ("severance", 25_000), ("severance-qualifies", "yes")), ("tax.taxable", 63_000), ("rate.one-fifth", 25_000), ("tax.by-tariff", 14_714));

    [Fact]
    public void Without_the_one_fifth_method() => Assert.Equal(15_601, WithTaxable(2025, 63_000).Amount("tax.by-tariff"));

    /// <summary>E16: not advised, due 31 July 2025, filed 15 October: three months begun.</summary>
    [Theory]
    [InlineData(3_800, "2025-10-15", 75)]
    [InlineData(21_450, "2025-10-15", 160)]
    [InlineData(3_800, "2025-07-31", 0)]
    [InlineData(3_800, "2025-08-01", 25)]
    [InlineData(3_800, "2025-08-31", 25)]
    [InlineData(3_800, "2025-09-01", 50)]
    public void E16_late_surcharge(decimal owed, string filed, decimal surcharge)
    {
        var tax = WithTaxable(2024, 100_000).Amount("tax.income-tax");
        var late = WithTaxable(2024, 100_000, new GermanyCase(2024).With("scope.advised", "no").Scope("benefits", "prepayments").Row("wages.statements", ("employer", "Second"), ("from", "2024-01-01"), ("until", "2024-02-01"), ("class", "6"), ("gross", 0), ("wage-tax", 0))
            .With("balance.prepaid", tax - owed).On(DateOnly.ParseExact(filed, "yyyy-MM-dd")));
        Assert.Equal(surcharge, late.Amount("balance.late-today"));
    }

    [Fact]
    public void E17_a_trip_of_three_days_with_meals_provided() => Expect(
        new GermanyCase(2024).Wages(40_000, 0, "", ("meals-free", 20)).Scope("travel").Row("work-costs.trips", ("where", "Fair"), ("date", "2024-05-06"), ("part-days", 2), ("whole-days", 1), ("breakfasts", 2), ("meals", 1), ("kilometres", 340)),
        ("work-costs.trips.meal-allowance", 33.60m), ("work-costs.travel-meals", 13.60m), ("work-costs.travel", 115.60m));

    [Fact]
    public void E19_the_own_share_of_a_couple() => Expect(
        new GermanyCase(2024).Couple().Wages(84_541 + 1_230).Scope("burdens").Row("burdens.costs", ("what", "Hospital"), ("kind", "medical"), ("cost", 3_200)), ("burdens.own-share", 4_407.76m), ("burdens.allowed", 0));

    [Theory]
    [InlineData(900, 800, 0)]
    [InlineData(900, 1_100, -200)]
    [InlineData(30_000, 1_100, 28_770)]
    public void E20_the_lump_sum_and_a_small_wage(decimal wage, decimal spent, decimal income) => Expect(
        new GermanyCase(2024).Wages(wage).Scope("tools").Row("work-costs.costs", ("class", "other"), ("amount", spent)), ("work-costs.income", income));

    /// <summary>The lump sums of a removal by the day before the furniture is loaded; the sheet's table.</summary>
    [Theory]
    [InlineData(2022, "2022-03-31", "yes", 2, 870 + (2 * 580))]
    [InlineData(2022, "2022-04-01", "yes", 2, 886 + (2 * 590))]
    [InlineData(2024, "2024-02-29", "yes", 0, 886)]
    [InlineData(2024, "2024-03-01", "yes", 1, 964 + 643)]
    [InlineData(2024, "2024-03-01", "no", 1, 193)]
    [InlineData(2022, "2022-03-31", "no", 0, 174)]
    [InlineData(2022, "2022-04-01", "no", 0, 177)]
    public void Removal(int year, string day, string dwelling, int others, decimal lump) => Expect(
        new GermanyCase(year).Wages(40_000).Scope("moved").With("work-costs.moved-on", day).With("work-costs.moved-own-dwelling", dwelling).With("work-costs.moved-persons", others).With("work-costs.moved-costs", 100),
        ("work-costs.moved-lump-sum", lump), ("work-costs.moved", lump + 100));

    /// <summary>Lump sums of disability, care and travel (EStG s. 33(2a), 33b), support of a relative (s. 33a(1)), age and lone parents (s. 24a, 24b), typed anew from the sheet.</summary>
    [Fact]
    public void Lump_sums_and_reliefs()
    {
        foreach (var (degree, amount) in new[] { ("20", 384), ("30", 620), ("40", 860), ("50", 1_140), ("60", 1_440), ("70", 1_780), ("80", 2_120), ("90", 2_460), ("100", 2_840), ("helpless", 7_400), ("none", 0) })
        {
            Expect(new GermanyCase(2024).Wages(40_000).Scope("burdens").With("burdens.degree", degree), ("burdens.lump-sums", amount));
        }

        foreach (var (care, amount) in new[] { ("2", 600), ("3", 1_100), ("4", 1_800), ("none", 0) })
        {
            Expect(new GermanyCase(2024).Wages(40_000).Scope("burdens").With("burdens.carer", care).With("burdens.survivor", "yes"), ("burdens.lump-sums", amount + 370));
        }

        Expect(new GermanyCase(2024).Wages(40_000).Scope("burdens").With("burdens.travel", "walking"), ("burdens.borne", 900));
        Expect(new GermanyCase(2024).Wages(40_000).Scope("burdens").With("burdens.travel", "mobility"), ("burdens.borne", 4_500));

        // Half a year: 11,784 / 2 and 300 of insurance, less the income above 624 / 2.
        Expect(new GermanyCase(2024).Wages(40_000).Scope("burdens").Row("burdens.relatives", ("name", "Aunt"), ("months", 6), ("paid", 9_000), ("insurance", 300), ("income", 1_312)), ("burdens.relatives.allowed", 5_192));

        // 64 before the year began: born in 1959, first in 2024, 13.6% of the wage and no more than 646; in 2005 the first had 40%, 1,900.
        Expect(new GermanyCase(2024).With("taxpayer.birth-date", "1959-06-01").Wages(4_000), ("income.age-relief", 544));
        Expect(new GermanyCase(2024).With("taxpayer.birth-date", "1959-06-01").Wages(40_000), ("income.age-relief", 646));
        Expect(new GermanyCase(2024).With("taxpayer.birth-date", "1960-06-01").Wages(40_000), ("income.age-relief", 0));
        Expect(new GermanyCase(2024).With("taxpayer.birth-date", "1940-06-01").Wages(40_000), ("income.age-relief", 1_900));
        Expect(new GermanyCase(2024).With("taxpayer.birth-date", "1954-06-01").Wages(4_001), ("income.age-relief", 705));

        Expect(new GermanyCase(2024).Wages(40_000).Child().Child("2018-01-01").With("children.alone", "yes").With("children.alone-months", 6), ("children.lone-parent", (4_260 + 240) / 2));
        Expect(new GermanyCase(2022).Wages(40_000).Child().With("children.alone", "yes").With("children.alone-months", 12), ("children.lone-parent", 4_008));
    }

    /// <summary>Children's costs and benefits by year: two thirds and 4,000, then 80% and 4,800 of childcare; 30% and 5,000 of school fees; 924, then 1,200 away; benefit by order with the bonus of 2022.</summary>
    [Fact]
    public void Childrens_costs_and_benefits()
    {
        GermanyCase Costs(int year, decimal care, decimal school, int away)
        {
            var entered = new GermanyCase(year).Wages(40_000).Child();
            foreach (var (line, value) in new[] { ("care", care), ("school", school), ("months-away", away) })
            {
                entered.Entries.Rows["children.children"][0].Values[line] = value.ToString(System.Globalization.CultureInfo.InvariantCulture);
            }

            return entered;
        }

        Expect(Costs(2024, 1_000, 1_000, 6), ("children.care", 666.67m), ("children.school", 300), ("children.away", 600));
        Expect(Costs(2024, 6_001, 20_000, 0), ("children.care", 4_000), ("children.school", 5_000));
        Expect(Costs(2025, 1_000, 0, 0), ("children.care", 800));
        Expect(Costs(2025, 7_000, 0, 0), ("children.care", 4_800));
        Expect(Costs(2022, 0, 0, 12), ("children.away", 924));
        var four = new GermanyCase(2022).Wages(40_000).Child("2018-01-01").Child("2010-01-01").Child("2012-01-01").Child("2015-01-01").Evaluate();
        Assert.Equal([(250 * 12) + 100, (219 * 12) + 100, (219 * 12) + 100, (225 * 12) + 100], Enumerable.Range(0, 4).Select(n => four.Amount("children.children.benefit", n)));
        Expect(new GermanyCase(2025).Wages(40_000).Child("2015-01-01", 6, half: true), ("children.children.benefit", 765), ("children.children.allowance", 2_400));
    }
}
