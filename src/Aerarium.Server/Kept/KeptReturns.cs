using System.Collections.Concurrent;
using System.Security.Cryptography;
using Aerarium.Server.Access;
using Aerarium.Server.Clients;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Kept;

/// <summary>An open file of a client who keeps the data.</summary>
/// <param name="Id">Id of the client while the file is open.</param>
/// <param name="Name">Name of the client.</param>
/// <param name="Returns">Its returns.</param>
/// <param name="Unsaved">Whether anything has changed since the file was last written.</param>
public sealed record KeptView(long Id, string Name, IReadOnlyList<ClientReturnItem> Returns, bool Unsaved);

/// <summary>
/// Clients who want nothing stored on the practice's server. Each lives in a database in memory while its file is open,
/// is reached under ids of its own, and is gone when the file is closed: nothing of it is written to disk or to the
/// practice's ledger.
/// </summary>
public sealed class KeptReturns(PracticeDatabase practice, Workbench workbench, LiveReturns live, TimeProvider clock, IConfiguration settings, ILogger<KeptReturns> log) : IDisposable
{
    private const int IdsPerFile = 1_000;
    private const string KeptBy = "kept-by";
    private static readonly TimeSpan MostWait = TimeSpan.FromSeconds(20);
    private static readonly TimeSpan ForgottenAfter = TimeSpan.FromHours(12);

    private readonly ConcurrentDictionary<long, Opened> _open = new();
    private readonly Lock _oneOpening = new();

    /// <summary>Whether an id belongs to a client-kept file.</summary>
    public static bool IsKept(long id) => id >= KeptClients.FirstId;

    /// <summary>The databases of all open files.</summary>
    public IEnumerable<PracticeDatabase> All => _open.Values.Select(o => o.Database);

    /// <summary>The database in which an id lives, when the person has that file open; otherwise null.</summary>
    public PracticeDatabase? Find(long id, long personId)
    {
        if (!_open.TryGetValue(FileOf(id), out var opened) || opened.OwnerId != personId)
        {
            return null;
        }

        opened.UsedAt = clock.GetUtcNow();
        return opened.Database;
    }

    /// <summary>The open files of a person.</summary>
    public IReadOnlyList<KeptView> Of(long personId) => [.. _open.Values.Where(o => o.OwnerId == personId).Select(View)];

    /// <summary>Begins a file for a new client.</summary>
    /// <exception cref="PlainProblem">The passphrase is too short.</exception>
    public KeptView Begin(ClientRecord client, string passphrase, Caller caller)
    {
        const int least = 12;
        if (passphrase.Length < least)
        {
            throw PlainProblem.Refused($"Choose a passphrase of at least {least} characters; without it nobody can open the file again.");
        }

        var id = KeptClients.FirstId + (RandomNumberGenerator.GetInt32(1, int.MaxValue) * (long)IdsPerFile);
        var key = OneAtATime(() => PassphraseKey.New(passphrase, MemoryKiB));
        var opened = new Opened(PracticeDatabase.InMemory($"kept-{Guid.NewGuid():N}"), key, id, caller.Id) { UsedAt = clock.GetUtcNow() };
        Equip(opened.Database, caller);
        opened.Database.Write(unit =>
        {
            Storage.Clients.Add(unit, client with { Id = id });
            Acts.Add(unit, caller.Act("kept-new", clock.GetUtcNow()) with { ClientId = id });
        });
        _open[FileOf(id)] = opened;
        Note("kept-new", caller);
        return View(opened);
    }

    /// <summary>Opens a file.</summary>
    /// <exception cref="PlainProblem">It cannot be read, is another practice's, or somebody has it open.</exception>
    public KeptView Open(byte[] file, string passphrase, Caller caller) => OneAtATime(() => OpenAlone(file, passphrase, caller));

    /// <summary>Deriving a key takes memory and time on purpose: one at a time.</summary>
    private T OneAtATime<T>(Func<T> work)
    {
        if (!_oneOpening.TryEnter(MostWait))
        {
            throw new PlainProblem(StatusCodes.Status503ServiceUnavailable, "Other files are being opened. Try again in a minute.");
        }

        try
        {
            return work();
        }
        finally
        {
            _oneOpening.Exit();
        }
    }

    private KeptView OpenAlone(byte[] file, string passphrase, Caller caller)
    {
        var (image, key) = KeptFile.Read(file, passphrase);
        PracticeDatabase database;
        try
        {
            database = PracticeDatabase.InMemory($"kept-{Guid.NewGuid():N}", image);
        }
        catch (Exception problem) when (problem is InvalidDataException or InvalidOperationException)
        {
            log.LogWarning(problem, "A client-kept file was not opened");
            throw PlainProblem.Refused("The file opens, but what is in it is not what Aerarium writes: it is damaged, of a later version, or was made by another program. It was closed again, and nothing in it was run.");
        }

        var (id, keptBy) = database.Read(unit => (KeptClients.OnlyId(unit), PracticeParticulars.Of(unit, KeptBy).GetValueOrDefault(KeptBy)));
        var opened = new Opened(database, key, id, caller.Id) { UsedAt = clock.GetUtcNow() };
        if (id < KeptClients.FirstId || id % IdsPerFile != 0 || keptBy != Identity())
        {
            database.Dispose();
            throw PlainProblem.Refused("The file belongs to another practice.");
        }

        if (!_open.TryAdd(FileOf(id), opened))
        {
            database.Dispose();
            var owner = practice.Read(unit => People.Find(unit, _open[FileOf(id)].OwnerId)!);
            throw PlainProblem.Conflict(owner.Id == caller.Id
                ? "You have this file open already."
                : $"{owner.Name} has this file open; it is worked on by one person at a time.");
        }

        Equip(database, caller);
        opened.Saved = database.Writes;
        Note("kept-open", caller);
        return View(opened);
    }

    /// <summary>Writes the file, without anything of the practice's own in it.</summary>
    public byte[] Save(long id, Caller caller)
    {
        var opened = Own(id, caller);
        var writes = opened.Database.Writes;
        using var copy = PracticeDatabase.InMemory($"kept-{Guid.NewGuid():N}", opened.Database.Image());
        copy.Write(unit =>
        {
            KeptClients.LeaveOutPractice(unit);
            PracticeParticulars.Put(unit, KeptBy, KeptBy, Identity());
        });
        copy.Compact();
        var file = KeptFile.Write(copy.Image(), opened.Key);
        opened.Saved = writes;
        Note("kept-save", caller);
        return file;
    }

    /// <summary>Closes a file; what was not saved is gone.</summary>
    /// <exception cref="PlainProblem">There is something unsaved, and nobody said to drop it.</exception>
    public void Close(long id, bool drop, Caller caller)
    {
        var opened = Own(id, caller);
        if (opened.Database.Writes != opened.Saved && !drop)
        {
            throw PlainProblem.Conflict("There are changes that are not in the file yet. Save it first, or say that they are to be dropped.");
        }

        if (_open.TryRemove(FileOf(id), out _))
        {
            Forget(opened);
        }

        Note("kept-close", caller);
    }

    /// <summary>Closes files nobody has touched for half a day, unless something in them is not saved.</summary>
    public void CloseForgotten()
    {
        foreach (var (file, opened) in _open.Where(o => o.Value.Database.Writes == o.Value.Saved && clock.GetUtcNow() - o.Value.UsedAt > ForgottenAfter))
        {
            if (_open.TryRemove(file, out _))
            {
                Forget(opened);
            }
        }
    }

    /// <inheritdoc />
    public void Dispose()
    {
        foreach (var opened in _open.Values)
        {
            Forget(opened);
        }
    }

    /// <summary>Drops everything of a file from memory: its database, its evaluated returns, its key.</summary>
    private void Forget(Opened opened)
    {
        foreach (var item in opened.Database.Read(unit => Storage.Returns.OfClient(unit, opened.ClientId)))
        {
            workbench.Forget(item.Id);
        }

        opened.Database.Dispose();
        CryptographicOperations.ZeroMemory(opened.Key.Key);
    }

    private int MemoryKiB => settings.GetValue("Kept:MemoryKiB", 64 * 1024);

    private static long FileOf(long id) => id / IdsPerFile;

    private Opened Own(long id, Caller caller) =>
        _open.TryGetValue(FileOf(id), out var opened) && opened.OwnerId == caller.Id ? opened : throw PlainProblem.NotFound("This open file");

    private string Identity() => practice.Read(Practices.Find)!.CreatedAt;

    /// <summary>What the work needs of the practice: its people by name, its particulars, certificate and credentials.</summary>
    private void Equip(PracticeDatabase kept, Caller caller)
    {
        var equipment = practice.Read(KeptClients.EquipmentOf);
        Follow(kept, caller, "while the file was closed", null, null, unit => KeptClients.Equip(unit, equipment));
    }

    /// <summary>A correction of the law was turned on or off: the returns of every open file follow it as those of the practice do.</summary>
    public void FollowLaw(Caller caller, string figure, string was, string says)
    {
        foreach (var opened in _open.Values)
        {
            Follow(opened.Database, caller, figure, was, says, unit => KeptClients.TakeLaw(unit, practice.ReadHere(LawEditions.All)));
        }
    }

    private void Follow(PracticeDatabase kept, Caller caller, string figure, string? was, string? says, Func<Unit, IReadOnlyList<ReturnRecord>> take)
    {
        using (PracticeDatabase.WorkIn(kept))
        {
            var moved = kept.Write(unit =>
            {
                var following = take(unit);
                FollowedLaw.Note(unit, following, caller, clock.GetUtcNow(), figure, was, says);
                return following;
            });
            foreach (var item in moved)
            {
                workbench.Refresh(item.Id);
                _ = live.TellStatusAsync(item.Id);
            }
        }
    }

    /// <summary>The practice's ledger says that a file was worked on, not whose.</summary>
    private void Note(string kind, Caller caller) => practice.Write(unit => Acts.Add(unit, caller.Act(kind, clock.GetUtcNow())));

    private static KeptView View(Opened opened) => opened.Database.Read(unit => new KeptView(
        opened.ClientId,
        Storage.Clients.NameOf(unit, opened.ClientId),
        [.. Storage.Returns.OfClient(unit, opened.ClientId).Select(ClientEndpoints.Item)],
        opened.Database.Writes != opened.Saved));

    private sealed class Opened(PracticeDatabase database, PassphraseKey key, long clientId, long ownerId)
    {
        public PracticeDatabase Database { get; } = database;

        public PassphraseKey Key { get; } = key;

        public long ClientId { get; } = clientId;

        public long OwnerId { get; } = ownerId;

        /// <summary>How often the database had been written to when the file was last written; -1 for never.</summary>
        public long Saved { get; set; } = -1;

        public DateTimeOffset UsedAt { get; set; }
    }
}
