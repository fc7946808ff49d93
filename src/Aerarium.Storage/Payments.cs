namespace Aerarium.Storage;

/// <summary>A payment towards a filed return.</summary>
public sealed record PaymentRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Return.</summary>
    public long ReturnId { get; init; }

    /// <summary>Day, 2026-04-30.</summary>
    public required string PaidOn { get; init; }

    /// <summary>Amount in the return's currency, canonical decimal text.</summary>
    public required string Amount { get; init; }

    /// <summary>Reference on the slip.</summary>
    public required string Reference { get; init; }

    /// <summary>Who noted it.</summary>
    public required string NotedBy { get; init; }

    /// <summary>When.</summary>
    public required string NotedAt { get; init; }
}

/// <summary>Payments.</summary>
public static class Payments
{
    /// <summary>Of a return, in the order of the days.</summary>
    public static IReadOnlyList<PaymentRecord> Of(Unit unit, long returnId) =>
    [
        .. unit.Query<PaymentRecord>(
            "SELECT id, return_id, paid_on, amount, reference, noted_by, noted_at FROM payment WHERE return_id = @returnId ORDER BY paid_on, id", new { returnId }),
    ];

    /// <summary>Notes a payment; returns its id.</summary>
    public static long Add(Unit unit, PaymentRecord payment) =>
        unit.Insert(
            """
            INSERT INTO payment (return_id, paid_on, amount, reference, noted_by, noted_at)
            VALUES (@ReturnId, @PaidOn, @Amount, @Reference, @NotedBy, @NotedAt)
            """,
            payment);

    /// <summary>Removes a payment noted by mistake.</summary>
    public static void Remove(Unit unit, long id) => unit.Execute("DELETE FROM payment WHERE id = @id", new { id });

    /// <summary>Keeps what is left to pay, for lists.</summary>
    public static void KeepUnpaid(Unit unit, long returnId, string unpaid) =>
        unit.Execute("UPDATE tax_return SET unpaid = @unpaid WHERE id = @returnId", new { returnId, unpaid });
}

/// <summary>A reminder about a return, for one person, on a day.</summary>
public sealed record ReminderRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Return.</summary>
    public long ReturnId { get; init; }

    /// <summary>Whom it reminds.</summary>
    public long PersonId { get; init; }

    /// <summary>From this day, 2026-06-20.</summary>
    public required string OnDay { get; init; }

    /// <summary>What of.</summary>
    public required string Words { get; init; }

    /// <summary>Who made it.</summary>
    public required string MadeBy { get; init; }

    /// <summary>When it was done with, or null.</summary>
    public string? DoneAt { get; init; }

    /// <summary>Client of the return.</summary>
    public string ClientName { get; init; } = "";

    /// <summary>Year of the return.</summary>
    public long Year { get; init; }
}

/// <summary>Reminders.</summary>
public static class Reminders
{
    private const string Columns = "m.id, m.return_id, m.person_id, m.on_day, m.words, m.made_by, m.done_at, c.name AS client_name, r.year";
    private const string From = "FROM reminder m JOIN tax_return r ON r.id = m.return_id JOIN client c ON c.id = r.client_id";

    /// <summary>A person's reminders whose day has come and that are not done with.</summary>
    public static IReadOnlyList<ReminderRecord> Due(Unit unit, long personId, string today) =>
    [
        .. unit.Query<ReminderRecord>(
            $"SELECT {Columns} {From} WHERE m.person_id = @personId AND m.done_at IS NULL AND m.on_day <= @today ORDER BY m.on_day, m.id", new { personId, today }),
    ];

    /// <summary>Those of a return that are not done with.</summary>
    public static IReadOnlyList<ReminderRecord> Of(Unit unit, long returnId) =>
        [.. unit.Query<ReminderRecord>($"SELECT {Columns} {From} WHERE m.return_id = @returnId AND m.done_at IS NULL ORDER BY m.on_day, m.id", new { returnId })];

    /// <summary>By id, or null.</summary>
    public static ReminderRecord? Find(Unit unit, long id) => unit.Single<ReminderRecord>($"SELECT {Columns} {From} WHERE m.id = @id", new { id });

    /// <summary>Adds a reminder; returns its id.</summary>
    public static long Add(Unit unit, ReminderRecord reminder) =>
        unit.Insert(
            "INSERT INTO reminder (return_id, person_id, on_day, words, made_by) VALUES (@ReturnId, @PersonId, @OnDay, @Words, @MadeBy)", reminder);

    /// <summary>Is done with.</summary>
    public static void Done(Unit unit, long id, string at) => unit.Execute("UPDATE reminder SET done_at = @at WHERE id = @id", new { id, at });
}
