using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;

namespace Aerarium.Server.Gathering;

/// <summary>An item the authority holds.</summary>
/// <param name="Number">The authority's number.</param>
/// <param name="Title">What it is.</param>
/// <param name="Lines">What it holds, line by line.</param>
/// <param name="State">new, taken, or different: on the return with other values.</param>
/// <param name="Problem">Why it should not be taken, such as another person's identifier.</param>
public sealed record AuthorityItem(string Number, string Title, IReadOnlyList<AuthorityItemLine> Lines, string State, string? Problem);

/// <summary>One line of an item beside the return.</summary>
public sealed record AuthorityItemLine(string Label, string Value, string? OnReturn);

/// <summary>Which items to take.</summary>
public sealed record TakeItems(IReadOnlyList<string> Numbers);

internal static class GatheringEndpoints
{
    public static void MapGathering(this RouteGroupBuilder api)
    {
        var record = api.MapGroup("/returns/{id:long}/authority-record").WithTags("Gathering").RequireAuthorization(Policies.Prepare);
        record.MapGet("", async (long id, Workbench workbench, AuthorityClient authority, CancellationToken cancellation) =>
        {
            var workspace = workbench.Open(id);
            return Describe(workspace, await ItemsAsync(workspace, authority, cancellation));
        });
        record.MapPost("/take", TakeAsync);
    }

    private static async Task<EditResult> TakeAsync(
        long id, TakeItems asked, ClaimsPrincipal user, Workbench workbench, AuthorityClient authority, CancellationToken cancellation)
    {
        var workspace = workbench.Open(id);
        var items = await ItemsAsync(workspace, authority, cancellation);
        var caller = Caller.Of(user);
        EditResult? result = null;
        foreach (var number in asked.Numbers ?? [])
        {
            var item = items.FirstOrDefault(i => i.Number == number) ?? throw PlainProblem.NotFound($"The item {number}");
            workspace = workbench.Open(id);
            if (ProblemOf(workspace, item) is { } problem)
            {
                throw PlainProblem.Refused(problem);
            }

            var row = RowOf(workspace, item) ?? $"authority-{number.ToLowerInvariant()}";
            var changes = item.Values.Select(v => new EntryChange(ChangeKind.Set, $"{item.Section}.{v.Key}", row, null, null, v.Value, long.MaxValue));
            var next = workbench.Edit(
                id, caller, [new EntryChange(ChangeKind.AddRow, null, row, item.Section, null, null, 0), .. changes], Origin.Authority, item.Number);
            await workbench.TellAsync(next);
            result = result is null
                ? next
                : next with { Values = [.. result.Values.Where(v => !next.Values.Any(n => n.Line == v.Line && n.Row == v.Row)), .. next.Values] };
        }

        return result ?? throw PlainProblem.Refused("Choose at least one item to take.");
    }

    private static async Task<IReadOnlyList<RecordedItem>> ItemsAsync(Workspace workspace, AuthorityClient authority, CancellationToken cancellation)
    {
        var reader = Catalogue.Returns.First(r => r.Id == workspace.Record.Definition).Record;
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

    private static string? Identifier(Workspace workspace) =>
        workspace.Definition.Lines.FirstOrDefault(l => l.ClientParticular == "identifier") is { } line ? workspace.Evaluation.Value(line) : null;

    private static IReadOnlyList<AuthorityItem> Describe(Workspace workspace, IReadOnlyList<RecordedItem> items) =>
    [
        .. items.Select(item =>
        {
            var row = RowOf(workspace, item);
            var lines = item.Values
                .Select(v => (Line: workspace.Definition.FindLine($"{item.Section}.{v.Key}"), v.Value))
                .Where(v => v.Line is not null)
                .Select(v => (
                    Typed: EntryReader.Read(v.Line!, v.Value).Value,
                    Shown: new AuthorityItemLine(v.Line!.Label, v.Value, row is null ? null : workspace.EntrySet.ValueOf(v.Line, row))))
                .ToList();
            var state = row is null ? "new" : lines.All(l => l.Typed == l.Shown.OnReturn) ? "taken" : "different";
            return new AuthorityItem(item.Number, item.Title, [.. lines.Select(l => l.Shown)], state, ProblemOf(workspace, item));
        }),
    ];

    private static string? RowOf(Workspace workspace, RecordedItem item) =>
        workspace.EntrySet.RowsOf(item.Section).FirstOrDefault(r => r.Values.GetValueOrDefault(item.MatchColumn) == item.Values[item.MatchColumn])?.Id;

    private static string? ProblemOf(Workspace workspace, RecordedItem item) =>
        item.Identifier == Identifier(workspace)
            ? null
            : $"{item.Title} bears the identifier {item.Identifier}, not this taxpayer's; it belongs on another return.";
}
