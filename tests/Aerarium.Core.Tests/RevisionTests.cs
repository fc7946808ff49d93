using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Core.Tests;

/// <summary>Two revisions: one of what is computed, by key and value, and one of the words. Each follows what it says and nothing else.</summary>
public class RevisionTests
{
    private static readonly Terms AsEnacted = new();

    /// <summary>Every single change of what the toll computes, asks, finds or falls due.</summary>
    public static TheoryData<string, Terms> Changed => new()
    {
        { "a figure", AsEnacted with { Fee = 101 } },
        { "the edge of a band", AsEnacted with { Edge = 1_001 } },
        { "the rate of a band", AsEnacted with { Rate = 21 } },
        { "a table of steps", AsEnacted with { Step = 6 } },
        { "a figure by code", AsEnacted with { ByCode = 3 } },
        { "a code", AsEnacted with { Code = "lorry" } },
        { "a section's condition", AsEnacted with { SectionFrom = 1 } },
        { "the condition of rows", AsEnacted with { RowsFrom = 1 } },
        { "whole units", AsEnacted with { Whole = true } },
        { "negative allowed", AsEnacted with { Negative = true } },
        { "the largest entry", AsEnacted with { Most = 10 } },
        { "rounding", AsEnacted with { Rounding = DownToUnits } },
        { "an operator", AsEnacted with { Subtract = true } },
        { "a relation", AsEnacted with { OrEqual = true } },
        { "the edge of a warning", AsEnacted with { Warned = 501 } },
        { "a deadline", AsEnacted with { Due = new DateOnly(2026, 5, 1) } },
        { "the currency", AsEnacted with { Money = "ZZE" } },
        { "the pattern of an identifier", AsEnacted with { Pattern = "^[0-9]{4}$" } },
        { "a tie", AsEnacted with { TiedTo = "zz/other" } },
        { "the key of a line", AsEnacted with { Key = "crossing" } },
    };

    [Theory]
    [MemberData(nameof(Changed))]
    public void The_figure_revision_changes_with(string what, Terms changed)
    {
        Assert.NotEmpty(what);
        Assert.NotEqual(new Toll(AsEnacted).FigureRevision, new Toll(changed).FigureRevision);
    }

    [Fact]
    public void A_corrected_word_changes_the_text_revision_only()
    {
        var before = new Toll(AsEnacted);
        foreach (var corrected in new[]
        {
            AsEnacted with { Label = "Crossings of the bridge" }, AsEnacted with { Source = "Bridge Act s. 4" }, AsEnacted with { Message = "Many crossings; count again." },
            AsEnacted with { Heading = "The bridge" },
        })
        {
            var after = new Toll(corrected);
            Assert.Equal(before.FigureRevision, after.FigureRevision);
            Assert.NotEqual(before.TextRevision, after.TextRevision);
        }
    }

    /// <summary>What a toll of an invented bridge says.</summary>
    public sealed record Terms
    {
        public decimal Fee { get; init; } = 100;

        public decimal Edge { get; init; } = 1_000;

        public decimal Rate { get; init; } = 20;

        public decimal Step { get; init; } = 5;

        public decimal ByCode { get; init; } = 2;

        public string Code { get; init; } = "cart";

        public decimal SectionFrom { get; init; }

        public decimal RowsFrom { get; init; }

        public bool Whole { get; init; }

        public bool Negative { get; init; }

        public decimal Most { get; init; } = 9;

        public Rounding Rounding { get; init; } = ToCents;

        public bool Subtract { get; init; }

        public bool OrEqual { get; init; }

        public decimal Warned { get; init; } = 500;

        public DateOnly Due { get; init; } = new(2026, 4, 30);

        public string Money { get; init; } = "ZZD";

        public string Pattern { get; init; } = "^[0-9]{3}$";

        public string TiedTo { get; init; } = "zz/toll";

        public string Key { get; init; } = "crossings";

        public string Label { get; init; } = "Crossings";

        public string Source { get; init; } = "Bridge Act s. 3";

        public string Message { get; init; } = "Many crossings.";

        public string Heading { get; init; } = "Bridge";
    }

    private sealed class Toll : Definition
    {
        private readonly Terms _terms;

        public Toll(Terms terms)
            : base("zz/toll", 2025)
        {
            _terms = terms;
            Seal(new KeyFigure("Toll", new Bridge(this, terms).Total.Line, "="));
        }

        public override string Title => "Toll";

        public override string Country => "Zedland";

        public override string Currency => _terms.Money;

        public override IReadOnlyList<Deadline> Deadlines => [new("filing", "To be filed", _terms.Due, "Bridge Act s. 1", Confidence.Certain)];
    }

    private sealed class Bridge : Form
    {
        public readonly AmountLine Total;

        public Bridge(Definition d, Terms t)
            : base(d, "bridge", "Bridge", "Who crossed.")
        {
            Section(t.Heading);
            var crossings = Count(t.Key, t.Label).Between(0, t.Most);
            var paid = Entry("paid", "Paid").TiedTo(new TiedReturn(t.TiedTo, 1).Line("bridge.paid"));
            _ = t.Negative ? paid.MayBeNegative() : paid;
            _ = t.Whole ? paid.InWholeUnits() : paid;
            var kind = Choice("kind", "Kind", [new(t.Code, "Cart"), new("coach", "Coach")]);
            Identifier("mark", "Mark", new IdentifierRule("mark", "mark", t.Pattern, "Three digits.", "Bridge rules"));
            Section("Weighed", when: crossings > t.SectionFrom);
            var weight = Entry("weight", "Weight");
            var loads = Repeating("loads", "Loads", "load", row => row.Entry("load", "Load"), when: crossings > t.RowsFrom);
            Section("Toll");
            var fee = Parameter.Money("fee", t.Fee, t.Source, Confidence.Certain);
            var schedule = new RateSchedule("schedule", t.Source, Confidence.Certain, (t.Edge, 10), (null, t.Rate));
            var steps = new StepTable("steps", t.Source, Confidence.Certain, (t.Step, 1), (null, 2));
            var byKind = new Dictionary<string, Parameter> { ["coach"] = Parameter.Money("coach", t.ByCode, t.Source, Confidence.Certain) };
            var crossed = crossings * fee;
            var tolled = t.Subtract ? crossed - weight : crossed + weight;
            Total = Line("total", "Toll", tolled + Progressive(schedule, loads.Sum(l => l)) + Step(steps, weight) + kind.In(byKind) - paid, t.Rounding);
            Warn("many", t.OrEqual ? Total >= t.Warned : Total > t.Warned, t.Message, crossings);
        }
    }
}
