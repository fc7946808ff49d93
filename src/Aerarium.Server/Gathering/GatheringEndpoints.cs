using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;

namespace Aerarium.Server.Gathering;

/// <summary>Something gathered that a return can take: an item of the authority's record, or a statement.</summary>
/// <param name="Number">The authority's number, or that of the statement.</param>
/// <param name="Title">What it is.</param>
/// <param name="Lines">What it holds, line by line.</param>
/// <param name="State">new, taken, or different: on the return with other values.</param>
/// <param name="Problem">Why it should not be taken, such as another person's identifier.</param>
/// <param name="Tick">Who ticked it off against the paper, or null.</param>
public sealed record GatheredItem(string Number, string Title, IReadOnlyList<GatheredLine> Lines, string State, string? Problem, TickView? Tick);

/// <summary>One line of an item beside the return.</summary>
/// <param name="Line">Key of the line.</param>
/// <param name="Label">Its label.</param>
/// <param name="Value">What was gathered, as it stands there.</param>
/// <param name="OnReturn">What the return has, canonical, or null when nothing.</param>
public sealed record GatheredLine(string Line, string Label, string Value, string? OnReturn);

/// <summary>Who ticked an item off against the paper, and when.</summary>
public sealed record TickView(string Person, string At);

/// <summary>A client's consent to ask the authority.</summary>
public sealed record ConsentView(string GivenOn, string GivenBy, string NotedBy);

/// <summary>A consent as typed.</summary>
/// <param name="GivenBy">Who gave it: the client or somebody acting for it.</param>
/// <param name="GivenOn">The day, as typed; today when left out.</param>
public sealed record ConsentInput(string? GivenBy, string? GivenOn);

/// <summary>What the authority holds: nothing is asked before the client consents.</summary>
/// <param name="Consent">The consent, or null.</param>
/// <param name="Items">The items.</param>
/// <param name="LastAssessment">The assessment of the year before, or null.</param>
/// <param name="NeverHeld">Papers the authority never holds: they are asked of the client.</param>
public sealed record AuthorityRecordView(ConsentView? Consent, IReadOnlyList<GatheredItem> Items, LastAssessment? LastAssessment, IReadOnlyList<string> NeverHeld);

/// <summary>Which items to take.</summary>
public sealed record TakeItems(IReadOnlyList<string> Numbers);

internal static class GatheringEndpoints
{
    private const int LongestText = 120;

    public static void MapGathering(this RouteGroupBuilder api)
    {
        api.MapDocuments();
        api.MapStatements();
        api.MapVerification();
        var consent = api.MapGroup("/clients/{id:long}/consent").ReachesClient().WithTags("Gathering").RequireAuthorization(Policies.Prepare);
        consent.MapPut("", (long id, ConsentInput typed, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            database.Write(unit => Consent(unit, id, typed, Caller.Of(user), clock)));
        consent.MapDelete("", (long id, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            database.Write(unit =>
            {
                if (!Consents.Remove(unit, id))
                {
                    throw PlainProblem.NotFound("A consent of this client");
                }

                Acts.Add(unit, Caller.Of(user).Act("consent", clock.GetUtcNow()) with { ClientId = id, Before = "given" });
            });
            return TypedResults.NoContent();
        });

        var record = api.MapGroup("/returns/{id:long}/authority-record").ReachesReturn().WithTags("Gathering").RequireAuthorization(Policies.Prepare);
        record.MapGet("", async (long id, Workbench workbench, PracticeDatabase database, AuthorityClient authority, CancellationToken cancellation) =>
        {
            var workspace = workbench.Open(id);
            var neverHeld = Catalogue.TypeOf(workspace.Record.Definition).Record?.NeverHeld ?? [];
            var consent = database.Read(unit => Consents.Find(unit, workspace.Record.ClientId));
            if (consent is null)
            {
                return new AuthorityRecordView(null, [], null, neverHeld);
            }

            var items = await AskAsync(workspace, database, authority, cancellation);
            return new AuthorityRecordView(
                new ConsentView(consent.GivenOn, consent.GivenBy, consent.NotedBy),
                Describe(workspace, items, database),
                await AssessmentAsync(workspace, authority, cancellation),
                neverHeld);
        });
        record.MapPost("/take", async (
            long id, TakeItems asked, ClaimsPrincipal user, Workbench workbench, PracticeDatabase database, AuthorityClient authority, CancellationToken cancellation) =>
            await TakeAsync(id, asked, await AskAsync(workbench.Open(id), database, authority, cancellation), Origin.Authority, Caller.Of(user), workbench));

        var statements = api.MapGroup("/returns/{id:long}/statements").ReachesReturn().WithTags("Gathering");
        statements.MapGet("", (long id, Workbench workbench, PracticeDatabase database) =>
        {
            var workspace = workbench.Open(id);
            return Describe(workspace, database.Read(unit => StatementDesk.ItemsFor(unit, workspace.Record)), database);
        });
        statements.MapPost("/take", async (long id, TakeItems asked, ClaimsPrincipal user, Workbench workbench, PracticeDatabase database) =>
        {
            var record = workbench.Open(id).Record;
            return await TakeAsync(id, asked, database.Read(unit => StatementDesk.ItemsFor(unit, record)), Origin.Statement, Caller.Of(user), workbench);
        }).RequireAuthorization(Policies.Prepare);

        var ticks = api.MapGroup("/returns/{id:long}/ticks").ReachesReturn().WithTags("Gathering").RequireAuthorization(Policies.Prepare);
        ticks.MapPut("/{item}", (long id, string item, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            Tick(id, item, Caller.Of(user), database, clock, ticked: true));
        ticks.MapDelete("/{item}", (long id, string item, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            Tick(id, item, Caller.Of(user), database, clock, ticked: false));
    }

    private static ConsentView Consent(Unit unit, long id, ConsentInput typed, Caller caller, TimeProvider clock)
    {
        var client = Storage.Clients.Find(unit, id) ?? throw PlainProblem.NotFound("This client");
        var by = EntryReader.Clean(typed.GivenBy);
        if (by.Length is 0 or > LongestText)
        {
            throw PlainProblem.Refused("Say who gave the consent.");
        }

        var on = clock.Today();
        if (EntryReader.Clean(typed.GivenOn) is { Length: > 0 } day && (!TypedDay.TryRead(day, client.Country, clock.Today(), out on) || on > clock.Today()))
        {
            throw PlainProblem.Refused($"'{day}' is not the day of a consent that was given; {TypedDay.InWords(client.Country, clock.Today())}.");
        }

        var consent = new ConsentRecord(id, on.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), by, caller.Name, Moments.Text(clock.GetUtcNow()));
        Consents.Put(unit, consent);
        Acts.Add(unit, caller.Act("consent", clock.GetUtcNow()) with { ClientId = client.Id, After = $"given by {by} on {consent.GivenOn}" });
        return new ConsentView(consent.GivenOn, consent.GivenBy, consent.NotedBy);
    }

    private static TickView? Tick(long id, string item, Caller caller, PracticeDatabase database, TimeProvider clock, bool ticked) => database.Write(unit =>
    {
        var record = Storage.Returns.Find(unit, id) ?? throw PlainProblem.NotFound("This return");
        if (item.Length > LongestText)
        {
            throw PlainProblem.NotFound("This item");
        }

        var now = clock.GetUtcNow();
        if (ticked ? Ticks.Put(unit, id, new TickRecord(item, caller.Name, Moments.Text(now))) : Ticks.Remove(unit, id, item))
        {
            Acts.Add(unit, caller.Act("tick", now) with
            {
                ReturnId = id,
                ClientId = record.ClientId,
                Before = ticked ? null : item,
                After = ticked ? item : null,
            });
        }

        return Ticks.Of(unit, id).FirstOrDefault(t => t.Item == item) is { } tick ? new TickView(tick.TickedBy, tick.TickedAt) : null;
    });

    private static async Task<EditResult> TakeAsync(
        long id, TakeItems asked, IReadOnlyList<RecordedItem> items, Origin origin, Caller caller, Workbench workbench)
    {
        EditResult? result = null;
        foreach (var number in asked.Numbers ?? [])
        {
            var item = items.FirstOrDefault(i => i.Number == number) ?? throw PlainProblem.NotFound($"The item {number}");
            var workspace = workbench.Open(id);
            if (ProblemOf(workspace, item) is { } problem)
            {
                throw PlainProblem.Refused(problem);
            }

            var row = RowOf(workspace, item) ?? (origin == Origin.Authority ? $"authority-{number.ToLowerInvariant()}" : number);
            var changes = item.Values.Select(v => new EntryChange(ChangeKind.Set, $"{item.Section}.{v.Key}", row, null, null, v.Value, long.MaxValue));
            var next = workbench.Edit(
                id, caller, [new EntryChange(ChangeKind.AddRow, null, row, item.Section, null, null, 0), .. changes], origin, item.Number);
            await workbench.TellAsync(next);
            result = result is null
                ? next
                : next with { Values = [.. result.Values.Where(v => !next.Values.Any(n => n.Line == v.Line && n.Row == v.Row)), .. next.Values] };
        }

        return result ?? throw PlainProblem.Refused("Choose at least one item to take.");
    }

    private static async Task<IReadOnlyList<RecordedItem>> AskAsync(
        Workspace workspace, PracticeDatabase database, AuthorityClient authority, CancellationToken cancellation)
    {
        if (database.Read(unit => Consents.Find(unit, workspace.Record.ClientId)) is null)
        {
            throw PlainProblem.Conflict("The client has not consented to asking the authority. Note the consent first.");
        }

        var reader = Catalogue.TypeOf(workspace.Record.Definition).Record
            ?? throw PlainProblem.Conflict("The authority holds nothing that belongs on this return.");
        var identifier = Identifier(workspace);
        if (identifier is null)
        {
            throw PlainProblem.Refused("The return has no taxpayer identifier yet; complete it first.");
        }

        var json = await authority.RecordAsync(reader.Path(identifier, (int)workspace.Record.Year), cancellation);
        try
        {
            return reader.Read(json);
        }
        catch (JsonException)
        {
            throw new PlainProblem(StatusCodes.Status502BadGateway, "The authority's record cannot be read; nothing was taken. Try again later.");
        }
    }

    /// <summary>The assessment of the year before; null when there is none, or none that can be had now.</summary>
    private static async Task<LastAssessment?> AssessmentAsync(Workspace workspace, AuthorityClient authority, CancellationToken cancellation)
    {
        if (Catalogue.TypeOf(workspace.Record.Definition).Record is not { } reader)
        {
            return null;
        }

        try
        {
            return await authority.FindAsync(reader.AssessmentPath(Identifier(workspace)!, (int)workspace.Record.Year - 1), cancellation) is { } json
                ? reader.ReadAssessment(json)
                : null;
        }
        catch (Exception problem) when (problem is JsonException or AuthorityUnavailableException)
        {
            return null;
        }
    }

    private static string? Identifier(Workspace workspace) =>
        workspace.Definition.Lines.FirstOrDefault(l => l.ClientParticular == "identifier") is { } line ? workspace.Evaluation.Value(line) : null;

    private static IReadOnlyList<GatheredItem> Describe(Workspace workspace, IReadOnlyList<RecordedItem> items, PracticeDatabase database)
    {
        var ticks = database.Read(unit => Ticks.Of(unit, workspace.Record.Id)).ToDictionary(t => t.Item);
        return
        [
            .. items.Select(item =>
            {
                var row = RowOf(workspace, item);
                var lines = item.Values
                    .Select(v => (Line: workspace.Definition.FindLine($"{item.Section}.{v.Key}"), v.Value))
                    .Where(v => v.Line is not null)
                    .Select(v => (
                        Typed: EntryReader.Read(v.Line!, v.Value, canonical: true).Value,
                        Shown: new GatheredLine(v.Line!.Key, v.Line.Label, v.Value, row is null ? null : workspace.EntrySet.ValueOf(v.Line, row))))
                    .ToList();
                var state = row is null ? "new" : lines.All(l => l.Typed == l.Shown.OnReturn) ? "taken" : "different";
                return new GatheredItem(
                    item.Number,
                    item.Title,
                    [.. lines.Select(l => l.Shown)],
                    state,
                    ProblemOf(workspace, item),
                    ticks.TryGetValue(item.Number, out var tick) ? new TickView(tick.TickedBy, tick.TickedAt) : null);
            }),
        ];
    }

    private static string? RowOf(Workspace workspace, RecordedItem item) =>
        workspace.EntrySet.RowsOf(item.Section).FirstOrDefault(r => r.Values.GetValueOrDefault(item.MatchColumn) == item.Values[item.MatchColumn])?.Id;

    private static string? ProblemOf(Workspace workspace, RecordedItem item) =>
        item.Identifier == Identifier(workspace)
            ? null
            : $"{item.Title} bears the identifier {item.Identifier}, not this taxpayer's; it belongs on another return.";
}
