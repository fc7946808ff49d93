using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Filing;
using Aerarium.Reader;
using Aerarium.Server.Access;
using Aerarium.Server.Clients;
using Aerarium.Server.Gathering;
using CsvHelper;
using CsvHelper.Configuration;

namespace Aerarium.Server.Returns;

/// <summary>A file that is taken back.</summary>
/// <param name="Remove">The rows it brought.</param>
/// <param name="Restore">The rows it replaced, in order.</param>
/// <param name="Words">The file, in words.</param>
/// <param name="Cells">The cells it changed, with what stood there.</param>
public sealed record RowsTakenBack(IReadOnlyList<string> Remove, IReadOnlyList<string> Restore, string? Words, IReadOnlyList<CellTakenBack>? Cells = null);

/// <summary>A cell a file changed, and what stood there before.</summary>
public sealed record CellTakenBack(string Row, string Line, string? Value);

/// <summary>
/// The rows of a repeating section as a file: a template with its codes as pick lists, the rows themselves, and a filled file back.
/// A file is tried first and reported by row and column; it is taken whole, unless the person chooses the good rows.
/// </summary>
public sealed class RowFiles(Workbench workbench, Ties ties)
{
    /// <summary>Rows a person is told about at most; the rest is counted.</summary>
    private const int MostRemarks = 500;
    private const int LongestWords = 200;

    /// <summary>The section of a return with a key.</summary>
    /// <exception cref="PlainProblem">There is none.</exception>
    public static RepeatingSection SectionOf(Workspace workspace, string key) =>
        workspace.Definition.FindTable(key) ?? throw PlainProblem.NotFound($"The list '{key}'");

    /// <summary>An empty workbook to fill in, or the rows of the return in one.</summary>
    public byte[] Workbook(long id, string key, bool filled)
    {
        var workspace = workbench.Open(id);
        var section = SectionOf(workspace, key);
        var columns = filled ? section.Lines : Entered(section);
        return RowWorkbook.Draw(section.Title, columns, filled ? Cells(workspace, section, columns) : []);
    }

    /// <summary>The same as CSV.</summary>
    public byte[] Csv(long id, string key, bool filled)
    {
        var workspace = workbench.Open(id);
        var section = SectionOf(workspace, key);
        var columns = filled ? section.Lines : Entered(section);
        using var memory = new MemoryStream();
        using (var writer = new CsvWriter(
            new StreamWriter(memory, new System.Text.UTF8Encoding(true)), new CsvConfiguration(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape }))
        {
            foreach (var row in (IEnumerable<IEnumerable<string?>>)[columns.Select(c => c.Label), .. filled ? Cells(workspace, section, columns) : []])
            {
                foreach (var cell in row)
                {
                    writer.WriteField(cell);
                }

                writer.NextRecord();
            }
        }

        return memory.ToArray();
    }

    /// <summary>Tries the rows of a file and takes them: nothing for a trial, all or nothing for <c>all</c>, the good ones for <c>good</c>.</summary>
    public (ImportReport Report, EditResult? Result) Import(long id, string key, ImportedTable table, string source, string? keep, bool replace, Caller caller)
    {
        if (keep is not (null or "all" or "good"))
        {
            throw PlainProblem.Refused("Take all rows or the good ones.");
        }

        var workspace = workbench.Open(id);
        var section = SectionOf(workspace, key);
        var columns = table.Headings.Select(h => ColumnFor(section, h)).ToList();
        if (columns.All(c => c is null))
        {
            throw PlainProblem.Refused($"None of the headings is a column of this list. They are: {string.Join(", ", Entered(section).Select(l => l.Label))}. The template has them.");
        }

        if (columns.OfType<Line>().GroupBy(c => c).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw PlainProblem.Refused($"The heading '{twice.Key.Label}' stands over two columns; leave one.");
        }

        var mark = ImportedTables.DecimalMark(table.Rows.SelectMany(r => r.Cells.Zip(columns).Where(c => c.Second is { Kind: LineKind.Money }).Select(c => c.First)));
        var problems = new List<ImportRemark>();
        var good = new List<(int Number, List<(Line Line, string Text)> Cells)>();
        foreach (var (number, cells) in table.Rows)
        {
            var before = problems.Count;
            var read = new List<(Line, string)>();
            for (var position = 0; position < Math.Min(cells.Count, columns.Count); position++)
            {
                if (columns[position] is not { } line || cells[position].Length == 0)
                {
                    continue;
                }

                var text = line.Kind == LineKind.Money ? mark(cells[position]) : cells[position];
                var reading = EntryReader.Read(line, text);
                if (reading.Problem is { } problem)
                {
                    problems.Add(new ImportRemark(number, line.Label, cells[position], problem));
                }
                else if (line.Identifier is { } rule && !rule.Accepts(reading.Value!))
                {
                    problems.Add(new ImportRemark(number, line.Label, cells[position], rule.Message));
                }
                else
                {
                    read.Add((line, text));
                }
            }

            foreach (var missing in Entered(section).Where(l => l.RequiredWhen is Core.Formulas.Always && read.All(r => r.Item1 != l) && problems.Skip(before).All(p => p.Column != l.Label)))
            {
                problems.Add(new ImportRemark(number, missing.Label, null, $"Enter ‘{missing.Label}’."));
            }

            if (section.KnownBy is { } known && read.Find(r => r.Item1 == known).Item2 is { } repeated && good.Find(g => KeyOf(g.Cells, known) == repeated) is { Cells: not null } earlier)
            {
                problems.Add(new ImportRemark(number, known.Label, repeated, $"It stands in row {earlier.Number} too; keep one of them, or give one its own {known.Label.ToLowerInvariant()}."));
            }

            if (problems.Count == before)
            {
                good.Add((number, read));
            }
        }

        var ignored = table.Headings.Where((_, position) => columns[position] is null).ToList();
        var taken = keep == "good" || (keep == "all" && problems.Count == 0);
        var column = section.KnownBy is { } by && columns.Contains(by) ? by : null;
        var against = column is null ? null : new RowsAgainst(workspace, section, column, [.. columns.OfType<Line>()], good);
        var result = !taken || good.Count == 0 ? null : Take(workspace, against?.Changes(replace) ?? Added(section, workspace, good, replace), source, caller);
        return (new ImportReport(table.Rows.Count, good.Count, result is null ? 0 : good.Count, [.. problems.Take(MostRemarks)], [.. table.Rows.Where(r => r.Hidden).Take(MostRemarks).Select(HiddenRow)], ignored, against?.Report), result);
    }

    private static ImportRemark HiddenRow(ImportedRow row) => new(row.Number, "", null, "This row is hidden in the workbook; it is read like the others.");

    private static Line? ColumnFor(RepeatingSection section, string heading)
    {
        var plain = ImportedTables.Plain(heading);
        return Entered(section).FirstOrDefault(l => ImportedTables.Plain(l.Label) == plain || ImportedTables.Plain(l.Name) == plain)
            ?? Entered(section).FirstOrDefault(l => l.OtherHeadings.Any(o => ImportedTables.Plain(o) == plain));
    }

    internal static string? KeyOf(IEnumerable<(Line Line, string Text)> cells, Line known) => cells.FirstOrDefault(c => c.Line == known).Text;

    private static IEnumerable<EntryChange> Added(RepeatingSection section, Workspace workspace, List<(int Number, List<(Line Line, string Text)> Cells)> rows, bool replace)
    {
        if (replace)
        {
            foreach (var row in workspace.RowsOf(section.Key))
            {
                yield return new EntryChange(ChangeKind.RemoveRow, null, row, section.Key, null, null, long.MaxValue);
            }
        }

        foreach (var change in rows.SelectMany(r => NewRow(section, workspace, r.Number, r.Cells)))
        {
            yield return change;
        }
    }

    /// <summary>A row of a file as a new row.</summary>
    internal static IEnumerable<EntryChange> NewRow(RepeatingSection section, Workspace workspace, int number, IEnumerable<(Line Line, string Text)> cells)
    {
        var row = string.Create(CultureInfo.InvariantCulture, $"f{workspace.Record.Revision}-{number}");
        return [new EntryChange(ChangeKind.AddRow, null, row, section.Key, null, null, long.MaxValue), .. cells.Select(c => new EntryChange(ChangeKind.Set, c.Line.Key, row, null, null, c.Text, long.MaxValue))];
    }

    private EditResult Take(Workspace workspace, IEnumerable<EntryChange> changes, string source, Caller caller)
    {
        var result = workbench.Edit(workspace.Record.Id, caller, [.. changes], Origin.Imported, source);
        ties.Spread(workspace.Record.Id, caller);
        return result;
    }

    /// <summary>Takes a file back, or takes it again: removes rows and brings others back, in order, as one act.</summary>
    public EditResult TakeBack(long id, string key, RowsTakenBack asked, Caller caller)
    {
        var words = EntryReader.Clean(asked.Words);
        var (remove, restore, cells) = (asked.Remove ?? [], asked.Restore ?? [], asked.Cells ?? []);
        if (words.Length is 0 or > LongestWords || remove.Count + restore.Count + cells.Count == 0 || remove.Concat(restore).Any(string.IsNullOrEmpty))
        {
            throw PlainProblem.Refused("Say which file is taken back, and which of its rows.");
        }

        var section = SectionOf(workbench.Open(id), key);
        var result = workbench.Edit(
            id,
            caller,
            [
                .. remove.Select(row => new EntryChange(ChangeKind.RemoveRow, null, row, section.Key, null, null, long.MaxValue)),
                .. restore.Select(row => new EntryChange(ChangeKind.AddRow, null, row, section.Key, null, null, long.MaxValue)),
                .. cells.Where(c => section.Lines.Any(l => l.Key == c.Line)).Select(c => new EntryChange(ChangeKind.Set, c.Line, c.Row, null, null, c.Value, long.MaxValue)),
            ],
            Origin.Imported,
            words);
        ties.Spread(id, caller);
        return result;
    }

    private static IReadOnlyList<Line> Entered(RepeatingSection section) => [.. section.Lines.Where(l => !l.IsComputed && l.Kind != LineKind.Row)];

    private static IEnumerable<IEnumerable<string?>> Cells(Workspace workspace, RepeatingSection section, IReadOnlyList<Line> columns) =>
        Enumerable.Range(0, workspace.RowsOf(section.Key).Count).Select(row => columns.Select(c => workspace.Evaluation.Value(c, row)));
}

internal static class RowFileEndpoints
{
    public static void MapRowFiles(this RouteGroupBuilder api)
    {
        var rows = api.MapGroup("/returns/{id:long}/lists/{section}").ReachesReturn().WithTags("Returns");
        rows.MapGet("/{what}.xlsx", (long id, string section, string what, RowFiles files) =>
            Results.File(files.Workbook(id, section, Filled(what)), RowWorkbook.MediaType, $"{section}-{what}.xlsx")).Produces(StatusCodes.Status200OK, contentType: RowWorkbook.MediaType);
        rows.MapGet("/{what}.csv", (long id, string section, string what, RowFiles files) =>
            Results.File(files.Csv(id, section, Filled(what)), "text/csv; charset=utf-8", $"{section}-{what}.csv")).Produces(StatusCodes.Status200OK, contentType: "text/csv");
        rows.MapPost("/take-back", async (long id, string section, RowsTakenBack asked, ClaimsPrincipal user, RowFiles files, Workbench workbench) =>
        {
            var result = files.TakeBack(id, section, asked, Caller.Of(user));
            await workbench.TellAsync(result);
            return result;
        }).RequireAuthorization(Policies.Prepare);
        rows.MapPost("/import", async (
            long id, string section, string? name, string? keep, bool? replace, HttpRequest request, ClaimsPrincipal user, RowFiles files, ForeignFiles foreign, Workbench workbench, CancellationToken cancellation) =>
        {
            var content = await ForeignFiles.BodyAsync(request);
            var table = await foreign.TableAsync(content, user, cancellation);
            var source = $"{(EntryReader.Clean(name) is { Length: > 0 and <= 120 } file ? file : "a file")}, SHA-256 {Convert.ToHexStringLower(SHA256.HashData(content))[..16]}";
            var (report, result) = files.Import(
                id, section, table, source, keep, replace ?? false, Caller.Of(user));
            if (result is not null)
            {
                await workbench.TellAsync(result);
            }

            return report;
        }).RequireAuthorization(Policies.Prepare);
    }

    private static bool Filled(string what) => what switch
    {
        "template" => false,
        "rows" => true,
        _ => throw PlainProblem.NotFound($"'{what}'"),
    };
}
