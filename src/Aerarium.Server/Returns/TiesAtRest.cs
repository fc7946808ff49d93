using Aerarium.Server.Access;

namespace Aerarium.Server.Returns;

/// <summary>
/// Carries edits into tied returns a moment after they were answered, so that neither the answer nor the page that shows it has to
/// share the machine with it. What one person edits in one return within that moment is carried together.
/// </summary>
public sealed class TiesAtRest(Ties ties, Workbench workbench, ILogger<TiesAtRest> log) : IAsyncDisposable
{
    private static readonly TimeSpan Rest = TimeSpan.FromMilliseconds(150);

    private readonly Lock _gate = new();
    private readonly Dictionary<(long Return, long Person), Edits> _waiting = [];

    /// <summary>Notes an edit that is to be carried into the returns tied to its own.</summary>
    public void Carry(EditResult edit, Caller caller)
    {
        if (edit.Values.Count + edit.Rows.Count == 0)
        {
            return;
        }

        var key = (edit.ReturnId, caller.Id);
        lock (_gate)
        {
            if (_waiting.TryGetValue(key, out var edits))
            {
                edits.Moved.UnionWith(edit.MovedLines);
                return;
            }

            // The flow of work goes along: it may be a client-kept file's.
            _waiting[key] = new Edits(caller, edit.MovedLines, ExecutionContext.Capture()!);
        }

        _ = CarryAtRestAsync(key);
    }

    /// <summary>Carries everything that waits, now.</summary>
    public async Task SettleAsync()
    {
        (long, long)[] keys;
        lock (_gate)
        {
            keys = [.. _waiting.Keys];
        }

        foreach (var key in keys)
        {
            await CarryNowAsync(key);
        }
    }

    /// <inheritdoc />
    public async ValueTask DisposeAsync() => await SettleAsync();

    private async Task CarryAtRestAsync((long Return, long Person) key)
    {
        await Task.Delay(Rest);
        await CarryNowAsync(key);
    }

    private async Task CarryNowAsync((long Return, long Person) key)
    {
        Edits? edits;
        lock (_gate)
        {
            if (!_waiting.Remove(key, out edits))
            {
                return;
            }
        }

        try
        {
            IReadOnlyList<EditResult> followed = [];
            ExecutionContext.Run(edits.Flow, _ => followed = ties.Spread(key.Return, edits.Caller, edits.Moved), null);
            foreach (var result in followed)
            {
                await workbench.TellAsync(result);
            }
        }
        catch (Exception problem)
        {
            log.LogError(problem, "Return {Return}: an edit was not carried into the returns tied to it; they follow when they are opened", key.Return);
        }
    }

    private sealed record Edits(Caller Caller, HashSet<string> Moved, ExecutionContext Flow);
}
