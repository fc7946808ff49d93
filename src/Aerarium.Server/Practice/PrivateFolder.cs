using System.Runtime.InteropServices;

namespace Aerarium.Server.Practice;

/// <summary>
/// The folder of a practice's data: nobody else on the machine reads it, and one server works on it. Held while the server runs.
/// </summary>
public sealed class PrivateFolder : IDisposable
{
    private const UnixFileMode OwnFolder = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;
    private const UnixFileMode OwnFile = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    /// <summary>Takes everything from group and others: 077.</summary>
    private const uint OthersMayNothing = 63;

    private readonly FileStream _held;

    private PrivateFolder(FileStream held) => _held = held;

    /// <summary>Whatever this process makes from now on is its user's alone: files, folders, the database's own, parts of backups.</summary>
    public static void MakeNewFilesPrivate()
    {
        if (!OperatingSystem.IsWindows())
        {
            _ = Umask(OthersMayNothing);
        }
    }

    /// <summary>Takes a folder for this server, and takes from others what they could read in it until now.</summary>
    /// <exception cref="IOException">Another server works on it, or it cannot be written to; the message says so.</exception>
    public static PrivateFolder Hold(string folder)
    {
        MakeNewFilesPrivate();
        Directory.CreateDirectory(folder);
        if (!OperatingSystem.IsWindows())
        {
            TakeFromOthers(folder);
        }

        try
        {
            return new PrivateFolder(new FileStream(Path.Combine(folder, "in-use"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None));
        }
        catch (IOException problem) when (StorageTrouble.Of(problem) is null)
        {
            throw new IOException($"Another server works on '{folder}'. Stop it first, or start this one on another folder.", problem);
        }
    }

    /// <inheritdoc />
    public void Dispose() => _held.Dispose();

    private static void TakeFromOthers(string folder)
    {
        if (OperatingSystem.IsWindows())
        {
            return;
        }

        File.SetUnixFileMode(folder, OwnFolder);
        foreach (var entry in new DirectoryInfo(folder).EnumerateFileSystemInfos("*", SearchOption.AllDirectories).Where(e => e.LinkTarget is null))
        {
            File.SetUnixFileMode(entry.FullName, entry is DirectoryInfo ? OwnFolder : OwnFile);
        }
    }

    [DllImport("libc", EntryPoint = "umask")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.SafeDirectories)]
    private static extern uint Umask(uint mask);
}
