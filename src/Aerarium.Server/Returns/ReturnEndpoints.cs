using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Sending;
using Aerarium.Server.Gathering;
using Aerarium.Storage;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server.Returns;

internal static class ReturnEndpoints
{
    private const int MostChanges = 2_000;

    public static void MapReturns(this RouteGroupBuilder api)
    {
        var types = api.MapGroup("").WithTags("Returns").ReachesPractice();
        types.MapGet("/return-types", () => Catalogue.Returns.Select(r => new ReturnTypeView(r.Id, r.Title, r.Country, r.FiledBy, r.Years, r.Periods, r.FurtherPeriod, r.IsFiled)).ToList());
        types.MapGet("/definitions/{country}/{name}/{year:int}", (string country, string name, int year, string? period, long? law, PracticeDatabase database) =>
            Catalogue.Find($"{country}/{name}", year, period ?? Periods.WholeYear, out var problem) is { } definition
                ? Layouts.Of(law is null or 0 ? definition : database.Read(unit => PracticeDefinitions.ByEdition(unit, definition, law.Value)))
                : throw new PlainProblem(StatusCodes.Status404NotFound, problem!));
        api.MapPost("/clients/{clientId:long}/returns", async (
            long clientId, OpenReturn asked, ClaimsPrincipal user, ReturnOpening opening, RegisteredParticulars registered, CancellationToken cancellation) =>
        {
            var opened = opening.Open(clientId, asked, Caller.Of(user));
            await registered.VerifyAsync(opened, Caller.Of(user), cancellation);
            return new OpenedReturn(opened);
        }).ReachesClient("clientId").WithTags("Returns").RequireAuthorization(Policies.Prepare);

        var item = api.MapGroup("/returns/{id:long}").WithTags("Returns").ReachesReturn();
        item.MapPost("/roll-forward", async (
            long id, ClaimsPrincipal user, ReturnOpening opening, RegisteredParticulars registered, CancellationToken cancellation) =>
        {
            var opened = opening.RollForward(id, Caller.Of(user));
            await registered.VerifyAsync(opened, Caller.Of(user), cancellation);
            return new OpenedReturn(opened);
        }).RequireAuthorization(Policies.Prepare);
        item.MapGet("/amendment", (long id, Amendment amendment) => amendment.Of(id));
        item.MapGet("/taken-over", (long id, ReturnOpening opening) => opening.ReportOf(id));
        item.MapGet("", View);
        item.MapPost("/lines/{line}/take-tied", async (long id, string line, ClaimsPrincipal user, Ties ties, Workbench workbench) =>
        {
            var result = ties.Take(id, line, Caller.Of(user));
            await workbench.TellAsync(result);
            return result;
        }).RequireAuthorization(Policies.Prepare);
        item.MapPatch("/entries", Patch).RequireAuthorization(Policies.Prepare);
        item.MapGet("/lines/{line}/derivation", (long id, string line, string? row, Workbench workbench) =>
        {
            var workspace = workbench.Open(id);
            var found = workspace.Definition.FindLine(line) ?? throw PlainProblem.NotFound($"The line '{line}'");
            if (found.Table is not null && !workspace.PlacesOf(found.Table.Key).ContainsKey(row ?? ""))
            {
                throw PlainProblem.NotFound("This row");
            }

            return Derivation.Of(workspace.Definition.Evaluate(workspace.EntrySet, workspace.Today, workspace.Evaluation), found, row);
        });
        item.MapGet("/lines/{line}/history", (long id, string line, string? row, PracticeDatabase database) =>
            database.Read(unit => Acts.OfReturn(unit, id)).Reverse()
                .Where(a => a.Line == line && a.Row == row)
                .Select(a => new LineAct(a.At, a.PersonName, a.Before, a.After, a.Origin)).ToList());
        item.MapGet("/workings.xlsx", (long id, Workbench workbench, PracticeDatabase database) =>
        {
            var workspace = workbench.Open(id);
            var (client, practice) = database.Read(unit => (Storage.Clients.NameOf(unit, workspace.Record.ClientId), Practices.Find(unit)!.Name));
            var evaluation = workspace.Definition.Evaluate(workspace.EntrySet, workspace.Today);
            return Results.File(Workings.Draw(evaluation, new WorkingsFacts(practice, client, workspace.Today)), RowWorkbook.MediaType, $"workings-{id}.xlsx");
        }).Produces(StatusCodes.Status200OK, contentType: RowWorkbook.MediaType);
        item.MapGet("/forms/{form}/page.pdf", PageOf).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
        item.MapGet("/forms/{form}/page.csv", (long id, string form, Workbench workbench) =>
        {
            var workspace = workbench.Open(id);
            return Results.File(CsvFile.Of(PageLine.Of(workspace.Evaluation, FormOf(workspace, form))), "text/csv; charset=utf-8", $"{form}.csv");
        }).Produces(StatusCodes.Status200OK, contentType: "text/csv");
        item.MapGet("/printed-copy.pdf", PrintedCopyOf).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
    }

    public static IReadOnlyList<string> OpenSections(Workspace workspace) =>
        [.. workspace.Definition.Sections.Where(workspace.Evaluation.IsOpen).Select(s => s.Key)];

    private static EditResult Patch(
        long id, EntryPatch patch, ClaimsPrincipal user, Workbench workbench, TiesAtRest rest, HttpContext http, [FromHeader(Name = "X-Aerarium-Connection")] string? connection)
    {
        if (patch.Changes is null or { Count: 0 or > MostChanges } || patch.Changes.Contains(null!))
        {
            throw PlainProblem.Refused($"Send between 1 and {MostChanges} changes at once.");
        }

        var caller = Caller.Of(user);
        var result = workbench.Edit(id, caller, patch.Changes, Origin.Typed, null);

        rest.Carry(result, caller);

        // Others are told once the answer is on its way.
        http.Response.OnCompleted(() => workbench.TellAsync(result, connection));
        return result;
    }

    private static ReturnView View(long id, ClaimsPrincipal user, Workbench workbench, Ties ties, PracticeDatabase database)
    {
        if (Policies.RolesByPolicy[Policies.Prepare].Any(user.IsInRole))
        {
            ties.Follow(id, Caller.Of(user));
        }

        var workspace = workbench.Open(id);
        var record = workspace.Record;
        var (client, related, holder, last, beside) = database.Read(unit => (
            Storage.Clients.Find(unit, record.ClientId)!,
            Relatives.HasFamily(unit, record.ClientId) || Catalogue.TypeOf(record.Definition).SharedClaims is not null,
            People.Find(unit, record.HolderId)!,
            EarlierReturn.LastYear(unit, record),
            BesideReturn.Of(unit, record.ClientId, record.Definition, record.Year, record.Period)));
        return new ReturnView(
            record.Id,
            client.Id,
            client.Name,
            client.Identifier,
            record.Definition,
            (int)record.Year,
            record.Period,
            record.LawEdition,
            workspace.Definition.Title,
            workspace.Definition.Currency,
            record.Kind,
            record.Stage,
            record.Revision,
            holder.Name,
            [.. workspace.Evaluation.Deadlines.Select(d => new DeadlineView(d.Act, d.Label, d.Day, d.SafeDay, d.Day.DayNumber - workspace.Today.DayNumber))],
            [.. workspace.Rows.Select(r => new RowsView(r.Key, r.Value))],
            [.. workspace.Values()],
            workspace.Findings,
            workspace.FindingsStamp,
            workspace.Progress,
            OpenSections(workspace),
            workspace.Outcome(),
            workspace.Ties.Lines,
            last is null ? null : LastYear(workbench.Open(last.Id)),
            related,
            NumberLayout.Of(workspace.Definition.Numbers),
            Catalogue.TypeOf(record.Definition).IsFiled ? Catalogue.AuthorityOf(record.Definition).Name : null,
            beside is null ? null : record.Kind == "amended" ? BesideAmended(beside, workbench) : beside);
    }

    /// <summary>Whether an amendment reaches the return to the other authority: what that was accepted with may differ now, or nothing there is to change.</summary>
    private static BesideReturn BesideAmended(BesideReturn beside, Workbench workbench)
    {
        var other = workbench.OpenTied(beside.Id);
        if (other.Record.Stage != Stage.Accepted)
        {
            return beside;
        }

        var moved = other.Ties.Lines.Count(t => t.Sources.Count > 0 && (other.Entries.GetValueOrDefault((t.Line, ""))?.Value ?? "0") != (t.Value ?? "0"));
        return beside with { Stage = moved == 0 ? "accepted, nothing to change there" : $"accepted, amend it too: {moved} {(moved == 1 ? "line differs" : "lines differ")} now" };
    }

    private static LastYearView LastYear(Workspace workspace) => new(
        workspace.Record.Id,
        (int)workspace.Record.Year,
        workspace.Evaluation.Values()
            .Where(v => v.Row is null && v.Value is not null && workspace.Definition.FindLine(v.Line)?.OfOneYear == false)
            .ToDictionary(v => v.Line, v => v.Value!));

    private static Form FormOf(Workspace workspace, string key) =>
        workspace.Definition.Forms.FirstOrDefault(f => f.Key == key && f.Beside is null) ?? throw PlainProblem.NotFound("This page");

    private static IResult PageOf(long id, string form, Workbench workbench, PracticeDatabase database, TimeProvider clock)
    {
        var workspace = workbench.Open(id);
        return Results.File(
            database.Read(unit => PrintedCopy.DrawForm(
                workspace.Evaluation, ReturnPapers.FactsOf(unit, workspace.Record, Approvals.Latest(unit, id), clock.Today()), FormOf(workspace, form))),
            "application/pdf");
    }

    private static IResult PrintedCopyOf(long id, Workbench workbench, PracticeDatabase database, TimeProvider clock)
    {
        var workspace = workbench.Open(id);
        return Results.File(
            database.Read(unit => Sendings.OfReturn(unit, id).FirstOrDefault(s => s.CopySha256 is not null) is { } accepted
                ? Artefacts.Get(unit, accepted.CopySha256!)
                : PrintedCopy.Draw(workspace.Evaluation, ReturnPapers.FactsOf(unit, workspace.Record, Approvals.Latest(unit, id), clock.Today()))),
            "application/pdf");
    }
}

/// <summary>A return type and the years covered.</summary>
public sealed record ReturnTypeView(string Id, string Title, string Country, string FiledBy, IReadOnlyList<int> Years, IReadOnlyList<string> Periods, string? FurtherPeriod, bool IsFiled);

/// <summary>One act on a line.</summary>
public sealed record LineAct(string At, string Person, string? Before, string? After, string? Origin);
