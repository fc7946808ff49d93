namespace Aerarium.Storage;

/// <summary>A figure of the law that somebody held against a printed source.</summary>
public sealed record LawVerificationRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Country and return.</summary>
    public required string Definition { get; init; }

    /// <summary>Tax year.</summary>
    public long Year { get; init; }

    /// <summary>Period of the year.</summary>
    public string Period { get; init; } = "";

    /// <summary>Key of the figure.</summary>
    public required string Figure { get; init; }

    /// <summary>What the figure said then.</summary>
    public required string Content { get; init; }

    /// <summary>Against what it was held: gazette, statute or table, with its reference.</summary>
    public required string Against { get; init; }

    /// <summary>Day of that source, canonical, or null.</summary>
    public string? SourceDay { get; init; }

    /// <summary>Hash of the page that is attached, or null.</summary>
    public string? PageSha256 { get; init; }

    /// <summary>File name of that page, or null.</summary>
    public string? PageName { get; init; }

    /// <summary>Who verified it.</summary>
    public long VerifiedBy { get; init; }

    /// <summary>When.</summary>
    public required string VerifiedAt { get; init; }

    /// <summary>Another person who confirmed it, or null.</summary>
    public long? ConfirmedBy { get; init; }

    /// <summary>When, or null.</summary>
    public string? ConfirmedAt { get; init; }
}

/// <summary>Verifications of figures of the law.</summary>
public static class LawVerifications
{
    private const string Columns = "id, definition, year, period, figure, content, against, source_day, page_sha256, page_name, verified_by, verified_at, confirmed_by, confirmed_at";

    /// <summary>Those in force of a return and year, by figure.</summary>
    public static IReadOnlyDictionary<string, LawVerificationRecord> Of(Unit unit, string definition, long year, string period) =>
        unit.Query<LawVerificationRecord>(
            $"SELECT {Columns} FROM law_verification WHERE definition = @definition AND year = @year AND period = @period AND withdrawn_at IS NULL", new { definition, year, period })
            .ToDictionary(v => v.Figure);

    /// <summary>Keeps one; an earlier one of the same figure is withdrawn.</summary>
    public static void Put(Unit unit, LawVerificationRecord made)
    {
        Withdraw(unit, made.Definition, made.Year, made.Period, made.Figure, made.VerifiedBy, made.VerifiedAt);
        unit.Insert(
            """
            INSERT INTO law_verification (definition, year, period, figure, content, against, source_day, verified_by, verified_at)
            VALUES (@Definition, @Year, @Period, @Figure, @Content, @Against, @SourceDay, @VerifiedBy, @VerifiedAt)
            """,
            made);
    }

    /// <summary>Attaches the printed page to what was verified in one act: the figure in each of the years.</summary>
    public static void AttachPage(Unit unit, LawVerificationRecord made, string sha256, string name) =>
        unit.Execute(
            "UPDATE law_verification SET page_sha256 = @sha256, page_name = @name WHERE definition = @Definition AND period = @Period AND figure = @Figure AND verified_at = @VerifiedAt AND withdrawn_at IS NULL",
            new { made.Definition, made.Period, made.Figure, made.VerifiedAt, sha256, name });

    /// <summary>Notes that another person confirmed it.</summary>
    public static void Confirm(Unit unit, long id, long person, string at) =>
        unit.Execute("UPDATE law_verification SET confirmed_by = @person, confirmed_at = @at WHERE id = @id", new { id, person, at });

    /// <summary>Withdraws what is in force of a figure; whether there was any.</summary>
    public static bool Withdraw(Unit unit, string definition, long year, string period, string figure, long person, string at) =>
        unit.Execute(
            """
            UPDATE law_verification SET withdrawn_by = @person, withdrawn_at = @at
            WHERE definition = @definition AND year = @year AND period = @period AND figure = @figure AND withdrawn_at IS NULL
            """,
            new { definition, year, period, figure, person, at }) > 0;
}
