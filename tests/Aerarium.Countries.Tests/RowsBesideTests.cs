using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>Rows of two years beside each other: the same payer is the same row, wherever it stands.</summary>
public class RowsBesideTests
{
    private static readonly Core.Definitions.Definition Before = Catalogue.Get("ph/withholding-credits", 2024, "q1"), Now = Catalogue.Get("ph/withholding-credits", 2025, "q1");

    private static EntryRow Row(string id, string? number, string? payer, string code = "WI010") => new(id)
    {
        Values = new Dictionary<string, string>(new[] { ("payor-tin", number), ("payor", payer), ("code", code) }.Where(v => v.Item2 is not null).Select(v => KeyValuePair.Create(v.Item1, v.Item2!))),
    };

    private static IEnumerable<(string? Now, string? Before)> Beside(EntryRow[] now, EntryRow[] before)
    {
        Evaluation Of(Core.Definitions.Definition definition, EntryRow[] rows) => definition.Evaluate(new EntrySet { Rows = { ["list.rows"] = [.. rows] } }, new DateOnly(2026, 6, 18));
        return RowsBeside.Of(Now.FindTable("list.rows")!, Of(Now, now), Of(Before, before))
            .Select(r => (r.Now is { } at ? now[at].Id : null, r.Before is { } place ? before[place].Id : null));
    }

    [Fact]
    public void A_payer_is_known_by_the_number_then_by_the_name() => Assert.Equal(
        [("n1", "b2"), ("n2", "b1"), ("n3", null), (null, "b3")],
        Beside(
            [Row("n1", "11111111100000", "Bakery, renamed"), Row("n2", null, "Tannery"), Row("n3", "33333333300000", "Quarry")],
            [Row("b1", null, "Tannery"), Row("b2", "11111111100000", "Bakery"), Row("b3", "22222222200000", "Ferry")]));

    [Fact]
    public void Of_two_certificates_of_one_payer_those_of_one_code_belong_together() => Assert.Equal(
        [("n1", "b2"), ("n2", "b1")],
        Beside(
            [Row("n1", "11111111100000", "Bakery", "WI100"), Row("n2", "11111111100000", "Bakery", "WI010")],
            [Row("b1", "11111111100000", "Bakery", "WI010"), Row("b2", "11111111100000", "Bakery", "WI100")]));

    [Fact]
    public void A_row_that_names_nothing_goes_on_from_the_one_it_was_taken_over_from() => Assert.Equal(
        [("same", "same"), ("new", null), (null, "gone")],
        Beside([Row("same", null, null), Row("new", null, null)], [Row("gone", null, null), Row("same", null, null)]));

    [Fact]
    public void Every_row_of_either_year_stands_there_once() => Gen.Select(Gen.Int[0, 4].Array[0, 9], Gen.Int[0, 4].Array[0, 9]).Sample((now, before) =>
    {
        EntryRow[] Rows(int[] payers, string prefix) => [.. payers.Select((payer, at) => Row($"{prefix}{at}", payer == 0 ? null : $"{payer}1111111100000", payer == 0 ? null : $"Payer {payer}"))];
        var (rows, past) = (Rows(now, "n"), Rows(before, "b"));
        var beside = Beside(rows, past).ToList();
        string? NumberOf(EntryRow[] of, string? id) => of.FirstOrDefault(r => r.Id == id)?.Values.GetValueOrDefault("payor-tin");
        return beside.Select(b => b.Now).OfType<string>().SequenceEqual(rows.Select(r => r.Id))
            && beside.Select(b => b.Before).OfType<string>().Order().SequenceEqual(past.Select(r => r.Id).Order())
            && beside.All(b => b.Now is null || b.Before is null || NumberOf(rows, b.Now) == NumberOf(past, b.Before));
    });
}
