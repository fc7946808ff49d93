using Aerarium.Core.Days;
using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Germany;

/// <summary>Public holidays: those of the whole federation, and those of each state, by which the working days of a year are counted. From memory; days kept in some towns only are not here.</summary>
public static class GermanyHolidays
{
    private const string Source = "holiday acts of the states; Unity Treaty art. 2; from memory";

    private static readonly IReadOnlyList<Holiday> Everywhere =
    [
        Holiday.On(1, 1, "New Year's Day"),
        Holiday.FromEaster(-2, "Good Friday"),
        Holiday.FromEaster(1, "Easter Monday"),
        Holiday.On(5, 1, "Labour Day"),
        Holiday.FromEaster(39, "Ascension"),
        Holiday.FromEaster(50, "Whit Monday"),
        Holiday.On(10, 3, "Day of German Unity"),
        Holiday.On(12, 25, "Christmas Day"),
        Holiday.On(12, 26, "Second day of Christmas"),
    ];

    private static readonly IReadOnlyList<(Holiday Day, string[] States)> OfStates =
    [
        (Holiday.On(1, 6, "Epiphany"), ["bw", "by", "st"]),
        (Holiday.On(3, 8, "Women's Day"), ["be", "mv"]),
        (Holiday.FromEaster(60, "Corpus Christi"), ["bw", "by", "he", "nw", "rp", "sl"]),
        (Holiday.On(8, 15, "Assumption"), ["by", "sl"]),
        (Holiday.On(9, 20, "Children's Day"), ["th"]),
        (Holiday.On(10, 31, "Reformation Day"), ["bb", "hb", "hh", "mv", "ni", "sn", "st", "sh", "th"]),
        (Holiday.On(11, 1, "All Saints"), ["bw", "by", "nw", "rp", "sl"]),
        (new Holiday("Day of Repentance", BeforeTheTwentyThirdOfNovember), ["sn"]),
    ];

    /// <summary>Holidays of the whole federation: the days of the tax authority move by them.</summary>
    public static readonly HolidayCalendar Federal = new(Everywhere, Source, Confidence.Certain);

    /// <summary>
    /// Days from Monday to Friday of a year that are no holiday in a state. Women's Day is kept in Mecklenburg-Western Pomerania since 2023, and Berlin kept 8 May 2025.
    /// </summary>
    /// <param name="state">The state, by its code.</param>
    /// <param name="year">The year.</param>
    public static int WorkingDays(string state, int year)
    {
        var calendar = Of(state, year);
        var first = new DateOnly(year, 1, 1);
        return Enumerable.Range(0, first.AddYears(1).DayNumber - first.DayNumber).Count(d => calendar.IsWorkingDay(first.AddDays(d)));
    }

    private static HolidayCalendar Of(string state, int year) => new(
        [
            .. Everywhere,
            .. OfStates.Where(h => h.States.Contains(state) && (h.Day.Name != "Women's Day" || state == "be" || year >= 2023)).Select(h => h.Day),
            .. state == "be" && year == 2025 ? [Holiday.On(5, 8, "Day of Liberation")] : Array.Empty<Holiday>(),
        ],
        Source,
        Confidence.Likely);

    private static DateOnly BeforeTheTwentyThirdOfNovember(int year)
    {
        var day = new DateOnly(year, 11, 22);
        return day.AddDays(-(((int)day.DayOfWeek - (int)DayOfWeek.Wednesday + 7) % 7));
    }
}
