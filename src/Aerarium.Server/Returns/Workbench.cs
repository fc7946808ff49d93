using System.Collections.Immutable;
using System.Text.RegularExpressions;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;
using Microsoft.Extensions.Caching.Memory;

namespace Aerarium.Server.Returns;

/// <summary>
/// Opens returns and edits them: one edit is one transaction of entries, acts and the return's revision. Keeps the
/// evaluated returns used last in memory, by revision.
/// </summary>
public sealed partial class Workbench(PracticeDatabase database, TimeProvider clock, LiveReturns live) : IDisposable
{
    private const int MostRows = 20_000;

    private const int MostKept = 500;

    private readonly MemoryCache _kept = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>A return at its latest revision.</summary>
    /// <exception cref="PlainProblem">There is none.</exception>
    public Workspace Open(long id) => database.Read(unit => Open(unit, id));

    /// <summary>A return at its latest revision, read in a unit of work.</summary>
    /// <exception cref="PlainProblem">There is none.</exception>
    public Workspace Open(Unit unit, long id)
    {
        var record = Storage.Returns.Find(unit, id) ?? throw PlainProblem.NotFound("This return");
        if (KeptOf(record) is { } kept)
        {
            return kept;
        }

        var loaded = Loaded(unit, record);
        if (unit.Transaction is null)
        {
            Keep(loaded);
        }

        return loaded;
    }

    private Workspace Loaded(Unit unit, ReturnRecord record) => Workspace.Load(unit, record, PracticeDefinitions.Of(unit, record), clock.Today(), source => Source(unit, source));

    /// <summary>
    /// A return that another follows: its figures, which rest on its own entries, without what it follows itself. Spouses may follow each other, in different lines. One
    /// that nobody opened is kept as a source, so that the next edit need not read it again.
    /// </summary>
    private Workspace Source(Unit unit, ReturnRecord record)
    {
        if ((KeptOf(record) ?? KeptOf(record, asSource: true)) is { } kept)
        {
            return kept;
        }

        var loaded = Workspace.Load(unit, record, PracticeDefinitions.Of(unit, record), clock.Today(), open: null);
        if (unit.Transaction is null)
        {
            Keep(loaded, asSource: true);
        }

        return loaded;
    }

    private Workspace? KeptOf(ReturnRecord record, bool asSource = false) =>
        _kept.TryGetValue((record.Id, asSource), out Workspace? kept) && kept!.Record == record && kept.Today == clock.Today() ? kept : null;

    /// <summary>
    /// A return with what the returns it is tied to say now. When that changes its findings, lists show it and those who have it open are told.
    /// </summary>
    /// <exception cref="PlainProblem">There is none.</exception>
    public Workspace OpenTied(long id)
    {
        var (kept, tied) = database.Read(unit => Both(unit));
        if (Stage.CanChange(kept.Record.Stage) && (tied.Errors, tied.OpenWarnings) != (kept.Record.Errors, kept.Record.Warnings))
        {
            tied = database.Write(unit =>
            {
                var now = Both(unit).Tied;
                Storage.Returns.KeepSummary(unit, id, now.Summary, started: false);
                return now.AsStored(Storage.Returns.Find(unit, id)!);
            });
        }

        if (tied.FindingsStamp != kept.FindingsStamp)
        {
            _ = TellFindingsAsync(tied);
        }

        Keep(tied);
        return tied;

        (Workspace Kept, Workspace Tied) Both(Unit unit)
        {
            var workspace = Open(unit, id);
            return (workspace, workspace.Definition.TiedReturns.Count == 0 ? workspace : workspace.Tied(unit, source => Source(unit, source)));
        }
    }

    /// <summary>Tells everybody who has a return open its findings, when they changed without an edit.</summary>
    public Task TellFindingsAsync(Workspace workspace) =>
        live.TellAsync(workspace.Record.Id, "findings", [workspace.Record.Id, workspace.FindingsInView()]);

    /// <summary>Evaluates a return anew, as on a new day, and keeps what lists show.</summary>
    public Workspace Refresh(long id)
    {
        Forget(id);
        return database.Write(unit =>
        {
            var workspace = Open(unit, id);
            Storage.Returns.KeepSummary(unit, id, workspace.Summary, started: false);
            return workspace;
        });
    }

    /// <summary>Forgets every return kept in memory.</summary>
    public void ForgetAll() => _kept.Clear();

    /// <summary>Forgets a return kept in memory, after something beside its entries changed.</summary>
    public void Forget(long id)
    {
        _kept.Remove((id, false));
        _kept.Remove((id, true));
    }

    /// <inheritdoc />
    public void Dispose() => _kept.Dispose();

    /// <summary>Tells everybody who has a return open what changed, but the connection the change came from.</summary>
    public Task TellAsync(EditResult result, string? exceptConnection = null) =>
        result.Values.Count + result.Rows.Count == 0
            ? Task.CompletedTask
            : live.TellAsync(result.ReturnId, "changed", [result with { Refusals = [], Conflicts = [] }], exceptConnection);

    /// <summary>Makes changes. Those that cannot be read, or that somebody else was faster with, are told and not made; the others are kept.</summary>
    public EditResult Edit(long id, Caller caller, IReadOnlyList<EntryChange> changes, Origin origin, string? source) => EditTogether([(id, changes)], caller, origin, source)[0];

    /// <summary>Makes changes in several returns, in all of them or in none.</summary>
    public IReadOnlyList<EditResult> EditTogether(IReadOnlyList<(long Id, IReadOnlyList<EntryChange> Changes)> edits, Caller caller, Origin origin, string? source)
    {
        var made = database.Write(unit => edits.Select(asked =>
        {
            var edit = new PendingEdit(Open(unit, asked.Id), caller, origin, source, Moments.Text(clock.GetUtcNow()), by => People.Find(unit, by)!.Name, Loaded);
            if (!Stage.CanChange(edit.Before.Record.Stage))
            {
                throw PlainProblem.Conflict(edit.Before.Record.Stage == Stage.Sent
                    ? "This return has been sent and waits for the authority's answer; it cannot be changed until then."
                    : "This return was accepted and is kept as filed; open an amended return to change it.");
            }

            foreach (var change in asked.Changes)
            {
                edit.Apply(change);
            }

            return (Edit: edit, After: edit.Commit(unit));
        }).ToList());
        return
        [
            .. made.Select(m =>
            {
                Keep(m.After);
                if (m.After.Record.LawEdition != m.Edit.Before.Record.LawEdition)
                {
                    _ = live.TellStatusAsync(m.After.Record.Id);
                }

                return Compare(m.Edit.Before, m.After, caller, m.Edit.At, m.Edit.Entered, m.Edit.Refusals, m.Edit.Conflicts);
            }),
        ];
    }

    private void Keep(Workspace workspace, bool asSource = false) => _kept.Set((workspace.Record.Id, asSource), workspace, new MemoryCacheEntryOptions { Size = 1 });

    private static EditResult Compare(
        Workspace before, Workspace after, Caller caller, string at, IReadOnlySet<(string Line, string Row)> entered, IReadOnlyList<Refusal> refusals, IReadOnlyList<EditConflict> conflicts)
    {
        var rows = after.Rows.Where(r => !before.RowsOf(r.Key).SequenceEqual(r.Value)).Select(r => new RowsView(r.Key, r.Value));
        return new EditResult(
            after.Record.Id,
            after.Record.Revision,
            after.Record.Stage,
            caller.Name,
            at,
            [.. after.ChangesSince(before, entered)],
            [.. rows],
            FindingsChange.Between(before.Record.Revision, (before.Findings, before.FindingsStamp), (after.Findings, after.FindingsStamp)),
            after.Progress,
            ReturnEndpoints.OpenSections(after),
            after.Outcome(),
            after.Ties.Lines,
            refusals,
            conflicts);
    }

    [GeneratedRegex("^[a-z0-9-]{1,40}$")]
    private static partial Regex RowId { get; }

    private sealed class PendingEdit(
        Workspace before, Caller caller, Origin origin, string? source, string at, Func<long, string> nameOf, Func<Unit, ReturnRecord, Workspace> open)
    {
        private readonly ImmutableDictionary<(string Line, string Row), EntryRecord>.Builder _entries = before.Entries.ToBuilder();
        private readonly Dictionary<string, IReadOnlyList<string>> _rows = new(before.Rows);
        private readonly List<EntryRecord> _changed = [];
        private readonly Dictionary<string, List<string>> _orders = [];
        private readonly Dictionary<string, HashSet<string>> _present = [];
        private readonly List<ActRecord> _acts = [];
        private readonly long _revision = before.Record.Revision + 1;
        private int _imported;

        public Workspace Before { get; } = before;

        public string At { get; } = at;

        public List<Refusal> Refusals { get; } = [];

        public List<EditConflict> Conflicts { get; } = [];

        /// <summary>The places where entries changed.</summary>
        public IReadOnlySet<(string Line, string Row)> Entered => _changed.Select(e => (e.Line, e.Row)).ToHashSet();

        public void Apply(EntryChange change)
        {
            switch (change.Kind)
            {
                case ChangeKind.Set:
                    Set(change);
                    break;
                case ChangeKind.AddRow:
                    AddRow(change);
                    break;
                case ChangeKind.RemoveRow:
                    RemoveRow(change);
                    break;
                default:
                    MoveRow(change);
                    break;
            }
        }

        public Workspace Commit(Unit unit)
        {
            if (_acts.Count == 0)
            {
                return Before;
            }

            var id = Before.Record.Id;
            foreach (var section in _orders.Keys)
            {
                Storage.Returns.PutRows(unit, id, section, Before.RowsOf(section), _rows[section]);
            }

            foreach (var entry in _changed)
            {
                Storage.Returns.Put(unit, id, entry);
            }

            var stage = Before.Record.Stage;
            if (stage is Stage.Waiting or Stage.Approved)
            {
                stage = Stage.Open;
                var approval = Approvals.Latest(unit, id)!;
                Approvals.Change(unit, approval with { State = "withdrawn", Remark = $"Withdrawn by a change of {caller.Name}." });
                Storage.Returns.SetStage(unit, id, stage);
                _acts.Add(caller.Act("approval-withdrawn", DateTimeOffset.Parse(At, System.Globalization.CultureInfo.InvariantCulture)) with { Before = Before.Record.Stage, After = stage });
            }

            _acts[^1] = _acts[^1] with { Seal = Sealed(unit, id) };
            foreach (var act in _acts)
            {
                Acts.Add(unit, act with { ReturnId = id, ClientId = Before.Record.ClientId });
            }

            var typed = origin is not (Origin.Client or Origin.Practice or Origin.Attached);
            var drafted = Before.With(Before.Record with { Revision = _revision, Stage = stage }, _entries.ToImmutable(), _rows, _changed);
            Storage.Returns.KeepSummary(unit, id, drafted.Summary, typed);
            var stored = Storage.Returns.Find(unit, id)!;
            if (stored.LawEdition == Before.Record.LawEdition)
            {
                return drafted.AsStored(stored);
            }

            // It was approved under an earlier edition of the law and follows the latest, now that it is open again.
            var followed = open(unit, stored);
            Storage.Returns.KeepSummary(unit, id, followed.Summary, typed);
            return followed.AsStored(Storage.Returns.Find(unit, id)!);
        }

        /// <summary>The seal over what is entered now: that of the edit before, moved by what changed.</summary>
        private string Sealed(Unit unit, long id)
        {
            if (EntrySeal.Latest(unit, id) is not { } seal)
            {
                return EntrySeal.OfStored(unit, id).ToString();
            }

            foreach (var section in _orders.Keys)
            {
                seal.Remove(section, Before.RowsOf(section));
                seal.Add(section, _rows[section]);
            }

            foreach (var place in _changed.Select(e => (e.Line, e.Row)).Distinct())
            {
                if (Before.Entries.GetValueOrDefault(place) is { } was)
                {
                    seal.Remove(was);
                }

                seal.Add(_entries[place]);
            }

            return seal.ToString();
        }

        private void Set(EntryChange change)
        {
            var line = Before.Definition.FindLine(change.Line ?? "")
                ?? throw PlainProblem.Refused($"'{change.Line}' is not a line of this return.", change.Line);
            if (line.IsComputed)
            {
                throw PlainProblem.Refused($"{line.Label} is computed and cannot be typed.", line.Key);
            }

            if (line.CountsAttachments && origin != Origin.Attached)
            {
                throw PlainProblem.Refused($"{line.Label} are counted from the documents attached to the return; attach or remove a document.", line.Key);
            }

            var row = line.Table is null ? "" : change.Row ?? "";
            if (line.Table is not null && !IsPresent(line.Table.Key, row))
            {
                throw PlainProblem.Refused($"{line.Label}: the row was removed meanwhile; bring it back first.", line.Key);
            }

            // What other returns, statements and the authority say is written as programs write it.
            var reading = EntryReader.Read(line, change.Value, canonical: origin is not (Origin.Typed or Origin.Imported));
            if (reading.Problem is null && line.Kind == LineKind.Row && reading.Value is { } target && !IsPresent(line.Target!.Key, target))
            {
                reading = new Reading(null, $"{line.Label}: this {line.Target.RowLabel} is not on the return.");
            }

            if (reading.Problem is not null)
            {
                Refusals.Add(new Refusal(line.Key, change.Row, change.Value, reading.Problem));
                return;
            }

            var was = _entries.GetValueOrDefault((line.Key, row));
            if (was?.Value == reading.Value && (was is not null || reading.Value is null) && was?.Expression == reading.Expression)
            {
                return;
            }

            if (line.CorrectedWith is { } reporter && origin == Origin.Typed && was is { Value: not null } && was.Origin == Text(Origin.Authority))
            {
                Refusals.Add(new Refusal(line.Key, change.Row, change.Value,
                    $"{line.Label} was reported to the authority by {reporter}. Ask {reporter} to correct its report, then take it again; or remove the row."));
                return;
            }

            if (was is not null && was.Revision > change.Seen && was.ChangedBy != caller.Id && origin == Origin.Typed)
            {
                Conflicts.Add(new EditConflict(line.Key, change.Row, reading.Value, was.Value, nameOf(was.ChangedBy), was.ChangedAt));
                return;
            }

            var kind = Text(origin);
            var entry = new EntryRecord(line.Key, row, reading.Value, kind, source, reading.Expression, _revision, caller.Id, At);
            _entries[(line.Key, row)] = entry;
            _changed.Add(entry);
            Note("entry", line.Key, row, was?.Value, reading.Value, kind);
        }

        private void AddRow(EntryChange change)
        {
            var section = SectionOf(change);
            if (!Present(section).Add(change.Row!))
            {
                return;
            }

            var rows = Order(section);
            if (rows.Count >= MostRows)
            {
                throw PlainProblem.Refused($"This section holds at most {MostRows} rows.", section);
            }

            rows.Insert(Math.Clamp(change.Position ?? rows.Count, 0, rows.Count), change.Row!);
            Note("add-row", section, change.Row!, null, "added", null);
        }

        private void RemoveRow(EntryChange change)
        {
            var section = SectionOf(change);
            foreach (var (within, row) in RowsWithin(section, change.Row!))
            {
                RemoveRow(change with { Section = within, Row = row });
            }

            if (Present(section).Remove(change.Row!))
            {
                Order(section).Remove(change.Row!);
                Note("remove-row", section, change.Row!, "present", null, null);
            }
        }

        /// <summary>The rows within a page, which go with it.</summary>
        private List<(string Section, string Row)> RowsWithin(string pages, string page) =>
        [
            .. Before.Definition.FindTable(pages)!.Parts.Select(p => p.Rows).OfType<RepeatingSection>().SelectMany(within =>
                RowsOf(within.Key).Where(row => _entries.GetValueOrDefault((within.OfPage!.Line.Key, row))?.Value == page).Select(row => (within.Key, row))),
        ];

        private void MoveRow(EntryChange change)
        {
            var section = SectionOf(change);
            var from = RowsOf(section).ToList().IndexOf(change.Row!);
            var to = Math.Clamp(change.Position ?? RowsOf(section).Count, 0, Math.Max(0, RowsOf(section).Count - 1));
            if (from >= 0 && from != to)
            {
                var rows = Order(section);
                rows.RemoveAt(from);
                rows.Insert(to, change.Row!);
                Note("move-row", section, change.Row!, $"{from + 1}", $"{to + 1}", null);
            }
        }

        private string SectionOf(EntryChange change)
        {
            var table = Before.Definition.FindTable(change.Section ?? "")
                ?? throw PlainProblem.Refused($"'{change.Section}' is not a repeating section of this return.");
            return change.Row is not null && RowId.IsMatch(change.Row)
                ? table.Key
                : throw PlainProblem.Refused("A row needs an id of small letters, digits and dashes, at most 40.", table.Key);
        }

        /// <summary>The order of a section's rows, to be changed.</summary>
        private List<string> Order(string section)
        {
            if (_orders.TryGetValue(section, out var order))
            {
                return order;
            }

            _orders[section] = order = [.. RowsOf(section)];
            _rows[section] = order;
            return order;
        }

        private bool IsPresent(string section, string row) =>
            _present.TryGetValue(section, out var rows) ? rows.Contains(row) : Before.PlacesOf(section).ContainsKey(row);

        /// <summary>The rows of a section, to be changed.</summary>
        private HashSet<string> Present(string section)
        {
            if (!_present.TryGetValue(section, out var rows))
            {
                _present[section] = rows = [.. RowsOf(section)];
            }

            return rows;
        }

        private void Note(string kind, string line, string row, string? was, string? now, string? originText)
        {
            if (origin == Origin.Imported)
            {
                // A file of thousands of rows is one act; every entry keeps the file as its source.
                _acts.Clear();
                _acts.Add(caller.Act("import", DateTimeOffset.Parse(At, System.Globalization.CultureInfo.InvariantCulture)) with
                {
                    Line = line.Contains('.', StringComparison.Ordinal) ? line[..line.LastIndexOf('.')] : line,
                    After = string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{source}: {++_imported} changes"),
                    Origin = "imported",
                });
                return;
            }

            _acts.Add(new ActRecord
            {
                At = At,
                PersonId = caller.Id,
                PersonName = caller.Name,
                Kind = kind,
                Line = line,
                Row = row.Length == 0 ? null : row,
                Before = was,
                After = now,
                Origin = originText,
            });
        }

        private IReadOnlyList<string> RowsOf(string section) => _rows.TryGetValue(section, out var rows) ? rows : [];

        private static string Text(Origin origin) => origin switch
        {
            Origin.LastYear => "last-year",
            _ => origin.ToString().ToLowerInvariant(),
        };
    }
}
