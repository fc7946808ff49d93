using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Filing;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>A return as it is frozen at approval: the same return gives the same bytes, and they say every figure.</summary>
public class FrozenReturnTests
{
    private static readonly DateOnly Day = new(2026, 6, 18);

    [Fact]
    public void The_same_return_gives_the_same_bytes_in_whatever_order_it_was_entered() => Gen.Int[0, 100_000].Sample(
        seed =>
        {
            var definition = Catalogue.Get("ph/individual-annual", 2025);
            var entered = RandomEntries.Of(definition, seed);
            var turned = new EntrySet
            {
                Values = entered.Values.Reverse().ToDictionary(),
                Rows = entered.Rows.Reverse().ToDictionary(r => r.Key, r => r.Value.Select(row => row with { Values = row.Values.Reverse().ToDictionary() }).ToList()),
            };
            var (first, second) = (FrozenReturn.Of(definition.Evaluate(entered, Day), Day), FrozenReturn.Of(definition.Evaluate(turned, Day), Day));
            return first.Write().AsSpan().SequenceEqual(second.Write());
        },
        iter: 40);

    [Fact]
    public void What_was_frozen_is_read_again_and_computes_to_its_figures()
    {
        var definition = Catalogue.Get("ke/employment-income", 2025);
        var frozen = FrozenReturn.Read(FrozenReturn.Of(definition.Evaluate(RandomEntries.Of(definition, 7), Day), Day).Write());
        Assert.Equal((definition.FigureRevision, Day, ""), (frozen.FigureRevision, frozen.Day, frozen.Period));
        Assert.Equal(frozen.Figures, FrozenReturn.FiguresOf(definition.Evaluate(frozen.Entries, frozen.Day)));
        Assert.Contains("balance.balance", frozen.Figures.Keys);
        Assert.Contains(frozen.Figures.Keys, k => k.StartsWith("employment.employers.", StringComparison.Ordinal) && k.Contains('|', StringComparison.Ordinal));
    }

    /// <summary>What an earlier version froze names no such revision; it goes on counting while its figures come out.</summary>
    [Fact]
    public void What_was_frozen_before_figure_revisions_counts_while_its_figures_come_out()
    {
        var definition = Catalogue.Get("ke/employment-income", 2025);
        var written = System.Text.Json.Nodes.JsonNode.Parse(FrozenReturn.Of(definition.Evaluate(RandomEntries.Of(definition, 7), Day), Day).Write())!.AsObject();
        written["ruleRevision"] = "of an earlier version";
        written.Remove("figureRevision");
        written.Remove("textRevision");
        Assert.True(Read().ComesOutBy(definition));
        written["figures"]!["balance.balance"] = "0.01";
        Assert.False(Read().ComesOutBy(definition));

        FrozenReturn Read() => FrozenReturn.Read(Encoding.UTF8.GetBytes(written.ToJsonString()));
    }

    [Theory]
    [InlineData("")]
    [InlineData("{}")]
    [InlineData("{\"definition\":\"ke/employment-income\"}")]
    [InlineData("not json")]
    public void What_is_none_is_told(string content) => Assert.Throws<FormatException>(() => FrozenReturn.Read(Encoding.UTF8.GetBytes(content)));
}
