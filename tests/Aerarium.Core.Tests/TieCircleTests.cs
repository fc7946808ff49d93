using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Tests;

/// <summary>Returns that follow each other: what comes from where, and that it cannot go round in a circle.</summary>
public class TieCircleTests
{
    private static readonly DateOnly Day = new(2026, 6, 18);

    private static Joined Of(string id, Action<Broken.OneForm> declare) => new(id, declare);

    private static void Check(params Joined[] returns) =>
        TieCircles.Check(returns[0], (id, year, _) => year == 2025 ? returns.FirstOrDefault(r => r.Id == id) : null);

    [Fact]
    public void A_circle_is_told_by_labels()
    {
        var first = Of("zz/first", f =>
        {
            var from = f.Entry("from-second", "From the second").TiedTo(new TiedReturn("zz/second").Line("form.sum"));
            f.Line("sum", "Sum of the first", from + 1);
        });
        var second = Of("zz/second", f =>
        {
            var from = f.Entry("from-first", "From the first").TiedTo(new TiedReturn("zz/first").Line("form.sum"));
            f.Line("sum", "Sum of the second", from + 1);
        });
        Assert.Equal(
            "The returns run in a circle: 'From the second' of zz/first 2025 follows 'Sum of the second' of zz/second 2025 follows 'From the first' of zz/second 2025 follows 'Sum of the first' of zz/first 2025 follows 'From the second' of zz/first 2025.",
            Assert.Throws<RuleException>(() => Check(first, second)).Message);
    }

    [Fact]
    public void Returns_may_follow_each_other_in_different_lines()
    {
        var first = Of("zz/first", f =>
        {
            f.Entry("from-second", "From the second").TiedTo(new TiedReturn("zz/second").Line("form.own"));
            f.Entry("own", "Own of the first");
        });
        var second = Of("zz/second", f =>
        {
            f.Entry("from-first", "From the first").TiedTo(new TiedReturn("zz/first").Line("form.own"));
            f.Entry("own", "Own of the second");
        });
        Check(first, second);
    }

    [Fact]
    public void The_spouse_of_ones_spouse_is_oneself_and_last_year_never_comes_round()
    {
        void Tied(Broken.OneForm f, TiedReturn to)
        {
            var from = f.Entry("taken", "Taken").TiedTo(to.Line("form.given"));
            f.Line("given", "Given", from + 1);
        }

        Assert.Contains("'Given' of zz/couple 2025 of the spouse", Assert.Throws<RuleException>(() => Check(Of("zz/couple", f => Tied(f, new TiedReturn("zz/couple", Relation: "spouse"))))).Message, StringComparison.Ordinal);
        Check(Of("zz/couple", f => Tied(f, new TiedReturn("zz/couple", YearsBack: 1))));
    }

    [Fact]
    public void A_tie_to_a_line_that_does_not_exist_is_told() =>
        Assert.Throws<KeyNotFoundException>(() => Check(Of("zz/first", f => f.Entry("a", "A").TiedTo(new TiedReturn("zz/second").Line("form.none"))), Of("zz/second", f => f.Entry("b", "B"))));

    [Fact]
    public void Rows_come_from_the_rows_and_the_single_line_of_another_return()
    {
        var before = Of("zz/losses", f =>
        {
            f.Line("own", "Own loss", f.Entry("made", "Made"));
            f.Rows("losses", row =>
            {
                var (loss, applied) = (row.Entry("loss", "Loss"), row.Entry("applied", "Applied"));
                row.Count("year", "Year");
                return row.Line("left", "Left", loss - applied);
            });
        });
        var tie = new RowTie(new TiedReturn("zz/losses", 1), "form.losses", "year", [new TiedColumn("year", "year"), new TiedColumn("used", "applied", "left")])
        {
            LeftOutAtZero = "left",
            AndSingle = new TiedSingle("form.own", AmountIn: "used", YearIn: "year"),
        };
        var entries = new EntrySet { Values = { ["form.made"] = "70" } };
        entries.Rows["form.losses"] =
        [
            new EntryRow("a") { Values = { ["year"] = "2022", ["loss"] = "100", ["applied"] = "40" } },
            new EntryRow("used-up") { Values = { ["year"] = "2023", ["loss"] = "5", ["applied"] = "5" } },
            new EntryRow("without-year") { Values = { ["loss"] = "5" } },
        ];
        var rows = tie.RowsFrom(before.Evaluate(entries, Day)).ToList();
        Assert.Equal(["tied-2022 2022 100", "tied-2025 2025 70"], rows.Select(r => $"{r.Id} {r.Values["year"]} {r.Values["used"]}"));
    }

    /// <summary>A definition of one form with an id of its own.</summary>
    private sealed class Joined : Definition
    {
        public Joined(string id, Action<Broken.OneForm> declare)
            : base(id, 2025)
        {
            var form = new Broken.OneForm(this, declare);
            Seal(new KeyFigure("Balance", form.First!, ""));
        }

        public override string Title => Id;

        public override string Country => "Zedland";

        public override string Currency => "ZZD";

        public override IReadOnlyList<Deadline> Deadlines => [];
    }
}
