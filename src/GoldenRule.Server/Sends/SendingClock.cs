using System.Globalization;

namespace GoldenRule.Server.Sends;

/// <summary>
/// The time that batches are sent by. Settings, to try plans out: "Sending:ClockSpeed" (seconds of this clock in one second; 1) and
/// "Sending:ClockFrom" (the moment, ISO 8601, from which on it runs faster; now).
/// </summary>
public sealed class SendingClock(IConfiguration configuration, TimeProvider clock) : TimeProvider
{
    private readonly double speed = Math.Clamp(configuration.GetValue("Sending:ClockSpeed", 1.0), 1, 100_000);

    private readonly DateTimeOffset from = DateTimeOffset.TryParse(
        configuration["Sending:ClockFrom"],
        CultureInfo.InvariantCulture,
        DateTimeStyles.AssumeUniversal,
        out var said
    )
        ? said
        : clock.GetUtcNow();

    public override DateTimeOffset GetUtcNow() => from + ((clock.GetUtcNow() - from) * speed);

    /// <summary>UTC, to the microsecond, as the database keeps it.</summary>
    public DateTime Now
    {
        get
        {
            var now = GetUtcNow().UtcDateTime;
            return now.AddTicks(-(now.Ticks % TimeSpan.TicksPerMicrosecond));
        }
    }

    public double Speed => speed;
}
