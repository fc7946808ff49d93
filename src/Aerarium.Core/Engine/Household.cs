using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>A member of a household, with a return.</summary>
/// <param name="Name">Name.</param>
/// <param name="Identifier">Identifier, by which others name the member.</param>
/// <param name="Return">The return as it is.</param>
/// <param name="Relatives">Positions of other members by what they are to this one: spouse, child, parent.</param>
/// <param name="Follows">Tied lines that still follow what they are tied to; the others were typed over.</param>
public sealed record HouseholdMember(
    string Name, string Identifier, Evaluation Return, IReadOnlyDictionary<string, IReadOnlyList<int>> Relatives, IReadOnlySet<string> Follows)
{
    /// <summary>The first of the names, by which a family speaks of one.</summary>
    public string GivenName => Name.Split(' ')[0];
}

/// <summary>An entry in the return of a member.</summary>
/// <param name="Member">Position of the member.</param>
/// <param name="Line">Key of the line.</param>
/// <param name="Value">Canonical value.</param>
/// <param name="Row">The row, for a column of a repeating section.</param>
public sealed record HouseholdEntry(int Member, string Line, string Value, string? Row = null);

/// <summary>Rows that take the place of those a page has in a repeating section within it.</summary>
/// <param name="Member">Position of the member.</param>
/// <param name="Table">Key of the section.</param>
/// <param name="Page">The row of the page.</param>
/// <param name="Rows">Canonical values by column name, the reference to the page not among them.</param>
public sealed record HouseholdRows(int Member, string Table, string Page, IReadOnlyList<IReadOnlyDictionary<string, string>> Rows);

/// <summary>Entries and rows that go together, such as a way to allocate a claim.</summary>
/// <param name="entries">Entries; of two for one place the later counts.</param>
/// <param name="rows">Rows in the place of others.</param>
public sealed class HouseholdChange(IReadOnlyList<HouseholdEntry> entries, IReadOnlyList<HouseholdRows> rows)
{
    private static int _made;

    private readonly HashSet<int> _members = [.. entries.Select(e => e.Member), .. rows.Select(r => r.Member)];

    /// <summary>Entries.</summary>
    public IReadOnlyList<HouseholdEntry> Entries => entries;

    /// <summary>Rows in the place of others.</summary>
    public IReadOnlyList<HouseholdRows> Rows => rows;

    /// <summary>A number of its own.</summary>
    internal int Number { get; } = Interlocked.Increment(ref _made);

    /// <summary>Whether it changes a member's return.</summary>
    internal bool Touches(int member) => _members.Contains(member);
}

/// <summary>
/// Returns of people who belong together, computed together: what one says is followed by the others through their ties, without anything being stored. A return that
/// comes again, such as that of a student whom another's choice does not touch, is computed once.
/// </summary>
/// <param name="members">The members.</param>
/// <param name="today">Day of evaluation.</param>
public sealed class Household(IReadOnlyList<HouseholdMember> members, DateOnly today)
{
    private readonly (MemberReturn[] Returns, List<FollowingLine>[] Follow) _prepared = Prepare(members, today);
    private readonly Dictionary<int[], int>[] _asked = [.. members.Select(_ => new Dictionary<int[], int>(new SameNumbers()))];
    private readonly Dictionary<string, int>[] _given = [.. members.Select(_ => new Dictionary<string, int>())];
    private readonly List<Given>[] _givens = [.. members.Select(_ => new List<Given>())];
    private readonly Dictionary<int[], ComputedReturn> _followed = new(new SameNumbers());
    private readonly Dictionary<int[], ComputedReturn>[] _told = [.. members.Select(_ => new Dictionary<int[], ComputedReturn>(new SameNumbers()))];
    private readonly Dictionary<decimal, int> _amounts = [];
    private readonly Dictionary<string, int> _texts = [];
    private int _numbered;

    /// <summary>The members.</summary>
    public IReadOnlyList<HouseholdMember> Members => members;

    /// <summary>The returns as they come out with other entries; with none, as they are.</summary>
    /// <exception cref="RuleException">The returns do not come to rest.</exception>
    public HouseholdState With(IReadOnlyList<HouseholdEntry> entries, IReadOnlyList<HouseholdRows>? rows = null) => After([new HouseholdChange(entries, rows ?? [])]);

    /// <summary>The returns as they come out with changes, the later over the earlier.</summary>
    /// <exception cref="RuleException">The returns do not come to rest.</exception>
    public HouseholdState After(IReadOnlyList<HouseholdChange> changes)
    {
        var given = new int[members.Count];
        var now = new ComputedReturn[members.Count];
        for (var member = 0; member < members.Count; member++)
        {
            given[member] = GivenTo(member, changes);
            now[member] = Alone(member, given[member]);
        }

        // Nothing runs in a circle from line to line (TieCircles), so that every round settles what the round before has moved.
        for (var round = 0; round <= 8 * members.Count; round++)
        {
            var moved = false;
            for (var member = 0; member < members.Count; member++)
            {
                var next = Following(member, given[member], now);
                moved |= next != now[member];
                now[member] = next;
            }

            if (!moved)
            {
                return new HouseholdState(this, now);
            }
        }

        throw new RuleException($"The returns of {string.Join(", ", members.Select(m => m.Name))} do not come to rest: each moves the other.");
    }

    /// <summary>The number of what is entered otherwise in a member's return; zero for nothing.</summary>
    private int GivenTo(int member, IReadOnlyList<HouseholdChange> changes)
    {
        var touching = new int[changes.Count];
        var count = 0;
        foreach (var change in changes)
        {
            if (change.Touches(member))
            {
                touching[count++] = change.Number;
            }
        }

        Array.Resize(ref touching, count);
        if (!_asked[member].TryGetValue(touching, out var number))
        {
            _asked[member][touching] = number = GivenTo(member, [.. changes.SelectMany(c => c.Entries)], [.. changes.SelectMany(c => c.Rows)]);
        }

        return number;
    }

    private int GivenTo(int member, List<HouseholdEntry> entries, List<HouseholdRows> rows)
    {
        List<HouseholdEntry>? own = null;
        foreach (var entry in entries)
        {
            if (entry.Member == member)
            {
                own ??= [];
                own.RemoveAll(e => e.Line == entry.Line && e.Row == entry.Row);
                own.Add(entry);
            }
        }

        List<HouseholdRows> ownRows = rows.Count == 0 ? [] : [.. rows.Where(r => r.Member == member)];
        var key = own is null && ownRows.Count == 0 ? "" : string.Join('\n', (own ?? []).Select(e => $"{e.Line}|{e.Row}={e.Value}").Order(StringComparer.Ordinal)
            .Concat(ownRows.Select(r => $"{r.Table}|{r.Page}:{string.Join(';', r.Rows.Select(v => string.Join(',', v.OrderBy(c => c.Key, StringComparer.Ordinal).Select(c => $"{c.Key}={c.Value}"))))}")));
        if (!_given[member].TryGetValue(key, out var number))
        {
            _given[member][key] = number = _givens[member].Count;
            _givens[member].Add(new Given(own ?? [], ownRows));
        }

        return number;
    }

    private ComputedReturn Alone(int member, int given) => _givens[member][given].Alone ??= ComputedWith(member, _givens[member][given], []);

    /// <summary>A member's return with what the others' returns say written in.</summary>
    private ComputedReturn Following(int member, int given, ComputedReturn[] now)
    {
        if (_prepared.Follow[member].Count == 0)
        {
            return now[member];
        }

        // Who follows, with what is entered otherwise there, and the returns of the others.
        int[] followers = [member, given, .. now.Select(c => c.Number)];
        followers[member + 2] = 0;
        if (!_followed.TryGetValue(followers, out var followed))
        {
            _followed[followers] = followed = Told(member, given, now);
        }

        return followed;
    }

    /// <summary>A member's return by what the others' say, line by line: other returns may say the same.</summary>
    private ComputedReturn Told(int member, int given, ComputedReturn[] now)
    {
        var lines = _prepared.Follow[member];
        var told = new int[lines.Count + 1];
        told[0] = given;
        for (var at = 0; at < lines.Count; at++)
        {
            told[at + 1] = ToldBy(lines[at], now);
        }

        if (!_told[member].TryGetValue(told, out var computed))
        {
            var asked = _givens[member][given];
            Dictionary<string, string> said = [];
            foreach (var line in lines.Where(f => !asked.Entries.Exists(e => e.Row is null && e.Line == f.Line.Key)))
            {
                if ((line.Line.IsNumber ? Figures.Canonical(SumOf(line, now)) : TextOf(line, now)) is { } value)
                {
                    said[line.Line.Key] = value;
                }
            }

            _told[member][told] = computed = ComputedWith(member, asked, said);
        }

        return computed;
    }

    /// <summary>The number of what a line is told; that of a single source is remembered by the source's return.</summary>
    private int ToldBy(FollowingLine line, ComputedReturn[] now)
    {
        if (line.Sources is [var only])
        {
            var source = now[only.Member].Number;
            if (!line.Told.TryGetValue(source, out var told))
            {
                line.Told[source] = told = Number();
            }

            return told;
        }

        return Number();

        int Number() => line.Line.IsNumber ? NumberOf(_amounts, SumOf(line, now)) : TextOf(line, now) is { } text ? NumberOf(_texts, text) : 0;
    }

    private static int NumberOf<TValue>(Dictionary<TValue, int> known, TValue value)
        where TValue : notnull
    {
        if (!known.TryGetValue(value, out var number))
        {
            known[value] = number = known.Count + 1;
        }

        return number;
    }

    private ComputedReturn ComputedWith(int member, Given given, Dictionary<string, string> said) => _prepared.Returns[member].With(
        said.Concat(given.Entries.Where(e => e.Row is null).Select(e => KeyValuePair.Create(e.Line, e.Value))),
        given.TouchesRows ? (_givens[member].IndexOf(given) + 1, given.AllRows ??= RowsWith(members[member].Return.Entries, given)) : null,
        () => _numbered++);

    /// <summary>Every figure of a member's return as it came out.</summary>
    internal Sheet SheetOf(int member, ComputedReturn computed) => _prepared.Returns[member].SheetOf(computed);

    private Dictionary<string, List<EntryRow>> RowsWith(EntrySet entries, Given given)
    {
        var rows = new Dictionary<string, List<EntryRow>>(entries.Rows);
        foreach (var entry in given.Entries.Where(e => e.Row is not null))
        {
            var line = members[entry.Member].Return.Definition.LineOf(entry.Line);
            rows[line.Table!.Key] = [.. rows[line.Table.Key].Select(r => r.Id == entry.Row ? r with { Values = new(r.Values) { [line.Name] = entry.Value } } : r)];
        }

        foreach (var replaced in given.Rows)
        {
            var page = members[replaced.Member].Return.Definition.FindTable(replaced.Table)!.OfPage!.Line.Name;
            rows[replaced.Table] =
            [
                .. rows.GetValueOrDefault(replaced.Table, []).Where(r => r.Values.GetValueOrDefault(page) != replaced.Page),
                .. replaced.Rows.Select((values, at) => new EntryRow($"{replaced.Page}-{at}") { Values = new(values) { [page] = replaced.Page } }),
            ];
        }

        return rows;
    }

    /// <summary>What the sources of an amount say together.</summary>
    private static decimal SumOf(FollowingLine line, ComputedReturn[] now)
    {
        var sum = 0m;
        foreach (var source in line.Sources)
        {
            sum += source.Amount(now[source.Member]);
        }

        return sum;
    }

    /// <summary>What the first source that says something says.</summary>
    private static string? TextOf(FollowingLine line, ComputedReturn[] now)
    {
        foreach (var source in line.Sources)
        {
            if (source.Text(now[source.Member]) is { } text)
            {
                return text;
            }
        }

        return null;
    }

    /// <summary>What is entered otherwise in a return.</summary>
    private sealed record Given(List<HouseholdEntry> Entries, List<HouseholdRows> Rows)
    {
        public ComputedReturn? Alone { get; set; }

        public Dictionary<string, List<EntryRow>>? AllRows { get; set; }

        public bool TouchesRows { get; } = Rows.Count > 0 || Entries.Exists(e => e.Row is not null);
    }

    /// <summary>Compares numbers one by one.</summary>
    private sealed class SameNumbers : IEqualityComparer<int[]>
    {
        public bool Equals(int[]? x, int[]? y) => x.AsSpan().SequenceEqual(y);

        public int GetHashCode(int[] numbers)
        {
            var hash = default(HashCode);
            foreach (var number in numbers)
            {
                hash.Add(number);
            }

            return hash.ToHashCode();
        }
    }

    /// <summary>The members' returns, told what they tell one another before the first is computed.</summary>
    private static (MemberReturn[] Returns, List<FollowingLine>[] Follow) Prepare(IReadOnlyList<HouseholdMember> members, DateOnly today)
    {
        MemberReturn[] returns = [.. members.Select(m => new MemberReturn(m, today))];
        return (returns, [.. members.Select(m => FollowingLines(m, returns))]);
    }

    private static List<FollowingLine> FollowingLines(HouseholdMember member, MemberReturn[] returns) =>
    [
        .. member.Return.Definition.Lines.Where(l => l.Table is null && member.Follows.Contains(l.Key)).Select(line => new FollowingLine(line, [.. line.Ties.SelectMany(tie => SourcesOf(member, tie, returns))])).Where(f => f.Sources.Count > 0),
    ];

    private static IEnumerable<Source> SourcesOf(HouseholdMember member, TieSource tie, MemberReturn[] returns) => tie.Return.YearsBack != 0 || tie.Return.Relation is not { } relation || tie.Return.Definition != member.Return.Definition.Id
        ? []
        : member.Relatives.GetValueOrDefault(relation, []).Select(of => new Source(
            of,
            returns[of].PositionOf(member.Return.Definition.LineOf(tie.Line)),
            tie.AddressedBy is { } address ? returns[of].PositionOf(member.Return.Definition.LineOf(address)) : null,
            member.Identifier));

    private sealed record FollowingLine(Line Line, IReadOnlyList<Source> Sources)
    {
        /// <summary>Numbers of what it was told, by the return that told it; for a line with one source.</summary>
        public Dictionary<int, int> Told { get; } = [];
    }

    /// <summary>A line of another member that feeds a line.</summary>
    /// <param name="Member">Position of the other member.</param>
    /// <param name="At">Where the other's return tells it.</param>
    /// <param name="Address">Where it tells for whom it is; null where it is for everybody.</param>
    /// <param name="Reader">Identifier of who follows it.</param>
    private sealed record Source(int Member, int At, int? Address, string Reader)
    {
        public decimal Amount(ComputedReturn of) => IsForReader(of) ? of.Amounts[At] : 0;

        public string? Text(ComputedReturn of) => IsForReader(of) ? of.Texts[At] : null;

        private bool IsForReader(ComputedReturn of) => Address is not { } address || of.Texts[address] == Reader;
    }
}

/// <summary>The returns of a household as they come out.</summary>
public sealed class HouseholdState
{
    private readonly Household _household;
    private readonly ComputedReturn[] _returns;
    private readonly Sheet?[] _sheets;

    internal HouseholdState(Household household, ComputedReturn[] returns)
    {
        (_household, _returns, _sheets) = (household, returns, new Sheet?[returns.Length]);
        foreach (var one in returns)
        {
            Balance += one.Balance;
        }
    }

    /// <summary>The balance of each member.</summary>
    public IReadOnlyList<decimal> Balances => [.. _returns.Select(r => r.Balance)];

    /// <summary>The balance of the whole household, in the currency of the returns.</summary>
    public decimal Balance { get; }

    /// <summary>The amount of a single line of a member.</summary>
    public decimal Amount(int member, string line) => SheetOf(member).Amounts[_household.Members[member].Return.Definition.LineOf(line).Slot];

    /// <summary>Whether a single line of a member applies.</summary>
    public bool IsOpen(int member, string line) => SheetOf(member).Open[_household.Members[member].Return.Definition.LineOf(line).Slot];

    /// <summary>Whether a member's return has an error that belongs to any of some lines.</summary>
    public bool HasErrorAt(int member, IReadOnlySet<string> lines)
    {
        var (sheet, definition) = (SheetOf(member), _household.Members[member].Return.Definition);
        return definition.Findings.Any(f => f.Severity == Severity.Error && f.Table is null && sheet.Findings[f.Slot] && f.Lines.Any(l => lines.Contains(l.Key)));
    }

    private Sheet SheetOf(int member) => _sheets[member] ??= _household.SheetOf(member, _returns[member]);
}
