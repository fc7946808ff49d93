namespace Aerarium.StandIn;

/// <summary>Faults every request may meet: outage, latency, errors by chance from a seed, too many at once.</summary>
public sealed class FaultFilter(Archive archive, Random chance, TimeProvider clock) : IEndpointFilter
{
    private readonly Lock _gate = new();
    private long _second;
    private int _taken;

    /// <inheritdoc />
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var faults = archive.Faults;
        if (faults.Outage)
        {
            return Results.Problem("The service is not available; try again later.", statusCode: StatusCodes.Status503ServiceUnavailable);
        }

        if (IsTooMany(faults.RequestsPerSecond))
        {
            context.HttpContext.Response.Headers.RetryAfter = "1";
            return Results.Problem("Too many requests; wait a second.", statusCode: StatusCodes.Status429TooManyRequests);
        }

        if (faults.LatencyMs > 0)
        {
            await Task.Delay(faults.LatencyMs);
        }

        lock (_gate)
        {
            if (faults.ErrorPercent > 0 && chance.Next(100) < faults.ErrorPercent)
            {
                return Results.Problem("Something went wrong.", statusCode: StatusCodes.Status500InternalServerError);
            }
        }

        return await next(context);
    }

    private bool IsTooMany(int most)
    {
        lock (_gate)
        {
            var second = clock.GetUtcNow().ToUnixTimeSeconds();
            (_second, _taken) = second == _second ? (_second, _taken + 1) : (second, 1);
            return most > 0 && _taken > most;
        }
    }
}
