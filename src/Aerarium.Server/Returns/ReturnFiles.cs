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
        var reading = new WorkbookReading(EntriesHere.Of(workspace), string.Create(CultureInfo.InvariantCulture, $"w{workspace.Record.Revision}"));
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
