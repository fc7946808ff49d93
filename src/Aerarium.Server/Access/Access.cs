using System.Security.Claims;
using Aerarium.Storage;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Aerarium.Server.Access;

/// <summary>The person a request comes from.</summary>
/// <param name="Id">Id.</param>
/// <param name="Name">Name.</param>
/// <param name="Role">Role.</param>
public sealed record Caller(long Id, string Name, string Role)
{
    /// <summary>The person signed in.</summary>
    public static Caller Of(ClaimsPrincipal principal) => new(
        long.Parse(principal.FindFirstValue(ClaimTypes.NameIdentifier)!, System.Globalization.CultureInfo.InvariantCulture),
        principal.FindFirstValue(ClaimTypes.Name)!,
        principal.FindFirstValue(ClaimTypes.Role)!);

    /// <summary>An act of this person at a time.</summary>
    public ActRecord Act(string kind, DateTimeOffset at) => new() { At = Moments.Text(at), PersonId = Id, PersonName = Name, Kind = kind };
}

/// <summary>Roles of a practice.</summary>
public static class Roles
{
    /// <summary>Enters, imports, checks.</summary>
    public const string Preparer = "preparer";

    /// <summary>Also approves and files.</summary>
    public const string Approver = "approver";
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
    public static void AddAccess(this IServiceCollection services)
    {
        services.AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme).AddCookie(cookie =>
        {
            cookie.Cookie.Name = "aerarium";
            cookie.Cookie.HttpOnly = true;
            cookie.Cookie.SameSite = SameSiteMode.Strict;
            cookie.ExpireTimeSpan = TimeSpan.FromHours(10);
            cookie.SlidingExpiration = true;
            cookie.Events.OnRedirectToLogin = context =>
            {
                context.Response.StatusCode = StatusCodes.Status401Unauthorized;
                return Task.CompletedTask;
            };
            cookie.Events.OnRedirectToAccessDenied = context =>
            {
                context.Response.StatusCode = StatusCodes.Status403Forbidden;
                return Task.CompletedTask;
            };
            cookie.Events.OnValidatePrincipal = context =>
            {
                var database = context.HttpContext.RequestServices.GetRequiredService<PracticeDatabase>();
                var person = database.Read(unit => People.Find(unit, Caller.Of(context.Principal!).Id));
                if (person is null || person.Role != Caller.Of(context.Principal!).Role)
                {
                    context.RejectPrincipal();
                }

                return Task.CompletedTask;
            };
        });
        services.AddAuthorizationBuilder().AddPolicy(Roles.Approver, policy => policy.RequireRole(Roles.Approver));
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
