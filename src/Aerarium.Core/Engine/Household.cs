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
/// <param name="Line">Key of a single line.</param>
/// <param name="Value">Canonical value.</param>
public sealed record HouseholdEntry(int Member, string Line, string Value);

/// <summary>
/// Returns of people who belong together, computed together: what one says is followed by the others through their ties, without anything being stored. States that
/// come again, such as the return of a student whom another's choice does not touch, are computed once.
/// </summary>
/// <param name="members">The members.</param>
/// <param name="today">Day of evaluation.</param>
public sealed class Household(IReadOnlyList<HouseholdMember> members, DateOnly today)
{
    private readonly List<FollowingLine>[] _following = [.. members.Select(FollowingLines)];
    private readonly Dictionary<string, Sheet>[] _computed = [.. members.Select(_ => new Dictionary<string, Sheet>())];

    /// <summary>The members.</summary>
    public IReadOnlyList<HouseholdMember> Members => members;

    /// <summary>The returns as they come out with other entries; with none, as they are.</summary>
    /// <exception cref="RuleException">The returns do not come to rest.</exception>
    public HouseholdState With(IEnumerable<HouseholdEntry> entries)
    {
        var values = new Dictionary<string, string>[members.Count];
        var given = new HashSet<(int, string)>();
        foreach (var entry in entries)
        {
            given.Add((entry.Member, entry.Line));
            (values[entry.Member] ??= [])[entry.Line] = entry.Value;
        }

        var sheets = new Sheet[members.Count];
        for (var member = 0; member < members.Count; member++)
        {
            sheets[member] = SheetOf(member, values[member]);
        }

        // Nothing runs in a circle from line to line (TieCircles), so that every round settles what the round before has moved.
        for (var round = 0; round <= 8 * members.Count; round++)
        {
            var moved = false;
            for (var member = 0; member < members.Count; member++)
            {
                foreach (var line in _following[member])
                {
                    var said = SaidBy(line, sheets);
                    var here = values[member]?.GetValueOrDefault(line.Line.Key) ?? members[member].Return.Entries.Values.GetValueOrDefault(line.Line.Key);
                    if (said is not null && said != here && !given.Contains((member, line.Line.Key)))
                    {
                        (values[member] ??= [])[line.Line.Key] = said;
                        sheets[member] = SheetOf(member, values[member]);
                        moved = true;
                    }
                }
            }

            if (!moved)
            {
                return new HouseholdState(this, sheets);
            }
        }

        throw new RuleException($"The returns of {string.Join(", ", members.Select(m => m.Name))} do not come to rest: each moves the other.");
    }

    private Sheet SheetOf(int member, Dictionary<string, string>? values)
    {
        // What is entered already makes no other return.
        var entered = members[member].Return.Entries.Values;
        var key = values is null ? "" : string.Join('\n', values.Where(v => entered.GetValueOrDefault(v.Key) != v.Value).OrderBy(v => v.Key, StringComparer.Ordinal).Select(v => $"{v.Key}={v.Value}"));
        if (!_computed[member].TryGetValue(key, out var sheet))
        {
            var (now, definition) = (members[member].Return, members[member].Return.Definition);
            var entries = values is null ? now.Entries : new EntrySet { Values = new Dictionary<string, string>(now.Entries.Values.Where(v => !values.ContainsKey(v.Key)).Concat(values)), Rows = now.Entries.Rows };
            _computed[member][key] = sheet = definition.Compute(entries, today, now);
        }

        return sheet;
    }

    /// <summary>What the sources of a line say together: the sum for amounts, the first that says something for anything else.</summary>
    private static string? SaidBy(FollowingLine line, Sheet[] sheets)
    {
        if (!line.Line.IsNumber)
        {
            return line.Sources.Select(s => s.Read(sheets[s.Member])).FirstOrDefault(v => v is not null);
        }

        var sum = 0m;
        foreach (var source in line.Sources)
        {
            sum += source.Amount(sheets[source.Member]);
        }

        return Figures.Canonical(sum);
    }

    private static List<FollowingLine> FollowingLines(HouseholdMember member) =>
    [
        .. member.Return.Definition.Lines.Where(l => l.Table is null && member.Follows.Contains(l.Key)).Select(line => new FollowingLine(line, [.. line.Ties.SelectMany(tie => SourcesOf(member, tie))])).Where(f => f.Sources.Count > 0),
    ];

    private static IEnumerable<Source> SourcesOf(HouseholdMember member, TieSource tie) => tie.Return.YearsBack != 0 || tie.Return.Relation is not { } relation || tie.Return.Definition != member.Return.Definition.Id
        ? []
        : member.Relatives.GetValueOrDefault(relation, []).Select(of => new Source(of, tie, member));

    private sealed record FollowingLine(Line Line, IReadOnlyList<Source> Sources);

    /// <summary>A line of another member that feeds a line.</summary>
    private sealed record Source(int Member, TieSource Tie, HouseholdMember Reader)
    {
        private readonly Line _line = Reader.Return.Definition.LineOf(Tie.Line);
        private readonly Line? _address = Tie.AddressedBy is { } address ? Reader.Return.Definition.LineOf(address) : null;

        public decimal Amount(Sheet sheet) => IsForReader(sheet) ? sheet.Amounts[_line.Slot] : 0;

        public string? Read(Sheet sheet) => !IsForReader(sheet) || !sheet.Filled[_line.Slot] ? null : _line.Kind switch
        {
            LineKind.Answer => sheet.Codes[_line.Slot] != 0 ? "yes" : "no",
            LineKind.Date => DateOnly.FromDayNumber(sheet.Codes[_line.Slot]).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            _ => sheet.Texts[_line.Slot],
        };

        private bool IsForReader(Sheet sheet) => _address is null || sheet.Texts[_address.Slot] == Reader.Identifier;
    }
}

/// <summary>The returns of a household as they come out.</summary>
public sealed class HouseholdState
{
    private readonly Household _household;
    private readonly Sheet[] _sheets;

    internal HouseholdState(Household household, Sheet[] sheets)
    {
        (_household, _sheets) = (household, sheets);
        Balances = [.. sheets.Select((sheet, member) => sheet.Amounts[household.Members[member].Return.Definition.Balance.Slot])];
        Balance = Balances.Sum();
    }

    /// <summary>The balance of each member.</summary>
    public IReadOnlyList<decimal> Balances { get; }

    /// <summary>The balance of the whole household, in the currency of the returns.</summary>
    public decimal Balance { get; }

    /// <summary>The amount of a single line of a member.</summary>
    public decimal Amount(int member, string line) => _sheets[member].Amounts[_household.Members[member].Return.Definition.LineOf(line).Slot];

    /// <summary>Whether a single line of a member applies.</summary>
    public bool IsOpen(int member, string line) => _sheets[member].Open[_household.Members[member].Return.Definition.LineOf(line).Slot];

    /// <summary>Whether a member's return has an error that belongs to any of some lines.</summary>
    public bool HasErrorAt(int member, IReadOnlySet<string> lines)
    {
        var (sheet, definition) = (_sheets[member], _household.Members[member].Return.Definition);
        return definition.Findings.Any(f => f.Severity == Severity.Error && f.Table is null && sheet.Findings[f.Slot] && f.Lines.Any(l => lines.Contains(l.Key)));
    }
}
