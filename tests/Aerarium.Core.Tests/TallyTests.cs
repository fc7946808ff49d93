using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Core.Tests;

/// <summary>Rows added up by a code and by the rows they point at, amounts of the row pointed at, working days: compiled and interpreted, beside a sum written out.</summary>
public class TallyTests
{
    private static readonly DateOnly Day = new(2026, 6, 1);

    /// <summary>Stalls by kind, and sales that point at stalls.</summary>
    private sealed class Market : Definition
    {
        public Market(string? code = null)
            : base("zz/market", 2025)
        {
            _ = new MarketForm(this, code);
            Seal(new KeyFigure("Rest", LineOf("market.fish", "fish"), ""));
        }

        public override string Title => "Market";

        public override string Country => "Zedland";

        public override string Currency => "ZZD";

        public override IReadOnlyList<Deadline> Deadlines => [];

        private Line LineOf(string key, string name) => Lines.First(l => l.Key == key && l.Name == name);

        private sealed class MarketForm : Form
        {
            public MarketForm(Definition definition, string? code)
                : base(definition, "market", "Market", "Stalls and sales.")
            {
                Section("Scope");
                var open = Answer("open", "Open?");
                var day = Date("day", "Day");
                var stalls = Repeating("stalls", "Stalls", "stall", row =>
                {
                    row.Text("name", "Name");
                    return (Kind: row.Choice("kind", "Kind", [new("fish", "Fish"), new("fruit", "Fruit")]), Rent: row.Entry("rent", "Rent"));
                });
                var sales = Repeating("sales", "Sales", "sale", row =>
                {
                    var stall = row.RowOf("stall", "Stall", stalls);
                    var amount = row.Entry("amount", "Amount");
                    return (Stall: stall, Amount: amount, Share: row.Line("share", "Rent beside", stall.The(stalls.Columns.Rent)));
                }, when: open);
                var byStall = sales.Tally(s => s.Amount, s => s.Stall);
                var taken = Continue(stalls, row => row.Line("taken", "Taken", byStall.OfThisRow()));
                var byKind = stalls.Tally(_ => taken, s => s.Kind);
                Section("Totals");
                Line("fish", "Fish", byKind.WithCode(code ?? "fish"));
                Line("fruit", "Fruit", byKind.WithCode("fruit"));
                Line("shares", "Rents beside sales", sales.Sum(s => s.Share));
                Line("works", "Working day", OrNextWorkingDay(day, new HolidayCalendar([Holiday.On(6, 29, "Market Day"), Holiday.On(7, 1, "Fish Day")], "Market Act", Confidence.Certain), 2025, 2026));
            }
        }
    }

    private static EntrySet Case(bool open = true) => new()
    {
        Values = { ["market.open"] = open ? "yes" : "no", ["market.day"] = "2025-06-28" },
        Rows =
        {
            ["market.stalls"] = [Row("a", ("kind", "fish"), ("rent", "10")), Row("b", ("kind", "fruit"), ("rent", "20")), Row("c", ("rent", "40"))],
            ["market.sales"] = [Row("1", ("stall", "a"), ("amount", "1.25")), Row("2", ("stall", "c"), ("amount", "100")), Row("3", ("amount", "7")), Row("4", ("stall", "a"), ("amount", "2")), Row("5", ("stall", "b"), ("amount", "5")), Row("6", ("stall", "gone"), ("amount", "9"))],
        },
    };

    private static EntryRow Row(string id, params (string Column, string Value)[] cells) => new(id) { Values = cells.ToDictionary(c => c.Column, c => c.Value) };

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void Rows_are_added_up_by_code_and_by_what_they_point_at(bool compiled)
    {
        var market = new Market();
        if (compiled)
        {
            market.Evaluator.Compile();
        }

        var of = market.Evaluate(Case(), Day);
        Assert.Equal((3.25m, 5), (of.Amount("market.fish"), of.Amount("market.fruit")));
        Assert.Equal((3.25m, 5, 100), (of.Amount("market.stalls.taken", 0), of.Amount("market.stalls.taken", 1), of.Amount("market.stalls.taken", 2)));
        Assert.Equal((10, 40, 0, 0), (of.Amount("market.sales.share", 0), of.Amount("market.sales.share", 1), of.Amount("market.sales.share", 2), of.Amount("market.sales.share", 5)));
        Assert.Equal(80, of.Amount("market.shares"));
        Assert.Equal(0, market.Evaluate(Case(open: false), Day).Amount("market.fish"));
    }

    [Fact]
    public void A_slot_is_derived_from_its_rows_and_a_reference_from_the_row_it_points_at()
    {
        var of = new Market().Evaluate(Case(), Day);
        var root = Derivation.Of(of, of.Definition.LineOf("market.stalls.taken"), "a").Root!;
        Assert.Equal(["1.25", "2"], root.Operands.Select(o => o.Value));
        Assert.Equal("10", Derivation.Of(of, of.Definition.LineOf("market.sales.share"), "1").Root!.Value);
        Assert.Equal("0", Derivation.Of(of, of.Definition.LineOf("market.sales.share"), "3").Root!.Value);
    }

    [Fact]
    public void A_code_that_is_not_there_is_an_error_when_the_definition_is_loaded() =>
        Assert.Contains("'meat' is no code", Assert.Throws<RuleException>(() => new Market("meat")).Message, StringComparison.Ordinal);

    [Theory]
    [InlineData("2025-06-27", "2025-06-27")]
    [InlineData("2025-06-28", "2025-06-30")]
    [InlineData("2025-06-29", "2025-06-30")]
    [InlineData("2025-07-01", "2025-07-02")]
    [InlineData("2026-06-27", "2026-06-30")]
    public void A_day_off_moves_to_the_next_working_day(string day, string works)
    {
        var market = new Market();
        var entries = Case();
        entries.Values["market.day"] = day;
        var interpreted = market.Evaluate(entries, Day).Value("market.works");
        market.Evaluator.Compile();
        Assert.Equal((works, works), (interpreted, market.Evaluate(entries, Day).Value("market.works")));
        entries.Values.Remove("market.day");
        Assert.Null(market.Evaluate(entries, Day).Value("market.works"));
    }

    /// <summary>An edit in one list gives what a fresh evaluation gives, although rows of the other list rest on it.</summary>
    [Fact]
    public void An_edit_elsewhere_reaches_the_rows_that_are_pointed_at()
    {
        var market = new Market();
        market.Evaluator.Compile();
        var before = market.Evaluate(Case(), Day);
        var changed = Case();
        changed.Rows["market.stalls"] = before.Entries.Rows["market.stalls"];
        changed.Rows["market.sales"][4].Values["stall"] = "a";
        var after = market.Evaluate(changed, Day, before);
        Assert.Equal((8.25m, 0, 8.25m), (after.Amount("market.fish"), after.Amount("market.fruit"), after.Amount("market.stalls.taken", 0)));
    }
}
