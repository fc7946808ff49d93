namespace Aerarium.Core.Engine;

/// <summary>Cells of some rows as given, row-major. Written once, when entries are read.</summary>
public sealed class GivenCells(int size)
{
    /// <summary>Amounts as given.</summary>
    public decimal[] Amounts { get; } = new decimal[size];

    /// <summary>Codes as given.</summary>
    public int[] Codes { get; } = new int[size];

    /// <summary>What was given.</summary>
    public bool[] Filled { get; } = new bool[size];

    /// <summary>Texts as given.</summary>
    public string?[] Texts { get; } = new string?[size];

    /// <summary>Takes the cells of one row over from others.</summary>
    internal void CopyRow(int to, GivenCells source, int from, int width)
    {
        Array.Copy(source.Amounts, from, Amounts, to, width);
        Array.Copy(source.Codes, from, Codes, to, width);
        Array.Copy(source.Filled, from, Filled, to, width);
        Array.Copy(source.Texts, from, Texts, to, width);
    }
}

/// <summary>
/// Some consecutive rows of a repeating section with their cells, row-major. Once its evaluation is complete a block is never
/// written to again, so that the next evaluation may hold the same block where nothing in it can have changed.
/// </summary>
public sealed class RowBlock
{
    /// <summary>Rows of a full block.</summary>
    public const int Size = 128;

    private readonly int _width;
    private Hashes? _hashes;

    internal RowBlock(int count, int width, int findingWidth)
        : this(count, width, findingWidth, new GivenCells(count * width))
    {
    }

    private RowBlock(int count, int width, int findingWidth, GivenCells given)
    {
        _width = width;
        Count = count;
        Given = given;
        Amounts = new decimal[count * width];
        Codes = new int[count * width];
        Filled = new bool[count * width];
        Texts = new string?[count * width];
        Open = new bool[count * width];
        Findings = new bool[count * findingWidth];
    }

    /// <summary>Number of rows.</summary>
    public readonly int Count;

    /// <summary>What was given.</summary>
    public readonly GivenCells Given;

    /// <summary>Effective amounts.</summary>
    public readonly decimal[] Amounts;

    /// <summary>Effective codes: answers as 1 or 0, choices by position, dates by day number, references by row number, identifiers as 1 when they satisfy their rule.</summary>
    public readonly int[] Codes;

    /// <summary>What is filled in.</summary>
    public readonly bool[] Filled;

    /// <summary>Effective texts.</summary>
    public readonly string?[] Texts;

    /// <summary>Which columns apply in which row.</summary>
    public readonly bool[] Open;

    /// <summary>Which rules hold in which row.</summary>
    public readonly bool[] Findings;

    /// <summary>How many required cells there are and how many of them are filled in, once somebody has counted.</summary>
    internal RequiredCells? Required { get; set; }

    /// <summary>A hash for each row of what it holds in some columns. Made once, when the block's values are complete.</summary>
    internal int[] HashesOf(int[] columns)
    {
        for (var known = _hashes; known is not null; known = known.Next)
        {
            if (ReferenceEquals(known.Columns, columns))
            {
                return known.OfRows;
            }
        }

        var ofRows = new int[Count];
        for (var row = 0; row < Count; row++)
        {
            var hash = default(HashCode);
            foreach (var column in columns)
            {
                var at = (row * _width) + column;
                hash.Add(Amounts[at]);
                hash.Add(Codes[at]);
                hash.Add(Texts[at]);
            }

            ofRows[row] = hash.ToHashCode();
        }

        _hashes = new Hashes(columns, ofRows, _hashes);
        return ofRows;
    }

    /// <summary>Forgets what was made of the values: they are about to be computed.</summary>
    internal void BeginRun() => (_hashes, Required) = (null, null);

    /// <summary>A block of the same rows, with nothing computed yet.</summary>
    internal RowBlock Renewed()
    {
        var block = new RowBlock(Count, _width, Count == 0 ? 0 : Findings.Length / Count, Given);
        block.StartFromGiven();
        return block;
    }

    /// <summary>What was given is what counts, until the rules have run.</summary>
    internal void StartFromGiven()
    {
        Array.Copy(Given.Amounts, Amounts, Amounts.Length);
        Array.Copy(Given.Codes, Codes, Codes.Length);
        Array.Copy(Given.Filled, Filled, Filled.Length);
        Array.Copy(Given.Texts, Texts, Texts.Length);
        Array.Fill(Open, true);
    }

    /// <summary>Whether a row holds in every column exactly what a row of another block of the same section holds, and applies as there.</summary>
    internal bool SameRow(int row, RowBlock other, int otherRow)
    {
        if (ReferenceEquals(this, other) && row == otherRow)
        {
            return true;
        }

        var (here, there) = (row * _width, otherRow * _width);
        return Amounts.AsSpan(here, _width).SequenceEqual(other.Amounts.AsSpan(there, _width))
            && Codes.AsSpan(here, _width).SequenceEqual(other.Codes.AsSpan(there, _width))
            && Filled.AsSpan(here, _width).SequenceEqual(other.Filled.AsSpan(there, _width))
            && Open.AsSpan(here, _width).SequenceEqual(other.Open.AsSpan(there, _width))
            && Texts.AsSpan(here, _width).SequenceEqual(other.Texts.AsSpan(there, _width));
    }

    /// <summary>Hashes of the rows by columns; another set of columns follows.</summary>
    private sealed record Hashes(int[] Columns, int[] OfRows, Hashes? Next);
}

/// <summary>Cells that are required of some rows.</summary>
/// <param name="All">How many there are.</param>
/// <param name="Answered">How many are filled in.</param>
internal sealed record RequiredCells(int All, int Answered);
