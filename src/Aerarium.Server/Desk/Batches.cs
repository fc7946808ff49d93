using System.Globalization;
using System.IO.Compression;
using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Server.Access;
using Aerarium.Server.Gathering;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;
using Microsoft.AspNetCore.Http.Features;

namespace Aerarium.Server.Desk;

/// <summary>An act on many returns: on those named, or on a whole list.</summary>
/// <param name="Act">assign, tag, untag, recheck, roll-forward, build, send or export.</param>
/// <param name="Argument">The person a return is assigned to, or the tag.</param>
/// <param name="Returns">The returns; null for the whole list.</param>
/// <param name="List">The list, when no returns are named.</param>
public sealed record StartBatch(string Act, string? Argument, IReadOnlyList<long>? Returns, DeskQuestion? List);

/// <summary>A batch and how far it has come.</summary>
/// <param name="Id">Batch.</param>
/// <param name="Act">What is done.</param>
/// <param name="State">running, stopped or done.</param>
/// <param name="Total">Returns.</param>
/// <param name="Done">Done.</param>
/// <param name="Refused">Refused, each with its reason.</param>
/// <param name="StartedAt">When.</param>
public sealed record BatchView(long Id, string Act, string State, long Total, long Done, long Refused, string StartedAt);

/// <summary>A batch with its results.</summary>
public sealed record BatchResults(BatchView Batch, IReadOnlyList<BatchItemRecord> Refused, IReadOnlyList<BatchItemRecord> Done);

internal static class BatchEndpoints
{
    private const int MostReturns = 20_000;
    private const int MostShown = 500;

    public static void MapBatches(this RouteGroupBuilder api)
    {
        var batches = api.MapGroup("/batches").ReachesPractice().WithTags("Desk");
        batches.MapPost("", Start).RequireAuthorization(Policies.Prepare);
        batches.MapGet("", (ClaimsPrincipal user, PracticeDatabase database) => database.Read(unit =>
            Batches.Of(unit, Caller.Of(user).Id, 10).Select(b => View(unit, b)).ToList()));
        batches.MapGet("/{batch:long}", (long batch, ClaimsPrincipal user, PracticeDatabase database) => database.Read(unit =>
        {
            var found = Own(unit, batch, user);
            return new BatchResults(View(unit, found), Batches.Items(unit, batch, "refused", MostShown), Batches.Items(unit, batch, "done", MostShown));
        }));
        batches.MapGet("/{batch:long}/parcels.zip", Parcels).Produces(StatusCodes.Status200OK, contentType: "application/zip");
        batches.MapPost("/{batch:long}/stop", (long batch, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            Move(batch, user, database, clock, "running", "stopped")).RequireAuthorization(Policies.Prepare);
        batches.MapPost("/{batch:long}/go-on", (long batch, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock, BatchRunner runner) =>
        {
            var view = Move(batch, user, database, clock, "stopped", "running");
            runner.Wake();
            return view;
        }).RequireAuthorization(Policies.Prepare);
    }

    /// <summary>The Parcels of every return the batch exported, in one zip; a return that changed since is left out.</summary>
    private static IResult Parcels(long batch, ClaimsPrincipal user, PracticeDatabase database, HttpContext http)
    {
        // The zip writer ends each of its entries with a write that does not wait.
        http.Features.GetRequiredFeature<IHttpBodyControlFeature>().AllowSynchronousIO = true;
        var items = database.Read(unit =>
        {
            if (Own(unit, batch, user).Act != "export")
            {
                throw PlainProblem.NotFound("An export in this batch");
            }

            return Batches.Items(unit, batch, "done", MostReturns);
        });
        var reach = Caller.Of(user).Reach;
        return Results.Stream(
            async stream =>
            {
                // The zip is written piece by piece, so that a thousand Parcels need no more memory than one.
                await using var zip = await ZipArchive.CreateAsync(stream, ZipArchiveMode.Create, leaveOpen: true, entryNameEncoding: null);
                foreach (var item in items)
                {
                    var parcel = database.Read(unit => reach.Sees(unit, item.ReturnId) && ParcelOf.IsComplete(unit, item.ReturnId)
                        ? (Name: FileNames.Of(unit, item.ReturnId, "zip"), Content: ParcelOf.Return(unit, item.ReturnId))
                        : default);
                    if (parcel.Content is not null)
                    {
                        var entry = zip.CreateEntry($"{item.ReturnId}-{parcel.Name}", CompressionLevel.NoCompression);
                        await using var content = await entry.OpenAsync();
                        await content.WriteAsync(parcel.Content);
                    }
                }
            },
            "application/zip",
            $"parcels-{batch}.zip");
    }

    private static BatchView Start(StartBatch asked, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock, BatchActs acts, BatchRunner runner)
    {
        var caller = Caller.Of(user);
        var now = clock.GetUtcNow();
        var view = database.Write(unit =>
        {
            acts.Check(unit, BatchActs.IsByHand(asked.Act) ? asked.Act : null, asked.Argument, caller);
            IReadOnlyList<long> returns;
            if (asked.Returns is not null)
            {
                returns = [.. asked.Returns.Distinct().Take(MostReturns)];
                if (returns.Where(r => Storage.Returns.Find(unit, r) is null || !caller.Reach.Sees(unit, r)).ToList() is [var unknown, ..])
                {
                    throw PlainProblem.NotFound($"The return {unknown}");
                }
            }
            else
            {
                var list = asked.List ?? throw PlainProblem.Refused("Name returns or a list.");
                returns = DeskLists.Ids(unit, list.Query(), caller.Reach, clock.Today().ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), MostReturns);
            }

            if (returns.Count == 0)
            {
                throw PlainProblem.Refused("There are no returns to do this with.");
            }

            var id = Batches.Add(unit, asked.Act, asked.Argument, caller.Id, Moments.Text(now), returns);
            Acts.Add(unit, caller.Act("batch", now) with { Line = asked.Act, After = $"{returns.Count} returns" });
            return View(unit, Batches.Find(unit, id)!);
        });
        runner.Wake();
        return view;
    }

    private static BatchView Move(long batch, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock, string from, string to) => database.Write(unit =>
    {
        var found = Own(unit, batch, user);
        if (!Batches.Move(unit, batch, from, to))
        {
            throw PlainProblem.Conflict($"This batch is not {from}.");
        }

        Acts.Add(unit, Caller.Of(user).Act("batch", clock.GetUtcNow()) with { Line = found.Act, Before = from, After = to });
        return View(unit, Batches.Find(unit, batch)!);
    });

    private static BatchRecord Own(Unit unit, long batch, ClaimsPrincipal user) =>
        Batches.Find(unit, batch) is { } found && found.CreatedBy == Caller.Of(user).Id ? found : throw PlainProblem.NotFound("This batch");

    private static BatchView View(Unit unit, BatchRecord batch)
    {
        var counts = Batches.Counts(unit, batch.Id);
        return new BatchView(batch.Id, batch.Act, batch.State, counts.Total, counts.Done, counts.Refused, batch.CreatedAt);
    }
}

/// <summary>What can be done with many returns at once, one return at a time.</summary>
public sealed class BatchActs(
    PracticeDatabase database,
    TimeProvider clock,
    Workbench workbench,
    ReturnOpening opening,
    FollowedParticulars particulars,
    RegisteredParticulars registered,
    EReturnBuilding building,
    SendingDesk sending,
    PlausibilityDesk plausibility,
    Ties ties,
    LiveReturns live)
{
    private static readonly string[] Known = ["assign", "tag", "untag", "recheck", "roll-forward", "build", "send", "export"];

    /// <summary>Carries the practice's particulars into returns; begun by saving them, never by hand.</summary>
    public const string FollowPractice = "follow-practice";

    /// <summary>Computes returns by the law they follow now; begun by turning a correction on or off, never by hand.</summary>
    public const string FollowLaw = "follow-law";

    private static readonly string[] NeverByHand = [FollowPractice, FollowLaw];

    /// <summary>Whether a person may begin it.</summary>
    public static bool IsByHand(string? act) => !NeverByHand.Contains(act);

    /// <summary>Refuses an act that does not exist, that lacks its argument, or that the person may not do.</summary>
    public void Check(Unit unit, string? act, string? argument, Caller caller)
    {
        if (!Known.Contains(act) && IsByHand(act))
        {
            throw PlainProblem.Refused($"There is no act '{act}'; the acts are {string.Join(", ", Known)}.");
        }

        var policy = act switch { "send" or FollowLaw => Policies.Approve, FollowPractice => Policies.Manage, _ => Policies.Prepare };
        if (!Policies.RolesByPolicy[policy].Any(caller.Roles.Contains))
        {
            throw new PlainProblem(StatusCodes.Status403Forbidden, $"{caller.Name} may not do this; an approver sends returns.");
        }

        if (act == "assign" && (!long.TryParse(argument, CultureInfo.InvariantCulture, out var holder) || People.Find(unit, holder) is not { Active: 1 }))
        {
            throw PlainProblem.Refused("Choose who is to hold the returns.");
        }

        if (act is "tag" or "untag" && (EntryReader.Clean(argument).Length is 0 or > 30 || argument!.Contains(',', StringComparison.Ordinal)))
        {
            throw PlainProblem.Refused("A tag has at most 30 characters and no comma.");
        }
    }

    /// <summary>Does it with one return; what came of it.</summary>
    /// <exception cref="PlainProblem">It cannot be done with this return; the message says why.</exception>
    public async Task<string> DoAsync(BatchRecord batch, long id, CancellationToken cancellation)
    {
        var caller = database.Read(unit =>
        {
            var person = People.Find(unit, batch.CreatedBy);
            var who = person is { Active: 1 } ? new Caller(person.Id, person.Name, person.RoleList) : throw PlainProblem.Conflict("Whoever started this may no longer sign in.");
            Check(unit, batch.Act, batch.Argument, who);
            // The law is the practice's: whoever turns it on need not see every return that follows.
            return batch.Act == FollowLaw || who.Reach.Sees(unit, id) ? who : throw PlainProblem.NotFound("This return");
        });
        switch (batch.Act)
        {
            case "assign":
                return Assign(id, long.Parse(batch.Argument!, CultureInfo.InvariantCulture), caller);
            case "tag" or "untag":
                return Tag(id, batch.Act, EntryReader.Clean(batch.Argument), caller);
            case "recheck":
                return Recheck(id);
            case "roll-forward":
                var opened = opening.RollForward(id, caller);
                await registered.VerifyAsync(opened, caller, cancellation);
                return $"return {workbench.Open(opened).InWords} opened";
            case "build":
                await building.BuildAsync(id, caller, cancellation);
                return "built";
            case "export":
                return database.Read(unit => ParcelOf.Return(unit, id).Length) is var bytes ? $"{bytes} bytes" : "";
            case FollowPractice:
                _ = particulars.Follow(id, caller) is null ? workbench.Refresh(id) : null;
                return "follows";
            case FollowLaw:
                var followed = workbench.Refresh(id);
                ties.Spread(id, caller);
                await live.TellStatusAsync(id);
                return $"balance {Figures.Canonical(followed.Evaluation.Balance)}, {followed.Errors} errors, {followed.OpenWarnings} warnings";
            default:
                await plausibility.CheckWhereAskedForAsync(id, caller, cancellation);
                sending.Queue(id, caller);
                return "on its way";
        }
    }

    private string Assign(long id, long holderId, Caller caller) => database.Write(unit =>
    {
        var item = Storage.Returns.Find(unit, id)!;
        var (before, after) = (People.Find(unit, item.HolderId)!.Name, People.Find(unit, holderId)!.Name);
        if (before != after)
        {
            Storage.Returns.SetHolder(unit, id, holderId);
            Acts.Add(unit, caller.Act("assign", clock.GetUtcNow()) with { ReturnId = id, ClientId = item.ClientId, Before = before, After = after });
        }

        return $"held by {after}";
    });

    private string Tag(long id, string act, string tag, Caller caller) => database.Write(unit =>
    {
        if (act == "tag" ? Tags.Put(unit, id, tag) : Tags.Remove(unit, id, tag))
        {
            Acts.Add(unit, caller.Act(act, clock.GetUtcNow()) with { ReturnId = id, ClientId = Storage.Returns.Find(unit, id)!.ClientId, After = tag });
        }

        return tag;
    });

    private string Recheck(long id)
    {
        var workspace = workbench.Refresh(id);
        return $"{workspace.Errors} errors, {workspace.OpenWarnings} warnings";
    }
}

/// <summary>Works batches off, one return after the other; goes on after a restart from where it stood. A refusal never stops the rest.</summary>
public sealed class BatchRunner(PracticeDatabase database, BatchActs acts, ILogger<BatchRunner> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);

    private readonly SemaphoreSlim _bell = new(0, 1);

    /// <summary>Says that there is work.</summary>
    public void Wake()
    {
        if (_bell.CurrentCount == 0)
        {
            _bell.Release();
        }
    }

    /// <inheritdoc />
    public override void Dispose()
    {
        base.Dispose();
        _bell.Dispose();
    }

    /// <inheritdoc />
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            if (database.Read(Batches.NextRunning) is not { } batch)
            {
                await _bell.WaitAsync(Pause, stoppingToken);
                continue;
            }

            if (database.Read(unit => Batches.NextItem(unit, batch.Id)) is not { } item)
            {
                database.Write(unit => Batches.Move(unit, batch.Id, "running", "done"));
                continue;
            }

            var (state, result) = await TryAsync(batch, item.ReturnId, stoppingToken);
            database.Write(unit => Batches.Note(unit, batch.Id, item.Position, state, result));
        }
    }

    private async Task<(string State, string Result)> TryAsync(BatchRecord batch, long id, CancellationToken cancellation)
    {
        try
        {
            return ("done", await acts.DoAsync(batch, id, cancellation));
        }
        catch (PlainProblem problem)
        {
            return ("refused", problem.Message);
        }
        catch (Exception problem) when (problem is not OperationCanceledException)
        {
            log.LogError(problem, "Batch {Batch}, return {Return}", batch.Id, id);
            return ("refused", "Something went wrong on the server; nothing was changed. Try it on this return alone.");
        }
    }
}
