using System.Threading.RateLimiting;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.People;

/// <summary>
/// Counts wrong passwords: of one address from one sender, of one address from all, and of one sender. Whoever is signed
/// in stays so, whatever others try.
/// </summary>
public sealed class SignInTries : IDisposable
{
    private static readonly TimeSpan Window = TimeSpan.FromMinutes(5);

    private readonly PartitionedRateLimiter<Try> _tries = PartitionedRateLimiter.CreateChained(
        Limit(8, tried => $"{tried.Address} {tried.Sender}"),
        Limit(40, tried => tried.Address),
        Limit(200, tried => tried.Sender)
    );

    /// <exception cref="ProblemException">Too many were wrong lately; it says when to try again.</exception>
    public void Check(string address, string sender)
    {
        using var left = _tries.AttemptAcquire(Try.From(address, sender), permitCount: 0);
        if (!left.IsAcquired)
        {
            throw new ProblemException(429, "locked-out", "Too many tries", "Too many wrong passwords. Try again in five minutes.");
        }
    }

    public void Failed(string address, string sender)
    {
        using var counted = _tries.AttemptAcquire(Try.From(address, sender));
    }

    public void Dispose() => _tries.Dispose();

    private static PartitionedRateLimiter<Try> Limit(int most, Func<Try, string> key) =>
        PartitionedRateLimiter.Create<Try, string>(tried =>
            RateLimitPartition.GetFixedWindowLimiter(key(tried).ToUpperInvariant(), _ => new FixedWindowRateLimiterOptions
            {
                PermitLimit = most,
                Window = Window,
                QueueLimit = 0,
            })
        );

    private readonly record struct Try(string Address, string Sender)
    {
        // No address is longer (RFC 5321, 4.5.3.1): what is kept of one stays small.
        private const int Longest = 320;

        public static Try From(string address, string sender) => new(address.Length > Longest ? address[..Longest] : address, sender);
    }
}
