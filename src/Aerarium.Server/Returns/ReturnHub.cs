using System.Collections.Concurrent;
using Aerarium.Server.Access;
using Aerarium.Server.Kept;
using Aerarium.Storage;
using Microsoft.AspNetCore.SignalR;

namespace Aerarium.Server.Returns;

/// <summary>Live connections of people who have a return open: changes of others, who is there, how sending goes.</summary>
public sealed class ReturnHub(Presence presence, PracticeDatabase database, KeptReturns files) : Hub
{
    /// <summary>Group of the connections that have a return open.</summary>
    public static string GroupOf(long returnId) => $"return-{returnId}";

    /// <summary>Opens a return on this connection; its revision now, so that a page which read it before knows whether it missed a change.</summary>
    /// <exception cref="HubException">The return belongs to another team.</exception>
    public async Task<long> Join(long returnId)
    {
        var caller = Caller.Of(Context.User!);
        var place = KeptReturns.IsKept(returnId) ? files.Find(returnId, caller.Id) : database.Read(unit => caller.Reach.Sees(unit, returnId)) ? database : null;
        if (place is null)
        {
            throw new HubException("This return does not exist, or no longer.");
        }

        await Groups.AddToGroupAsync(Context.ConnectionId, GroupOf(returnId));
        presence.Join(Context.ConnectionId, returnId, caller.Name);
        await TellPresence(returnId);
        return place.Read(unit => Storage.Returns.Find(unit, returnId))?.Revision ?? 0;
    }

    /// <summary>Closes a return on this connection.</summary>
    public async Task Leave(long returnId)
    {
        await Groups.RemoveFromGroupAsync(Context.ConnectionId, GroupOf(returnId));
        presence.Leave(Context.ConnectionId);
        await TellPresence(returnId);
    }

    /// <inheritdoc />
    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        if (presence.Leave(Context.ConnectionId) is { } returnId)
        {
            await TellPresence(returnId);
        }
    }

    private Task TellPresence(long returnId) => Clients.Group(GroupOf(returnId)).SendAsync("presence", returnId, presence.In(returnId));
}

/// <summary>Who has which return open.</summary>
public sealed class Presence
{
    private readonly ConcurrentDictionary<string, (long ReturnId, string Name)> _connections = new();

    /// <summary>Notes a connection.</summary>
    public void Join(string connection, long returnId, string name) => _connections[connection] = (returnId, name);

    /// <summary>Forgets a connection; the return it had open, or null.</summary>
    public long? Leave(string connection) => _connections.TryRemove(connection, out var was) ? was.ReturnId : null;

    /// <summary>Names of those who have a return open.</summary>
    public IReadOnlyList<string> In(long returnId) =>
        [.. _connections.Values.Where(c => c.ReturnId == returnId).Select(c => c.Name).Distinct().Order()];
}
