using Aerarium.Core.Days;
using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Barbados;

/// <summary>Public holidays of Barbados; a few are kept on the Monday when they fall on a Sunday. Days proclaimed for one year are not here.</summary>
public static class BarbadosHolidays
{
    /// <summary>The calendar.</summary>
    public static readonly HolidayCalendar Calendar = new(
        [
            Holiday.On(1, 1, "New Year's Day").OrMondayAfterSunday(),
            Holiday.On(1, 21, "Errol Barrow Day").OrMondayAfterSunday(),
            Holiday.FromEaster(-2, "Good Friday"),
            Holiday.FromEaster(1, "Easter Monday"),
            Holiday.On(4, 28, "National Heroes' Day").OrMondayAfterSunday(),
            Holiday.On(5, 1, "May Day").OrMondayAfterSunday(),
            Holiday.FromEaster(50, "Whit Monday"),
            Holiday.On(8, 1, "Emancipation Day").OrMondayAfterSunday(),
            Holiday.OnWeekday(8, DayOfWeek.Monday, 1, "Kadooment Day"),
            Holiday.On(11, 30, "Independence Day").OrMondayAfterSunday(),
            Holiday.On(12, 25, "Christmas Day").OrMondayAfterSunday(),
            Holiday.On(12, 26, "Boxing Day").OrMondayAfterSunday(),
        ],
        "Public Holidays Act, Cap. 352; from memory",
        Confidence.Likely);
}
