using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>
/// What the rows of a repeating section depend on besides their own entries: single lines, sections, and the day. While these
/// are as before, a row of which nothing else was given comes to what it came to before, and two evaluations can share it.
/// </summary>
public sealed class RowDependence
{
    private readonly IReadOnlyList<Section> _sections;

    private RowDependence(RepeatingSection table, IReadOnlyList<Line> lines, IReadOnlyList<Section> sections)
    {
        Table = table;
        Lines = lines;
        _sections = sections;
    }

    /// <summary>The repeating section.</summary>
    public RepeatingSection Table { get; }

    /// <summary>The single lines its rows depend on.</summary>
    public IReadOnlyList<Line> Lines { get; }

    /// <summary>
    /// What rows of a section depend on; null when they depend on other rows, on rows elsewhere, or on a line that is computed only
    /// after their first walk. Rules that compare rows with each other are left out: they are asked anew each time.
    /// </summary>
    public static RowDependence? Of(RepeatingSection table, IReadOnlyList<Walk> walks)
    {
        var before = walks.TakeWhile(w => w.Over != table).SelectMany(w => w.Steps).ToHashSet();
        var later = walks.SelectMany(w => w.Steps).Where(s => !before.Contains(s)).ToList();
        var ofRows = table.Lines.SelectMany(l => new Formula?[] { l.Formula, l.OpenWhen, l.RequiredWhen }).OfType<Formula>().ToList();
        var rules = table.Form.Definition.Findings.Where(f => f.Table == table && !f.ComparesRows).Select(f => f.When);
        if (table.Lines.Any(l => l.Kind == LineKind.Row) || ofRows.Any(ComparesRows))
        {
            return null;
        }

        var (lines, sections) = (new HashSet<Line>(), new HashSet<Section>());
        if (table.When is not null)
        {
            sections.Add(table);
        }

        var standsAlone = ofRows.Concat(rules).All(Collect) && !later.Any(s => s.Line is { } line ? lines.Contains(line) : sections.Contains(s.Section!));
        return standsAlone ? new RowDependence(table, [.. lines], [.. sections]) : null;

        bool Collect(Formula formula)
        {
            if (formula.WalksOver is not null || formula is PointsAtRow)
            {
                return false;
            }

            if (formula.ReferredLine is { } line)
            {
                if (line.Table is null)
                {
                    lines.Add(line);
                }

                return line.Table is null || line.Table == table;
            }

            if (formula is SectionIsOpen open)
            {
                sections.Add(open.Section);
            }

            return formula.Operands.All(Collect);
        }
    }

    /// <summary>Whether a rule compares a row with the rows before it.</summary>
    public static bool ComparesRows(Formula formula) => formula is RepeatsEarlierRow or OverlapsEarlierRow || formula.Operands.Any(ComparesRows);

    /// <summary>Gives up the blocks a sheet took over when anything they depend on has changed.</summary>
    public void Settle(Sheet sheet)
    {
        if (sheet.Before is { } before && !IsAsBefore(sheet, before))
        {
            sheet.Rows(Table).Unsettle();
        }
    }

    private bool IsAsBefore(Sheet now, Sheet before)
    {
        var rows = before.Rows(Table);
        return now.Today == before.Today && rows.Count == rows.GivenCount
            && _sections.All(s => now.OpenSections[s.Position] == before.OpenSections[s.Position])
            && Lines.All(l => now.Amounts[l.Slot] == before.Amounts[l.Slot] && now.Codes[l.Slot] == before.Codes[l.Slot] && now.Filled[l.Slot] == before.Filled[l.Slot]
                && now.Open[l.Slot] == before.Open[l.Slot] && now.Texts[l.Slot] == before.Texts[l.Slot]);
    }
}
