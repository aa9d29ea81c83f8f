using GoldenRule.Core.Documents;
using NodaTime;
using NodaTime.Text;
using NodaTime.TimeZones;

namespace GoldenRule.Core.Sending;

/// <summary>A moment that somebody named by a clock on the wall and a time zone (IANA Time Zone Database).</summary>
/// <param name="At">UTC.</param>
/// <param name="Note">What the zone makes of it, where clocks change at that moment; empty: nothing out of the ordinary.</param>
public sealed record SendMoment(DateTime At, string Note)
{
    private static readonly LocalDateTimePattern Minutes = LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm");

    /// <param name="local">"2026-11-30T10:00" (ISO 8601).</param>
    /// <param name="zone">"Europe/London" for example.</param>
    /// <exception cref="StructureException">It is no such moment, or there is no such zone.</exception>
    public static SendMoment Read(string local, string zone)
    {
        if (Minutes.Parse(local) is not { Success: true, Value: var said })
        {
            throw new StructureException($"\"{local}\" is no moment. Write it like 2026-11-30T10:00.", "start");
        }

        var mapped = ZoneOf(zone).MapLocal(said);
        return mapped.Count switch
        {
            1 => new(mapped.Single().ToDateTimeUtc(), ""),
            // Clocks go back: the hour comes twice.
            2 => new(mapped.First().ToDateTimeUtc(), $"{local[11..]} comes twice that day, as clocks go back. It is the first of the two."),
            _ => Skipped(mapped, local),
        };
    }

    /// <summary>What a clock on the wall says at a moment.</summary>
    public static LocalDateTime LocalOf(DateTime utc, DateTimeZone zone) =>
        Instant.FromDateTimeUtc(DateTime.SpecifyKind(utc, DateTimeKind.Utc)).InZone(zone).LocalDateTime;

    /// <exception cref="StructureException">There is no such zone.</exception>
    public static DateTimeZone ZoneOf(string zone) =>
        DateTimeZoneProviders.Tzdb.GetZoneOrNull(zone)
        ?? throw new StructureException($"There is no time zone \"{zone}\". Write it like Europe/London.", "zone");

    // As much later as clocks go forward.
    private static SendMoment Skipped(ZoneLocalMapping mapped, string local)
    {
        var moment = Resolvers.ReturnForwardShifted(mapped.LocalDateTime, mapped.Zone, mapped.EarlyInterval, mapped.LateInterval);
        return new(moment.ToDateTimeUtc(), $"{local[11..]} does not come that day, as clocks go forward. It is {moment:HH:mm} instead.");
    }
}
