using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Filing;
using Aerarium.Reader;

namespace Aerarium.Server.Returns;

/// <summary>What is entered in a return that a workbook is read against; nothing in one that is still to be opened.</summary>
/// <param name="Definition">The return.</param>
/// <param name="ValueOf">The canonical value of a line, in a row or in none.</param>
/// <param name="RowsOf">The rows of a repeating section, by its key.</param>
internal sealed record EntriesHere(Definition Definition, Func<string, string, string?> ValueOf, Func<string, IReadOnlyList<string>> RowsOf)
{
    /// <summary>What is entered in a return.</summary>
    public static EntriesHere Of(Workspace workspace) => new(workspace.Definition, (line, row) => workspace.Entries.GetValueOrDefault((line, row))?.Value, workspace.RowsOf);

    /// <summary>What is entered in a return that is still to be opened.</summary>
    public static EntriesHere Blank(Definition definition) => new(definition, (_, _) => null, _ => []);
}

/// <summary>What the sheets of a workbook say otherwise than a return.</summary>
/// <param name="here">What is entered in the return.</param>
/// <param name="batch">What ids of new rows begin with; a row that is brought again under the same is the same row.</param>
internal sealed class WorkbookReading(EntriesHere here, string batch)
{
    /// <summary>Rows by section, those the workbook adds at the end.</summary>
    private readonly Dictionary<string, List<string>> _rows = [];

    /// <summary>Entries that differ and rows that are new.</summary>
    public List<EntryChange> Changes { get; } = [];

    /// <summary>What is wrong.</summary>
    public List<WorkbookRemark> Problems { get; } = [];

    /// <summary>Sheets that belong to a part of the return.</summary>
    public int Sheets { get; private set; }

    /// <summary>Takes a sheet of one return; false when it belongs to no part of it.</summary>
    public bool Take(ImportedSheet sheet)
    {
        var headings = sheet.Table.Headings.ToList();
        var (key, entry) = (headings.IndexOf(ReturnWorkbook.KeyHeading), headings.IndexOf(ReturnWorkbook.EntryHeading));
        var rows = headings.FindIndex(h => h.StartsWith(ReturnWorkbook.RowHeading, StringComparison.Ordinal));
        var section = rows < 0 ? null : here.Definition.FindTable(headings[rows][ReturnWorkbook.RowHeading.Length..]);
        if (section is null && (key < 0 || entry < 0))
        {
            return false;
        }

        Sheets++;
        if (section is not null)
        {
            var columns = headings.Select(h => section.Lines.FirstOrDefault(l => ReturnWorkbook.Has(l) && l.Label == h)).ToList();
            foreach (var (number, cells) in sheet.Table.Rows)
            {
                Row(sheet.Name, number, section, columns, cells, cells.ElementAtOrDefault(rows) ?? "");
            }
        }
        else
        {
            Lines(sheet, key, entry);
        }

        return true;
    }

    /// <summary>Takes the cells of a row that stand on lines of the return, each under its column.</summary>
    public void Lines(string sheet, int number, IReadOnlyList<Line?> columns, IReadOnlyList<string> cells)
    {
        foreach (var (position, line) in columns.Index().Where(c => c.Item is not null))
        {
            Cell(sheet, number, line!, null, cells.ElementAtOrDefault(position) ?? "");
        }
    }

    /// <summary>Takes a row of a repeating section: one that is there, known by its id, or one that is new.</summary>
    public void Row(string sheet, int number, RepeatingSection section, IReadOnlyList<Line?> columns, IReadOnlyList<string> cells, string row)
    {
        var present = RowsOf(section.Key);
        if (row.Length > 0 && !present.Contains(row))
        {
            Problems.Add(new WorkbookRemark(sheet, number, section.Title, row, $"This {section.RowLabel} is no longer on the return; clear the hidden column of this row to add it anew."));
            return;
        }

        if (row.Length == 0)
        {
            if (columns.Index().All(c => c.Item is null || (cells.ElementAtOrDefault(c.Index) ?? "").Length == 0))
            {
                return;
            }

            row = string.Create(CultureInfo.InvariantCulture, $"{batch}-{number}");
            if (!present.Contains(row))
            {
                present.Add(row);
                Changes.Add(new EntryChange(ChangeKind.AddRow, null, row, section.Key, null, null, long.MaxValue));
            }
        }

        foreach (var (position, line) in columns.Index().Where(c => c.Item is not null))
        {
            Cell(sheet, number, line!, row, cells.ElementAtOrDefault(position) ?? "");
        }
    }

    private void Lines(ImportedSheet sheet, int key, int entry)
    {
        foreach (var (number, cells) in sheet.Table.Rows)
        {
            var name = cells.ElementAtOrDefault(key) ?? "";
            if (name.Length == 0)
            {
                continue;
            }

            if (here.Definition.FindLine(name) is not { Table: null } line || !ReturnWorkbook.Has(line))
            {
                Problems.Add(new WorkbookRemark(sheet.Name, number, ReturnWorkbook.KeyHeading, name, $"'{name}' is not a line of this return; download the workbook of this return and year."));
                continue;
            }

            Cell(sheet.Name, number, line, null, cells.ElementAtOrDefault(entry) ?? "");
        }
    }

    private List<string> RowsOf(string section) => _rows.TryGetValue(section, out var known) ? known : _rows[section] = [.. here.RowsOf(section)];

    private void Cell(string sheet, int number, Line line, string? row, string text)
    {
        if (text.Length == 0)
        {
            return;
        }

        // Numbers come as a workbook holds them, with a point; what a person typed as a text is read as it stands.
        var reading = EntryReader.Read(line, text, canonical: true);
        var entered = here.ValueOf(line.Key, row ?? "");
        var value = reading.Value;
        var problem = reading.Problem ?? (line.Identifier is { } rule && value != entered && !rule.Accepts(value) ? rule.Message : null);
        if (problem is null && line.Kind == LineKind.Row)
        {
            var targets = RowsOf(line.Target!.Key);
            value = int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var position) && position >= 1 && position <= targets.Count ? targets[position - 1] : null;
            problem = value is null ? $"{line.Label}: '{text}' is not the number of one of the {targets.Count} {line.Target.RowLabel} rows." : null;
        }

        if (problem is not null)
        {
            Problems.Add(new WorkbookRemark(sheet, number, line.Label, text, problem));
        }
        else if (value != entered)
        {
            Changes.Add(new EntryChange(ChangeKind.Set, line.Key, row, null, null, Typed(line, value), long.MaxValue));
        }
    }

    /// <summary>A canonical value as somebody of the country would type it.</summary>
    private static string? Typed(Line line, string? value) =>
        line.IsNumber && value is not null ? line.Form.Definition.Numbers.Write(decimal.Parse(value, CultureInfo.InvariantCulture), "0.##########") : value;
}
