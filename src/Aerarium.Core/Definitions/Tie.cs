using System.Globalization;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>Another return of the same client, or of somebody related.</summary>
/// <param name="Definition">Country and return.</param>
/// <param name="YearsBack">How many years before this return's year; zero for the same year.</param>
/// <param name="Period">Its period, see <see cref="Periods"/>.</param>
/// <param name="Relation">Whose it is: null for the client's own; otherwise of everybody related so: spouse, child or parent.</param>
public sealed record TiedReturn(string Definition, int YearsBack = 0, string Period = Periods.WholeYear, string? Relation = null)
{
    /// <summary>Whether, where a year can have a further period, that is meant as soon as there is a return for it.</summary>
    public bool Latest { get; init; }

    /// <summary>A line of that return.</summary>
    public TieSource Line(string key) => new(this, key);
}

/// <summary>A line of another return of the same client that feeds a line of this one.</summary>
/// <param name="Return">The return.</param>
/// <param name="Line">Key of its line.</param>
public sealed record TieSource(TiedReturn Return, string Line)
{
    /// <summary>
    /// The line there that names for whom it is, by identifier, such as the parent a student names; it counts for a client of that identifier only. Null
    /// where it is for everybody so related.
    /// </summary>
    public string? AddressedBy { get; init; }

    /// <summary>The lines there on which it depends.</summary>
    public IReadOnlyList<string> Lines => AddressedBy is { } address ? [Line, address] : [Line];
}

/// <summary>
/// Rows that come from another return, such as the losses it left: which of its rows, and what stands in each column. Where several people of the
/// relation have that return, the rows of all of them come.
/// </summary>
/// <param name="Return">The return.</param>
/// <param name="Rows">Key of the repeating section they come from.</param>
/// <param name="IdentifiedBy">The column there by which a row is known again; rows blank in it are left out.</param>
/// <param name="Columns">What stands in the columns here.</param>
public sealed record RowTie(TiedReturn Return, string Rows, string IdentifiedBy, IReadOnlyList<TiedColumn> Columns)
{
    /// <summary>What the ids of rows begin with that another return gave.</summary>
    public const string Prefix = "tied-";

    /// <summary>A column there; rows that have zero in it are left out, such as losses that are used up.</summary>
    public string? LeftOutAtZero { get; init; }

    /// <summary>One more row from a single line there, such as the loss of that year itself; null for none.</summary>
    public TiedSingle? AndSingle { get; init; }

    /// <summary>The rows another return gives: stable ids, and canonical values by column name here.</summary>
    public IEnumerable<EntryRow> RowsFrom(Evaluation there)
    {
        var section = there.Definition.FindTable(Rows) ?? throw new RuleException($"'{Rows}' is no repeating section of {there.Definition.Id}, from which rows are to come.");
        Line Column(string name) => section.Lines.FirstOrDefault(l => l.Name == name) ?? throw new RuleException($"'{Rows}' has no column '{name}', from which rows are to come.");

        // In a year in which the section does not apply nothing is computed, and what was entered goes on as it is.
        string? Value(string name, int row) => there.IsOpen(section) ? there.Value(Column(name), row) : there.RowsOf(section)[row].Values.GetValueOrDefault(Column(name).Name);
        var single = AndSingle is { } one && there.Amount(one.Line) is var amount and > 0 ? (one.AmountIn, one.YearIn, Amount: amount, Year: $"{there.Definition.Year}") : default;
        for (var row = 0; row < there.RowsOf(section).Count; row++)
        {
            if (Value(IdentifiedBy, row) is { } known && (LeftOutAtZero is null || Value(LeftOutAtZero, row) is not "0" || known == single.Year))
            {
                // Two periods that end in one year leave what is of that year together.
                var alike = known == single.Year ? single.Amount : 0;
                single = known == single.Year ? default : single;
                yield return new EntryRow($"{Prefix}{known}")
                {
                    Values = Columns.Select(c => (c.Column, Value: c.In(name => Value(name, row)))).Where(c => c.Value is not null)
                        .ToDictionary(c => c.Column, c => alike > 0 && c.Column == AndSingle!.AmountIn ? TiedColumn.Plus(c.Value!, alike) : c.Value!),
                };
            }
        }

        if (single.Amount > 0)
        {
            yield return new EntryRow($"{Prefix}{single.Year}")
            {
                // Nothing has been added up for it yet.
                Values = new(Columns.Where(c => c.From.Count > 1).Select(c => KeyValuePair.Create(c.Column, "0"))) { [single.YearIn] = single.Year, [single.AmountIn] = Figures.Canonical(single.Amount) },
            };
        }
    }
}

/// <summary>What stands in a column of rows that come from another return.</summary>
/// <param name="Column">The column here.</param>
/// <param name="From">The columns there: one whose value is taken, or several amounts that are added up, blanks as zero.</param>
public sealed record TiedColumn(string Column, params IReadOnlyList<string> From)
{
    internal static string Plus(string value, decimal amount) => Figures.Canonical(decimal.Parse(value, CultureInfo.InvariantCulture) + amount);

    internal string? In(Func<string, string?> there) => From.Count == 1
        ? there(From[0])
        : Figures.Canonical(From.Sum(name => there(name) is { } value ? decimal.Parse(value, CultureInfo.InvariantCulture) : 0));
}

/// <summary>A row that comes from a single line of another return, where that is above zero; columns that add up begin at zero.</summary>
/// <param name="Line">Key of the line.</param>
/// <param name="AmountIn">The column here that takes its amount.</param>
/// <param name="YearIn">The column here that takes the year of the other return.</param>
public sealed record TiedSingle(string Line, string AmountIn, string YearIn);

/// <summary>What makes an amount that another return gives worth what it says.</summary>
public enum CreditCounts
{
    /// <summary>The authority has accepted that return.</summary>
    WhenAccepted,

    /// <summary>It has been paid.</summary>
    WhenPaid,
}

/// <summary>The period of a year that a return covers.</summary>
public static class Periods
{
    /// <summary>The whole year.</summary>
    public const string WholeYear = "";

    /// <summary>A second accounting period that ends in the same calendar year, after the year end was changed.</summary>
    public const string Second = "second";

    /// <summary>The four quarters.</summary>
    public static readonly IReadOnlyList<string> Quarters = [Quarter(1), Quarter(2), Quarter(3), Quarter(4)];

    /// <summary>A quarter, from 1 to 4.</summary>
    public static string Quarter(int quarter) => $"q{quarter}";

    /// <summary>The number of a quarter, or zero for the whole year.</summary>
    public static int QuarterOf(string period) => period.Length == 2 && period[0] == 'q' ? period[1] - '0' : 0;

    /// <summary>As it is printed: 2025, 2025 Q1, or 2025 second period.</summary>
    public static string InWords(long year, string period) => period switch { WholeYear => $"{year}", Second => $"{year} second period", _ => $"{year} {period.ToUpperInvariant()}" };
}
