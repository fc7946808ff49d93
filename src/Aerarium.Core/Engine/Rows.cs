using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>The values of one repeating section, in blocks of rows.</summary>
public sealed class Rows
{
    /// <summary>Rows compared one with another; more are found by a hash of what they hold.</summary>
    private const int Few = 8;

    private readonly Dictionary<int[], SeenRows> _seen = new(ReferenceEqualityComparer.Instance);
    private readonly Dictionary<int, bool[]> _across = [];
    private readonly Dictionary<Tally, decimal[]> _tallies = new(ReferenceEqualityComparer.Instance);
    private RowBlock? _none;

    internal Rows(int width, int findings)
    {
        Width = width;
        FindingWidth = findings;
    }

    /// <summary>Number of columns.</summary>
    public int Width { get; }

    /// <summary>Number of rules asked of every row.</summary>
    public int FindingWidth { get; }

    /// <summary>Number of rows that count: none while the section does not apply.</summary>
    public int Count;

    /// <summary>Number of rows given.</summary>
    public int GivenCount { get; private set; }

    /// <summary>The row that row formulas read while they are interpreted.</summary>
    public int Current { get; internal set; }

    /// <summary>The rows, in blocks that are full but for the last.</summary>
    public RowBlock[] Blocks = [];

    /// <summary>Which blocks are those of an earlier evaluation, computed already.</summary>
    public bool[] Settled = [];

    /// <summary>The block a row stands in; a block of one blank row when there is no such row.</summary>
    public RowBlock BlockOf(int row) => row < GivenCount ? Blocks[row / RowBlock.Size] : _none ??= new RowBlock(1, Width, FindingWidth);

    /// <summary>Where in its block a column of a row lies.</summary>
    public int PlaceOf(int row, int column) => ((row < GivenCount ? row % RowBlock.Size : 0) * Width) + column;

    /// <summary>Whether any row that counts holds something in a column.</summary>
    public bool AnyFilled(int column)
    {
        for (var row = 0; row < Count; row++)
        {
            if (IsFilled(row, column))
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>The rows in which a rule holds, in order.</summary>
    public IEnumerable<int> Holding(FindingRule rule)
    {
        if (_across.TryGetValue(rule.Slot, out var across))
        {
            for (var row = 0; row < Count; row++)
            {
                if (across[row])
                {
                    yield return row;
                }
            }

            yield break;
        }

        for (var first = 0; first < Count; first += RowBlock.Size)
        {
            var block = Blocks[first / RowBlock.Size];
            for (var row = 0; row < block.Count; row++)
            {
                if (block.Findings[(row * FindingWidth) + rule.Slot])
                {
                    yield return first + row;
                }
            }
        }
    }

    /// <summary>In which rows a rule holds that compares rows with each other; a block cannot keep this, as it depends on the others.</summary>
    public bool[] Across(int slot)
    {
        if (!_across.TryGetValue(slot, out var across))
        {
            _across[slot] = across = new bool[GivenCount];
        }

        return across;
    }

    /// <summary>The slots of a tally over these rows; added up when they are first asked for in a run, which is when its columns are complete.</summary>
    internal decimal[] SlotsOf(Tally tally, Sheet sheet)
    {
        if (!_tallies.TryGetValue(tally, out var slots))
        {
            _tallies[tally] = slots = tally.Slots(sheet);
        }

        return slots;
    }

    /// <summary>
    /// Whether a row holds in some columns what an earlier row holds. Rows are looked at once, in order, so that a list of any
    /// length takes one pass; what was seen is forgotten with <see cref="BeginRun"/>.
    /// </summary>
    public bool RepeatsEarlier(int row, int[] columns)
    {
        if (Count <= Few)
        {
            return RepeatsOneOf(row, columns);
        }

        if (!_seen.TryGetValue(columns, out var seen))
        {
            _seen[columns] = seen = new SeenRows(this, columns);
        }

        return seen.Repeats(row);
    }

    /// <summary>Whether the span between two columns of a row shares anything with that of an earlier row that holds the same in further columns; blank spans share nothing.</summary>
    public bool OverlapsEarlier(int row, int from, int to, int[] of)
    {
        if (!IsFilled(row, from) || !IsFilled(row, to))
        {
            return false;
        }

        for (var earlier = 0; earlier < row; earlier++)
        {
            if (IsFilled(earlier, from) && IsFilled(earlier, to) && At(earlier, from) <= At(row, to) && At(row, from) <= At(earlier, to) && AreAlike(row, earlier, of))
            {
                return true;
            }
        }

        return false;

        decimal At(int of, int column) => BlockOf(of).Amounts[PlaceOf(of, column)];
    }

    /// <summary>Whether two rows hold the same in some columns.</summary>
    internal bool AreAlike(int one, int other, int[] columns)
    {
        var (left, right) = (BlockOf(one), BlockOf(other));
        foreach (var column in columns)
        {
            var (a, b) = (PlaceOf(one, column), PlaceOf(other, column));
            if (left.Amounts[a] != right.Amounts[b] || left.Codes[a] != right.Codes[b] || !string.Equals(left.Texts[a], right.Texts[b], StringComparison.Ordinal))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Whether a column of a row is filled in.</summary>
    internal bool IsFilled(int row, int column) => BlockOf(row).Filled[PlaceOf(row, column)];

    private bool RepeatsOneOf(int row, int[] columns)
    {
        if (IsFilled(row, columns[0]))
        {
            for (var earlier = 0; earlier < row; earlier++)
            {
                if (IsFilled(earlier, columns[0]) && AreAlike(row, earlier, columns))
                {
                    return true;
                }
            }
        }

        return false;
    }

    /// <summary>Forgets which rows were compared: their values are about to change, but for those of blocks taken over.</summary>
    internal void BeginRun()
    {
        _seen.Clear();
        _tallies.Clear();
        for (var number = 0; number < Blocks.Length; number++)
        {
            if (!Settled[number])
            {
                Blocks[number].BeginRun();
            }
        }
    }

    /// <summary>Whether every column of a row holds exactly what a row of another sheet of the same section holds, and applies as there.</summary>
    public bool SameRow(int row, Rows other, int otherRow) =>
        BlockOf(row).SameRow(row % RowBlock.Size, other.BlockOf(otherRow), otherRow % RowBlock.Size);

    /// <summary>Whether a column of a row holds what it holds in a row of another sheet of the same section, and applies as there.</summary>
    public bool SameCell(int row, Rows other, int otherRow, int column)
    {
        var (left, right) = (BlockOf(row), other.BlockOf(otherRow));
        var (a, b) = (PlaceOf(row, column), other.PlaceOf(otherRow, column));
        return left.Filled[a] == right.Filled[b] && left.Amounts[a] == right.Amounts[b] && left.Codes[a] == right.Codes[b]
            && left.Open[a] == right.Open[b] && left.Texts[a] == right.Texts[b];
    }

    /// <summary>Takes rows given. A block in which every row is the object read before is taken over as it is; other rows read before are copied.</summary>
    /// <param name="given">The rows.</param>
    /// <param name="known">The rows of an earlier evaluation, or null.</param>
    /// <param name="read">What was read into them.</param>
    /// <param name="shares">Whether blocks may be taken over whole.</param>
    /// <param name="put">Reads a row into given cells at a place.</param>
    internal void Take(IReadOnlyList<EntryRow> given, Rows? known, IReadOnlyList<EntryRow> read, bool shares, Action<EntryRow, GivenCells, int> put)
    {
        if (GivenCount != given.Count)
        {
            // A sheet may be filled again, with more rows than before.
            _across.Clear();
        }

        Count = GivenCount = given.Count;
        Current = 0;
        Blocks = new RowBlock[(given.Count + RowBlock.Size - 1) / RowBlock.Size];
        Settled = new bool[Blocks.Length];
        for (var number = 0; number < Blocks.Length; number++)
        {
            var first = number * RowBlock.Size;
            var count = Math.Min(RowBlock.Size, given.Count - first);
            if (shares && known is not null && IsWhole(known, number, count) && AreThose(given, read, first, count))
            {
                Blocks[number] = known.Blocks[number];
                Settled[number] = true;
                continue;
            }

            var block = Blocks[number] = new RowBlock(count, Width, FindingWidth);
            for (var row = 0; row < count; row++)
            {
                var place = known is null ? -1 : PlaceBefore(given[first + row], first + row, read, read.Count - given.Count);
                if (place >= 0)
                {
                    block.Given.CopyRow(row * Width, known!.BlockOf(place).Given, known.PlaceOf(place, 0), Width);
                }
                else
                {
                    put(given[first + row], block.Given, row * Width);
                }
            }

            block.StartFromGiven();
        }
    }

    /// <summary>Gives up the blocks taken over from an earlier evaluation: something else that their rows depend on has changed.</summary>
    internal void Unsettle()
    {
        for (var number = 0; number < Blocks.Length; number++)
        {
            if (Settled[number])
            {
                Blocks[number] = Blocks[number].Renewed();
                Settled[number] = false;
            }
        }
    }

    private static bool IsWhole(Rows known, int number, int count) => number < known.Blocks.Length && known.Blocks[number].Count == count;

    private static bool AreThose(IReadOnlyList<EntryRow> given, IReadOnlyList<EntryRow> read, int first, int count)
    {
        for (var row = first; row < first + count; row++)
        {
            if (!ReferenceEquals(given[row], read[row]))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Where a row stood before: where it stands now, or as far away as rows were added or removed before it; -1 when it was another.</summary>
    private static int PlaceBefore(EntryRow row, int index, IReadOnlyList<EntryRow> before, int shift)
    {
        if (index < before.Count && ReferenceEquals(before[index], row))
        {
            return index;
        }

        var shifted = index + shift;
        return shifted >= 0 && shifted < before.Count && ReferenceEquals(before[shifted], row) ? shifted : -1;
    }
}

/// <summary>The rows compared so far in some columns, by what they hold.</summary>
internal sealed class SeenRows(Rows rows, int[] columns) : IEqualityComparer<int>
{
    private readonly List<bool> _repeats = new(rows.Count);
    private HashSet<int>? _first;

    public bool Repeats(int row)
    {
        _first ??= new HashSet<int>(rows.Count, this);
        for (var next = _repeats.Count; next <= row; next++)
        {
            _repeats.Add(rows.IsFilled(next, columns[0]) && !_first.Add(next));
        }

        return _repeats[row];
    }

    public bool Equals(int x, int y) => rows.AreAlike(x, y, columns);

    public int GetHashCode(int obj) => rows.Blocks[obj / RowBlock.Size].HashesOf(columns)[obj % RowBlock.Size];
}
