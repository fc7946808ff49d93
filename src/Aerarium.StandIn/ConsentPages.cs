using System.Net;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.WebUtilities;

namespace Aerarium.StandIn;

/// <summary>Where an agent signs in at the authority and lets software act, and where software exchanges codes for tokens (RFC 6749, RFC 7636).</summary>
public static class ConsentPages
{
    /// <summary>Maps the pages.</summary>
    public static void MapConsent(this WebApplication app)
    {
        app.MapGet("/oauth/authorize", (
            [FromQuery(Name = "response_type")] string? type,
            [FromQuery(Name = "client_id")] string? client,
            [FromQuery(Name = "redirect_uri")] string? back,
            string? scope,
            string? state,
            [FromQuery(Name = "code_challenge")] string? challenge,
            [FromQuery(Name = "code_challenge_method")] string? method,
            Consents consents) =>
        {
            if (client is null || back is null || !consents.MayReturnTo(back))
            {
                return Results.Problem("This software is not registered with the authority under the address it wants to return to.", statusCode: 400);
            }

            return type == "code" && method == "S256" && challenge is { Length: 43 } && state is { Length: > 0 }
                ? Page(new ConsentRequest(client, back, scope ?? "", state, challenge), null)
                : Results.Redirect(QueryHelpers.AddQueryString(back, new Dictionary<string, string?> { ["error"] = "invalid_request", ["state"] = state ?? "" }));
        });
        app.MapPost("/oauth/authorize", (
            [FromForm] string user, [FromForm] string secret, [FromForm] string act, [FromForm] string client, [FromForm] string back, [FromForm] string scope, [FromForm] string state,
            [FromForm] string challenge, Consents consents, Registry registry) =>
        {
            if (!consents.MayReturnTo(back))
            {
                return Results.Problem("This software is not registered with the authority under the address it wants to return to.", statusCode: 400);
            }

            var request = new ConsentRequest(client, back, scope, state, challenge);
            if (act != "allow")
            {
                return Results.Redirect(QueryHelpers.AddQueryString(back, new Dictionary<string, string?> { ["error"] = "access_denied", ["state"] = state }));
            }

            var hash = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));
            return user.Length == 0 || secret.Length == 0 || !registry.Opens(user, hash)
                ? Page(request, "The user name and secret are not those of an agent.")
                : Results.Redirect(QueryHelpers.AddQueryString(back, new Dictionary<string, string?> { ["code"] = consents.Agree(request, user, hash), ["state"] = state }));
        }).DisableAntiforgery();
        app.MapPost("/oauth/token", (IFormCollection form, Consents consents) =>
        {
            var tokens = form["grant_type"].ToString() switch
            {
                "authorization_code" => consents.Exchange(form["code"].ToString(), form["redirect_uri"].ToString(), form["client_id"].ToString(), form["code_verifier"].ToString()),
                "refresh_token" => consents.Refresh(form["refresh_token"].ToString()),
                _ => null,
            };
            return tokens is null
                ? Results.Json(new { error = "invalid_grant" }, statusCode: 400)
                : Results.Json(new { access_token = tokens.Access, token_type = "Bearer", expires_in = tokens.ExpiresIn, refresh_token = tokens.Refresh, scope = tokens.Scope });
        }).DisableAntiforgery();
    }

    private static IResult Page(ConsentRequest request, string? problem)
    {
        static string E(string text) => WebUtility.HtmlEncode(text);
        var hidden = string.Concat(new[]
        {
            ("client", request.ClientId), ("back", request.RedirectUri), ("scope", request.Scope), ("state", request.State), ("challenge", request.Challenge),
        }.Select(f => $"""<input type="hidden" name="{f.Item1}" value="{E(f.Item2)}">"""));
        return Results.Content(
            $$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><title>Consent, simulated authority</title><meta name="viewport" content="width=device-width">
            <style>
            body{font:15px/1.5 system-ui,sans-serif;margin:0;color:#22282b;background:#f3f1ea}
            header{background:#8a6428;color:#fff;padding:12px 24px}header h1{margin:0;font-size:18px}
            main{max-width:440px;margin:40px auto;background:#fff;padding:8px 28px 24px;border:1px solid #ddd8cc}
            label{display:block;margin:12px 0}label input{display:block;width:100%;box-sizing:border-box}input,button{font:inherit;padding:6px 10px}button{margin-right:10px}.bad{color:#8a2b20}
            </style></head><body><header><h1>Simulated authority</h1></header><main>
            <h2>Let {{E(request.ClientId)}} file for you?</h2>
            <p>It will be able to register your certificate and file returns in your name ({{E(request.Scope)}}). Your secret stays here; you can take the consent back at any time.</p>
            {{(problem is null ? "" : $"<p class=\"bad\" role=\"alert\">{E(problem)}</p>")}}
            <form method="post" action="/oauth/authorize">{{hidden}}
            <label>Agent's user name <input name="user" autocomplete="username"></label>
            <label>Secret <input name="secret" type="password" autocomplete="current-password"></label>
            <button name="act" value="allow">Allow</button><button name="act" value="deny">Refuse</button>
            </form></main></body></html>
            """,
            "text/html");
    }
}
