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
        Compiled("ke/employment-income"), Compiled("ph/individual-annual"), Compiled("ph/withholding-credits", "q1"),
    ];

    private static Definition Compiled(string id, string period = "")
    {
        var definition = Catalogue.Get(id, 2025, period);
        definition.Evaluator.Compile();
        return definition;
    }

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
            var answers = definition.Lines.Where(l => l.Kind == LineKind.Answer && l.Table is null).ToList();
            return entries.With(answers[random.Next(answers.Count)].Key, random.Next(2) == 0 ? "yes" : "no");
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
        (kind, seed) => HoldsThroughEdits(Kinds[kind], RandomEntries.Of(Kinds[kind], seed), new Random(seed)), iter: 60);

    /// <summary>Lists longer than a block: most blocks are shared, others are new, and rows compare across them.</summary>
    [Fact]
    public void Long_lists_come_to_what_a_fresh_reading_comes_to() => Gen.Select(Gen.Int[0, 2], Gen.Int[0, 1_000_000]).Sample(
        (kind, seed) => HoldsThroughEdits(Kinds[kind], RandomEntries.Of(Kinds[kind], seed, 3 * RowBlock.Size), new Random(seed)), iter: 10);

    private static bool HoldsThroughEdits(Definition definition, EntrySet entries, Random random)
    {
        var (before, today) = (definition.Evaluate(entries, Today), Today);
        for (var edit = 0; edit < 8; edit++)
        {
            var untouched = Everything(before);
            entries = Edited(definition, entries, random);
            today = random.Next(5) == 0 ? today.AddDays(400) : today;
            var after = definition.Evaluate(entries, today, before);
            if (Everything(after) != Everything(definition.Evaluate(entries, today)) || Everything(before) != untouched)
            {
                return false;
            }

            before = after;
        }

        return true;
    }

    [Fact]
    public void A_block_in_which_nothing_can_have_changed_is_the_same_block()
    {
        var definition = Kinds[2];
        var table = definition.FindTable("list.rows")!;
        var rows = Enumerable.Range(0, 3 * RowBlock.Size)
            .Select(n => new EntryRow($"r{n}") { Values = { ["payor"] = $"Payer {n}", ["code"] = "WI010", ["total"] = $"{n + 1}", ["withheld"] = "1" } }).ToList();
        var first = definition.Evaluate(new EntrySet { Rows = { [table.Key] = rows } }, Today);
        var changed = rows.ToList();
        changed[RowBlock.Size] = changed[RowBlock.Size] with { Values = new Dictionary<string, string>(changed[RowBlock.Size].Values) { ["total"] = "5000" } };
        var second = definition.Evaluate(first.Entries.WithRows(table.Key, changed), Today, first);
        Assert.Equal([true, false, true], SameBlocks(first, second));

        // The payee's number is compared with every payer's: when it changes, no row is as it was.
        var third = definition.Evaluate(second.Entries.With("payee.tin", "20100456100000"), Today, second);
        Assert.Equal([false, false, false], SameBlocks(second, third));

        IEnumerable<bool> SameBlocks(Evaluation one, Evaluation other) => one.Sheet.Rows(table).Blocks.Zip(other.Sheet.Rows(table).Blocks, ReferenceEquals);
    }

    [Fact]
    public void Rows_that_depend_on_each_other_are_never_shared()
    {
        var shared = Kinds.SelectMany(k => k.Tables).ToDictionary(t => t.Form.Definition.Id + " " + t.Key, t => Walks(t) is not null);
        Assert.True(shared["ph/withholding-credits list.rows"]);
        Assert.False(shared["ph/individual-annual deductions.losses"]);

        static RowDependence? Walks(RepeatingSection table) => RowDependence.Of(table, WalkOrder.Of(RuleOrder.Of(table.Form.Definition)));
    }

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
