using System.Security.Claims;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>A verification that is under way, or the last one.</summary>
/// <param name="Running">Whether it is under way.</param>
/// <param name="By">Who began it.</param>
/// <param name="StartedAt">When.</param>
/// <param name="Progress">How far it has come.</param>
/// <param name="Checks">What came of it; null while it runs, and when it was stopped or failed.</param>
/// <param name="Stopped">Whether somebody stopped it.</param>
public sealed record VerificationRun(bool Running, string By, string StartedAt, VerificationProgress? Progress, IReadOnlyList<VerificationCheck>? Checks, bool Stopped);

/// <summary>Runs verifications beside everybody's work, one at a time.</summary>
public sealed class VerificationDesk(Verification verification, TimeProvider clock, ILogger<VerificationDesk> log) : IDisposable
{
    private readonly Lock _one = new();
    private CancellationTokenSource? _stop;
    private Task _work = Task.CompletedTask;
    private VerificationRun? _run;

    /// <summary>The one under way, or the last one since the server started; null when there was none.</summary>
    public VerificationRun? Latest => Volatile.Read(ref _run);

    /// <summary>Begins one, unless one is under way.</summary>
    public VerificationRun Begin(Caller caller)
    {
        lock (_one)
        {
            if (_run is { Running: true } running)
            {
                return running;
            }

            _stop?.Dispose();
            _stop = new CancellationTokenSource();
            var (begun, stop) = (new VerificationRun(true, caller.Name, Moments.Text(clock.GetUtcNow()), null, null, false), _stop.Token);
            Volatile.Write(ref _run, begun);
            _work = Task.Run(() => Work(begun, caller, stop), CancellationToken.None);
            return begun;
        }
    }

    /// <summary>Stops the one under way.</summary>
    public void Stop()
    {
        lock (_one)
        {
            _stop?.Cancel();
        }
    }

    /// <inheritdoc />
    public void Dispose()
    {
        Stop();
        _work.Wait();
        _stop?.Dispose();
    }

    private void Work(VerificationRun begun, Caller caller, CancellationToken stop)
    {
        var ended = begun with { Running = false };
        try
        {
            ended = ended with { Checks = verification.Run(caller, progress => Volatile.Write(ref _run, begun with { Progress = progress }), stop) };
        }
        catch (OperationCanceledException)
        {
            ended = ended with { Stopped = true };
        }
        catch (Exception problem)
        {
            // Nobody waits for this work: what ends it is told by its state, and by the log.
            log.LogError(problem, "The verification ended before its time");
        }

        Volatile.Write(ref _run, ended);
    }
}

/// <summary>
/// Follows the Ledger's chain beside everybody's work: in steps from the last proof on when somebody looks, and the whole once a day.
/// </summary>
public sealed class LedgerWatch(PracticeDatabase database, TimeProvider clock, ILogger<LedgerWatch> log) : BackgroundService
{
    private const int ActsAtOnce = 5_000;
    private const int MostWhileSomebodyWaits = 50_000;
    private static readonly TimeSpan BetweenSteps = TimeSpan.FromMilliseconds(20);
    private static readonly TimeSpan BetweenLooks = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan BetweenWholes = TimeSpan.FromDays(1);

    private long? _broken;

    /// <summary>The chain as far as it has been followed, after following it from the last proof on.</summary>
    public ChainView Look()
    {
        var (count, whole, step) = database.Read(unit => (Acts.Count(unit), ActChain.Proof(unit, whole: true), ActChain.Proof(unit, whole: false)));
        var from = new[] { whole?.Place, step?.Place, ChainPlace.Beginning }.OfType<ChainPlace>().MaxBy(p => p.ActId)!;
        var walk = database.Read(unit => ActChain.Follow(unit, from, MostWhileSomebodyWaits));
        if (walk.Broken is null && walk.To.ActId > from.ActId)
        {
            database.Write(unit => ActChain.Prove(unit, walk.To, whole: false, Moments.Text(clock.GetUtcNow())));
        }

        return new ChainView(count, walk.Broken ?? _broken, walk.To.ActId, walk.AtEnd, whole?.Place.ActId, whole?.At);
    }

    /// <inheritdoc />
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            var proof = database.Read(unit => ActChain.Proof(unit, whole: true));
            if (proof is null || string.CompareOrdinal(proof.At, Moments.Text(clock.GetUtcNow() - BetweenWholes)) < 0)
            {
                await FollowWholeAsync(stoppingToken);
            }

            await Task.Delay(BetweenLooks, stoppingToken);
        }
    }

    private async Task FollowWholeAsync(CancellationToken stop)
    {
        var walk = new ChainWalk(ChainPlace.Beginning, null, false);
        while (!walk.AtEnd)
        {
            walk = database.Read(unit => ActChain.Follow(unit, walk.To, ActsAtOnce));
            await Task.Delay(BetweenSteps, stop);
        }

        _broken = walk.Broken;
        if (walk.Broken is { } broken)
        {
            log.LogError("The chain of acts breaks at act {Act}: it, or one before it, was altered outside the application", broken);
        }
        else
        {
            database.Write(unit => ActChain.Prove(unit, walk.To, whole: true, Moments.Text(clock.GetUtcNow())));
        }
    }
}

internal static class VerificationEndpoints
{
    public static void MapVerification(this RouteGroupBuilder api)
    {
        var verification = api.MapGroup("/acts/verification").ReachesPractice().WithTags("Practice");
        verification.MapGet("", (LedgerWatch watch) => watch.Look());
        verification.MapGet("/run", (VerificationDesk desk) => new VerificationShown(desk.Latest)).RequireAuthorization(Policies.Manage);
        verification.MapPost("", (ClaimsPrincipal user, VerificationDesk desk) => desk.Begin(Caller.Of(user))).RequireAuthorization(Policies.Manage);
        verification.MapPost("/stop", (VerificationDesk desk) =>
        {
            desk.Stop();
            return new VerificationShown(desk.Latest);
        }).RequireAuthorization(Policies.Manage);
    }
}

/// <summary>The verification under way or the last one, when there was one.</summary>
public sealed record VerificationShown(VerificationRun? Run);
