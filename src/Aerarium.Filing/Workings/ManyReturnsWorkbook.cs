using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using DocumentFormat.OpenXml.Spreadsheet;
using static Aerarium.Filing.EntrySheets;

namespace Aerarium.Filing;

/// <summary>A client of a workbook for many: the identifier by which it is known again, its name, and its return so far.</summary>
public sealed record ClientInWorkbook(string Identifier, string Name, Evaluation Return);

/// <summary>
/// Returns of many clients, of one kind and year, as one XLSX workbook (ECMA-376) to be filled elsewhere and brought back: a sheet of the clients, a sheet for
/// each form with a row for each client and its lines as columns, a sheet for each repeating section with its rows. The first row, which is hidden, holds the
/// keys by which columns are known again; clients are known by their identifiers. What follows the particulars of the client or of the practice has no column.
/// </summary>
public sealed class ManyReturnsWorkbook
{
    /// <summary>Key of the column with the client's identifier, on every sheet.</summary>
    public const string ClientKey = "client";

    /// <summary>What stands before the name of a particular in the key of a column of the sheet of clients.</summary>
    public const string ParticularKey = "client.";

    /// <summary>Heading of the column with the client's identifier, by which the row of headings is known.</summary>
    public const string ClientHeading = "Client";

    /// <summary>Columns of a sheet; a form with more lines goes on in another.</summary>
    private const int MostColumns = 190;

    private const int SpareRows = 2_000;

    private readonly EntrySheets _sheets = new();
    private readonly Definition _definition;
    private readonly IReadOnlyList<ClientInWorkbook> _clients;

    private ManyReturnsWorkbook(Definition definition, IReadOnlyList<ClientInWorkbook> clients)
    {
        _definition = definition;
        _clients = clients;
    }

    /// <summary>Draws the workbook.</summary>
    /// <param name="definition">The return.</param>
    /// <param name="particulars">Particulars of a client besides the identifier, by name and heading.</param>
    /// <param name="clients">Clients whose returns go out with it; none for an empty workbook.</param>
    public static byte[] Draw(Definition definition, IReadOnlyList<(string Name, string Heading)> particulars, IReadOnlyList<ClientInWorkbook> clients) =>
        new ManyReturnsWorkbook(definition, clients).Draw(particulars);

    /// <summary>The lines a workbook for many has: what people enter, apart from what follows particulars or is counted from attached documents.</summary>
    public static bool Has(Line line) => ReturnWorkbook.Has(line) && !line.FollowsParticulars;

    private byte[] Draw(IReadOnlyList<(string Name, string Heading)> particulars)
    {
        string[][] said =
        [
            ["Return", $"{_definition.Title} {Periods.InWords(_definition.Year, _definition.Period)}"],
            ["How", "Give each client a row on the sheet Clients and on the sheet of each form, and each item of a list a row of its own. The column Client holds the identifier on all of them."],
            ["Blank cells", "A blank cell changes nothing. What follows the client's particulars is not here: it is filled from the sheet Clients, or from the client's page."],
            ["Bring it back", "Clients, Import, Returns of many clients. It is tried first and reported by sheet, row and column; clients and returns that are not there yet are added."],
        ];
        _sheets.Add("About", 1, [20, 110], said.Select(row => (IReadOnlyList<Cell>)[RowWorkbook.Text(row[0], AsHeading), RowWorkbook.Text(row[1], AsText)]), [], hidden: null);
        Add(
            "Clients",
            [.. particulars.Select(p => (ParticularKey + p.Name, p.Heading, 26))],
            _clients.Select(c => (c.Identifier, (IReadOnlyList<Cell>)[.. particulars.Select(p => RowWorkbook.Text(p.Name == "name" ? c.Name : "", AsText))])),
            []);
        foreach (var form in _definition.Forms)
        {
            var lines = form.Sections.Where(s => s is not RepeatingSection).SelectMany(s => s.Lines).Where(Has).ToList();
            foreach (var part in lines.Chunk(MostColumns))
            {
                Add(
                    form.Title,
                    [.. part.Select(l => (l.Key, l.Unit is { Length: > 0 } unit ? $"{l.Label} ({unit})" : l.Label, WidthOf(l)))],
                    _clients.Select(c => (c.Identifier, (IReadOnlyList<Cell>)[.. part.Select(l => Entered(l, c.Return.Value(l)))])),
                    part);
            }

            foreach (var table in form.Sections.OfType<RepeatingSection>())
            {
                Rows(table);
            }
        }

        return _sheets.Save();
    }

    private void Rows(RepeatingSection table)
    {
        var columns = table.Lines.Where(Has).Take(MostColumns).ToList();
        if (columns.Count == 0)
        {
            return;
        }

        var rows = _clients.SelectMany(c => c.Return.RowsOf(table).Select((row, index) => (
            c.Identifier,
            (IReadOnlyList<Cell>)[.. columns.Select(l => Entered(l, ReturnWorkbook.OfRow(c.Return, l, index))), RowWorkbook.Text(row.Id, AsText)])));
        Add(table.Title, [.. columns.Select(l => (l.Key, l.Label, WidthOf(l))), (ReturnWorkbook.RowHeading + table.Key, "", 10)], rows, columns, hidesLast: true);
    }

    private void Add(
        string title, IReadOnlyList<(string Key, string Heading, int Width)> columns, IEnumerable<(string Client, IReadOnlyList<Cell> Cells)> rows, IReadOnlyList<Line> lines, bool hidesLast = false)
    {
        var filled = rows.Select(r => (IReadOnlyList<Cell>)[RowWorkbook.Text(r.Client, AsText), .. r.Cells]).ToList();
        var last = filled.Count + 2 + SpareRows;
        _sheets.Add(
            title,
            2,
            [18, .. columns.Select(c => c.Width)],
            [
                [RowWorkbook.Text(ClientKey, AsText), .. columns.Select(c => RowWorkbook.Text(c.Key, AsText))],
                [RowWorkbook.Text(ClientHeading, AsHeading), .. columns.Select(c => RowWorkbook.Text(c.Heading, AsHeading))],
                .. filled,
            ],
            lines.Select((line, index) => _sheets.Limit(line, string.Create(CultureInfo.InvariantCulture, $"{RowWorkbook.Letters(index + 1)}3:{RowWorkbook.Letters(index + 1)}{last}"))),
            hidden: hidesLast ? columns.Count : null,
            hiddenRow: true);
    }

    private static int WidthOf(Line line) => line.Kind is LineKind.Text ? 30 : 17;
}
