using Aerarium.Server.Kept;
using Aerarium.Storage;

namespace Aerarium.Server.Access;

/// <summary>What an endpoint lets a caller reach; declared where the endpoint is mapped, never read from the text of its address.</summary>
internal enum Reached
{
    /// <summary>One client, and what belongs to it.</summary>
    Client,

    /// <summary>One return, and what belongs to it.</summary>
    Return,

    /// <summary>The practice: the endpoint itself shows each caller what is within the caller's reach.</summary>
    Practice,
}

/// <summary>What an endpoint reaches.</summary>
/// <param name="What">What it is.</param>
/// <param name="RouteValue">The route value that names it; empty for the practice.</param>
internal sealed record Reaches(Reached What, string RouteValue);

internal static class ReachDeclarations
{
    /// <summary>The route names a client.</summary>
    public static T ReachesClient<T>(this T endpoints, string routeValue = "id")
        where T : IEndpointConventionBuilder => endpoints.WithMetadata(new Reaches(Reached.Client, routeValue));

    /// <summary>The route names a return.</summary>
    public static T ReachesReturn<T>(this T endpoints, string routeValue = "id")
        where T : IEndpointConventionBuilder => endpoints.WithMetadata(new Reaches(Reached.Return, routeValue));

    /// <summary>The endpoint looks to each caller's reach itself, or shows nothing of any client.</summary>
    public static T ReachesPractice<T>(this T endpoints)
        where T : IEndpointConventionBuilder => endpoints.WithMetadata(new Reaches(Reached.Practice, ""));
}

/// <summary>
/// Clients and returns of a team do not exist for people outside it: every endpoint says what it reaches, and one that says nothing is
/// closed. What lives in a client-kept file is reached by the person who has it open, and the work is done in that file.
/// </summary>
internal sealed class ReachFilter(PracticeDatabase database, KeptReturns files, ILogger<ReachFilter> log) : IEndpointFilter
{
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var http = context.HttpContext;
        if (http.GetEndpoint()?.Metadata.GetMetadata<Reaches>() is not { } declared)
        {
            log.LogError("{Endpoint} does not say what it reaches; it is closed", http.GetEndpoint()?.DisplayName);
            throw NothingHere();
        }

        if (declared.What == Reached.Practice)
        {
            return await next(context);
        }

        if (http.User.Identity?.IsAuthenticated != true
            || !long.TryParse(http.GetRouteValue(declared.RouteValue) as string, System.Globalization.CultureInfo.InvariantCulture, out var id))
        {
            throw NothingHere();
        }

        var caller = Caller.Of(http.User);
        if (KeptReturns.IsKept(id))
        {
            using (PracticeDatabase.WorkIn(files.Find(id, caller.Id) ?? throw PlainProblem.NotFound("This client's file is not open; what it holds")))
            {
                return await next(context);
            }
        }

        var isClient = declared.What == Reached.Client;
        if (!database.Read(unit => isClient ? caller.Reach.SeesClient(unit, id) : caller.Reach.Sees(unit, id)))
        {
            throw PlainProblem.NotFound(isClient ? "This client" : "This return");
        }

        return await next(context);
    }

    private static PlainProblem NothingHere() => new(StatusCodes.Status404NotFound, PlainStatus.NothingHere);
}
