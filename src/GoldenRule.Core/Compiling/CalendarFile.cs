using System.Security.Cryptography;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Languages;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;

namespace GoldenRule.Core.Compiling;

/// <summary>An event as an iCalendar file (RFC 5545), named by its bytes as pictures are. The same event gives the same bytes.</summary>
internal static class CalendarFile
{
    public const string UsualZone = "Europe/London";

    /// <summary>Null: it has no start yet, or no zone that the time zone database knows.</summary>
    public static (string Name, byte[] Content)? Write(string title, FieldValue.Moment moment, string where, string text)
    {
        if (moment.Starts is not { } start || !NodaTime.DateTimeZoneProviders.Tzdb.Ids.Contains(moment.Zone))
        {
            return null;
        }

        // Times are written in UTC, which needs no description of the zone; days without a time are days anywhere.
        var from = At(start, moment.Start, moment.Zone);
        var entry = new CalendarEvent
        {
            Uid = Name($"{title}\n{moment.Start}\n{where}"),
            // The stamp says when the entry was made; the core has no clock, and the same event must give the same bytes.
            DtStamp = new CalDateTime(DateTime.SpecifyKind(start.Date, DateTimeKind.Utc)),
            DtStart = from,
            DtEnd = moment.Ends is { } end && end > start ? At(end, moment.End, moment.Zone) : null,
            Summary = title,
            Location = where.Length > 0 ? where : null,
            Description = text.Length > 0 ? text : null,
        };
        var calendar = new Calendar { ProductId = "-//Golden Rule//Email//EN", Version = "2.0" };
        calendar.Events.Add(entry);
        var bytes = Encoding.UTF8.GetBytes(new CalendarSerializer().SerializeToString(calendar)!);
        return (Name(bytes) + ".ics", bytes);
    }

    private static CalDateTime At(DateTime local, string written, string zone) =>
        Dates.HasTime(written) ? new CalDateTime(local, zone).ToTimeZone("UTC")! : new CalDateTime(DateOnly.FromDateTime(local));

    private static string Name(string text) => Name(Encoding.UTF8.GetBytes(text))[..32];

    private static string Name(byte[] bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));
}
