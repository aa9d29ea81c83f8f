using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;

namespace GoldenRule.Core.Interchange;

/// <param name="Id">By which calendars know it again.</param>
/// <param name="Status">In words: "draft", "approved".</param>
/// <param name="ChangedAt">UTC.</param>
public sealed record SendingDay(Guid Id, string Name, string CampaignType, string Status, DateOnly Day, DateTime ChangedAt);

/// <summary>What goes out when, as an iCalendar file (RFC 5545): one day each, which takes nobody's time.</summary>
public static class SendCalendarFile
{
    public const string MediaType = "text/calendar";

    public static string Write(IEnumerable<SendingDay> days)
    {
        var calendar = new Calendar { ProductId = "-//Golden Rule//Email//EN", Version = "2.0" };
        foreach (var sending in days)
        {
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = $"{sending.Id}@golden-rule",
                    DtStamp = new CalDateTime(DateTime.SpecifyKind(sending.ChangedAt, DateTimeKind.Utc)),
                    DtStart = new CalDateTime(sending.Day),
                    DtEnd = new CalDateTime(sending.Day.AddDays(1)),
                    Summary = $"{sending.CampaignType}: {sending.Name}",
                    Description = sending.Status,
                    Transparency = TransparencyType.Transparent,
                }
            );
        }

        return new CalendarSerializer().SerializeToString(calendar)!;
    }
}
