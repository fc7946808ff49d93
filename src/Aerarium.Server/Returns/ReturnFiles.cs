using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Filing;
using Aerarium.Reader;
using Aerarium.Server.Access;
using Aerarium.Server.Gathering;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>Something wrong in a workbook, and where.</summary>
/// <param name="Sheet">Name of the sheet.</param>
/// <param name="Row">Number of the row, as a spreadsheet counts.</param>
/// <param name="Column">Heading of the column, or label of the line.</param>
/// <param name="Value">What stands there.</param>
/// <param name="Message">What is wrong and what to do.</param>
public sealed record WorkbookRemark(string Sheet, int Row, string Column, string? Value, string Message);

/// <summary>How taking a workbook would go, or went.</summary>
/// <param name="Changes">Entries that differ from the return's.</param>
/// <param name="NewRows">Rows that are new.</param>
/// <param name="Stored">Whether they were taken.</param>
/// <param name="Problems">What is wrong.</param>
/// <param name="Ignored">Sheets that belong to no part of the return.</param>
public sealed record WorkbookReport(int Changes, int NewRows, bool Stored, IReadOnlyList<WorkbookRemark> Problems, IReadOnlyList<string> Ignored);

/// <summary>
/// All entries of a return as a workbook: out, filled elsewhere, and back. What comes back is tried first and reported by sheet, row and column; it is taken
/// whole, unless the person chooses what can be read. A blank cell changes nothing, and no row is removed.
/// </summary>
public sealed class ReturnFiles(PracticeDatabase database, Workbench workbench, Ties ties)
{
    private const int MostRemarks = 500;

    /// <summary>The workbook of a return.</summary>
    public byte[] Workbook(long id)
    {
        var workspace = workbench.Open(id);
        return ReturnWorkbook.Draw(workspace.Definition.Evaluate(workspace.EntrySet, workspace.Today), database.Read(unit => Storage.Clients.NameOf(unit, workspace.Record.ClientId)));
    }

    /// <summary>Tries a workbook and takes it: nothing for a trial, all or nothing for <c>all</c>, what can be read for <c>good</c>.</summary>
    public (WorkbookReport Report, EditResult? Result) Import(long id, IReadOnlyList<ImportedSheet> sheets, string source, string? keep, Caller caller)
    {
        if (keep is not (null or "all" or "good"))
        {
            throw PlainProblem.Refused("Take all entries or those that can be read.");
        }

        var workspace = workbench.Open(id);
        var reading = new Reading(workspace);
        var ignored = sheets.Where(s => !reading.Take(s)).Select(s => s.Name).Where(n => n is not ("About" or "Codes")).ToList();
        if (ignored.Count > 0 && reading.Sheets == 0)
        {
            throw PlainProblem.Refused("This workbook holds no sheet of this return. Download the return's workbook, fill that, and bring it back.");
        }

        var taken = reading.Changes.Count > 0 && (keep == "good" || (keep == "all" && reading.Problems.Count == 0));
        EditResult? result = null;
        if (taken)
        {
            result = workbench.Edit(id, caller, reading.Changes, Origin.Imported, source);
            ties.Spread(id, caller);
        }

        return (new WorkbookReport(reading.Changes.Count(c => c.Kind == ChangeKind.Set), reading.Changes.Count(c => c.Kind == ChangeKind.AddRow), taken, [.. reading.Problems.Take(MostRemarks)], ignored), result);
    }

    /// <summary>What the sheets of a workbook say otherwise than the return.</summary>
    private sealed class Reading(Workspace workspace)
    {
        private readonly string _batch = $"w{workspace.Record.Revision.ToString(CultureInfo.InvariantCulture)}";

        /// <summary>Rows by section, those the workbook adds at the end.</summary>
        private readonly Dictionary<string, List<string>> _rows = [];

        public List<EntryChange> Changes { get; } = [];

        public List<WorkbookRemark> Problems { get; } = [];

        public int Sheets { get; private set; }

        /// <summary>Takes a sheet; false when it belongs to no part of the return.</summary>
        public bool Take(ImportedSheet sheet)
        {
            var headings = sheet.Table.Headings.ToList();
            var (key, entry) = (headings.IndexOf(ReturnWorkbook.KeyHeading), headings.IndexOf(ReturnWorkbook.EntryHeading));
            var rows = headings.FindIndex(h => h.StartsWith(ReturnWorkbook.RowHeading, StringComparison.Ordinal));
            var section = rows < 0 ? null : workspace.Definition.FindTable(headings[rows][ReturnWorkbook.RowHeading.Length..]);
            if (section is null && (key < 0 || entry < 0))
            {
                return false;
            }

            Sheets++;
            if (section is not null)
            {
                Rows(sheet, section, rows);
            }
            else
            {
                Lines(sheet, key, entry);
            }

            return true;
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

                if (workspace.Definition.FindLine(name) is not { Table: null } line || !ReturnWorkbook.Has(line))
                {
                    Problems.Add(new WorkbookRemark(sheet.Name, number, ReturnWorkbook.KeyHeading, name, $"'{name}' is not a line of this return; download the workbook of this return and year."));
                    continue;
                }

                Cell(sheet.Name, number, line, null, cells.ElementAtOrDefault(entry) ?? "");
            }
        }

        private void Rows(ImportedSheet sheet, RepeatingSection section, int rows)
        {
            var columns = sheet.Table.Headings.Select(h => section.Lines.FirstOrDefault(l => ReturnWorkbook.Has(l) && l.Label == h)).ToList();
            var present = RowsOf(section.Key);
            foreach (var (number, cells) in sheet.Table.Rows)
            {
                var row = cells.ElementAtOrDefault(rows) ?? "";
                if (row.Length > 0 && !present.Contains(row))
                {
                    Problems.Add(new WorkbookRemark(sheet.Name, number, section.Title, row, $"This {section.RowLabel} is no longer on the return; clear the hidden column of this row to add it anew."));
                    continue;
                }

                if (row.Length == 0)
                {
                    if (columns.Index().All(c => c.Item is null || (cells.ElementAtOrDefault(c.Index) ?? "").Length == 0))
                    {
                        continue;
                    }

                    row = $"{_batch}-{number.ToString(CultureInfo.InvariantCulture)}";
                    present.Add(row);
                    Changes.Add(new EntryChange(ChangeKind.AddRow, null, row, section.Key, null, null, long.MaxValue));
                }

                foreach (var (position, line) in columns.Index().Where(c => c.Item is not null))
                {
                    Cell(sheet.Name, number, line!, row, cells.ElementAtOrDefault(position) ?? "");
                }
            }
        }

        private List<string> RowsOf(string section) => _rows.TryGetValue(section, out var known) ? known : _rows[section] = [.. workspace.RowsOf(section)];

        private void Cell(string sheet, int number, Line line, string? row, string text)
        {
            if (text.Length == 0)
            {
                return;
            }

            // Numbers come as a workbook holds them, with a point; what a person typed as a text is read as it stands.
            var reading = EntryReader.Read(line, text, canonical: true);
            var here = workspace.Entries.GetValueOrDefault((line.Key, row ?? ""))?.Value;
            var value = reading.Value;
            var problem = reading.Problem ?? (line.Identifier is { } rule && value != here && !rule.Accepts(value) ? rule.Message : null);
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
            else if (value != here)
            {
                Changes.Add(new EntryChange(ChangeKind.Set, line.Key, row, null, null, Typed(line, value), long.MaxValue));
            }
        }

        /// <summary>A canonical value as somebody of the country would type it.</summary>
        private static string? Typed(Line line, string? value) =>
            line.IsNumber && value is not null ? line.Form.Definition.Numbers.Write(decimal.Parse(value, CultureInfo.InvariantCulture), "0.##########") : value;
    }
}

internal static class ReturnFileEndpoints
{
    public static void MapReturnFiles(this RouteGroupBuilder api)
    {
        var entries = api.MapGroup("/returns/{id:long}").ReachesReturn().WithTags("Returns");
        entries.MapGet("/entries.xlsx", (long id, ReturnFiles files) => Results.File(files.Workbook(id), RowWorkbook.MediaType, $"entries-{id}.xlsx"))
            .Produces(StatusCodes.Status200OK, contentType: RowWorkbook.MediaType);
        entries.MapPost("/entries/import", async (
            long id, string? name, string? keep, HttpRequest request, ClaimsPrincipal user, ReturnFiles files, ForeignFiles foreign, Workbench workbench, CancellationToken cancellation) =>
        {
            var content = await ForeignFiles.BodyAsync(request);
            var sheets = await foreign.SheetsAsync(content, user, cancellation);
            var source = $"{(EntryReader.Clean(name) is { Length: > 0 and <= 120 } file ? file : "a workbook")}, SHA-256 {Convert.ToHexStringLower(SHA256.HashData(content))[..16]}";
            var (report, result) = files.Import(id, sheets, source, keep, Caller.Of(user));
            if (result is not null)
            {
                await workbench.TellAsync(result);
            }

            return report;
        }).RequireAuthorization(Policies.Prepare);
    }
}
