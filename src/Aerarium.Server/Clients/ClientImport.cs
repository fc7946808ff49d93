using System.Security.Claims;
using Aerarium.Countries;
using Aerarium.Reader;
using Aerarium.Server.Access;
using Aerarium.Server.Gathering;
using Aerarium.Storage;

namespace Aerarium.Server.Clients;

/// <summary>How an import went, or would go.</summary>
/// <param name="Rows">Rows with anything in them.</param>
/// <param name="Good">Rows without a problem.</param>
/// <param name="Stored">Clients added; zero for a trial.</param>
/// <param name="Problems">What must be put right.</param>
/// <param name="Doubts">Rows that may be clients the practice has already.</param>
/// <param name="Ignored">Headings that belong to no particular.</param>
/// <param name="Against">How the file stands against what is here already; null where a file adds rows.</param>
public sealed record ImportReport(
    int Rows, int Good, int Stored, IReadOnlyList<ImportRemark> Problems, IReadOnlyList<ImportRemark> Doubts, IReadOnlyList<string> Ignored, AgainstWhatIsHere? Against = null);

/// <summary>How the rows of a file stand against those that are here, known again by a column.</summary>
/// <param name="Added">Rows that are new, by name.</param>
/// <param name="Changed">Rows that differ, by name with what changes.</param>
/// <param name="Gone">Rows that are here and not in the file, by name.</param>
/// <param name="Same">How many rows are as they are here.</param>
public sealed record AgainstWhatIsHere(IReadOnlyList<string> Added, IReadOnlyList<string> Changed, IReadOnlyList<string> Gone, int Same);

/// <summary>Clients from a table: CSV, or the first sheet of an XLSX workbook. All or nothing, unless the person chooses the good rows.</summary>
internal static class ClientImport
{
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
        ("kind", "Kind", ["kind", "type", "clientkind"]),
        ("yearEnd", "Financial year end", ["financialyearend", "yearend"]),
    ];

    public static void MapClientImport(this RouteGroupBuilder clients) =>
        clients.MapPost("/import", async (
            string? country, string? keep, HttpRequest request, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock, ForeignFiles files, CancellationToken cancellation) =>
        {
            var table = await files.TableAsync(await ForeignFiles.BodyAsync(request), user, cancellation);
            return Import(table, country ?? "", keep, Caller.Of(user), database, clock);
        }).RequireAuthorization(Policies.Prepare);

    /// <summary>Tries the rows and stores them: nothing for a trial, all or nothing for <c>all</c>, the good ones for <c>good</c>.</summary>
    private static ImportReport Import(ImportedTable table, string country, string? keep, Caller caller, PracticeDatabase database, TimeProvider clock)
    {
        if (keep is not (null or "all" or "good"))
        {
            throw PlainProblem.Refused("Keep all rows or the good ones.");
        }

        (string Field, string Heading, string[] Known)[] columns = [.. Columns, .. OfCountry(country)];
        var places = columns.Select(c => table.Headings.ToList().FindIndex(h => c.Known.Contains(ImportedTables.Plain(h)))).ToArray();
        foreach (var needed in new[] { 0, 1 })
        {
            if (places[needed] < 0)
            {
                throw PlainProblem.Refused($"There is no column '{Columns[needed].Heading}' in the first row. The columns found are {string.Join(", ", table.Headings)}.");
            }
        }

        return database.Write(unit =>
        {
            var alike = new[] { ClientKinds.Individual, ClientKinds.Company }.ToDictionary(
                kind => kind, kind => new Lazy<NearDuplicates>(() => new NearDuplicates(Storage.Clients.Names(unit, country, kind, caller.Reach))));
            var (problems, doubts, good, seen) = (new List<ImportRemark>(), new List<ImportRemark>(), new List<ClientRecord>(), new Dictionary<string, int>());
            foreach (var (number, cells) in table.Rows)
            {
                string? Cell(string field) => places[Array.FindIndex(columns, c => c.Field == field)] is >= 0 and var place && place < cells.Count ? cells[place] : null;
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
                if (alike[client.Kind].Value.Find(client.Name, client.BirthDate) is { } other)
                {
                    doubts.Add(Remark(number, "name", Cell, $"{other.Name}{(other.BirthDate is null ? "" : $", born {other.BirthDate},")} is a client already; is it the same?"));
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

        ImportRemark Remark(int row, string field, Func<string, string?> cell, string message)
        {
            var column = Array.FindIndex(columns, c => c.Field == field);
            return new ImportRemark(row, places[column] >= 0 ? table.Headings[places[column]] : columns[column].Heading, cell(field), message);
        }
    }

    /// <summary>What the country keeps about clients besides, under its label or its name.</summary>
    private static IEnumerable<(string Field, string Heading, string[] Known)> OfCountry(string country) =>
        Catalogue.Countries.TryGetValue(country, out var found)
            ? found.OfIndividuals.Concat(found.OfCompanies).DistinctBy(p => p.Name).Select(p => (p.Name, p.Label, new[] { ImportedTables.Plain(p.Label), ImportedTables.Plain(p.Name) }))
            : [];

    /// <summary>The particulars a file of clients may have, by name and heading.</summary>
    public static IEnumerable<(string Name, string Heading)> Particulars(string country) => Columns.Concat(OfCountry(country)).Select(c => (c.Field, c.Heading));

    /// <summary>Particulars of a client as they stand in the cells of a file, each by its name.</summary>
    public static ClientParticularsInput Typed(string country, Func<string, string?> cell) => new()
    {
        Country = country,
        Identifier = cell("identifier") ?? "",
        Name = cell("name") ?? "",
        ClientGroup = cell("clientGroup"),
        BirthDate = cell("birthDate"),
        Email = cell("email"),
        Phone = cell("phone"),
        PostalAddress = cell("postalAddress"),
        PayoutRoute = cell("payoutRoute"),
        PayoutBank = cell("payoutBank"),
        PayoutBranch = cell("payoutBranch"),
        PayoutAccountName = cell("payoutAccountName"),
        PayoutAccountNumber = cell("payoutAccountNumber"),
        PayoutMobile = cell("payoutMobile"),
        Kind = cell("kind") is { Length: > 0 } kind ? kind.ToLowerInvariant() : null,
        YearEnd = cell("yearEnd"),
        More = OfCountry(country).ToDictionary(c => c.Field, c => cell(c.Field)),
    };
}
