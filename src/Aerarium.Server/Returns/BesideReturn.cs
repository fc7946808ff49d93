using Aerarium.Countries;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>The return of the same period to another authority, and how far it has come: one may be accepted and the other not sent.</summary>
/// <param name="Id">The return.</param>
/// <param name="Definition">Country and return.</param>
/// <param name="Title">Its title.</param>
/// <param name="Authority">The authority it goes to.</param>
/// <param name="Stage">How far it has come, in words.</param>
public sealed record BesideReturn(long Id, string Definition, string Title, string Authority, string Stage)
{
    /// <summary>In a phrase, for a list.</summary>
    public string Words => $"{Authority}: {Stage}";

    /// <summary>The one beside a return; null where its kind has none, or where nobody needs it.</summary>
    internal static BesideReturn? Of(Unit unit, long clientId, string definition, long year, string period)
    {
        if (Catalogue.TypeOf(definition).Beside is not { } other)
        {
            return null;
        }

        var (type, authority) = (Catalogue.TypeOf(other), Catalogue.AuthorityOf(other).Name);
        return Storage.Returns.FindOf(unit, clientId, other, year, period) is { } found ? new BesideReturn(found.Id, other, type.Title, authority, InWords(found)) : null;
    }

    private static string InWords(ReturnRecord record) => record.Stage switch
    {
        Storage.Stage.Waiting => "waits for approval",
        Storage.Stage.Approved => "approved, not sent",
        Storage.Stage.Sent => "sent, not answered",
        Storage.Stage.Accepted => "accepted",
        Storage.Stage.Rejected => "rejected, see the reasons",
        _ when record.Errors > 0 => record.Errors == 1 ? "not sent, 1 error left" : $"not sent, {record.Errors} errors left",
        _ => "not sent",
    };
}
