using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;

namespace Aerarium.Server;

/// <summary>Tables for a spreadsheet: CSV in UTF-8; a cell that a spreadsheet would take for a formula is marked as text.</summary>
internal static class CsvFile
{
    public static byte[] Of<T>(IEnumerable<T> rows)
    {
        using var memory = new MemoryStream();
        using (var writer = new CsvWriter(
            new StreamWriter(memory, new UTF8Encoding(false)), new CsvConfiguration(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape }))
        {
            writer.WriteRecords(rows);
        }

        return memory.ToArray();
    }
}
