using System.Globalization;
using System.IO.Compression;
using System.Security.Claims;
using Aerarium.Core.Entries;
using Aerarium.Server.Access;
using Aerarium.Storage;
using CsvHelper;
using CsvHelper.Configuration;
using ExcelDataReader;

namespace Aerarium.Server.Clients;

/// <summary>Something in an imported table.</summary>
/// <param name="Row">Row of the file as a spreadsheet numbers it.</param>
/// <param name="Column">Heading of the column.</param>
/// <param name="Value">What stands there.</param>
/// <param name="Message">What is wrong, and what to do.</param>
public sealed record ImportRemark(int Row, string Column, string? Value, string Message);

/// <summary>How an import went, or would go.</summary>
/// <param name="Rows">Rows with anything in them.</param>
/// <param name="Good">Rows without a problem.</param>
/// <param name="Stored">Clients added; zero for a trial.</param>
/// <param name="Problems">What must be put right.</param>
/// <param name="Doubts">Rows that may be clients the practice has already.</param>
/// <param name="Ignored">Headings that belong to no particular.</param>
public sealed record ImportReport(
    int Rows, int Good, int Stored, IReadOnlyList<ImportRemark> Problems, IReadOnlyList<ImportRemark> Doubts, IReadOnlyList<string> Ignored);

/// <summary>Clients from a table: CSV, or the first sheet of an XLSX workbook. All or nothing, unless the person chooses the good rows.</summary>
internal static class ClientImport
{
    private const int MostRows = 5_000;
    private const int MostColumns = 200;
    private const long LargestUnpacked = 60 * 1024 * 1024;

    /// <summary>Particulars by the headings they are known under; letters and digits count, nothing else.</summary>
    private static readonly (string Field, string Heading, string[] Known)[] Columns =
    [
        ("identifier", "Identifier", ["identifier", "identificationnumber", "personalidentificationnumber", "pin", "taxnumber", "tin"]),
        ("name", "Name", ["name", "officialname", "fullname"]),
        ("clientGroup", "Group", ["group", "family", "household", "clientgroup"]),
        ("birthDate", "Date of birth", ["dateofbirth", "birthdate", "born"]),
        ("email", "E-mail", ["email", "emailaddress", "mail"]),
        ("phone", "Telephone", ["telephone", "phone", "mobile"]),
        ("postalAddress", "Postal address", ["postaladdress", "address"]),
        ("payoutRoute", "Paid out by", ["paidoutby", "payoutroute"]),
        ("payoutBank", "Bank", ["bank", "payoutbank"]),
        ("payoutBranch", "Branch", ["branch", "payoutbranch"]),
        ("payoutAccountName", "Account name", ["accountname", "payoutaccountname"]),
        ("payoutAccountNumber", "Account number", ["accountnumber", "payoutaccountnumber"]),
        ("payoutMobile", "Mobile for payout", ["mobileforpayout", "payoutmobile", "mobilemoney"]),
    ];

    /// <summary>The workbook reader asks for a Windows code page when it starts, though XLSX has none.</summary>
    static ClientImport() => System.Text.Encoding.RegisterProvider(System.Text.CodePagesEncodingProvider.Instance);

    public static void MapClientImport(this RouteGroupBuilder clients) =>
        clients.MapPost("/import", async (
            string? country, string? keep, HttpRequest request, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock, CancellationToken cancellation) =>
        {
            using var memory = new MemoryStream();
            await request.Body.CopyToAsync(memory, cancellation);
            return Import(Read(memory.ToArray()), country ?? "", keep, Caller.Of(user), database, clock);
        }).RequireAuthorization(Policies.Prepare);

    /// <summary>Tries the rows and stores them: nothing for a trial, all or nothing for <c>all</c>, the good ones for <c>good</c>.</summary>
    private static ImportReport Import(Table table, string country, string? keep, Caller caller, PracticeDatabase database, TimeProvider clock)
    {
        if (keep is not (null or "all" or "good"))
        {
            throw PlainProblem.Refused("Keep all rows or the good ones.");
        }

        var places = Columns.Select(c => table.Headings.ToList().FindIndex(h => c.Known.Contains(Plain(h)))).ToArray();
        foreach (var needed in new[] { 0, 1 })
        {
            if (places[needed] < 0)
            {
                throw PlainProblem.Refused($"There is no column '{Columns[needed].Heading}' in the first row. The columns found are {string.Join(", ", table.Headings)}.");
            }
        }

        return database.Write(unit =>
        {
            var (problems, doubts, good, seen) = (new List<ImportRemark>(), new List<ImportRemark>(), new List<ClientRecord>(), new Dictionary<string, int>());
            foreach (var (number, cells) in table.Rows)
            {
                string? Cell(int column) => places[column] >= 0 && places[column] < cells.Count ? cells[places[column]] : null;
                var (client, wrong) = ClientEndpoints.Read(unit, Typed(country, Cell), null, clock, caller.Reach);
                if (!seen.TryAdd(client.Identifier, number) && client.Identifier.Length > 0)
                {
                    wrong.Add(new FieldProblem("identifier", $"Row {seen[client.Identifier]} has the same identifier; every identifier belongs to one client."));
                }

                problems.AddRange(wrong.Select(w => Remark(number, w.Field, Cell, w.Message)));
                if (wrong.Count > 0)
                {
                    continue;
                }

                good.Add(client);
                if (Storage.Clients.FindAlike(unit, country, client.Name, client.BirthDate, caller.Reach) is { } alike)
                {
                    doubts.Add(Remark(number, "name", Cell, $"{alike.Name} ({alike.Identifier}) has the same name{(client.BirthDate is null ? "" : " and date of birth")}; is it the same person?"));
                }
            }

            var stored = keep == "good" || (keep == "all" && problems.Count == 0) ? good : [];
            foreach (var client in stored)
            {
                var id = Storage.Clients.Add(unit, client);
                Acts.Add(unit, caller.Act("add-client", clock.GetUtcNow()) with { ClientId = id, After = $"{client.Identifier} {client.Name}", Origin = "imported" });
            }

            var ignored = table.Headings.Where((h, i) => h.Length > 0 && !places.Contains(i)).ToList();
            return new ImportReport(table.Rows.Count, good.Count, stored.Count, problems, doubts, ignored);
        });

        ImportRemark Remark(int row, string field, Func<int, string?> cell, string message)
        {
            var column = Array.FindIndex(Columns, c => c.Field == field);
            return new ImportRemark(row, places[column] >= 0 ? table.Headings[places[column]] : Columns[column].Heading, cell(column), message);
        }
    }

    private static ClientParticularsInput Typed(string country, Func<int, string?> cell) => new()
    {
        Country = country,
        Identifier = cell(0) ?? "",
        Name = cell(1) ?? "",
        ClientGroup = cell(2),
        BirthDate = cell(3),
        Email = cell(4),
        Phone = cell(5),
        PostalAddress = cell(6),
        PayoutRoute = cell(7),
        PayoutBank = cell(8),
        PayoutBranch = cell(9),
        PayoutAccountName = cell(10),
        PayoutAccountNumber = cell(11),
        PayoutMobile = cell(12),
    };

    private static string Plain(string heading) => string.Concat(heading.ToLowerInvariant().Where(char.IsAsciiLetterOrDigit));

    private static Table Read(byte[] file)
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

    private static Table Csv(byte[] file)
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

    private static Table Workbook(byte[] file)
    {
        try
        {
            using (var zip = new ZipArchive(new MemoryStream(file)))
            {
                if (zip.Entries.Sum(e => e.Length) > LargestUnpacked)
                {
                    throw PlainProblem.Refused("The workbook is far larger unpacked than a list of clients can be; it was not opened.");
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

    private static Table Shape(IEnumerable<(int Number, IReadOnlyList<string> Cells)> lines)
    {
        var filled = lines.Where(l => l.Cells.Any(c => c.Length > 0)).ToList();
        return filled is [var first, .. var rest] ? new Table(first.Cells, rest) : throw PlainProblem.Refused("The file is empty.");
    }

    private sealed record Table(IReadOnlyList<string> Headings, IReadOnlyList<(int Number, IReadOnlyList<string> Cells)> Rows);
}
