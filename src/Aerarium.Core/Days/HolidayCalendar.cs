using Aerarium.Core.Definitions;

namespace Aerarium.Core.Days;

/// <summary>A public holiday.</summary>
/// <param name="Name">Name.</param>
/// <param name="Day">Its day in a year.</param>
public sealed record Holiday(string Name, Func<int, DateOnly> Day)
{
    /// <summary>A holiday on the same day of every year.</summary>
    public static Holiday On(int month, int day, string name) => new(name, year => new DateOnly(year, month, day));

    /// <summary>A holiday on the so-manieth of a weekday in a month.</summary>
    public static Holiday OnWeekday(int month, DayOfWeek weekday, int number, string name) => new(name, year =>
    {
        var first = new DateOnly(year, month, 1);
        return first.AddDays((((int)weekday - (int)first.DayOfWeek + 7) % 7) + (7 * (number - 1)));
    });

    /// <summary>The same holiday, kept on the Monday when its day is a Sunday.</summary>
    public Holiday OrMondayAfterSunday() => this with { Day = year => Day(year) is { DayOfWeek: DayOfWeek.Sunday } sunday ? sunday.AddDays(1) : Day(year) };

    /// <summary>A holiday so many days after Easter Sunday; before it when negative.</summary>
    public static Holiday FromEaster(int days, string name) => new(name, year => HolidayCalendar.EasterSunday(year).AddDays(days));
}

/// <summary>Working days of a country: every day but Saturdays, Sundays and public holidays.</summary>
/// <param name="Holidays">Public holidays whose day is known in advance.</param>
/// <param name="Source">Statute.</param>
/// <param name="Confidence">How sure we are.</param>
public sealed record HolidayCalendar(IReadOnlyList<Holiday> Holidays, string Source, Confidence Confidence)
{
    /// <summary>Whether people work on this day.</summary>
    public bool IsWorkingDay(DateOnly day) =>
        day.DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday) && Holidays.All(h => h.Day(day.Year) != day);

    /// <summary>The day itself, or the last working day before it.</summary>
    public DateOnly WorkingDayOnOrBefore(DateOnly day)
    {
        while (!IsWorkingDay(day))
        {
            day = day.AddDays(-1);
        }

        return day;
    }

    /// <summary>The day itself, or the first working day after it.</summary>
    public DateOnly WorkingDayOnOrAfter(DateOnly day)
    {
        while (!IsWorkingDay(day))
        {
            day = day.AddDays(1);
        }

        return day;
    }

    /// <summary>Easter Sunday of a year in the Gregorian calendar (the computus as published in Nature, 20 April 1876; from memory).</summary>
    public static DateOnly EasterSunday(int year)
    {
        var (golden, century, ofCentury) = (year % 19, year / 100, year % 100);
        var moon = ((19 * golden) + century - (century / 4) - ((century - ((century + 8) / 25) + 1) / 3) + 15) % 30;
        var weekday = (32 + (2 * (century % 4)) + (2 * (ofCentury / 4)) - moon - (ofCentury % 4)) % 7;
        var correction = (golden + (11 * moon) + (22 * weekday)) / 451;
        var sum = moon + weekday - (7 * correction) + 114;
        return new DateOnly(year, sum / 31, (sum % 31) + 1);
    }
}
