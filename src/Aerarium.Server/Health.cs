using Aerarium.Server.Practice;
using Aerarium.Storage;

namespace Aerarium.Server;

/// <summary>
/// Whether the server can do its work: answer, and keep what it is told. Looked at when somebody asks, at most once a second.
/// </summary>
public sealed class Health(PracticeDatabase database, DataFolder folder, TimeProvider clock)
{
    private const long LeastFree = 100 * 1024 * 1024;
    private static readonly TimeSpan GoodFor = TimeSpan.FromSeconds(1);

    private readonly Lock _one = new();
    private (long At, string? Trouble)? _latest;

    /// <summary>What is wrong, in words; null when nothing is.</summary>
    public string? Trouble()
    {
        lock (_one)
        {
            if (_latest is not { } latest || clock.GetElapsedTime(latest.At) > GoodFor)
            {
                _latest = latest = (clock.GetTimestamp(), Look());
            }

            return latest.Trouble;
        }
    }

    private string? Look()
    {
        try
        {
            var probe = Path.Combine(folder.Path, "health");
            File.WriteAllBytes(probe, new byte[4096]);
            File.Delete(probe);
            database.Probe();
            var free = new DriveInfo(Path.GetFullPath(folder.Path)).AvailableFreeSpace;
            return free < LeastFree ? $"The disk of the server is nearly full: {free / 1024 / 1024} MB are left." : null;
        }
        catch (Exception problem) when (StorageTrouble.Of(problem) is { } words)
        {
            return words;
        }
    }
}
