using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Households;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>A company of an agreement.</summary>
/// <param name="ReturnId">Its return; null while there is none.</param>
/// <param name="Client">Its name.</param>
/// <param name="Stage">How far its return has come, in words.</param>
/// <param name="Part">Its part as its return states it; null while it states none.</param>
/// <param name="MayChange">Whether its return can still be changed.</param>
public sealed record AgreementMemberView(long? ReturnId, string Client, string Stage, string? Part, bool MayChange);

/// <summary>What a group divides between its companies, as their returns state it.</summary>
/// <param name="What">What is divided.</param>
/// <param name="Form">The form it stands on.</param>
/// <param name="Unit">Unit of the parts.</param>
/// <param name="Whole">What the parts come to at most.</param>
/// <param name="Members">The companies among the clients, this one first.</param>
/// <param name="OfOthers">Parts of companies that are no clients.</param>
/// <param name="OutOfReach">Companies among the clients that the person does not see.</param>
/// <param name="Stamp">What this was read from; changing it names this.</param>
public sealed record AgreementView(string What, string Form, string? Unit, string Whole, IReadOnlyList<AgreementMemberView> Members, string OfOthers, int OutOfReach, string Stamp);

/// <summary>The part of one company.</summary>
/// <param name="ReturnId">Its return.</param>
/// <param name="Part">The part.</param>
public sealed record AgreedPart(long ReturnId, string Part);

/// <summary>An agreement to be written into all returns concerned.</summary>
/// <param name="Parts">The parts.</param>
/// <param name="Stamp">The stamp of the agreement that was looked at.</param>
public sealed record AgreeParts(IReadOnlyList<AgreedPart> Parts, string Stamp);

/// <summary>The agreement of a group of related clients: one for all of them, written into every return at once or into none.</summary>
public sealed class AgreementDesk(PracticeDatabase database, Workbench workbench, Ties ties)
{
    /// <summary>The agreement a return takes part in; null where it takes part in none.</summary>
    public AgreementView? Of(long id, Reach reach)
    {
        var workspace = workbench.Open(id);
        if (Catalogue.TypeOf(workspace.Record.Definition).Agreement is not { } shared || !workspace.Evaluation.IsOpen(workspace.Definition.LineOf(shared.Line)))
        {
            return null;
        }

        var line = workspace.Definition.LineOf(shared.Line);
        var (members, outOfReach) = database.Read(unit =>
        {
            var all = Relatives.Of(unit, workspace.Record.ClientId, shared.Relation);
            var seen = all.Where(c => reach.SeesClient(unit, c)).ToList();
            return (seen.Prepend(workspace.Record.ClientId).Select(c => (
                    Storage.Clients.Find(unit, c)!.Name,
                    Return: Storage.Returns.FindOf(unit, c, workspace.Record.Definition, workspace.Record.Year, workspace.Record.Period)
                        ?? Storage.Returns.FindOf(unit, c, workspace.Record.Definition, workspace.Record.Year, Core.Definitions.Periods.WholeYear))).ToList(),
                all.Count - seen.Count);
        });
        var others = workspace.Definition.LineOf(shared.Others);
        var opened = members.ConvertAll(m => (m.Name, There: m.Return is { } record ? workbench.Open(record.Id) : null));
        return new AgreementView(
            shared.What,
            line.Form.Key,
            line.Unit,
            Figures.Canonical(shared.Whole),
            [
                .. opened.Select(m => new AgreementMemberView(
                    m.There?.Record.Id, m.Name, m.There is null ? "no return yet" : FoundHousehold.StageInWords(m.There), m.There?.Evaluation.Value(m.There.Definition.LineOf(shared.Line)), m.There is not null && Stage.CanChange(m.There.Record.Stage))),
            ],
            Figures.Canonical(Enumerable.Range(0, workspace.RowsOf(others.Table!.Key).Count).Sum(row => workspace.Evaluation.Amount(others.Key, row))),
            outOfReach,
            string.Join(' ', opened.Select(m => m.There is null ? "-" : $"{m.There.Record.Id}.{m.There.Record.Revision}")));
    }

    /// <summary>Writes the parts into all returns; what changed in each, and in those that follow.</summary>
    /// <exception cref="PlainProblem">A return has changed since, can no longer be changed, or the parts come to more than the whole.</exception>
    public IReadOnlyList<EditResult> Agree(long id, AgreeParts asked, Caller caller)
    {
        var now = Of(id, caller.Reach) ?? throw PlainProblem.Refused("This return takes part in no agreement.");
        if (now.Stamp != asked.Stamp)
        {
            throw PlainProblem.Conflict("A return of the group has changed since this was read. Look at the parts again; nothing was written.");
        }

        var line = Catalogue.TypeOf(workbench.Open(id).Record.Definition).Agreement!.Line;
        var edits = new List<(long Id, IReadOnlyList<EntryChange> Changes)>();
        var sum = Number(now.OfOthers);
        foreach (var member in now.Members)
        {
            var part = asked.Parts.FirstOrDefault(p => p.ReturnId == member.ReturnId)?.Part;
            if (part is null)
            {
                sum += Number(member.Part);
                continue;
            }

            if (!decimal.TryParse(part, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value))
            {
                throw PlainProblem.Refused($"The part of {member.Client} is no number: '{part}'.");
            }

            sum += value;
            if (member.Part is { } before && Number(before) == value)
            {
                continue;
            }

            if (!member.MayChange)
            {
                throw PlainProblem.Conflict($"The return of {member.Client} is {member.Stage}; its part can only be changed by an amended return. Nothing was written.");
            }

            edits.Add((member.ReturnId!.Value, [new EntryChange(ChangeKind.Set, line, null, null, null, Figures.Canonical(value), long.MaxValue)]));
        }

        if (sum > Number(now.Whole))
        {
            throw PlainProblem.Refused($"The parts come to {Figures.Plain(sum)}{now.Unit}; together they are at most {Figures.Plain(Number(now.Whole))}{now.Unit}.");
        }

        var results = workbench.EditTogether(edits, caller, Origin.Typed, "agreement of the group").ToList();
        results.AddRange(results.ToList().SelectMany(r => ties.Spread(r.ReturnId, caller)));
        return results;
    }

    private static decimal Number(string? value) => value is null ? 0 : decimal.Parse(value, CultureInfo.InvariantCulture);
}

internal static class AgreementEndpoints
{
    public static void MapAgreements(this RouteGroupBuilder api)
    {
        var agreement = api.MapGroup("/returns/{id:long}/agreement").ReachesReturn().WithTags("Returns");
        agreement.MapGet("", (long id, ClaimsPrincipal user, AgreementDesk desk) => desk.Of(id, Caller.Of(user).Reach));
        agreement.MapPut("", async (long id, AgreeParts asked, ClaimsPrincipal user, AgreementDesk desk, Workbench workbench) =>
        {
            foreach (var result in desk.Agree(id, asked, Caller.Of(user)))
            {
                await workbench.TellAsync(result);
            }

            return desk.Of(id, Caller.Of(user).Reach);
        }).RequireAuthorization(Policies.Prepare);
    }
}
