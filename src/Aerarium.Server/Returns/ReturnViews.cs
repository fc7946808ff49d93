using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Server.Returns;

/// <summary>The value of a line at a place, and what stands behind it.</summary>
/// <param name="Line">Key of the line.</param>
/// <param name="Row">Row, or null.</param>
/// <param name="Value">Effective value, canonical; null when blank.</param>
/// <param name="Open">Whether the line applies.</param>
/// <param name="Kept">For a closed line: the entry that is kept but does not count.</param>
/// <param name="Origin">Origin of the entry.</param>
/// <param name="Source">What it was taken from.</param>
/// <param name="Expression">The arithmetic that was typed.</param>
public sealed record ValueView(string Line, string? Row, string? Value, bool Open, string? Kept, string? Origin, string? Source, string? Expression);

/// <summary>A finding with its acceptance.</summary>
public sealed record FindingView(
    string Id,
    Severity Severity,
    string Message,
    IReadOnlyList<string> Lines,
    string? Table,
    string? Row,
    string Form,
    AcceptanceView? Acceptance)
{
    /// <summary>Whether another finding is the same in everything that can change of it.</summary>
    public bool IsSame(FindingView other) =>
        Id == other.Id && Row == other.Row && Severity == other.Severity && Message == other.Message && Acceptance == other.Acceptance;
}

/// <summary>How a warning was accepted.</summary>
public sealed record AcceptanceView(string Reason, string Person, string At);

/// <summary>A key figure's amount.</summary>
public sealed record OutcomeView(string Line, string Amount);

/// <summary>Rows of a repeating section, in order.</summary>
public sealed record RowsView(string Section, IReadOnlyList<string> Rows);

/// <summary>A day by which something is to be done.</summary>
/// <param name="Act">filing or payment.</param>
/// <param name="Label">In words.</param>
/// <param name="Day">The day.</param>
/// <param name="SafeDay">The working day to plan for; earlier when the day is none.</param>
/// <param name="DaysLeft">Days until the day; negative when late.</param>
public sealed record DeadlineView(string Act, string Label, DateOnly Day, DateOnly SafeDay, int DaysLeft);

/// <summary>Last year's return of the same client and kind.</summary>
public sealed record LastYearView(long ReturnId, int Year, IReadOnlyDictionary<string, string> Values);

/// <summary>The findings of a return.</summary>
/// <param name="Revision">Revision of the return they are of.</param>
/// <param name="Findings">The findings.</param>
/// <param name="Stamp">What these findings are told by from others.</param>
/// <param name="Ties">What the returns it is tied to say.</param>
public sealed record FindingsView(long Revision, IReadOnlyList<FindingView> Findings, int Stamp, IReadOnlyList<TieView> Ties);

/// <summary>A whole return.</summary>
public sealed record ReturnView(
    long Id,
    long ClientId,
    string ClientName,
    string ClientIdentifier,
    string Definition,
    int Year,
    string Period,
    long LawEdition,
    string Title,
    string Currency,
    string Kind,
    string Stage,
    long Revision,
    string Holder,
    IReadOnlyList<DeadlineView> Deadlines,
    IReadOnlyList<RowsView> Rows,
    IReadOnlyList<ValueView> Values,
    IReadOnlyList<FindingView> Findings,
    int FindingsStamp,
    IReadOnlyList<FormProgress> Progress,
    IReadOnlyList<string> OpenSections,
    IReadOnlyList<OutcomeView> Outcome,
    IReadOnlyList<TieView> Ties,
    LastYearView? LastYear,
    bool InHousehold,
    NumberLayout Numbers,
    string? Authority,
    BesideReturn? Beside);

/// <summary>What a change does.</summary>
public enum ChangeKind
{
    /// <summary>Sets a line to what was typed; blank clears it.</summary>
    Set,

    /// <summary>Adds a row, or brings a removed one back with its entries.</summary>
    AddRow,

    /// <summary>Removes a row; its entries are kept so that it can be brought back.</summary>
    RemoveRow,

    /// <summary>Moves a row to a position.</summary>
    MoveRow,
}

/// <summary>One change of a return.</summary>
/// <param name="Kind">What it does.</param>
/// <param name="Line">For Set: the line.</param>
/// <param name="Row">For Set on a column, and for row changes: the row.</param>
/// <param name="Section">For row changes: the repeating section.</param>
/// <param name="Position">For AddRow and MoveRow: where; null is the end.</param>
/// <param name="Value">For Set: what was typed.</param>
/// <param name="Seen">For Set: the revision of the return that the person saw when starting to type.</param>
public sealed record EntryChange(ChangeKind Kind, string? Line, string? Row, string? Section, int? Position, string? Value, long Seen);

/// <summary>Changes to a return.</summary>
public sealed record EntryPatch(IReadOnlyList<EntryChange> Changes);

/// <summary>A change that was not made, because the text cannot be read.</summary>
public sealed record Refusal(string Line, string? Row, string? Typed, string Message);

/// <summary>A change that was not made, because somebody else changed the line meanwhile.</summary>
public sealed record EditConflict(string Line, string? Row, string? Mine, string? Theirs, string Person, string At);

/// <summary>
/// How the findings of one revision become those of the next: so many at the head stay, others follow, so many at the end stay. A list
/// of thousands of rows may have thousands of findings, of which one edit changes a few.
/// </summary>
/// <param name="Since">The revision that the change starts from.</param>
/// <param name="From">The stamp of the findings that the change starts from. Findings can change without a revision: when a return this one is tied to does.</param>
/// <param name="Head">How many stay at the head.</param>
/// <param name="Now">The findings between them now.</param>
/// <param name="End">How many stay at the end.</param>
/// <param name="Stamp">The stamp of what comes of it.</param>
public sealed record FindingsChange(long Since, int From, int Head, IReadOnlyList<FindingView> Now, int End, int Stamp)
{
    /// <summary>What findings are told by from others. It holds as long as the server runs.</summary>
    public static int StampOf(IEnumerable<FindingView> findings)
    {
        var stamp = default(HashCode);
        foreach (var finding in findings)
        {
            stamp.Add(finding.Id);
            stamp.Add(finding.Row);
            stamp.Add(finding.Message);
            stamp.Add(finding.Acceptance);
        }

        return stamp.ToHashCode();
    }

    /// <summary>How the findings of a revision become others.</summary>
    public static FindingsChange Between(long since, IReadOnlyList<FindingView> before, IReadOnlyList<FindingView> after) =>
        Between(since, (before, StampOf(before)), (after, StampOf(after)));

    /// <summary>How the findings of a revision become others, their stamps being known.</summary>
    public static FindingsChange Between(long since, (IReadOnlyList<FindingView> Findings, int Stamp) was, (IReadOnlyList<FindingView> Findings, int Stamp) now)
    {
        var (before, after) = (was.Findings, now.Findings);
        var (head, end) = (0, 0);
        var most = Math.Min(before.Count, after.Count);
        while (head < most && before[head].IsSame(after[head]))
        {
            head++;
        }

        while (end < most - head && before[^(end + 1)].IsSame(after[^(end + 1)]))
        {
            end++;
        }

        return new FindingsChange(since, was.Stamp, head, [.. after.Skip(head).Take(after.Count - head - end)], end, now.Stamp);
    }
}

/// <summary>What came of changes.</summary>
/// <param name="ReturnId">The return.</param>
/// <param name="Revision">Its revision now.</param>
/// <param name="Stage">Its stage now.</param>
/// <param name="Person">Who changed it.</param>
/// <param name="SavedAt">When it was saved.</param>
/// <param name="Values">Values that are different now.</param>
/// <param name="Rows">Orders of rows that are different now.</param>
/// <param name="Findings">What changed of the findings.</param>
/// <param name="Progress">Progress of the forms now.</param>
/// <param name="OpenSections">Sections that apply now.</param>
/// <param name="Outcome">Key figures now.</param>
/// <param name="Ties">What the returns it is tied to say.</param>
/// <param name="Refusals">Changes not made because they cannot be read.</param>
/// <param name="Conflicts">Changes not made because somebody was faster.</param>
public sealed record EditResult(
    long ReturnId,
    long Revision,
    string Stage,
    string Person,
    string SavedAt,
    IReadOnlyList<ValueView> Values,
    IReadOnlyList<RowsView> Rows,
    FindingsChange Findings,
    IReadOnlyList<FormProgress> Progress,
    IReadOnlyList<string> OpenSections,
    IReadOnlyList<OutcomeView> Outcome,
    IReadOnlyList<TieView> Ties,
    IReadOnlyList<Refusal> Refusals,
    IReadOnlyList<EditConflict> Conflicts)
{
    /// <summary>The lines whose values are different now.</summary>
    internal HashSet<string> MovedLines => [.. Values.Select(v => v.Line)];
}

/// <summary>What is asked to open a return.</summary>
public sealed record OpenReturn(string Definition, int Year, string Kind, string? Period = null);

/// <summary>A return that was opened.</summary>
public sealed record OpenedReturn(long Id);
