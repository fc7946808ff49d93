using System.Globalization;
using Aerarium.Core.Identifiers;
using Aerarium.Filing;
using Aerarium.StandIn.Philippines;

namespace Aerarium.StandIn;

/// <summary>What the authority has accepted of a taxpayer before a document is examined: returns, lists, and what was filed elsewhere.</summary>
public sealed class AcceptedBefore(Registry registry, PublishedSchemas schemas, Archive archive, Examiner examiner)
{
    /// <summary>The return of a period that was accepted last, or null.</summary>
    public Document? Return(string ofReturn, string pin, int year, string period) =>
        Latest(ofReturn, pin, year, period) is { } found ? examiner.Read(archive.Document(found))?.Document : null;

    /// <summary>The list of a quarter that was accepted last, or null.</summary>
    public ReceivedList? List(string ofReturn, string pin, int year, string period) =>
        Latest(ofReturn, pin, year, period) is { } found && schemas.Text($"{ofReturn}/{year}{PublishedSchema.TableEnding}") is { } layout
            ? new ReceivedList(new TableSchema(layout).Records(archive.Document(found)))
            : null;

    /// <summary>What was filed elsewhere for a period, or null.</summary>
    public FiledElsewhere? Elsewhere(string pin, int year, string period) => registry.Filed(IdentifierRule.Normalise(pin), year, period);

    private Submission? Latest(string ofReturn, string pin, int year, string period) => archive.All.FirstOrDefault(s =>
        s.Acknowledgement is not null && s.Return == ofReturn && IdentifierRule.Normalise(s.Pin ?? "") == IdentifierRule.Normalise(pin)
        && s.Year == year.ToString(CultureInfo.InvariantCulture) && s.Period == period);
}
