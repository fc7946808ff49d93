using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Desk;
using Aerarium.Storage;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server.Clients;

/// <summary>A page of the clients.</summary>
public sealed record ClientPage(long Total, IReadOnlyList<ClientListItem> Items);

/// <summary>A client in a list, with what stands open.</summary>
/// <param name="Id">Client.</param>
/// <param name="Country">Country in words.</param>
/// <param name="Kind">individual or company.</param>
/// <param name="Identifier">Taxpayer identifier.</param>
/// <param name="Code">The practice's own code, or null.</param>
/// <param name="Name">Official name.</param>
/// <param name="ClientGroup">Group, or null.</param>
/// <param name="Returns">How many returns there are.</param>
/// <param name="Open">How many of them are not sent yet.</param>
/// <param name="NextDue">The first day by which one of those is to be filed, or null.</param>
/// <param name="DaysLeft">Days until then, negative when it has passed; null without one.</param>
/// <param name="AssignedTo">Who those are assigned to.</param>
/// <param name="LeftToPay">What is left to pay of filed returns, canonical.</param>
/// <param name="Currency">Currency of that amount.</param>
public sealed record ClientListItem(
    long Id,
    string Country,
    string Kind,
    string Identifier,
    string? Code,
    string Name,
    string? ClientGroup,
    long Returns,
    long Open,
    string? NextDue,
    int? DaysLeft,
    IReadOnlyList<string> AssignedTo,
    string LeftToPay,
    string Currency);

/// <summary>Which clients are shown, and in which order; blank asks for nothing.</summary>
public sealed record ClientQuestion
{
    /// <summary>Words to find in name, identifier, code or group.</summary>
    public string? Search { get; init; }

    /// <summary>Code of a country.</summary>
    public string? Country { get; init; }

    /// <summary>individual or company.</summary>
    public string? Kind { get; init; }

    /// <summary>With an open return assigned to a person.</summary>
    public long? HolderId { get; init; }

    /// <summary>name, country, due, open, holder or unpaid.</summary>
    public string? Order { get; init; }

    /// <summary>The other way round.</summary>
    public bool? Descending { get; init; }

    /// <summary>As storage takes it.</summary>
    /// <exception cref="PlainProblem">There is no such order.</exception>
    public ClientQuery Query(bool typos = false) => Storage.Clients.OrderNames.Contains(Order ?? "name")
        ? new ClientQuery(Search, typos, Blank(Country), Blank(Kind), HolderId, Order ?? "name", Descending ?? false)
        : throw PlainProblem.Refused($"Clients are ordered by {string.Join(", ", Storage.Clients.OrderNames)}; '{Order}' is none of them.");

    private static string? Blank(string? text) => string.IsNullOrWhiteSpace(text) ? null : text;
}

/// <summary>A list of clients kept under a name.</summary>
public sealed record KeptClientList(string Name, ClientQuestion Question);

internal static class ClientListEndpoints
{
    private const int MostRows = 200;

    public static void MapClientLists(this RouteGroupBuilder clients)
    {
        clients.MapGet("", ([AsParameters] ClientQuestion asked, bool? typos, int? offset, int? limit, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            database.Read(unit =>
            {
                var (reach, query) = (Caller.Of(user).Reach, asked.Query());
                var total = Storage.Clients.Count(unit, query, reach);
                if (total == 0 && typos == true)
                {
                    query = query with { Typos = true };
                    total = Storage.Clients.Count(unit, query, reach);
                }

                var today = clock.Today();
                return new ClientPage(
                    total, [.. Storage.Clients.Page(unit, query, reach, Math.Max(0, offset ?? 0), Math.Clamp(limit ?? MostRows, 1, MostRows)).Select(c => Item(c, today))]);
            }));
        clients.MapGet("/groups", (ClaimsPrincipal user, PracticeDatabase database) => database.Read(unit => Storage.Clients.Groups(unit, Caller.Of(user).Reach)));
        clients.MapGet("/lists", (ClaimsPrincipal user, PracticeDatabase database) => database.Read(unit =>
            KeptLists.Of(unit, Caller.Of(user).Id, KeptLists.Clients).Select(k => new KeptClientList(k.Name, JsonSerializer.Deserialize<ClientQuestion>(k.Query)!)).ToList()));
        clients.MapPut("/lists/{name}", (string name, [FromBody] ClientQuestion asked, ClaimsPrincipal user, KeptListDesk lists) =>
        {
            asked.Query();
            lists.Keep(KeptLists.Clients, name, asked, Caller.Of(user));
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Own);
        clients.MapDelete("/lists/{name}", (string name, ClaimsPrincipal user, KeptListDesk lists) =>
        {
            lists.Forget(KeptLists.Clients, name, Caller.Of(user));
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Own);
    }

    private static ClientListItem Item(ClientListRecord client, DateOnly today)
    {
        var country = Catalogue.Countries.GetValueOrDefault(client.Country);
        var first = country?.Returns[0];
        var unpaid = JsonSerializer.Deserialize<List<string>>(client.Unpaid)!.Sum(a => decimal.Parse(a, CultureInfo.InvariantCulture));
        return new ClientListItem(
            client.Id,
            country?.Name ?? client.Country,
            client.Kind,
            client.Identifier,
            client.Code,
            client.Name,
            client.ClientGroup,
            client.Returns,
            client.Open,
            client.NextDue,
            client.NextDue is { } due ? DateOnly.ParseExact(due, "yyyy-MM-dd", CultureInfo.InvariantCulture).DayNumber - today.DayNumber : null,
            JsonSerializer.Deserialize<List<string>>(client.Holders)!,
            Figures.Canonical(unpaid),
            first is null ? "" : Catalogue.Get(first.Id, first.Years[^1], first.Periods[0]).Currency);
    }
}
