using Aerarium.Server.Access;
using Aerarium.Server.Kept;
using Aerarium.Storage;
using Microsoft.AspNetCore.SignalR;

namespace Aerarium.Server.Returns;

/// <summary>Live connections of people who have a return open: changes of others, who is there, how sending goes.</summary>
public sealed class ReturnHub(LiveReturns live, PracticeDatabase database, KeptReturns files) : Hub
{
    /// <summary>Opens a return on this connection; its revision now, so that a page which read it before knows whether it missed a change.</summary>
    /// <exception cref="HubException">The return does not exist, belongs to another team, or the session has ended.</exception>
    public async Task<long> Join(long returnId)
    {
        var place = KeptReturns.IsKept(returnId) ? files.Find(returnId, Caller.Of(Context.User!).Id) : database;
        if (place is null || !await live.JoinAsync(Context, returnId))
        {
            throw new HubException("This return does not exist, or no longer.");
        }

        return place.Read(unit => Storage.Returns.Find(unit, returnId))?.Revision ?? 0;
    }

    /// <summary>Closes the return on this connection.</summary>
    public Task Leave() => live.LeaveAsync(Context.ConnectionId);

    /// <inheritdoc />
    public override Task OnDisconnectedAsync(Exception? exception) => live.LeaveAsync(Context.ConnectionId);
}
