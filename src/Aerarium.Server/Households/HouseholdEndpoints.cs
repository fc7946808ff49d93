using System.Globalization;
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
/// <param name="Figures">Key figures in the order of the household's; of somebody without a return those that are known, blank for the others.</param>
/// <param name="StageKey">Stage of the return: open, waiting, approved, sent, rejected or accepted; null without one.</param>
/// <param name="Acknowledgement">Number of the authority's acknowledgement, once there is one.</param>
public sealed record HouseholdMemberView(
    long? ClientId, string Name, string About, long? ReturnId, string Stage, int Errors, int Warnings, IReadOnlyList<string> Figures, string? StageKey, string? Acknowledgement);

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
/// <param name="Keeps">What is kept for later years with it; null where nothing ever is.</param>
public sealed record ClaimOptionView(string Label, string Saves, IReadOnlyList<string> Balances, string? Keeps);

/// <summary>A figure a claim turns on.</summary>
/// <param name="Label">What it is.</param>
/// <param name="Amount">The figure.</param>
/// <param name="Stressed">Whether it is the one that counts.</param>
public sealed record ClaimFactView(string Label, string Amount, bool Stressed);

/// <summary>What was paid in a month.</summary>
/// <param name="Month">The month, as 2025-08.</param>
/// <param name="Amount">How much.</param>
/// <param name="Counts">Whether it lies within the twelve months that give most.</param>
public sealed record ClaimMonthView(string Month, string Amount, bool Counts);

/// <summary>What the next income of a member costs the household.</summary>
/// <param name="Member">Whose income.</param>
/// <param name="Line">What the income is.</param>
/// <param name="Step">How much income.</param>
/// <param name="Cost">By how much the household's balance rises.</param>
/// <param name="Parts">The taxes it is made of; what is left are credits that are paid out.</param>
/// <param name="Moved">Amounts that taper, credits lost and benefits repaid: whose, what, by how much.</param>
public sealed record HouseholdIncomeView(string Member, string Line, string Step, string Cost, IReadOnlyList<IncomePartView> Parts, IReadOnlyList<IncomeMovedView> Moved);

/// <summary>A tax that makes up the cost of income.</summary>
public sealed record IncomePartView(string Label, string Amount);

/// <summary>A line that moves with income.</summary>
/// <param name="Member">In whose return.</param>
/// <param name="Label">The line.</param>
/// <param name="Movement">By how much.</param>
/// <param name="ReturnId">The return.</param>
/// <param name="Form">The form of the line.</param>
/// <param name="Line">Key of the line.</param>
public sealed record IncomeMovedView(string Member, string Label, string Movement, long ReturnId, string Form, string Line);

/// <summary>From last year's balance to this year's, cause by cause, of all members side by side.</summary>
/// <param name="Members">The members who had a return in both years.</param>
/// <param name="From">Last year's balance of each, and of all together.</param>
/// <param name="Causes">What moved it.</param>
/// <param name="To">This year's balance of each, and of all together.</param>
public sealed record HouseholdBridgeView(IReadOnlyList<string> Members, IReadOnlyList<string> From, IReadOnlyList<HouseholdCauseView> Causes, IReadOnlyList<string> To);

/// <summary>A cause.</summary>
/// <param name="Cause">The law of the year, or a form.</param>
/// <param name="Movements">What it moved for each member, and for all together.</param>
public sealed record HouseholdCauseView(string Cause, IReadOnlyList<string> Movements);

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
/// <param name="Spares">How much more is kept for later years when this alone is taken.</param>
/// <param name="Facts">Figures it turns on.</param>
/// <param name="Months">What was paid month by month, where a span of months is chosen.</param>
public sealed record SharedClaimView(
    string Key,
    string Title,
    string? Amount,
    string Now,
    string? Best,
    string Saves,
    string? Needs,
    string? Closed,
    IReadOnlyList<ClaimOptionView> Options,
    string Spares,
    IReadOnlyList<ClaimFactView> Facts,
    IReadOnlyList<ClaimMonthView> Months);

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
/// <param name="Events">What happened in the year: marriage, separation, arrival, death.</param>
/// <param name="NextIncome">What the next income of each member costs.</param>
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
    IReadOnlyList<string> Events,
    IReadOnlyList<HouseholdIncomeView> NextIncome,
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
        household.MapGet("/since-last-year", (long id, int year, ClaimsPrincipal user, HouseholdDesk desk) => SinceLastYear(desk.SinceLastYear(id, year, Caller.Of(user).Reach)));
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

        var edits = advice.SelectMany(found.ChangesOf).GroupBy(c => c.Return).Select(group => (group.Key, (IReadOnlyList<EntryChange>)[.. group.Select(c => c.Change)])).ToList();
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
                    m.Workspace?.Errors ?? 0, m.Workspace?.OpenWarnings ?? 0, m.Workspace is null ? [] : [.. m.Workspace.Evaluation.Outcome.Select(o => Figures.Canonical(o.Amount))],
                    m.Workspace?.Record.Stage, m.Acknowledgement)),
                .. found.Dependants.Select(d => new HouseholdMemberView(
                    null, d.Name, d.About, null, "net income only", 0, 0, [.. figures.Select(f => f.Line.Key == d.Line ? Figures.Canonical(d.Amount) : "")], null, null)),
            ],
            found.OutOfReach,
            [
                .. figures.Select((figure, at) => new HouseholdFigureView(
                    figure.Label, figure.Line.Key, figure.Line.Form.Key, Figures.Canonical(found.Members.Where(m => m.Workspace is not null).Sum(m => m.Workspace!.Evaluation.Outcome.ElementAt(at).Amount)))),
            ],
            [
                .. found.Allocation.Claims.Select(c => new SharedClaimView(
                    c.Claim.Key, c.Claim.Title, c.Claim.Amount is { } amount ? Figures.Canonical(amount) : null, c.Claim.Now, c.Best, Figures.Canonical(c.Saves), c.Claim.Needs, c.Claim.Closed ?? found.BoundBy(c),
                    [.. c.Options.Select(o => new ClaimOptionView(o.Label, Figures.Canonical(o.Saves), [.. o.Balances.Select(Figures.Canonical)], o.Keeps is { } keeps ? Figures.Canonical(keeps) : null))],
                    Figures.Canonical(c.Spares),
                    [.. c.Claim.Facts.Select(f => new ClaimFactView(f.Label, Figures.Canonical(f.Amount), f.Stressed))],
                    [.. c.Claim.Months.Select(m => new ClaimMonthView(m.Month.ToString("yyyy-MM", CultureInfo.InvariantCulture), Figures.Canonical(m.Amount), m.Counts))])),
            ],
            Figures.Canonical(found.Allocation.Saves),
            found.Events,
            [
                .. found.NextIncome.Select(i => new HouseholdIncomeView(
                    found.Filing[i.Member].Client.Name,
                    i.Line.Label,
                    Figures.Canonical(NextIncome.Step),
                    Figures.Canonical(i.Cost),
                    [.. i.Parts.Select(p => new IncomePartView(p.Label, Figures.Canonical(p.Amount)))],
                    [.. i.Moved.Select(m => new IncomeMovedView(found.Filing[m.Member].Client.Name, m.Line.Label, Figures.Canonical(m.Movement), found.ReturnOf(m.Member), m.Line.Form.Key, m.Line.Key))])),
            ],
            found.Stamp);
    }

    private static HouseholdBridgeView SinceLastYear(IReadOnlyList<MemberBridge> bridges)
    {
        IReadOnlyList<string> Row(Func<Bridge, decimal> amount) =>
            [.. bridges.Select(b => Figures.Canonical(amount(b.Bridge))), Figures.Canonical(bridges.Sum(b => amount(b.Bridge)))];
        var causes = bridges.SelectMany(b => b.Bridge.Steps.Select(s => s.Cause)).Distinct();
        return new HouseholdBridgeView(
            [.. bridges.Select(b => b.Member.Client.Name)],
            Row(b => b.From),
            [.. causes.Select(cause => new HouseholdCauseView(cause, Row(b => b.Steps.Where(s => s.Cause == cause).Sum(s => s.Movement))))],
            Row(b => b.To));
    }
}
