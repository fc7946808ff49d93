using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Engine;

/// <summary>The values of one evaluation, in arrays; loaded from entries, completed by the evaluator, reused from edit to edit.</summary>
public sealed class Sheet
{
    private readonly Definition _definition;

    /// <summary>An empty sheet of a definition.</summary>
    public Sheet(Definition definition)
    {
        _definition = definition;
        var size = definition.ScalarSlots;
        (LawAmounts, LawTables) = (definition.Evaluator.Law.Amounts, definition.Evaluator.Law.Tables);
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
        Findings = new bool[definition.ScalarFindings];
        Tables = [.. definition.Tables.Select(t => new Rows(t.Lines.Count, t.FindingCount))];
    }

    /// <summary>The figures of the law that rules name, by position.</summary>
    public readonly decimal[] LawAmounts;

    /// <summary>The tables of the law that rules name, by position.</summary>
    public readonly object?[] LawTables;

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

    /// <summary>The sheet of the evaluation whose blocks of rows this one took over; null once it has been run.</summary>
    internal Sheet? Before { get; private set; }

    /// <summary>A run is complete: what was taken over is this sheet's own by now.</summary>
    internal void EndRun() => Before = null;

    /// <summary>Gives up every block of rows taken over from an earlier evaluation.</summary>
    internal void Unsettle()
    {
        foreach (var rows in Tables)
        {
            rows.Unsettle();
        }
    }

    /// <summary>Forgets what an earlier run compared.</summary>
    internal void BeginRun()
    {
        foreach (var rows in Tables)
        {
            rows.BeginRun();
        }
    }

    /// <summary>How numbers are written.</summary>
    internal NumberWriting Numbers => _definition.Numbers;

    /// <summary>The rows of a repeating section.</summary>
    public Rows Rows(RepeatingSection section) => Tables[section.TableNumber];

    /// <summary>Effective amount of a line, in the current row for columns.</summary>
    public decimal AmountOf(Line line) =>
        line.Table is null ? Amounts[line.Slot] : BlockOf(line).Amounts[At(line)];

    /// <summary>Effective code of a line, in the current row for columns.</summary>
    public int CodeOf(Line line) => line.Table is null ? Codes[line.Slot] : BlockOf(line).Codes[At(line)];

    /// <summary>Effective text of a line, in the current row for columns.</summary>
    public string? TextOf(Line line) => line.Table is null ? Texts[line.Slot] : BlockOf(line).Texts[At(line)];

    /// <summary>Whether a line is filled in, in the current row for columns.</summary>
    public bool FilledAt(Line line) => line.Table is null ? Filled[line.Slot] : BlockOf(line).Filled[At(line)];

    /// <summary>Whether a line applies, in the current row for columns.</summary>
    public bool IsOpen(Line line) => line.Table is null ? Open[line.Slot] : BlockOf(line).Open[At(line)];

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

        Before = before?.Sheet;
        foreach (var table in _definition.Tables)
        {
            var readAnew = before is null || table.RefersToRows;
            Tables[table.TableNumber].Take(
                entries.RowsOf(table.Key),
                readAnew ? null : before!.Sheet.Rows(table),
                readAnew ? [] : before!.Entries.RowsOf(table.Key),
                _definition.Evaluator.SharesRowsOf(table),
                (row, given, place) =>
                {
                    foreach (var line in table.Lines)
                    {
                        if (!line.IsComputed)
                        {
                            Put(line, row.Values.GetValueOrDefault(line.Name), entries, given.Amounts, given.Codes, given.Filled, given.Texts, place + line.Slot);
                        }
                    }
                });
        }
    }

    private RowBlock BlockOf(Line line)
    {
        var rows = Tables[line.Table!.TableNumber];
        return rows.BlockOf(rows.Current);
    }

    private int At(Line line)
    {
        var rows = Tables[line.Table!.TableNumber];
        return rows.PlaceOf(rows.Current, line.Slot);
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
            case LineKind.Money or LineKind.Count or LineKind.Number:
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
