using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Core.Tests;

/// <summary>A definition with two repeating sections that refer to each other, dates, tables of steps and codes.</summary>
public sealed class Boathouse : Definition
{
    public static readonly StepTable Berths = new("berth fee by length", "Harbour Act s. 2", Confidence.Likely, (5, 100), (10, 250), (null, 700));

    public static readonly IdentifierRule Mark = new("mark", "boat mark", "^[A-Z]{2}[0-9]{3}$", "A mark is two letters and three digits, such as AB123.", "Harbour rules");

    public static readonly Dictionary<string, Parameter> HullRates = new()
    {
        ["wood"] = Parameter.Percent("rate for wood", 12.5m, "Harbour Act s. 3", Confidence.Certain),
        ["steel"] = Parameter.Percent("rate for steel", 4, "Harbour Act s. 3", Confidence.Unsure, "Read in two ways."),
    };

    public Boathouse()
        : base("zz/boathouse", 2025)
    {
        var form = new Boats(this);
        Seal(new KeyFigure("Fees", form.Fees.Line, ""), new KeyFigure("Balance", form.Balance.Line, "="));
    }

    public override string Title => "Boathouse";

    public override string Country => "Zedland";

    public override string Currency => "ZZD";

    public override IReadOnlyList<Deadline> Deadlines => [];

    private sealed class Boats : Form
    {
        public readonly AmountLine Fees, Balance;

        public Boats(Definition d)
            : base(d, "boats", "Boats", "")
        {
            var owners = Repeating("owners", "Owners", "owner", row =>
            {
                var name = row.Text("name", "Name");
                row.NamedBy(name);
                row.Error("owner-twice", row.RepeatsEarlier(name), "This owner stands there twice.", name);
                return name;
            });
            var hulls = Repeating("hulls", "Hulls", "hull", row =>
            {
                var owner = row.RowOf("owner", "Owner", owners);
                var mark = row.Identifier("mark", "Mark", Mark);
                row.NamedBy(mark);
                var kind = row.Choice("kind", "Hull", [new("wood", "Wood"), new("steel", "Steel"), new("reed", "Reed")]);
                var length = row.Count("length", "Length");
                var worth = row.Entry("worth", "Worth");
                var launched = row.Date("launched", "Launched");
                var fee = row.Line("fee", "Fee", Step(Berths, length) + Round(kind.In(HullRates) * worth, ToCents));
                row.Warn("hull-old", launched.IsFilled() & launched.AddYears(50) < OnToday, "This hull is older than fifty years.", launched);
                return (owner, fee, length, launched);
            });
            var perOwner = Continue(owners, row => row.Line("fees", "Fees of this owner", hulls.Sum(h => h.fee, where: h => h.owner.IsThisRow())));

            Section("Season");
            var from = Date("from", "From");
            var to = Date("to", "To");
            var months = NumberLine("months", "Months", MonthsTouched(Later(from, new DateOnly(2025, 3, 1)), Earlier(to.Or(new DateOnly(2025, 12, 31)), new DateOnly(2025, 10, 31))));
            Line("longest", "Longest hull", hulls.Greatest(h => h.length));
            NumberLine("first-year", "Year of the season", Year(from));
            NumberLine("hull-count", "Hulls", hulls.RowCount);
            NumberLine("long-hulls", "Hulls above five", hulls.CountWhere(h => h.length > 5));
            Fees = Line("fees", "Fees", owners.Sum(_ => perOwner) * months / 8);
            Balance = Line("balance", "Balance", If(hulls.Any(h => h.length >= 10) | Fees > 5_000, Fees, Min(Fees, 500)), ToCents).Final();
            Note("balance-differs", Balance.DiffersFrom(Fees), $"The balance {Balance} is not the fees {Fees}.", Balance);
        }
    }
}

public class FormulaTests
{
    private static readonly Boathouse House = new();

    private static EntrySet Entries(params (string Owner, string Kind, int Length, decimal Worth)[] hulls)
    {
        var set = new EntrySet { Values = { ["boats.from"] = "2025-01-15" } };
        set.Rows["boats.owners"] = [new EntryRow("o1") { Values = { ["name"] = "Ada" } }, new EntryRow("o2") { Values = { ["name"] = "Bo" } }];
        set.Rows["boats.hulls"] = [.. hulls.Select((h, i) => new EntryRow($"h{i}")
        {
            Values = { ["owner"] = h.Owner, ["kind"] = h.Kind, ["length"] = $"{h.Length}", ["worth"] = Figures.Canonical(h.Worth), ["mark"] = $"AB{i:000}" },
        })];
        return set;
    }

    private static Evaluation Run(EntrySet set, string today = "2026-06-18") => House.Evaluate(set, DateOnly.Parse(today));

    [Theory]
    [InlineData(0, 100)]
    [InlineData(5, 100)]
    [InlineData(5.01, 250)]
    [InlineData(10, 250)]
    [InlineData(11, 700)]
    public void A_step_holds_up_to_and_with_its_edge(decimal length, decimal fee) => Assert.Equal(fee, Boathouse.Berths.Apply(length));

    [Fact]
    public void Tables_must_rise_and_end_open()
    {
        Assert.Throws<RuleException>(() => new StepTable("t", "s", Confidence.Certain, (5, 1), (5, 2), (null, 3)));
        Assert.Throws<RuleException>(() => new StepTable("t", "s", Confidence.Certain, (5, 1)));
        Assert.Throws<RuleException>(() => new RateSchedule("t", "s", Confidence.Certain, (5, 1)));
        Assert.Throws<RuleException>(() => new RateSchedule("t", "s", Confidence.Certain, (null, 1), (5, 2)));
        Assert.Throws<RuleException>(() => new RateSchedule("t", "s", Confidence.Certain, (0, 1), (null, 2)));
    }

    [Fact]
    public void Rows_that_point_at_rows_are_summed_by_the_row_they_point_at()
    {
        var evaluation = Run(Entries(("o1", "wood", 5, 1_000), ("o2", "steel", 8, 500), ("o1", "reed", 3, 900)));
        Assert.Equal(100 + 125 + 100, evaluation.Amount("boats.owners.fees", 0));
        Assert.Equal(250 + 20, evaluation.Amount("boats.owners.fees", 1));
        Assert.Equal(595m, evaluation.Amount("boats.fees"));
        Assert.Equal(500m, evaluation.Amount("boats.balance"));
        Assert.Contains(evaluation.Findings, f => f.Message == "The balance 500 is not the fees 595.");
    }

    [Fact]
    public void A_reference_follows_its_row_when_rows_move_and_is_blank_when_the_row_goes()
    {
        var set = Entries(("o2", "wood", 5, 1_000));
        set.Rows["boats.owners"].Reverse();
        Assert.Equal(225m, Run(set).Amount("boats.owners.fees", 0));
        set.Rows["boats.owners"].RemoveAll(r => r.Id == "o2");
        Assert.Null(Run(set).Value(House.LineOf("boats.hulls.owner")));
        Assert.Equal(225m, Run(set).Amount("boats.owners.fees", 0));
    }

    [Theory]
    [InlineData("2025-01-15", null, 8)]
    [InlineData("2025-05-31", "2025-06-01", 2)]
    [InlineData("2025-09-09", "2025-08-08", 0)]
    [InlineData("2025-01-01", "2025-02-28", 0)]
    public void Months_are_counted_where_two_spans_meet(string from, string? to, decimal months)
    {
        var set = Entries();
        set.Values["boats.from"] = from;
        if (to is not null)
        {
            set.Values["boats.to"] = to;
        }

        Assert.Equal(months, Run(set).Amount("boats.months"));
        Assert.Equal(2025m, Run(set).Amount("boats.first-year"));
    }

    [Fact]
    public void Counts_and_greatest_look_at_every_row()
    {
        var evaluation = Run(Entries(("o1", "wood", 5, 0), ("o1", "wood", 12, 0), ("o1", "wood", 7, 0)));
        Assert.Equal((3m, 2m, 12m), (evaluation.Amount("boats.hull-count"), evaluation.Amount("boats.long-hulls"), evaluation.Amount("boats.longest")));
        Assert.Equal(0m, Run(Entries()).Amount("boats.longest"));
    }

    [Theory]
    [InlineData("1976-06-17", true)]
    [InlineData("1976-06-18", false)]
    [InlineData("1976-02-29", true)]
    public void The_day_of_evaluation_is_passed_in(string launched, bool old)
    {
        var set = Entries(("o1", "wood", 5, 0));
        set.Rows["boats.hulls"][0].Values["launched"] = launched;
        Assert.Equal(old, Run(set).Findings.Any(f => f.Id == "hull-old"));
    }

    [Theory]
    [InlineData("AB123", true)]
    [InlineData("ab123", false)]
    [InlineData("AB1234", false)]
    public void An_identifier_is_held_against_its_rule(string mark, bool good)
    {
        var set = Entries(("o1", "wood", 5, 0));
        set.Rows["boats.hulls"][0].Values["mark"] = mark;
        var found = Run(set).Findings.SingleOrDefault(f => f.Id == "boats.hulls.mark:identifier");
        Assert.Equal(good, found is null);
        Assert.True(found is null || found.Message.Contains("such as AB123"));
    }

    [Fact]
    public void The_same_text_twice_is_found_at_the_later_row_only()
    {
        var set = Entries();
        set.Rows["boats.owners"][1].Values["name"] = "Ada";
        Assert.Equal("o2", Assert.Single(Run(set).Findings, f => f.Id == "owner-twice").Row);
    }

    /// <summary>Few rows are compared one with another, many are found by a hash; both must name the rows that a plain search names.</summary>
    [Theory]
    [InlineData(2)]
    [InlineData(8)]
    [InlineData(9)]
    [InlineData(300)]
    public void A_row_that_repeats_an_earlier_one_is_found_in_a_list_of_any_length(int rows)
    {
        var random = new Random(rows);
        for (var time = 0; time < 20; time++)
        {
            var names = Enumerable.Range(0, rows).Select(_ => random.Next(5) == 0 ? null : $"N{random.Next(rows * 2)}").ToList();
            var set = Entries();
            set.Rows["boats.owners"] =
            [
                .. names.Select((name, row) => name is null ? new EntryRow($"o{row}") : new EntryRow($"o{row}") { Values = { ["name"] = name } }),
            ];
            var expected = Enumerable.Range(0, rows).Where(row => names[row] is { } name && names.IndexOf(name) < row).Select(row => $"o{row}");
            Assert.Equal(expected, Run(set).Findings.Where(f => f.Id == "owner-twice").Select(f => f.Row));
        }
    }

    [Fact]
    public void Compiled_code_gives_the_same_as_walking_the_trees()
    {
        var compiled = new Boathouse();
        compiled.Evaluator.Compile();
        var set = Entries(("o1", "wood", 5, 1_000.55m), ("o2", "steel", 18, 500), ("o1", "reed", 3, 900), ("o2", "wood", 9, 77.77m));
        var expected = Run(set);
        var actual = compiled.Evaluate(set, new DateOnly(2026, 6, 18));
        Assert.True(compiled.Evaluator.IsCompiled);
        Assert.Equal(expected.Values(), actual.Values());
        Assert.Equal(expected.Findings.Select(f => f.Message), actual.Findings.Select(f => f.Message));
    }

    [Fact]
    public void Conditions_in_words_hold_together_what_belongs_together()
    {
        static Condition More(decimal than) => (Amount)than > 0;

        Assert.Equal("1 is more than 0 or 2 is more than 0 or 3 is more than 0", (More(1) | More(2) | More(3)).Words);
        Assert.Equal("(1 is more than 0 or 2 is more than 0) and 3 is more than 0", ((More(1) | More(2)) & More(3)).Words);
        Assert.Equal("1 is more than 0 or 2 is more than 0 and 3 is more than 0", (More(1) | (More(2) & More(3))).Words);
        Assert.Equal("not (1 is more than 0 or 2 is more than 0)", (!(More(1) | More(2))).Words);
    }

    [Fact]
    public void Every_kind_of_formula_explains_itself()
    {
        var evaluation = Run(Entries(("o1", "steel", 8, 500), ("o1", "wood", 5, 1_000)));
        DerivationNode Of(string line, string? row = null) => Derivation.Of(evaluation, House.LineOf(line), row).Root!;

        var fee = Of("boats.hulls.fee", "h0");
        Assert.Equal(DerivationKind.Sum, fee.Kind);
        var (berth, hull) = (fee.Operands[0], fee.Operands[1]);
        Assert.True(berth is { Kind: DerivationKind.Parameter, Value: "250", Source: "Harbour Act s. 2", Confidence: Confidence.Likely });
        Assert.Equal(DerivationKind.Rounded, hull.Kind);
        var rate = hull.Operands[0].Operands[0];
        Assert.True(rate is { Words: "rate for steel", Note: "Read in two ways.", Confidence: Confidence.Unsure });
        Assert.Equal("Steel", Assert.Single(rate.Operands).Value);

        var ofOwner = Of("boats.owners.fees", "o1");
        Assert.Equal(DerivationKind.Rows, ofOwner.Kind);
        Assert.Equal([("AB000", "270"), ("AB001", "225")], ofOwner.Operands.Select(o => (o.Words, o.Value)));

        var fees = Of("boats.fees");
        Assert.Equal(DerivationKind.Quotient, fees.Kind);
        Assert.Equal(DerivationKind.Product, fees.Operands[0].Kind);

        var choice = Assert.Single(Of("boats.balance").Operands);
        Assert.Equal(DerivationKind.Choice, choice.Kind);
        Assert.StartsWith("because it does not hold", choice.Words);
        var least = Assert.Single(choice.Operands);
        Assert.Equal((DerivationKind.Least, true), (least.Kind, least.Operands[0].Decides));

        Assert.Throws<KeyNotFoundException>(() => Derivation.Of(evaluation, House.LineOf("boats.hulls.fee"), "gone"));
    }

    [Fact]
    public void A_clock_that_plays_on_another_day_runs_on_past_midnight_for_whoever_starts_again()
    {
        var machine = new MachineClock { Now = new DateTimeOffset(2026, 11, 30, 23, 59, 0, TimeSpan.Zero) };
        var ahead = ShiftedClock.SecondsTo(new DateTimeOffset(2026, 6, 18, 8, 0, 0, TimeSpan.Zero), machine).ToString(System.Globalization.CultureInfo.InvariantCulture);
        var clock = ShiftedClock.Ahead(machine, ahead);
        Assert.Equal(new DateOnly(2026, 6, 18), clock.Today());
        var before = clock.GetUtcNow();
        machine.Now = machine.Now.AddMinutes(2);
        Assert.Equal(before.AddMinutes(2), ShiftedClock.Ahead(machine, ahead).GetUtcNow());
        Assert.Same(TimeProvider.System, ShiftedClock.Ahead(TimeProvider.System, " "));
        Assert.Throws<FormatException>(() => ShiftedClock.Ahead(TimeProvider.System, "tomorrow"));
    }

    private sealed class MachineClock : TimeProvider
    {
        public DateTimeOffset Now { get; set; }

        public override DateTimeOffset GetUtcNow() => Now;
    }
}
