using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Home;

/// <summary>What waits for whoever is signed in, what they asked of others, what goes out when, and how the library is.</summary>
public static class HomeEndpoints
{
    public static void MapHome(this IEndpointRouteBuilder api)
    {
        api.MapGet("/home", (ClaimsPrincipal user, HomeDesk home, CancellationToken cancel) => home.LookAsync(user.Person(), cancel))
            .WithTags("Home")
            .WithName("getHome");
        api.MapPost("/home/noted", (NoteThis note, ClaimsPrincipal user, NoticeDesk notices, CancellationToken cancel) =>
                notices.NoteAsync(user.Person().Id, note.Key, cancel)
            )
            .WithTags("Home")
            .WithName("noteWait");
        api.MapGet("/notices", async (ClaimsPrincipal user, NoticeDesk notices, Mail.Outbox outbox, CancellationToken cancel) =>
                new NoticeSettings(await notices.SettingsAsync(user.Person().Id, cancel), outbox.Sends)
            )
            .WithTags("Home")
            .WithName("getNotices");
        api.MapPut(
                "/notices",
                async (
                    ImmutableArray<NoticeSetting> settings,
                    ClaimsPrincipal user,
                    NoticeDesk notices,
                    Mail.Outbox outbox,
                    CancellationToken cancel
                ) =>
                {
                    await notices.SetAsync(user.Person().Id, settings, cancel);
                    return new NoticeSettings(await notices.SettingsAsync(user.Person().Id, cancel), outbox.Sends);
                }
            )
            .WithTags("Home")
            .WithName("setNotices");
        api.MapGet("/calendar", (DateOnly from, DateOnly until, ClaimsPrincipal user, SendCalendar calendar, CancellationToken cancel) =>
                calendar.ListAsync(from, until, user.Person(), cancel)
            )
            .WithTags("Home")
            .WithName("getCalendar");
        api.MapGet("/calendar.ics", async (ClaimsPrincipal user, SendCalendar calendar, CancellationToken cancel) =>
                Results.Text(await calendar.FileAsync(user.Person(), cancel), "text/calendar")
            )
            .Produces<string>(200, "text/calendar")
            .WithTags("Home")
            .WithName("getCalendarFile");
        api.MapGet("/library-health", (ClaimsPrincipal user, LibraryHealth health, CancellationToken cancel) =>
                health.LookAsync(user.Person(), cancel)
            )
            .WithTags("Home")
            .WithName("getLibraryHealth");
    }
}
