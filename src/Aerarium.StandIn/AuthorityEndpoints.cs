using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;

namespace Aerarium.StandIn;

/// <summary>What agents' software talks to.</summary>
public static class AuthorityEndpoints
{
    private const int LongestKey = 100;

    /// <summary>Maps the endpoints.</summary>
    public static void MapAuthority(this WebApplication app)
    {
        var faults = app.Services.GetRequiredService<FaultFilter>();
        var service = app.MapGroup("").AddEndpointFilter((context, next) => faults.InvokeAsync(context, next));

        service.MapGet("/schemas", (PublishedSchemas schemas) => schemas.Paths);
        service.MapGet("/schemas/{**path}", (string path, PublishedSchemas schemas) =>
            schemas.Text(path) is { } text ? Results.Text(text, path.EndsWith(".json", StringComparison.Ordinal) ? "application/json" : "application/xml") : Results.Problem($"No schema '{path}' is published.", statusCode: 404));

        service.MapGet("/mail", (MailRoom mail) => mail.Rules);

        service.MapPut("/agents/{pin}", (string pin, AgentRegistration registration, HttpRequest request, Registry registry, Consents consents) =>
        {
            if (Account(request, consents) is not { } account)
            {
                return Results.Problem("Sign in with the agent's user name and secret, or with a consent that is valid.", statusCode: 401);
            }

            try
            {
                using var certificate = X509CertificateLoader.LoadCertificate(Convert.FromBase64String(registration.Certificate));
                return registry.Register(new Agent(pin, registration.Name, Convert.ToBase64String(certificate.RawData), account.UserName, account.SecretSha256))
                    ? Results.NoContent()
                    : Results.Problem("The user name and secret are not those of this agent.", statusCode: 401);
            }
            catch (Exception problem) when (problem is FormatException or CryptographicException)
            {
                return Results.Problem("The certificate cannot be read; send it as base64 of its DER form.", statusCode: 400);
            }
        });

        service.MapGet("/taxpayers/{pin}", (string pin, Registry registry) =>
            registry.Taxpayer(pin) is { } taxpayer ? Results.Ok(taxpayer) : Results.Problem($"No taxpayer is registered under {pin}.", statusCode: 404));
        service.MapGet("/taxpayers/{pin}/assessments/{year:int}", (string pin, int year, Registry registry) =>
            registry.Assessment(pin, year) is { } notice ? Results.Ok(notice) : Results.Problem($"There is no assessment of {pin} for {year}.", statusCode: 404));
        service.MapGet("/taxpayers/{pin}/statements/{year:int}", (string pin, int year, Registry registry) =>
            registry.Taxpayer(pin) is null
                ? Results.Problem($"No taxpayer is registered under {pin}.", statusCode: 404)
                : Results.Ok(registry.Statements(pin, year)));

        service.MapAftermath();
        service.MapGet("/certificate", (AuthoritySeal seal) => Results.File(seal.Certificate, "application/pkix-cert"));

        service.MapPost("/submissions", async (HttpContext http, Archive archive, Examiner examiner, AuthoritySeal seal) =>
        {
            var key = http.Request.Headers["Idempotency-Key"].ToString();
            if (key.Length is 0 or > LongestKey)
            {
                return Results.Problem("Send an Idempotency-Key header of at most 100 characters with every submission.", statusCode: 400);
            }

            using var body = new MemoryStream();
            await http.Request.Body.CopyToAsync(body);
            var document = body.ToArray();
            var submission = archive.Receive(key, document, a => examiner.Examine(document, a, http.Request.Headers["Document-Signature"].FirstOrDefault()));
            if (archive.Faults.LoseNextAnswer)
            {
                archive.Faults.LoseNextAnswer = false;
                http.Abort();
                return Results.Empty;
            }

            return Sealed(http, seal, archive.AnswerTo(submission), StatusCodes.Status202Accepted);
        });

        service.MapPost("/plausibility", async (HttpContext http, Archive archive, Examiner examiner, AuthoritySeal seal) =>
        {
            using var body = new MemoryStream();
            await http.Request.Body.CopyToAsync(body);
            var document = body.ToArray();
            return examiner.CheckBeforehand(document, archive) is { } reasons
                ? SealedText(http, seal, new { sha256 = Convert.ToHexStringLower(SHA256.HashData(document)), reasons })
                : Results.Problem("Returns of this kind are not checked beforehand.", statusCode: 409);
        });

        service.MapGet("/submissions/{key}", (string key, HttpContext http, Archive archive, AuthoritySeal seal) =>
            archive.Find(key) is { } submission
                ? Sealed(http, seal, archive.AnswerTo(submission), StatusCodes.Status200OK)
                : Results.Problem("No submission with this key has arrived.", statusCode: 404));
    }

    /// <summary>What follows an accepted return: assessment, verification, objection.</summary>
    private static void MapAftermath(this RouteGroupBuilder service)
    {
        service.MapGet("/rules", (Aftermath aftermath) => aftermath.Rule);
        service.MapGet("/submissions/{key}/assessment", (string key, HttpContext http, Aftermath aftermath, AuthoritySeal seal) =>
            aftermath.AssessmentOf(key) is { } notice ? SealedText(http, seal, notice) : Results.Problem("There is no assessment of this submission.", statusCode: 404));
        service.MapGet("/submissions/{key}/verification", (string key, HttpContext http, Aftermath aftermath, AuthoritySeal seal) =>
            aftermath.CaseOf(key) is { } open ? SealedText(http, seal, open) : Results.Problem("This submission is not selected for verification.", statusCode: 404));
        service.MapPost("/submissions/{key}/verification/documents", async (string key, string code, string name, HttpContext http, Aftermath aftermath, AuthoritySeal seal) =>
        {
            using var body = new MemoryStream();
            await http.Request.Body.CopyToAsync(body);
            var content = body.ToArray();
            return aftermath.Receive(key, new ReceivedDocument(code, name, Convert.ToHexStringLower(SHA256.HashData(content))), content) is { } open
                ? SealedText(http, seal, open)
                : Results.Problem("No document of this kind is asked for.", statusCode: 409);
        });
        service.MapPost("/submissions/{key}/verification/declaration", (string key, SupplementaryDeclaration declaration, HttpContext http, Aftermath aftermath, AuthoritySeal seal) =>
            aftermath.Declare(key, declaration) is { } found ? SealedText(http, seal, found) : Results.Problem("This submission is not selected for verification.", statusCode: 409));
        service.MapPost("/submissions/{key}/objections", (string key, Objection objection, HttpContext http, Aftermath aftermath, AuthoritySeal seal) =>
            aftermath.Object(key, objection) is { } registered ? SealedText(http, seal, registered) : Results.Problem("There is no such assessment.", statusCode: 409));
    }

    private static IResult SealedText<T>(HttpContext http, AuthoritySeal seal, T answer)
    {
        var bytes = System.Text.Json.JsonSerializer.SerializeToUtf8Bytes(answer, System.Text.Json.JsonSerializerOptions.Web);
        http.Response.Headers[AuthoritySeal.Header] = seal.Sign(bytes);
        return Results.Text(bytes, "application/json");
    }

    /// <summary>An answer with the authority's signature over exactly its bytes.</summary>
    private static IResult Sealed(HttpContext http, AuthoritySeal seal, Answer answer, int status)
    {
        var bytes = answer.Written();
        http.Response.Headers[AuthoritySeal.Header] = seal.Sign(bytes);
        return Results.Text(bytes, "application/json", status);
    }

    /// <summary>User name and hashed secret of HTTP Basic authentication (RFC 7617), or of the consent a bearer token stands for (RFC 6750); null when there is none.</summary>
    private static (string UserName, string SecretSha256)? Account(HttpRequest request, Consents consents)
    {
        if (!AuthenticationHeaderValue.TryParse(request.Headers.Authorization, out var header) || header is not { Scheme: "Basic" or "Bearer", Parameter: { } parameter })
        {
            return null;
        }

        if (header.Scheme == "Bearer")
        {
            return consents.Of(parameter) is { } consent ? (consent.UserName, consent.SecretSha256) : null;
        }

        var bytes = new byte[parameter.Length];
        if (!Convert.TryFromBase64String(parameter, bytes, out var length) || Encoding.UTF8.GetString(bytes, 0, length).Split(':', 2) is not [var user, var secret])
        {
            return null;
        }

        return (user, Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret))));
    }

    internal sealed record AgentRegistration(string Name, string Certificate);
}
