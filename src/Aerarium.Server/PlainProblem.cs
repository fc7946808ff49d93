using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server;

/// <summary>Something the caller can put right: told as a problem (RFC 9457) that says what, where, and what to do.</summary>
public sealed class PlainProblem(int status, string detail, string? line = null) : Exception(detail)
{
    /// <summary>HTTP status.</summary>
    public int Status { get; } = status;

    /// <summary>Line it belongs to, when there is one.</summary>
    public string? Line { get; } = line;

    /// <summary>The thing asked for does not exist.</summary>
    public static PlainProblem NotFound(string what) => new(StatusCodes.Status404NotFound, $"{what} does not exist, or no longer.");

    /// <summary>The state does not allow it now.</summary>
    public static PlainProblem Conflict(string detail) => new(StatusCodes.Status409Conflict, detail);

    /// <summary>What was sent cannot be taken.</summary>
    public static PlainProblem Refused(string detail, string? line = null) => new(StatusCodes.Status422UnprocessableEntity, detail, line);
}

/// <summary>Turns exceptions into problems; unexpected ones are logged and told without their insides.</summary>
internal sealed class PlainProblems(ILogger<PlainProblems> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext context, Exception exception, CancellationToken cancellationToken)
    {
        var (status, detail, line) = exception switch
        {
            PlainProblem problem => (problem.Status, problem.Message, problem.Line),
            _ when StorageTrouble.Of(exception) is { } words => (StatusCodes.Status503ServiceUnavailable, words, null),
            BadHttpRequestException bad => (bad.StatusCode, BadRequest(bad), null),
            _ => (StatusCodes.Status500InternalServerError, "Something went wrong on the server. Nothing was changed; try again, and tell your administrator if it stays.", (string?)null),
        };
        if (status is StatusCodes.Status500InternalServerError or StatusCodes.Status503ServiceUnavailable)
        {
            log.LogError(exception, "Unexpected failure at {Path}", context.Request.Path);
        }

        var details = new ProblemDetails { Status = status, Detail = detail };
        if (line is not null)
        {
            details.Extensions["line"] = line;
        }

        context.Response.StatusCode = status;
        await context.Response.WriteAsJsonAsync(details, options: null, contentType: "application/problem+json", cancellationToken);
        return true;
    }

    private static string BadRequest(BadHttpRequestException bad) =>
        bad.StatusCode == StatusCodes.Status413PayloadTooLarge
            ? PlainStatus.TooLarge
            : $"The request cannot be read: {bad.InnerException?.Message ?? bad.Message}";
}

/// <summary>Says in words what a bare status means.</summary>
internal static class PlainStatus
{
    public const string NothingHere = "There is nothing at this address.";

    public const string TooLarge = "This is larger than can be taken: documents have at most 20 MB, other files and requests 1 MB.";

    public static Task WriteAsync(StatusCodeContext context)
    {
        var response = context.HttpContext.Response;
        var detail = response.StatusCode switch
        {
            StatusCodes.Status401Unauthorized => "Sign in first.",
            StatusCodes.Status403Forbidden => "Your role does not allow this.",
            StatusCodes.Status404NotFound => NothingHere,
            StatusCodes.Status405MethodNotAllowed => "This cannot be done here.",
            StatusCodes.Status413PayloadTooLarge => TooLarge,
            StatusCodes.Status415UnsupportedMediaType => "Send JSON.",
            _ => "The request cannot be read.",
        };
        return response.WriteAsJsonAsync(
            new ProblemDetails { Status = response.StatusCode, Detail = detail }, options: null, contentType: "application/problem+json");
    }
}
