using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Server.Demo;
using Aerarium.Storage;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Identity;

namespace Aerarium.Server.Access;

/// <summary>A person that can sign in to the demonstration.</summary>
public sealed record DemoCredential(string Email, string Password, string Name, string Role);

/// <summary>Who is signed in, and what the page needs to know.</summary>
/// <param name="Token">Antiforgery token, sent back with every change.</param>
/// <param name="Person">Who is signed in; null for nobody.</param>
/// <param name="Practice">Name of the practice.</param>
/// <param name="Today">The day the server reads.</param>
/// <param name="Demo">Credentials shown in demo mode only.</param>
public sealed record SessionView(string Token, SessionPerson? Person, string? Practice, DateOnly Today, IReadOnlyList<DemoCredential>? Demo);

/// <summary>The person signed in, and what the roles allow.</summary>
public sealed record SessionPerson(long Id, string Name, IReadOnlyList<string> Roles, bool MayPrepare, bool MayApprove, bool MayManage, bool MayAdminister);

/// <summary>What is typed to sign in.</summary>
/// <param name="Email">E-mail address.</param>
/// <param name="Password">Password.</param>
/// <param name="Code">One-time code, when the account asks for one.</param>
public sealed record SignIn(string Email, string Password, string? Code);

/// <summary>How a sign-in went.</summary>
/// <param name="CodeNeeded">The password is right; the account also asks for a one-time code.</param>
public sealed record SignInAnswer(bool CodeNeeded);

/// <summary>An open session.</summary>
public sealed record OpenSession(long Id, string StartedAt, string SeenAt, string Address, string Program, bool ThisOne);

/// <summary>One's own account.</summary>
public sealed record AccountView(string Email, bool CodesOn, IReadOnlyList<OpenSession> Sessions);

/// <summary>Turns one-time codes on: the secret offered and a code made with it.</summary>
public sealed record CodesOn(string Secret, string Code);

/// <summary>One's password, to confirm an act.</summary>
public sealed record PasswordConfirmed(string Password);

/// <summary>A new password.</summary>
public sealed record PasswordChange(string Password, string NewPassword);

internal static class SessionEndpoints
{
    private const int AttemptsBeforeLockout = 5;
    private static readonly TimeSpan Lockout = TimeSpan.FromMinutes(10);

    public static void MapSession(this RouteGroupBuilder api)
    {
        var session = api.MapGroup("/session").WithTags("Session");
        session.MapGet("", View).AllowAnonymous();
        session.MapPost("/sign-in", SignInAsync).AllowAnonymous().RequireRateLimiting(AccessSetup.AttemptsLimit);
        session.MapPost("/sign-out", async (HttpContext http, PracticeDatabase database, TimeProvider clock) =>
        {
            if (OpenSessions.Of(http, database) is { } open)
            {
                database.Write(unit => Sessions.End(unit, open.Id, open.PersonId, Moments.Text(clock.GetUtcNow())));
            }

            await http.SignOutAsync();
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Own);

        var account = api.MapGroup("/account").WithTags("Session");
        account.MapGet("", Account);
        account.MapDelete("/sessions/{session:long}", (long session, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var caller = Caller.Of(user);
            var ended = database.Write(unit =>
            {
                Acts.Add(unit, caller.Act("end-session", clock.GetUtcNow()) with { After = caller.Name });
                return Sessions.End(unit, session, caller.Id, Moments.Text(clock.GetUtcNow()));
            });
            return ended ? TypedResults.NoContent() : throw PlainProblem.NotFound("This session");
        }).RequireAuthorization(Policies.Own);
        account.MapPost("/password", ChangePassword).RequireAuthorization(Policies.Own);
        account.MapPost("/codes/offer", (ClaimsPrincipal user, PracticeDatabase database) =>
            OneTimeCodes.Offer(database.Read(unit => People.Find(unit, Caller.Of(user).Id))!.Email)).RequireAuthorization(Policies.Own);
        account.MapPost("/codes/on", TurnCodesOn).RequireAuthorization(Policies.Own);
        account.MapPost("/codes/off", TurnCodesOff).RequireAuthorization(Policies.Own);
    }

    /// <summary>Refuses a password that is too short or is the address itself.</summary>
    public static void RequireGoodPassword(string? password, string email)
    {
        const int least = 12;
        if ((password ?? "").Length is < least or > 200 || string.Equals(password, email, StringComparison.OrdinalIgnoreCase))
        {
            throw PlainProblem.Refused($"Choose a password of at least {least} characters that is not the e-mail address; several words make a good one.");
        }
    }

    private static SessionView View(
        HttpContext http, IAntiforgery antiforgery, PracticeDatabase database, TimeProvider clock, IConfiguration settings)
    {
        var person = http.User.Identity?.IsAuthenticated == true ? Caller.Of(http.User) : null;
        return new SessionView(
            antiforgery.GetAndStoreTokens(http).RequestToken!,
            person is null ? null : PersonOf(person),
            database.Read(Practices.Find)?.Name,
            clock.Today(),
            settings.GetValue("Demo", false) ? DemoData.Credentials : null);
    }

    private static SessionPerson PersonOf(Caller person)
    {
        bool May(string policy) => Policies.RolesByPolicy[policy].Any(person.Roles.Contains);
        return new SessionPerson(
            person.Id, person.Name, person.Roles, May(Policies.Prepare), May(Policies.Approve), May(Policies.Manage), May(Policies.Administer));
    }

    private static AccountView Account(HttpContext http, PracticeDatabase database)
    {
        var own = OpenSessions.Of(http, database)!;
        return database.Read(unit =>
        {
            var person = People.Find(unit, own.PersonId)!;
            return new AccountView(
                person.Email,
                person.CodeSecret is not null,
                [.. Sessions.OpenOf(unit, person.Id).Select(s => new OpenSession(s.Id, s.StartedAt, s.SeenAt, s.Address, s.Program, s.Id == own.Id))]);
        });
    }

    private static async Task<SignInAnswer> SignInAsync(
        SignIn typed, HttpContext http, PracticeDatabase database, IPasswordHasher<PersonRecord> hasher, OneTimeCodes codes, TimeProvider clock)
    {
        var now = clock.GetUtcNow();
        var person = database.Read(unit => People.FindByEmail(unit, (typed.Email ?? "").Trim()));
        if (person?.LockedUntil is { } until && string.CompareOrdinal(until, Moments.Text(now)) > 0)
        {
            throw new PlainProblem(StatusCodes.Status429TooManyRequests, "Too many attempts. This account is locked for ten minutes; then try again.");
        }

        // A password is hashed for unknown addresses too, so that the time taken tells nothing.
        var hash = person is { Active: 1 } ? person.PasswordHash : hasher.HashPassword(null!, "nobody");
        var verdict = hasher.VerifyHashedPassword(null!, hash, typed.Password ?? "");
        if (person is not { Active: 1 } || verdict == PasswordVerificationResult.Failed)
        {
            NoteFailure(person, database, now);
            throw new PlainProblem(StatusCodes.Status401Unauthorized, "The e-mail address and password do not belong together. Check both; after five attempts the account is locked for ten minutes.");
        }

        if (person.CodeSecret is not null)
        {
            if (string.IsNullOrWhiteSpace(typed.Code))
            {
                return new SignInAnswer(CodeNeeded: true);
            }

            if (!database.Write(unit => codes.Use(unit, person, typed.Code)))
            {
                NoteFailure(person, database, now);
                throw new PlainProblem(StatusCodes.Status401Unauthorized, "This code is not right, or was used already. Wait for the next one and type it.");
            }
        }

        database.Write(unit =>
        {
            People.NoteSignIn(unit, person.Id, 0, null);
            if (verdict == PasswordVerificationResult.SuccessRehashNeeded)
            {
                People.SetPassword(unit, person.Id, hasher.HashPassword(person, typed.Password!));
            }
        });
        await OpenSessions.StartAsync(http, database, person, now);
        return new SignInAnswer(CodeNeeded: false);
    }

    private static void NoteFailure(PersonRecord? person, PracticeDatabase database, DateTimeOffset now)
    {
        if (person is null)
        {
            return;
        }

        var failed = person.FailedAttempts + 1;
        var locks = failed >= AttemptsBeforeLockout;
        database.Write(unit => People.NoteSignIn(unit, person.Id, locks ? 0 : failed, locks ? Moments.Text(now + Lockout) : null));
    }

    private static PersonRecord Confirmed(ClaimsPrincipal user, string? password, PracticeDatabase database, IPasswordHasher<PersonRecord> hasher)
    {
        var person = database.Read(unit => People.Find(unit, Caller.Of(user).Id))!;
        return hasher.VerifyHashedPassword(person, person.PasswordHash, password ?? "") != PasswordVerificationResult.Failed
            ? person
            : throw PlainProblem.Refused("This is not your present password.");
    }

    private static IResult ChangePassword(
        PasswordChange typed, ClaimsPrincipal user, HttpContext http, PracticeDatabase database, IPasswordHasher<PersonRecord> hasher, TimeProvider clock)
    {
        var person = Confirmed(user, typed.Password, database, hasher);
        RequireGoodPassword(typed.NewPassword, person.Email);
        var own = OpenSessions.Of(http, database)!;
        database.Write(unit =>
        {
            People.SetPassword(unit, person.Id, hasher.HashPassword(person, typed.NewPassword));
            Sessions.EndAll(unit, person.Id, own.Id, Moments.Text(clock.GetUtcNow()));
            Acts.Add(unit, Caller.Of(user).Act("password", clock.GetUtcNow()));
        });
        return TypedResults.NoContent();
    }

    private static IResult TurnCodesOn(
        CodesOn typed, ClaimsPrincipal user, PracticeDatabase database, OneTimeCodes codes, TimeProvider clock)
    {
        bool right;
        try
        {
            right = codes.StepOf(typed.Secret ?? "", typed.Code ?? "") is not null;
        }
        catch (ArgumentException)
        {
            right = false;
        }

        if (!right)
        {
            throw PlainProblem.Refused("The code does not belong to this secret. Check the clock of the device and type the code it shows now.");
        }

        database.Write(unit =>
        {
            People.SetCodes(unit, Caller.Of(user).Id, codes.Protect(typed.Secret!));
            Acts.Add(unit, Caller.Of(user).Act("codes", clock.GetUtcNow()) with { Before = "off", After = "on" });
        });
        return TypedResults.NoContent();
    }

    private static IResult TurnCodesOff(
        PasswordConfirmed typed, ClaimsPrincipal user, PracticeDatabase database, IPasswordHasher<PersonRecord> hasher, TimeProvider clock)
    {
        var person = Confirmed(user, typed.Password, database, hasher);
        database.Write(unit =>
        {
            People.SetCodes(unit, person.Id, null);
            Acts.Add(unit, Caller.Of(user).Act("codes", clock.GetUtcNow()) with { Before = "on", After = "off" });
        });
        return TypedResults.NoContent();
    }
}
