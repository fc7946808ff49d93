using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries.Philippines.IndividualAnnual;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>The annual return of a couple in two columns (NIRC s. 51(D)), losses by year of origin, and income under special rates.</summary>
public class PhilippinesCoupleTests
{
    /// <summary>EX-A8 of the law sheet, constructed from the statutes.</summary>
    private static PhilippinesCase Couple() => new PhilippinesCase(2025).Scope("joint", "undivided", "spouse-business").With("undivided.income", 100_000)
        .Employer(650_000, withheld: 72_500)
        .With("business-spouse.method", "standard").With("business-spouse.services", 900_000).With("balance-spouse.withheld-quarters", 64_000);

    [Fact]
    public void A_couple_is_computed_in_two_columns_and_added()
    {
        var evaluation = Couple().Evaluate();
        Assert.Equal((700_000m, 82_500m, 10_000m), (evaluation.Amount("tax.taxable"), evaluation.Amount("tax.due"), evaluation.Amount("balance.balance")));
        Assert.Equal((590_000m, 60_500m, -3_500m), (evaluation.Amount("tax-spouse.taxable"), evaluation.Amount("tax-spouse.due"), evaluation.Amount("balance-spouse.balance")));
        Assert.Equal(6_500, evaluation.Balance);
    }

    /// <summary>The odd peso goes into the first column: our own convention.</summary>
    [Theory]
    [InlineData(100_001, 50_001, 50_000)]
    [InlineData(1, 1, 0)]
    public void Income_of_both_is_halved(decimal income, decimal own, decimal spouse)
    {
        var evaluation = Couple().With("undivided.income", income).Evaluate();
        Assert.Equal((own, spouse), (evaluation.Amount("undivided.taxpayer"), evaluation.Amount("undivided.spouse")));
    }

    [Fact]
    public void The_spouses_column_does_not_count_unless_both_file_together()
    {
        var alone = Couple().With("scope.joint", "no").Evaluate();
        Assert.Equal((0m, alone.Amount("balance.balance")), (alone.Amount("tax-spouse.due"), alone.Balance));
        Assert.All(alone.Definition.Forms.Where(f => f.Beside is not null), form => Assert.All(form.Sections, s => Assert.False(alone.IsOpen(s))));
    }

    [Fact]
    public void Findings_of_the_spouses_column_say_so()
    {
        var findings = Couple().With("balance-spouse.withheld-quarters", 0).With("business-spouse.services-returns", 950_000).Evaluate().Findings;
        var found = Assert.Single(findings, f => f.Id == "returns-exceed-sales-spouse");
        Assert.StartsWith("Spouse: ", found.Message);
        Assert.Equal("business-spouse", found.Form);
    }

    [Fact]
    public void Second_parts_of_both_may_not_exceed_what_is_to_pay() => Assert.Contains(
        Couple().With("balance.two-parts", "yes").With("balance.second-part", 10_000).Evaluate().Findings, f => f.Id == "second-parts-exceed-balance");

    [Theory]
    [InlineData("20100456100000", "employer-is-taxpayer")]
    [InlineData("20100888800001", "employer-is-spouse")]
    public void Neither_spouse_is_taken_for_an_employer(string tin, string finding)
    {
        var entered = Couple().With("taxpayer.tin", "201004561-00000").With("taxpayer.spouse-tin", "201008888-00000").Row("compensation.employers", ("tin", tin), ("name", "Self"));
        Assert.Contains(entered.Evaluate().Findings, f => f.Id == finding && f.Row == "2");
    }

    /// <summary>Tax of a couple equals the tax of each alone, whatever they earn: the columns do not touch each other.</summary>
    [Fact]
    public void Each_column_is_what_its_owner_would_file_alone() => Gen.Select(Gen.Int[0, 3_000_000], Gen.Int[0, 2_900_000], Gen.Int[0, 2].Select(i => new[] { "eight", "standard", "itemised" }[i])).Sample(
        (pay, receipts, method) =>
        {
            var couple = new PhilippinesCase(2025).Scope("joint", "spouse-business").Employer(pay).With("business-spouse.method", method).With("business-spouse.services", receipts).Evaluate();
            return couple.Amount("result.due") == new PhilippinesCase(2025).Employer(pay).Evaluate().Amount("tax.due")
                + new PhilippinesCase(2025).Business(method, receipts).Evaluate().Amount("tax.due");
        },
        iter: 200);

    /// <summary>The oldest loss is used first, and only up to the income (NIRC s. 34(D)(3); RR 14-2001; from memory).</summary>
    [Fact]
    public void Losses_are_used_oldest_first_by_year_of_origin()
    {
        var evaluation = new PhilippinesCase(2025).Business("itemised", 150_000).Scope("losses")
            .Row("deductions.losses", ("year", 2024), ("loss", 90_000)).Row("deductions.losses", ("year", 2022), ("loss", 100_000)).Row("deductions.losses", ("year", 2023), ("loss", 40_000)).Evaluate();
        decimal[] Column(string name) => [.. Enumerable.Range(0, 3).Select(row => evaluation.Amount($"deductions.losses.{name}", row))];
        Assert.Equal([10_000, 100_000, 40_000], Column("used"));
        Assert.Equal([80_000, 0, 0], Column("left"));
        Assert.Equal(0, evaluation.Amount("tax.taxable"));
    }

    [Fact]
    public void A_loss_in_its_last_year_is_told_to_be_lost() => Assert.Contains(
        new PhilippinesCase(2025).Business("itemised", 60_000).Scope("losses").Row("deductions.losses", ("year", 2022), ("loss", 100_000)).Evaluate().Findings,
        f => f.Id == "loss-expires" && f.Message.Contains("40,000"));

    [Fact]
    public void The_order_of_loss_rows_never_matters() => Gen.Select(Gen.Int[1, 300_000].Array[3, 3], Gen.Int[0, 700_000]).Sample(
        (losses, income) =>
        {
            Dictionary<int, decimal> Used(IEnumerable<int> order)
            {
                var entered = new PhilippinesCase(2025).Business("itemised", income).Scope("losses");
                foreach (var at in order)
                {
                    entered.Row("deductions.losses", ("year", 2022 + at), ("loss", losses[at]));
                }

                var evaluation = entered.Evaluate();
                return order.Select((at, row) => (at, row)).ToDictionary(x => x.at, x => evaluation.Amount("deductions.losses.used", x.row));
            }

            var first = Used([0, 1, 2]);
            return Used([2, 0, 1]).All(u => first[u.Key] == u.Value) && first.Values.Sum() == Math.Min(income, losses.Sum());
        },
        iter: 100);

    [Fact]
    public void What_a_year_leaves_rolls_into_the_next()
    {
        var loss = new PhilippinesCase(2024).Business("itemised", 100_000).Expenses(160_000).Scope("losses").Row("deductions.losses", ("year", 2023), ("loss", 50_000)).Evaluate();
        Assert.Equal([("2023", "50000", "0"), ("2024", "60000", "0")], Rolled(loss));

        var used = new PhilippinesCase(2024).Business("itemised", 30_000).Scope("losses").Row("deductions.losses", ("year", 2023), ("loss", 50_000)).Evaluate();
        Assert.Equal([("2023", "50000", "30000")], Rolled(used));

        // In a year of 8% nothing is used, and time runs on.
        var eight = new PhilippinesCase(2024).Business("eight", 300_000).Scope("losses").Row("deductions.losses", ("year", 2023), ("loss", 50_000)).Evaluate();
        Assert.Equal([("2023", "50000", "0")], Rolled(eight));

        static (string?, string?, string?)[] Rolled(Evaluation before)
        {
            var tie = Catalogue.Get(IndividualAnnualReturn.ReturnId, 2025).FindTable("deductions.losses")!.RowTie!;
            Assert.Equal((IndividualAnnualReturn.ReturnId, 1), (tie.Return.Definition, tie.Return.YearsBack));
            return [.. tie.RowsFrom(before).Select(r => (r.Values.GetValueOrDefault("year"), r.Values.GetValueOrDefault("loss"), r.Values.GetValueOrDefault("applied")))];
        }
    }

    [Fact]
    public void Exempt_and_special_rate_income_stands_apart()
    {
        var evaluation = new PhilippinesCase(2025).Employer(400_000).Scope("special-rate")
            .Row("special.items", ("kind", "exempt"), ("activity", "Seaweed"), ("gross", 80_000), ("deductions", 20_000))
            .Row("special.items", ("kind", "special"), ("activity", "Rope"), ("gross", 300_000), ("deductions", 99_990), ("rate", "5")).Evaluate();
        Assert.Equal((60_000m, 200_010m, 10_001m), (evaluation.Amount("special.exempt-total"), evaluation.Amount("special.special-income"), evaluation.Amount("special.special-tax")));
        Assert.Equal(22_500 + 10_001, evaluation.Amount("tax.due"));
        Assert.Equal(400_000, evaluation.Amount("tax.taxable"));
    }

    [Theory]
    [InlineData("carry-over", 3_000)]
    [InlineData("refund", 0)]
    public void Only_an_overpayment_carried_over_goes_into_next_year(string use, decimal carried) => Assert.Equal(
        carried, new PhilippinesCase(2025).Employer(250_000, withheld: 3_000).With("result.overpayment", use).Evaluate().Amount("result.carried-over"));

    /// <summary>Interpreting and compiled code give the same values, findings included, for every return of the country.</summary>
    [Theory]
    [InlineData("ph/individual-annual", "")]
    [InlineData("ph/individual-quarterly", "q3")]
    [InlineData("ph/withholding-credits", "q2")]
    public void Interpreted_and_compiled_agree(string id, string period)
    {
        var definition = Catalogue.Get(id, 2025, period);
        definition.Evaluator.Compile();
        Gen.Int[0, 1_000_000].Sample(
            seed =>
            {
                var entries = RandomEntries.Of(definition, seed);
                var (interpreted, compiled) = (new Sheet(definition), new Sheet(definition));
                interpreted.Load(entries, new DateOnly(2026, 5, 1));
                compiled.Load(entries, new DateOnly(2026, 5, 1));
                definition.Evaluator.Interpret(interpreted);
                definition.Evaluator.Run(compiled);
                return interpreted.Amounts.SequenceEqual(compiled.Amounts) && interpreted.Filled.SequenceEqual(compiled.Filled) && interpreted.Findings.SequenceEqual(compiled.Findings)
                    && definition.Tables.All(t => SameRows(t, interpreted.Rows(t), compiled.Rows(t)));
            },
            iter: 20);

        bool SameRows(RepeatingSection table, Rows left, Rows right) =>
            left.Count == right.Count && Enumerable.Range(0, left.Count).All(row => left.SameRow(row, right, row))
            && definition.Findings.Where(f => f.Table == table).All(rule => left.Holding(rule).SequenceEqual(right.Holding(rule)));
    }
}
