using System.Globalization;
using System.Security.Claims;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;

namespace GoldenRule.Server.Hosting;

/// <summary>
/// How often one person may ask, and where nobody is signed in one sender: far more than hands can do. What costs the
/// server more, files, imports and jobs, has a bound of its own. Settings: "Limits:RequestsASecond" (200), "Limits:CostlyAMinute" (120).
/// </summary>
public static class RateLimits
{
    /// <summary>The policy of routes that cost more than a look-up.</summary>
    public const string Costly = "costly";

    /// <summary>The policy of routes for programs with a token. Setting: "Limits:ProgramsAMinute" (600).</summary>
    public const string Programs = "programs";

    public static void Configure(IServiceCollection services, IConfiguration configuration)
    {
        var requests = configuration.GetValue("Limits:RequestsASecond", 200);
        var costly = configuration.GetValue("Limits:CostlyAMinute", 120);
        var programs = configuration.GetValue("Limits:ProgramsAMinute", 600);
        services.AddRateLimiter(o =>
        {
            o.GlobalLimiter = PartitionedRateLimiter.Create<HttpContext, string>(http =>
                IsForReaders(http.Request) ? RateLimitPartition.GetNoLimiter("") : Bucket(http, requests * 3, requests)
            );
            o.AddPolicy(Costly, http => Bucket(http, costly, Math.Max(1, costly / 60)));
            o.AddPolicy(Programs, http => Bucket(http, programs, Math.Max(1, programs / 60)));
            o.OnRejected = (rejected, _) => new ValueTask(RefuseAsync(rejected));
        });
    }

    // One mail provider fetches the pictures of all its readers, one office opens the pages, and a watchman asks for health. A page with
    // a reader's own values is made for each who asks.
    private static bool IsForReaders(HttpRequest request) =>
        request.Path.StartsWithSegments("/pictures", StringComparison.Ordinal)
        || (request.Path.StartsWithSegments("/view", StringComparison.Ordinal) && !request.Query.ContainsKey("reader"))
        || request.Path.StartsWithSegments("/health", StringComparison.Ordinal);

    private static RateLimitPartition<string> Bucket(HttpContext http, int atOnce, int refill) =>
        RateLimitPartition.GetTokenBucketLimiter(Who(http), _ => new TokenBucketRateLimiterOptions
        {
            TokenLimit = atOnce,
            TokensPerPeriod = refill,
            ReplenishmentPeriod = TimeSpan.FromSeconds(1),
            QueueLimit = 0,
        });

    private static string Who(HttpContext http) =>
        http.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? $"from {http.Connection.RemoteIpAddress}";

    private static Task RefuseAsync(OnRejectedContext rejected)
    {
        var seconds = rejected.Lease.TryGetMetadata(MetadataName.RetryAfter, out var after)
            ? Math.Max(1, (int)Math.Ceiling(after.TotalSeconds))
            : 1;
        rejected.HttpContext.Response.Headers.RetryAfter = seconds.ToString(CultureInfo.InvariantCulture);
        return StatusAnswer.WriteAsync(rejected.HttpContext, 429);
    }
}
