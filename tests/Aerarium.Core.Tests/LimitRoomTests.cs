using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Core.Tests;

/// <summary>How much is left before a limit of the law is reached, told at the entry, at the sum it belongs to, and at the limited line.</summary>
public class LimitRoomTests
{
    private sealed class Relief : Definition
    {
        public Relief()
            : base("xx/relief", 2025)
        {
            var form = new ReliefForm(this);
            Seal(new KeyFigure("Allowed", form.Allowed.Line, ""));
        }

        public override string Title => "Relief";

        public override string Country => "Nowhere";

        public override string Currency => "XXX";

        public override IReadOnlyList<Deadline> Deadlines => [];

        private sealed class ReliefForm : Form
        {
            public readonly AmountLine Allowed;

            public ReliefForm(Definition definition)
                : base(definition, "relief", "Relief", "Premiums and a limit for each month.")
            {
                Section("Premiums");
                var life = Entry("life", "Life premiums");
                var health = Entry("health", "Health premiums");
                var months = Count("months", "Months");
                var paid = Line("paid", "Premiums paid", life + health);
                var limit = Line("limit", "Limit", months * Parameter.Money("limit a month", 100, "Relief Act s. 1", Confidence.Certain));
                Allowed = Line("allowed", "Premiums allowed", Min(paid, limit));
                Line("twice", "Health premiums, never more than twice the limit", AtLeastZero(Min(health, 2 * limit)));
            }
        }
    }

    private static IReadOnlyList<LimitRoom> At(string line, decimal life, decimal health)
    {
        var entered = new EntrySet { Values = new Dictionary<string, string> { ["relief.life"] = Figures.Canonical(life), ["relief.health"] = Figures.Canonical(health), ["relief.months"] = "12" } };
        var relief = new Relief();
        return Derivation.Of(relief.Evaluate(entered, new DateOnly(2026, 1, 1)), relief.LineOf(line), null).Limits;
    }

    [Fact]
    public void Below_the_limit_what_is_left_is_told() =>
        Assert.Equal(new LimitRoom("relief.allowed", "Premiums allowed", "1200", "200.5", "0"), Assert.Single(At("relief.paid", 700, 299.5m)));

    [Fact]
    public void Beyond_it_what_does_not_count_is_told() => Assert.Equal(("0", "300"), Assert.Single(At("relief.allowed", 1_000, 500)) is var room ? (room.Left, room.Cut) : default);

    [Fact]
    public void An_entry_that_is_limited_itself_is_told_beneath_not_below_zero() =>
        Assert.Equal("Health premiums, never more than twice the limit", Assert.Single(At("relief.health", 0, 2_000)).Label);

    [Fact]
    public void What_has_no_limit_of_the_law_has_none() => Assert.Empty(At("relief.months", 10, 10));
}
