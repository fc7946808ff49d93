using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Engine;

/// <summary>The values of one repeating section: columns by row, row-major.</summary>
public sealed class Rows
{
    internal Rows(int width, int findings)
    {
        Width = width;
        FindingWidth = findings;
        Grow(4);
    }

    private readonly Dictionary<int[], SeenRows> _seen = new(ReferenceEqualityComparer.Instance);

    /// <summary>Number of columns.</summary>
    public int Width { get; }

    /// <summary>Number of rules asked of every row.</summary>
    public int FindingWidth { get; }

    /// <summary>Number of rows that count: none while the section does not apply.</summary>
    public int Count;

    /// <summary>Number of rows given.</summary>
    public int GivenCount { get; internal set; }

    /// <summary>The row that row formulas read while they are interpreted.</summary>
    public int Current { get; internal set; }

    /// <summary>Effective amounts.</summary>
    public decimal[] Amounts = [];

    /// <summary>Effective codes: answers as 1 or 0, choices by position, dates by day number, references by row number, identifiers as 1 when they satisfy their rule.</summary>
    public int[] Codes = [];

    /// <summary>What is filled in.</summary>
    public bool[] Filled = [];

    /// <summary>Effective texts.</summary>
    public string?[] Texts = [];

    /// <summary>Which columns apply in which row.</summary>
    public bool[] Open = [];

    /// <summary>Amounts as given.</summary>
    public decimal[] GivenAmounts = [];

    /// <summary>Codes as given.</summary>
    public int[] GivenCodes = [];

    /// <summary>What was given.</summary>
    public bool[] GivenFilled = [];

    /// <summary>Texts as given.</summary>
    public string?[] GivenTexts = [];

    /// <summary>Which rules hold in which row.</summary>
    public bool[] Findings = [];

    /// <summary>Whether any row holds something in a column.</summary>
    public bool AnyFilled(int column)
    {
        for (var at = column; at < Count * Width; at += Width)
        {
            if (Filled[at])
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>
    /// Whether a row holds in some columns what an earlier row holds. Rows are looked at once, in order, so that a list of any
    /// length takes one pass; what was seen is forgotten with <see cref="BeginRun"/>.
    /// </summary>
    public bool RepeatsEarlier(int row, int[] columns)
    {
        if (!_seen.TryGetValue(columns, out var seen))
        {
            _seen[columns] = seen = new SeenRows(this, columns);
        }

        return seen.Repeats(row);
    }

    /// <summary>Forgets which rows were compared: their values are about to change.</summary>
    internal void BeginRun()
    {
        foreach (var seen in _seen.Values)
        {
            seen.Clear();
        }
    }

    /// <summary>Whether every column of a row holds exactly what a row of another sheet of the same section holds, and applies as there.</summary>
    public bool SameRow(int row, Rows other, int otherRow)
    {
        var (here, there) = (row * Width, otherRow * Width);
        return Amounts.AsSpan(here, Width).SequenceEqual(other.Amounts.AsSpan(there, Width))
            && Codes.AsSpan(here, Width).SequenceEqual(other.Codes.AsSpan(there, Width))
            && Filled.AsSpan(here, Width).SequenceEqual(other.Filled.AsSpan(there, Width))
            && Open.AsSpan(here, Width).SequenceEqual(other.Open.AsSpan(there, Width))
            && Texts.AsSpan(here, Width).SequenceEqual(other.Texts.AsSpan(there, Width));
    }

    /// <summary>Takes what was given in a row from another sheet's row; false when there is none.</summary>
    internal bool CopyGiven(int row, Rows from, int place)
    {
        if (place < 0)
        {
            return false;
        }

        var (source, target) = (place * Width, row * Width);
        Array.Copy(from.GivenAmounts, source, GivenAmounts, target, Width);
        Array.Copy(from.GivenCodes, source, GivenCodes, target, Width);
        Array.Copy(from.GivenFilled, source, GivenFilled, target, Width);
        Array.Copy(from.GivenTexts, source, GivenTexts, target, Width);
        return true;
    }

    /// <summary>Takes what was given in all rows of another sheet that has as many; nothing is copied until <see cref="OwnGiven"/>.</summary>
    internal void ShareGiven(Rows from)
    {
        (GivenAmounts, GivenCodes, GivenFilled, GivenTexts) = (from.GivenAmounts, from.GivenCodes, from.GivenFilled, from.GivenTexts);
        _sharesGiven = true;
    }

    /// <summary>Makes what was given this sheet's own, before it is written to.</summary>
    internal void OwnGiven()
    {
        if (_sharesGiven)
        {
            (GivenAmounts, GivenCodes, GivenFilled, GivenTexts) = ([.. GivenAmounts], [.. GivenCodes], [.. GivenFilled], [.. GivenTexts]);
            _sharesGiven = false;
        }
    }

    /// <summary>What was given is what counts, until the rules have run.</summary>
    internal void StartFromGiven()
    {
        var cells = GivenCount * Width;
        Array.Copy(GivenAmounts, Amounts, cells);
        Array.Copy(GivenCodes, Codes, cells);
        Array.Copy(GivenFilled, Filled, cells);
        Array.Copy(GivenTexts, Texts, cells);
    }

    private bool _sharesGiven;

    internal void Grow(int rows, bool given = true)
    {
        if (rows * Width <= Amounts.Length && Amounts.Length > 0)
        {
            return;
        }

        var size = Math.Max(rows, Amounts.Length / Math.Max(1, Width) * 2) * Width;
        Amounts = new decimal[size];
        Codes = new int[size];
        Filled = new bool[size];
        Texts = new string?[size];
        Open = new bool[size];
        Findings = new bool[Math.Max(1, size / Math.Max(1, Width) * FindingWidth)];
        if (given)
        {
            GivenAmounts = new decimal[size];
            GivenCodes = new int[size];
            GivenFilled = new bool[size];
            GivenTexts = new string?[size];
        }
    }
}

/// <summary>The rows compared so far in some columns, by what they hold.</summary>
internal sealed class SeenRows(Rows rows, int[] columns) : IEqualityComparer<int>
{
    private readonly List<bool> _repeats = [];
    private HashSet<int>? _first;

    public bool Repeats(int row)
    {
        _first ??= new HashSet<int>(this);
        for (var next = _repeats.Count; next <= row; next++)
        {
            _repeats.Add(rows.Filled[(next * rows.Width) + columns[0]] && !_first.Add(next));
        }

        return _repeats[row];
    }

    public void Clear()
    {
        _repeats.Clear();
        _first?.Clear();
    }

    public bool Equals(int x, int y)
    {
        foreach (var column in columns)
        {
            var (left, right) = ((x * rows.Width) + column, (y * rows.Width) + column);
            if (rows.Amounts[left] != rows.Amounts[right] || rows.Codes[left] != rows.Codes[right]
                || !string.Equals(rows.Texts[left], rows.Texts[right], StringComparison.Ordinal))
            {
                return false;
            }
        }

        return true;
    }

    public int GetHashCode(int obj)
    {
        var hash = default(HashCode);
        foreach (var column in columns)
        {
            var at = (obj * rows.Width) + column;
            hash.Add(rows.Amounts[at]);
            hash.Add(rows.Codes[at]);
            hash.Add(rows.Texts[at]);
        }

        return hash.ToHashCode();
    }
}

/// <summary>The values of one evaluation, in arrays; loaded from entries, completed by the evaluator, reused from edit to edit.</summary>
public sealed class Sheet
{
    private readonly Definition _definition;

    /// <summary>An empty sheet of a definition.</summary>
    public Sheet(Definition definition)
    {
        _definition = definition;
        var size = definition.ScalarSlots;
        Amounts = new decimal[size];
        Codes = new int[size];
        Filled = new bool[size];
        Texts = new string?[size];
        Open = new bool[size];
        GivenAmounts = new decimal[size];
        GivenCodes = new int[size];
        GivenFilled = new bool[size];
        GivenTexts = new string?[size];
        OpenSections = new bool[definition.Sections.Count];
        Findings = new bool[definition.Findings.Count(f => f.Table is null)];
        Tables =
        [
            .. definition.Tables.Select(t => new Rows(definition.TableWidth(t), definition.Findings.Count(f => f.Table == t))),
        ];
    }

    /// <summary>Effective amounts of single lines: money and numbers.</summary>
    public decimal[] Amounts;

    /// <summary>Effective codes of single lines: answers as 1 or 0, choices by position, dates by day number, references by row number, identifiers as 1 when they satisfy their rule.</summary>
    public int[] Codes;

    /// <summary>What is filled in.</summary>
    public bool[] Filled;

    /// <summary>Effective texts.</summary>
    public string?[] Texts;

    /// <summary>Which lines apply.</summary>
    public bool[] Open;

    /// <summary>Amounts as given.</summary>
    public decimal[] GivenAmounts;

    /// <summary>Codes as given.</summary>
    public int[] GivenCodes;

    /// <summary>What was given.</summary>
    public bool[] GivenFilled;

    /// <summary>Texts as given.</summary>
    public string?[] GivenTexts;

    /// <summary>Which sections apply.</summary>
    public bool[] OpenSections;

    /// <summary>Which rules hold.</summary>
    public bool[] Findings;

    /// <summary>Repeating sections.</summary>
    public Rows[] Tables;

    /// <summary>Day number of the day of evaluation.</summary>
    public int Today;

    /// <summary>Forgets what an earlier run compared.</summary>
    internal void BeginRun()
    {
        foreach (var rows in Tables)
        {
            rows.BeginRun();
        }
    }

    /// <summary>The rows of a repeating section.</summary>
    public Rows Rows(RepeatingSection section) => Tables[section.TableNumber];

    /// <summary>Effective amount of a line, in the current row for columns.</summary>
    public decimal AmountOf(Line line) =>
        line.Table is null ? Amounts[line.Slot] : Tables[line.Table.TableNumber].Amounts[At(line)];

    /// <summary>Effective code of a line, in the current row for columns.</summary>
    public int CodeOf(Line line) => line.Table is null ? Codes[line.Slot] : Tables[line.Table.TableNumber].Codes[At(line)];

    /// <summary>Effective text of a line, in the current row for columns.</summary>
    public string? TextOf(Line line) => line.Table is null ? Texts[line.Slot] : Tables[line.Table.TableNumber].Texts[At(line)];

    /// <summary>Whether a line is filled in, in the current row for columns.</summary>
    public bool FilledAt(Line line) => line.Table is null ? Filled[line.Slot] : Tables[line.Table.TableNumber].Filled[At(line)];

    /// <summary>Whether a line applies, in the current row for columns.</summary>
    public bool IsOpen(Line line) => line.Table is null ? Open[line.Slot] : Tables[line.Table.TableNumber].Open[At(line)];

    /// <summary>
    /// Loads canonical entries. The texts must have been read by <see cref="EntryReader"/>. Rows that an earlier evaluation read already,
    /// being the same objects, are copied from its sheet.
    /// </summary>
    /// <exception cref="FormatException">An entry is not canonical.</exception>
    public void Load(EntrySet entries, DateOnly today, Evaluation? before = null)
    {
        Today = today.DayNumber;
        Array.Fill(Open, true);
        Array.Fill(OpenSections, true);
        foreach (var line in _definition.Lines)
        {
            if (line.Table is null && !line.IsComputed)
            {
                Put(line, entries.Values.GetValueOrDefault(line.Key), entries, GivenAmounts, GivenCodes, GivenFilled, GivenTexts, line.Slot);
                Amounts[line.Slot] = GivenAmounts[line.Slot];
                Codes[line.Slot] = GivenCodes[line.Slot];
                Filled[line.Slot] = GivenFilled[line.Slot];
                Texts[line.Slot] = GivenTexts[line.Slot];
            }
        }

        foreach (var table in _definition.Tables)
        {
            var rows = Tables[table.TableNumber];
            var given = entries.RowsOf(table.Key);
            var (known, read) = before is null ? (null, []) : (before.Sheet.Rows(table), before.Entries.RowsOf(table.Key));
            var asMany = known is not null && read.Count == given.Count && known.Width == rows.Width;
            rows.Grow(given.Count, given: !asMany);
            if (asMany)
            {
                rows.ShareGiven(known!);
            }

            rows.Count = rows.GivenCount = given.Count;
            rows.Current = 0;
            Array.Fill(rows.Open, true);
            var pointsElsewhere = table.Lines.Any(l => l.Kind == LineKind.Row);
            for (var row = 0; row < given.Count; row++)
            {
                var copied = asMany ? ReferenceEquals(read[row], given[row]) : known is not null && rows.CopyGiven(row, known, PlaceOf(given[row], row, read, read.Count - given.Count));
                if (copied && !pointsElsewhere)
                {
                    continue;
                }

                rows.OwnGiven();
                foreach (var line in table.Lines)
                {
                    if (!line.IsComputed && (!copied || line.Kind == LineKind.Row))
                    {
                        var at = (row * rows.Width) + line.Slot;
                        Put(line, given[row].Values.GetValueOrDefault(line.Name), entries, rows.GivenAmounts, rows.GivenCodes, rows.GivenFilled, rows.GivenTexts, at);
                    }
                }
            }

            rows.StartFromGiven();
        }
    }

    /// <summary>Where a row stood before: where it stands now, or as far away as rows were added or removed before it; -1 when it was another.</summary>
    private static int PlaceOf(EntryRow row, int index, IReadOnlyList<EntryRow> before, int shift)
    {
        if (index < before.Count && ReferenceEquals(before[index], row))
        {
            return index;
        }

        var shifted = index + shift;
        return shifted >= 0 && shifted < before.Count && ReferenceEquals(before[shifted], row) ? shifted : -1;
    }

    private int At(Line line)
    {
        var rows = Tables[line.Table!.TableNumber];
        return (rows.Current * rows.Width) + line.Slot;
    }

    private static void Put(Line line, string? value, EntrySet entries, decimal[] amounts, int[] codes, bool[] filled, string?[] texts, int at)
    {
        amounts[at] = 0;
        codes[at] = 0;
        texts[at] = null;
        filled[at] = value is not null;
        if (value is null)
        {
            return;
        }

        switch (line.Kind)
        {
            case LineKind.Money or LineKind.Count:
                amounts[at] = decimal.Parse(value, NumberStyles.Number, CultureInfo.InvariantCulture);
                break;
            case LineKind.Answer:
                codes[at] = value == "yes" ? 1 : 0;
                break;
            case LineKind.Date:
                codes[at] = DateOnly.ParseExact(value, "yyyy-MM-dd", CultureInfo.InvariantCulture).DayNumber;
                break;
            case LineKind.Choice:
                var position = line.PositionOf(value);
                codes[at] = position;
                filled[at] = position > 0;
                texts[at] = value;
                break;
            case LineKind.Row:
                var targets = entries.RowsOf(line.Target!.Key);
                for (var index = 0; index < targets.Count; index++)
                {
                    if (targets[index].Id == value)
                    {
                        codes[at] = index + 1;
                    }
                }

                filled[at] = codes[at] > 0;
                texts[at] = value;
                break;
            case LineKind.Identifier:
                texts[at] = value;
                codes[at] = line.Identifier!.Accepts(value) ? 1 : 0;
                break;
            default:
                texts[at] = value;
                break;
        }
    }
}
