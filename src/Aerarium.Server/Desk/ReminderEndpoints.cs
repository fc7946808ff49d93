using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography.X509Certificates;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Desk;

/// <summary>Something to think of today.</summary>
/// <param name="Id">The reminder, when a person made it; null for what follows from days.</param>
/// <param name="ReturnId">The return it is about, or null.</param>
/// <param name="Words">What of.</param>
/// <param name="Day">Day it is for: when it was to come up, or the deadline.</param>
/// <param name="Late">Whether that day has passed.</param>
public sealed record ReminderView(long? Id, long? ReturnId, string Words, string Day, bool Late);

/// <summary>A reminder as typed.</summary>
/// <param name="Words">What of.</param>
/// <param name="OnDay">From which day.</param>
/// <param name="PersonId">Whom it reminds; oneself when left out.</param>
public sealed record ReminderInput(string? Words, string? OnDay, long? PersonId);

/// <summary>Reminders on the Desk: those people make, and those that follow from deadlines, unanswered sendings and the certificate.</summary>
internal static class ReminderEndpoints
{
    private const int LongestText = 200;
    private const int DueWithinDays = 7;
    private const int UnansweredAfterDays = 1;
    private const int CertificateDays = 60;
    private const int MostOfAKind = 5;

    public static void MapReminders(this RouteGroupBuilder api)
    {
        api.MapGet("/desk/reminders", (ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            database.Read(unit => Today(unit, Caller.Of(user), clock))).ReachesPractice().WithTags("Desk");
        var ofReturn = api.MapGroup("/returns/{id:long}/reminders").ReachesReturn().WithTags("Desk");
        ofReturn.MapGet("", (long id, PracticeDatabase database, TimeProvider clock) => database.Read(unit => OfReturn(unit, id, clock)));
        ofReturn.MapPost("", (long id, ReminderInput typed, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            database.Write(unit => Add(unit, id, typed, Caller.Of(user), clock))).RequireAuthorization(Policies.Prepare);
        ofReturn.MapPost("/{reminder:long}/done", (long id, long reminder, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) => database.Write(unit =>
        {
            if (Reminders.Find(unit, reminder) is not { DoneAt: null } found || found.ReturnId != id)
            {
                throw PlainProblem.NotFound("This reminder");
            }

            Reminders.Done(unit, reminder, Moments.Text(clock.GetUtcNow()));
            Acts.Add(unit, Caller.Of(user).Act("reminder", clock.GetUtcNow()) with { ReturnId = id, Before = found.Words, After = "done" });
            return OfReturn(unit, id, clock);
        })).RequireAuthorization(Policies.Prepare);
    }

    private static IReadOnlyList<ReminderView> Add(Unit unit, long id, ReminderInput typed, Caller caller, TimeProvider clock)
    {
        var record = Storage.Returns.Find(unit, id) ?? throw PlainProblem.NotFound("This return");
        var words = EntryReader.Clean(typed.Words);
        if (words.Length is 0 or > LongestText)
        {
            throw PlainProblem.Refused("Say what the reminder is about, in at most 200 characters.");
        }

        var country = Countries.Catalogue.CountryOf(record.Definition);
        if (!TypedDay.TryRead(typed.OnDay, country, clock.Today(), out var day))
        {
            throw PlainProblem.Refused($"'{typed.OnDay}' is not a day of the calendar; {TypedDay.InWords(country, clock.Today())}.");
        }

        var whom = typed.PersonId ?? caller.Id;
        if (People.Find(unit, whom) is not { Active: 1 } person || !new Caller(whom, person.Name, person.RoleList).Reach.Sees(unit, id))
        {
            throw PlainProblem.Refused("Choose somebody who sees this return.");
        }

        Reminders.Add(unit, new ReminderRecord { ReturnId = id, PersonId = whom, OnDay = Text(day), Words = words, MadeBy = caller.Name });
        Acts.Add(unit, caller.Act("reminder", clock.GetUtcNow()) with { ReturnId = id, ClientId = record.ClientId, After = $"{words}, {person.Name}, {Text(day)}" });
        return OfReturn(unit, id, clock);
    }

    private static IReadOnlyList<ReminderView> OfReturn(Unit unit, long id, TimeProvider clock) =>
        [.. Reminders.Of(unit, id).Select(r => new ReminderView(r.Id, r.ReturnId, r.Words, r.OnDay, string.CompareOrdinal(r.OnDay, Text(clock.Today())) < 0))];

    private static List<ReminderView> Today(Unit unit, Caller caller, TimeProvider clock)
    {
        var today = clock.Today();
        var found = Reminders.Due(unit, caller.Id, Text(today)).Where(r => caller.Reach.Sees(unit, r.ReturnId))
            .Select(r => new ReminderView(r.Id, r.ReturnId, $"{r.ClientName} {r.Year}: {r.Words}", r.OnDay, string.CompareOrdinal(r.OnDay, Text(today)) < 0)).ToList();
        found.AddRange(DeskLists.DueSoon(unit, caller.Id, Text(today), Text(today.AddDays(DueWithinDays)), MostOfAKind)
            .Select(r => new ReminderView(null, r.Id, $"{r.ClientName} {Periods.InWords(r.Year, r.Period)}: to be filed", r.Due, false)));
        found.AddRange(DeskLists.Unanswered(unit, caller.Reach, Moments.Text(clock.GetUtcNow().AddDays(-UnansweredAfterDays)), MostOfAKind)
            .Select(r => new ReminderView(null, r.Id, $"{r.ClientName} {Periods.InWords(r.Year, r.Period)}: sent and not answered; chase it", r.Due, true)));
        if (Policies.RolesByPolicy[Policies.Manage].Any(caller.Roles.Contains) && Practices.Find(unit) is { } practice)
        {
            using var certificate = X509CertificateLoader.LoadCertificate(practice.Certificate);
            var until = DateOnly.FromDateTime(certificate.NotAfter.ToUniversalTime());
            if (until.DayNumber - today.DayNumber <= CertificateDays)
            {
                found.Add(new ReminderView(null, null, "The signing certificate ends", Text(until), until < today));
            }
        }

        return found;
    }

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
