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
