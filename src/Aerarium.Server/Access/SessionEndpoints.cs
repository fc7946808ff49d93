using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Entries;
using Aerarium.Server.Demo;
using Aerarium.Server.Returns;
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
/// <param name="Refused">Attempts to sign in as this person that were refused since the sign-in before; null once they were seen.</param>
public sealed record SessionView(string Token, SessionPerson? Person, string? Practice, DateOnly Today, IReadOnlyList<DemoCredential>? Demo, RefusedSignIns? Refused);

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
public sealed record AccountView(string Email, bool CodesOn, long RecoveryCodesLeft, IReadOnlyList<OpenSession> Sessions);

/// <summary>Turns one-time codes on: one's password, and a code made with the secret that was offered last.</summary>
public sealed record CodesOn(string Password, string Code);

/// <summary>Codes that stand in for a lost authenticator, each good once; shown now and never again.</summary>
public sealed record RecoveryCodesView(IReadOnlyList<string> Codes);

/// <summary>One's password, to confirm an act.</summary>
public sealed record PasswordConfirmed(string Password);

/// <summary>A new password.</summary>
public sealed record PasswordChange(string Password, string NewPassword);

internal static class SessionEndpoints
{
    public static void MapSession(this RouteGroupBuilder api)
    {
        var session = api.MapGroup("/session").ReachesPractice().WithTags("Session");
        session.MapGet("", View).AllowAnonymous();
        session.MapPost("/sign-in", SignInAsync).AllowAnonymous().RequireRateLimiting(AccessSetup.AttemptsLimit);
        session.MapPost("/sign-out", async (HttpContext http, PracticeDatabase database, LiveReturns live, TimeProvider clock) =>
        {
            if (OpenSessions.Of(http, database) is { } open)
            {
                database.Write(unit => Sessions.End(unit, open.Id, open.PersonId, Moments.Text(clock.GetUtcNow())));
                live.CutThoseOutOfReach();
            }

            await http.SignOutAsync();
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Own);
        session.MapPost("/refused-seen", (HttpContext http, PracticeDatabase database) =>
        {
            var own = OpenSessions.Of(http, database)!;
            database.Write(unit => Sessions.SeenRefused(unit, own.Id));
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Own);

        var account = api.MapGroup("/account").ReachesPractice().WithTags("Session").RequireAuthorization(Policies.Own);
        account.MapGet("", Account);
        account.MapDelete("/sessions/{session:long}", (long session, ClaimsPrincipal user, PracticeDatabase database, LiveReturns live, TimeProvider clock) =>
        {
            var caller = Caller.Of(user);
            var ended = database.Write(unit =>
            {
                Acts.Add(unit, caller.Act("end-session", clock.GetUtcNow()) with { After = caller.Name });
                return Sessions.End(unit, session, caller.Id, Moments.Text(clock.GetUtcNow()));
            });
            live.CutThoseOutOfReach();
            return ended ? TypedResults.NoContent() : throw PlainProblem.NotFound("This session");
        });
        account.MapPost("/password", ChangePasswordAsync);
        account.MapPost("/codes/offer", (ClaimsPrincipal user, PracticeDatabase database, OneTimeCodes codes) =>
            codes.Offer(Caller.Of(user).Id, database.Read(unit => People.Find(unit, Caller.Of(user).Id))!.Email));
        account.MapPost("/codes/on", TurnCodesOnAsync);
        account.MapPost("/codes/off", TurnCodesOffAsync);
        account.MapPost("/codes/recovery", RenewRecoveryCodesAsync);
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
            settings.GetValue("Demo", false) ? DemoData.Credentials : null,
            OpenSessions.Of(http, database) is { } own ? database.Read(unit => Sessions.RefusedBefore(unit, own.Id)) : null);
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
                RecoveryCodes.Left(unit, person.Id),
                [.. Sessions.OpenOf(unit, person.Id).Select(s => new OpenSession(s.Id, s.StartedAt, s.SeenAt, s.Address, s.Program, s.Id == own.Id))]);
        });
    }

    private static async Task<SignInAnswer> SignInAsync(
        SignIn typed, HttpContext http, PracticeDatabase database, SignInGuard guard, Passwords passwords, OneTimeCodes codes, TimeProvider clock)
    {
        var email = EntryReader.Clean(typed.Email).ToLowerInvariant();
        var attempt = guard.Begin(email, NetworkAddress.Of(http));
        var person = database.Read(unit => People.FindByEmail(unit, email)) is { Active: 1 } found ? found : null;
        var verdict = await passwords.VerifyAsync(person, typed.Password, http.RequestAborted);
        if (verdict == PasswordVerificationResult.Failed)
        {
            guard.Failed(attempt);
            throw new PlainProblem(
                StatusCodes.Status401Unauthorized, "The e-mail address and password do not belong together. Check both; after five wrong attempts you have to wait ten minutes.");
        }

        if (person!.CodeSecret is not null)
        {
            if (string.IsNullOrWhiteSpace(typed.Code))
            {
                guard.TakeBack(attempt);
                return new SignInAnswer(CodeNeeded: true);
            }

            if (!database.Write(unit => codes.Use(unit, person, typed.Code, clock.GetUtcNow())))
            {
                guard.Failed(attempt);
                throw new PlainProblem(StatusCodes.Status401Unauthorized, "This code is not right, or was used already. Wait for the next one and type it, or use a recovery code.");
            }
        }

        guard.Succeeded(attempt);
        if (verdict == PasswordVerificationResult.SuccessRehashNeeded)
        {
            var hash = await passwords.HashAsync(typed.Password!, http.RequestAborted);
            database.Write(unit => People.SetPassword(unit, person.Id, hash));
        }

        await OpenSessions.StartAsync(http, database, person, clock.GetUtcNow());
        return new SignInAnswer(CodeNeeded: false);
    }

    private static async Task<IResult> ChangePasswordAsync(
        PasswordChange typed, ClaimsPrincipal user, HttpContext http, PracticeDatabase database, Passwords passwords, LiveReturns live, TimeProvider clock)
    {
        var person = await passwords.ConfirmAsync(user, typed.Password, http);
        Passwords.RequireGood(typed.NewPassword, person.Email, person.Name);
        var (own, hash) = (OpenSessions.Of(http, database)!, await passwords.HashAsync(typed.NewPassword, http.RequestAborted));
        database.Write(unit =>
        {
            People.SetPassword(unit, person.Id, hash);
            Sessions.EndAll(unit, person.Id, own.Id, Moments.Text(clock.GetUtcNow()));
            Acts.Add(unit, Caller.Of(user).Act("password", clock.GetUtcNow()));
        });
        live.CutThoseOutOfReach();
        return TypedResults.NoContent();
    }

    private static async Task<RecoveryCodesView> TurnCodesOnAsync(
        CodesOn typed, ClaimsPrincipal user, HttpContext http, PracticeDatabase database, Passwords passwords, OneTimeCodes codes, TimeProvider clock)
    {
        var person = await passwords.ConfirmAsync(user, typed.Password, http);
        var secret = codes.Offered(person.Id) ?? throw PlainProblem.Refused("The secret was offered too long ago. Ask for a new one and let the authenticator read it.");
        if (codes.StepOf(secret, typed.Code ?? "") is null)
        {
            throw PlainProblem.Refused("The code does not belong to this secret. Check the clock of the device and type the code it shows now.");
        }

        return database.Write(unit =>
        {
            People.SetCodes(unit, person.Id, codes.Protect(secret));
            Acts.Add(unit, Caller.Of(user).Act("codes", clock.GetUtcNow()) with { Before = "off", After = "on" });
            return NewRecoveryCodes(unit, person.Id);
        });
    }

    private static async Task<RecoveryCodesView> RenewRecoveryCodesAsync(
        PasswordConfirmed typed, ClaimsPrincipal user, HttpContext http, PracticeDatabase database, Passwords passwords, TimeProvider clock)
    {
        var person = await passwords.ConfirmAsync(user, typed.Password, http);
        if (person.CodeSecret is null)
        {
            throw PlainProblem.Conflict("One-time codes are off; recovery codes come with them.");
        }

        return database.Write(unit =>
        {
            Acts.Add(unit, Caller.Of(user).Act("codes", clock.GetUtcNow()) with { After = "new recovery codes" });
            return NewRecoveryCodes(unit, person.Id);
        });
    }

    private static RecoveryCodesView NewRecoveryCodes(Unit unit, long personId)
    {
        var made = OneTimeCodes.NewRecoveryCodes();
        RecoveryCodes.Put(unit, personId, made.Select(OneTimeCodes.PlainRecoveryCode));
        return new RecoveryCodesView(made);
    }

    private static async Task<IResult> TurnCodesOffAsync(
        PasswordConfirmed typed, ClaimsPrincipal user, HttpContext http, PracticeDatabase database, Passwords passwords, TimeProvider clock)
    {
        var person = await passwords.ConfirmAsync(user, typed.Password, http);
        database.Write(unit =>
        {
            People.SetCodes(unit, person.Id, null);
            RecoveryCodes.Put(unit, person.Id, []);
            Acts.Add(unit, Caller.Of(user).Act("codes", clock.GetUtcNow()) with { Before = "on", After = "off" });
        });
        return TypedResults.NoContent();
    }
}
