using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Server.Demo;
using Aerarium.Storage;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
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

/// <summary>The person signed in.</summary>
public sealed record SessionPerson(long Id, string Name, string Role);

/// <summary>What is typed to sign in.</summary>
public sealed record SignIn(string Email, string Password);

internal static class SessionEndpoints
{
    private const int AttemptsBeforeLockout = 5;
    private static readonly TimeSpan Lockout = TimeSpan.FromMinutes(10);

    public static void MapSession(this RouteGroupBuilder api)
    {
        var session = api.MapGroup("/session").WithTags("Session");
        session.MapGet("", View).AllowAnonymous();
        session.MapPost("/sign-in", SignInAsync).AllowAnonymous();
        session.MapPost("/sign-out", async (HttpContext http) =>
        {
            await http.SignOutAsync();
            return TypedResults.NoContent();
        });
    }

    private static SessionView View(
        HttpContext http, IAntiforgery antiforgery, PracticeDatabase database, TimeProvider clock, IConfiguration settings)
    {
        var person = http.User.Identity?.IsAuthenticated == true ? Caller.Of(http.User) : null;
        return new SessionView(
            antiforgery.GetAndStoreTokens(http).RequestToken!,
            person is null ? null : new SessionPerson(person.Id, person.Name, person.Role),
            database.Read(Practices.Find)?.Name,
            clock.Today(),
            settings.GetValue("Demo", false) ? DemoData.Credentials : null);
    }

    private static async Task<SessionPerson> SignInAsync(
        SignIn typed, HttpContext http, PracticeDatabase database, IPasswordHasher<PersonRecord> hasher, TimeProvider clock)
    {
        var now = clock.GetUtcNow();
        var person = database.Read(unit => People.FindByEmail(unit, (typed.Email ?? "").Trim()));
        if (person?.LockedUntil is { } until && string.CompareOrdinal(until, Moments.Text(now)) > 0)
        {
            throw new PlainProblem(StatusCodes.Status429TooManyRequests, "Too many attempts. This account is locked for ten minutes; then try again.");
        }

        // A password is hashed for unknown addresses too, so that the time taken tells nothing.
        var known = person ?? new PersonRecord(0, "", "", "", hasher.HashPassword(null!, "nobody"), 0, null);
        var verdict = hasher.VerifyHashedPassword(known, known.PasswordHash, typed.Password ?? "");
        if (person is null || verdict == PasswordVerificationResult.Failed)
        {
            if (person is not null)
            {
                var failed = person.FailedAttempts + 1;
                var locks = failed >= AttemptsBeforeLockout;
                database.Write(unit => People.NoteSignIn(unit, person.Id, locks ? 0 : failed, locks ? Moments.Text(now + Lockout) : null));
            }

            throw new PlainProblem(StatusCodes.Status401Unauthorized, "The e-mail address and password do not belong together. Check both; after five attempts the account is locked for ten minutes.");
        }

        database.Write(unit =>
        {
            People.NoteSignIn(unit, person.Id, 0, null);
            Acts.Add(unit, new Caller(person.Id, person.Name, person.Role).Act("sign-in", now));
        });
        var identity = new ClaimsIdentity(
            [
                new Claim(ClaimTypes.NameIdentifier, person.Id.ToString(System.Globalization.CultureInfo.InvariantCulture)),
                new Claim(ClaimTypes.Name, person.Name),
                new Claim(ClaimTypes.Role, person.Role),
            ],
            CookieAuthenticationDefaults.AuthenticationScheme);
        await http.SignInAsync(new ClaimsPrincipal(identity));
        return new SessionPerson(person.Id, person.Name, person.Role);
    }
}
