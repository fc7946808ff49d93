using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>
/// Carries the client's and the practice's particulars into the lines that follow them, in every return that has not
/// been sent, unless somebody typed over them.
/// </summary>
public sealed class FollowedParticulars(PracticeDatabase database, Workbench workbench)
{
    /// <summary>Carries them into one return; what changed, or null.</summary>
    public EditResult? Follow(long returnId, Caller caller)
    {
        var workspace = workbench.Open(returnId);
        var (client, acknowledgement, practice) = database.Read(unit => (
            Storage.Clients.Find(unit, workspace.Record.ClientId)!,
            workspace.Record.Kind == "amended" ? AcknowledgementOf(unit, workspace.Record) : null,
            PracticeParticulars.Of(unit, Catalogue.CountryOf(workspace.Record.Definition))));
        var fromClient = Changes(workspace, l => l.ClientParticular, "client", name => name switch
        {
            "return-kind" => workspace.Record.Kind,
            "prior-acknowledgement" => acknowledgement,
            _ => client.Particular(name),
        });
        var fromPractice = Changes(workspace, l => l.PracticeParticular, "practice", practice.GetValueOrDefault);
        var first = fromClient.Count == 0 ? null : workbench.Edit(returnId, caller, fromClient, Origin.Client, null);
        return fromPractice.Count == 0 ? first : workbench.Edit(returnId, caller, fromPractice, Origin.Practice, null);
    }

    /// <summary>Carries them into every return of the client that can still change; the returns that changed.</summary>
    public IReadOnlyList<EditResult> FollowAll(long clientId, Caller caller) =>
    [
        .. database.Read(unit => Storage.Returns.OfClient(unit, clientId))
            .Where(r => Stage.CanChange(r.Stage))
            .Select(r => Follow(r.Id, caller))
            .OfType<EditResult>(),
    ];

    /// <summary>The client's returns that can still change and whose findings are others now that the client's page says something else than before.</summary>
    public IReadOnlyList<Workspace> LookAgain(long clientId) =>
    [
        .. database.Read(unit => Storage.Returns.OfClient(unit, clientId))
            .Where(r => Stage.CanChange(r.Stage))
            .Select(r => (Before: workbench.Open(r.Id).FindingsStamp, Now: workbench.Refresh(r.Id)))
            .Where(r => r.Before != r.Now.FindingsStamp)
            .Select(r => r.Now),
    ];

    /// <summary>Whether an entry follows: nobody typed over it.</summary>
    public static bool Follows(EntryRecord? entry, string origin) =>
        entry is null or { Value: null } or { Origin: "last-year" } || entry.Origin == origin;

    private static List<EntryChange> Changes(Workspace workspace, Func<Line, string?> followed, string origin, Func<string, string?> particular) =>
    [
        .. workspace.Definition.Lines
            .Where(l => followed(l) is not null && Follows(workspace.Entries.GetValueOrDefault((l.Key, "")), origin))
            .Select(l => new EntryChange(ChangeKind.Set, l.Key, null, null, null, particular(followed(l)!), long.MaxValue))
            .Where(c => workspace.Entries.GetValueOrDefault((c.Line!, ""))?.Value != c.Value),
    ];

    private static string? AcknowledgementOf(Unit unit, ReturnRecord amended) =>
        Storage.Returns.OfClient(unit, amended.ClientId)
            .Where(r => r.Definition == amended.Definition && r.Year == amended.Year && r.Period == amended.Period && r.Stage == Stage.Accepted)
            .Select(r => Sendings.OfReturn(unit, r.Id).FirstOrDefault(s => s.Acknowledgement is not null)?.Acknowledgement)
            .FirstOrDefault();
}
