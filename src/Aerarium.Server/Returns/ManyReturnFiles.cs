using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Reader;
using Aerarium.Server.Access;
using Aerarium.Server.Clients;
using Aerarium.Server.Gathering;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>How taking a workbook of many clients would go, or went.</summary>
/// <param name="Clients">Clients it names.</param>
/// <param name="Good">Clients of which everything can be read.</param>
/// <param name="NewClients">Of those, clients that are not there yet.</param>
/// <param name="NewReturns">Of those, returns that are not open yet.</param>
/// <param name="Changes">Entries that differ, of those.</param>
/// <param name="NewRows">Rows that are new, of those.</param>
/// <param name="Stored">Whether they were taken.</param>
/// <param name="Problems">What is wrong.</param>
/// <param name="Ignored">Sheets that belong to no part of the return.</param>
public sealed record ManyReport(
    int Clients, int Good, int NewClients, int NewReturns, int Changes, int NewRows, bool Stored, IReadOnlyList<WorkbookRemark> Problems, IReadOnlyList<string> Ignored);

/// <summary>A return, year and period, as an endpoint is asked for it.</summary>
/// <param name="Definition">Country and return.</param>
/// <param name="Year">Tax year.</param>
/// <param name="Period">Period of the year; empty for the whole year.</param>
public sealed record AskedReturn(string Definition, int Year, string? Period);

/// <summary>
/// Returns of many clients in one workbook: out, filled elsewhere, and back. What comes back is tried first and reported by sheet, row and column. Clients are
/// taken whole, all of them or those without a fault; the entries of all are stored in one transaction. A workbook that is brought twice adds no row twice.
/// </summary>
public sealed class ManyReturnFiles(PracticeDatabase database, TimeProvider clock, Workbench workbench, ReturnOpening opening, Ties ties)
{
    /// <summary>Clients a workbook goes out with, and clients that are taken from one at once.</summary>
    private const int MostClients = 200, MostTaken = 1_000;

    private const int MostRemarks = 500;

    /// <summary>The workbook of a return: empty, or with the returns being prepared that are assigned to the caller (<c>mine</c>) or to anybody (<c>all</c>).</summary>
    /// <exception cref="PlainProblem">There is no such return, or there are more than a workbook takes.</exception>
    public byte[] Workbook(AskedReturn asked, string? with, Caller caller)
    {
        var definition = DefinitionOf(asked);
        var records = with is "mine" or "all" ? database.Read(unit => Storage.Returns.OfKind(unit, definition.Id, caller.Reach)
            .Where(r => r.Year == definition.Year && r.Period == definition.Period && r is { Kind: "original", Stage: Stage.Open } && (with == "all" || r.HolderId == caller.Id)).ToList()) : [];
        if (records.Count > MostClients)
        {
            throw PlainProblem.Refused($"{records.Count} returns of this kind are being prepared, and a workbook takes {MostClients}. Take those assigned to you, or an empty workbook.");
        }

        var clients = records.Select(record =>
        {
            var client = database.Read(unit => Storage.Clients.Find(unit, record.ClientId)!);
            return new ClientInWorkbook(client.Identifier, client.Name, workbench.Open(record.Id).Evaluation);
        });
        var particulars = ClientImport.Particulars(Catalogue.CountryOf(definition.Id)).Where(p => p.Name != "identifier").ToList();
        return ManyReturnsWorkbook.Draw(definition, particulars, [.. clients.OrderBy(c => c.Name, StringComparer.CurrentCulture)]);
    }

    /// <summary>Tries a workbook and takes it: nothing for a trial, all clients or none for <c>all</c>, those without a fault for <c>good</c>.</summary>
    public (ManyReport Report, IReadOnlyList<EditResult> Results) Import(AskedReturn asked, IReadOnlyList<ImportedSheet> sheets, (string Name, string Hash) source, string? keep, Caller caller)
    {
        if (keep is not (null or "all" or "good"))
        {
            throw PlainProblem.Refused("Take all clients or those without a fault.");
        }

        var definition = DefinitionOf(asked);
        var reading = new ManyReading(database, workbench, clock, definition, caller, $"m{source.Hash[..12]}");
        var ignored = sheets.Where(s => !reading.Take(s)).Select(s => s.Name).Where(n => n is not ("About" or "Codes")).ToList();
        if (reading.Clients.Count == 0)
        {
            throw PlainProblem.Refused("This workbook names no client of this return. Download the workbook for many clients of this return and year, fill that, and bring it back.");
        }

        if (reading.Clients.Count > MostTaken)
        {
            throw PlainProblem.Refused($"This workbook names {reading.Clients.Count} clients; bring at most {MostTaken} at once.");
        }

        var problems = reading.Problems();
        var good = reading.Clients.Where(c => c.Problems.Count == 0).ToList();
        var store = good.Count > 0 && (keep == "good" || (keep == "all" && problems.Count == 0));
        var report = new ManyReport(
            reading.Clients.Count,
            good.Count,
            good.Count(c => c.Client is null),
            good.Count(c => c.Return is null),
            good.Sum(c => c.Changes.Count(e => e.Kind == ChangeKind.Set)),
            good.Sum(c => c.Changes.Count(e => e.Kind == ChangeKind.AddRow)),
            store,
            [.. problems.Take(MostRemarks)],
            ignored);
        return (report, store ? Store(definition, good, source, caller) : []);
    }

    private IReadOnlyList<EditResult> Store(Definition definition, List<ManyReading.OfClient> good, (string Name, string Hash) source, Caller caller)
    {
        var added = database.Write(unit => good.Where(c => c.Client is null).ToDictionary(c => c, c =>
        {
            var id = Storage.Clients.Add(unit, c.New!);
            Acts.Add(unit, caller.Act("add-client", clock.GetUtcNow()) with { ClientId = id, After = $"{c.New!.Identifier} {c.New.Name}", Origin = "imported" });
            return id;
        }));
        var edits = good.Select(c => (
            Id: c.Return?.Id ?? opening.Open(c.Client?.Id ?? added[c], new OpenReturn(definition.Id, definition.Year, "original", definition.Period), caller),
            c.Changes)).Where(e => e.Changes.Count > 0).ToList();
        var results = workbench.EditTogether([.. edits.Select(e => (e.Id, (IReadOnlyList<EntryChange>)e.Changes))], caller, Origin.Imported, $"{source.Name}, SHA-256 {source.Hash}");
        foreach (var (id, _) in edits)
        {
            ties.Spread(id, caller);
        }

        return results;
    }

    private Definition DefinitionOf(AskedReturn asked)
    {
        var found = Catalogue.Find(asked.Definition, asked.Year, asked.Period ?? Periods.WholeYear, out var problem) ?? throw PlainProblem.Refused(problem!);
        return database.Read(unit => PracticeDefinitions.InForce(unit, found.Id, found.Year, found.Period));
    }
}

/// <summary>What a workbook of many clients says, client by client.</summary>
internal sealed class ManyReading(PracticeDatabase database, Workbench workbench, TimeProvider clock, Definition definition, Caller caller, string batch)
{
    private readonly Dictionary<string, OfClient> _clients = [];
    private readonly List<WorkbookRemark> _general = [];

    /// <summary>A client of the workbook.</summary>
    public sealed class OfClient(ClientRecord? client, ReturnRecord? there, WorkbookReading reading)
    {
        /// <summary>The client, if the practice has it.</summary>
        public ClientRecord? Client { get; } = client;

        /// <summary>Its return, if it is open.</summary>
        public ReturnRecord? Return { get; } = there;

        /// <summary>The client to add, if the practice does not have it.</summary>
        public ClientRecord? New { get; set; }

        /// <summary>What its sheets say.</summary>
        public WorkbookReading Reading { get; } = reading;

        /// <summary>Entries that differ and rows that are new.</summary>
        public List<EntryChange> Changes => Reading.Changes;

        /// <summary>What is wrong with it.</summary>
        public List<WorkbookRemark> Problems => Reading.Problems;

        /// <summary>Where it is named first.</summary>
        public required WorkbookRemark FirstAt { get; init; }
    }

    /// <summary>The clients, in the order in which they are named.</summary>
    public IReadOnlyCollection<OfClient> Clients => _clients.Values;

    /// <summary>Takes a sheet; false when it belongs to no part of the return.</summary>
    public bool Take(ImportedSheet sheet)
    {
        var headings = sheet.Table.Headings.ToList();
        var client = headings.IndexOf(ManyReturnsWorkbook.ClientKey);
        if (client < 0)
        {
            return false;
        }

        var rows = headings.FindIndex(h => h.StartsWith(ReturnWorkbook.RowHeading, StringComparison.Ordinal));
        var section = rows < 0 ? null : definition.FindTable(headings[rows][ReturnWorkbook.RowHeading.Length..]);
        var columns = headings.Select(h => definition.FindLine(h) is { } line && line.Table == section && ManyReturnsWorkbook.Has(line) ? line : null).ToList();
        var particulars = headings.Exists(h => h.StartsWith(ManyReturnsWorkbook.ParticularKey, StringComparison.Ordinal));
        foreach (var (heading, index) in headings.Select((h, i) => (h, i)))
        {
            if (heading.Length > 0 && index != client && index != rows && columns[index] is null && !heading.StartsWith(ManyReturnsWorkbook.ParticularKey, StringComparison.Ordinal))
            {
                _general.Add(new WorkbookRemark(sheet.Name, 1, ManyReturnsWorkbook.ClientHeading, heading, $"'{heading}' is not a line of this return; download the workbook of this return and year."));
            }
        }

        foreach (var (number, cells) in sheet.Table.Rows)
        {
            var identifier = cells.ElementAtOrDefault(client) ?? "";
            if (identifier == ManyReturnsWorkbook.ClientHeading)
            {
                continue;
            }

            if (identifier.Length == 0)
            {
                _general.Add(new WorkbookRemark(sheet.Name, number, ManyReturnsWorkbook.ClientHeading, null, "Enter the client's identifier in this row."));
                continue;
            }

            var of = ClientOf(sheet.Name, number, identifier);
            if (particulars)
            {
                Particulars(of, sheet.Name, number, identifier, name => headings.IndexOf(ManyReturnsWorkbook.ParticularKey + name) is >= 0 and var at ? cells.ElementAtOrDefault(at) : null);
            }
            else if (section is not null)
            {
                of.Reading.Row(sheet.Name, number, section, columns, cells, cells.ElementAtOrDefault(rows) ?? "");
            }
            else
            {
                of.Reading.Lines(sheet.Name, number, columns, cells);
            }
        }

        return true;
    }

    /// <summary>Everything that is wrong, once all sheets are taken.</summary>
    public List<WorkbookRemark> Problems()
    {
        foreach (var of in _clients.Values)
        {
            if (of is { Client: null, New: null, Problems.Count: 0 })
            {
                of.Problems.Add(of.FirstAt with { Message = "No client has this identifier. Give its name on the sheet Clients, or correct the identifier." });
            }
            else if (of is { Return: { } there, Changes.Count: > 0, Problems.Count: 0 } && (there.Stage != Stage.Open || there.Kind != "original"))
            {
                of.Problems.Add(of.FirstAt with { Message = "This client's return is no longer being prepared; a workbook of many clients changes no return that waits for approval or was sent." });
            }
        }

        return [.. _general, .. _clients.Values.SelectMany(c => c.Problems)];
    }

    private OfClient ClientOf(string sheet, int number, string typed)
    {
        var type = Catalogue.TypeOf(definition.Id);
        var identifier = ClientEndpoints.Written(type.Country, type.FiledBy, typed);
        if (_clients.TryGetValue(identifier, out var known))
        {
            return known;
        }

        var at = new WorkbookRemark(sheet, number, ManyReturnsWorkbook.ClientHeading, typed, "");
        return _clients[identifier] = database.Read(unit =>
        {
            if (Storage.Clients.FindByIdentifier(unit, type.Country, identifier) is not { } client)
            {
                return new OfClient(null, null, new WorkbookReading(EntriesHere.Blank(definition), batch)) { FirstAt = at };
            }

            var there = caller.Reach.SeesClient(unit, client.Id) ? Storage.Returns.FindOf(unit, client.Id, definition.Id, definition.Year, definition.Period) : null;
            var found = new OfClient(client, there, new WorkbookReading(there is null ? EntriesHere.Blank(definition) : EntriesHere.Of(workbench.Open(unit, there.Id)), batch)) { FirstAt = at };
            if (!caller.Reach.SeesClient(unit, client.Id))
            {
                found.Problems.Add(at with { Message = ClientEndpoints.ProblemOf(unit, type.Country, type.FiledBy, identifier, null, caller.Reach) ?? "This client belongs to a team you are not in." });
            }
            else if (client.Kind != type.FiledBy)
            {
                found.Problems.Add(at with { Message = $"{definition.Title} is filed by {(type.FiledBy == ClientKinds.Individual ? "individuals" : "companies")}; {client.Name} is not one." });
            }

            return found;
        });
    }

    private void Particulars(OfClient of, string sheet, int number, string identifier, Func<string, string?> cell)
    {
        var type = Catalogue.TypeOf(definition.Id);
        if (of.Client is { } client)
        {
            if (cell("name") is { Length: > 0 } name && !string.Equals(name, client.Name, StringComparison.OrdinalIgnoreCase) && of.Problems.Count == 0)
            {
                of.Problems.Add(new WorkbookRemark(sheet, number, "Name", name, $"{identifier} is {client.Name} here; correct the identifier or the name."));
            }

            return;
        }

        if (of.New is not null)
        {
            of.Problems.Add(new WorkbookRemark(sheet, number, ManyReturnsWorkbook.ClientHeading, identifier, "This client is on the sheet Clients twice; keep one row."));
            return;
        }

        var headings = ClientImport.Particulars(type.Country).ToDictionary(p => p.Name, p => p.Heading);
        var typed = ClientImport.Typed(type.Country, name => name switch
        {
            "identifier" => identifier,
            "kind" => cell(name) is { Length: > 0 } kind ? kind : type.FiledBy,
            _ => cell(name),
        });
        var (record, problems) = database.Read(unit => ClientEndpoints.Read(unit, typed, null, clock, caller.Reach));
        of.New = record;
        of.Problems.AddRange(problems.Select(p => new WorkbookRemark(sheet, number, p.Field == "identifier" ? ManyReturnsWorkbook.ClientHeading : headings.GetValueOrDefault(p.Field, p.Field), p.Field == "identifier" ? identifier : cell(p.Field), p.Message)));
    }
}

internal static class ManyReturnEndpoints
{
    public static void MapManyReturns(this RouteGroupBuilder api)
    {
        var many = api.MapGroup("/many-returns").ReachesPractice().WithTags("Returns");
        many.MapGet("/workbook.xlsx", (string definition, int year, string? period, string? with, ClaimsPrincipal user, ManyReturnFiles files) =>
                Results.File(files.Workbook(new AskedReturn(definition, year, period), with, Caller.Of(user)), RowWorkbook.MediaType, string.Create(CultureInfo.InvariantCulture, $"{definition.Replace('/', '-')}-{year}{period}.xlsx")))
            .Produces(StatusCodes.Status200OK, contentType: RowWorkbook.MediaType).RequireAuthorization(Policies.Prepare);
        many.MapPost("/import", async (
            string definition, int year, string? period, string? name, string? keep, HttpRequest request, ClaimsPrincipal user, ManyReturnFiles files, ForeignFiles foreign, Workbench workbench, CancellationToken cancellation) =>
        {
            var content = await ForeignFiles.BodyAsync(request);
            var sheets = await foreign.SheetsAsync(content, user, cancellation);
            var source = (EntryReader.Clean(name) is { Length: > 0 and <= 120 } file ? file : "a workbook", Convert.ToHexStringLower(SHA256.HashData(content))[..16]);
            var (report, results) = files.Import(new AskedReturn(definition, year, period), sheets, source, keep, Caller.Of(user));
            foreach (var result in results)
            {
                await workbench.TellAsync(result);
            }

            return report;
        }).RequireAuthorization(Policies.Prepare);
    }
}
