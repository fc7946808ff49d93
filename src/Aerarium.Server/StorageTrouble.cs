using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Aerarium.Server;

/// <summary>What keeps the server from storing anything, in words for whoever can put it right.</summary>
internal static class StorageTrouble
{
    private const int NoSpaceLeft = 28;
    private const int ReadOnlyFileSystem = 30;
    private const int QuotaExceeded = 122;

    /// <summary>The disk, or the file of the practice; null when a failure is of another kind.</summary>
    public static string? Of(Exception problem) => problem switch
    {
        SqliteException sqlite => sqlite.SqliteErrorCode switch
        {
            raw.SQLITE_FULL => Full,
            raw.SQLITE_READONLY or raw.SQLITE_CANTOPEN or raw.SQLITE_PERM => ReadOnly,
            raw.SQLITE_BUSY or raw.SQLITE_LOCKED => "Another program holds the practice's file, and did not let go of it in ten seconds. Nothing was changed; try again, and tell your administrator if it stays.",
            raw.SQLITE_IOERR => "The disk of the server reports errors. Nothing was changed; tell your administrator at once.",
            raw.SQLITE_CORRUPT or raw.SQLITE_NOTADB => "The practice's file is damaged. Nothing was changed; tell your administrator, who verifies it under Acts and restores a backup.",
            _ => null,
        },
        IOException { HResult: NoSpaceLeft or QuotaExceeded } => Full,
        IOException { HResult: ReadOnlyFileSystem } or UnauthorizedAccessException => ReadOnly,
        _ => null,
    };

    private const string Full = "The disk of the server is full. Nothing was changed; what you typed stays in your browser until there is room. Tell your administrator.";

    private const string ReadOnly = "The server may not write to its folder: the disk is read-only, or its rights were changed. Nothing was changed; tell your administrator.";
}
