using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Clients;
using Aerarium.Storage;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server.Returns;

internal static class ReturnEndpoints
{
    private const int MostChanges = 2_000;

    public static void MapReturns(this RouteGroupBuilder api)
    {
        var returns = api.MapGroup("").WithTags("Returns");
        returns.MapGet("/return-types", () => Catalogue.Returns.Select(r => new ReturnTypeView(r.Id, r.Title, r.Country, r.Years)).ToList());
        returns.MapGet("/definitions/{country}/{name}/{year:int}", (string country, string name, int year) =>
            Catalogue.Find($"{country}/{name}", year, out var problem) is { } definition
                ? Layouts.Of(definition)
                : throw new PlainProblem(StatusCodes.Status404NotFound, problem!));
        returns.MapPost("/clients/{clientId:long}/returns", OpenReturn).RequireAuthorization(Policies.Prepare);
        returns.MapGet("/returns/{id:long}", View);
        returns.MapPatch("/returns/{id:long}/entries", Patch).RequireAuthorization(Policies.Prepare);
        returns.MapGet("/returns/{id:long}/lines/{line}/derivation", (long id, string line, string? row, Workbench workbench) =>
        {
            var workspace = workbench.Open(id);
            var found = workspace.Definition.FindLine(line) ?? throw PlainProblem.NotFound($"The line '{line}'");
            if (found.Table is not null && !workspace.RowsOf(found.Table.Key).Contains(row ?? ""))
            {
                throw PlainProblem.NotFound("This row");
            }

            return Derivation.Of(workspace.Definition.Evaluate(workspace.EntrySet, workspace.Today), found, row);
        });
        returns.MapGet("/returns/{id:long}/lines/{line}/history", (long id, string line, string? row, ClaimsPrincipal user, PracticeDatabase database) =>
            database.Read(unit => Acts.Latest(unit, id, 2_000, Caller.Of(user).Reach))
                .Where(a => a.Line == line && a.Row == row)
                .Select(a => new LineAct(a.At, a.PersonName, a.Before, a.After, a.Origin)).ToList());
        returns.MapGet("/returns/{id:long}/printed-copy.pdf", PrintedCopyOf).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
    }

    public static IReadOnlyList<int> OpenSections(Workspace workspace) =>
        [.. workspace.Definition.Sections.Where(workspace.Evaluation.IsOpen).Select(s => s.Position)];

    private static EditResult Patch(
        long id, EntryPatch patch, ClaimsPrincipal user, Workbench workbench, HttpContext http, [FromHeader(Name = "X-Aerarium-Connection")] string? connection)
    {
        if (patch.Changes is null or { Count: 0 or > MostChanges })
        {
            throw PlainProblem.Refused($"Send between 1 and {MostChanges} changes at once.");
        }

        var result = workbench.Edit(id, Caller.Of(user), patch.Changes, Origin.Typed, null);
        http.Response.OnCompleted(() => workbench.TellAsync(result, connection));
        return result;
    }

    private static ReturnView View(long id, Workbench workbench, PracticeDatabase database)
    {
        var workspace = workbench.Open(id);
        var record = workspace.Record;
        var (client, holder, last) = database.Read(unit => (
            Storage.Clients.Find(unit, record.ClientId)!,
            People.Find(unit, record.HolderId)!,
            Storage.Returns.FindOfYear(unit, record.ClientId, record.Definition, record.Year - 1)));
        return new ReturnView(
            record.Id,
            client.Id,
            client.Name,
            client.Identifier,
            record.Definition,
            (int)record.Year,
            workspace.Definition.Title,
            workspace.Definition.Currency,
            record.Kind,
            record.Stage,
            record.Revision,
            holder.Name,
            [.. workspace.Definition.Deadlines.Select(d => new DeadlineView(d.Act, d.Label, d.Day, d.Day.DayNumber - workspace.Today.DayNumber))],
            [.. workspace.Rows.Select(r => new RowsView(r.Key, r.Value))],
            [.. workspace.Values()],
            workspace.Findings,
            workspace.Progress,
            OpenSections(workspace),
            workspace.Outcome(),
            last is null ? null : LastYear(workbench.Open(last.Id)));
    }

    private static LastYearView LastYear(Workspace workspace) => new(
        workspace.Record.Id,
        (int)workspace.Record.Year,
        workspace.Evaluation.Values()
            .Where(v => v.Row is null && v.Value is not null && !v.Line.StartsWith("declaration.", StringComparison.Ordinal))
            .ToDictionary(v => v.Line, v => v.Value!));

    private static OpenedReturn OpenReturn(
        long clientId,
        OpenReturn asked,
        ClaimsPrincipal user,
        PracticeDatabase database,
        TimeProvider clock,
        Workbench workbench,
        ClientParticulars particulars)
    {
        var caller = Caller.Of(user);
        return new OpenedReturn(ReturnOpening.Open(clientId, asked, caller, database, clock, workbench, particulars));
    }

    private static IResult PrintedCopyOf(long id, Workbench workbench, PracticeDatabase database, TimeProvider clock)
    {
        var workspace = workbench.Open(id);
        var (client, practice, approval) = database.Read(unit => (
            Storage.Clients.Find(unit, workspace.Record.ClientId)!,
            Practices.Find(unit)!,
            Approvals.Latest(unit, id)));
        var approver = approval is { State: "approved", ApprovedBy: { } by } ? database.Read(unit => People.Find(unit, by)) : null;
        var pdf = PrintedCopy.Draw(
            workspace.Evaluation,
            new PrintedCopyFacts(
                practice.Name,
                client.Name,
                workspace.Record.Kind,
                approver is null ? null : $"Approved by {approver.Name}, {approval!.ApprovedAt![..10]}",
                clock.Today()));
        return Results.File(pdf, "application/pdf");
    }
}

/// <summary>A return type and the years covered.</summary>
public sealed record ReturnTypeView(string Id, string Title, string Country, IReadOnlyList<int> Years);

/// <summary>One act on a line.</summary>
public sealed record LineAct(string At, string Person, string? Before, string? After, string? Origin);

/// <summary>Opens returns: one original for a client, return and year; an amended one starts from what was filed.</summary>
internal static class ReturnOpening
{
    public static long Open(
        long clientId,
        OpenReturn asked,
        Caller caller,
        PracticeDatabase database,
        TimeProvider clock,
        Workbench workbench,
        ClientParticulars particulars)
    {
        var definition = Catalogue.Find(asked.Definition, asked.Year, out var problem) ?? throw PlainProblem.Refused(problem!);
        if (asked.Kind is not ("original" or "amended"))
        {
            throw PlainProblem.Refused("A return is original or amended.");
        }

        var (id, filed) = database.Write(unit =>
        {
            var client = Storage.Clients.Find(unit, clientId) ?? throw PlainProblem.NotFound("This client");
            var earlier = Storage.Returns.FindOfYear(unit, clientId, asked.Definition, asked.Year);
            if (asked.Kind == "original" && earlier is not null)
            {
                throw PlainProblem.Conflict(earlier.Stage == Stage.Accepted
                    ? $"{client.Name} has an accepted return for {asked.Year}; open an amended one to change it."
                    : $"{client.Name} already has a return for {asked.Year}; go on with that one.");
            }

            if (asked.Kind == "amended" && earlier?.Stage != Stage.Accepted)
            {
                throw PlainProblem.Conflict($"There is no accepted return of {client.Name} for {asked.Year} to amend.");
            }

            var opened = Storage.Returns.Add(unit, new ReturnRecord
            {
                ClientId = clientId,
                Definition = asked.Definition,
                Year = asked.Year,
                Kind = asked.Kind,
                Stage = Stage.Open,
                HolderId = caller.Id,
                OpenedAt = Moments.Text(clock.GetUtcNow()),
                Due = definition.Deadlines.First(d => d.Act == "filing").Day.ToString("yyyy-MM-dd"),
            });
            Acts.Add(unit, caller.Act("open-return", clock.GetUtcNow()) with { ReturnId = opened, ClientId = clientId, After = $"{asked.Definition} {asked.Year} {asked.Kind}" });
            return (opened, asked.Kind == "amended" ? earlier : null);
        });
        if (filed is not null)
        {
            TakeOverFiled(id, filed, caller, workbench);
        }

        particulars.Follow(id, clientId, caller);
        return id;
    }

    private static void TakeOverFiled(long id, ReturnRecord filed, Caller caller, Workbench workbench)
    {
        var workspace = workbench.Open(filed.Id);
        var rows = workspace.Rows.SelectMany(r => r.Value.Select(row => new EntryChange(ChangeKind.AddRow, null, row, r.Key, null, null, 0)));
        var entries = workspace.Entries.Values
            .Where(e => e.Value is not null && !e.Line.StartsWith("declaration.", StringComparison.Ordinal))
            .Where(e => workspace.Definition.FindLine(e.Line) is { } line && (line.Table is null || workspace.RowsOf(line.Table.Key).Contains(e.Row)))
            .Select(e => new EntryChange(ChangeKind.Set, e.Line, e.Row.Length == 0 ? null : e.Row, null, null, e.Expression ?? e.Value, 0));
        workbench.Edit(id, caller, [.. rows, .. entries], Origin.LastYear, "filed return");
    }
}
