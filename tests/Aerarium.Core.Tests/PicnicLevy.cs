using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Core.Tests;

/// <summary>A small return of an invented country, with every feature of the rule language once.</summary>
public sealed class PicnicLevy : Definition
{
    public static readonly RateSchedule Schedule = new("picnic schedule", "Picnic Act s. 4", Confidence.Certain, (1_000, 10), (2_000, 20), (null, 30));

    public static readonly Parameter Allowance = Parameter.Money("basket allowance", 250, "Picnic Act s. 7", Confidence.Likely);

    public PicnicLevy()
        : base("zz/picnic", 2025)
    {
        var scope = new Scope(this);
        var baskets = new Baskets(this, scope);
        Seal(new KeyFigure("Income", baskets.Net.Line, ""), new KeyFigure("Balance", baskets.Balance.Line, "="));
    }

    public override string Title => "Picnic levy";

    public override string Country => "Zedland";

    public override string Currency => "ZZD";

    public override IReadOnlyList<Deadline> Deadlines { get; } = [new("filing", "To be filed", new DateOnly(2026, 6, 30), "Picnic Act s. 1", Confidence.Certain)];

    private sealed class Scope : Form
    {
        public readonly AnswerLine HasHampers;

        public Scope(Definition d)
            : base(d, "scope", "Scope", "Answers.")
        {
            Section("Questions");
            HasHampers = Answer("hampers", "Any hampers?").Required();
        }
    }

    private sealed class Baskets : Form
    {
        public readonly AmountLine Net, Balance;

        public Baskets(Definition d, Scope scope)
            : base(d, "baskets", "Baskets", "What was eaten.")
        {
            Section("Earnings");
            var earned = Entry("earned", "Earned").Required();
            var spent = Entry("spent", "Spent");
            Net = Line("net", "Net earnings", AtLeastZero(earned - spent - Allowance)).Law("Picnic Act s. 3");
            var days = Count("days", "Days out").Between(0, 366);
            var share = Line("per-day", "Earned per day", earned / days, ToCents).When(days > 0);

            var hampers = Repeating("hampers", "Hampers", "hamper", row =>
            {
                var kind = row.Choice("kind", "Kind", [new("wicker", "Wicker"), new("tin", "Tin")]);
                row.NamedBy(row.Text("owner", "Owner"));
                var bought = row.Date("bought", "Bought");
                var cost = row.Entry("cost", "Cost");
                var used = row.Line("used", "Wear", If(kind.Is("wicker"), 0.25m * cost, 0.1m * cost), ToCents);
                row.Error("hamper-old", bought.IsFilled() & bought < new DateOnly(2000, 1, 1), "A hamper this old does not count.", bought);
                return (kind, cost, used);
            }, when: scope.HasHampers);

            Section("Levy");
            var wear = Line("wear", "Wear of hampers", hampers.Sum(h => h.used));
            var wicker = Line("wicker", "of which wicker", hampers.Sum(h => h.used, where: h => h.kind.Is("wicker")));
            var levy = Line("levy", "Levy", Progressive(Schedule, Net), ToCents).Law("Picnic Act s. 4");
            var paid = Entry("paid", "Paid");
            Balance = Line("balance", "Balance", levy - wear - paid).Final();
            Warn("spent-much", spent > earned, $"{spent - earned} more was spent than earned.", spent);
            Note("wicker-share", wicker * 2 > wear & wear > 0, "Most wear is wicker.", wicker);
            _ = share;
        }
    }
}
