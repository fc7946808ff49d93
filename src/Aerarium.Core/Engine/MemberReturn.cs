using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Engine;

/// <summary>A return as it comes out with other entries: its balance, and what it tells other members' returns.</summary>
/// <param name="number">A number of its own within the household.</param>
/// <param name="balance">The balance.</param>
/// <param name="amounts">Amounts it tells, by position.</param>
/// <param name="texts">Texts, answers and dates it tells, by position; null for what is not filled in.</param>
/// <param name="values">What was entered otherwise.</param>
/// <param name="rows">The rows.</param>
internal sealed class ComputedReturn(
    int number, decimal balance, decimal[] amounts, string?[] texts, IReadOnlyList<KeyValuePair<string, string>> values, Dictionary<string, List<EntryRow>> rows)
{
    public int Number => number;

    public decimal Balance => balance;

    public decimal[] Amounts => amounts;

    public string?[] Texts => texts;

    public IReadOnlyList<KeyValuePair<string, string>> Values => values;

    public Dictionary<string, List<EntryRow>> Rows => rows;
}

/// <summary>
/// The return of one member, computed again and again with other entries in one and the same sheet; of each result the balance and what others are told is kept, so that
/// thousands of allocations need little memory.
/// </summary>
/// <param name="member">The member.</param>
/// <param name="today">Day of evaluation.</param>
internal sealed class MemberReturn(HouseholdMember member, DateOnly today)
{
    private readonly Definition _definition = member.Return.Definition;
    private readonly Sheet _sheet = new(member.Return.Definition);
    private readonly Dictionary<string, string> _values = new(member.Return.Entries.Values);
    private readonly List<Line> _told = [];
    private readonly Dictionary<string, ComputedReturn> _computed = [];

    /// <summary>The position at which a line is told to others.</summary>
    public int PositionOf(Line line)
    {
        var at = _told.IndexOf(line);
        if (at < 0)
        {
            at = _told.Count;
            _told.Add(line);
        }

        return at;
    }

    /// <summary>The return with other values and rows; computed once for the same.</summary>
    /// <param name="values">Values by line; those that are entered already count for nothing.</param>
    /// <param name="rows">All rows, where they are others, with what tells them apart.</param>
    /// <param name="number">The number of a return that is computed now.</param>
    public ComputedReturn With(IEnumerable<KeyValuePair<string, string>> values, (int Key, Dictionary<string, List<EntryRow>> Rows)? rows, Func<int> number)
    {
        // What is entered already makes no other return.
        List<KeyValuePair<string, string>> other = [.. values.Where(v => member.Return.Entries.Values.GetValueOrDefault(v.Key) != v.Value).OrderBy(v => v.Key, StringComparer.Ordinal)];
        var key = $"{rows?.Key ?? 0}\n{string.Join('\n', other.Select(v => $"{v.Key}={v.Value}"))}";
        if (!_computed.TryGetValue(key, out var computed))
        {
            var all = rows?.Rows ?? member.Return.Entries.Rows;
            foreach (var (line, value) in other)
            {
                _values[line] = value;
            }

            _definition.Compute(new EntrySet { Values = _values, Rows = all }, today, member.Return, _sheet);
            foreach (var (line, _) in other)
            {
                if (member.Return.Entries.Values.TryGetValue(line, out var entered))
                {
                    _values[line] = entered;
                }
                else
                {
                    _values.Remove(line);
                }
            }

            _computed[key] = computed = new ComputedReturn(
                number(), _sheet.Amounts[_definition.Balance.Slot], [.. _told.Select(l => l.IsNumber ? _sheet.Amounts[l.Slot] : 0)], [.. _told.Select(l => l.IsNumber ? null : TextOf(l))], other, all);
        }

        return computed;
    }

    /// <summary>Every figure of a return that was computed.</summary>
    public Sheet SheetOf(ComputedReturn computed)
    {
        var entries = new EntrySet { Values = new(member.Return.Entries.Values), Rows = computed.Rows };
        foreach (var (line, value) in computed.Values)
        {
            entries.Values[line] = value;
        }

        return _definition.Compute(entries, today, member.Return);
    }

    private string? TextOf(Line line) => !_sheet.Filled[line.Slot] ? null : line.Kind switch
    {
        LineKind.Answer => _sheet.Codes[line.Slot] != 0 ? "yes" : "no",
        LineKind.Date => DateOnly.FromDayNumber(_sheet.Codes[line.Slot]).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        _ => _sheet.Texts[line.Slot],
    };
}
