using System.Security.Claims;
using System.Threading.RateLimiting;
using Aerarium.Storage;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Aerarium.Server.Access;

/// <summary>The person a request comes from.</summary>
/// <param name="Id">Id.</param>
/// <param name="Name">Name.</param>
/// <param name="Roles">Roles.</param>
public sealed record Caller(long Id, string Name, IReadOnlyList<string> Roles)
{
    /// <summary>Whose clients this person sees: those of a team are seen by its people, managers and administrators.</summary>
    public Reach Reach => new(Id, Roles.Contains(Access.Roles.Manager) || Roles.Contains(Access.Roles.Administrator));

    /// <summary>The person signed in.</summary>
    public static Caller Of(ClaimsPrincipal principal) => new(
        long.Parse(principal.FindFirstValue(ClaimTypes.NameIdentifier)!, System.Globalization.CultureInfo.InvariantCulture),
        principal.FindFirstValue(ClaimTypes.Name)!,
        [.. principal.FindAll(ClaimTypes.Role).Select(c => c.Value)]);

    /// <summary>An act of this person at a time.</summary>
    public ActRecord Act(string kind, DateTimeOffset at) => new() { At = Moments.Text(at), PersonId = Id, PersonName = Name, Kind = kind };
}

/// <summary>Roles of a practice; a person has one or several.</summary>
public static class Roles
{
    /// <summary>Enters, imports, checks.</summary>
    public const string Preparer = "preparer";

    /// <summary>Also approves and files.</summary>
    public const string Approver = "approver";

    /// <summary>Watches deadlines and who holds what; works on returns, hands them out, keeps the practice's particulars.</summary>
    public const string Manager = "manager";

    /// <summary>Keeps people, roles, teams, backups and the practice's particulars; does not work on returns.</summary>
    public const string Administrator = "administrator";

    /// <summary>Looks, and changes nothing.</summary>
    public const string Reader = "reader";

    /// <summary>All roles.</summary>
    public static readonly IReadOnlyList<string> All = [Preparer, Approver, Manager, Administrator, Reader];
}

/// <summary>What a role allows. Looking is open to everybody who has signed in.</summary>
public static class Policies
{
    /// <summary>Changing clients and returns.</summary>
    public const string Prepare = "prepare";

    /// <summary>Approving and filing.</summary>
    public const string Approve = "approve";

    /// <summary>Handing out work, the practice's particulars.</summary>
    public const string Manage = "manage";

    /// <summary>People, roles, teams, backups.</summary>
    public const string Administer = "administer";

    /// <summary>One's own session and account.</summary>
    public const string Own = "own";

    internal static readonly IReadOnlyDictionary<string, string[]> RolesByPolicy = new Dictionary<string, string[]>
    {
        [Prepare] = [Roles.Preparer, Roles.Approver, Roles.Manager],
        [Approve] = [Roles.Approver],
        [Manage] = [Roles.Manager, Roles.Administrator],
        [Administer] = [Roles.Administrator],
        [Own] = [.. Roles.All],
    };
}

/// <summary>Moments as stored: ISO 8601, UTC, to the millisecond.</summary>
public static class Moments
{
    /// <summary>The text of a moment; texts sort as moments do.</summary>
    public static string Text(DateTimeOffset moment) =>
        moment.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.fffZ", System.Globalization.CultureInfo.InvariantCulture);
}

internal static class AccessSetup
{
    /// <summary>Name of the limit on attempts to get in.</summary>
    public const string AttemptsLimit = "attempts";

    public static void AddAccess(this IServiceCollection services, IConfiguration settings)
    {
        var attemptsPerMinute = settings.GetValue("Attempts:PerMinute", 60);
        var idle = TimeSpan.FromHours(settings.GetValue("SignIn:Hours", 10.0));
        services.AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme).AddCookie(cookie =>
        {
            cookie.Cookie.Name = "aerarium";
            cookie.Cookie.HttpOnly = true;
            cookie.Cookie.SameSite = SameSiteMode.Strict;
            cookie.ExpireTimeSpan = idle;
            cookie.SlidingExpiration = true;
            cookie.Events.OnRedirectToLogin = context => Answer(context, StatusCodes.Status401Unauthorized);
            cookie.Events.OnRedirectToAccessDenied = context => Answer(context, StatusCodes.Status403Forbidden);
            cookie.Events.OnValidatePrincipal = OpenSessions.ValidateAsync;
        });
        var authorization = services.AddAuthorizationBuilder();
        foreach (var (policy, roles) in Policies.RolesByPolicy)
        {
            authorization.AddPolicy(policy, p => p.RequireAuthenticatedUser().RequireRole(roles));
        }

        services.AddRateLimiter(limits =>
        {
            limits.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limits.AddPolicy(AttemptsLimit, http => RateLimitPartition.GetFixedWindowLimiter(
                NetworkAddress.Of(http),
                _ => new FixedWindowRateLimiterOptions { PermitLimit = attemptsPerMinute, Window = TimeSpan.FromMinutes(1) }));
        });
        services.AddSingleton<OneTimeCodes>();
        services.AddSingleton<SignInGuard>();
        services.AddSingleton<Passwords>();
        services.AddSingleton<Microsoft.AspNetCore.Identity.IPasswordHasher<PersonRecord>, Argon2Passwords>();

        static Task Answer(Microsoft.AspNetCore.Authentication.RedirectContext<CookieAuthenticationOptions> context, int status)
        {
            context.Response.StatusCode = status;
            return Task.CompletedTask;
        }
    }
}

/// <summary>Every request that changes something carries the antiforgery token of its session.</summary>
internal sealed class AntiforgeryFilter(IAntiforgery antiforgery) : IEndpointFilter
{
    public const string Header = "X-Aerarium-Token";

    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var method = context.HttpContext.Request.Method;
        if (!HttpMethods.IsGet(method) && !HttpMethods.IsHead(method) && !await antiforgery.IsRequestValidAsync(context.HttpContext))
        {
            throw new PlainProblem(StatusCodes.Status400BadRequest, "This page is out of date. Reload it and do the act again; what you typed is kept.");
        }

        return await next(context);
    }
}
