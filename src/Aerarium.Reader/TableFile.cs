using System.Globalization;
using System.Text;
using Aerarium.Core.Entries;
using CsvHelper;
using CsvHelper.Configuration;
using ExcelDataReader;

namespace Aerarium.Reader;

/// <summary>Reads tables: CSV with any usual delimiter, in UTF-8, UTF-16 or Windows-1252, or the first sheet of an XLSX workbook.</summary>
internal static class TableFile
{
    private const int MostRows = 20_000;
    private const int MostColumns = 200;
    private const int MostSheets = 120;
    private const int MostText = 8 * 1024 * 1024;

    /// <summary>Empty rows may stand between; a list that begins or goes on this far down is none.</summary>
    private const int LastRow = 2 * MostRows;

    /// <summary>The workbook reader asks for a Windows code page when it starts, though XLSX has none.</summary>
    static TableFile() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <summary>The headings and rows of a file.</summary>
    /// <exception cref="UnreadableException">It is no such table; the message says what to do.</exception>
    public static ImportedTable Read(byte[] file)
    {
        var table = file switch
        {
            [] => throw new UnreadableException("The file is empty."),
            [(byte)'P', (byte)'K', ..] => Workbook(file),
            _ => Csv(file),
        };
        return table.Rows.Count switch
        {
            0 => throw new UnreadableException("The file has headings but no rows."),
            > MostRows => throw new UnreadableException($"The file has {table.Rows.Count} rows; import at most {MostRows} at once."),
            _ => table,
        };
    }

    /// <summary>The sheets of an XLSX workbook that hold anything.</summary>
    /// <exception cref="UnreadableException">It is no such workbook; the message says what to do.</exception>
    public static IReadOnlyList<ImportedSheet> Sheets(byte[] file)
    {
        if (file is not [(byte)'P', (byte)'K', ..])
        {
            throw new UnreadableException("This is no XLSX workbook. Save it as one.");
        }

        var sheets = Opened(file, reader =>
        {
            var found = new List<ImportedSheet>();
            do
            {
                var lines = LinesOf(reader);
                if (lines.Count > 0)
                {
                    found.Add(new ImportedSheet(EntryReader.Clean(reader.Name), Shape(lines)));
                }
            }
            while (found.Count <= MostSheets && reader.NextResult());
            return found;
        });
        return sheets.Count switch
        {
            0 => throw new UnreadableException("The workbook is empty."),
            > MostSheets => throw new UnreadableException($"The workbook has more than {MostSheets} sheets; a return has fewer."),
            _ when sheets.Sum(s => s.Table.Rows.Count) > MostRows => throw new UnreadableException($"The workbook has more than {MostRows} rows; bring fewer at once."),
            _ when sheets.Sum(s => s.Table.Rows.Sum(r => r.Cells.Sum(c => (long)c.Length))) > MostText => throw new UnreadableException("The workbook holds far more text than a return can; it was not read."),
            _ => sheets,
        };
    }

    private static ImportedTable Csv(byte[] file)
    {
        if (file is not ([0xFF, 0xFE, ..] or [0xFE, 0xFF, ..]) && Array.IndexOf(file, (byte)0) >= 0)
        {
            throw new UnreadableException("This is neither CSV nor an XLSX workbook. Save the table as one of them.");
        }

        var settings = new CsvConfiguration(CultureInfo.InvariantCulture) { DetectDelimiter = true, HasHeaderRecord = false, IgnoreBlankLines = true };
        var lines = new List<ImportedRow>();
        try
        {
            using var reader = new CsvParser(new StringReader(Decoded(file)), settings);
            while (reader.Read())
            {
                lines.Add(new ImportedRow(reader.RawRow, [.. reader.Record!.Select(EntryReader.Clean)]));
            }
        }
        catch (CsvHelperException problem)
        {
            throw new UnreadableException($"The file cannot be read as CSV near row {problem.Context?.Parser?.RawRow}: a quotation mark is not closed, or stands inside a cell without being doubled.");
        }

        return Shape(lines);
    }

    /// <summary>The text of a file: by its byte order mark, else UTF-8, else Windows-1252, as older spreadsheets write it.</summary>
    private static string Decoded(byte[] file)
    {
        try
        {
            using var reader = new StreamReader(new MemoryStream(file), new UTF8Encoding(false, throwOnInvalidBytes: true), detectEncodingFromByteOrderMarks: true);
            return reader.ReadToEnd();
        }
        catch (DecoderFallbackException)
        {
            return Encoding.GetEncoding(1252).GetString(file);
        }
    }

    private static ImportedTable Workbook(byte[] file) => Opened(file, reader => Shape(LinesOf(reader)));

    private static T Opened<T>(byte[] file, Func<IExcelDataReader, T> read)
    {
        try
        {
            SheetLimits.Require(file, LastRow, MostColumns);
            using var reader = ExcelReaderFactory.CreateOpenXmlReader(new MemoryStream(file));
            return read(reader);
        }
        catch (Exception problem) when (problem is not (UnreadableException or OutOfMemoryException))
        {
            throw new UnreadableException("The workbook cannot be read. Save it again as XLSX, without a password, or as CSV.");
        }
    }

    private static List<ImportedRow> LinesOf(IExcelDataReader reader)
    {
        var lines = new List<ImportedRow>();
        while (reader.Read() && reader.Depth < LastRow)
        {
            string[] cells = [.. Enumerable.Range(0, Math.Min(MostColumns, reader.FieldCount)).Select(c => Text(reader.GetValue(c)))];
            if (cells.Any(c => c.Length > 0))
            {
                lines.Add(new ImportedRow(reader.Depth + 1, cells) { Hidden = reader.RowHeight == 0 });
            }
        }

        return lines;

        static string Text(object? value) => value is DateTime day
            ? day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
            : EntryReader.Clean(Convert.ToString(value, CultureInfo.InvariantCulture));
    }

    private static ImportedTable Shape(List<ImportedRow> lines)
    {
        if (lines.Max(l => (int?)l.Cells.Count) > MostColumns)
        {
            throw new UnreadableException($"Row {lines.First(l => l.Cells.Count > MostColumns).Number} has more than {MostColumns} columns; a list has at most that many.");
        }

        if (lines.Sum(l => l.Cells.Sum(c => (long)c.Length)) > MostText)
        {
            throw new UnreadableException("The file holds far more text than a list can; it was not read.");
        }

        var filled = lines.Where(l => l.Cells.Any(c => c.Length > 0)).ToList();
        return filled is [var first, .. var rest] ? new ImportedTable(first.Cells, rest) : throw new UnreadableException("The file is empty.");
    }
}
