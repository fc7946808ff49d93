using System.Globalization;
using System.Security.Claims;
using System.Text;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;

namespace Aerarium.Server.Desk;

/// <summary>Deadlines as a calendar (RFC 5545): a day of its own for each return a person holds, with a reminder two weeks before.</summary>
internal static class DeadlineCalendar
{
    private const int MostReturns = 5_000;
    private const int ReminderDays = 14;

    public static void MapDeadlines(this RouteGroupBuilder api) =>
        api.MapGet("/deadlines.ics", (ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var caller = Caller.Of(user);
            var query = new DeskQuery { HolderId = caller.Id, Order = "due" };
            var returns = database.Read(unit => DeskLists.Page(unit, query, caller.Reach, clock.Today().ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), 0, MostReturns));
            return Results.File(Encoding.UTF8.GetBytes(Write(returns, clock.GetUtcNow())), "text/calendar; charset=utf-8", "deadlines.ics");
        }).ReachesPractice().WithTags("Desk").Produces(StatusCodes.Status200OK, contentType: "text/calendar");

    private static string Write(IEnumerable<DeskRecord> returns, DateTimeOffset now)
    {
        var calendar = new Ical.Net.Calendar { ProductId = "-//Aerarium//Deadlines//EN" };
        foreach (var item in returns.Where(r => r.Stage != Stage.Sent))
        {
            var definition = Catalogue.Get(item.Definition, item.Year, item.Period);
            foreach (var deadline in definition.Deadlines.Where(d => d.Act != "payment" || IsOwed(item)))
            {
                var granted = !deadline.Moves ? deadline : deadline with { Day = DateOnly.ParseExact(item.Due, "yyyy-MM-dd", CultureInfo.InvariantCulture) };
                calendar.Events.Add(Event(item, definition, granted, now));
            }
        }

        return new CalendarSerializer().SerializeToString(calendar)!;
    }

    private static CalendarEvent Event(DeskRecord item, Definition definition, Deadline deadline, DateTimeOffset now)
    {
        var entry = new CalendarEvent
        {
            Uid = $"return-{item.Id}-{deadline.Act}@aerarium",
            DtStamp = new CalDateTime(now.UtcDateTime, CalDateTime.UtcTzId),
            Start = new CalDateTime(deadline.SafeDay),
            End = new CalDateTime(deadline.SafeDay.AddDays(1)),
            Summary = $"{item.ClientName}: {definition.Title} {Periods.InWords(item.Year, item.Period)}, {deadline.Label.ToLowerInvariant()}",
            Description = deadline.SafeDay == deadline.Day
                ? deadline.Source
                : $"{deadline.Source}; {deadline.Day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)} is no working day",
            Transparency = TransparencyType.Transparent,
        };
        entry.Alarms.Add(new Alarm { Action = AlarmAction.Display, Description = entry.Summary, Trigger = new Trigger(Duration.FromDays(-ReminderDays)) });
        return entry;
    }

    private static bool IsOwed(DeskRecord item) => !item.Balance.StartsWith('-') && item.Balance != "0";
}
