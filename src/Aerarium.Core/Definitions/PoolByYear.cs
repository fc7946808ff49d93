using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>What a pool by year of origin holds and what its rows are called.</summary>
/// <param name="Name">Name of its rows, kebab-case.</param>
/// <param name="Title">Heading.</param>
/// <param name="RowLabel">What one row is called.</param>
/// <param name="Year">Label of the year of origin.</param>
/// <param name="Left">Label of what was left at the beginning.</param>
/// <param name="From">The paper that says so.</param>
/// <param name="What">What it holds, as a sentence begins: Losses, Gifts.</param>
/// <param name="Oldest">Earliest year of origin that is taken.</param>
/// <param name="Newest">Latest.</param>
/// <param name="Years">For how many years it may be used; null without end.</param>
public sealed record PoolWords(string Name, string Title, string RowLabel, string Year, string Left, string From, string What, int Oldest, int Newest, Parameter? Years)
{
    /// <summary>Section of the law.</summary>
    public string? Law { get; init; }

    /// <summary>When it applies; null for always.</summary>
    public Condition? When { get; init; }

    /// <summary>Whether amounts are in whole units.</summary>
    public bool InWholeUnits { get; init; }

    /// <summary>Label of what is used this year.</summary>
    public string Used { get; init; } = "Used this year, the oldest first";

    /// <summary>What ids of its findings begin with, where that is not its name.</summary>
    public string? Findings { get; init; }

    /// <summary>Which year it belongs to the return itself: the return of the period before and the line of that return whose amount becomes a row of its own.</summary>
    public required (TiedReturn Return, string OfThatYear) Before { get; init; }
}

/// <summary>
/// A pool by year of origin: a row for each earlier year with what was left of it, used the oldest first, lost after a number of years, and carried into the
/// next return as its rows. What may be used of it in all is said once it is known, by <see cref="Use"/>.
/// </summary>
public sealed class PoolByYear
{
    /// <summary>A year of the pool.</summary>
    /// <param name="Year">Year of origin.</param>
    /// <param name="Held">What of it can still be used.</param>
    public sealed record OfYear(AmountLine Year, AmountLine Held);

    private readonly int _year;
    private readonly PoolWords _words;
    private readonly Action<Action<RowScope>> _further;

    internal PoolByYear(int year, PoolWords words, RepeatingSection<OfYear> rows, Action<Action<RowScope>> further)
    {
        (_year, _words, Rows, _further) = (year, words, rows, further);
    }

    /// <summary>Its rows.</summary>
    public RepeatingSection<OfYear> Rows { get; }

    /// <summary>What can be used of all years together.</summary>
    public Amount Held => Rows.Sum(r => r.Held);

    /// <summary>Whether anything can be used for the last time this year.</summary>
    public Condition LastTime => Rows.Any(r => r.Held > 0 & IsLastYear(r.Year));

    /// <summary>Says what is used of all years together; the rest of each year goes on, and of a year that can be used no longer nothing does.</summary>
    public void Use(Amount total) => _further(row =>
    {
        var (of, held) = Rows.Columns;
        var used = row.Line("used", _words.Used, row.UsedInOrder(held, of, total));
        row.Line("left", "Left for later years", _words.Years is null ? held - used : Formulas.Law.If(IsLastYear(of), 0, held - used));
    });

    /// <summary>Declares the columns of a row.</summary>
    internal static OfYear Declare(RowScope row, int year, PoolWords words)
    {
        var id = words.Findings ?? words.Name;
        var of = row.CalendarYear("year", words.Year).Between(words.Oldest, words.Newest).Required();
        row.NamedBy(of);
        var amount = row.Entry("amount", words.Left);
        if (words.InWholeUnits)
        {
            amount.InWholeUnits();
        }

        amount.From(words.From).Required();
        row.Error($"{id}-year-twice", row.RepeatsEarlier(of), "This year is entered twice; keep one row for each year.", of);
        if (words.Years is not { } years)
        {
            return new OfYear(of, row.Line("held", "Can still be used", amount + 0));
        }

        row.Error($"{id}-expired", of.IsFilled() & year - of > years, $"{words.What} are carried forward for {years} years; those of this year have expired.", of);
        return new OfYear(of, row.Line("held", "Can still be used", Formulas.Law.If(year - of > years, 0, amount)));
    }

    private Condition IsLastYear(AmountLine of) => _year - of >= _words.Years!;
}
