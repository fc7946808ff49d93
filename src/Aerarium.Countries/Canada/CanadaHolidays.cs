using Aerarium.Core.Days;
using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Canada;

/// <summary>Public holidays of Canada as the federal authority keeps them; those of one province alone are not here.</summary>
public static class CanadaHolidays
{
    /// <summary>The calendar.</summary>
    public static readonly HolidayCalendar Calendar = new(
        [
            Holiday.On(1, 1, "New Year's Day").OrMondayAfterSunday(),
            Holiday.FromEaster(-2, "Good Friday"),
            Holiday.FromEaster(1, "Easter Monday"),
            new Holiday("Victoria Day", year => new DateOnly(year, 5, 24).AddDays(-(((int)new DateOnly(year, 5, 24).DayOfWeek + 6) % 7))),
            Holiday.On(7, 1, "Canada Day").OrMondayAfterSunday(),
            Holiday.OnWeekday(9, DayOfWeek.Monday, 1, "Labour Day"),
            Holiday.On(9, 30, "National Day for Truth and Reconciliation").OrMondayAfterSunday(),
            Holiday.OnWeekday(10, DayOfWeek.Monday, 2, "Thanksgiving"),
            Holiday.On(11, 11, "Remembrance Day").OrMondayAfterSunday(),
            Holiday.On(12, 25, "Christmas Day").OrMondayAfterSunday(),
            Holiday.On(12, 26, "Boxing Day").OrMondayAfterSunday(),
        ],
        "Holidays Act; Interpretation Act 35; from memory",
        Confidence.Likely);
}
