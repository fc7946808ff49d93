using System.Reflection;
using Dapper;
using DbUp;
using DbUp.Engine.Output;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Aerarium.Storage;

/// <summary>A connection, inside a transaction when it writes; handed to repositories.</summary>
/// <param name="Connection">The connection.</param>
/// <param name="Transaction">The transaction, or null for reading.</param>
public sealed record Unit(SqliteConnection Connection, SqliteTransaction? Transaction)
{
    /// <summary>Ends whatever the database is doing for this unit, from another thread; it fails as interrupted.</summary>
    public void Interrupt() => raw.sqlite3_interrupt(Connection.Handle);

    internal IEnumerable<T> Query<T>(string sql, object? values = null) => Connection.Query<T>(sql, values, Transaction);

    /// <summary>The same, one row at a time, for what is too much to hold at once.</summary>
    internal IEnumerable<T> Stream<T>(string sql, object? values = null) => Connection.Query<T>(sql, values, Transaction, buffered: false);

    internal T? Single<T>(string sql, object? values = null) => Connection.QuerySingleOrDefault<T>(sql, values, Transaction);

    internal int Execute(string sql, object? values = null) => Connection.Execute(sql, values, Transaction);

    internal long Insert(string sql, object values) => Connection.ExecuteScalar<long>($"{sql} RETURNING id", values, Transaction);
}

/// <summary>
/// The database file of one practice: SQLite with write-ahead log, foreign keys and full synchronisation. One writer at
/// a time, waiting in a queue; any number of readers.
/// </summary>
public sealed class PracticeDatabase : IDisposable
{
    /// <summary>Every practice and every client-kept file has the same tables, so that how a statement is read is worked out once for all of them.</summary>
    private sealed class OneShape : IEqualityComparer<string>
    {
        public bool Equals(string? x, string? y) => true;

        public int GetHashCode(string connection) => 0;
    }

    private static readonly AsyncLocal<PracticeDatabase?> Instead = new();

    private readonly string _connection;
    private readonly SqliteConnection _writer;
    private readonly SemaphoreSlim _queue = new(1, 1);
    private long _writes;
    private bool _disposed;

    static PracticeDatabase()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        SqlMapper.ConnectionStringComparer = new OneShape();
    }

    /// <summary>Opens a file, creating and migrating it as needed.</summary>
    /// <exception cref="InvalidOperationException">A migration failed; the message names it.</exception>
    public PracticeDatabase(string file)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(file))!);
        _connection = new SqliteConnectionStringBuilder { DataSource = file, ForeignKeys = true, DefaultTimeout = 10 }.ToString();
        Migrate();
        _writer = Open();
        _writer.Execute("PRAGMA synchronous = FULL;");
    }

    /// <summary>A database that lives in memory only (SQLite's memdb), empty or with the contents of an image.</summary>
    /// <param name="name">A name no other open one has.</param>
    /// <param name="image">An image made by <see cref="Image"/>, or null.</param>
    /// <exception cref="InvalidDataException">The image is no such database.</exception>
    /// <param name="scripts">The migrations to make it with; all unless given.</param>
    private PracticeDatabase(string name, byte[]? image, IReadOnlyCollection<string>? scripts = null)
    {
        _connection = new SqliteConnectionStringBuilder { DataSource = $"file:/{name}?vfs=memdb", ForeignKeys = true, DefaultTimeout = 10 }.ToString();

        // What is in memory is there as long as a connection is open; this one stays.
        _writer = Open();
        _writer.Execute("PRAGMA temp_store = MEMORY;");
        if (image is not null)
        {
            MemoryImage.Load(image, _writer);
        }

        Migrate(scripts);
    }

    /// <summary>The names of all migrations, in their order.</summary>
    internal static IReadOnlyList<string> Migrations { get; } =
        [.. Assembly.GetExecutingAssembly().GetManifestResourceNames().Where(n => n.EndsWith(".sql", StringComparison.Ordinal)).Order(StringComparer.Ordinal)];

    /// <summary>An empty database in memory, made with some of the migrations only.</summary>
    internal static PracticeDatabase Fresh(IReadOnlyCollection<string> scripts) => new($"fresh-{Guid.NewGuid():N}", null, scripts);

    /// <summary>Opens a database in memory.</summary>
    /// <exception cref="InvalidDataException">The image is no such database, or holds more than this program makes.</exception>
    public static PracticeDatabase InMemory(string name, byte[]? image = null) => new(name, image);

    /// <summary>Where tests let work on this practice fail.</summary>
    public FaultPoints Faults { get; } = new();

    /// <summary>How often something was written; tells whether anything changed since.</summary>
    public long Writes => Interlocked.Read(ref _writes);

    /// <summary>
    /// Until it is disposed, whatever this flow of work reads and writes in the practice's database goes to another one:
    /// the file a client keeps.
    /// </summary>
    public static IDisposable WorkIn(PracticeDatabase kept)
    {
        var before = Instead.Value;
        Instead.Value = kept;
        return new Return(before);
    }

    /// <summary>Leaves no trace of what was removed.</summary>
    public void Compact() => _writer.Execute("VACUUM;");

    /// <summary>The whole contents as the bytes of an SQLite database file.</summary>
    public byte[] Image() => MemoryImage.Of(_writer);

    /// <summary>Reads.</summary>
    public T Read<T>(Func<Unit, T> work)
    {
        if (Instead.Value is { } other && other != this)
        {
            return other.Read(work);
        }

        return ReadHere(work);
    }

    /// <summary>Reads in this database itself, also while the work is done in a client's file: sessions, credentials and the like live here only.</summary>
    public T ReadHere<T>(Func<Unit, T> work)
    {
        using var connection = Open();
        return work(new Unit(connection, null));
    }

    /// <summary>Writes in one transaction: all of it is kept, or nothing when <paramref name="work"/> throws.</summary>
    public T Write<T>(Func<Unit, T> work)
    {
        if (Instead.Value is { } other && other != this)
        {
            return other.Write(work);
        }

        Faults.Reach(FaultPoints.BeforeWrite);
        _queue.Wait();
        try
        {
            using var transaction = _writer.BeginTransaction(deferred: false);
            var result = work(new Unit(_writer, transaction));
            Faults.Reach(FaultPoints.BeforeCommit);
            transaction.Commit();
            Interlocked.Increment(ref _writes);
            Faults.Reach(FaultPoints.AfterCommit);
            return result;
        }
        finally
        {
            _queue.Release();
        }
    }

    /// <summary>Writes in one transaction.</summary>
    public void Write(Action<Unit> work) => Write(unit =>
    {
        work(unit);
        return true;
    });

    /// <summary>Tries whether the file can be written to, and writes nothing.</summary>
    /// <exception cref="SqliteException">It cannot; the code says why.</exception>
    public void Probe()
    {
        _queue.Wait();
        try
        {
            using var transaction = _writer.BeginTransaction(deferred: false);
            _writer.Execute("PRAGMA user_version = 0;", transaction: transaction);
            transaction.Rollback();
        }
        finally
        {
            _queue.Release();
        }
    }

    /// <summary>Sets something of the connection that writes; for tests of what happens when it fails.</summary>
    internal void Tell(string pragma) => _writer.Execute(pragma);

    /// <summary>Copies the file, as it is at one moment, while it is in use (SQLite's online backup).</summary>
    public void CopyTo(string file)
    {
        using var from = Open();
        using var to = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = file, Pooling = false }.ToString());
        from.BackupDatabase(to);
    }

    /// <inheritdoc />
    public void Dispose()
    {
        if (_disposed)
        {
            return;
        }

        // A transaction under way ends first.
        _queue.Wait();
        _disposed = true;
        _writer.Dispose();
        _queue.Dispose();
        using var pooled = new SqliteConnection(_connection);
        SqliteConnection.ClearPool(pooled);
    }

    private SqliteConnection Open()
    {
        var connection = new SqliteConnection(_connection);
        connection.Open();
        connection.Execute("PRAGMA trusted_schema = OFF;");
        Search.Teach(connection);
        return connection;
    }

    /// <summary>Migrations may replace tables that others refer to, so references are checked at their end, not on the way.</summary>
    private void Migrate(IReadOnlyCollection<string>? scripts = null)
    {
        try
        {
            ApplyMigrations(scripts);
        }
        catch (SqliteException problem) when (problem.SqliteErrorCode is raw.SQLITE_CORRUPT or raw.SQLITE_NOTADB)
        {
            throw new InvalidOperationException($"The practice's file is damaged ({problem.Message}) Keep a copy of it, and restore the latest backup.", problem);
        }
    }

    private void ApplyMigrations(IReadOnlyCollection<string>? scripts)
    {
        var withoutReferences = new SqliteConnectionStringBuilder(_connection) { ForeignKeys = false, Pooling = false }.ToString();
        using var connection = new SqliteConnection(withoutReferences);
        connection.Open();
        connection.Execute("PRAGMA journal_mode = WAL;");
        RequireKnown(connection);
        var result = DeployChanges.To
            .SqliteDatabase(withoutReferences)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly(), name => scripts?.Contains(name) ?? true)
            .WithTransactionPerScript()
            .LogTo(new NoOpUpgradeLog())
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
        {
            throw new InvalidOperationException($"Migration '{result.ErrorScript?.Name}' failed: {result.Error.Message}", result.Error);
        }

        // Looked at where something was changed; a verification looks always.
        if (result.Scripts.Any() && connection.Query("PRAGMA foreign_key_check;").Any())
        {
            throw new InvalidOperationException("The practice's file refers to records that do not exist; restore a backup.");
        }
    }

    /// <summary>A file that a later program has changed is not touched: what this one does not know of it could be lost.</summary>
    private static void RequireKnown(SqliteConnection connection)
    {
        if (connection.ExecuteScalar<long>("SELECT count(*) FROM sqlite_master WHERE type = 'table' AND name = 'SchemaVersions'") == 1
            && connection.Query<string>("SELECT ScriptName FROM SchemaVersions").Except(Migrations).Any())
        {
            throw new InvalidOperationException("The practice's file was written by a newer version of Aerarium. Start that version, or restore a backup made before it.");
        }
    }

    private sealed class Return(PracticeDatabase? before) : IDisposable
    {
        public void Dispose() => Instead.Value = before;
    }
}
