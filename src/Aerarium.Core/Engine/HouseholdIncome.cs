using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>A line that moves as income rises.</summary>
/// <param name="Member">Position of the member in whose return it moves.</param>
/// <param name="Line">The line.</param>
/// <param name="Movement">By how much, in the returns' currency.</param>
public sealed record LineMoved(int Member, Line Line, decimal Movement);

/// <summary>What a further amount of income of one member costs the household.</summary>
/// <param name="Member">Position of the member who has the income.</param>
/// <param name="Line">The line it goes on.</param>
/// <param name="Cost">By how much the household's balance rises.</param>
/// <param name="Parts">The taxes of all returns together that make it up, by label; what is left are credits that are paid out.</param>
/// <param name="Moved">Amounts that taper, credits lost and benefits repaid, in whichever return.</param>
public sealed record HouseholdIncome(int Member, Line Line, decimal Cost, IReadOnlyList<(string Label, decimal Amount)> Parts, IReadOnlyList<LineMoved> Moved)
{
    /// <summary>What the next income costs, of every member with a line on which more may come; <see cref="NextIncome.Step"/> on the first such line.</summary>
    /// <param name="household">The returns.</param>
    /// <param name="taxes">Single lines that are taxes.</param>
    /// <param name="watched">Single lines that are told when they move.</param>
    public static IReadOnlyList<HouseholdIncome> Of(Household household, IReadOnlyList<string> taxes, IReadOnlyList<string> watched)
    {
        var now = household.With([]);
        return [.. Enumerable.Range(0, household.Members.Count).Select(member => With(household, now, member, taxes, watched)).OfType<HouseholdIncome>()];
    }

    private static HouseholdIncome? With(Household household, HouseholdState now, int member, IReadOnlyList<string> taxes, IReadOnlyList<string> watched)
    {
        var (evaluation, definition) = (household.Members[member].Return, household.Members[member].Return.Definition);
        if (definition.Lines.FirstOrDefault(l => l.TakesMoreIncome && evaluation.IsOpen(l) && (l.Table is null || evaluation.Entries.RowsOf(l.Table.Key).Count > 0)) is not { } line)
        {
            return null;
        }

        var row = line.Table is null ? null : evaluation.Entries.RowsOf(line.Table.Key)[0].Id;
        var value = evaluation.Entries.ValueOf(line, row) is { } typed ? decimal.Parse(typed, CultureInfo.InvariantCulture) : 0;
        var more = household.With([new HouseholdEntry(member, line.Key, Figures.Canonical(value + NextIncome.Step), row)]);
        IEnumerable<LineMoved> Moved(IReadOnlyList<string> lines) => Enumerable.Range(0, household.Members.Count).SelectMany(m => lines.Select(key => household.Members[m].Return.Definition.FindLine(key))
            .OfType<Line>().Select(l => new LineMoved(m, l, more.Amount(m, l.Key) - now.Amount(m, l.Key)))).Where(l => l.Movement != 0);
        return new HouseholdIncome(
            member, line, more.Balance - now.Balance, [.. Moved(taxes).GroupBy(t => t.Line.Label).Select(g => (g.Key, g.Sum(t => t.Movement)))], [.. Moved(watched)]);
    }
}
