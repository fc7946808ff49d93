using System.Globalization;
using Aerarium.Core.Days;
using Aerarium.Core.Engine;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Households;

/// <summary>A member that was found, with the return of the year where there is one.</summary>
internal sealed record FoundMember(ClientRecord Client, string About, Workspace? Workspace, string? Acknowledgement);

/// <summary>A member with the way from last year's balance to this year's.</summary>
internal sealed record MemberBridge(FoundMember Member, Bridge Bridge);

/// <summary>A household in one year, with the best allocation of its claims.</summary>
internal sealed record FoundHousehold(
    string Title,
    string ReturnTitle,
    string Currency,
    int Year,
    IReadOnlyList<int> Years,
    IReadOnlyList<FoundMember> Members,
    int OutOfReach,
    IReadOnlyList<NamedDependant> Dependants,
    Allocation Allocation,
    IReadOnlyList<string> Events,
    IReadOnlyList<HouseholdIncome> NextIncome,
    string? Due)
{
    /// <summary>The members with a return, in the order in which claims name them.</summary>
    public IReadOnlyList<FoundMember> Filing { get; } = [.. Members.Where(m => m.Workspace is not null)];

    /// <summary>What it was worked out from: the revision of every return.</summary>
    public string Stamp => string.Join('-', Filing.Select(m => $"{m.Workspace!.Record.Id}.{m.Workspace.Record.Revision}"));

    /// <summary>The return of a member by its position among those who file.</summary>
    public long ReturnOf(int member) => Filing[member].Workspace!.Record.Id;

    /// <summary>What taking an advice changes in a member's return.</summary>
    public IEnumerable<(long Return, EntryChange Change)> ChangesOf(ClaimAdvice advice)
    {
        foreach (var entry in advice.Entries)
        {
            yield return (ReturnOf(entry.Member), new EntryChange(ChangeKind.Set, entry.Line, entry.Row, null, null, entry.Value, long.MaxValue));
        }

        foreach (var replaced in advice.Rows)
        {
            var workspace = Filing[replaced.Member].Workspace!;
            var page = workspace.Definition.FindTable(replaced.Table)!.OfPage!.Line;
            foreach (var old in workspace.Entries.Where(e => e.Key.Line == page.Key && e.Value.Value == replaced.Page))
            {
                yield return (ReturnOf(replaced.Member), new EntryChange(ChangeKind.RemoveRow, null, old.Key.Row, replaced.Table, null, null, long.MaxValue));
            }

            foreach (var (at, values) in replaced.Rows.Index())
            {
                var row = $"h{workspace.Record.Revision}-{replaced.Page}-{at}";
                yield return (ReturnOf(replaced.Member), new EntryChange(ChangeKind.AddRow, null, row, replaced.Table, null, null, long.MaxValue));
                foreach (var (column, value) in values.Append(KeyValuePair.Create(page.Name, replaced.Page)))
                {
                    yield return (ReturnOf(replaced.Member), new EntryChange(ChangeKind.Set, $"{replaced.Table}.{column}", row, null, null, value, long.MaxValue));
                }
            }
        }
    }

    /// <summary>Why what is best can no longer be taken: one of the returns was handed over or filed. Null while it can.</summary>
    public string? BoundBy(ClaimAdvice advice) => advice.Moves.Select(m => Filing[m]).FirstOrDefault(m => m.Workspace!.Record.Stage is not (Stage.Open or Stage.Rejected)) is { } filed
        ? $"the return of {filed.Client.Name} is {StageInWords(filed.Workspace!)}."
        : null;

    /// <summary>How far a return has come, in words.</summary>
    public static string StageInWords(Workspace workspace) => workspace.Record.Stage switch
    {
        Stage.Open when workspace.Errors > 0 => workspace.Errors == 1 ? "fill, 1 error" : $"fill, {workspace.Errors} errors",
        Stage.Open => "review",
        Stage.Waiting => "waiting for approval",
        Stage.Sent => "sent, not answered yet",
        var stage => stage,
    };
}

/// <summary>Finds households: a couple and their children who have returns of one kind, and works out what they may claim here or there.</summary>
internal sealed class HouseholdDesk(PracticeDatabase database, Workbench workbench, TimeProvider clock)
{
    /// <summary>The household of a client in a year; members out of reach are counted and not named.</summary>
    /// <exception cref="PlainProblem">The client is no individual.</exception>
    public FoundHousehold Find(long clientId, int year, Reach reach) => database.Read(unit =>
    {
        var self = Storage.Clients.Find(unit, clientId) ?? throw PlainProblem.NotFound("This client");
        if (self.Kind != ClientKinds.Individual)
        {
            throw PlainProblem.Conflict("Households are of individuals; this client is a company.");
        }

        var type = Catalogue.Countries[self.Country].Returns.First(r => r.FiledBy == ClientKinds.Individual);
        var (people, outOfReach) = People(unit, self, reach);
        var members = people.Select(p =>
        {
            var record = Storage.Returns.FindOf(unit, p.Client.Id, type.Id, year, Core.Definitions.Periods.WholeYear);
            return new FoundMember(p.Client, p.About, record is null ? null : workbench.Open(unit, record.Id), record is null ? null : Sendings.OfReturn(unit, record.Id).LastOrDefault(s => s.Acknowledgement is not null)?.Acknowledgement);
        }).ToList();
        var years = people.SelectMany(p => Storage.Returns.OfClient(unit, p.Client.Id)).Where(r => r.Definition == type.Id && r.Period.Length == 0).Select(r => (int)r.Year).Distinct().OrderDescending().ToList();
        var filing = members.Where(m => m.Workspace is not null).ToList();
        var household = new Household([.. filing.Select(m => Member(unit, m, filing))], clock.Today());
        var filed = Enumerable.Range(0, filing.Count).Where(m => !Stage.CanChange(filing[m].Workspace!.Record.Stage)).ToHashSet();
        string Settled(int member) => $"settled: the return of {filing[member].Client.Name} is {FoundHousehold.StageInWords(filing[member].Workspace!)}";
        var open = filing.Where(m => m.Workspace!.Record.Stage is not (Stage.Sent or Stage.Accepted)).ToList();
        return new FoundHousehold(
            self.ClientGroup ?? (members.Count > 1 ? $"Household of {self.Name}" : self.Name),
            type.Title,
            filing.Count > 0 ? filing[0].Workspace!.Definition.Currency : "",
            year,
            years,
            members,
            outOfReach,
            type.SharedClaims?.Dependants(household) ?? [],
            type.SharedClaims is { } claims && filing.Count > 0 ? Allocation.Of(household, [.. claims.Of(household).Select(c => c.After(filed, Settled))]) : new Allocation([], 0, 0),
            type.SharedClaims?.Events(household) ?? [],
            type.SharedClaims is { } law ? HouseholdIncome.Of(household, law.Taxes, law.MovedByIncome) : [],
            open.Count == 0 ? null : open.Min(m => m.Workspace!.Evaluation.Deadlines.Where(d => d.Act == "filing").Select(d => d.Day).Order().FirstOrDefault()).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
    });

    /// <summary>How the balance of each member became what it is from last year's, for those who had a return then.</summary>
    /// <exception cref="PlainProblem">The client is no individual.</exception>
    public IReadOnlyList<MemberBridge> SinceLastYear(long clientId, int year, Reach reach)
    {
        var found = Find(clientId, year, reach);
        return database.Read(unit => found.Filing.Select(member =>
        {
            var now = member.Workspace!;
            var last = Storage.Returns.FindOf(unit, member.Client.Id, now.Record.Definition, year - 1, now.Record.Period);
            return last is null ? null : new MemberBridge(member, Bridge.Between(workbench.Open(unit, last.Id).Evaluation, now.Evaluation, now.Today));
        }).OfType<MemberBridge>().ToList());
    }

    /// <summary>The couple, or the one person, and their children by age. Somebody with neither spouse nor children belongs to the parents' household.</summary>
    private static (IReadOnlyList<(ClientRecord Client, string About)> People, int OutOfReach) People(Unit unit, ClientRecord self, Reach reach)
    {
        IReadOnlyList<long> Of(long client, string relation) => Relatives.Of(unit, client, relation);
        var hasFamilyOfOwn = Of(self.Id, "spouse").Count > 0 || Of(self.Id, "child").Count > 0;
        var parents = hasFamilyOfOwn ? [] : Of(self.Id, "parent").Where(p => reach.SeesClient(unit, p)).ToList();
        List<long> heads = parents.Count > 0 ? parents : [self.Id];
        List<long> couple = [.. heads.Concat(heads.SelectMany(h => Of(h, "spouse"))).Distinct()];
        List<long> children = [.. couple.Where(h => reach.SeesClient(unit, h)).SelectMany(h => Of(h, "child")).Distinct().Except(couple)];
        return (
            [.. Shown(couple).Select(c => (c, "")), .. Shown(children).Select(c => (c, "child"))],
            couple.Concat(children).Count(c => !reach.SeesClient(unit, c)));

        IEnumerable<ClientRecord> Shown(List<long> ids) => ids.Where(id => reach.SeesClient(unit, id)).Select(id => Storage.Clients.Find(unit, id)!).Where(c => c.Country == self.Country)
            .OrderBy(c => c.BirthDate, StringComparer.Ordinal);
    }

    private static HouseholdMember Member(Unit unit, FoundMember member, List<FoundMember> all)
    {
        var workspace = member.Workspace!;
        return new HouseholdMember(
            member.Client.Name,
            member.Client.Identifier,
            workspace.Evaluation,
            Relatives.Family.ToDictionary(r => r, r => (IReadOnlyList<int>)[.. Relatives.Of(unit, member.Client.Id, r).Select(id => all.FindIndex(m => m.Client.Id == id)).Where(at => at >= 0)]),
            Stage.CanChange(workspace.Record.Stage)
                ? workspace.Definition.Lines.Where(l => l.Ties.Count > 0 && FollowedParticulars.Follows(workspace.Entries.GetValueOrDefault((l.Key, "")), "tied")).Select(l => l.Key).ToHashSet()
                : new HashSet<string>());
    }
}
