using System.Threading.RateLimiting;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Editing;

/// <summary>
/// How much the history of one document may grow in an hour: what twenty people can type, not what a program can send.
/// Setting: "Limits:HistoryMegabytesAnHour" (512), of each server.
/// </summary>
public sealed class HistoryGrowth(IConfiguration configuration) : IDisposable
{
    private const int MinutesToWait = 5;

    private readonly int most = configuration.GetValue("Limits:HistoryMegabytesAnHour", 512);

    private PartitionedRateLimiter<Guid>? made;

    private PartitionedRateLimiter<Guid> Documents => LazyInitializer.EnsureInitialized(ref made, () => PartitionedRateLimiter.Create<Guid, Guid>(
        document => RateLimitPartition.GetSlidingWindowLimiter(document, _ => new SlidingWindowRateLimiterOptions
        {
            PermitLimit = most * 1024,
            Window = TimeSpan.FromHours(1),
            SegmentsPerWindow = 60 / MinutesToWait,
        })));

    /// <param name="characters">Of the edits and their inverses, as they are stored.</param>
    /// <exception cref="ProblemException">It has grown by so much already.</exception>
    public void Take(Guid document, long characters)
    {
        var kilobytes = (int)Math.Min((characters / 1024) + 1, int.MaxValue);
        using var lease = kilobytes <= most * 1024 ? Documents.AttemptAcquire(document, kilobytes) : null;
        if (lease is not { IsAcquired: true })
        {
            throw ProblemException.TooMuch($"The history of this document has grown by {most} MB within the hour. What you changed waits and is stored later; export a copy if you need it before.", MinutesToWait * 60);
        }
    }

    public void Dispose() => made?.Dispose();
}
