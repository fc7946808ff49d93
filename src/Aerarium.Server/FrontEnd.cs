using Microsoft.Extensions.FileProviders;

namespace Aerarium.Server;

/// <summary>Serves the built front end: hashed assets for ever, the page never cached.</summary>
internal static class FrontEnd
{
    public static void UseFrontEnd(this WebApplication app, string? folder)
    {
        if (folder is null)
        {
            return;
        }

        app.UseStaticFiles(new StaticFileOptions
        {
            FileProvider = new PhysicalFileProvider(Path.GetFullPath(folder)),
            OnPrepareResponse = context => context.Context.Response.Headers.CacheControl =
                context.Context.Request.Path.StartsWithSegments("/assets") ? "public, max-age=31536000, immutable" : "no-cache",
        });
    }

    public static void MapFrontEndFallback(this WebApplication app, string? folder)
    {
        if (folder is not null)
        {
            var page = Path.Combine(Path.GetFullPath(folder), "index.html");
            app.MapFallback((HttpContext context) =>
            {
                if (context.Request.Path.StartsWithSegments("/api") || context.Request.Path.StartsWithSegments("/hubs"))
                {
                    return Results.NotFound();
                }

                context.Response.Headers.CacheControl = "no-cache";
                return Results.File(page, "text/html");
            }).ExcludeFromDescription();
        }
    }
}

/// <summary>Headers that keep the page to itself, and answers out of caches; the front end's files say otherwise for themselves.</summary>
internal static class SecurityHeaders
{
    public static Task Add(HttpContext context, RequestDelegate next)
    {
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy =
            "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; frame-src 'self' blob:; object-src 'none'; base-uri 'none'; frame-ancestors 'self'; form-action 'self'";
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        context.Response.OnStarting(() =>
        {
            if (headers.CacheControl.Count == 0)
            {
                headers.CacheControl = "no-store";
            }

            return Task.CompletedTask;
        });
        return next(context);
    }
}
