using Aerarium.Core.Definitions;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>A line an amended return changes.</summary>
/// <param name="Line">Line.</param>
/// <param name="Row">Row, or null.</param>
/// <param name="RowLabel">What the row is called by, or null.</param>
/// <param name="Form">Title of the form.</param>
/// <param name="Label">Label of the line.</param>
/// <param name="Kind">What the line holds.</param>
/// <param name="Computed">Whether it is computed.</param>
/// <param name="Filed">As filed; null when blank, or when the row is new.</param>
/// <param name="Now">As it stands now.</param>
public sealed record AmendedLine(
    string Line, string? Row, string? RowLabel, string Form, string Label, LineKind Kind, bool Computed, string? Filed, string? Now);

/// <summary>What an amended return changes against the one that was filed.</summary>
/// <param name="FiledReturn">The return that was filed.</param>
/// <param name="Acknowledgement">Its acknowledgement number.</param>
/// <param name="Lines">The lines that differ, in working order.</param>
public sealed record AmendmentReport(long FiledReturn, string? Acknowledgement, IReadOnlyList<AmendedLine> Lines);

/// <summary>Compares an amended return with the filed one it starts from.</summary>
public sealed class Amendment(PracticeDatabase database, Workbench workbench)
{
    /// <summary>What it changes; null for an original.</summary>
    public AmendmentReport? Of(long id)
    {
        var amended = workbench.Open(id);
        var filed = amended.Record.Kind != "amended" ? null : database.Read(unit => Storage.Returns.OfClient(unit, amended.Record.ClientId))
            .Where(r => r.Definition == amended.Record.Definition && r.Year == amended.Record.Year && r.Period == amended.Record.Period && r.Id < id && r.Stage == Stage.Accepted)
            .MaxBy(r => r.Id);
        if (filed is null)
        {
            return null;
        }

        var before = workbench.Open(filed.Id);
        var earlier = before.Evaluation.Values().ToDictionary(v => (v.Line, v.Row), v => v.Value);
        var present = amended.Evaluation.Values().ToDictionary(v => (v.Line, v.Row), v => v.Value);
        var acknowledgement = database.Read(unit => Sendings.OfReturn(unit, filed.Id).FirstOrDefault(s => s.Acknowledgement is not null)?.Acknowledgement);
        return new AmendmentReport(filed.Id, acknowledgement,
        [
            .. present.Keys.Union(earlier.Keys)
                .Select(place => (place, Line: amended.Definition.LineOf(place.Line), Filed: earlier.GetValueOrDefault(place), Now: present.GetValueOrDefault(place)))
                .Where(l => l.Filed != l.Now && !l.Line.OfOneYear && l.Line.Section != amended.Definition.RunningCharges?.Section && l.Line.ClientParticular is not ("return-kind" or "prior-acknowledgement"))
                .OrderBy(l => l.Line.Form.Number).ThenBy(l => l.Line.Section.Position).ThenBy(l => l.place.Row, StringComparer.Ordinal).ThenBy(l => l.Line.Slot)
                .Select(l => new AmendedLine(
                    l.Line.Key, l.place.Row, RowLabel(amended, l.Line, l.place.Row) ?? RowLabel(before, l.Line, l.place.Row),
                    l.Line.Form.Title, l.Line.Label, l.Line.Kind, l.Line.IsComputed, l.Filed, l.Now)),
        ]);
    }

    private static string? RowLabel(Workspace workspace, Line line, string? row) =>
        line.Table?.NamedBy is { } name && row is not null ? workspace.Entries.GetValueOrDefault((name.Key, row))?.Value : null;
}
