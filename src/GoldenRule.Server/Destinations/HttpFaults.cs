using System.Globalization;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Destinations;

/// <summary>What goes wrong when another server is asked, in words.</summary>
internal static class HttpFaults
{
    private static readonly TimeSpan LongestPause = TimeSpan.FromHours(6);

    /// <param name="who">"The platform".</param>
    public static DestinationException Of(string who, Exception fault, TimeSpan longest) =>
        fault is InwardAddressException or { InnerException: InwardAddressException }
            ? new((fault as InwardAddressException ?? fault.InnerException!).Message, null, fault)
            : new(
                fault is TaskCanceledException
                    ? string.Create(CultureInfo.InvariantCulture, $"{who} did not answer within {longest.TotalSeconds} seconds.")
                    : $"{who} cannot be reached, or the connection broke off.",
                TimeSpan.Zero,
                fault
            );

    /// <summary>How long it asks to wait (RFC 9110, 10.2.3); zero: it says nothing.</summary>
    public static TimeSpan RetryAfter(HttpResponseMessage answer)
    {
        var said = answer.Headers.RetryAfter;
        var pause = said?.Delta ?? (said?.Date is { } at && answer.Headers.Date is { } now ? at - now : TimeSpan.Zero);
        return TimeSpan.FromTicks(Math.Clamp(pause.Ticks, 0, LongestPause.Ticks));
    }

    /// <summary>The beginning of what it answered, on one line.</summary>
    public static async Task<string> WordsAsync(HttpResponseMessage answer, CancellationToken cancel)
    {
        var said = await answer.Content.ReadAsStringAsync(cancel);
        return $"{(int)answer.StatusCode} {Shortened(said)}".Trim();
    }

    /// <summary>Somebody else's words, as they are shown: one line, and not a long one.</summary>
    public static string Shortened(string said) => string.Concat(said.Take(200).Select(c => char.IsControl(c) ? ' ' : c)).Trim();
}
