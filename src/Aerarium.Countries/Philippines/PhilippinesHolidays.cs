using Aerarium.Core.Days;
using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Philippines;

/// <summary>Holidays of the Philippines whose day is known in advance. Feasts that follow the moon, National Heroes Day and proclaimed days are not here.</summary>
public static class PhilippinesHolidays
{
    /// <summary>The calendar.</summary>
    public static readonly HolidayCalendar Calendar = new(
        [
            Holiday.On(1, 1, "New Year's Day"),
            Holiday.FromEaster(-3, "Maundy Thursday"),
            Holiday.FromEaster(-2, "Good Friday"),
            Holiday.On(4, 9, "Day of Valour"),
            Holiday.On(5, 1, "Labour Day"),
            Holiday.On(6, 12, "Independence Day"),
            Holiday.On(11, 1, "All Saints' Day"),
            Holiday.On(11, 30, "Bonifacio Day"),
            Holiday.On(12, 25, "Christmas Day"),
            Holiday.On(12, 30, "Rizal Day"),
        ],
        "RA 9492; from memory",
        Confidence.Likely);
}
