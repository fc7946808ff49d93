using System.Threading.RateLimiting;
using Microsoft.Extensions.Http.Resilience;
using Polly;
using Polly.CircuitBreaker;

namespace Aerarium.Server.Sending;

/// <summary>
/// What every request to an authority goes through: no more at once than it allows, and none at all for a while once it has stopped
/// answering. Trying again is the queue's business, which remembers over a restart.
/// </summary>
internal static class AuthorityLimits
{
    private const int MostWaiting = 10_000;
    private const double TolerableFailures = 0.5;
    private const int FewestRequests = 10;

    /// <summary>Adds the limits. Settings: <c>AuthorityLimits:RequestsPerSecond</c>, <c>AuthorityLimits:BreakSeconds</c>.</summary>
    public static void AddAuthorityLimits(this IHttpClientBuilder client, IConfiguration settings) => client.AddResilienceHandler("authority", pipeline =>
    {
        var perSecond = settings.GetValue("AuthorityLimits:RequestsPerSecond", 100);
        pipeline.AddRateLimiter(new TokenBucketRateLimiter(new TokenBucketRateLimiterOptions
        {
            TokenLimit = perSecond,
            TokensPerPeriod = perSecond,
            ReplenishmentPeriod = TimeSpan.FromSeconds(1),
            QueueLimit = MostWaiting,
            QueueProcessingOrder = QueueProcessingOrder.OldestFirst,
        }));
        pipeline.AddCircuitBreaker(new HttpCircuitBreakerStrategyOptions
        {
            FailureRatio = TolerableFailures,
            MinimumThroughput = FewestRequests,
            SamplingDuration = TimeSpan.FromSeconds(10),
            BreakDuration = TimeSpan.FromSeconds(settings.GetValue("AuthorityLimits:BreakSeconds", 5d)),
        });
    });

    /// <summary>The problem a request met when it was not even tried; null for any other.</summary>
    public static AuthorityUnavailableException? Held(Exception problem) =>
        problem is BrokenCircuitException ? new AuthorityUnavailableException("The authority has not answered for a while and is left alone for some seconds.", problem) : null;
}
