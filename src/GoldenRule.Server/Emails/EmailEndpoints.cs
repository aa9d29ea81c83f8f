using GoldenRule.Data;
using GoldenRule.Server.Desks;

namespace GoldenRule.Server.Emails;

public static class EmailEndpoints
{
    public static void MapEmails(this IEndpointRouteBuilder api)
    {
        var emails = api.MapGroup("/emails").WithTags("Emails");
        emails.MapEmailLibrary();
        emails.MapDesk(DocumentKind.Email, "Email");
        emails.MapCopy();
        emails.MapHistory();
        emails.MapUpdates();
        emails.MapExport();
        api.MapUpdatesWaiting();
        api.MapLinks();
    }
}
