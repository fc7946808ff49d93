using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Gathering;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Desk;

/// <summary>A return that nobody must file, was not opened, and would likely give a refund.</summary>
/// <param name="ClientId">The client.</param>
/// <param name="Client">Name.</param>
/// <param name="Definition">The return.</param>
/// <param name="Title">Its title.</param>
/// <param name="Year">The year that was not filed.</param>
/// <param name="Until">The last day of filing it.</param>
/// <param name="DaysLeft">Days until then.</param>
/// <param name="Refund">How much, canonical: computed from statements of the year, or the refund of another year.</param>
/// <param name="Currency">Its currency.</param>
/// <param name="Known">What that rests on, in words.</param>
public sealed record LikelyRefund(
    long ClientId, string Client, string Definition, string Title, int Year, DateOnly Until, int DaysLeft, string Refund, string Currency, string Known);

/// <summary>
/// Clients for whom a voluntary return of an earlier year would likely give a refund, from what is known: statements of that year put into what usually lasts of the client's nearest return, or
/// else the refund of that return. An estimate to ask the client by, never a figure to file.
/// </summary>
internal sealed class LikelyRefunds(PracticeDatabase database, Workbench workbench, TimeProvider clock)
{
    private const int MostShown = 200;

    public static void Map(RouteGroupBuilder api) =>
        api.MapGet("/desk/likely-refunds", (ClaimsPrincipal user, LikelyRefunds refunds) => refunds.Of(Caller.Of(user).Reach)).ReachesPractice().WithTags("Desk");

    /// <summary>Those of the clients somebody sees, the first day to run out first.</summary>
    public IReadOnlyList<LikelyRefund> Of(Reach reach) => database.Read(unit => Catalogue.Returns
        .Where(type => Catalogue.Get(type.Id, type.Years[^1], type.Periods[0]).VoluntaryUntil is not null)
        .SelectMany(type => Storage.Returns.OfKind(unit, type.Id, reach).GroupBy(r => r.ClientId).SelectMany(client => OfClient(unit, type, [.. client])))
        .OrderBy(r => r.Until).ThenBy(r => r.Client, StringComparer.Ordinal).Take(MostShown).ToList());

    private IEnumerable<LikelyRefund> OfClient(Unit unit, ReturnType type, IReadOnlyList<ReturnRecord> returns)
    {
        var today = clock.Today();
        var name = Storage.Clients.NameOf(unit, returns[0].ClientId);
        foreach (var year in type.Years.Where(y => y < today.Year && returns.All(r => r.Year != y)))
        {
            var definition = Catalogue.Get(type.Id, year);
            if (definition.VoluntaryUntil is not { } until || until < today)
            {
                continue;
            }

            var nearest = returns.OrderBy(r => Math.Abs(r.Year - year)).ThenByDescending(r => r.Year).First();
            if (Known(unit, nearest, definition, today) is { Balance: < 0 } known)
            {
                yield return new LikelyRefund(
                    nearest.ClientId, name, type.Id, type.Title, year, until, until.DayNumber - today.DayNumber, (-known.Balance).ToString("0.##", CultureInfo.InvariantCulture), definition.Currency, known.Words);
            }
        }
    }

    private (decimal Balance, string Words) Known(Unit unit, ReturnRecord nearest, Definition definition, DateOnly today)
    {
        var items = StatementDesk.ItemsFor(unit, nearest with { Year = definition.Year });
        if (items.Count == 0)
        {
            return (decimal.Parse(nearest.Balance, CultureInfo.InvariantCulture), $"{nearest.Year} shows a refund");
        }

        var known = workbench.Open(unit, nearest.Id);
        var entries = new EntrySet
        {
            Values = known.EntrySet.Values.Where(v => definition.FindLine(v.Key) is { IsComputed: false } line && ReturnOpening.Lasts(line)).ToDictionary(),
            Rows = items.GroupBy(i => i.Section).ToDictionary(s => s.Key, s => s.Select((item, at) => new EntryRow($"{at + 1}") { Values = item.Values.ToDictionary() }).ToList()),
        };
        return (definition.Evaluate(entries, today).Balance, items.Count == 1 ? $"from {items[0].Title} of {definition.Year}" : $"from {items.Count} statements of {definition.Year}");
    }
}
