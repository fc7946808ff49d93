using Aerarium.Core.Days;
using Aerarium.Core.Definitions;

namespace Aerarium.Core.Tests;

public class HolidayCalendarTests
{
    /// <summary>Dates of Easter Sunday as almanacs print them, the earliest and the latest possible among them; from memory.</summary>
    [Theory]
    [InlineData(1818, 3, 22)]
    [InlineData(1943, 4, 25)]
    [InlineData(1961, 4, 2)]
    [InlineData(2000, 4, 23)]
    [InlineData(2008, 3, 23)]
    [InlineData(2024, 3, 31)]
    [InlineData(2025, 4, 20)]
    [InlineData(2026, 4, 5)]
    [InlineData(2027, 3, 28)]
    [InlineData(2038, 4, 25)]
    public void Easter_is_on_the_day_almanacs_print(int year, int month, int day) =>
        Assert.Equal(new DateOnly(year, month, day), HolidayCalendar.EasterSunday(year));

    /// <summary>Council of Nicaea: a Sunday, and by the Gregorian tables never outside these days; from memory.</summary>
    [Fact]
    public void Easter_is_always_a_sunday_between_22_march_and_25_april()
    {
        for (var year = 1900; year <= 2199; year++)
        {
            var easter = HolidayCalendar.EasterSunday(year);
            Assert.Equal(DayOfWeek.Sunday, easter.DayOfWeek);
            Assert.InRange(easter, new DateOnly(year, 3, 22), new DateOnly(year, 4, 25));
        }
    }

    [Fact]
    public void A_day_that_is_no_working_day_gives_way_to_the_last_one_before_it()
    {
        var calendar = new HolidayCalendar([Holiday.On(6, 28, "Picnic Day"), Holiday.FromEaster(1, "Easter Monday")], "made up", Confidence.Certain);
        Assert.Equal(new DateOnly(2026, 6, 30), calendar.WorkingDayOnOrBefore(new DateOnly(2026, 6, 30)));
        Assert.Equal(new DateOnly(2024, 6, 27), calendar.WorkingDayOnOrBefore(new DateOnly(2024, 6, 30)));
        Assert.Equal(new DateOnly(2026, 4, 3), calendar.WorkingDayOnOrBefore(new DateOnly(2026, 4, 6)));
    }

    [Fact]
    public void A_day_that_is_no_working_day_gives_way_to_the_first_one_after_it()
    {
        var calendar = new HolidayCalendar([Holiday.On(6, 29, "Picnic Day"), Holiday.FromEaster(-2, "Good Friday")], "made up", Confidence.Certain);
        Assert.Equal(new DateOnly(2026, 6, 30), calendar.WorkingDayOnOrAfter(new DateOnly(2026, 6, 28)));
        Assert.Equal(new DateOnly(2022, 4, 18), calendar.WorkingDayOnOrAfter(new DateOnly(2022, 4, 15)));
        Assert.Equal(new DateOnly(2026, 6, 26), calendar.WorkingDayOnOrAfter(new DateOnly(2026, 6, 26)));
    }
}
