using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using CsCheck;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Core.Tests;

public class EngineTests
{
    private static readonly DateOnly Today = new(2026, 6, 18);
    private static readonly PicnicLevy Levy = new();

    private static EntrySet Entries(params (string Line, string Value)[] values)
    {
        var set = new EntrySet();
        foreach (var (line, value) in values)
        {
            set.Values[line] = value;
        }

        return set;
    }

    private static EntrySet WithHampers(EntrySet set, params (string Kind, string Cost)[] hampers)
    {
        set.Values["scope.hampers"] = "yes";
        set.Rows["baskets.hampers"] = [.. hampers.Select((h, i) => new EntryRow($"h{i}") { Values = { ["kind"] = h.Kind, ["cost"] = h.Cost } })];
        return set;
    }

    [Fact]
    public void Tax_is_taken_slice_by_slice()
    {
        // By hand: net 3,500 = 1,000 at 10% + 2,000 at 20% + 500 at 30% = 100 + 400 + 150.
        var evaluation = Levy.Evaluate(Entries(("baskets.earned", "4000"), ("baskets.spent", "250")), Today);
        Assert.Equal(3_500m, evaluation.Amount("baskets.net"));
        Assert.Equal(650m, evaluation.Amount("baskets.levy"));
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(1_000, 100)]
    [InlineData(1_000.01, 100.002)]
    [InlineData(3_000, 500)]
    [InlineData(-5, 0)]
    public void Edges_of_slices_belong_to_the_lower_slice(decimal amount, decimal tax) => Assert.Equal(tax, PicnicLevy.Schedule.Apply(amount));

    [Fact]
    public void Blank_is_not_zero_but_counts_as_zero()
    {
        var evaluation = Levy.Evaluate(Entries(), Today);
        Assert.Null(evaluation.Value(Levy.LineOf("baskets.levy")));
        Assert.Equal(0m, evaluation.Amount("baskets.levy"));
        evaluation = Levy.Evaluate(Entries(("baskets.earned", "0")), Today);
        Assert.Equal("0", evaluation.Value(Levy.LineOf("baskets.net")));
    }

    [Fact]
    public void Rows_are_summed_all_and_by_condition()
    {
        var evaluation = Levy.Evaluate(WithHampers(Entries(), ("wicker", "100"), ("tin", "50"), ("wicker", "10.10")), Today);
        Assert.Equal(25m + 5m + 2.53m, evaluation.Amount("baskets.wear"));
        Assert.Equal(25m + 2.53m, evaluation.Amount("baskets.wicker"));
        Assert.Contains(evaluation.Findings, f => f.Id == "wicker-share");
    }

    [Fact]
    public void What_does_not_apply_is_kept_but_does_not_count_and_says_so()
    {
        var set = WithHampers(Entries(), ("wicker", "100"));
        set.Values["scope.hampers"] = "no";
        var evaluation = Levy.Evaluate(set, Today);
        Assert.Equal(0m, evaluation.Amount("baskets.wear"));
        var finding = Assert.Single(evaluation.Findings, f => f.Id.EndsWith(":closed", StringComparison.Ordinal));
        Assert.Contains("Any hampers?", finding.Message);
        set.Values["scope.hampers"] = "yes";
        Assert.Equal(25m, Levy.Evaluate(set, Today).Amount("baskets.wear"));
    }

    [Fact]
    public void A_closed_line_is_not_evaluated()
    {
        Assert.Null(Levy.Evaluate(Entries(("baskets.earned", "100")), Today).Value(Levy.LineOf("baskets.per-day")));
        Assert.Equal(33.33m, Levy.Evaluate(Entries(("baskets.earned", "100"), ("baskets.days", "3")), Today).Amount("baskets.per-day"));
    }

    [Fact]
    public void Required_lines_are_findings_until_filled()
    {
        Assert.Contains(Levy.Evaluate(Entries(), Today).Findings, f => f.Id == "baskets.earned:missing" && f.Severity == Severity.Error);
        Assert.DoesNotContain(Levy.Evaluate(Entries(("baskets.earned", "0")), Today).Findings, f => f.Id == "baskets.earned:missing");
    }

    [Fact]
    public void Findings_carry_figures_and_name_the_row()
    {
        var set = WithHampers(Entries(("baskets.earned", "10"), ("baskets.spent", "1010.5")), ("tin", "1"));
        set.Rows["baskets.hampers"][0].Values["bought"] = "1999-12-31";
        set.Rows["baskets.hampers"][0].Values["owner"] = "Great aunt";
        var findings = Levy.Evaluate(set, Today).Findings;
        Assert.Contains(findings, f => f.Message == "1,000.50 more was spent than earned.");
        Assert.Contains(findings, f => f is { Id: "hamper-old", Row: "h0" } && f.Message.StartsWith("Great aunt: ", StringComparison.Ordinal));
    }

    [Fact]
    public void Compiled_and_interpreted_rules_agree()
    {
        var compiled = new PicnicLevy();
        compiled.Evaluator.Compile();
        Gen.Select(Gen.Decimal[0, 100_000], Gen.Decimal[0, 100_000], Gen.Int[0, 40], Gen.Bool, Gen.Decimal[0, 9_999].Array[0, 6]).Sample((earned, spent, days, open, costs) =>
        {
            var set = WithHampers(
                Entries(("baskets.earned", Figures.Canonical(decimal.Round(earned, 2))), ("baskets.spent", Figures.Canonical(decimal.Round(spent, 2))), ("baskets.days", $"{days}")),
                [.. costs.Select((c, i) => (i % 2 == 0 ? "wicker" : "tin", Figures.Canonical(decimal.Round(c, 2))))]);
            set.Values["scope.hampers"] = open ? "yes" : "no";
            var interpreted = new Sheet(compiled);
            interpreted.Load(set, Today);
            compiled.Evaluator.Interpret(interpreted);
            var run = new Sheet(compiled);
            run.Load(set, Today);
            compiled.Evaluator.Run(run);
            return interpreted.Amounts.SequenceEqual(run.Amounts) && interpreted.Filled.SequenceEqual(run.Filled)
                && interpreted.Open.SequenceEqual(run.Open) && interpreted.Findings.SequenceEqual(run.Findings)
                && interpreted.Tables.Zip(run.Tables).All(t => Enumerable.Range(0, t.First.Count).All(row => t.First.SameRow(row, t.Second, row)));
        });
        Assert.True(compiled.Evaluator.IsCompiled);
    }

    [Fact]
    public void The_order_of_rows_never_matters() => Gen.Decimal[0, 9_999].Array[2, 8].Sample(costs =>
    {
        var rows = costs.Select((c, i) => (i % 2 == 0 ? "wicker" : "tin", Figures.Canonical(decimal.Round(c, 2)))).ToArray();
        return Levy.Evaluate(WithHampers(Entries(), rows), Today).Amount("baskets.wear")
            == Levy.Evaluate(WithHampers(Entries(), [.. rows.Reverse()]), Today).Amount("baskets.wear");
    });

    [Fact]
    public void A_derivation_explains_the_bands_and_links_the_operands()
    {
        var evaluation = Levy.Evaluate(Entries(("baskets.earned", "4000"), ("baskets.spent", "250")), Today);
        var derivation = Derivation.Of(evaluation, Levy.LineOf("baskets.levy"), null);
        var bands = Assert.Single(derivation.Root!.Operands);
        Assert.Equal(DerivationKind.Bands, bands.Kind);
        Assert.Equal(["100", "400", "150"], bands.Bands.Select(b => b.Tax));
        Assert.Equal("baskets.net", Assert.Single(bands.Operands).Line);
        Assert.Contains(derivation.GoesTo, g => g.Line == "baskets.balance");
        Assert.Equal("Picnic Act s. 4", derivation.Law);

        var net = Derivation.Of(evaluation, Levy.LineOf("baskets.net"), null).Root!;
        var allowance = net.Operands[1].Operands.Single(o => o.Kind == DerivationKind.Parameter);
        Assert.True(allowance is { Value: "250", Source: "Picnic Act s. 7", Confidence: Confidence.Likely, Subtracted: true });
    }

    [Fact]
    public void The_rule_revision_changes_with_the_rules_and_only_then()
    {
        Assert.Equal(new PicnicLevy().FigureRevision, Levy.FigureRevision);
        Assert.Equal(new PicnicLevy().TextRevision, Levy.TextRevision);
    }
}

public class RuleCheckTests
{
    [Fact]
    public void A_circle_is_spelt_out_by_label()
    {
        var problem = Assert.Throws<RuleException>(() => new Circle());
        Assert.Contains("circle", problem.Message);
        Assert.Contains("'First'", problem.Message);
        Assert.Contains("'Second'", problem.Message);
        Assert.Contains("EngineTests.cs", problem.Message);
    }

    [Fact]
    public void A_column_outside_its_row_is_refused()
    {
        var problem = Assert.Throws<RuleException>(() => new Broken(f =>
        {
            AmountLine column = null!;
            f.Rows("rows", row => column = row.Entry("cost", "Cost"));
            f.Open("After");
            f.Line("total", "Total", column + 1);
        }));
        Assert.Contains("outside its row", problem.Message);
    }

    [Fact]
    public void Two_sections_of_one_name_are_refused() => Assert.Contains(
        "'form.twice' is declared twice", Assert.Throws<RuleException>(() => new Broken(f =>
        {
            f.Open("Twice");
            f.Open("Twice");
        })).Message);

    [Fact]
    public void A_constant_zero_factor_is_refused()
    {
        var problem = Assert.Throws<RuleException>(() => new Broken(f => f.Line("third", "Third", 1 / 3 * f.Entry("a", "A"))));
        Assert.Contains("constant zero", problem.Message);
    }

    [Fact]
    public void A_key_declared_twice_is_refused() => Assert.Contains(
        "declared twice", Assert.Throws<RuleException>(() => new Broken(f => _ = (f.Entry("a", "A"), f.Entry("a", "A again")))).Message);

    [Fact]
    public void A_failing_rule_names_its_line()
    {
        var broken = new Broken(f => f.Line("share", "Share per head", f.Entry("a", "Amount") / f.Entry("b", "Heads")));
        broken.Evaluator.Compile();
        foreach (var _ in Enumerable.Range(0, 2))
        {
            var problem = Assert.Throws<RuleException>(() => broken.Evaluate(new EntrySet { Values = { ["form.a"] = "1" } }, new DateOnly(2026, 1, 1)));
            Assert.Contains("Share per head", problem.Message);
        }
    }

    [Theory]
    [InlineData(2.345, 2.35)]
    [InlineData(-2.345, -2.35)]
    [InlineData(2.344, 2.34)]
    public void Cents_round_half_up_away_from_zero(decimal value, decimal rounded) => Assert.Equal(rounded, Rounding.ToCents.Apply(value));

    [Theory]
    [InlineData(RoundingMode.HalfUp, 49.5, 50)]
    [InlineData(RoundingMode.Down, 49.9, 49)]
    [InlineData(RoundingMode.Up, 49.1, 50)]
    public void Whole_units_round_in_the_named_mode(RoundingMode mode, decimal value, decimal rounded) =>
        Assert.Equal(rounded, new Rounding(1, mode).Apply(value));

    [Theory]
    [InlineData("2026-04-30", "2026-05-31", 1)]
    [InlineData("2026-04-30", "2026-06-01", 2)]
    [InlineData("2026-04-30", "2026-04-30", 0)]
    [InlineData("2026-04-30", "2026-03-01", 0)]
    public void Part_months_after_a_month_end_count_whole(string due, string paid, decimal months) =>
        Assert.Equal(months, Months.Between(DateOnly.Parse(due).DayNumber, DateOnly.Parse(paid).DayNumber, MonthCount.BegunAfter));
}

/// <summary>A definition of one form, written by a test.</summary>
public sealed class Broken : Definition
{
    public Broken(Action<OneForm> declare)
        : base("zz/broken", 2025)
    {
        var form = new OneForm(this, declare);
        Seal(form.First is null ? [] : [new KeyFigure("Balance", form.First, "")]);
    }

    public override string Title => "Broken";

    public override string Country => "Zedland";

    public override string Currency => "ZZD";

    public override IReadOnlyList<Deadline> Deadlines => [];

    public sealed class OneForm : Form
    {
        public OneForm(Definition d, Action<OneForm> declare)
            : base(d, "form", "Form", "")
        {
            Open();
            declare(this);
        }

        public Line? First => Sections.SelectMany(s => s.Lines).FirstOrDefault(l => l.Table is null);

        public void Open(string title = "Section") => Section(title);

        public void Rows(string name, Func<RowScope, object> columns) => Repeating(name, name, "row", columns);
    }
}

/// <summary>Two forms that need each other.</summary>
public sealed class Circle : Definition
{
    public Circle()
        : base("zz/circle", 2025)
    {
        var later = new LaterForm(this);
        Seal(new KeyFigure("Balance", later.Second.Line, ""));
    }

    public override string Title => "Circle";

    public override string Country => "Zedland";

    public override string Currency => "ZZD";

    public override IReadOnlyList<Deadline> Deadlines => [];

    private sealed class LaterForm : Form
    {
        public readonly AmountLine Second;

        public LaterForm(Definition d)
            : base(d, "later", "Later", "")
        {
            Section("Section");
            AmountLine? second = null;
            var first = Line("first", "First", new Deferred(() => second!) + 1);
            second = Line("second", "Second", first * 2);
            Second = second;
        }
    }

    /// <summary>A reference resolved late, as only a faulty rule would have it.</summary>
    private sealed class Deferred(Func<AmountLine> line) : Amount
    {
        public override IReadOnlyList<Formula> Operands => [line()];

        public override string Words => line().Words;

        public override decimal Evaluate(Sheet sheet) => line().Evaluate(sheet);

        public override string Spreadsheet(ICellNames cells) => line().Spreadsheet(cells);

        public override System.Linq.Expressions.Expression Emit(Emitter emitter) => line().Emit(emitter);
    }
}
