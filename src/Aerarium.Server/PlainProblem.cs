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
            BadHttpRequestException bad => (bad.StatusCode, BadRequest(bad), null),
            _ => (StatusCodes.Status500InternalServerError, "Something went wrong on the server. Nothing was changed; try again, and tell your administrator if it stays.", (string?)null),
        };
        if (status == StatusCodes.Status500InternalServerError)
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
            ? "The request is larger than 1 MB; send less at once."
            : $"The request cannot be read: {bad.InnerException?.Message ?? bad.Message}";
}
