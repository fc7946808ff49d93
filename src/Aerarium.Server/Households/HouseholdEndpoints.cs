using System.Security.Claims;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;

namespace Aerarium.Server.Households;

/// <summary>A member of a household.</summary>
/// <param name="ClientId">The client; null for somebody who is only named in a return.</param>
/// <param name="Name">Name.</param>
/// <param name="About">What they are in the household, or their age, in words.</param>
/// <param name="ReturnId">The return of the year; null where none is open.</param>
/// <param name="Stage">How far it has come, in words.</param>
/// <param name="Errors">Errors left.</param>
/// <param name="Warnings">Warnings left.</param>
/// <param name="Figures">Key figures in the order of the household's; empty without a return.</param>
public sealed record HouseholdMemberView(
    long? ClientId, string Name, string About, long? ReturnId, string Stage, int Errors, int Warnings, IReadOnlyList<string> Figures);

/// <summary>A key figure of the household.</summary>
/// <param name="Label">Label.</param>
/// <param name="Line">The line of each return it stands on.</param>
/// <param name="Form">The form of that line.</param>
/// <param name="Total">Of all members together.</param>
public sealed record HouseholdFigureView(string Label, string Line, string Form, string Total);

/// <summary>One way to allocate a claim.</summary>
/// <param name="Label">In words.</param>
/// <param name="Saves">By how much the household's balance falls with this alone; below zero where it rises.</param>
/// <param name="Balances">The balance of each member who files, with this alone.</param>
public sealed record ClaimOptionView(string Label, string Saves, IReadOnlyList<string> Balances);

/// <summary>A claim of the household.</summary>
/// <param name="Key">Key, to take it.</param>
/// <param name="Title">What it is.</param>
/// <param name="Amount">How much it is about; null where there is no one amount.</param>
/// <param name="Now">Who claims it now.</param>
/// <param name="Best">How it is best allocated; null where it is best as it is.</param>
/// <param name="Saves">By how much the household's balance falls when this alone is taken.</param>
/// <param name="Needs">What must be there before it can be taken; null for nothing.</param>
/// <param name="Closed">Why there is nothing to choose, or why it can no longer be taken; null where it can.</param>
/// <param name="Options">Every way, each taken alone.</param>
public sealed record SharedClaimView(
    string Key, string Title, string? Amount, string Now, string? Best, string Saves, string? Needs, string? Closed, IReadOnlyList<ClaimOptionView> Options);

/// <summary>A household in one year.</summary>
/// <param name="Title">Name of the household.</param>
/// <param name="Return">The kind of return.</param>
/// <param name="Year">Tax year.</param>
/// <param name="Years">Years in which anybody of it has a return.</param>
/// <param name="Currency">Currency.</param>
/// <param name="Due">The next day by which one of its returns is to be filed; null when all are filed.</param>
/// <param name="Members">Its members.</param>
/// <param name="OutOfReach">How many members are not shown because they are out of the caller's reach.</param>
/// <param name="Figures">Key figures; the last is the balance.</param>
/// <param name="Claims">What may be claimed here or there.</param>
/// <param name="Saves">By how much the household's balance falls when every claim is taken as is best.</param>
/// <param name="Stamp">What the advice was worked out from; taking it names this.</param>
public sealed record HouseholdView(
    string Title,
    string Return,
    int Year,
    IReadOnlyList<int> Years,
    string Currency,
    string? Due,
    IReadOnlyList<HouseholdMemberView> Members,
    int OutOfReach,
    IReadOnlyList<HouseholdFigureView> Figures,
    IReadOnlyList<SharedClaimView> Claims,
    string Saves,
    string Stamp);

/// <summary>Claims to take as is best.</summary>
/// <param name="Claims">Their keys.</param>
/// <param name="Stamp">The stamp of the household that was looked at.</param>
public sealed record TakeClaims(IReadOnlyList<string> Claims, string Stamp);

/// <summary>What taking claims did.</summary>
/// <param name="Returns">How many returns were changed.</param>
/// <param name="Household">The household as it is now.</param>
public sealed record ClaimsTaken(int Returns, HouseholdView Household);

internal static class HouseholdEndpoints
{
    private const string Source = "best for the household";

    public static void MapHouseholds(this RouteGroupBuilder api)
    {
        var household = api.MapGroup("/clients/{id:long}/household/{year:int}").ReachesClient().WithTags("Households");
        household.MapGet("", (long id, int year, ClaimsPrincipal user, HouseholdDesk desk) => View(desk.Find(id, year, Caller.Of(user).Reach)));
        household.MapPost("/claims", Take).RequireAuthorization(Policies.Prepare);
    }

    private static async Task<ClaimsTaken> Take(long id, int year, TakeClaims asked, ClaimsPrincipal user, HouseholdDesk desk, Workbench workbench, Ties ties)
    {
        var caller = Caller.Of(user);
        var found = desk.Find(id, year, caller.Reach);
        if (found.Stamp != asked.Stamp)
        {
            throw PlainProblem.Conflict("The returns of the household have changed since this was worked out. Look at the claims again; nothing was taken.");
        }

        var advice = found.Allocation.Claims.Where(c => asked.Claims.Contains(c.Claim.Key) && c.Best is not null).ToList();
        if (advice.Count == 0)
        {
            throw PlainProblem.Conflict("These claims are best as they are; there is nothing to take.");
        }

        foreach (var claim in advice)
        {
            if (found.BoundBy(claim) is { } bound)
            {
                throw PlainProblem.Conflict($"{claim.Claim.Title} can no longer be taken: {bound}");
            }
        }

        var edits = advice.SelectMany(a => a.Entries).GroupBy(e => found.ReturnOf(e.Member)).Select(group =>
            (group.Key, (IReadOnlyList<EntryChange>)[.. group.Select(e => new EntryChange(ChangeKind.Set, e.Line, null, null, null, e.Value, long.MaxValue))])).ToList();
        var results = workbench.EditTogether(edits, caller, Origin.Typed, Source).ToList();
        foreach (var result in results.ToList())
        {
            results.AddRange(ties.Spread(result.ReturnId, caller));
        }

        foreach (var result in results)
        {
            await workbench.TellAsync(result);
        }

        return new ClaimsTaken(results.Select(r => r.ReturnId).Distinct().Count(), View(desk.Find(id, year, caller.Reach)));
    }

    private static HouseholdView View(FoundHousehold found)
    {
        var figures = found.Members.FirstOrDefault(m => m.Workspace is not null)?.Workspace!.Definition.Outcome ?? [];
        return new HouseholdView(
            found.Title,
            found.ReturnTitle,
            found.Year,
            found.Years,
            found.Currency,
            found.Due,
            [
                .. found.Members.Select(m => new HouseholdMemberView(
                    m.Client.Id, m.Client.Name, m.About, m.Workspace?.Record.Id, m.Workspace is null ? "no return open" : FoundHousehold.StageInWords(m.Workspace),
                    m.Workspace?.Errors ?? 0, m.Workspace?.OpenWarnings ?? 0, m.Workspace is null ? [] : [.. m.Workspace.Evaluation.Outcome.Select(o => Figures.Canonical(o.Amount))])),
                .. found.Dependants.Select(d => new HouseholdMemberView(null, d.Name, d.About, null, "net income only", 0, 0, [])),
            ],
            found.OutOfReach,
            [
                .. figures.Select((figure, at) => new HouseholdFigureView(
                    figure.Label, figure.Line.Key, figure.Line.Form.Key, Figures.Canonical(found.Members.Where(m => m.Workspace is not null).Sum(m => m.Workspace!.Evaluation.Outcome.ElementAt(at).Amount)))),
            ],
            [
                .. found.Allocation.Claims.Select(c => new SharedClaimView(
                    c.Claim.Key, c.Claim.Title, c.Claim.Amount is { } amount ? Figures.Canonical(amount) : null, c.Claim.Now, c.Best, Figures.Canonical(c.Saves), c.Claim.Needs, c.Claim.Closed ?? found.BoundBy(c),
                    [.. c.Options.Select(o => new ClaimOptionView(o.Label, Figures.Canonical(o.Saves), [.. o.Balances.Select(Figures.Canonical)]))])),
            ],
            Figures.Canonical(found.Allocation.Saves),
            found.Stamp);
    }
}
