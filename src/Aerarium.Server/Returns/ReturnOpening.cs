using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Clients;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>A line of the report on what was taken over.</summary>
/// <param name="Line">Line.</param>
/// <param name="Row">Row of this return, or of the earlier one for what was left.</param>
/// <param name="Label">Its label.</param>
/// <param name="Value">The value taken, or left.</param>
public sealed record TakenLine(string Line, string? Row, string Label, string? Value);

/// <summary>What a return took over from the year before.</summary>
/// <param name="From">The year and period it was taken from, in words.</param>
/// <param name="FromReturn">The return it was taken from.</param>
/// <param name="Taken">Taken and not typed over since.</param>
/// <param name="ToLookAt">Of those, what may have changed: answers, choices, dates.</param>
/// <param name="Left">Amounts and what is no longer in the law: last year's are shown in the Margin, this year's are entered.</param>
public sealed record TakeOverReport(
    string From, long FromReturn, IReadOnlyList<TakenLine> Taken, IReadOnlyList<TakenLine> ToLookAt, IReadOnlyList<TakenLine> Left);

/// <summary>Opens returns: one original for a client, return, year and period; an amended one starts from what was filed.</summary>
public sealed class ReturnOpening(PracticeDatabase database, TimeProvider clock, Workbench workbench, FollowedParticulars particulars, Ties ties)
{
    /// <summary>Opens a return; its id. A further period of a year starts with what lasts from the period before it.</summary>
    /// <exception cref="PlainProblem">There is one already, none to amend, or the year is not covered.</exception>
    public long Open(long clientId, OpenReturn asked, Caller caller)
    {
        var definition = Catalogue.Find(asked.Definition ?? "", asked.Year, asked.Period ?? Periods.WholeYear, out var problem) ?? throw PlainProblem.Refused(problem!);
        if (asked.Kind is not ("original" or "amended"))
        {
            throw PlainProblem.Refused("A return is original or amended.");
        }

        var (id, filed, first) = database.Write(unit =>
        {
            var client = Storage.Clients.Find(unit, clientId) ?? throw PlainProblem.NotFound("This client");
            var filedBy = Catalogue.Returns.First(r => r.Id == definition.Id).FiledBy;
            if (client.Kind != filedBy)
            {
                throw PlainProblem.Refused($"{definition.Title} is filed by {(filedBy == ClientKinds.Individual ? "individuals" : "companies")}; {client.Name} is not one.");
            }

            var earlier = Storage.Returns.FindOf(unit, clientId, definition.Id, asked.Year, definition.Period);
            if (asked.Kind == "original" && earlier is not null)
            {
                throw PlainProblem.Conflict(earlier.Stage == Stage.Accepted
                    ? $"{client.Name} has an accepted return for {Periods.InWords(asked.Year, definition.Period)}; open an amended one to change it."
                    : $"{client.Name} already has a return for {Periods.InWords(asked.Year, definition.Period)}; go on with that one.");
            }

            var isFurther = definition.Period == Catalogue.TypeOf(definition.Id).FurtherPeriod;
            var before = isFurther ? Storage.Returns.FindOf(unit, clientId, definition.Id, asked.Year, Catalogue.TypeOf(definition.Id).Periods[^1]) : null;
            if (isFurther && before is null)
            {
                throw PlainProblem.Refused($"{client.Name} has no return for {asked.Year} yet; open that of the period that ends first.");
            }

            if (asked.Kind == "amended" && earlier?.Stage != Stage.Accepted)
            {
                throw PlainProblem.Conflict($"There is no accepted return of {client.Name} for {Periods.InWords(asked.Year, definition.Period)} to amend.");
            }

            var opened = Storage.Returns.Add(unit, new ReturnRecord
            {
                ClientId = clientId,
                Definition = definition.Id,
                Year = asked.Year,
                Period = definition.Period,
                Kind = asked.Kind,
                Stage = Stage.Open,
                HolderId = caller.Id,
                OpenedAt = Moments.Text(clock.GetUtcNow()),
                Filed = Catalogue.TypeOf(definition.Id).IsFiled,
                Due = definition.Deadlines.First(d => d.Act == "filing").Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            });
            Acts.Add(unit, caller.Act("open-return", clock.GetUtcNow()) with { ReturnId = opened, ClientId = clientId, After = $"{definition.Id} {Periods.InWords(asked.Year, definition.Period)} {asked.Kind}" });
            return (opened, asked.Kind == "amended" ? earlier : null, asked.Kind == "original" ? before : null);
        });
        if (filed is not null)
        {
            TakeOver(id, workbench.Open(filed.Id), line => !line.Form.OfOneYear, caller, "filed return");
        }

        if (first is not null)
        {
            RollInto(id, workbench.Open(first.Id), caller);
        }

        particulars.Follow(id, caller);
        ties.Follow(id, caller);
        ties.Spread(id, caller);
        return id;
    }

    /// <summary>
    /// Opens the return of the next year, or of the next quarter, with what lasts from year to year: who, which, whether, since when, and numbers that usually last. Other amounts, and what
    /// belongs to one year only, are left.
    /// </summary>
    public long RollForward(long id, Caller caller)
    {
        var before = workbench.Open(id);
        var (year, period) = Catalogue.After(before.Record.Definition, before.Record.Year, before.Record.Period);
        var opened = Open(before.Record.ClientId, new OpenReturn(before.Record.Definition, year, "original", period), caller);
        RollInto(opened, before, caller);
        database.Write(unit => Acts.Add(unit, caller.Act("roll-forward", clock.GetUtcNow()) with
        {
            ReturnId = opened,
            ClientId = before.Record.ClientId,
            Before = $"return {id}, {before.InWords}",
        }));
        return opened;
    }

    /// <summary>What a return took over from the year before, as it stands now; null when there is no such return.</summary>
    public TakeOverReport? ReportOf(long id)
    {
        var workspace = workbench.Open(id);
        var earlier = database.Read(unit => EarlierReturn.Of(unit, workspace.Record));
        if (earlier is null)
        {
            return null;
        }

        var before = workbench.Open(earlier.Id);
        var taken = workspace.Entries.Values.Where(e => e is { Origin: "last-year", Value: not null }).Select(e => (e, Line: workspace.Definition.FindLine(e.Line)))
            .Where(t => t.Line is not null && StandsOn(workspace, t.Line, t.e.Row)).Select(t => (t.Line!, Told(t.Line!, t.e))).ToList();
        var left = before.Entries.Values.Where(e => e is { Value: not null, Origin: not "client" }).Select(e => (e, Line: before.Definition.FindLine(e.Line)))
            .Where(t => t.Line is not null && StandsOn(before, t.Line, t.e.Row) && !t.Line.OfOneYear && !(Lasts(t.Line) && workspace.Definition.FindLine(t.e.Line) is not null))
            .Select(t => Told(t.Line!, t.e));
        return new TakeOverReport(
            before.InWords,
            earlier.Id,
            [.. taken.Select(t => t.Item2)],
            [.. taken.Where(t => t.Item1.Kind is LineKind.Answer or LineKind.Choice or LineKind.Date).Select(t => t.Item2)],
            [.. left]);

        static TakenLine Told(Line line, EntryRecord entry) => new(line.Key, entry.Row.Length == 0 ? null : entry.Row, line.Label, entry.Value);
    }

    /// <summary>Whether what is entered on a line usually holds for another year; of what stands in every period, amounts do too.</summary>
    internal static bool Lasts(Line line) => (!line.IsNumber || line.UsuallyLasts || StandsBy(line.Table) is not null) && !line.OfOneYear && !line.FollowsParticulars;

    /// <summary>The answer by which rows of a section go on, their own or that of the page they are within.</summary>
    private static Line? StandsBy(RepeatingSection? section) => section?.StandsBy ?? section?.OfPage?.Line.Target!.StandsBy;

    /// <summary>Whether a row goes on to the next return.</summary>
    private static bool GoesOn(Workspace from, RepeatingSection section, string row)
    {
        var page = section.StandsBy is null && section.OfPage is { } of ? from.Entries.GetValueOrDefault((of.Line.Key, row))?.Value : row;
        return StandsBy(section) is not { } answer || (page is not null && from.Entries.GetValueOrDefault((answer.Key, page))?.Value == "yes");
    }

    private void RollInto(long id, Workspace before, Caller caller) => TakeOver(id, before, Lasts, caller, $"return {before.InWords}", (section, row) => GoesOn(before, section, row));

    private static bool StandsOn(Workspace workspace, Line line, string row) => line.Table is null || workspace.PlacesOf(line.Table.Key).ContainsKey(row);

    private void TakeOver(long id, Workspace from, Func<Line, bool> takes, Caller caller, string source, Func<RepeatingSection, string, bool>? takesRow = null)
    {
        bool Takes(RepeatingSection? section, string row) => section is null || takesRow is null || takesRow(section, row);
        var into = workbench.Open(id).Definition;
        var rows = from.Rows.Where(r => into.FindTable(r.Key) is not null)
            .SelectMany(r => r.Value.Where(row => Takes(from.Definition.FindTable(r.Key), row)).Select(row => new EntryChange(ChangeKind.AddRow, null, row, r.Key, null, null, 0)));
        var entries = from.Entries.Values
            .Where(e => e.Value is not null && from.Definition.FindLine(e.Line) is { } line && takes(line) && StandsOn(from, line, e.Row) && Takes(line.Table, e.Row))
            .Where(e => into.FindLine(e.Line) is { IsComputed: false })
            .Select(e => new EntryChange(ChangeKind.Set, e.Line, e.Row.Length == 0 ? null : e.Row, null, null, e.Expression ?? e.Value, 0));
        workbench.Edit(id, caller, [.. rows, .. entries], Origin.LastYear, source);
    }
}
