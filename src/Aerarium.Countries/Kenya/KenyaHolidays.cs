using Aerarium.Core.Days;
using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Kenya;

/// <summary>Public holidays of Kenya whose day is known in advance. Idd-ul-Fitr follows the moon, and further days are gazetted; neither is here.</summary>
public static class KenyaHolidays
{
    /// <summary>The calendar.</summary>
    public static readonly HolidayCalendar Calendar = new(
        [
            Holiday.On(1, 1, "New Year's Day"),
            Holiday.FromEaster(-2, "Good Friday"),
            Holiday.FromEaster(1, "Easter Monday"),
            Holiday.On(5, 1, "Labour Day"),
            Holiday.On(6, 1, "Madaraka Day"),
            Holiday.On(10, 10, "Mazingira Day"),
            Holiday.On(10, 20, "Mashujaa Day"),
            Holiday.On(12, 12, "Jamhuri Day"),
            Holiday.On(12, 25, "Christmas Day"),
            Holiday.On(12, 26, "Boxing Day"),
        ],
        "Public Holidays Act, Cap. 110, schedule; from memory",
        Confidence.Likely);
}
