using Aerarium.Countries;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>The returns of a client that come before one, or last in a year.</summary>
internal static class EarlierReturn
{
    /// <summary>The return of the period before: the quarter before, the year before, or the last period that ended in it; null when the client has none.</summary>
    public static ReturnRecord? Of(Unit unit, ReturnRecord record) => Catalogue.Before(record.Definition, record.Year, record.Period)
        .Select(before => Storage.Returns.FindOf(unit, record.ClientId, record.Definition, before.Year, before.Period)).FirstOrDefault(r => r is not null);

    /// <summary>The return that figures are compared with: the same period a year earlier, or, where periods are the client's own, the one before.</summary>
    public static ReturnRecord? LastYear(Unit unit, ReturnRecord record) => Catalogue.TypeOf(record.Definition).FurtherPeriod is not null
        ? Of(unit, record)
        : Storage.Returns.FindOf(unit, record.ClientId, record.Definition, record.Year - 1, record.Period);

    /// <summary>The return of the last period of a year that there is one for.</summary>
    public static ReturnRecord? Latest(Unit unit, long clientId, string definition, long year) => Catalogue.TypeOf(definition).AllPeriods.Reverse()
        .Select(period => Storage.Returns.FindOf(unit, clientId, definition, year, period)).FirstOrDefault(r => r is not null);
}
