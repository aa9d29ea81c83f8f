using System.Collections.Immutable;
using System.Net;
using System.Security.Claims;
using System.Text.Json;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Interchange;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Mail;

/// <summary>A mail in the simulated mailbox, as a list shows it.</summary>
public sealed record MailroomEntry(int Id, DateTime At, string From, ImmutableArray<string> To, string Subject, string Preview);

public sealed record MailroomAttachment(string Name, string Type, int Bytes);

/// <param name="Html">Null: it has none.</param>
/// <param name="Headers">Each as it stands in the message.</param>
public sealed record MailroomMail(
    int Id,
    DateTime At,
    string From,
    ImmutableArray<string> To,
    string Subject,
    string Text,
    string? Html,
    ImmutableArray<string> Headers,
    ImmutableArray<MailroomAttachment> Attachments
);

/// <summary>
/// The mailbox that a demo sends to, where the setting "Mailroom" says its address. It holds everyone's mail, links to passwords
/// among it: leads read it, and a server for real work has none.
/// </summary>
public static class MailroomEndpoints
{
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(5);

    public static void MapMailroom(this IEndpointRouteBuilder api)
    {
        var mails = api.MapGroup("/mailroom").WithTags("Mailroom");
        mails
            .MapGet("", (ClaimsPrincipal user, IConfiguration configuration, CancellationToken cancel) =>
                AskAsync<ImmutableArray<MailroomEntry>>("messages", user, configuration, cancel)
            )
            .WithName("listMailroom");
        mails
            .MapGet("/{id:int}", (int id, ClaimsPrincipal user, IConfiguration configuration, CancellationToken cancel) =>
                AskAsync<MailroomMail>($"messages/{id}", user, configuration, cancel)
            )
            .WithName("getMailroomMail");
        mails
            .MapGet("/{id:int}/signs", async (int id, ClaimsPrincipal user, IConfiguration configuration, CancellationToken cancel) =>
            {
                using var client = Open(user, configuration);
                return MessageReport.Read(await SentAsync(() => client.GetByteArrayAsync($"messages/{id}/source", cancel)));
            })
            .WithName("getMailroomSigns");
        mails
            .MapGet("/{id:int}/source", async (int id, ClaimsPrincipal user, IConfiguration configuration, CancellationToken cancel) =>
            {
                using var client = Open(user, configuration);
                return Results.Text(await SentAsync(() => client.GetStringAsync($"messages/{id}/source", cancel)), "text/plain");
            })
            .Produces<string>(200, "text/plain")
            .WithName("getMailroomSource");
    }

    private static async Task<T> AskAsync<T>(string path, ClaimsPrincipal user, IConfiguration configuration, CancellationToken cancel)
    {
        using var client = Open(user, configuration);
        return (await SentAsync(() => client.GetFromJsonAsync<T>(path, JsonSerializerOptions.Web, cancel)))!;
    }

    private static async Task<T> SentAsync<T>(Func<Task<T>> ask)
    {
        try
        {
            return await ask();
        }
        catch (HttpRequestException fault) when (fault.StatusCode == HttpStatusCode.NotFound)
        {
            throw ProblemException.NotFound("That mail is not in the mailbox any more.");
        }
        catch (Exception fault) when (fault is HttpRequestException or TaskCanceledException { InnerException: TimeoutException })
        {
            throw new ProblemException(
                502,
                "mailbox",
                "The mailbox does not answer",
                "The simulated mailbox does not answer. Start it again."
            );
        }
    }

    private static HttpClient Open(ClaimsPrincipal user, IConfiguration configuration)
    {
        user.Person().MustBe("The simulated mailbox holds everyone's mail; leads read it.", Role.Lead);
        return configuration["Mailroom"] is { Length: > 0 } address
            ? new HttpClient { BaseAddress = new Uri(address.TrimEnd('/') + "/"), Timeout = Longest }
            : throw ProblemException.NotFound("This server has no simulated mailbox: its mail goes to people's own.");
    }
}
