using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;

namespace Aerarium.Filing;

/// <summary>A helper column beside the rows of a repeating section: for a total, what each row adds; for a question, whether it meets it.</summary>
/// <param name="Section">The section.</param>
/// <param name="Offset">Position among its helper columns.</param>
/// <param name="Formula">Formula of one row.</param>
internal sealed record HelperColumn(RepeatingSection Section, int Offset, Func<int, string> Formula);

/// <summary>
/// Where every line, section and figure of the law stands in the workings: a sheet for each form, the lines of a section under its
/// heading, the rows of a repeating section as a block of columns, and a sheet with the law.
/// </summary>
internal sealed class WorkingsCells : ICellNames
{
    /// <summary>Column of what counts: D; beside it, in C, what was entered.</summary>
    public const int EnteredColumn = 2;

    /// <summary>Column of what counts.</summary>
    public const int CountsColumn = 3;

    /// <summary>First column of a row's cells.</summary>
    public const int FirstCell = 1;

    private readonly Evaluation _evaluation;
    private readonly Dictionary<Form, string> _sheets = [];
    private readonly Dictionary<Line, int> _lineRows = [];
    private readonly Dictionary<Section, int> _headings = [];
    private readonly Dictionary<Line, int> _columns = [];
    private readonly Dictionary<Formula, HelperColumn> _helpers = new(ReferenceEqualityComparer.Instance);
    private readonly Stack<(RepeatingSection Section, int Row)> _standing = [];
    private Form? _at;

    public WorkingsCells(Evaluation evaluation)
    {
        _evaluation = evaluation;
        foreach (var form in evaluation.Definition.Forms)
        {
            var name = RowWorkbook.SheetName(form.Title);
            _sheets[form] = _sheets.ContainsValue(name) ? RowWorkbook.SheetName($"{form.Number} {form.Title}") : name;
            var row = 4;
            foreach (var section in form.Sections)
            {
                _headings[section] = row++;
                if (section is RepeatingSection table)
                {
                    row++;
                    var column = FirstCell;
                    foreach (var line in table.Lines)
                    {
                        column += line.IsComputed ? 0 : 1;
                        _columns[line] = column++;
                    }

                    Widths[table] = column;
                    row += Math.Max(1, evaluation.RowsOf(table).Count) + 1;
                    continue;
                }

                foreach (var line in section.Lines)
                {
                    _lineRows[line] = row++;
                }

                row++;
            }
        }
    }

    /// <summary>Columns a repeating section takes before its helper columns.</summary>
    public Dictionary<RepeatingSection, int> Widths { get; } = [];

    /// <summary>Helper columns that were asked for.</summary>
    public IEnumerable<HelperColumn> Helpers => _helpers.Values;

    /// <summary>The law that was asked for, in the order in which it was: parameters, schedules, tables of steps, tables by code.</summary>
    public LawSheet Law { get; } = new();

    /// <inheritdoc />
    public string Today => LawSheet.TodayCell;

    /// <summary>Name of the sheet of a form.</summary>
    public string SheetOf(Form form) => _sheets[form];

    /// <summary>Row of a section's heading; its condition stands in column D.</summary>
    public int HeadingOf(Section section) => _headings[section];

    /// <summary>Row of a line outside rows.</summary>
    public int RowOf(Line line) => _lineRows[line];

    /// <summary>Column of what counts of a column; what was entered stands left of it.</summary>
    public int ColumnOf(Line line) => _columns[line];

    /// <summary>Sheet row of a row of a repeating section, from zero.</summary>
    public int RowOf(RepeatingSection section, int row) => _headings[section] + 2 + row;

    /// <summary>Number of rows of a repeating section.</summary>
    public int CountOf(RepeatingSection section) => _evaluation.RowsOf(section).Count;

    /// <summary>Writes a formula as it reads on the sheet of a form, in a row of a repeating section where given.</summary>
    public string Write(Formula formula, Form form, RepeatingSection? section = null, int row = 0)
    {
        var before = _at;
        _at = form;
        if (section is not null)
        {
            _standing.Push((section, row));
        }

        var text = formula.Spreadsheet(this);
        if (section is not null)
        {
            _standing.Pop();
        }

        _at = before;
        return text;
    }

    /// <inheritdoc />
    public string Amount(Line line) => $"N({CellOf(line)})";

    /// <inheritdoc />
    public string Text(Line line) => CellOf(line);

    /// <inheritdoc />
    public string Filled(Line line)
    {
        if (line.Table is { } table && !StandsIn(table))
        {
            var range = RangeOf(line);
            var some = line.IsComputed && line.IsNumber ? $"SUMPRODUCT(--(ROUND({range},8)<>0))>0" : $"SUMPRODUCT(--({range}<>\"\"))>0";
            return CountOf(table) == 0 ? "FALSE()" : $"AND({Open(table)},{some})";
        }

        if (!line.IsComputed)
        {
            return $"({CellOf(line)}<>\"\")";
        }

        if (line.Formula is not (Core.Formulas.Amount or Condition))
        {
            return $"({CellOf(line)}<>\"\")";
        }

        var beneath = RuleOrder.LinesBeneath(line.Formula).Select(Filled);
        var own = line.Formula is Core.Formulas.Amount ? $"ROUND({Amount(line)},8)<>0" : $"{CellOf(line)}=\"yes\"";
        return $"OR({own}{string.Concat(beneath.Select(b => $",{b}"))})";
    }

    /// <inheritdoc />
    public string Open(Line line) => line.OpenWhen is { } when ? when.Spreadsheet(this) : "TRUE()";

    /// <inheritdoc />
    public string Open(Section section) => section.When is null ? "TRUE()" : $"{Prefix(section.Form)}$D${_headings[section]}";

    /// <inheritdoc />
    public string Of(Parameter parameter) => Law.CellOf(parameter);

    /// <inheritdoc />
    public string Tax(RateSchedule schedule, string amount)
    {
        var (from, step) = Law.RangesOf(schedule);
        return $"SUMPRODUCT(({amount}>{from})*({amount}-{from})*{step})";
    }

    /// <inheritdoc />
    public string Zones(ZoneTariff tariff, string amount)
    {
        var column = Law.RangesOf(tariff);
        var zone = $"1+SUMPRODUCT(--(ROUND({amount},6)>{column("B")}))";
        string Of(string letter) => $"INDEX({column(letter)},{zone})";
        var y = $"(({amount}-{Of("C")})/{Of("D")})";
        return $"(({Of("E")}*{y}+{Of("F")})*{y}+{Of("G")})";
    }

    /// <inheritdoc />
    public string Step(StepTable table, string measure)
    {
        var (edges, amounts) = Law.RangesOf(table);
        return $"INDEX({amounts},1+SUMPRODUCT(--(ROUND({measure},6)>{edges})))";
    }

    /// <inheritdoc />
    public string Rate(Lookup lookup)
    {
        var cell = CellOf(lookup.Choice.Line);
        return $"IF({cell}=\"\",0,IFERROR(VLOOKUP({cell},{Law.RangeOf(lookup)},2,FALSE()),0))";
    }

    /// <inheritdoc />
    public string Total(Aggregate aggregate)
    {
        var section = aggregate.Section;
        if (CountOf(section) == 0)
        {
            return "0";
        }

        var total = aggregate switch
        {
            { Where: PointsAtRow points } => Pointing(aggregate, points, null),
            { Where: Both { Left: PointsAtRow points, Right: var also } } => Pointing(aggregate, points, also),
            { Where: SameText same } => Joined(aggregate, same),
            { Kind: AggregateKind.Count, Where: null } => $"COUNT({Range(section, 0)})",
            { Kind: AggregateKind.Sum, Where: null, Of: AmountLine { Line: var column } } => $"SUM({RangeOf(column)})",
            { Kind: AggregateKind.Greatest, Where: null, Of: AmountLine { Line: var column } } => $"MAX(0,{RangeOf(column)})",
            _ => $"{(aggregate.Kind == AggregateKind.Greatest ? "MAX(0," : "SUM(")}{HelperRange(aggregate, section, row =>
            {
                var of = aggregate.Of is null ? "1" : Write(aggregate.Of, section.Form, section, row);
                return aggregate.Where is null ? of : $"IF({Write(aggregate.Where, section.Form, section, row)},{of},0)";
            })})",
        };
        return section.When is null ? total : $"IF({Open(section)},{total},0)";
    }

    /// <inheritdoc />
    public string Any(AnyRow any) =>
        CountOf(any.Section) == 0 ? "FALSE()"
        : $"AND({Open(any.Section)},SUM({HelperRange(any, any.Section, row => $"IF({Write(any.Where, any.Section.Form, any.Section, row)},1,0)")})>0)";

    /// <inheritdoc />
    public string Earlier(SumOfEarlierRows earlier)
    {
        var section = earlier.Section;
        var of = HelperRange(earlier, section, row => Write(earlier.Of, section.Form, section, row));

        // A blank orders as zero; the cell itself would be a text, which no number is less than.
        var by = HelperRange(earlier.By, section, row => Write(earlier.By, section.Form, section, row));
        var (numbers, here) = (Range(section, 0), Amount(earlier.By.Line));
        return $"(SUMIFS({of},{by},\"<\"&{here})+SUMIFS({of},{by},{here},{numbers},\"<\"&{RowNumber(section)}))";
    }

    /// <inheritdoc />
    public string RowNumber(RepeatingSection section) => (_standing.First(s => s.Section == section).Row + 1).ToString(CultureInfo.InvariantCulture);

    /// <summary>The cells of a helper column, beside the rows.</summary>
    public int ColumnOf(HelperColumn helper) => Widths[helper.Section] + 1 + helper.Offset;

    /// <inheritdoc />
    public string OfRow(AmountOfRow picked)
    {
        var section = picked.Section;
        if (CountOf(section) == 0)
        {
            return "0";
        }

        var of = HelperRange(picked.Of, section, row => Write(picked.Of, section.Form, section, row));
        var by = HelperRange(picked.By, section, row => Write(picked.By, section.Form, section, row));
        var value = $"INDEX({of},MATCH({(picked.Most ? "MAX" : "MIN")}({by}),{by},0))";
        return section.When is null ? value : $"IF({Open(section)},{value},0)";
    }

    /// <inheritdoc />
    public string Tallied(Tallied tallied)
    {
        var (section, of, keys) = (tallied.Tally.Section, tallied.Tally.Of, RangeOf(tallied.Tally.Key.Line));
        if (CountOf(section) == 0)
        {
            return "0";
        }

        var amounts = HelperRange(of, section, row => Write(of, section.Form, section, row));
        var those = tallied switch
        {
            TalliedByCode byCode => $"EXACT({keys},\"{byCode.Code}\")",
            TalliedByRow byRow => $"({keys}={RowNumber(byRow.Target)})",
            _ => throw new NotSupportedException($"A tally of type {tallied.GetType().Name} has no spreadsheet formula."),
        };
        var total = $"SUMPRODUCT({those}*{amounts})";
        return section.When is null ? total : $"IF({Open(section)},{total},0)";
    }

    /// <inheritdoc />
    public string PointedAt(AmountPointedAt pointed)
    {
        var section = pointed.WalksOver;
        if (CountOf(section) == 0)
        {
            return "0";
        }

        var amounts = HelperRange(pointed.Column, section, row => Write(pointed.Column, section.Form, section, row));
        var (number, open) = (Amount(pointed.Reference.Line), section.When is null ? "" : $",{Open(section)}");
        return $"IF(AND({number}>0{open}),INDEX({amounts},{number}),0)";
    }

    /// <summary>A total over the rows that point at the row one stands in, and meet a further condition where there is one.</summary>
    private string Pointing(Aggregate aggregate, PointsAtRow points, Condition? also)
    {
        var references = RangeOf(points.Reference.Line);
        var number = RowNumber(points.Target);
        var first = number == "1" ? $"+({references}=\"\")" : "";
        return OverThose(aggregate, $"(({references}={number}){first})", also);
    }

    /// <summary>A total over the rows whose code is that of the row one stands in.</summary>
    private string Joined(Aggregate aggregate, SameText same)
    {
        var section = aggregate.Section;
        var (inner, outer) = Reads(same.Left) ? (same.Left, same.Right) : (same.Right, same.Left);
        var here = outer.Spreadsheet(this);
        var those = inner.ReferredLine is { } line ? RangeOf(line) : HelperRange(inner, section, row => Write(inner, section.Form, section, row));
        return OverThose(aggregate, $"({here}<>\"\")*EXACT({those},{here})", null);

        bool Reads(Formula formula) => formula.ReferredLine?.Table == section || formula.Operands.Any(Reads);
    }

    private string OverThose(Aggregate aggregate, string those, Condition? also)
    {
        var section = aggregate.Section;
        var amounts = aggregate.Of is null && also is null ? "1" : HelperRange(aggregate.Of is null || also is not null ? aggregate : aggregate.Of, section, row =>
        {
            var of = aggregate.Of is null ? "1" : Write(aggregate.Of, section.Form, section, row);
            return also is null ? of : $"IF({Write(also, section.Form, section, row)},{of},0)";
        });
        return aggregate.Kind == AggregateKind.Greatest ? $"SUMPRODUCT(MAX({those}*{amounts}))" : $"SUMPRODUCT({those}*{amounts})";
    }

    private string HelperRange(Formula formula, RepeatingSection section, Func<int, string> ofRow)
    {
        if (!_helpers.TryGetValue(formula, out var helper))
        {
            _helpers[formula] = helper = new HelperColumn(section, _helpers.Values.Count(h => h.Section == section), ofRow);
        }

        return Range(section, ColumnOf(helper));
    }

    private bool StandsIn(RepeatingSection section) => _standing.Any(s => s.Section == section);

    private string CellOf(Line line)
    {
        if (line.Table is { } table)
        {
            var row = _standing.First(s => s.Section == table).Row;
            return $"{Prefix(line.Form)}${RowWorkbook.Letters(_columns[line])}${RowOf(table, row)}";
        }

        return $"{Prefix(line.Form)}$D${_lineRows[line]}";
    }

    private string RangeOf(Line column) => Range(column.Table!, _columns[column]);

    private string Range(RepeatingSection section, int column)
    {
        var letters = RowWorkbook.Letters(column);
        return $"{Prefix(section.Form)}${letters}${RowOf(section, 0)}:${letters}${RowOf(section, Math.Max(1, CountOf(section)) - 1)}";
    }

    private string Prefix(Form form) => form == _at ? "" : $"'{_sheets[form].Replace("'", "''", StringComparison.Ordinal)}'!";
}

/// <summary>The sheet with the law: figures, schedules and tables, each with its source, as ranges that formulas refer to.</summary>
internal sealed class LawSheet
{
    /// <summary>Name of the sheet.</summary>
    public const string Name = "Law";

    /// <summary>Where the day of evaluation stands.</summary>
    public const string TodayCell = $"{Name}!$B$3";

    private readonly List<object> _asked = [];
    private readonly Dictionary<object, int> _rows = new(ReferenceEqualityComparer.Instance);
    private int _next = 6;

    /// <summary>What is on the sheet, with the row it begins in.</summary>
    public IEnumerable<(object Law, int Row)> Contents => _asked.Select(a => (a, _rows[a]));

    /// <summary>The cell of a figure.</summary>
    public string CellOf(Parameter parameter) => $"{Name}!$B${Place(parameter, 1)}";

    /// <summary>Lower edges of a schedule, and by how much the rate rises at each.</summary>
    public (string From, string Step) RangesOf(RateSchedule schedule)
    {
        var row = Place(schedule, schedule.Bands.Count + 2) + 1;
        return ($"{Name}!$B${row}:$B${row + schedule.Bands.Count - 1}", $"{Name}!$D${row}:$D${row + schedule.Bands.Count - 1}");
    }

    /// <summary>Upper edges of a table of steps, but the last, and its amounts.</summary>
    public (string Edges, string Amounts) RangesOf(StepTable table)
    {
        var row = Place(table, table.Steps.Count + 2) + 1;
        return ($"{Name}!$B${row}:$B${row + Math.Max(1, table.Steps.Count - 1) - 1}", $"{Name}!$C${row}:$C${row + table.Steps.Count - 1}");
    }

    /// <summary>The columns of a tariff in zones: upper edges but the last in B, then start, unit, and the factors.</summary>
    public Func<string, string> RangesOf(ZoneTariff tariff)
    {
        var row = Place(tariff, tariff.Zones.Count + 2) + 1;
        return letter => $"{Name}!${letter}${row}:${letter}${row + (letter == "B" ? Math.Max(1, tariff.Zones.Count - 1) : tariff.Zones.Count) - 1}";
    }

    /// <summary>Codes and amounts of a table by code.</summary>
    public string RangeOf(Lookup lookup)
    {
        var row = Place(lookup.Table, lookup.Table.Count + 2) + 1;
        return $"{Name}!$A${row}:$B${row + lookup.Table.Count - 1}";
    }

    private int Place(object law, int rows)
    {
        if (!_rows.TryGetValue(law, out var row))
        {
            row = _next;
            _rows[law] = row;
            _asked.Add(law);
            _next += rows;
        }

        return row;
    }
}
