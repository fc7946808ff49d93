using System.IO.Compression;
using System.Xml;

namespace Aerarium.Reader;

/// <summary>
/// Looks through the sheets of a workbook as a stream, before anything is built from them: a few bytes can name a cell so far out that a row up to it
/// takes gigabytes.
/// </summary>
internal static class SheetLimits
{
    private const int MostParts = 2_000;
    private const long LargestUnpacked = 60 * 1024 * 1024;
    private const int MostCells = 2_000_000;

    /// <summary>The last column and row of a sheet: XFD1048576 (ECMA-376 part 1, 18.3.1.73 and the limits of its cell references).</summary>
    private const int LastColumn = 16_384;
    private const int LastRow = 1_048_576;

    /// <summary>Refuses a workbook that is larger, or reaches further, than a list does.</summary>
    /// <exception cref="UnreadableException">It is; the message says where.</exception>
    public static void Require(byte[] workbook, int mostRows, int mostColumns)
    {
        using var zip = new ZipArchive(new MemoryStream(workbook));
        if (zip.Entries.Count > MostParts || zip.Entries.Sum(e => e.Length) > LargestUnpacked)
        {
            throw new UnreadableException("The workbook is far larger unpacked than a list can be; it was not opened.");
        }

        var settings = new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, MaxCharactersInDocument = LargestUnpacked };
        foreach (var sheet in zip.Entries.Where(e => e.FullName.Contains("worksheets/", StringComparison.OrdinalIgnoreCase) && e.FullName.EndsWith(".xml", StringComparison.OrdinalIgnoreCase)))
        {
            using var stream = sheet.Open();
            using var reader = XmlReader.Create(stream, settings);
            Require(reader, mostRows, mostColumns);
        }
    }

    private static void Require(XmlReader reader, int mostRows, int mostColumns)
    {
        var (cells, row, column, reference, formula) = (0, 0, 0, "", "");
        while (reader.Read())
        {
            if (reader.NodeType != XmlNodeType.Element)
            {
                continue;
            }

            switch (reader.LocalName)
            {
                case "row":
                    row = reader.GetAttribute("r") is not { } number ? row + 1 : int.TryParse(number, out var at) ? at : throw Beyond($"row {Short(number)}");
                    column = 0;
                    if (row is < 1 or > LastRow)
                    {
                        throw Beyond($"row {Short(row.ToString(System.Globalization.CultureInfo.InvariantCulture))}");
                    }

                    break;
                case "c":
                    if (++cells > MostCells)
                    {
                        throw new UnreadableException($"The workbook has more than {MostCells} cells; it was not opened.");
                    }

                    RequireValue(formula);
                    reference = reader.GetAttribute("r") ?? "";
                    var (placedColumn, placedRow) = reference.Length == 0 ? (column + 1, row) : PlaceOf(reference);
                    (column, row) = (placedColumn, placedRow);
                    break;
                case "f":
                    formula = reference;
                    break;
                case "v" or "is" when column > mostColumns:
                    throw new UnreadableException($"There is something in cell {Short(reference)}; a list has at most {mostColumns} columns. Remove what stands beyond them, and import again.");
                case "v" or "is" when row > mostRows:
                    throw new UnreadableException($"There is something in row {row}; import at most {mostRows} rows at once. Split the list, or remove what stands far below it.");
                case "v" or "is":
                    formula = "";
                    break;
                default:
                    break;
            }
        }

        RequireValue(formula);
    }

    /// <summary>A formula whose result is not in the file would be read as blank.</summary>
    private static void RequireValue(string formula)
    {
        if (formula.Length > 0)
        {
            throw new UnreadableException($"Cell {Short(formula)} holds a formula without its result. Open the workbook in a spreadsheet program, save it there, and import it again; or save it as CSV.");
        }
    }

    private static (int Column, int Row) PlaceOf(string reference)
    {
        var (column, at) = (0, 0);
        for (; at < reference.Length && char.IsAsciiLetter(reference[at]) && column <= LastColumn; at++)
        {
            column = (column * 26) + (char.ToUpperInvariant(reference[at]) - 'A' + 1);
        }

        return column is >= 1 and <= LastColumn && int.TryParse(reference.AsSpan(at), out var row) && row is >= 1 and <= LastRow
            ? (column, row)
            : throw Beyond($"cell {Short(reference)}");
    }

    private static UnreadableException Beyond(string where) =>
        new($"The workbook names {where}, which no sheet has: the last cell is XFD1048576. It is damaged; save it again as XLSX, or as CSV.");

    private static string Short(string text) => text.Length > 20 ? $"{text[..20]}..." : text;
}
