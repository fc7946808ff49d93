namespace Aerarium.Storage;

/// <summary>What the practice says of a figure of the law in place of what the product says.</summary>
public sealed record LawCorrectionRecord
{
    /// <summary>Proposed by somebody, not in force yet.</summary>
    public const string Proposed = "proposed";

    /// <summary>Turned on.</summary>
    public const string InForce = "in-force";

    /// <summary>Given up before it was turned on.</summary>
    public const string Discarded = "discarded";

    /// <summary>Taken back after it was in force.</summary>
    public const string Withdrawn = "withdrawn";

    /// <summary>Another correction of the same figure came after it, for every year it covered.</summary>
    public const string Replaced = "replaced";

    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Country and return.</summary>
    public required string Definition { get; init; }

    /// <summary>Key of the figure.</summary>
    public required string Figure { get; init; }

    /// <summary>What the figure is called.</summary>
    public required string Label { get; init; }

    /// <summary>The correction as JSON, without its source.</summary>
    public required string Says { get; init; }

    /// <summary>What the figure says by it, in words.</summary>
    public required string Content { get; init; }

    /// <summary>What it said before, in words.</summary>
    public required string Was { get; init; }

    /// <summary>Gazette, statute or table, with its reference.</summary>
    public required string Source { get; init; }

    /// <summary>Day of the source, canonical, or null.</summary>
    public string? SourceDay { get; init; }

    /// <summary>Why.</summary>
    public required string Reason { get; init; }

    /// <summary>One of the states above.</summary>
    public required string State { get; init; }

    /// <summary>Who proposed it.</summary>
    public long ProposedBy { get; init; }

    /// <summary>When.</summary>
    public required string ProposedAt { get; init; }

    /// <summary>Who turned it on, gave it up or withdrew it; null while it is only proposed.</summary>
    public long? DecidedBy { get; init; }

    /// <summary>When, or null.</summary>
    public string? DecidedAt { get; init; }

    /// <summary>Who asked to withdraw it, or null.</summary>
    public long? WithdrawalBy { get; init; }

    /// <summary>When, or null.</summary>
    public string? WithdrawalAt { get; init; }

    /// <summary>Why, or null.</summary>
    public string? WithdrawalReason { get; init; }
}

/// <summary>A year and period a correction covers.</summary>
/// <param name="CorrectionId">The correction.</param>
/// <param name="Year">Tax year.</param>
/// <param name="Period">Period of the year.</param>
/// <param name="FromEdition">The edition with which it came into force; null before.</param>
/// <param name="UntilEdition">The edition with which it ceased; null while it is in force.</param>
public sealed record LawCover(long CorrectionId, long Year, string Period, long? FromEdition, long? UntilEdition);

/// <summary>Corrections of the law.</summary>
public static class LawCorrections
{
    private const string Columns =
        "id, definition, figure, label, says, content, was, source, source_day, reason, state, proposed_by, proposed_at, decided_by, decided_at, withdrawal_by, withdrawal_at, withdrawal_reason";

    /// <summary>Keeps a proposal for some years and periods; its id.</summary>
    public static long Add(Unit unit, LawCorrectionRecord made, IEnumerable<(int Year, string Period)> covers)
    {
        var id = unit.Insert(
            """
            INSERT INTO law_correction (definition, figure, label, says, content, was, source, source_day, reason, state, proposed_by, proposed_at)
            VALUES (@Definition, @Figure, @Label, @Says, @Content, @Was, @Source, @SourceDay, @Reason, @State, @ProposedBy, @ProposedAt)
            """,
            made);
        foreach (var (year, period) in covers)
        {
            unit.Execute("INSERT INTO law_correction_cover (correction_id, year, period) VALUES (@id, @year, @period)", new { id, year, period });
        }

        return id;
    }

    /// <summary>By id, or null.</summary>
    public static LawCorrectionRecord? Find(Unit unit, long id) => unit.Single<LawCorrectionRecord>($"SELECT {Columns} FROM law_correction WHERE id = @id", new { id });

    /// <summary>Proposed and in force for a return, year and period, by figure; a proposal stands beside the correction it would replace.</summary>
    public static ILookup<string, LawCorrectionRecord> Of(Unit unit, string definition, long year, string period) =>
        unit.Query<LawCorrectionRecord>(
            $"""
            SELECT {Columns} FROM law_correction
            WHERE definition = @definition AND (state = 'proposed' OR state = 'in-force') AND EXISTS (
                SELECT 1 FROM law_correction_cover c WHERE c.correction_id = law_correction.id AND c.year = @year AND c.period = @period AND c.until_edition IS NULL)
            ORDER BY id
            """,
            new { definition, year, period })
            .ToLookup(c => c.Figure);

    /// <summary>The years and periods of a correction.</summary>
    public static IReadOnlyList<LawCover> CoversOf(Unit unit, long id) =>
        [.. unit.Query<LawCover>("SELECT correction_id, year, period, from_edition, until_edition FROM law_correction_cover WHERE correction_id = @id ORDER BY year, period", new { id })];

    /// <summary>Moves a correction on; false when it is not where it is moved from, because somebody was faster.</summary>
    public static bool Move(Unit unit, long id, string from, string to, long person, string at) =>
        unit.Execute("UPDATE law_correction SET state = @to, decided_by = @person, decided_at = @at WHERE id = @id AND state = @from", new { id, from, to, person, at }) == 1;

    /// <summary>Notes that somebody asks to withdraw a correction, or, with nobody, that it stays.</summary>
    public static void AskWithdrawal(Unit unit, long id, long? person, string? at, string? reason) =>
        unit.Execute("UPDATE law_correction SET withdrawal_by = @person, withdrawal_at = @at, withdrawal_reason = @reason WHERE id = @id", new { id, person, at, reason });

    /// <summary>A correction comes into force with an edition.</summary>
    public static void Begin(Unit unit, long id, long year, string period, long edition) =>
        unit.Execute("UPDATE law_correction_cover SET from_edition = @edition WHERE correction_id = @id AND year = @year AND period = @period", new { id, year, period, edition });

    /// <summary>What is in force of a figure ceases with an edition; a correction that then covers nothing any more is in the given state.</summary>
    public static void End(Unit unit, string definition, string figure, long year, string period, long edition, string state)
    {
        unit.Execute(
            """
            UPDATE law_correction_cover SET until_edition = @edition
            WHERE year = @year AND period = @period AND from_edition IS NOT NULL AND until_edition IS NULL
                AND correction_id IN (SELECT id FROM law_correction WHERE definition = @definition AND figure = @figure AND state = 'in-force')
            """,
            new { definition, figure, year, period, edition });
        unit.Execute(
            """
            UPDATE law_correction SET state = @state
            WHERE definition = @definition AND figure = @figure AND state = 'in-force'
                AND NOT EXISTS (SELECT 1 FROM law_correction_cover c WHERE c.correction_id = law_correction.id AND c.from_edition IS NOT NULL AND c.until_edition IS NULL)
                AND EXISTS (SELECT 1 FROM law_correction_cover c WHERE c.correction_id = law_correction.id AND c.until_edition IS NOT NULL)
            """,
            new { definition, figure, state });
    }
}

/// <summary>An edition of the law of a return, year and period: the corrections that are laid over the product's law.</summary>
/// <param name="Definition">Country and return.</param>
/// <param name="Year">Tax year.</param>
/// <param name="Period">Period of the year.</param>
/// <param name="Number">Its number; the product's own law is 0.</param>
/// <param name="Corrections">The corrections as JSON.</param>
/// <param name="MadeBy">Who turned it on.</param>
/// <param name="MadeAt">When.</param>
public sealed record LawEditionRecord(string Definition, long Year, string Period, long Number, string Corrections, long MadeBy, string MadeAt);

/// <summary>Editions of the law, and which one a return is computed by.</summary>
public static class LawEditions
{
    private const string Columns = "definition, year, period, number, corrections, made_by, made_at";

    /// <summary>The number of the latest edition for the row of a return; see <see cref="Latest"/>.</summary>
    internal const string LatestOfReturn =
        "coalesce((SELECT max(number) FROM law_edition e WHERE e.definition = tax_return.definition AND e.year = tax_return.year AND e.period = tax_return.period), 0)";

    /// <summary>Every edition.</summary>
    public static IReadOnlyList<LawEditionRecord> All(Unit unit) => [.. unit.Query<LawEditionRecord>($"SELECT {Columns} FROM law_edition ORDER BY definition, year, period, number")];

    /// <summary>The edition in force of a return, year and period; null where the product's own law is.</summary>
    public static LawEditionRecord? Latest(Unit unit, string definition, long year, string period) =>
        unit.Query<LawEditionRecord>(
            $"SELECT {Columns} FROM law_edition WHERE definition = @definition AND year = @year AND period = @period ORDER BY number DESC LIMIT 1", new { definition, year, period }).FirstOrDefault();

    /// <summary>By number, or null.</summary>
    public static LawEditionRecord? Find(Unit unit, string definition, long year, string period, long number) =>
        unit.Single<LawEditionRecord>(
            $"SELECT {Columns} FROM law_edition WHERE definition = @definition AND year = @year AND period = @period AND number = @number", new { definition, year, period, number });

    /// <summary>Keeps an edition.</summary>
    public static void Add(Unit unit, LawEditionRecord edition) =>
        unit.Execute(
            """
            INSERT INTO law_edition (definition, year, period, number, corrections, made_by, made_at)
            VALUES (@Definition, @Year, @Period, @Number, @Corrections, @MadeBy, @MadeAt)
            """,
            edition);

    /// <summary>Forgets all; for a database that takes them from another.</summary>
    internal static void Clear(Unit unit) => unit.Execute("DELETE FROM law_edition");

    /// <summary>
    /// Lets every return that is neither approved nor filed be computed by the latest edition of its law; those that were not before. What lists show of them is to be computed
    /// anew, and is by the next look at a new day if by nothing else.
    /// </summary>
    public static IReadOnlyList<ReturnRecord> Follow(Unit unit)
    {
        var behind = Returns.Where(unit, $"stage IN ('open', 'waiting', 'rejected') AND law_edition <> {LatestOfReturn}");
        foreach (var item in behind)
        {
            unit.Execute($"UPDATE tax_return SET law_edition = {LatestOfReturn}, checked_on = '' WHERE id = @Id", item);
        }

        return behind;
    }
}
