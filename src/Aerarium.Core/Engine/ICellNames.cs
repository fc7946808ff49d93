using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>
/// Where the parts of a return stand in a workbook. A formula tree asks it while it writes itself as a spreadsheet formula
/// (<see cref="Formula.Spreadsheet"/>); every answer is an expression that can stand in a larger one.
/// </summary>
public interface ICellNames
{
    /// <summary>The day of evaluation.</summary>
    string Today { get; }

    /// <summary>The number in a line, zero when blank.</summary>
    string Amount(Line line);

    /// <summary>The text or code in a line, empty when blank.</summary>
    string Text(Line line);

    /// <summary>Whether a line is filled in.</summary>
    string Filled(Line line);

    /// <summary>Whether a line applies.</summary>
    string Open(Line line);

    /// <summary>Whether a section applies.</summary>
    string Open(Section section);

    /// <summary>The value of a figure of the law.</summary>
    string Of(Parameter parameter);

    /// <summary>Tax by the slices of a schedule.</summary>
    string Tax(RateSchedule schedule, string amount);

    /// <summary>Tax by a tariff in zones.</summary>
    string Zones(ZoneTariff tariff, string amount);

    /// <summary>The amount a table of steps fixes.</summary>
    string Step(StepTable table, string measure);

    /// <summary>The amount a table of the law gives for a code.</summary>
    string Rate(Lookup lookup);

    /// <summary>A total over rows.</summary>
    string Total(Aggregate aggregate);

    /// <summary>Whether any row meets a condition.</summary>
    string Any(AnyRow any);

    /// <summary>A total over the rows before this one, in the order of a column.</summary>
    string Earlier(SumOfEarlierRows earlier);

    /// <summary>An amount of the row in which another is greatest or least.</summary>
    string OfRow(AmountOfRow picked);

    /// <summary>A slot of a tally: the total of the rows with a code, or of those that point at the row one stands in.</summary>
    string Tallied(Tallied tallied);

    /// <summary>An amount of the row a reference points at.</summary>
    string PointedAt(AmountPointedAt pointed);

    /// <summary>Number of the row one stands in, from one.</summary>
    string RowNumber(RepeatingSection section);
}
