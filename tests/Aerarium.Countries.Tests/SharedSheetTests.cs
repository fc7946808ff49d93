using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>What a sheet shares with the one before it changes nothing: every value and finding is as if all had been read anew.</summary>
public class SharedSheetTests
{
    private static readonly DateOnly Today = new(2026, 6, 18);

    private static readonly Definition[] Kinds =
    [
        Catalogue.Get("ke/employment-income", 2025), Catalogue.Get("ph/individual-annual", 2025), Catalogue.Get("ph/withholding-credits", 2025, "q1"),
    ];

    private static string Everything(Evaluation evaluation) => string.Join('\n', [
        .. evaluation.Values().Select(v => $"{v.Line}|{v.Row}|{v.Value}|{v.Open}"),
        .. evaluation.Findings.Select(f => $"{f.Id}|{f.Row}|{f.Message}"),
        .. evaluation.Progress().Select(p => $"{p.Form}|{p.Open}|{p.Answered}|{p.Required}"),
    ]);

    /// <summary>Something else in one row, a row more, a row less, or another order; rows that stay are the same objects, as in an edit.</summary>
    private static EntrySet Edited(Definition definition, EntrySet entries, Random random)
    {
        var filled = definition.Tables.Where(t => entries.RowsOf(t.Key).Count > 0).ToList();
        if (filled.Count == 0 || random.Next(4) == 0)
        {
            return entries.With(definition.Lines.First(l => l.Kind == LineKind.Answer && l.Table is null).Key, random.Next(2) == 0 ? "yes" : "no");
        }

        var table = filled[random.Next(filled.Count)];
        var rows = entries.RowsOf(table.Key).ToList();
        var at = random.Next(rows.Count);
        switch (random.Next(4))
        {
            case 0:
                rows.RemoveAt(at);
                break;
            case 1:
                rows.Insert(at, new EntryRow($"new{random.Next(1000)}") { Values = new Dictionary<string, string>(rows[at].Values) });
                break;
            case 2:
                rows.Reverse();
                break;
            default:
                var line = table.Lines.FirstOrDefault(l => l.Kind == LineKind.Money && !l.IsComputed);
                if (line is not null)
                {
                    rows[at] = rows[at] with { Values = new Dictionary<string, string>(rows[at].Values) { [line.Name] = $"{random.Next(1, 900_000)}" } };
                }

                break;
        }

        return entries.WithRows(table.Key, rows);
    }

    [Fact]
    public void A_run_of_edits_comes_to_what_a_fresh_reading_comes_to() => Gen.Select(Gen.Int[0, 2], Gen.Int[0, 1_000_000]).Sample(
        (kind, seed) =>
        {
            var (definition, random) = (Kinds[kind], new Random(seed));
            var entries = RandomEntries.Of(definition, seed);
            var before = definition.Evaluate(entries, Today);
            for (var edit = 0; edit < 8; edit++)
            {
                var untouched = Everything(before);
                entries = Edited(definition, entries, random);
                var after = definition.Evaluate(entries, Today, before);
                if (Everything(after) != Everything(definition.Evaluate(entries, Today)) || Everything(before) != untouched)
                {
                    return false;
                }

                before = after;
            }

            return true;
        },
        iter: 60);

    [Fact]
    public void Rows_are_the_same_only_when_every_cell_is()
    {
        var definition = Kinds[2];
        EntrySet Of(string withheld) => new()
        {
            Rows = { ["list.rows"] = [new EntryRow("1") { Values = { ["payor"] = "A", ["code"] = "WI010", ["total"] = "100", ["withheld"] = withheld } }] },
        };
        var table = definition.FindTable("list.rows")!;
        var (first, same, other) = (definition.Evaluate(Of("5"), Today), definition.Evaluate(Of("5"), Today), definition.Evaluate(Of("6"), Today));
        Assert.True(first.Sheet.Rows(table).SameRow(0, same.Sheet.Rows(table), 0));
        Assert.False(first.Sheet.Rows(table).SameRow(0, other.Sheet.Rows(table), 0));
    }
}
