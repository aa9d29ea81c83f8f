namespace GoldenRule.Core.Sending;

/// <summary>
/// How an email goes out in batches. 200 every 30 minutes is what senders whom mailbox providers do not know yet begin with
/// (common practice, no source).
/// </summary>
/// <param name="Size">Messages of a batch on the first day.</param>
/// <param name="Minutes">From the beginning of one batch to the beginning of the next.</param>
/// <param name="DailyGrowth">Per cent by which batches are larger than the day before; 0: they stay.</param>
/// <param name="Most">Messages of a batch, however it grows.</param>
/// <param name="From">The hour of the day, 0 to 23, that the first batch of a day begins in.</param>
/// <param name="Until">The hour of the day, 1 to 24, from which on none begins. 0 to 24: day and night.</param>
public sealed record BatchRule(
    int Size = 200,
    int Minutes = 30,
    int DailyGrowth = 0,
    int Most = BatchRule.MostSize,
    int From = 0,
    int Until = 24
)
{
    public const int MostSize = 5_000;

    private const int LongestPause = 7 * 24 * 60;

    /// <summary>Why nothing can be sent by it, and the member that says so. Null: it can.</summary>
    public (string Why, string Where)? Fault() =>
        this switch
        {
            { Size: < 1 or > MostSize } => ($"A batch has 1 to {MostSize:N0} messages.", "size"),
            { Minutes: < 1 or > LongestPause } => ("Batches begin 1 minute to 7 days apart.", "minutes"),
            { DailyGrowth: < 0 or > 200 } => ("Batches grow by 0 to 200 per cent a day.", "dailyGrowth"),
            { Most: > MostSize } => ($"A batch has at most {MostSize:N0} messages.", "most"),
            _ when Most < Size => ("The largest batch is no smaller than the first.", "most"),
            { From: < 0 or > 23 } or { Until: < 1 or > 24 } => ("Hours are 0 to 24.", "from"),
            _ when From >= Until => ("The day ends after it begins.", "until"),
            _ => null,
        };

    /// <param name="day">From 0, the day of the first batch.</param>
    internal int SizeOn(int day) => (int)Math.Min(Most, Math.Round(Size * Math.Pow(1 + (DailyGrowth / 100.0), Math.Min(day, 3_650))));
}
