using Aerarium.Core.Entries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Clients;

/// <summary>Carries a client's particulars into the lines that follow them, in every return that has not been sent, unless somebody typed over them.</summary>
public sealed class ClientParticulars(PracticeDatabase database, Workbench workbench)
{
    /// <summary>Carries them into one return.</summary>
    public EditResult? Follow(long returnId, long clientId, Caller caller)
    {
        var workspace = workbench.Open(returnId);
        var (client, filed) = database.Read(unit => (
            Storage.Clients.Find(unit, clientId)!,
            Storage.Returns.OfClient(unit, clientId)
                .Where(r => r.Definition == workspace.Record.Definition && r.Year == workspace.Record.Year && r.Stage == Stage.Accepted)
                .Select(r => Sendings.OfReturn(unit, r.Id).FirstOrDefault(s => s.Acknowledgement is not null)?.Acknowledgement)
                .FirstOrDefault()));
        var changes = workspace.Definition.Lines
            .Where(l => l.ClientParticular is not null)
            .Where(l => workspace.Entries.GetValueOrDefault((l.Key, "")) is null or { Origin: "client" } or { Value: null } or { Origin: "last-year" })
            .Select(l => new EntryChange(ChangeKind.Set, l.Key, null, null, null, Particular(l.ClientParticular!), long.MaxValue))
            .Where(c => workspace.Entries.GetValueOrDefault((c.Line!, ""))?.Value != c.Value)
            .ToList();
        return changes.Count == 0 ? null : workbench.Edit(returnId, caller, changes, Origin.Client, null);

        string? Particular(string name) => name switch
        {
            "return-kind" => workspace.Record.Kind,
            "prior-acknowledgement" => workspace.Record.Kind == "amended" ? filed : null,
            _ => client.Particular(name),
        };
    }

    /// <summary>Carries them into every return of the client that can still change; the returns that changed.</summary>
    public IReadOnlyList<EditResult> FollowAll(long clientId, Caller caller) =>
    [
        .. database.Read(unit => Storage.Returns.OfClient(unit, clientId))
            .Where(r => Stage.CanChange(r.Stage))
            .Select(r => Follow(r.Id, clientId, caller))
            .OfType<EditResult>(),
    ];
}
