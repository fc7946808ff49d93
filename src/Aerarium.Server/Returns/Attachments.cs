using Aerarium.Core.Entries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>Counts the documents attached to a return into the lines that say how many there are of a kind.</summary>
public sealed class Attachments(PracticeDatabase database, Workbench workbench)
{
    /// <summary>Counts anew; what changed, or null. A return that can no longer change keeps what it was filed with.</summary>
    public EditResult? Follow(long returnId, Caller caller)
    {
        var workspace = workbench.Open(returnId);
        var lines = workspace.Definition.Lines.Where(l => l.CountsAttachments).ToList();
        if (lines.Count == 0 || !Stage.CanChange(workspace.Record.Stage))
        {
            return null;
        }

        var count = database.Read(unit => Documents.Of(unit, workspace.Record.ClientId)).Where(d => d.ReturnId == returnId).GroupBy(d => d.Kind).ToDictionary(g => g.Key, g => g.Count());
        List<EntryChange> changes =
        [
            .. lines
                .Select(line => (line.Key, Value: count.TryGetValue(line.Label, out var attached) ? $"{attached}" : null))
                .Where(c => workspace.Entries.GetValueOrDefault((c.Key, ""))?.Value != c.Value)
                .Select(c => new EntryChange(ChangeKind.Set, c.Key, null, null, null, c.Value, long.MaxValue)),
        ];
        return changes.Count == 0 ? null : workbench.Edit(returnId, caller, changes, Origin.Attached, "documents attached to the return");
    }
}
