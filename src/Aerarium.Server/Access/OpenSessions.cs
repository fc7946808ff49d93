using System.Security.Claims;
using System.Security.Cryptography;
using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Aerarium.Server.Access;

/// <summary>Sessions kept on the server: the cookie names one, and is worth nothing once it has been ended.</summary>
internal static class OpenSessions
{
    private const string Claim = "session";
    private const int LongestProgram = 120;
    private static readonly TimeSpan BetweenNotes = TimeSpan.FromMinutes(5);

    /// <summary>Starts a session for a person on this connection; the one this browser had before ends.</summary>
    public static async Task StartAsync(HttpContext http, PracticeDatabase database, PersonRecord person, DateTimeOffset now)
    {
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
        var program = http.Request.Headers.UserAgent.ToString();
        var before = Of(http, database);
        database.Write(unit =>
        {
            if (before is not null)
            {
                Sessions.End(unit, before.Id, before.PersonId, Moments.Text(now));
            }

            Sessions.Start(
                unit,
                token,
                person.Id,
                Moments.Text(now),
                NetworkAddress.Of(http),
                program.Length > LongestProgram ? program[..LongestProgram] : program);
            Acts.Add(unit, new Caller(person.Id, person.Name, person.RoleList).Act("sign-in", now));
        });
        if (before is not null)
        {
            http.RequestServices.GetRequiredService<LiveReturns>().CutThoseOutOfReach();
        }

        await http.SignInAsync(Principal(person, token));
    }

    /// <summary>The open session of this request, or null.</summary>
    public static SessionRecord? Of(HttpContext http, PracticeDatabase database) =>
        database.ReadHere(unit => Sessions.FindOpen(unit, TokenOf(http.User)));

    /// <summary>The token of the session somebody is signed in by; empty for nobody.</summary>
    public static string TokenOf(ClaimsPrincipal user) => user.FindFirstValue(Claim) ?? "";

    /// <summary>When the cookie that a connection was opened with runs out, by the clock of the application.</summary>
    public static DateTimeOffset EndOf(HttpContext? http) =>
        http?.Features.Get<IAuthenticateResultFeature>()?.AuthenticateResult?.Properties?.ExpiresUtc ?? DateTimeOffset.MinValue;

    /// <summary>Refuses the cookie of an ended session, follows changed roles, and notes now and then that the session is in use.</summary>
    public static Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        var services = context.HttpContext.RequestServices;
        var database = services.GetRequiredService<PracticeDatabase>();
        var now = services.GetRequiredService<TimeProvider>().GetUtcNow();
        var token = TokenOf(context.Principal!);
        var (session, person) = database.Read(unit =>
        {
            var open = Sessions.FindOpen(unit, token);
            return (open, open is null ? null : People.Find(unit, open.PersonId));
        });
        if (session is null || person is null)
        {
            context.RejectPrincipal();
            return Task.CompletedTask;
        }

        if (string.CompareOrdinal(session.SeenAt, Moments.Text(now - BetweenNotes)) < 0)
        {
            database.Write(unit => Sessions.Seen(unit, session.Id, Moments.Text(now)));
        }

        var caller = Caller.Of(context.Principal!);
        if (caller.Name != person.Name || !caller.Roles.Order().SequenceEqual(person.RoleList))
        {
            context.ReplacePrincipal(Principal(person, token));
            context.ShouldRenew = true;
        }

        return Task.CompletedTask;
    }

    private static ClaimsPrincipal Principal(PersonRecord person, string token) => new(new ClaimsIdentity(
        [
            new Claim(ClaimTypes.NameIdentifier, person.Id.ToString(System.Globalization.CultureInfo.InvariantCulture)),
            new Claim(ClaimTypes.Name, person.Name),
            new Claim(Claim, token),
            .. person.RoleList.Select(role => new Claim(ClaimTypes.Role, role)),
        ],
        CookieAuthenticationDefaults.AuthenticationScheme));
}
