namespace Aerarium.Storage;

/// <summary>A client and its particulars.</summary>
public sealed record ClientRecord
{
    /// <summary>Id; zero before it is stored.</summary>
    public long Id { get; init; }

    /// <summary>ISO 3166 code, lower case.</summary>
    public required string Country { get; init; }

    /// <summary>individual or company.</summary>
    public string Kind { get; init; } = ClientKinds.Individual;

    /// <summary>Taxpayer identifier.</summary>
    public required string Identifier { get; init; }

    /// <summary>Official name that belongs to the identifier.</summary>
    public required string Name { get; init; }

    /// <summary>Group of clients, a family for example.</summary>
    public string? ClientGroup { get; init; }

    /// <summary>The practice's own code, or null.</summary>
    public string? Code { get; init; }

    /// <summary>Date of birth, 1990-12-31.</summary>
    public string? BirthDate { get; init; }

    /// <summary>Last day of a company's financial year, 12-31.</summary>
    public string? YearEnd { get; init; }

    /// <summary>E-mail address.</summary>
    public string? Email { get; init; }

    /// <summary>Telephone.</summary>
    public string? Phone { get; init; }

    /// <summary>Postal address.</summary>
    public string? PostalAddress { get; init; }

    /// <summary>Payout route: bank or mobile.</summary>
    public string? PayoutRoute { get; init; }

    /// <summary>Bank.</summary>
    public string? PayoutBank { get; init; }

    /// <summary>Branch.</summary>
    public string? PayoutBranch { get; init; }

    /// <summary>Account name.</summary>
    public string? PayoutAccountName { get; init; }

    /// <summary>Account number.</summary>
    public string? PayoutAccountNumber { get; init; }

    /// <summary>Mobile number for payout.</summary>
    public string? PayoutMobile { get; init; }

    /// <summary>The team it is restricted to, or null.</summary>
    public long? TeamId { get; init; }

    /// <summary>Raised with every change.</summary>
    public long Revision { get; init; }

    /// <summary>Particulars of its country besides these, by name.</summary>
    public IReadOnlyDictionary<string, string> More { get; init; } = new Dictionary<string, string>();

    /// <summary>A particular by the name lines follow it under.</summary>
    public string? Particular(string name) => name switch
    {
        "year-end" => YearEnd,
        "identifier" => Identifier,
        "name" => Name,
        "birth-date" => BirthDate,
        "email" => Email,
        "phone" => Phone,
        "postal-address" => PostalAddress,
        "payout-route" => PayoutRoute,
        "payout-bank" => PayoutBank,
        "payout-branch" => PayoutBranch,
        "payout-account-name" => PayoutAccountName,
        "payout-account-number" => PayoutAccountNumber,
        "payout-mobile" => PayoutMobile,
        _ => More.GetValueOrDefault(name),
    };
}

/// <summary>What a client is.</summary>
public static class ClientKinds
{
    /// <summary>A person.</summary>
    public const string Individual = "individual";

    /// <summary>A company or another body.</summary>
    public const string Company = "company";
}

/// <summary>A client in a list, with what stands open.</summary>
public sealed record ClientListRecord
{
    /// <summary>Client.</summary>
    public long Id { get; init; }

    /// <summary>Country.</summary>
    public required string Country { get; init; }

    /// <summary>individual or company.</summary>
    public required string Kind { get; init; }

    /// <summary>Taxpayer identifier.</summary>
    public required string Identifier { get; init; }

    /// <summary>The practice's own code, or null.</summary>
    public string? Code { get; init; }

    /// <summary>Official name.</summary>
    public required string Name { get; init; }

    /// <summary>Group, or null.</summary>
    public string? ClientGroup { get; init; }

    /// <summary>How many returns there are.</summary>
    public long Returns { get; init; }

    /// <summary>How many of them are not sent yet.</summary>
    public long Open { get; init; }

    /// <summary>The first day by which one of those is to be filed, or null.</summary>
    public string? NextDue { get; init; }

    /// <summary>Names of the persons those are assigned to, a JSON array.</summary>
    public required string Holders { get; init; }

    /// <summary>What is left to pay of each filed return, canonical decimal texts, a JSON array.</summary>
    public required string Unpaid { get; init; }
}

/// <summary>Which clients are asked for, and in which order.</summary>
/// <param name="Search">Words that name, identifier, code or group hold.</param>
/// <param name="Typos">Whether a longer word may have a typo.</param>
/// <param name="Country">Of a country, or null.</param>
/// <param name="Kind">individual, company or null.</param>
/// <param name="HolderId">With an open return assigned to a person, or null.</param>
/// <param name="Order">name, country, due, open, holder or unpaid.</param>
/// <param name="Descending">The other way round.</param>
public sealed record ClientQuery(string? Search = null, bool Typos = false, string? Country = null, string? Kind = null, long? HolderId = null, string Order = "name", bool Descending = false);

/// <summary>What tells clients apart at a glance.</summary>
public sealed record ClientNameRecord(long Id, string Name, string? BirthDate);

/// <summary>Clients.</summary>
public static class Clients
{
    private const string Columns = """
        id, country, kind, identifier, name, client_group, code, birth_date, year_end, email, phone, postal_address, payout_route, payout_bank,
        payout_branch, payout_account_name, payout_account_number, payout_mobile, team_id, revision
        """;

    /// <summary>By id, or null.</summary>
    public static ClientRecord? Find(Unit unit, long id)
    {
        var client = unit.Single<ClientRecord>($"SELECT {Columns} FROM client WHERE id = @id", new { id });
        return client is null ? null : client with { More = MoreOf(unit, id) };
    }

    /// <summary>Its official name.</summary>
    public static string NameOf(Unit unit, long id) => unit.Single<string>("SELECT name FROM client WHERE id = @id", new { id }) ?? "";

    /// <summary>Names of the others in a group, within reach.</summary>
    public static IReadOnlyList<string> InGroup(Unit unit, string group, long butId, Reach reach) =>
    [
        .. unit.Query<string>(
            $"SELECT name FROM client c WHERE client_group = @group AND id <> @butId AND {Reach.Condition} ORDER BY name LIMIT 50",
            new { group, butId, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    /// <summary>By identifier, or null.</summary>
    public static ClientRecord? FindByIdentifier(Unit unit, string country, string identifier) =>
        unit.Single<ClientRecord>($"SELECT {Columns} FROM client WHERE country = @country AND identifier = @identifier", new { country, identifier });

    /// <summary>Names and dates of birth of the clients within reach, to find those that are nearly the same.</summary>
    public static IReadOnlyList<ClientNameRecord> Names(Unit unit, string country, string kind, Reach reach) =>
    [
        .. unit.Query<ClientNameRecord>(
            $"SELECT id, name, birth_date FROM client c WHERE country = @country AND kind = @kind AND {Reach.Condition}",
            new { country, kind, personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    private const string OpenOnes = "r.client_id = c.id AND r.stage NOT IN ('sent', 'accepted')";

    private static readonly Dictionary<string, string> Orders = new()
    {
        ["name"] = "c.name",
        ["country"] = "c.country",
        ["due"] = "next_due IS NULL, next_due",
        ["open"] = "open",
        ["holder"] = "holders",
        ["unpaid"] = $"(SELECT SUM(CAST(r.unpaid AS INTEGER)) FROM tax_return r WHERE r.client_id = c.id)",
    };

    /// <summary>The orders a list of clients may have.</summary>
    public static IReadOnlyCollection<string> OrderNames => Orders.Keys;

    /// <summary>A page of the clients within reach that are asked for.</summary>
    public static IReadOnlyList<ClientListRecord> Page(Unit unit, ClientQuery query, Reach reach, int offset, int most) =>
    [
        .. unit.Query<ClientListRecord>(
            $"""
            SELECT c.id, c.country, c.kind, c.identifier, c.code, c.name, c.client_group,
                (SELECT COUNT(*) FROM tax_return r WHERE r.client_id = c.id) AS returns,
                (SELECT COUNT(*) FROM tax_return r WHERE {OpenOnes}) AS open,
                (SELECT MIN(r.due) FROM tax_return r WHERE {OpenOnes}) AS next_due,
                (SELECT json_group_array(name) FROM (SELECT DISTINCT p.name FROM tax_return r JOIN person p ON p.id = r.holder_id WHERE {OpenOnes} ORDER BY p.name)) AS holders,
                (SELECT json_group_array(r.unpaid) FROM tax_return r WHERE r.client_id = c.id AND r.stage IN ('sent', 'accepted') AND r.unpaid <> '0') AS unpaid
            FROM client c WHERE {Where(query)} ORDER BY {Orders[query.Order]}{(query.Descending ? " DESC" : "")}, c.name, c.id LIMIT @most OFFSET @offset
            """,
            Values(query, reach, offset, most)),
    ];

    /// <summary>How many clients such a list has.</summary>
    public static long Count(Unit unit, ClientQuery query, Reach reach) =>
        unit.Single<long>($"SELECT COUNT(*) FROM client c WHERE {Where(query)}", Values(query, reach, 0, 0));

    /// <summary>Groups within reach, by name.</summary>
    public static IReadOnlyList<string> Groups(Unit unit, Reach reach) =>
    [
        .. unit.Query<string>(
            $"SELECT DISTINCT client_group FROM client c WHERE client_group IS NOT NULL AND {Reach.Condition} ORDER BY client_group",
            new { personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0 }),
    ];

    /// <summary>The client that has a code of the practice, or null.</summary>
    public static long? FindByCode(Unit unit, string code) => unit.Query<long?>("SELECT id FROM client WHERE code = @code COLLATE NOCASE", new { code }).FirstOrDefault();

    private static string Where(ClientQuery query) => string.Join(" AND ", Search
        .Conditions("(c.name || ' ' || c.identifier || ' ' || COALESCE(c.client_group, '') || ' ' || COALESCE(c.code, ''))", query.Search, query.Typos)
        .Concat(query.Country is null ? [] : ["c.country = @country"])
        .Concat(query.Kind is null ? [] : ["c.kind = @kind"])
        .Concat(query.HolderId is null ? [] : [$"EXISTS (SELECT 1 FROM tax_return r WHERE {OpenOnes} AND r.holder_id = @holderId)"])
        .Prepend(Reach.Condition));

    private static Dapper.DynamicParameters Values(ClientQuery query, Reach reach, int offset, int most)
    {
        var values = new Dapper.DynamicParameters(new { personId = reach.PersonId, seesAll = reach.SeesAll ? 1 : 0, offset, most, country = query.Country, kind = query.Kind, holderId = query.HolderId });
        Search.Add(values, query.Search);
        return values;
    }

    /// <summary>Adds a client; returns the id.</summary>
    public static long Add(Unit unit, ClientRecord client)
    {
        var id = unit.Insert(
            """
            INSERT INTO client (id, country, kind, identifier, name, client_group, code, birth_date, year_end, email, phone, postal_address, payout_route, payout_bank,
                payout_branch, payout_account_name, payout_account_number, payout_mobile)
            VALUES (NULLIF(@Id, 0), @Country, @Kind, @Identifier, @Name, @ClientGroup, @Code, @BirthDate, @YearEnd, @Email, @Phone, @PostalAddress, @PayoutRoute, @PayoutBank,
                @PayoutBranch, @PayoutAccountName, @PayoutAccountNumber, @PayoutMobile)
            """,
            client);
        PutMore(unit, id, client.More);
        return id;
    }

    /// <summary>Changes a client that still has the revision it was read with; false when somebody was faster.</summary>
    public static bool Change(Unit unit, ClientRecord client)
    {
        var changed = unit.Execute(
            """
            UPDATE client SET identifier = @Identifier, name = @Name, client_group = @ClientGroup, code = @Code, birth_date = @BirthDate, year_end = @YearEnd, email = @Email,
                phone = @Phone, postal_address = @PostalAddress, payout_route = @PayoutRoute, payout_bank = @PayoutBank,
                payout_branch = @PayoutBranch, payout_account_name = @PayoutAccountName, payout_account_number = @PayoutAccountNumber,
                payout_mobile = @PayoutMobile, revision = revision + 1
            WHERE id = @Id AND revision = @Revision
            """,
            client) == 1;
        if (changed)
        {
            PutMore(unit, client.Id, client.More);
        }

        return changed;
    }

    private static Dictionary<string, string> MoreOf(Unit unit, long id) =>
        unit.Query<(string Name, string Value)>("SELECT name, value FROM client_particular WHERE client_id = @id", new { id }).ToDictionary(p => p.Name, p => p.Value);

    private static void PutMore(Unit unit, long id, IReadOnlyDictionary<string, string> more)
    {
        unit.Execute("DELETE FROM client_particular WHERE client_id = @id", new { id });
        foreach (var (name, value) in more)
        {
            unit.Execute("INSERT INTO client_particular (client_id, name, value) VALUES (@id, @name, @value)", new { id, name, value });
        }
    }

    /// <summary>Deletes a client with everything about it; acts are erased by <see cref="Acts.EraseAbout"/> before.</summary>
    public static void Delete(Unit unit, long id)
    {
        string[] ofReturns =
            ["return_tag", "batch_item", "entry", "entry_row", "finding_acceptance", "client_acceptance", "objection", "audit_case", "assessment", "sending", "built_return", "approval", "item_tick", "verification", "payment", "reminder", "remark"];
        unit.Execute("DELETE FROM statement WHERE client_id = @id", new { id });
        unit.Execute("DELETE FROM document WHERE client_id = @id", new { id });
        foreach (var table in ofReturns)
        {
            unit.Execute($"DELETE FROM {table} WHERE return_id IN (SELECT id FROM tax_return WHERE client_id = @id)", new { id });
        }

        unit.Execute("DELETE FROM tax_return WHERE client_id = @id", new { id });
        unit.Execute("DELETE FROM relation WHERE client_id = @id OR of_id = @id", new { id });
        unit.Execute("DELETE FROM consent WHERE client_id = @id", new { id });
        unit.Execute("DELETE FROM client_particular WHERE client_id = @id", new { id });
        unit.Execute("DELETE FROM client WHERE id = @id", new { id });
        Artefacts.DropUnused(unit);
    }

    /// <summary>Restricts a client to a team, or opens it to everybody.</summary>
    public static void SetTeam(Unit unit, long id, long? teamId) =>
        unit.Execute("UPDATE client SET team_id = @teamId, revision = revision + 1 WHERE id = @id", new { id, teamId });
}
