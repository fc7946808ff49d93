using Aerarium.Core.Engine;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Definitions;

/// <summary>Another return of the same client, or of somebody related.</summary>
/// <param name="Definition">Country and return.</param>
/// <param name="YearsBack">How many years before this return's year; zero for the same year.</param>
/// <param name="Period">Its period, see <see cref="Periods"/>.</param>
/// <param name="Relation">Whose it is: null for the client's own, otherwise the relation, such as spouse.</param>
public sealed record TiedReturn(string Definition, int YearsBack = 0, string Period = Periods.WholeYear, string? Relation = null)
{
    /// <summary>A line of that return.</summary>
    public TieSource Line(string key) => new(this, key);
}

/// <summary>A line of another return of the same client that feeds a line of this one.</summary>
/// <param name="Return">The return.</param>
/// <param name="Line">Key of its line.</param>
public sealed record TieSource(TiedReturn Return, string Line);

/// <summary>Rows that come from another return of the same client, such as the losses it left.</summary>
/// <param name="Return">The return.</param>
/// <param name="Rows">The rows it gives: stable ids and canonical values by column name of this return's section.</param>
public sealed record RowTie(TiedReturn Return, Func<Evaluation, IEnumerable<EntryRow>> Rows);

/// <summary>The period of a year that a return covers.</summary>
public static class Periods
{
    /// <summary>The whole year.</summary>
    public const string WholeYear = "";

    /// <summary>A quarter, from 1 to 4.</summary>
    public static string Quarter(int quarter) => $"q{quarter}";

    /// <summary>The number of a quarter, or zero for the whole year.</summary>
    public static int QuarterOf(string period) => period.Length == 2 && period[0] == 'q' ? period[1] - '0' : 0;

    /// <summary>As it is printed: 2025, or 2025 Q1.</summary>
    public static string InWords(long year, string period) => period.Length == 0 ? $"{year}" : $"{year} {period.ToUpperInvariant()}";
}
