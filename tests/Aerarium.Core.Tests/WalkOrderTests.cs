using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using CsCheck;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Core.Tests;

/// <summary>Columns and totals share walks over rows, and never see a value before it is there.</summary>
public class WalkOrderTests
{
    /// <summary>The cost of a boat trip shared by rowers: their share needs the total of all, their refund the total of another column.</summary>
    private sealed class BoatTrip : Definition
    {
        public BoatTrip()
            : base("zz/boat-trip", 2025) => Seal(new KeyFigure("Balance", new Trip(this).Left.Line, ""));

        public override string Title => "Boat trip";

        public override string Country => "Zedland";

        public override string Currency => "ZZD";

        public override IReadOnlyList<Deadline> Deadlines { get; } = [new("filing", "To be filed", new DateOnly(2026, 6, 30), "Boat Act s. 1", Confidence.Certain)];

        private sealed class Trip : Form
        {
            public readonly AmountLine Left;

            public Trip(Definition d)
                : base(d, "trip", "Trip", "Who rowed.")
            {
                Section("Hire");
                var hire = Entry("hire", "Hire");
                AmountLine hours = null!, food = null!, cost = null!, both = null!;
                var rowers = Repeating("rowers", "Rowers", "rower", row =>
                {
                    hours = row.Entry("hours", "Hours");
                    food = row.Entry("food", "Food").When(hours > 1);
                    cost = row.Line("cost", "Cost", (hours * 3) + food);
                    both = row.Line("both", "Cost and a tenth", cost + (0.1m * cost));
                    return row;
                });
                Section("Totals");
                var allHours = Line("hours", "Hours of all", rowers.Sum(_ => hours));
                var allCosts = Line("costs", "Costs of all", rowers.Sum(_ => both));
                AmountLine share = null!;
                Continue(rowers, row => share = row.Line("share", "Share", If(allHours > 0, hire * hours / allHours, 0), ToCents));
                Section("Rest");
                Left = Line("left", "Left", hire - rowers.Sum(_ => share) + allCosts);
            }
        }
    }

    private static readonly BoatTrip Trip = new();
    private static readonly IReadOnlyList<Walk> Walks = WalkOrder.Of(RuleOrder.Of(Trip));

    private static int WalkOf(string key) => Walks.ToList().FindIndex(w => w.Steps.Any(s => s.Line?.Key == key));

    [Fact]
    public void Every_step_is_carried_out_once() => Assert.Equal(
        RuleOrder.Of(Trip).Select(s => s.Line!.Key).Order(), Walks.SelectMany(w => w.Steps).Select(s => s.Line!.Key).Order());

    [Fact]
    public void Columns_of_a_row_and_their_plain_totals_share_a_walk()
    {
        Assert.Equal(WalkOf("trip.rowers.cost"), WalkOf("trip.rowers.food"));
        Assert.Equal(WalkOf("trip.rowers.cost"), WalkOf("trip.rowers.both"));
        Assert.Equal(WalkOf("trip.rowers.both"), WalkOf("trip.costs"));
        Assert.Equal(WalkOf("trip.hours"), WalkOf("trip.costs"));
        Assert.Equal("trip.rowers", Walks[WalkOf("trip.costs")].Over!.Key);
    }

    [Fact]
    public void A_column_that_needs_all_rows_waits_for_the_next_walk()
    {
        Assert.True(WalkOf("trip.rowers.share") > WalkOf("trip.hours"));
        Assert.True(WalkOf("trip.left") > WalkOf("trip.rowers.share"));
    }

    [Fact]
    public void Walks_give_what_the_steps_give_one_by_one() => Gen.Int[0, 900].Array[0, 7].Sample(hours =>
    {
        var set = new EntrySet { Values = { ["trip.hire"] = "1000" } };
        set.Rows["trip.rowers"] =
            [.. hours.Select((h, i) => new EntryRow($"r{i}") { Values = { ["hours"] = Figures.Canonical(h / 100m), ["food"] = $"{i}" } })];
        Trip.Evaluator.Compile();
        var sheets = new[] { new Sheet(Trip), new Sheet(Trip) };
        sheets.ToList().ForEach(s => s.Load(set, new DateOnly(2026, 6, 18)));
        Trip.Evaluator.Interpret(sheets[0]);
        Trip.Evaluator.Run(sheets[1]);
        return sheets[0].Amounts.SequenceEqual(sheets[1].Amounts) && sheets[0].Filled.SequenceEqual(sheets[1].Filled)
            && Enumerable.Range(0, hours.Length).All(row => sheets[0].Tables[0].SameRow(row, sheets[1].Tables[0], row));
    });
}
