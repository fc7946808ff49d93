namespace Aerarium.Storage;

/// <summary>An item that an account was mapped to.</summary>
public sealed record MappedAccount
{
    /// <summary>Number of the account.</summary>
    public string Number { get; init; } = "";

    /// <summary>Its name.</summary>
    public string Name { get; init; } = "";

    /// <summary>Code of the item.</summary>
    public string Item { get; init; } = "";

    /// <summary>How many clients chose so.</summary>
    public long Clients { get; init; }
}

/// <summary>What accounts were mapped to in the practice's accounts.</summary>
public static class AccountMappings
{
    /// <summary>Mappings in one set of accounts.</summary>
    public static IReadOnlyList<MappedAccount> Of(Unit unit, long returnId, MappingColumns columns) =>
    [
        .. unit.Query<MappedAccount>(
            """
            SELECT COALESCE(number.value, '') AS number, name.value AS name, item.value AS item, 1 AS clients
            FROM entry item
            JOIN entry_row here ON here.return_id = item.return_id AND here.section = @section AND here.row = item.row
            JOIN entry name ON name.return_id = item.return_id AND name.line = @name AND name.row = item.row
            LEFT JOIN entry number ON number.return_id = item.return_id AND number.line = @number AND number.row = item.row
            WHERE item.return_id = @returnId AND item.line = @item AND item.value IS NOT NULL AND name.value IS NOT NULL
            """,
            new { returnId, section = columns.Section, number = columns.Number, name = columns.Name, item = columns.Item }),
    ];

    /// <summary>Mappings of other clients within reach for accounts of some names, with how many clients chose so; case does not count.</summary>
    public static IReadOnlyList<MappedAccount> OfOthers(Unit unit, string definition, long clientId, Reach reach, MappingColumns columns, IReadOnlyCollection<string> names) =>
    [
        .. unit.Query<MappedAccount>(
            $"""
            SELECT COALESCE(number.value, '') AS number, lower(name.value) AS name, item.value AS item, COUNT(DISTINCT r.client_id) AS clients
            FROM tax_return r
            JOIN entry name ON name.return_id = r.id AND name.line = @name
            JOIN entry item ON item.return_id = r.id AND item.line = @item AND item.row = name.row
            LEFT JOIN entry number ON number.return_id = r.id AND number.line = @number AND number.row = name.row
            WHERE r.definition = @definition AND r.client_id <> @clientId AND {Reach.ReturnCondition}
                AND item.value IS NOT NULL AND lower(name.value) IN (SELECT value FROM json_each(@names))
            GROUP BY 1, 2, 3
            """,
            new
            {
                definition,
                clientId,
                seesAll = reach.SeesAll ? 1 : 0,
                personId = reach.PersonId,
                number = columns.Number,
                name = columns.Name,
                item = columns.Item,
                names = System.Text.Json.JsonSerializer.Serialize(names),
            }),
    ];
}

/// <summary>The section and lines a mapping stands on.</summary>
/// <param name="Section">Key of the repeating section.</param>
/// <param name="Number">Key of the number's column.</param>
/// <param name="Name">Key of the name's column.</param>
/// <param name="Item">Key of the item's column.</param>
public sealed record MappingColumns(string Section, string Number, string Name, string Item);
