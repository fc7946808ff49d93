using System.Globalization;
using System.IO.Compression;
using Aerarium.Core.Entries;
using CsvHelper;
using CsvHelper.Configuration;
using ExcelDataReader;

namespace Aerarium.Server.Gathering;

/// <summary>Something in an imported table.</summary>
/// <param name="Row">Row of the file as a spreadsheet numbers it.</param>
/// <param name="Column">Heading of the column.</param>
/// <param name="Value">What stands there.</param>
/// <param name="Message">What is wrong, and what to do.</param>
public sealed record ImportRemark(int Row, string Column, string? Value, string Message);

/// <summary>A table as it stands in a file: headings, and rows under the number a spreadsheet gives them.</summary>
internal sealed record ImportedTable(IReadOnlyList<string> Headings, IReadOnlyList<(int Number, IReadOnlyList<string> Cells)> Rows);

/// <summary>Reads tables: CSV in UTF-8, or the first sheet of an XLSX workbook.</summary>
internal static class TableFile
{
    private const int MostRows = 5_000;
    private const int MostColumns = 200;
    private const long LargestUnpacked = 60 * 1024 * 1024;

    /// <summary>The workbook reader asks for a Windows code page when it starts, though XLSX has none.</summary>
    static TableFile() => System.Text.Encoding.RegisterProvider(System.Text.CodePagesEncodingProvider.Instance);

    /// <summary>A heading as it is compared: letters and digits count, nothing else.</summary>
    public static string Plain(string heading) => string.Concat(heading.ToLowerInvariant().Where(char.IsAsciiLetterOrDigit));

    /// <summary>The headings and rows of a file.</summary>
    /// <exception cref="PlainProblem">It is no such table; the message says what to do.</exception>
    public static ImportedTable Read(byte[] file)
    {
        var table = file switch
        {
            [] => throw PlainProblem.Refused("The file is empty."),
            [(byte)'P', (byte)'K', ..] => Workbook(file),
            _ => Csv(file),
        };
        return table.Rows.Count switch
        {
            0 => throw PlainProblem.Refused("The file has headings but no rows."),
            > MostRows => throw PlainProblem.Refused($"The file has {table.Rows.Count} rows; import at most {MostRows} at once."),
            _ => table,
        };
    }

    private static ImportedTable Csv(byte[] file)
    {
        if (Array.IndexOf(file, (byte)0) >= 0)
        {
            throw PlainProblem.Refused("This is neither CSV nor an XLSX workbook. Save the table as one of them.");
        }

        var settings = new CsvConfiguration(CultureInfo.InvariantCulture) { DetectDelimiter = true, HasHeaderRecord = false, IgnoreBlankLines = true };
        var lines = new List<(int, IReadOnlyList<string>)>();
        try
        {
            using var reader = new CsvParser(new StreamReader(new MemoryStream(file), new System.Text.UTF8Encoding(false, throwOnInvalidBytes: true)), settings);
            while (reader.Read())
            {
                lines.Add((reader.RawRow, [.. reader.Record!.Select(EntryReader.Clean)]));
            }
        }
        catch (CsvHelperException problem)
        {
            throw PlainProblem.Refused($"The file cannot be read as CSV near row {problem.Context?.Parser?.RawRow}: a quotation mark is not closed, or stands inside a cell without being doubled.");
        }
        catch (System.Text.DecoderFallbackException)
        {
            throw PlainProblem.Refused("The file is not UTF-8. Save it as 'CSV UTF-8', or as an XLSX workbook.");
        }

        return Shape(lines);
    }

    private static ImportedTable Workbook(byte[] file)
    {
        try
        {
            using (var zip = new ZipArchive(new MemoryStream(file)))
            {
                if (zip.Entries.Sum(e => e.Length) > LargestUnpacked)
                {
                    throw PlainProblem.Refused("The workbook is far larger unpacked than a list can be; it was not opened.");
                }
            }

            using var reader = ExcelReaderFactory.CreateOpenXmlReader(new MemoryStream(file));
            var lines = new List<(int, IReadOnlyList<string>)>();
            while (lines.Count < MostRows + 2 && reader.Read())
            {
                lines.Add((reader.Depth + 1, [.. Enumerable.Range(0, Math.Min(MostColumns, reader.FieldCount)).Select(c => Text(reader.GetValue(c)))]));
            }

            return Shape(lines);
        }
        catch (Exception problem) when (problem is not PlainProblem)
        {
            throw PlainProblem.Refused("The workbook cannot be read. Save it again as XLSX, without a password, or as CSV.");
        }

        static string Text(object? value) => value is DateTime day
            ? day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
            : EntryReader.Clean(Convert.ToString(value, CultureInfo.InvariantCulture));
    }

    private static ImportedTable Shape(IEnumerable<(int Number, IReadOnlyList<string> Cells)> lines)
    {
        var filled = lines.Where(l => l.Cells.Any(c => c.Length > 0)).ToList();
        return filled is [var first, .. var rest] ? new ImportedTable(first.Cells, rest) : throw PlainProblem.Refused("The file is empty.");
    }
}
