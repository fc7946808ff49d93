using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>A return at one revision with its evaluation. Never changed; an edit makes the next one.</summary>
public sealed class Workspace
{
    private Workspace(
        ReturnRecord record,
        Definition definition,
        IReadOnlyDictionary<(string Line, string Row), EntryRecord> entries,
        IReadOnlyDictionary<string, IReadOnlyList<string>> rows,
        IReadOnlyList<AcceptanceRecord> acceptances,
        IReadOnlyList<string> practiceGaps,
        DateOnly today,
        TieState ties)
    {
        Record = record;
        Definition = definition;
        Entries = entries;
        Rows = rows;
        Acceptances = acceptances;
        PracticeGaps = practiceGaps;
        Today = today;
        EntrySet = BuildEntrySet();
        Evaluation = definition.Evaluate(EntrySet, today);
        Progress = Evaluation.Progress();
        Ties = ties;
        List<FindingView> findings =
        [
            .. practiceGaps.Select(gap => new FindingView("practice", Severity.Error, gap, [], null, null, definition.Forms[^1].Key, null)),
            .. Evaluation.Findings.Select(f => new FindingView(f.Id, f.Severity, f.Message, f.Lines, f.Table, f.Row, f.Form, AcceptanceOf(f.Id, f.Row, f.Message))),
            .. ties.Findings(this, (id, message) => AcceptanceOf(id, null, message)),
            .. CheaperChoices(),
        ];
        Findings = [.. findings.OrderByDescending(f => f.Severity)];
    }

    private Workspace(ReturnRecord record, Workspace evaluated)
    {
        Record = record;
        Definition = evaluated.Definition;
        Entries = evaluated.Entries;
        Rows = evaluated.Rows;
        Acceptances = evaluated.Acceptances;
        PracticeGaps = evaluated.PracticeGaps;
        Today = evaluated.Today;
        EntrySet = evaluated.EntrySet;
        Evaluation = evaluated.Evaluation;
        Progress = evaluated.Progress;
        Findings = evaluated.Findings;
        Ties = evaluated.Ties;
    }

    /// <summary>The return as stored.</summary>
    public ReturnRecord Record { get; }

    /// <summary>Its year and period: 2025, or 2025 Q1.</summary>
    public string InWords => Periods.InWords(Record.Year, Record.Period);

    /// <summary>Its definition.</summary>
    public Definition Definition { get; }

    /// <summary>Entries by line and row (empty for single lines); those of removed rows are kept.</summary>
    public IReadOnlyDictionary<(string Line, string Row), EntryRecord> Entries { get; }

    /// <summary>Order of rows by repeating section.</summary>
    public IReadOnlyDictionary<string, IReadOnlyList<string>> Rows { get; }

    /// <summary>Accepted warnings.</summary>
    public IReadOnlyList<AcceptanceRecord> Acceptances { get; }

    /// <summary>What the practice lacks so that this return cannot be filed, in words.</summary>
    public IReadOnlyList<string> PracticeGaps { get; }

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

    /// <summary>How far the forms are filled in.</summary>
    public IReadOnlyList<Core.Engine.FormProgress> Progress { get; }

    /// <summary>Errors left.</summary>
    public int Errors => Findings.Count(f => f.Severity == Severity.Error);

    /// <summary>Warnings neither corrected nor accepted.</summary>
    public int OpenWarnings => Findings.Count(f => f.Severity == Severity.Warning && f.Acceptance is null);

    /// <summary>Reads a return.</summary>
    public static Workspace Load(Unit unit, ReturnRecord record, Definition definition, DateOnly today, Func<ReturnRecord, Workspace> open) => new(
        record,
        definition,
        Storage.Returns.Entries(unit, record.Id).ToDictionary(e => (e.Line, e.Row)),
        Storage.Returns.Rows(unit, record.Id).GroupBy(r => r.Section).ToDictionary(g => g.Key, g => (IReadOnlyList<string>)[.. g.Select(r => r.Row)]),
        Storage.Acceptances.Of(unit, record.Id),
        PracticeParticulars.Credential(unit, Catalogue.CountryOf(record.Definition)) is null
            ? ["The practice has no credentials with the authority yet; keep them on the Practice page before this return is sent."]
            : [],
        today,
        TieState.Of(unit, record, definition, open));

    /// <summary>The same revision with the record as stored by now.</summary>
    public Workspace AsStored(ReturnRecord record) => new(record, this);

    /// <summary>The next revision with other entries and rows.</summary>
    public Workspace With(
        ReturnRecord record,
        IReadOnlyDictionary<(string Line, string Row), EntryRecord> entries,
        IReadOnlyDictionary<string, IReadOnlyList<string>> rows) => new(record, Definition, entries, rows, Acceptances, PracticeGaps, Today, Ties);

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

    /// <summary>Every line at every place, with what stands behind it.</summary>
    public IEnumerable<ValueView> Values() => Evaluation.Values().Select(v =>
    {
        var entry = Entries.GetValueOrDefault((v.Line, v.Row ?? ""));
        return new ValueView(v.Line, v.Row, v.Value, v.Open, v.Open ? null : entry?.Value, entry?.Value is null ? null : entry.Origin, entry?.Source, entry?.Expression);
    });

    /// <summary>The key figures.</summary>
    public IReadOnlyList<OutcomeView> Outcome() => [.. Evaluation.Outcome.Select(o => new OutcomeView(o.Figure.Line.Key, Figures.Canonical(o.Amount)))];

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>A note for every election of which another open choice costs less.</summary>
    private IEnumerable<FindingView> CheaperChoices() =>
        Alternatives.Of(Evaluation, Today).Where(e => e.Better is not null).Select(election =>
        {
            var (choice, less) = election.Better!.Value;
            var binds = election.Line.ElectionBinds is { } words ? $" ({words})" : "";
            return new FindingView(
                $"{election.Line.Key}:alternative",
                Severity.Note,
                $"{election.Line.Label}: '{choice.Label}' would cost {Figures.Money(less)} less{binds}. Alternatives show both side by side.",
                [election.Line.Key],
                null,
                null,
                election.Line.Form.Key,
                null);
        });

    private AcceptanceView? AcceptanceOf(string finding, string? row, string message) =>
        Acceptances.FirstOrDefault(a => a.Finding == finding && a.Row == (row ?? "") && a.Message == message) is { } found
            ? new AcceptanceView(found.Reason, found.PersonName, found.At)
            : null;

    private EntrySet BuildEntrySet()
    {
        var set = new EntrySet();
        foreach (var (section, ids) in Rows)
        {
            set.Rows[section] = [.. ids.Select(id => new EntryRow(id))];
        }

        var byRow = set.Rows.SelectMany(r => r.Value.Select(row => (Section: r.Key, Row: row))).ToDictionary(r => (r.Section, r.Row.Id), r => r.Row);
        foreach (var entry in Entries.Values)
        {
            if (entry.Value is null || Definition.FindLine(entry.Line) is not { } line)
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
