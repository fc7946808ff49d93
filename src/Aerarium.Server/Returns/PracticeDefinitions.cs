using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>Definitions as the practice reads them: with figures written as it chose for the country.</summary>
internal static class PracticeDefinitions
{
    /// <summary>The definition of a return.</summary>
    public static Definition Of(Unit unit, ReturnRecord record) => Of(unit, record.Definition, record.Year, record.Period);

    /// <summary>The definition of a return for a year and period.</summary>
    /// <exception cref="KeyNotFoundException">There is none; the message says what is covered.</exception>
    public static Definition Of(Unit unit, string id, long year, string period = Periods.WholeYear) => Catalogue.Get(id, year, period, NumbersOf(unit, Catalogue.CountryOf(id)));

    /// <summary>How figures are written in returns of a country.</summary>
    public static NumberWriting NumbersOf(Unit unit, string country) =>
        Catalogue.Countries[country].OfPractice.Contains(PracticeChoices.Numbers) && PracticeParticulars.Of(unit, country).GetValueOrDefault(PracticeChoices.Numbers.Name) == "comma"
            ? NumberWriting.Comma
            : NumberWriting.Point;
}
