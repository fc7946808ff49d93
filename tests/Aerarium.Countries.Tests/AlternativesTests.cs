using Aerarium.Core.Engine;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>Choices computed side by side, the cost of the next income, and the bridge between two years.</summary>
public class AlternativesTests
{
    private static PhilippinesCase Chosen(string method, decimal receipts, decimal pay = 0)
    {
        var entered = new PhilippinesCase(2025).Business(method, receipts).With("business.elected", "yes").With("business.vat-registered", "no")
            .With("business.other-percentage-tax", "no").With("business.partnership-only", "no");
        return pay == 0 ? entered : entered.Employer(pay);
    }

    private static Election Method(PhilippinesCase entered) =>
        Assert.Single(Alternatives.Of(entered.Evaluate(), new DateOnly(2026, 3, 1)), e => e.Line.Key == "business.method");

    /// <summary>The tax an alternative shows is the tax of the return once that choice is made.</summary>
    [Fact]
    public void An_alternative_is_what_the_return_becomes_with_that_choice() => Gen.Select(Gen.Int[0, 3_400_000], Gen.Int[0, 900_000], Gen.Int[0, 2], Gen.Int[0, 2]).Sample(
        (receipts, pay, now, then) =>
        {
            string[] methods = ["itemised", "standard", "eight"];
            var shown = Method(Chosen(methods[now], receipts, pay)).Choices.Single(c => c.Code == methods[then]);
            var made = Chosen(methods[then], receipts, pay).Evaluate();
            return shown.Evaluation.Outcome.Select(o => o.Amount).SequenceEqual(made.Outcome.Select(o => o.Amount)) && shown.Chosen == (now == then);
        },
        iter: 200);

    /// <summary>
    /// EX-A1 and the standard deduction of the same receipts: 8% of 850,000 is 68,000; the table on 660,000 is 74,500 (from 2023), and the percentage tax of
    /// NIRC s. 116, 3% of 1,100,000, comes on top of it.
    /// </summary>
    [Fact]
    public void The_cheaper_open_choice_is_named_with_what_it_saves()
    {
        var better = Method(Chosen("standard", 1_100_000)).Better;
        Assert.Equal(("eight", 6_500m + 33_000m), (better!.Value.Choice.Code, better.Value.Less));
        Assert.Null(Method(Chosen("eight", 1_100_000)).Better);
    }

    /// <summary>
    /// Of 800,000 the standard deduction costs less income tax (38,500 against 44,000) and 24,000 percentage tax besides, so that 8% costs less in all. In 2021
    /// the percentage tax was 1% (CREATE s. 13); who is registered for value-added tax, or under another percentage tax, owes none.
    /// </summary>
    [Theory]
    [InlineData(2025, "no", "no", "24000")]
    [InlineData(2024, "no", "no", "24000")]
    [InlineData(2021, "no", "no", "8000")]
    [InlineData(2025, "yes", "no", "0")]
    [InlineData(2025, "no", "yes", "0")]
    public void What_a_choice_moves_besides_is_counted(int year, string vat, string another, string percentageTax)
    {
        var entered = new PhilippinesCase(year).Business("standard", 800_000).With("business.elected", "yes").With("business.vat-registered", vat)
            .With("business.other-percentage-tax", another).With("business.partnership-only", "no");
        var election = Method(entered);
        Assert.Equal(percentageTax, Core.Formulas.Figures.Canonical(election.Chosen!.Others.Sum(o => o.Amount)));
        Assert.Equal(0, election.Choices.Single(c => c.Code == "eight").Others.Sum(o => o.Amount));
        Assert.Equal(percentageTax != "0", election.OthersMove);
        if (year == 2025 && percentageTax != "0")
        {
            Assert.True(election.Chosen.Balance < election.Choices.Single(c => c.Code == "eight").Balance);
            Assert.Equal(("eight", 62_500m - 44_000m), (election.Better!.Value.Choice.Code, election.Better.Value.Less));
        }
    }

    [Theory]
    [InlineData(3_000_000, true)]
    [InlineData(3_000_001, false)]
    public void A_choice_that_the_law_does_not_open_is_never_recommended(decimal receipts, bool open)
    {
        var eight = Method(Chosen("standard", receipts)).Choices.Single(c => c.Code == "eight");
        Assert.Equal(open, eight.IsOpen);
        Assert.Equal(open, Method(Chosen("standard", receipts)).Better is { Choice.Code: "eight" });
        Assert.Equal(open, eight.Hindrances.All(h => h.Id != "eight-above-ceiling"));
    }

    [Fact]
    public void Looking_at_alternatives_changes_nothing()
    {
        var entered = Chosen("standard", 800_000);
        var before = entered.Entries.Values.ToDictionary();
        _ = Method(entered);
        _ = Alternatives.CostOfIncome(entered.Evaluate(), new DateOnly(2026, 3, 1), 100_000, 5);
        Assert.Equal(before, entered.Entries.Values);
    }

    /// <summary>Itemised without deductions: the next 1,000 costs the rate of its band (NIRC s. 24(A)(2)(a), from 2023; from memory).</summary>
    [Theory]
    [InlineData(100_000, 0)]
    [InlineData(300_000, 150)]
    [InlineData(500_000, 200)]
    [InlineData(1_500_000, 250)]
    public void The_next_income_costs_the_rate_of_its_band(decimal receipts, decimal cost)
    {
        var next = Assert.Single(Alternatives.CostOfIncome(Chosen("itemised", receipts).Evaluate(), new DateOnly(2026, 3, 1), 3_000_000, 30), n => n.Line.Key == "business.services");
        Assert.Equal(cost, next.Points[0].Cost);
        Assert.Equal(next.Points.Select(p => p.Cost).Order(), next.Points.Select(p => p.Cost));
        Assert.Equal(30, next.Points.Count);
    }

    private static PhilippinesCase Couple(decimal pay, decimal withheld, decimal receipts) => new PhilippinesCase(2025).Scope("joint", "spouse-business")
        .Employer(pay, withheld: withheld).With("business-spouse.method", "standard").With("business-spouse.services", receipts);

    private static Election Joint(PhilippinesCase entered) => Assert.Single(Alternatives.Of(entered.Evaluate(), new DateOnly(2026, 3, 1)), e => e.Line.Key == "scope.joint");

    /// <summary>Two returns are what each would file alone, whose tax the law of the columns gives (NIRC s. 51(D)); nothing is cheaper either way.</summary>
    [Fact]
    public void Joint_or_separate_shows_both_returns_together() => Gen.Select(Gen.Int[0, 2_000_000], Gen.Int[0, 200_000], Gen.Int[0, 2_900_000]).Sample(
        (pay, withheld, receipts) =>
        {
            var election = Joint(Couple(pay, withheld, receipts));
            var apart = election.Choices.Single(c => c.Code == "no");
            var alone = (new PhilippinesCase(2025).Employer(pay, withheld: withheld).Evaluate(), new PhilippinesCase(2025).Business("standard", receipts).Evaluate());
            return apart.IsOpen && election.Better is null && apart.Returns.Count == 2
                && apart.Returns[0].Balance == alone.Item1.Balance && apart.Returns[1].Balance == alone.Item2.Balance
                && apart.Outcome.Last().Amount == election.Chosen!.Balance;
        },
        iter: 100);

    [Fact]
    public void Income_of_both_needs_one_return()
    {
        var apart = Joint(Couple(600_000, 0, 500_000).Scope("undivided").With("undivided.income", 80_000)).Choices.Single(c => c.Code == "no");
        Assert.False(apart.IsOpen);
        Assert.Contains("80,000 of income", Assert.Single(apart.Hindrances).Message);
    }

    [Fact]
    public void Without_a_spouse_there_is_nothing_to_choose() =>
        Assert.DoesNotContain(Alternatives.Of(new PhilippinesCase(2025).Employer(600_000).With("scope.joint", "no").Evaluate(), new DateOnly(2026, 3, 1)), e => e.Line.Key == "scope.joint");

    /// <summary>Paying in two parts moves no key figure: there is nothing to put side by side, and a note tells of it where it is open.</summary>
    [Fact]
    public void A_choice_that_moves_no_figure_is_no_alternative()
    {
        var evaluation = Chosen("itemised", 1_500_000).Evaluate();
        Assert.True(evaluation.Definition.LineOf("balance.two-parts").IsElective);
        Assert.True(evaluation.Balance > 0);
        Assert.DoesNotContain(Alternatives.Of(evaluation, new DateOnly(2026, 3, 1)), e => e.Line.Key == "balance.two-parts");
        Assert.Contains(evaluation.Findings, f => f.Id == "two-parts-open");
    }

    [Fact]
    public void More_pay_goes_on_the_first_employers_certificate()
    {
        var next = Alternatives.CostOfIncome(Chosen("eight", 100_000, 500_000).Evaluate(), new DateOnly(2026, 3, 1), 10_000, 2);
        Assert.Equal(200, Assert.Single(next, n => n.Line.Key == "compensation.employers.gross").Points[0].Cost);
        Assert.Equal(80, Assert.Single(next, n => n.Line.Key == "business.services").Points[0].Cost);
    }

    /// <summary>The same entries under another year's table: the whole movement is the law's. 2021: 20% of 150,000; 2024: 15%.</summary>
    [Fact]
    public void What_only_the_law_changed_is_the_laws()
    {
        var before = new PhilippinesCase(2021).Employer(400_000).Evaluate();
        var now = new PhilippinesCase(2024).Employer(400_000).Evaluate();
        var step = Assert.Single(Bridge.Between(before, now, new DateOnly(2025, 3, 1)).Steps);
        Assert.Equal((null, -7_500m), (step.Form, step.Movement));
    }

    [Fact]
    public void The_steps_of_a_bridge_add_up_to_the_movement() => Gen.Select(Gen.Int[0, 1_000_000], Gen.Int[0, 1_000_000]).Sample(
        (first, second) =>
        {
            foreach (var id in new[] { "ph/individual-annual", "ke/employment-income" })
            {
                var (today, earlier, later) = (new DateOnly(2026, 6, 18), Catalogue.Get(id, 2024), Catalogue.Get(id, 2025));
                var before = earlier.Evaluate(RandomEntries.Of(earlier, first), today);
                var now = later.Evaluate(RandomEntries.Of(later, second), today);
                var bridge = Bridge.Between(before, now, today);
                if (bridge.From + bridge.Steps.Sum(s => s.Movement) != bridge.To || bridge.To != now.Balance || bridge.From != before.Balance)
                {
                    return false;
                }
            }

            return true;
        },
        iter: 40);

    [Fact]
    public void A_bridge_names_the_forms_that_moved_the_balance()
    {
        var before = new PhilippinesCase(2024).Employer(400_000, withheld: 10_000).Evaluate();
        var now = new PhilippinesCase(2025).Employer(600_000, withheld: 10_000).With("balance.prior-excess", 4_000).Evaluate();
        var steps = Bridge.Between(before, now, new DateOnly(2026, 3, 1)).Steps;
        Assert.Equal([("compensation", 40_000m), ("balance", -4_000m)], steps.Select(s => (s.Form!, s.Movement)));
    }
}
