using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>A finding on a return.</summary>
/// <param name="Id">Id of its rule, stable.</param>
/// <param name="Severity">How much it weighs.</param>
/// <param name="Message">What is wrong, where, and what to do, with the figures of this return.</param>
/// <param name="Lines">Keys of the lines it belongs to; the first is where a practitioner is led.</param>
/// <param name="Table">Key of the repeating section whose row it belongs to, or null.</param>
/// <param name="Row">Id of that row, or null.</param>
/// <param name="Form">Key of the form it is counted under.</param>
public sealed record Finding(
    string Id, Severity Severity, string Message, IReadOnlyList<string> Lines, string? Table, string? Row, string Form);

/// <summary>How far a form is filled in.</summary>
/// <param name="Form">Key of the form.</param>
/// <param name="Open">Whether any of its sections applies.</param>
/// <param name="Answered">Required lines that are filled in.</param>
/// <param name="Required">Required lines.</param>
public sealed record FormProgress(string Form, bool Open, int Answered, int Required);

/// <summary>The value of a line at a place.</summary>
/// <param name="Line">Key of the line.</param>
/// <param name="Row">Id of the row, or null.</param>
/// <param name="Value">Canonical text, or null when blank.</param>
/// <param name="Open">Whether the line applies.</param>
public sealed record LineValue(string Line, string? Row, string? Value, bool Open);

/// <summary>Everything that came of a set of entries on a day: values, what applies, findings, Outcome.</summary>
public sealed class Evaluation
{
    private readonly EntrySet _entries;

    internal Evaluation(Definition definition, Sheet sheet, EntrySet entries)
    {
        Definition = definition;
        Sheet = sheet;
        _entries = entries;
        Findings = CollectFindings();
    }

    /// <summary>The definition.</summary>
    public Definition Definition { get; }

    /// <summary>The values in arrays.</summary>
    public Sheet Sheet { get; }

    /// <summary>What was given.</summary>
    public EntrySet Entries => _entries;

    /// <summary>Findings: errors first, then warnings, then notes; within them in working order.</summary>
    public IReadOnlyList<Finding> Findings { get; }

    /// <summary>The balance: more than zero is to pay, less than zero is a refund; zero where nothing is to be paid.</summary>
    public decimal Balance => !Definition.HasBalance ? 0 : Sheet.Amounts[Definition.Balance.Slot];

    /// <summary>The key figures with their amounts; blank counts as zero.</summary>
    public IEnumerable<(KeyFigure Figure, decimal Amount)> Outcome =>
        Definition.Outcome.Select(figure => (figure, Sheet.Amounts[figure.Line.Slot]));

    /// <summary>The deadlines of this return: those of the law, moved where more time has been granted.</summary>
    public IEnumerable<Deadline> Deadlines => Definition.Deadlines.Select(deadline => deadline with { Day = DayOf(deadline) });

    /// <summary>The day of a deadline for this return: the law's, the one reckoned for it, or the later one that has been granted.</summary>
    public DateOnly DayOf(Deadline deadline) =>
        deadline.ReckonedBy is { } reckoned && Code(reckoned) > 0 ? DateOnly.FromDayNumber(Code(reckoned))
        : deadline.ExtendedBy is { } line && Code(line) > deadline.Day.DayNumber ? DateOnly.FromDayNumber(Code(line)) : deadline.Day;

    /// <summary>Penalty and interest that have run until the day of evaluation.</summary>
    public decimal RunningCharges => Definition.RunningCharges is { } line ? Sheet.Amounts[line.Slot] : 0;

    /// <summary>Whether a section applies.</summary>
    public bool IsOpen(Section section) => Sheet.OpenSections[section.Position];

    /// <summary>The amount of a line; for columns in a row by index from zero.</summary>
    public decimal Amount(Line line, int row = 0) =>
        line.Table is null ? Sheet.Amounts[line.Slot] : At(line, row, b => b.Amounts);

    /// <summary>The code of a line: an answer as 1 or 0, a choice by position, a date by day number, a reference by row number.</summary>
    public int Code(Line line, int row = 0) => line.Table is null ? Sheet.Codes[line.Slot] : At(line, row, b => b.Codes);

    /// <summary>The amount of a line by key; for columns in a row by index from zero.</summary>
    public decimal Amount(string key, int row = 0) => Amount(Definition.LineOf(key), row);

    /// <summary>Whether a single line with a yes or no holds yes.</summary>
    public bool IsYes(string key) => Sheet.Codes[Definition.LineOf(key).Slot] != 0;

    /// <summary>Canonical text of the effective value of a single line by its key, null when blank.</summary>
    public string? Value(string key) => Value(Definition.LineOf(key));

    /// <summary>Canonical text of a line's effective value, null when blank.</summary>
    public string? Value(Line line, int row = 0)
    {
        var filled = line.Table is null ? Sheet.Filled[line.Slot] : IsOpen(line.Section) && At(line, row, b => b.Filled);
        if (!filled)
        {
            return null;
        }

        return line.Kind switch
        {
            LineKind.Money or LineKind.Count or LineKind.Number => Figures.Canonical(Amount(line, row)),
            LineKind.Answer => Code(line, row) != 0 ? "yes" : "no",
            LineKind.Date => DateOnly.FromDayNumber(Code(line, row)).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            _ => line.Table is null ? Sheet.Texts[line.Slot] : At(line, row, b => b.Texts),
        };
    }

    /// <summary>Whether a line applies.</summary>
    public bool IsOpen(Line line, int row = 0) =>
        line.Table is null ? Sheet.Open[line.Slot] : IsOpen(line.Section) && At(line, row, b => b.Open);

    /// <summary>The rows of a repeating section as given, in order.</summary>
    public IReadOnlyList<EntryRow> RowsOf(RepeatingSection table) => _entries.RowsOf(table.Key);

    /// <summary>Every line at every place, in order of declaration.</summary>
    public IEnumerable<LineValue> Values()
    {
        foreach (var line in Definition.Lines)
        {
            if (line.Table is null)
            {
                yield return new LineValue(line.Key, null, Value(line), IsOpen(line));
                continue;
            }

            var rows = RowsOf(line.Table);
            for (var row = 0; row < rows.Count; row++)
            {
                yield return new LineValue(line.Key, rows[row].Id, Value(line, row), IsOpen(line, row));
            }
        }
    }

    /// <summary>How far every form is filled in.</summary>
    public IReadOnlyList<FormProgress> Progress() => [.. Definition.Forms.Select(ProgressOf)];

    private FormProgress ProgressOf(Form form)
    {
        var required = form.Sections.SelectMany(RequiredIn).ToList();
        return new FormProgress(form.Key, form.Sections.Any(IsOpen), required.Sum(r => r.Answered), required.Sum(r => r.All));
    }

    private IEnumerable<RequiredCells> RequiredIn(Section section)
    {
        var lines = section.Lines.Where(l => l.RequiredWhen is not null).ToList();
        if (section is not RepeatingSection table)
        {
            return [RequiredOf(lines)];
        }

        // A block that was taken over has been counted before: its rows depend on nothing that has changed.
        var rows = Sheet.Rows(table);
        return rows.Count == 0 || lines.Count == 0 ? [] : rows.Blocks.Select((block, number) => block.Required ??= InBlock(block, number * RowBlock.Size));

        RequiredCells InBlock(RowBlock block, int first)
        {
            var (all, answered) = (0, 0);
            for (var row = 0; row < block.Count; row++)
            {
                rows.Current = first + row;
                var ofRow = RequiredOf(lines);
                (all, answered) = (all + ofRow.All, answered + ofRow.Answered);
            }

            rows.Current = 0;
            return new RequiredCells(all, answered);
        }
    }

    private RequiredCells RequiredOf(IEnumerable<Line> lines)
    {
        var (all, answered) = (0, 0);
        foreach (var line in lines)
        {
            if (Sheet.IsOpen(line) && line.RequiredWhen!.Holds(Sheet))
            {
                all++;
                answered += Sheet.FilledAt(line) ? 1 : 0;
            }
        }

        return new RequiredCells(all, answered);
    }

    private List<Finding> CollectFindings()
    {
        var found = new List<(Finding Finding, int Place)>();
        foreach (var rule in Definition.Findings)
        {
            if (rule.Table is null)
            {
                if (Sheet.Findings[rule.Slot])
                {
                    Add(rule, null, rule.Message.On(Sheet));
                }

                continue;
            }

            var rows = Sheet.Rows(rule.Table);
            var given = RowsOf(rule.Table);
            foreach (var row in rows.Holding(rule))
            {
                rows.Current = row;
                Add(rule, given[row].Id, $"{RowName(rule.Table, row)}: {rule.Message.On(Sheet)}");
            }

            rows.Current = 0;
        }

        found.AddRange(KeptButClosed());
        return [.. found.OrderByDescending(f => f.Finding.Severity).ThenBy(f => f.Place).Select(f => f.Finding)];

        void Add(FindingRule rule, string? row, string message)
        {
            var first = rule.Lines.Count > 0 ? rule.Lines[0] : Definition.Lines[0];
            var form = rule.Table?.Form ?? first.Form;
            message = form.Beside is { } beside ? $"{beside.Column}: {message}" : message;
            found.Add((
                new Finding(rule.Id, rule.Severity, message, [.. rule.Lines.Select(l => l.Key)], rule.Table?.Key, row, form.Key),
                first.Position));
        }
    }

    /// <summary>What a row is called: its name where one is given, otherwise its number; within a page, the page's name first.</summary>
    public string RowName(RepeatingSection table, int row) =>
        table.OfPage is { Line: var of } ? $"{RowName(of.Target!, PageOf(of, row))}, {OwnName(table, row)}" : OwnName(table, row);

    /// <summary>What a row is called on its page.</summary>
    public string OwnName(RepeatingSection table, int row)
    {
        var name = table.NamedBy is { } column && Value(column, row) is { } value
            ? column.Kind == LineKind.Row ? NameOf(column.Target!, Code(column, row) - 1) : column.Choices?.FirstOrDefault(c => c.Code == value)?.Label ?? value
            : null;
        if (name is not null)
        {
            return name;
        }

        var before = table.OfPage is { Line: var of } ? Enumerable.Range(0, row).Count(r => PageOf(of, r) == PageOf(of, row)) : row;
        return $"{char.ToUpperInvariant(table.RowLabel[0])}{table.RowLabel[1..]} {before + 1}";
    }

    /// <summary>What a row that is pointed at is called: its number, where rows have one, and its name.</summary>
    private string NameOf(RepeatingSection table, int row) =>
        table.KnownBy is { } number && number != table.NamedBy && Value(number, row) is { } known ? $"{known} {OwnName(table, row)}" : RowName(table, row);

    /// <summary>The page a row belongs to; the first while it says none.</summary>
    private int PageOf(Line of, int row) => Math.Max(0, Code(of, row) - 1);

    /// <summary>What a finding about entries kept in a section that does not apply is known by.</summary>
    internal static string ClosedIdOf(Section section) => $"{section.Key}:closed";

    /// <summary>Sections that do not apply and hold rows or entries somebody gave, with how many.</summary>
    internal static IEnumerable<(Section Section, int Kept)> ClosedWithEntries(Definition definition, Sheet sheet, EntrySet entries) => definition.Sections
        .Where(s => !sheet.OpenSections[s.Position])
        .Select(section => (section, section is RepeatingSection table
            ? entries.RowsOf(table.Key).Count(r => table.RowTie is null || !r.Id.StartsWith(RowTie.Prefix, StringComparison.Ordinal))
            : section.Lines.Count(l => !l.IsComputed && !l.FollowsParticulars && l.Ties.Count == 0 && sheet.GivenFilled[l.Slot])))
        .Where(s => s.Item2 > 0);

    private IEnumerable<(Finding Finding, int Place)> KeptButClosed()
    {
        foreach (var (section, kept) in ClosedWithEntries(Definition, Sheet, _entries))
        {
            var rows = section is RepeatingSection;
            var applies = section.OwnCondition is { } own && !own.Holds(Sheet) ? own : section.When!;
            yield return (
                new Finding(
                    ClosedIdOf(section),
                    Severity.Warning,
                    $"{section.Form.Title}, {section.Title}: {(kept, rows) switch { (1, true) => "1 row is kept but does not count", (1, false) => "1 entry is kept but does not count", (_, true) => $"{kept} rows are kept but do not count", _ => $"{kept} entries are kept but do not count" }}; the section applies only if {applies.Words}.",
                    [section.Lines[0].Key],
                    null,
                    null,
                    section.Form.Key),
                section.Lines[0].Position);
        }
    }

    private T At<T>(Line line, int row, Func<RowBlock, T[]> column)
    {
        var rows = Sheet.Rows(line.Table!);
        return column(rows.BlockOf(row))[rows.PlaceOf(row, line.Slot)];
    }
}
