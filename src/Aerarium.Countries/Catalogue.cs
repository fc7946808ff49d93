using System.Collections.Concurrent;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries.Barbados;
using Aerarium.Countries.Canada;
using Aerarium.Countries.Germany;
using Aerarium.Countries.Kenya;
using Aerarium.Countries.Philippines;
using Aerarium.Filing;

namespace Aerarium.Countries;

/// <summary>The countries, their returns and their identifiers; definitions are built once and kept.</summary>
public static class Catalogue
{
    private static readonly ConcurrentDictionary<(string Id, int Year, string Period), Lazy<Definition>> Built = new();
    private static readonly ConcurrentDictionary<(string Id, int Year, string Period), Lazy<Definition>> Checked = new();
    private static readonly ConcurrentDictionary<(string Id, int Year, string Period, NumberWriting Numbers), Lazy<Definition>> Rewritten = new();

    /// <summary>The countries by code.</summary>
    public static readonly IReadOnlyDictionary<string, Country> Countries =
        new[] { KenyaCountry.Country, PhilippinesCountry.Country, BarbadosCountry.Country, CanadaCountry.Country, GermanyCountry.Country }.ToDictionary(c => c.Code);

    /// <summary>Every return type, country by country.</summary>
    public static readonly IReadOnlyList<ReturnType> Returns = [.. Countries.Values.SelectMany(c => c.Returns)];

    /// <summary>The code of the country a return belongs to.</summary>
    public static string CountryOf(string definition) => definition.Split('/')[0];

    /// <summary>The return type with an id.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    public static ReturnType TypeOf(string id) => Returns.FirstOrDefault(r => r.Id == id) ?? throw new KeyNotFoundException($"There is no return '{id}'.");

    /// <summary>The authority a return goes to.</summary>
    public static Authority AuthorityOf(string definition) => TypeOf(definition).To ?? Countries[CountryOf(definition)].Authority;

    /// <summary>How a country's authority gives what it has registered about a taxpayer.</summary>
    public static IAuthorityRecord RegistrationOf(string country) => Returns.Where(r => r.Country == country).Select(r => r.Record).OfType<IAuthorityRecord>().First();

    /// <summary>The definition of a return for a year and period, or null with a message that says what is covered.</summary>
    public static Definition? Find(string id, int year, string period, out string? problem)
    {
        var type = Returns.FirstOrDefault(r => r.Id == id);
        if (type is null)
        {
            problem = $"There is no return '{id}'; the returns are {string.Join(", ", Returns.Select(r => r.Id))}.";
            return null;
        }

        if (!type.Years.Contains(year))
        {
            problem = $"'{id}' is not covered for {year}; the years are {string.Join(", ", type.Years)}.";
            return null;
        }

        if (!type.AllPeriods.Contains(period))
        {
            problem = type.FurtherPeriod is { } further ? $"'{id}' has one period, and '{further}' where a second one ends in the year; '{period}' is neither."
                : type.Periods.Contains(Periods.WholeYear)
                ? $"'{id}' covers the whole year; leave the period out."
                : $"'{id}' has the periods {string.Join(", ", type.Periods)}; '{period}' is none of them.";
            return null;
        }

        problem = null;
        return Checked.GetOrAdd((id, year, period), _ => new Lazy<Definition>(() =>
        {
            var definition = Create(type, year, period)!;
            if (definition.TiedReturns.Count > 0)
            {
                TieCircles.Check(definition, (other, ofYear, ofPeriod) => Create(TypeOf(other), ofYear, ofPeriod));
            }

            return definition;
        })).Value;
    }

    /// <summary>A definition whose ties may not have been followed yet; null when the year or period is not covered.</summary>
    private static Definition? Create(ReturnType type, int year, string period) => !type.Years.Contains(year) || !type.AllPeriods.Contains(period) ? null
        : Built.GetOrAdd((type.Id, year, period), _ => new Lazy<Definition>(() => type.Create(year, period))).Value;

    /// <summary>The definition of a return for a year and period.</summary>
    /// <exception cref="KeyNotFoundException">There is none; the message says what is covered.</exception>
    public static Definition Get(string id, long year, string period = Periods.WholeYear) =>
        Find(id, (int)year, period, out var problem) ?? throw new KeyNotFoundException(problem);

    /// <summary>The same with numbers written in another way.</summary>
    /// <exception cref="KeyNotFoundException">There is none; the message says what is covered.</exception>
    public static Definition Get(string id, long year, string period, NumberWriting numbers)
    {
        var usual = Get(id, year, period);
        return usual.Numbers == numbers ? usual
            : Rewritten.GetOrAdd((id, (int)year, period, numbers), _ => new Lazy<Definition>(() => TypeOf(id).Create((int)year, period).WritingNumbers(numbers))).Value;
    }

    /// <summary>The definition of a return under another edition of the law, built anew unless it is the product's own.</summary>
    /// <exception cref="RuleException">The edition does not fit the return's law; the message says what is wrong with which figure.</exception>
    public static Definition Under(LawEdition edition, Definition usual) => edition.Key == usual.Edition.Key ? usual
        : edition.Corrections.Count == 0 ? Get(usual.Id, usual.Year, usual.Period, usual.Numbers)
        : edition.Build(() => TypeOf(usual.Id).Create(usual.Year, usual.Period).WritingNumbers(usual.Numbers));

    /// <summary>The year and period after one: the next quarter, or the next year where there is none.</summary>
    public static (int Year, string Period) After(string id, long year, string period)
    {
        var (periods, further) = (TypeOf(id).Periods, TypeOf(id).FurtherPeriod);
        var next = period == further ? periods.Count : periods.ToList().IndexOf(period) + 1;
        return next < periods.Count ? ((int)year, periods[next]) : ((int)year + 1, periods[0]);
    }

    /// <summary>The years and periods that may come before one, the likelier first: the quarter before, the year before, or a further period that ended in it.</summary>
    public static IEnumerable<(int Year, string Period)> Before(string id, long year, string period)
    {
        var all = TypeOf(id).AllPeriods;
        var before = all.ToList().IndexOf(period) - 1;
        return before >= 0 ? [((int)year, all[before])] : TypeOf(id).FurtherPeriod is { } further ? [((int)year - 1, further), ((int)year - 1, TypeOf(id).Periods[^1])] : [((int)year - 1, all[^1])];
    }
}
