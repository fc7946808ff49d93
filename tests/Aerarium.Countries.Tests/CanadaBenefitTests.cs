using Aerarium.Core.Engine;

namespace Aerarium.Countries.Tests;

/// <summary>The workers benefit (ITA 122.7; figures typed anew from the sheet's section 11), boxes that are not on the pages, and what Scope says about moves and papers.</summary>
public class CanadaBenefitTests
{
    private static CanadaCase Worker(int year, string province, decimal pay, string born = "1990-01-01") => new CanadaCase(year, province, born).Exempt(pay).With("balance.workers-claimed", "yes");

    /// <summary>Grown by 27% above 3,000 to the most of the year, shrunk by 15% of net income above the threshold.</summary>
    [Theory]
    [InlineData(2024, 3_000, 0)]
    [InlineData(2024, 8_000, 1_350)]
    [InlineData(2024, 26_149, 1_590)]
    [InlineData(2024, 30_149, 990)]
    [InlineData(2024, 36_749, 0)]
    [InlineData(2025, 9_000, 1_620)]
    [InlineData(2025, 26_855, 1_633)]
    [InlineData(2025, 26_955, 1_618)]
    [InlineData(2025, 37_741, 0.10)]
    [InlineData(2025, 37_742, 0)]
    public void Of_one_person(int year, decimal pay, decimal benefit)
    {
        foreach (var province in new[] { "bc", "on" })
        {
            Assert.Equal(benefit, Worker(year, province, pay).Evaluate().Amount("balance.workers-benefit"));
        }
    }

    [Theory]
    [InlineData(2024, 20_000, 9_000, 2_739)]
    [InlineData(2024, 25_833, 5_000, 2_589)]
    [InlineData(2025, 20_000, 10_639, 2_813)]
    [InlineData(2025, 30_639, 10_000, 1_313)]
    public void Of_a_couple(int year, decimal pay, decimal spouse, decimal benefit) =>
        Assert.Equal(benefit, Worker(year, "bc", pay).Spouse(spouse, claimed: false).With("balance.spouse-working-income", spouse).Evaluate().Amount("balance.workers-benefit"));

    [Fact]
    public void Who_may_claim_and_what_is_entered()
    {
        // Nineteen on 31 December, unless there is a family.
        Assert.Equal((1_633, 0), (Worker(2025, "bc", 20_000, "2006-12-31").Evaluate().Amount("balance.workers-benefit"), Worker(2025, "bc", 20_000, "2007-01-01").Evaluate().Amount("balance.workers-benefit")));
        Assert.Equal(2_813, Worker(2025, "bc", 20_000, "2007-01-01").Scope("dependants")
            .Row("family.dependants", ("name", "J"), ("relation", "child"), ("birth-date", "2024-02-02"), ("net-income", 0)).Evaluate().Amount("balance.workers-benefit"));
        CanadaCase.Turns("balance.workers-claimed:missing", new CanadaCase(2025, "bc").Exempt(20_000), new CanadaCase(2025, "bc").Exempt(3_000));
        Assert.Equal(0, new CanadaCase(2025, "bc").Exempt(20_000).With("balance.workers-claimed", "no").Evaluate().Amount("balance.workers-benefit"));
        // Alberta, the second earner's exemption and the supplement for disability are entered as worked out.
        CanadaCase.Turns("workers-alberta", Worker(2025, "ab", 20_000), Worker(2025, "ab", 20_000).With("balance.workers-alberta", 700));
        Assert.Equal((0, 700), (Worker(2025, "ab", 20_000).Evaluate().Amount("balance.workers-benefit"), Worker(2025, "ab", 20_000).With("balance.workers-alberta", 700).Evaluate().Amount("balance.workers-benefit")));
        var couple = Worker(2025, "bc", 30_639).Spouse(10_000, claimed: false).With("balance.spouse-working-income", 10_000);
        CanadaCase.Turns("second-earner", couple, Worker(2025, "bc", 20_639).Spouse(10_000, claimed: false).With("balance.spouse-working-income", 10_000));
        Assert.Equal(1_313 + 600, couple.With("balance.second-earner", 4_000).Evaluate().Amount("balance.workers-benefit"));
        Assert.Equal(1_633 + 500, Worker(2025, "bc", 20_000).Scope("disability").With("federal.certificate", "yes").With("balance.workers-disability", 500).Evaluate().Amount("balance.workers-benefit"));
        Assert.Null(Catalogue.Get("ca/individual", 2023).FindLine("balance.workers-benefit"));
    }

    /// <summary>A self-employed loss does not lower income from work, and the benefit is paid out where no tax is left.</summary>
    [Fact]
    public void It_is_paid_out()
    {
        var worker = new CanadaCase(2025, "bc").Business(9_000).With("balance.workers-claimed", "yes").Evaluate();
        Assert.Equal(9_000, worker.Amount("balance.working-income"));
        Assert.Equal(worker.Amount("balance.payable") - 1_620, worker.Balance);
    }

    [Theory]
    [InlineData("employment", "employment.boxes", "income.employment")]
    [InlineData("pension", "benefits.boxes", "income.pensions")]
    [InlineData("investment", "investments.boxes", "income.interest")]
    public void A_box_that_is_not_on_the_page_counts_as_what_it_is(string question, string table, string line)
    {
        CanadaCase Box(string counts, string number = "40") => new CanadaCase(2025, "bc").Scope(question).Row(table, ("payer", "Works"), ("box", number), ("amount", 700), ("counts", counts));
        Assert.Equal((700, 0), (Box("income").Evaluate().Amount(line), Box("income").Evaluate().Amount("balance.deducted")));
        Assert.Equal((0, 700), (Box("tax").Evaluate().Amount(line), Box("tax").Evaluate().Amount("balance.deducted")));
        Assert.Equal((0, 0), (Box("nothing").Evaluate().Amount(line), Box("nothing").Evaluate().Amount("balance.deducted")));
        CanadaCase.Turns($"{table.Split('.')[0]}-box-twice", Box("income").Row(table, ("box", "40"), ("amount", 700)), Box("income").Row(table, ("box", "42"), ("amount", 700)));
    }

    [Fact]
    public void Interest_of_the_authority_is_income() =>
        Assert.Equal(31.40m, new CanadaCase(2025, "on").Scope("authority-interest").With("investments.authority-interest", 31.40m).Evaluate().Amount("income.interest"));

    [Fact]
    public void Moves_and_first_returns()
    {
        CanadaCase.Turns("moved", new CanadaCase(2025, "bc").Scope("moved"), new CanadaCase(2025, "bc").With("scope.moved", "no"));
        CanadaCase.Turns("scope.moved-on:missing", new CanadaCase(2025, "bc").Scope("moved"), new CanadaCase(2025, "bc").Scope("moved").With("scope.moved-on", "2025-05-05"));
        CanadaCase.Turns("moved-within-province", new CanadaCase(2025, "bc").Scope("moved").With("scope.moved-from", "bc"), new CanadaCase(2025, "bc").Scope("moved").With("scope.moved-from", "on"));
        CanadaCase.Turns("first-return", new CanadaCase(2025, "bc").Scope("first-return"), new CanadaCase(2025, "bc").With("scope.first-return", "no"));
    }

    [Fact]
    public void Papers_of_employment_expenses_are_named_and_kept()
    {
        CanadaCase Costs() => new CanadaCase(2025, "bc").Exempt(50_000).Scope("work-costs").With("work-costs.others", 300);
        CanadaCase.Turns("no-papers", Costs(), Costs().Row("work-costs.papers", ("paper", "Certificate T2200"), ("kept", "yes")));
        CanadaCase.Turns("paper-missing", Costs().Row("work-costs.papers", ("paper", "Lease"), ("kept", "no")), Costs().Row("work-costs.papers", ("paper", "Lease"), ("kept", "yes")));
    }

    [Fact]
    public void Years_lived_in_are_spans()
    {
        CanadaCase Home(int from, int to) => new CanadaCase(2025, "ab").Scope("home").Row("home.homes", ("address", "Lane")).Row("home.lived", ("of", 1), ("from", from), ("to", to));
        CanadaCase.Turns("lived-backwards", Home(2018, 2017), Home(2018, 2018));
        Assert.Equal(3, Home(2016, 2018).Evaluate().Amount("home.homes.years-lived", 0));
    }

    /// <summary>The threshold is the lesser of the share and the amount of the year (ITA 118.2(1)C), and stands on a line of its own.</summary>
    [Theory]
    [InlineData(50_000, 1_500)]
    [InlineData(94_466, 2_833.98)]
    [InlineData(94_467, 2_834)]
    public void The_medical_threshold(decimal income, decimal threshold) => Assert.Equal(threshold, new CanadaCase(2025, "bc").Exempt(income).Receipt(6_000).Evaluate().Amount("federal.medical-threshold"));

    /// <summary>Asked for when net tax owing is above 3,000 in both years (ITA 156.1); a quarter each, by this year's figures or last year's (ITA 156(1)).</summary>
    [Theory]
    [InlineData(3_000, 0)]
    [InlineData(3_000.04, 750.01)]
    [InlineData(5_000, 1_250)]
    public void Instalments_of_next_year(decimal lastYear, decimal each)
    {
        var owing = new CanadaCase(2025, "on").Business(60_000).With("balance.owing-last-year", lastYear).Evaluate();
        Assert.Equal(each, owing.Amount("balance.instalment-last-year"));
        Assert.Equal(each == 0 ? 0 : Math.Round((owing.Amount("balance.net-tax-owing") + owing.Amount("balance.self-contributions")) / 4, 2, MidpointRounding.AwayFromZero), owing.Amount("balance.instalment-this-year"));
        Assert.True(owing.Amount("balance.net-tax-owing") > 3_000);
    }

    /// <summary>What takes a number within bounds, typed anew: shares, months, hours, and years that may be named.</summary>
    [Fact]
    public void Bounds_of_what_is_typed() => Assert.Equal(
        [
            "benefits.insurance.rate 0 30", "gains.sales.acquired 1950 2025", "gifts.carried.year 1995 2024", "home.lived.from 1972 2025", "home.lived.to 1972 2025", "home.years.from 1972 2025",
            "home.years.to 1972 2025", "income.capital-losses.year 1972 2024", "income.losses.year 1972 2024", "rental.properties.share 0.01 100", "tuition.slips.months-full 0 12",
            "tuition.slips.months-part 0 12", "work-costs.hours 0 168", "work-costs.months 1 12",
        ],
        Catalogue.Get("ca/individual", 2025).Lines.Where(l => l is { Least: { }, Most: { }, IsComputed: false } && !l.Key.StartsWith("scope.", StringComparison.Ordinal))
            .Select(l => string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{l.Key} {l.Least} {l.Most}")).Order(StringComparer.Ordinal));

    /// <summary>What goes on from last year is that of last year, line by line and row by row.</summary>
    [Fact]
    public void What_goes_on_comes_from_the_year_before()
    {
        var definition = Catalogue.Get("ca/individual", 2025);
        var ties = definition.Lines.SelectMany(l => l.Ties.Select(t => (l.Key, t.Return))).Concat(definition.Tables.Where(t => t.RowTie is not null).Select(t => (t.Key, t.RowTie!.Return))).ToList();
        Assert.All(ties, t => Assert.Equal(t.Return.Relation is not null ? 0 : t.Key.EndsWith("-year-before", StringComparison.Ordinal) ? 2 : 1, t.Return.YearsBack));
        Assert.Equal(
            [
                "balance.owing-last-year", "balance.owing-year-before", "balance.self-last-year", "balance.self-year-before", "gifts.carried", "income.capital-losses", "income.losses", "retirement.contributions-before", "retirement.home-contributed-before",
                "retirement.home-undeducted-before", "retirement.home-unused-room", "retirement.pension-adjustment", "tuition.alberta-unused", "tuition.bc-unused", "tuition.federal-unused", "tuition.ontario-unused",
                "work-costs.carried",
            ],
            ties.Where(t => t.Return.Relation is null).Select(t => t.Key).Order(StringComparer.Ordinal));
    }
}
