using System.Runtime.InteropServices;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Aerarium.Storage;

/// <summary>A database as the bytes of an SQLite file, made and read in memory (SQLite's serialize and deserialize).</summary>
internal static class MemoryImage
{
    private const int Resizable = 2;
    private const int FreeOnClose = 1;

    /// <summary>The bytes of a database.</summary>
    public static byte[] Of(SqliteConnection connection)
    {
        var memory = raw.sqlite3_serialize(connection.Handle!, "main", out var size, 0);
        try
        {
            var image = new byte[size];
            Marshal.Copy(memory, image, 0, image.Length);
            return image;
        }
        finally
        {
            raw.sqlite3_free(memory);
        }
    }

    /// <summary>Copies an image into an open database.</summary>
    /// <exception cref="InvalidDataException">The bytes are no SQLite database, or not one of the shape this program makes.</exception>
    public static void Load(byte[] image, SqliteConnection into)
    {
        using var from = new SqliteConnection("Data Source=:memory:;Pooling=False");
        from.Open();
        var memory = raw.sqlite3_malloc64(image.Length);
        Marshal.Copy(image, 0, memory, image.Length);
        if (raw.sqlite3_deserialize(from.Handle!, "main", memory, image.Length, image.Length, FreeOnClose | Resizable) != raw.SQLITE_OK)
        {
            throw new InvalidDataException("The file does not hold a database.");
        }

        try
        {
            OwnShape.Require(from);
            from.BackupDatabase(into);
        }
        catch (SqliteException problem)
        {
            throw new InvalidDataException("The file does not hold a database.", problem);
        }
    }
}
