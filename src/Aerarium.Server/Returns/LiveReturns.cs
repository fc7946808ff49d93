using System.Collections.Concurrent;
using Aerarium.Server.Access;
using Aerarium.Server.Kept;
using Aerarium.Storage;
using Microsoft.AspNetCore.SignalR;

namespace Aerarium.Server.Returns;

/// <summary>
/// Who has which return open, and everything that is said to them. What is said goes to those who may see the return at that moment, by
/// their session, roles and teams as they are then; a connection whose right has gone, or whose cookie has run out, is cut.
/// </summary>
public sealed class LiveReturns(IHubContext<ReturnHub> hub, PracticeDatabase practice, TimeProvider clock) : IDisposable
{
    private readonly ConcurrentDictionary<string, Listener> _listeners = new();
    private readonly SemaphoreSlim _presence = new(1, 1);

    /// <summary>A connection listens to a return from now on, instead of one it listened to before.</summary>
    /// <returns>False when the person may not see the return.</returns>
    public async Task<bool> JoinAsync(HubCallerContext connection, long returnId)
    {
        var user = connection.User!;
        var listener = new Listener(connection, OpenSessions.TokenOf(user), Caller.Of(user), returnId, OpenSessions.EndOf(connection.GetHttpContext()));
        if (!May(listener))
        {
            return false;
        }

        var before = _listeners.TryGetValue(connection.ConnectionId, out var was) ? was.ReturnId : (long?)null;
        _listeners[connection.ConnectionId] = listener;
        if (before is { } other && other != returnId)
        {
            await TellPresenceAsync(other);
        }

        await TellPresenceAsync(returnId);
        return true;
    }

    /// <summary>A connection no longer listens.</summary>
    public Task LeaveAsync(string connection) =>
        _listeners.TryRemove(connection, out var was) ? TellPresenceAsync(was.ReturnId) : Task.CompletedTask;

    /// <summary>Says something to everybody who has a return open and may see it, but to the connection it comes from.</summary>
    public async Task TellAsync(long returnId, string what, object?[] told, string? exceptConnection = null, CancellationToken cancellation = default)
    {
        var listening = Allowed(returnId, exceptConnection);
        if (listening.Count > 0)
        {
            await hub.Clients.Clients(listening).SendCoreAsync(what, told, cancellation);
        }
    }

    /// <summary>Says that a return's stage, or what the authority says of it, has changed.</summary>
    public Task TellStatusAsync(long returnId, CancellationToken cancellation = default) => TellAsync(returnId, "status", [returnId], cancellation: cancellation);

    /// <summary>Cuts every connection of a person: a session ended, or roles or teams changed. What is still allowed connects again.</summary>
    public void Cut(long personId) => CutWhere(l => l.Person.Id == personId);

    /// <summary>Cuts the connections that may no longer listen: a client went to another team, or a session ended.</summary>
    public void CutThoseOutOfReach() => CutWhere(l => !May(l));

    /// <inheritdoc />
    public void Dispose() => _presence.Dispose();

    private void CutWhere(Func<Listener, bool> condition)
    {
        foreach (var (connection, listener) in _listeners.Where(l => condition(l.Value)))
        {
            _listeners.TryRemove(connection, out _);
            listener.Connection.Abort();
        }
    }

    /// <summary>One after the other, each with the names of its moment: what was true before never comes after what is true now.</summary>
    private async Task TellPresenceAsync(long returnId)
    {
        await _presence.WaitAsync();
        try
        {
            await TellAsync(returnId, "presence", [returnId, NamesIn(returnId)]);
        }
        finally
        {
            _presence.Release();
        }
    }

    private List<string> NamesIn(long returnId) =>
        [.. _listeners.Values.Where(l => l.ReturnId == returnId).Select(l => l.Person.Name).Distinct().Order()];

    private List<string> Allowed(long returnId, string? exceptConnection)
    {
        var allowed = new List<string>();
        foreach (var (connection, listener) in _listeners.Where(l => l.Value.ReturnId == returnId && l.Key != exceptConnection))
        {
            if (May(listener))
            {
                allowed.Add(connection);
            }
            else if (_listeners.TryRemove(connection, out _))
            {
                listener.Connection.Abort();
            }
        }

        return allowed;
    }

    /// <summary>Whether a listener may see its return now. What a client keeps is joined by whoever has the file open, and by nobody else.</summary>
    private bool May(Listener listener) => clock.GetUtcNow() < listener.Until && practice.ReadHere(unit =>
        Sessions.FindOpen(unit, listener.Session) is { } session
        && session.PersonId == listener.Person.Id
        && People.Find(unit, session.PersonId) is { } person
        && (KeptReturns.IsKept(listener.ReturnId) || new Caller(person.Id, person.Name, person.RoleList).Reach.Sees(unit, listener.ReturnId)));

    private sealed record Listener(HubCallerContext Connection, string Session, Caller Person, long ReturnId, DateTimeOffset Until);
}
