using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Tests;

/// <summary>Pages that repeat, rows within them, computed values of every kind, and lines defined after they are declared.</summary>
public class SmallholdingTests
{
    private static readonly DateOnly Today = new(2026, 6, 18);

    private static EntryRow Row(string id, params (string Column, string Value)[] cells) => new(id) { Values = cells.ToDictionary(c => c.Column, c => c.Value) };

    private static EntrySet Entries() => new()
    {
        Values = new() { ["main.first"] = "Ada", ["main.born"] = "2007-06-18", ["main.day"] = "2025-06-17" },
        Rows = new()
        {
            ["fields.fields"] = [Row("a", ("name", "Upper"), ("size", "20")), Row("b", ("name", "Lower"), ("size", "30"))],
            ["fields.crops"] =
            [
                Row("1", ("of", "b"), ("kind", "rye"), ("worth", "200")), Row("2", ("of", "a"), ("kind", "flax"), ("worth", "50")),
                Row("3", ("of", "b"), ("kind", "tree"), ("worth", "40")),
            ],
            ["fields.grants"] = [Row("1", ("kind", "rye"), ("paid", "5")), Row("2", ("kind", "tree")), Row("3", ("paid", "1"))],
        },
    };

    private static IEnumerable<Evaluation> BothWays(EntrySet entries)
    {
        var definition = new Smallholding();
        yield return definition.Evaluate(entries, Today);
        definition.Evaluator.Compile();
        yield return definition.Evaluate(entries, Today);
    }

    [Fact]
    public void Rows_within_a_page_count_on_their_page_and_in_the_whole()
    {
        foreach (var evaluation in BothWays(Entries()))
        {
            Assert.Equal(50, evaluation.Amount("fields.fields.worth", 0));
            Assert.Equal(240, evaluation.Amount("fields.fields.worth", 1));
            Assert.Equal(0, evaluation.Amount("fields.fields.trees", 0));
            Assert.Equal(40, evaluation.Amount("fields.fields.trees", 1));
            Assert.Equal(2, evaluation.Amount("fields.fields.number", 1));
            Assert.Equal(25, evaluation.Amount("fields.fields.levy", 0));
            Assert.Equal(54, evaluation.Amount("fields.fields.levy", 1));
            Assert.Equal(79, evaluation.Amount("main.levy"));
            Assert.Equal(69, evaluation.Amount("main.due"));
        }
    }

    [Fact]
    public void A_finding_of_a_row_names_its_page_first()
    {
        foreach (var evaluation in BothWays(Entries()))
        {
            Assert.Equal(["Lower, Rye: Worth of 200 is much for one crop."], evaluation.Findings.Where(f => f.Id == "dear-crop").Select(f => f.Message));
        }

        var lost = Entries();
        lost.Rows["fields.crops"][0].Values.Remove("of");
        Assert.Contains(new Smallholding().Evaluate(lost, Today).Findings, f => f.Id == "fields.crops:page" && f.Message == "Upper, Rye: Say which field this crop belongs to; until then it counts with the first.");
        Assert.DoesNotContain(new Smallholding().Evaluate(Entries(), Today).Findings, f => f.Id == "fields.crops:page");

        var unnamed = Entries();
        unnamed.Rows["fields.crops"][2].Values.Remove("kind");
        Assert.Contains(new Smallholding().Evaluate(unnamed, Today).Findings, f => f.Message.StartsWith("Lower, Crop 2: Choose ‘Crop’", StringComparison.Ordinal));
    }

    [Fact]
    public void The_row_with_the_most_or_the_least_gives_its_amount_the_first_of_several()
    {
        foreach (var evaluation in BothWays(Entries()))
        {
            Assert.Equal(54, evaluation.Amount("main.of-largest"));
            Assert.Equal(25, evaluation.Amount("main.of-smallest"));
        }

        var alike = Entries();
        alike.Rows["fields.fields"][1].Values["size"] = "20";
        foreach (var evaluation in BothWays(alike))
        {
            Assert.Equal(25, evaluation.Amount("main.of-largest"));
            Assert.Equal(25, evaluation.Amount("main.of-smallest"));
        }

        Assert.Equal(0, new Smallholding().Evaluate(new EntrySet(), Today).Amount("main.of-largest"));
    }

    [Fact]
    public void Rows_elsewhere_are_joined_by_an_equal_code_and_a_blank_joins_nothing()
    {
        foreach (var evaluation in BothWays(Entries()))
        {
            Assert.Equal([200m, 40m, 0m], Enumerable.Range(0, 3).Select(row => evaluation.Amount("fields.grants.worth", row)));
        }
    }

    [Fact]
    public void Texts_codes_days_and_answers_are_computed_like_amounts()
    {
        foreach (var evaluation in BothWays(Entries()))
        {
            string? Value(string key) => evaluation.Value(evaluation.Definition.LineOf(key));
            Assert.Equal("Ada", Value("main.full-name"));
            Assert.Equal("no", Value("main.of-age"));
            Assert.Equal("2025-07-31", Value("main.next-day"));
            Assert.Equal("large", Value("main.standing"));
            Assert.Equal(2, evaluation.Code(evaluation.Definition.LineOf("main.standing")));
            Assert.Equal("17", Value("main.age"));
            Assert.Equal("215", Value("main.months"));
        }

        var later = Entries();
        later.Values["main.day"] = "2025-06-18";
        later.Values["main.last"] = "Lovell";
        later.Rows["fields.fields"].Clear();
        later.Rows["fields.crops"].Clear();
        foreach (var evaluation in BothWays(later))
        {
            string? Value(string key) => evaluation.Value(evaluation.Definition.LineOf(key));
            Assert.Equal("Ada Lovell", Value("main.full-name"));
            Assert.Equal("yes", Value("main.of-age"));
            Assert.Null(Value("main.standing"));
        }

        Assert.Null(new Smallholding().Evaluate(new EntrySet(), Today).Value(new Smallholding().LineOf("main.next-day")));
    }

    [Fact]
    public void A_share_by_days_counts_both_ends()
    {
        foreach (var evaluation in BothWays(Entries()))
        {
            // 1 January to 17 June 2025 are 31+28+31+30+31+17 = 168 days.
            Assert.Equal(Math.Round(79m * 168 / 365, 2, MidpointRounding.AwayFromZero), evaluation.Amount("main.share"));
        }
    }

    /// <summary>Compared with the calendar of the platform: a birthday is looked for by adding years to the day of birth, 29 February becoming 1 March.</summary>
    [Fact]
    public void Whole_years_are_birthdays_passed()
    {
        var random = new Random(4);
        for (var turn = 0; turn < 3_000; turn++)
        {
            var born = new DateOnly(1930, 1, 1).AddDays(random.Next(33_000));
            var day = born.AddDays(random.Next(20_000));
            var age = 0;
            while (Birthday(born, age + 1) <= day)
            {
                age++;
            }

            Assert.Equal(age, WholeMonths.Between(born.DayNumber, day.DayNumber, years: true));
            Assert.Equal(born.AddMonths(7).DayNumber, MonthsLater.Shift(born.DayNumber, 7));
            Assert.Equal(new DateOnly(born.Year, born.Month, 1).AddMonths(1).AddDays(-1).DayNumber, MonthEnd.Of(born.DayNumber));
            Assert.Equal(day.DayNumber - born.DayNumber + 1, DaysOfSpan.Of(born.DayNumber, day.DayNumber));
        }

        static DateOnly Birthday(DateOnly born, int years) =>
            born is { Month: 2, Day: 29 } && !DateTime.IsLeapYear(born.Year + years) ? new DateOnly(born.Year + years, 3, 1) : born.AddYears(years);
    }

    [Theory]
    [InlineData("main.hours", "7.25", "7.25", null)]
    [InlineData("main.hours", "7.2555", null, "Hours of work: 7.2555 has more than 2 decimals; round it as the law says.")]
    [InlineData("main.exchange-rate", "2.000125", "2.000125", null)]
    public void A_number_is_kept_to_its_places(string key, string typed, string? value, string? problem) =>
        Assert.Equal(new Reading(value, problem), EntryReader.Read(new Smallholding().LineOf(key), typed));

    [Fact]
    public void A_long_text_takes_four_thousand_characters()
    {
        var line = new Smallholding().LineOf("main.why");
        Assert.Equal(4_000, EntryReader.Read(line, new string('x', 4_000)).Value!.Length);
        Assert.Contains("keep it to 4000", EntryReader.Read(line, new string('x', 4_001)).Problem);
        Assert.Equal("one\n\ntwo", EntryReader.Read(line, " one\r\n\r\n\u200Btwo \n").Value);
    }

    [Fact]
    public void A_line_without_its_formula_is_told_when_the_definition_is_loaded()
    {
        var problem = Assert.Throws<RuleException>(() => new Smallholding(leavesDueOpen: true));
        Assert.Contains("'main.due'", problem.Message);
        Assert.Contains("never given its formula", problem.Message);
        var complete = new Smallholding();
        Assert.Contains("has its formula", Assert.Throws<RuleException>(() => complete.Main.Due.Is(1)).Message);
        Assert.Contains("is entered", Assert.Throws<RuleException>(() => complete.Fields.Fields.Columns.Size.Is(1)).Message);
    }

    [Fact]
    public void A_derivation_of_the_largest_names_its_row()
    {
        var evaluation = new Smallholding().Evaluate(Entries(), Today);
        var derived = Derivation.Of(evaluation, evaluation.Definition.LineOf("main.of-largest"), null).Root!;
        Assert.Equal("Levy of the field of the field with the greatest Size", derived.Words);
        Assert.Equal(("Lower", "54", "fields.fields.levy", "b"), (derived.Operands[0].Words, derived.Operands[0].Value, derived.Operands[0].Line, derived.Operands[0].Row));
        Assert.Equal("Ada", Derivation.Of(evaluation, evaluation.Definition.LineOf("main.full-name"), null).Root!.Value);
    }

    /// <summary>
    /// The tariff of EStG s. 32a(1) for 2024 (Germany, as raised in December 2024) and its tax at every edge, from memory of the statute: a published formula
    /// with every kind of zone, as a reference of the node.
    /// </summary>
    [Theory]
    [InlineData(11_784, 0)]
    [InlineData(11_785, 0)]
    [InlineData(11_884, 14)]
    [InlineData(17_005, 991)]
    [InlineData(17_006, 991)]
    [InlineData(30_000, 4_412)]
    [InlineData(45_000, 9_121)]
    [InlineData(66_760, 17_402)]
    [InlineData(66_761, 17_403)]
    [InlineData(90_000, 27_163)]
    [InlineData(277_825, 106_050)]
    [InlineData(277_826, 106_050)]
    [InlineData(300_000, 116_028)]
    public void A_tariff_in_zones_follows_its_formulas(decimal income, decimal tax)
    {
        var tariff = new ZoneTariff("tariff", "EStG s. 32a(1)", Confidence.Certain,
            TariffZone.Free(11_784), new(17_005, 11_784, 10_000, 954.80m, 1_400, 0), new(66_760, 17_005, 10_000, 181.19m, 2_397, 991.21m),
            TariffZone.Flat(277_825, 0.42m, 10_636.31m), TariffZone.Flat(null, 0.45m, 18_971.06m));
        Assert.Equal(tax, decimal.Truncate(tariff.Apply(income)));
    }

    [Theory]
    [InlineData(500, 1_000, 50)]
    [InlineData(2_000, 1_000, 200)]
    [InlineData(2_001, 1_000, 200.25)]
    [InlineData(7_001, 1_000, 1_450.40)]
    [InlineData(7_001, 0, 1_750.40)]
    public void Edges_that_move_widen_the_first_slice(decimal amount, decimal by, decimal tax)
    {
        var evaluated = Law.ProgressiveMovedUp(Smallholding.Slices, amount, by).Evaluate(new Sheet(new Smallholding()));
        Assert.Equal(tax, evaluated);
    }

    /// <summary>Squaring does what multiplying one by one does; less than one time leaves one, a part of a time is left out.</summary>
    [Fact]
    public void An_amount_multiplied_by_itself()
    {
        var one = 1m;
        for (var times = 0; times <= 400; times++)
        {
            Assert.Equal(one, Power.Raise(1.0021m, times), 18);
            Assert.Equal(Power.Raise(1.0021m, times), Power.Raise(1.0021m, times + 0.9m));
            one *= 1.0021m;
        }

        Assert.Equal((1m, 8m, 1m), (Power.Raise(7, -2), Power.Raise(2, 3), Power.Raise(0, 0)));
        foreach (var evaluation in BothWays(Entries()))
        {
            var years = evaluation.Amount("main.age");
            Assert.True(years > 1);
            Assert.Equal(Math.Round(evaluation.Amount("main.levy") * (decimal)Math.Pow(1.03, (double)years), 2, MidpointRounding.AwayFromZero), evaluation.Amount("main.grown"));
        }
    }

    [Fact]
    public void A_decision_table_takes_the_first_case_that_applies_and_shows_them_all()
    {
        foreach (var evaluation in BothWays(Entries()))
        {
            Assert.Equal(7, evaluation.Amount("main.decided"));
        }

        var dear = Entries();
        dear.Rows["fields.fields"][0].Values["size"] = "2000";
        foreach (var evaluation in BothWays(dear))
        {
            Assert.Equal(1_029.5m, evaluation.Amount("main.decided"));
            var derived = Derivation.Of(evaluation, evaluation.Definition.LineOf("main.decided"), null).Root!.Operands[0];
            Assert.Equal(DerivationKind.Decision, derived.Kind);
            Assert.Equal([false, true, false, false, false], derived.Operands.Select(o => o.Decides));
        }

        dear.Values.Remove("main.born");
        Assert.Equal(50, new Smallholding().Evaluate(dear, Today).Amount("main.decided"));
    }

    [Fact]
    public void A_tariff_or_table_that_is_not_in_order_is_told()
    {
        Assert.Throws<RuleException>(() => new ZoneTariff("t", "s", Confidence.Certain, TariffZone.Free(5), TariffZone.Flat(3, 0.1m, 0), TariffZone.Flat(null, 0.2m, 0)));
        Assert.Throws<RuleException>(() => new ZoneTariff("t", "s", Confidence.Certain, TariffZone.Free(5)));
        Assert.Contains("1 columns instead of 2", Assert.Throws<RuleException>(() => new RangeTable("t", "s", Confidence.Certain, ["a", "b"], (null, [1]))).Message);
        Assert.Contains("no column 'c'", Assert.Throws<RuleException>(() => Smallholding.Fees["c"]).Message);
        Assert.Equal((22m, 33m), (Smallholding.Fees["fee"].Apply(100.01m) + Smallholding.Fees["extra"].Apply(5_000), Smallholding.Fees["fee"].Apply(5_001) + Smallholding.Fees["extra"].Apply(9_000)));
    }

    [Fact]
    public void Losses_are_used_the_oldest_first() => Assert.Equal(["3", "4", "0"], Used([(2021, 3), (2023, 9), (2024, 2)], 7));

    private static IEnumerable<string> Used((int Year, int Amount)[] losses, int total)
    {
        var definition = new Pool();
        var entries = new EntrySet
        {
            Values = new() { ["pool.total"] = $"{total}" },
            Rows = new() { ["pool.losses"] = [.. losses.Select((l, i) => Row($"{i}", ("year", l.Year.ToString(CultureInfo.InvariantCulture)), ("amount", $"{l.Amount}")))] },
        };
        var evaluation = definition.Evaluate(entries, Today);
        return losses.Select((_, row) => evaluation.Value(definition.LineOf("pool.losses.used"), row)!);
    }

    private sealed class Pool : Definition
    {
        public Pool()
            : base("zz/pool", 2025)
        {
            var form = new PoolForm(this);
            Seal(new KeyFigure("Total", form.Total.Line, ""));
        }

        public override string Title => "Pool";

        public override string Country => "Zedland";

        public override string Currency => "ZZD";

        public override IReadOnlyList<Deadline> Deadlines => [];
    }

    private sealed class PoolForm : Form
    {
        public readonly Amount Used;

        public readonly AmountLine Total;

        public PoolForm(Definition d)
            : base(d, "pool", "Pool", "")
        {
            Section("Use");
            Total = Entry("total", "Used");
            Used = Repeating("losses", "Losses", "loss", row =>
            {
                var (year, amount) = (row.Count("year", "Year"), row.Entry("amount", "Amount"));
                return row.Line("used", "Used", row.UsedInOrder(amount, year, Total));
            }).Columns;
        }
    }
}
