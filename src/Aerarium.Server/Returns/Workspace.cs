using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Practice;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>A return at one revision with its evaluation. Never changed; an edit makes the next one.</summary>
public sealed class Workspace
{
    private readonly ConcurrentDictionary<string, IReadOnlyDictionary<string, int>> _places;
    private readonly IReadOnlyList<FindingView> _own;

    private Workspace(
        ReturnRecord record,
        Definition definition,
        ImmutableDictionary<(string Line, string Row), EntryRecord> entries,
        IReadOnlyDictionary<string, IReadOnlyList<string>> rows,
        IReadOnlyList<AcceptanceRecord> acceptances,
        IReadOnlyList<OutsideFinding> outside,
        DateOnly today,
        TieState ties,
        (EntrySet Entries, Workspace Before)? next = null)
    {
        Record = record;
        Definition = definition;
        Entries = entries;
        Rows = rows;
        Acceptances = acceptances;
        Outside = outside;
        Today = today;
        _places = new(next?.Before._places.Where(p => ReferenceEquals(RowsOf(p.Key), next.Value.Before.RowsOf(p.Key))) ?? []);
        EntrySet = next?.Entries ?? EntrySetOf(definition, rows, entries.Values.Select(e => (e.Line, e.Row, e.Value)));
        Evaluation = definition.Evaluate(EntrySet, today, next?.Before.Evaluation);
        Progress = Evaluation.Progress();
        Ties = ties;
        _own =
        [
            .. outside.Select(f => new FindingView(
                f.Id, f.Severity, f.Message, f.Line is null ? [] : [f.Line.Key], null, null, f.Line?.Form.Key ?? definition.Forms[^1].Key, AcceptanceOf(f.Id, null, f.Message))),
            .. Evaluation.Findings.Select(f => new FindingView(f.Id, f.Severity, f.Message, f.Lines, f.Table, f.Row, f.Form, AcceptanceOf(f.Id, f.Row, f.Message))),
            .. CheaperChoices(),
        ];
        Findings = AllFindings();
        FindingsStamp = FindingsChange.StampOf(Findings);
    }

    private Workspace(ReturnRecord record, Workspace evaluated, TieState ties)
    {
        _places = evaluated._places;
        Record = record;
        Definition = evaluated.Definition;
        Entries = evaluated.Entries;
        Rows = evaluated.Rows;
        Acceptances = evaluated.Acceptances;
        Outside = evaluated.Outside;
        Today = evaluated.Today;
        EntrySet = evaluated.EntrySet;
        Evaluation = evaluated.Evaluation;
        Progress = evaluated.Progress;
        Ties = ties;
        _own = evaluated._own;
        var same = ReferenceEquals(ties, evaluated.Ties);
        Findings = same ? evaluated.Findings : AllFindings();
        FindingsStamp = same ? evaluated.FindingsStamp : FindingsChange.StampOf(Findings);
    }

    /// <summary>The return as stored.</summary>
    public ReturnRecord Record { get; }

    /// <summary>Its year and period: 2025, or 2025 Q1.</summary>
    public string InWords => Periods.InWords(Record.Year, Record.Period);

    /// <summary>Its definition.</summary>
    public Definition Definition { get; }

    /// <summary>Entries by line and row (empty for single lines); those of removed rows are kept.</summary>
    public ImmutableDictionary<(string Line, string Row), EntryRecord> Entries { get; }

    /// <summary>Order of rows by repeating section.</summary>
    public IReadOnlyDictionary<string, IReadOnlyList<string>> Rows { get; }

    /// <summary>Accepted warnings.</summary>
    public IReadOnlyList<AcceptanceRecord> Acceptances { get; }

    /// <summary>What stands against filing that is no matter of the entries: what the practice lacks, what the authority has registered otherwise.</summary>
    public IReadOnlyList<OutsideFinding> Outside { get; }

    /// <summary>What the returns say that this one is tied to.</summary>
    internal TieState Ties { get; }

    /// <summary>Day of evaluation.</summary>
    public DateOnly Today { get; }

    /// <summary>What was given, as the engine takes it.</summary>
    public EntrySet EntrySet { get; }

    /// <summary>What came of it.</summary>
    public Evaluation Evaluation { get; }

    /// <summary>Findings with their acceptance; an acceptance holds only as long as the message it was given for.</summary>
    public IReadOnlyList<FindingView> Findings { get; }

    /// <summary>What these findings are told by from others.</summary>
    public int FindingsStamp { get; }

    /// <summary>The findings as a page takes them.</summary>
    public FindingsView FindingsInView() => new(Record.Revision, Findings, FindingsStamp, Ties.Lines);

    /// <summary>How far the forms are filled in.</summary>
    public IReadOnlyList<Core.Engine.FormProgress> Progress { get; }

    /// <summary>Errors left.</summary>
    public int Errors => Findings.Count(f => f.Severity == Severity.Error);

    /// <summary>Warnings neither corrected nor accepted.</summary>
    public int OpenWarnings => Findings.Count(f => f.Severity == Severity.Warning && f.Acceptance is null);

    /// <summary>Reads a return; <paramref name="open"/> opens one that it follows, and is null for a return that is itself only read as a source: its figures rest on its entries.</summary>
    public static Workspace Load(Unit unit, ReturnRecord record, Definition definition, DateOnly today, Func<ReturnRecord, Workspace>? open) => new(
        record,
        definition,
        Storage.Returns.Entries(unit, record.Id).ToImmutableDictionary(e => (e.Line, e.Row)),
        Storage.Returns.Rows(unit, record.Id).GroupBy(r => r.Section).ToDictionary(g => g.Key, g => (IReadOnlyList<string>)[.. g.Select(r => r.Row)]),
        Storage.Acceptances.Of(unit, record.Id),
        OutsideFinding.Of(unit, record, definition, today),
        today,
        open is null ? TieState.None : TieState.Of(unit, record, definition, open));

    /// <summary>The same revision with the record as stored by now.</summary>
    public Workspace AsStored(ReturnRecord record) => new(record, this, Ties);

    /// <summary>The same revision with what the returns it is tied to say now; <paramref name="open"/> opens one of them.</summary>
    public Workspace Tied(Unit unit, Func<ReturnRecord, Workspace> open) => new(Record, this, TieState.Of(unit, Record, Definition, open));

    /// <summary>The next revision with other entries and rows; what did not change is shared with this one.</summary>
    public Workspace With(
        ReturnRecord record,
        ImmutableDictionary<(string Line, string Row), EntryRecord> entries,
        IReadOnlyDictionary<string, IReadOnlyList<string>> rows,
        IReadOnlyList<EntryRecord> changed) =>
        new(record, Definition, entries, rows, Acceptances, Outside, Today, Ties, (NextEntrySet(entries, rows, changed), this));

    /// <summary>What lists show of this evaluation.</summary>
    public ReturnSummary Summary => new(
        Record.Revision,
        Figures.Canonical(Evaluation.Balance),
        Errors,
        OpenWarnings,
        Text(Evaluation.Deadlines.First(d => d.Act == "filing").Day),
        Figures.Canonical(Evaluation.RunningCharges),
        Text(Today));

    /// <summary>Rows of a repeating section.</summary>
    public IReadOnlyList<string> RowsOf(string section) => Rows.TryGetValue(section, out var rows) ? rows : [];

    /// <summary>Where each row of a repeating section stands, from zero.</summary>
    public IReadOnlyDictionary<string, int> PlacesOf(string section) =>
        _places.GetOrAdd(section, key => RowsOf(key).Index().ToDictionary(r => r.Item, r => r.Index));

    /// <summary>Every line at every place, with what stands behind it.</summary>
    public IEnumerable<ValueView> Values() => Definition.Lines.SelectMany(line => line.Table is null
        ? [View(line, null, 0)]
        : RowsOf(line.Table.Key).Select((row, index) => View(line, row, index)));

    private ValueView View(Line line, string? row, int index)
    {
        var entry = Entries.GetValueOrDefault((line.Key, row ?? ""));
        var open = Evaluation.IsOpen(line, index);
        return new ValueView(
            line.Key, row, Evaluation.Value(line, index), open, open ? null : entry?.Value, entry?.Value is null ? null : entry.Origin, entry?.Source, entry?.Expression);
    }

    /// <summary>The key figures.</summary>
    public IReadOnlyList<OutcomeView> Outcome() => [.. Evaluation.Outcome.Select(o => new OutcomeView(o.Figure.Line.Key, Figures.Canonical(o.Amount)))];

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>A note for every election of which another open choice costs less.</summary>
    private IEnumerable<FindingView> CheaperChoices() =>
        Alternatives.Of(Evaluation, Today).Where(e => e.Better is not null && Ties.Bound(e.Line) is null).Select(election =>
        {
            var (choice, less) = election.Better!.Value;
            var counted = election.OthersMove ? $", {string.Join(" and ", Definition.OtherTaxes.Select(t => char.ToLowerInvariant(t.Label[0]) + t.Label[1..]))} counted" : "";
            var binds = election.Line.ElectionBinds is { } words ? $" ({words})" : "";
            return new FindingView(
                $"{election.Line.Key}:alternative",
                Severity.Note,
                $"{election.Line.Label}: '{choice.Label}' would cost {Figures.Money(less)} less{counted}{binds}. Alternatives show both side by side.",
                [election.Line.Key],
                null,
                null,
                election.Line.Form.Key,
                null);
        });

    private IReadOnlyList<FindingView> AllFindings() =>
        [.. _own.Concat(Ties.Findings(this, (id, message) => AcceptanceOf(id, null, message))).OrderByDescending(f => f.Severity)];

    private AcceptanceView? AcceptanceOf(string finding, string? row, string message) =>
        Acceptances.FirstOrDefault(a => a.Finding == finding && a.Row == (row ?? "") && a.Message == message) is { } found
            ? new AcceptanceView(found.Reason, found.PersonName, found.At)
            : null;

    private EntrySet NextEntrySet(
        IReadOnlyDictionary<(string Line, string Row), EntryRecord> entries,
        IReadOnlyDictionary<string, IReadOnlyList<string>> rows,
        IReadOnlyList<EntryRecord> changed)
    {
        var next = new EntrySet { Values = new Dictionary<string, string>(EntrySet.Values), Rows = new Dictionary<string, List<EntryRow>>(EntrySet.Rows) };
        var touched = new HashSet<(string Section, string Row)>();
        foreach (var entry in changed)
        {
            if (Definition.FindLine(entry.Line) is not { } line)
            {
                continue;
            }

            if (line.Table is { } table)
            {
                touched.Add((table.Key, entry.Row));
            }
            else if (entry.Value is null)
            {
                next.Values.Remove(line.Key);
            }
            else
            {
                next.Values[line.Key] = entry.Value;
            }
        }

        foreach (var (section, ids) in rows)
        {
            var table = Definition.FindTable(section);
            var ofSection = touched.Where(t => t.Section == section).Select(t => t.Row).ToHashSet();
            if (table is null || (ofSection.Count == 0 && (ReferenceEquals(RowsOf(section), ids) || RowsOf(section).SequenceEqual(ids))))
            {
                continue;
            }

            if (ReferenceEquals(RowsOf(section), ids))
            {
                List<EntryRow> same = [.. EntrySet.RowsOf(section)];
                foreach (var row in ofSection.Where(PlacesOf(section).ContainsKey))
                {
                    same[PlacesOf(section)[row]] = Row(table, row);
                }

                next.Rows[section] = same;
                continue;
            }

            var present = EntrySet.RowsOf(section).ToDictionary(r => r.Id);
            next.Rows[section] = [.. ids.Select(id => !ofSection.Contains(id) && present.TryGetValue(id, out var kept) ? kept : Row(table, id))];
        }

        return next;

        EntryRow Row(RepeatingSection table, string id)
        {
            var row = new EntryRow(id);
            foreach (var line in table.Lines)
            {
                if (entries.TryGetValue((line.Key, id), out var entry) && entry.Value is not null)
                {
                    row.Values[line.Name] = entry.Value;
                }
            }

            return row;
        }
    }

    /// <summary>The values that are different from those of an earlier revision, found by comparing the sheets cell by cell.</summary>
    public IEnumerable<ValueView> ChangesSince(Workspace before, IReadOnlySet<(string Line, string Row)> entered)
    {
        var (was, now) = (before.Evaluation.Sheet, Evaluation.Sheet);
        foreach (var line in Definition.Lines.Where(l => l.Table is null))
        {
            var at = line.Slot;
            if (was.Filled[at] != now.Filled[at] || was.Amounts[at] != now.Amounts[at] || was.Codes[at] != now.Codes[at] || was.Open[at] != now.Open[at]
                || was.Texts[at] != now.Texts[at] || entered.Contains((line.Key, "")))
            {
                yield return View(line, null, 0);
            }
        }

        foreach (var table in Definition.Tables)
        {
            var (left, right) = (was.Rows(table), now.Rows(table));
            var ids = RowsOf(table.Key);
            var same = ReferenceEquals(before.RowsOf(table.Key), ids) || before.RowsOf(table.Key).SequenceEqual(ids);
            var places = same ? null : before.PlacesOf(table.Key);
            var decided = before.Evaluation.IsOpen(table) != Evaluation.IsOpen(table);
            var touched = entered.Where(e => PlacesOf(table.Key).ContainsKey(e.Row)).Select(e => PlacesOf(table.Key)[e.Row]).ToHashSet();
            for (var row = 0; row < ids.Count; row++)
            {
                var earlier = places is null ? row : places.GetValueOrDefault(ids[row], -1);
                var typed = touched.Contains(row);
                if (earlier >= 0 && !decided && !typed && left.SameRow(earlier, right, row))
                {
                    continue;
                }

                foreach (var line in table.Lines)
                {
                    if (earlier < 0 || decided || !left.SameCell(earlier, right, row, line.Slot) || (typed && entered.Contains((line.Key, ids[row]))))
                    {
                        yield return View(line, ids[row], row);
                    }
                }
            }
        }
    }

    /// <summary>What was given, as the engine takes it; what stands on no line of the definition, or in a row that was removed, is left out.</summary>
    internal static EntrySet EntrySetOf(Definition definition, IReadOnlyDictionary<string, IReadOnlyList<string>> rows, IEnumerable<(string Line, string Row, string? Value)> entries)
    {
        var set = new EntrySet();
        foreach (var (section, ids) in rows)
        {
            set.Rows[section] = [.. ids.Select(id => new EntryRow(id))];
        }

        var byRow = set.Rows.SelectMany(r => r.Value.Select(row => (Section: r.Key, Row: row))).ToDictionary(r => (r.Section, r.Row.Id), r => r.Row);
        foreach (var entry in entries)
        {
            if (entry.Value is null || definition.FindLine(entry.Line) is not { } line)
            {
                continue;
            }

            if (line.Table is null)
            {
                set.Values[line.Key] = entry.Value;
            }
            else if (byRow.TryGetValue((line.Table.Key, entry.Row), out var row))
            {
                row.Values[line.Name] = entry.Value;
            }
        }

        return set;
    }
}
