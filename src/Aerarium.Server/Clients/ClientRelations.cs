using System.Security.Claims;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Clients;

/// <summary>A relation as the page of one client shows it.</summary>
/// <param name="Id">Relation.</param>
/// <param name="Label">What the other is to this client: spouse, child, parent, director, directed company ...</param>
/// <param name="OtherId">The other client; null when it belongs to another team.</param>
/// <param name="Other">Its name.</param>
public sealed record RelationView(long Id, string Label, long? OtherId, string Other);

/// <summary>A relation to add.</summary>
/// <param name="Kind">What the other is to this client: spouse, child, parent, director, directs, shareholder, holds-shares-of, subsidiary, parent-company or associated.</param>
/// <param name="OtherId">The other client.</param>
public sealed record AddRelation(string Kind, long OtherId);

/// <summary>Relations between clients: family, office, shares.</summary>
internal static class ClientRelations
{
    /// <summary>Kinds by what the other is to this client: the stored kind, whether the other is who is it, and the label.</summary>
    private static readonly (string Kind, string Stored, bool OtherIsIt, string Label)[] Kinds =
    [
        ("spouse", "spouse", true, "spouse"),
        ("child", "child", true, "child"),
        ("parent", "child", false, "parent"),
        ("director", "director", true, "director"),
        ("directs", "director", false, "company directed"),
        ("shareholder", "shareholder", true, "shareholder"),
        ("holds-shares-of", "shareholder", false, "company held"),
        ("subsidiary", "subsidiary", true, "subsidiary"),
        ("parent-company", "subsidiary", false, "parent company"),
        ("associated", "associated", true, "associated company"),
    ];

    public static void MapRelations(this RouteGroupBuilder client)
    {
        client.MapPost("/relations", (long id, AddRelation asked, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            database.Write(unit => Add(unit, id, asked, Caller.Of(user), clock))).RequireAuthorization(Policies.Prepare);
        client.MapDelete("/relations/{relation:long}", (long id, long relation, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            database.Write(unit =>
            {
                var caller = Caller.Of(user);
                var view = Of(unit, id, caller.Reach).FirstOrDefault(r => r.Id == relation) ?? throw PlainProblem.NotFound("This relation");
                Relations.Remove(unit, relation);
                Acts.Add(unit, caller.Act("relation", clock.GetUtcNow()) with { ClientId = id, Before = $"{view.Label}: {view.Other}" });
                return Of(unit, id, caller.Reach);
            })).RequireAuthorization(Policies.Prepare);
    }

    /// <summary>The relations of a client; names out of reach are not told.</summary>
    public static IReadOnlyList<RelationView> Of(Unit unit, long id, Reach reach) =>
    [
        .. Relations.Of(unit, id).Select(relation =>
        {
            var otherIsIt = relation.ClientId != id;
            var other = otherIsIt ? relation.ClientId : relation.OfId;
            var label = Kinds.First(k => k.Stored == relation.Kind && (k.OtherIsIt == otherIsIt || k.Stored is "spouse" or "associated")).Label;
            return reach.SeesAll || Teams.CanSeeClient(unit, reach.PersonId, other)
                ? new RelationView(relation.Id, label, other, Storage.Clients.NameOf(unit, other))
                : new RelationView(relation.Id, label, null, "a client of another team");
        }),
    ];

    private static IReadOnlyList<RelationView> Add(Unit unit, long id, AddRelation asked, Caller caller, TimeProvider clock)
    {
        var kind = Kinds.FirstOrDefault(k => k.Kind == asked.Kind);
        if (kind.Kind is null)
        {
            throw PlainProblem.Refused($"There is no relation '{asked.Kind}'; there are {string.Join(", ", Kinds.Select(k => k.Kind))}.");
        }

        var self = Storage.Clients.Find(unit, id) ?? throw PlainProblem.NotFound("This client");
        var other = asked.OtherId != id && (caller.Reach.SeesAll || Teams.CanSeeClient(unit, caller.Id, asked.OtherId)) && Storage.Clients.Find(unit, asked.OtherId) is { } found
            ? found
            : throw PlainProblem.Refused("Choose another client for the relation.");
        var (it, of) = kind.OtherIsIt ? (other, self) : (self, other);
        if (Problem(unit, kind.Stored, it, of) is { } problem)
        {
            throw PlainProblem.Refused(problem);
        }

        Relations.Add(unit, new RelationRecord { ClientId = it.Id, Kind = kind.Stored, OfId = of.Id });
        Acts.Add(unit, caller.Act("relation", clock.GetUtcNow()) with { ClientId = id, After = $"{kind.Label}: {other.Name}" });
        return Of(unit, id, caller.Reach);
    }

    private static string? Problem(Unit unit, string kind, ClientRecord it, ClientRecord of)
    {
        var (itIsPerson, ofIsPerson) = (it.Kind == ClientKinds.Individual, of.Kind == ClientKinds.Individual);
        var existing = Relations.OfKind(unit, kind);
        return kind switch
        {
            "spouse" or "child" when !itIsPerson || !ofIsPerson => "Only individuals have family.",
            "director" when !itIsPerson || ofIsPerson => "An individual directs a company.",
            "shareholder" when ofIsPerson => "Shares are held in a company.",
            "subsidiary" when itIsPerson || ofIsPerson => "Only a company has a parent company.",
            "associated" when itIsPerson || ofIsPerson => "Only companies are associated with each other.",
            "associated" when existing.Any(r => r.ClientId == of.Id && r.OfId == it.Id) => "This relation is there already.",
            "spouse" when existing.FirstOrDefault(r => new[] { r.ClientId, r.OfId }.Any(i => i == it.Id || i == of.Id)) is { } married =>
                $"{Storage.Clients.NameOf(unit, married.ClientId)} and {Storage.Clients.NameOf(unit, married.OfId)} are spouses already; remove that first.",
            _ when existing.Any(r => r.ClientId == it.Id && r.OfId == of.Id) => "This relation is there already.",
            "child" or "subsidiary" when Reaches(existing, of.Id, it.Id) => $"{of.Name} stands below {it.Name} already; it cannot stand above as well.",
            _ => null,
        };
    }

    /// <summary>Whether one climbs from a client to another.</summary>
    private static bool Reaches(IReadOnlyList<RelationRecord> relations, long from, long to)
    {
        var (open, seen) = (new Queue<long>([from]), new HashSet<long>());
        while (open.TryDequeue(out var at))
        {
            if (at == to)
            {
                return true;
            }

            foreach (var up in relations.Where(r => r.ClientId == at && seen.Add(r.OfId)))
            {
                open.Enqueue(up.OfId);
            }
        }

        return false;
    }
}
