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

    private readonly int mostKilobytes = MostKilobytes(configuration);

    private readonly PartitionedRateLimiter<Guid> documents = Limiter(MostKilobytes(configuration));

    /// <param name="characters">Of the edits and their inverses, as they are stored.</param>
    /// <exception cref="ProblemException">It has grown by so much already.</exception>
    public void Count(Guid document, long characters)
    {
        var kilobytes = (int)Math.Min((characters / 1024) + 1, int.MaxValue);
        // What is more than a whole hour's share the limiter takes for a fault of the caller.
        using var lease = kilobytes <= mostKilobytes ? documents.AttemptAcquire(document, kilobytes) : null;
        if (lease is not { IsAcquired: true })
        {
            throw ProblemException.TooMuch(
                $"The history of this document has grown by {mostKilobytes / 1024} MB within the hour. "
                    + "What you changed waits and is stored later; export a copy if you need it before.",
                MinutesToWait * 60
            );
        }
    }

    public void Dispose() => documents.Dispose();

    private static int MostKilobytes(IConfiguration configuration) => configuration.GetValue("Limits:HistoryMegabytesAnHour", 512) * 1024;

    private static PartitionedRateLimiter<Guid> Limiter(int kilobytes) =>
        PartitionedRateLimiter.Create<Guid, Guid>(document =>
            RateLimitPartition.GetSlidingWindowLimiter(document, _ => new SlidingWindowRateLimiterOptions
            {
                PermitLimit = kilobytes,
                Window = TimeSpan.FromHours(1),
                SegmentsPerWindow = 60 / MinutesToWait,
            })
        );
}
