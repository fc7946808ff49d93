using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>A line of another return that feeds a line of this one.</summary>
/// <param name="ReturnId">The other return.</param>
/// <param name="Title">What it is: title, year and period.</param>
/// <param name="Line">Its line.</param>
/// <param name="Label">Label of that line.</param>
/// <param name="Value">What stands there now.</param>
/// <param name="Stage">How far that return has come, in words.</param>
/// <param name="Paid">What has been recorded as paid towards it, where the amount counts once it is paid; otherwise null.</param>
/// <param name="Safe">How much of the value counts already; null for what is no credit.</param>
/// <param name="IsFiled">Whether that return was sent or accepted.</param>
public sealed record TieSourceView(long ReturnId, string Title, string Line, string Label, string? Value, string Stage, string? Paid, string? Safe, bool IsFiled);

/// <summary>What other returns say for a line of this one.</summary>
/// <param name="Line">The line.</param>
/// <param name="Value">The sum of the sources, or the first of them for what is no amount; null when none is there.</param>
/// <param name="Sources">The sources that are there.</param>
/// <param name="Missing">The returns that are not there, in words.</param>
/// <param name="Safe">How much of the value counts already, being accepted or paid; null for what is no credit.</param>
public sealed record TieView(string Line, string? Value, IReadOnlyList<TieSourceView> Sources, IReadOnlyList<string> Missing, string? Safe)
{
    /// <summary>What the value was taken from, in words.</summary>
    internal string Words => string.Join(", ", Sources.Select(s => s.Title).Distinct());
}

/// <summary>Rows that another return gives to a repeating section of this one.</summary>
internal sealed record TiedRows(RepeatingSection Section, string Title, IReadOnlyList<EntryRow> Rows);

/// <summary>What other returns say for one return, as they stand now.</summary>
internal sealed record TieState(IReadOnlyList<TieView> Lines, IReadOnlyList<TiedRows> Rows)
{
    /// <summary>Of a return without ties.</summary>
    public static readonly TieState None = new([], []);

    /// <summary>Reads it; <paramref name="open"/> opens another return in the same unit of work.</summary>
    public static TieState Of(Unit unit, ReturnRecord record, Definition definition, Func<ReturnRecord, Workspace> open)
    {
        var found = new Dictionary<TiedReturn, List<Source>>();
        if (definition.TiedReturns.Count == 0)
        {
            return None;
        }

        var paid = definition.Lines.Where(l => l.Counts is CreditCounts.WhenPaid).SelectMany(l => l.Ties).Select(t => t.Return).ToHashSet();
        foreach (var tied in definition.TiedReturns)
        {
            found[tied] =
            [
                .. Relatives.Of(unit, record.ClientId, tied.Relation)
                    .Select(client => tied.Latest
                        ? EarlierReturn.Latest(unit, client, tied.Definition, record.Year - tied.YearsBack)
                        : Storage.Returns.FindOf(unit, client, tied.Definition, record.Year - tied.YearsBack, tied.Period)).OfType<ReturnRecord>()
                    .Select(source => new Source(source, open(source), paid.Contains(tied) ? Paying.PaymentDesk.PaidTowards(unit, source) : 0)),
            ];
        }

        var identifier = Storage.Clients.Find(unit, record.ClientId)!.Identifier;
        return new TieState(
            [.. definition.Lines.Where(l => l.Ties.Count > 0).Select(line => View(line, record, identifier, found))],
            [
                .. definition.Tables.Where(t => t.RowTie is not null && found[t.RowTie.Return].Count > 0).Select(table =>
                {
                    var sources = found[table.RowTie!.Return].ConvertAll(s => s.There);
                    return new TiedRows(table, string.Join(", ", sources.Select(Title).Distinct()), [.. sources.SelectMany(source => RowsOf(table, source))]);
                }),
            ]);
    }

    /// <summary>Why an elective line is no longer open, in words: it follows a return that was filed, whose choice holds. Null while it is open.</summary>
    public string? Bound(Line line) =>
        line.IsElective && Lines.FirstOrDefault(t => t.Line == line.Key)?.Sources.FirstOrDefault(s => s.Value is not null && s.IsFiled) is { } filed
            ? $"Chosen in {filed.Title}, {filed.Stage}: {Shown(line, filed.Value)} holds."
            : null;

    /// <summary>What is wrong between this return's entries and the returns they are tied to.</summary>
    public IEnumerable<FindingView> Findings(Workspace workspace, Func<string, string, AcceptanceView?> acceptance)
    {
        foreach (var tie in Lines)
        {
            var line = workspace.Definition.LineOf(tie.Line);
            if (!workspace.Evaluation.IsOpen(line))
            {
                continue;
            }

            var here = workspace.Evaluation.Value(line);
            if (Unsafe(line, tie, here) is { } message)
            {
                var id = $"{line.Key}:counts";
                yield return new FindingView(id, Severity.Warning, message, [line.Key], null, null, line.Form.Key, acceptance(id, message));
            }

            if (Message(line, tie, here) is { } found)
            {
                var id = $"{line.Key}:tie";
                yield return new FindingView(id, found.Severity, found.Message, [line.Key], null, null, line.Form.Key, acceptance(id, found.Message));
            }
        }
    }

    /// <summary>Another return as it stands: its record of this moment, what it computes, and what was paid towards it where that counts.</summary>
    private sealed record Source(ReturnRecord Record, Workspace There, decimal Paid);

    /// <summary>What is claimed beyond what counts already, in words; null when all of it counts.</summary>
    private static string? Unsafe(Line line, TieView tie, string? here)
    {
        if (tie.Safe is null || Number(here) <= Number(tie.Safe))
        {
            return null;
        }

        var open = tie.Sources.Where(s => Number(s.Safe) < Number(s.Value)).ToList();
        var standing = string.Join("; ", open.Select(s => line.Counts is CreditCounts.WhenPaid
            ? $"{s.Title}, {Shown(line, s.Value)} due, {Shown(line, s.Paid)} recorded as paid"
            : $"{s.Title}, {Shown(line, s.Value)}, {s.Stage}"));
        return $"{line.Label}: {Shown(line, here)} is claimed, of which {Shown(line, tie.Safe)} is safe now. "
            + (line.Counts is CreditCounts.WhenPaid ? "Not paid, or not recorded as paid: " : "Not accepted by the authority: ")
            + $"{standing}.";
    }

    private static (Severity Severity, string Message)? Message(Line line, TieView tie, string? here)
    {
        var amount = line.IsNumber;
        if (tie.Sources.Count == 0)
        {
            return line.TieTolerance is not null && amount && here is not null and not "0"
                ? (Severity.Error, $"{line.Label}: {Shown(line, here)} is claimed, and there is no {string.Join(" or ", tie.Missing)}. Open it and enter what supports the claim.")
                : null;
        }

        if (here == tie.Value || (amount && Number(here) == Number(tie.Value)))
        {
            return null;
        }

        var difference = amount ? Math.Abs(Number(here) - Number(tie.Value)) : 0;
        return (line.TieTolerance is { } tolerance && difference > tolerance ? Severity.Error : Severity.Warning,
            $"{line.Label}: {Shown(line, tie.Value)} by {tie.Words}, {Shown(line, here)} here. Take what the source says, or correct the source.");
    }

    private static decimal Number(string? value) => value is null ? 0 : decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture);

    private static string Shown(Line line, string? value) => value is null ? "nothing"
        : line.IsNumber ? Figures.Money(Number(value))
        : line.Choices?.FirstOrDefault(c => c.Code == value)?.Label ?? value;

    /// <summary>Rows as the section here keeps them; those of several relatives are told apart by whose they are.</summary>
    private static IEnumerable<EntryRow> RowsOf(RepeatingSection section, Workspace source) => section.RowTie!.RowsFrom(source.Evaluation).Select(row => row with
    {
        Id = section.RowTie.Return.Relation is null ? row.Id : $"{row.Id}-{source.Record.ClientId}",
        Values = row.Values.ToDictionary(v => v.Key, v => section.Lines.First(l => l.Name == v.Key) is { IsNumber: true } column ? Figures.Canonical(column.Kept(Number(v.Value))) : v.Value),
    });

    private static TieView View(Line line, ReturnRecord record, string identifier, Dictionary<TiedReturn, List<Source>> found)
    {
        var sources = line.Ties.SelectMany(t => found[t.Return].Select(source =>
        {
            var from = source.There.Definition.LineOf(t.Line);

            // What is for somebody else counts as nothing, so that an amount goes when another person is named.
            var forAnother = t.AddressedBy is { } address && source.There.Evaluation.Value(source.There.Definition.LineOf(address)) != identifier;
            var value = forAnother ? (line.IsNumber ? "0" : null) : source.There.Evaluation.Value(from);
            var counted = line.Counts switch
            {
                CreditCounts.WhenAccepted => source.Record.Stage == Stage.Accepted ? Number(value) : 0,
                CreditCounts.WhenPaid => Math.Max(0, Math.Min(source.Paid, Number(value))),
                _ => (decimal?)null,
            };
            return new TieSourceView(
                source.Record.Id,
                Title(source.There),
                from.Key,
                from.Label,
                value,
                StageInWords(source.Record.Stage),
                line.Counts is CreditCounts.WhenPaid ? Figures.Canonical(source.Paid) : null,
                counted is { } safe ? Figures.Canonical(safe) : null,
                source.Record.Stage is Stage.Sent or Stage.Accepted);
        })).ToList();
        var value = sources.Select(s => s.Value).OfType<string>().ToList() is not { Count: > 0 } given ? null
            : line.IsNumber ? Figures.Canonical(line.Kept(given.Sum(Number))) : given[0];
        return new TieView(
            line.Key,
            value,
            sources,
            [.. line.Ties.Where(t => found[t.Return].Count == 0).Select(t => $"{Catalogue.TypeOf(t.Return.Definition).Title} {Periods.InWords(record.Year - t.Return.YearsBack, t.Return.Period)}").Distinct()],
            line.Counts is null || sources.Count == 0 ? null : Figures.Canonical(sources.Sum(s => Number(s.Safe))));
    }

    private static string StageInWords(string stage) => stage switch
    {
        Stage.Open => "draft",
        Stage.Waiting => "waiting for approval",
        Stage.Sent => "sent, not answered yet",
        _ => stage,
    };

    private static string Title(Workspace source) => $"{source.Definition.Title} {source.InWords}";
}

/// <summary>
/// Keeps tied amounts true: a line that follows another return of the client is filled from it while its own return can still be
/// changed without asking anybody, and is flagged otherwise, or when somebody typed over it.
/// </summary>
public sealed class Ties(PracticeDatabase database, Workbench workbench)
{
    /// <summary>Takes over what the other returns say now; what changed, or null.</summary>
    public EditResult? Follow(long returnId, Caller caller)
    {
        var workspace = workbench.OpenTied(returnId);
        if (workspace.Record.Stage is not (Stage.Open or Stage.Rejected))
        {
            return null;
        }

        EditResult? result = null;
        var lines = workspace.Ties.Lines.Where(t => t.Sources.Count > 0 && FollowedParticulars.Follows(workspace.Entries.GetValueOrDefault((t.Line, "")), "tied"))
            .Where(t => workspace.Entries.GetValueOrDefault((t.Line, ""))?.Value != t.Value);
        foreach (var group in lines.GroupBy(t => t.Words).ToList())
        {
            result = Moved(workbench.Edit(returnId, caller, [.. group.Select(t => Set(t.Line, null, t.Value))], Origin.Tied, group.Key)) ?? result;
        }

        foreach (var rows in workspace.Ties.Rows)
        {
            var changes = RowChanges(workspace, rows).ToList();
            result = changes.Count == 0 ? result : Moved(workbench.Edit(returnId, caller, changes, Origin.Tied, rows.Title)) ?? result;
        }

        return result;
    }

    /// <summary>The result of an edit that changed something; null for one that did not, so that nothing is carried on from it.</summary>
    private static EditResult? Moved(EditResult result) => result.Values.Count > 0 || result.Rows.Count > 0 ? result : null;

    /// <summary>Takes what the sources of one line say, whatever was typed over it.</summary>
    /// <exception cref="PlainProblem">The line is not tied, or its sources are not there.</exception>
    public EditResult Take(long returnId, string line, Caller caller)
    {
        var tie = workbench.OpenTied(returnId).Ties.Lines.FirstOrDefault(t => t.Line == line && t.Sources.Count > 0)
            ?? throw PlainProblem.Conflict("There is no other return from which this line could be taken.");
        var result = workbench.Edit(returnId, caller, [Set(line, null, tie.Value)], Origin.Tied, tie.Words);
        Spread(returnId, caller, result.MovedLines);
        return result;
    }

    /// <summary>
    /// Carries what has changed in a return into the returns that are tied to it, and on from there until nothing moves; those that changed. A return
    /// that was done before one of its sources moved again is done again; that this ends, <see cref="TieCircles"/> makes sure of.
    /// </summary>
    /// <param name="returnId">The return.</param>
    /// <param name="caller">Who changed it.</param>
    /// <param name="moved">The lines that are different now; null when any may be.</param>
    public IReadOnlyList<EditResult> Spread(long returnId, Caller caller, IReadOnlySet<string>? moved = null)
    {
        var results = new List<EditResult>();
        var waiting = new Queue<(long Id, IReadOnlySet<string>? Moved)>([(returnId, moved)]);
        while (waiting.TryDequeue(out var source))
        {
            foreach (var dependent in database.Read(unit => Storage.Returns.Find(unit, source.Id) is { } record ? DependentsOf(unit, record, source.Moved) : []))
            {
                // What follows may have taken several edits, of which only the last is told: any line may have moved.
                if (Follow(dependent.Id, caller) is { } result)
                {
                    results.Add(result);
                    waiting.Enqueue((dependent.Id, null));
                }
            }
        }

        return results;
    }

    /// <summary>Looks anew at the returns that follow another, whose stage or payments have changed.</summary>
    public void LookAgain(long returnId)
    {
        foreach (var dependent in database.Read(unit => Storage.Returns.Find(unit, returnId) is { } record ? DependentsOf(unit, record, null) : []))
        {
            workbench.Refresh(dependent.Id);
        }
    }

    /// <summary>The returns tied to another by any of some lines; by any line at all where none are named.</summary>
    private static IReadOnlyList<ReturnRecord> DependentsOf(Unit unit, ReturnRecord source, IReadOnlySet<string>? moved)
    {
        var own = Storage.Returns.OfClient(unit, source.ClientId).Where(r => IsTied(r, relation: null));
        var related = Relatives.Seeing(unit, source.ClientId).SelectMany(r => Storage.Returns.OfClient(unit, r.ClientId).Where(other => IsTied(other, r.As)));
        return [.. own.Concat(related).DistinctBy(r => r.Id)];

        bool IsTied(ReturnRecord record, string? relation)
        {
            var definition = Catalogue.Get(record.Definition, record.Year, record.Period);
            return record.Id != source.Id && definition.TiedReturns.Any(t =>
                t.Definition == source.Definition && (t.Latest || t.Period == source.Period) && record.Year - t.YearsBack == source.Year && t.Relation == relation
                && (moved is null || definition.Follows(t, moved)));
        }
    }

    private static bool IsTied(string row) => row.StartsWith(RowTie.Prefix, StringComparison.Ordinal);

    private static EntryChange Set(string line, string? row, string? value) => new(ChangeKind.Set, line, row, null, null, value, long.MaxValue);

    /// <summary>
    /// Rows follow unless somebody entered rows of their own before any came; rows entered beside tied ones stay beside them. A tied row somebody removed is not brought back, and what
    /// somebody typed over in a tied row stays.
    /// </summary>
    private static IEnumerable<EntryChange> RowChanges(Workspace workspace, TiedRows tied)
    {
        var section = tied.Section.Key;
        var present = workspace.RowsOf(section);
        if (present.Count > 0 && !present.Any(IsTied))
        {
            yield break;
        }

        foreach (var gone in present.Where(p => IsTied(p) && tied.Rows.All(r => r.Id != p)))
        {
            yield return new EntryChange(ChangeKind.RemoveRow, null, gone, section, null, null, long.MaxValue);
        }

        foreach (var row in tied.Rows)
        {
            var entries = row.Values.Select(v => (Line: $"{section}.{v.Key}", v.Value)).ToList();
            if (!present.Contains(row.Id))
            {
                if (entries.Any(e => workspace.Entries.ContainsKey((e.Line, row.Id))))
                {
                    continue;
                }

                yield return new EntryChange(ChangeKind.AddRow, null, row.Id, section, null, null, long.MaxValue);
            }

            foreach (var (line, value) in entries)
            {
                var entry = workspace.Entries.GetValueOrDefault((line, row.Id));
                if (FollowedParticulars.Follows(entry, "tied") && entry?.Value != value)
                {
                    yield return Set(line, row.Id, value);
                }
            }
        }
    }
}
