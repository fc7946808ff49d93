using System.Globalization;
using System.IO.Compression;
using System.Text.RegularExpressions;
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

/// <summary>Reads tables: CSV with any usual delimiter, in UTF-8, UTF-16 or Windows-1252, or the first sheet of an XLSX workbook.</summary>
internal static partial class TableFile
{
    private const int MostRows = 20_000;
    private const int MostColumns = 200;
    private const long LargestUnpacked = 60 * 1024 * 1024;

    /// <summary>The workbook reader asks for a Windows code page when it starts, though XLSX has none.</summary>
    static TableFile() => System.Text.Encoding.RegisterProvider(System.Text.CodePagesEncodingProvider.Instance);

    /// <summary>A heading as it is compared: letters and digits count, nothing else.</summary>
    public static string Plain(string heading) => string.Concat(heading.ToLowerInvariant().Where(char.IsAsciiLetterOrDigit));

    /// <summary>
    /// Amounts with a comma before the cents, read as amounts with a point: done when at least one amount shows it beyond doubt
    /// (1.234,56 or 12,5) and none shows the opposite.
    /// </summary>
    /// <exception cref="PlainProblem">Some amounts show one way and some the other.</exception>
    public static Func<string, string> DecimalMark(IEnumerable<string> amounts)
    {
        var (comma, point) = ((string?)null, (string?)null);
        foreach (var amount in amounts)
        {
            comma ??= CommaDecimal().IsMatch(amount) ? amount : null;
            point ??= PointDecimal().IsMatch(amount) ? amount : null;
        }

        if (comma is not null && point is not null)
        {
            throw PlainProblem.Refused($"Some amounts have a comma before the cents ({comma}), others a point ({point}). Use one of them throughout.");
        }

        return comma is null ? text => text : text => AmountLike().IsMatch(text) ? text.Replace(".", "", StringComparison.Ordinal).Replace(',', '.') : text;
    }

    [GeneratedRegex(@"^-?[0-9]{1,3}(\.[0-9]{3})+,[0-9]{1,2}$|^-?[0-9]+,[0-9]{1,2}$|^-?[0-9]{1,3}(\.[0-9]{3}){2,}$")]
    private static partial Regex CommaDecimal();

    [GeneratedRegex(@"^-?[0-9]{1,3}(,[0-9]{3})+\.[0-9]{1,2}$|^-?[0-9]+\.[0-9]{1,2}$|^-?[0-9]{1,3}(,[0-9]{3}){2,}$")]
    private static partial Regex PointDecimal();

    [GeneratedRegex(@"^-?[0-9.,]+$")]
    private static partial Regex AmountLike();

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
        if (file is not ([0xFF, 0xFE, ..] or [0xFE, 0xFF, ..]) && Array.IndexOf(file, (byte)0) >= 0)
        {
            throw PlainProblem.Refused("This is neither CSV nor an XLSX workbook. Save the table as one of them.");
        }

        var settings = new CsvConfiguration(CultureInfo.InvariantCulture) { DetectDelimiter = true, HasHeaderRecord = false, IgnoreBlankLines = true };
        var lines = new List<(int, IReadOnlyList<string>)>();
        try
        {
            using var reader = new CsvParser(new StringReader(Decoded(file)), settings);
            while (reader.Read())
            {
                lines.Add((reader.RawRow, [.. reader.Record!.Select(EntryReader.Clean)]));
            }
        }
        catch (CsvHelperException problem)
        {
            throw PlainProblem.Refused($"The file cannot be read as CSV near row {problem.Context?.Parser?.RawRow}: a quotation mark is not closed, or stands inside a cell without being doubled.");
        }

        return Shape(lines);
    }

    /// <summary>The text of a file: by its byte order mark, else UTF-8, else Windows-1252, as older spreadsheets write it.</summary>
    private static string Decoded(byte[] file)
    {
        try
        {
            using var reader = new StreamReader(new MemoryStream(file), new System.Text.UTF8Encoding(false, throwOnInvalidBytes: true), detectEncodingFromByteOrderMarks: true);
            return reader.ReadToEnd();
        }
        catch (System.Text.DecoderFallbackException)
        {
            return System.Text.Encoding.GetEncoding(1252).GetString(file);
        }
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
