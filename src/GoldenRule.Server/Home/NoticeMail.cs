using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Mail;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>
/// Mails people what waits for them and they have not been mailed yet, gathered: at most one mail an hour, and nothing that was
/// answered within a few minutes.
/// </summary>
public sealed class NoticeMail(IServiceScopeFactory scopes, IConfiguration configuration, ILogger<NoticeMail> log)
    : Recurring(Every(configuration), scopes, log)
{
    /// <summary>How often is looked for what is new.</summary>
    private static TimeSpan Every(IConfiguration configuration) => TimeSpan.FromSeconds(configuration.GetValue("Notices:LookEvery", 60.0));

    protected override Task RunAsync(IServiceProvider services, CancellationToken cancel) =>
        services.GetRequiredService<NoticeDigest>().SendAllAsync(cancel);
}

/// <summary>What is gathered into one mail, and when.</summary>
public sealed class NoticeDigest(
    GoldenRuleDb db,
    HomeDesk home,
    Outbox outbox,
    PublicAddress address,
    TimeProvider clock,
    IConfiguration configuration
)
{
    /// <summary>Between two mails to one person.</summary>
    private static readonly TimeSpan Between = TimeSpan.FromHours(1);

    /// <summary>Whoever answers at once is not mailed.</summary>
    private readonly TimeSpan patience = TimeSpan.FromSeconds(configuration.GetValue("Notices:MailAfter", 300.0));

    public async Task SendAllAsync(CancellationToken cancel)
    {
        if (!outbox.Sends)
        {
            return;
        }

        foreach (var person in await Everyone.ListAsync(db, cancel))
        {
            db.ChangeTracker.Clear();
            // Of several servers one mails.
            await using var turn = await db.TakeTurnAsync($"notices {person.Id}", cancel);
            if (await SendAsync(person, cancel))
            {
                outbox.Saved();
            }

            await turn.CommitAsync(CancellationToken.None);
        }
    }

    private async Task<bool> SendAsync(Person person, CancellationToken cancel)
    {
        var now = clock.GetUtcNow().UtcDateTime;
        var account = await db.Users.FirstAsync(u => u.Id == person.Id, cancel);
        var waits = (await home.LookAsync(person, cancel)).Waits;
        var known = await db.Notices.Where(n => n.PersonId == person.Id).ToDictionaryAsync(n => n.Key, cancel);
        var keys = waits.Select(w => w.Key).ToHashSet(StringComparer.Ordinal);
        // What they said that they know stays known; it would come back otherwise.
        db.Notices.RemoveRange(known.Values.Where(n => n.NotedAt is null && !keys.Contains(n.Key)));
        foreach (var key in keys.Where(k => !known.ContainsKey(k)))
        {
            known[key] = db
                .Notices.Add(
                    new StoredNotice
                    {
                        PersonId = person.Id,
                        Key = key,
                        Since = now,
                    }
                )
                .Entity;
        }

        var untold = waits.Where(w => known[w.Key].MailedAt is null && NoticeDesk.Choice(account.NoticeChoices, w.Kind).ByMail).ToList();
        var isTime =
            untold.Exists(w => now - known[w.Key].Since >= patience)
            && (account.NoticesMailedAt is null || now - account.NoticesMailedAt >= Between)
            && account.Email is not null;
        if (isTime)
        {
            outbox.Add(
                db,
                account,
                AccountMail.Waiting(account.Name, [.. untold.Select(w => (w.Name, w.Text, LinkTo(w)))], $"{address.OfServer()}/account")
            );
            account.NoticesMailedAt = now;
            untold.ForEach(w => known[w.Key].MailedAt = now);
        }

        await db.SaveChangesAsync(cancel);
        return isTime;
    }

    private string LinkTo(WaitEntry wait) =>
        address.OfServer()
        + wait switch
        {
            { Document: DocumentKind.Snippet } => $"/snippets/{wait.Id}",
            { Document: DocumentKind.Row } => $"/rows/{wait.Id}",
            { Document: DocumentKind.Template } => $"/templates/{wait.Id}",
            { Comment: { } comment } => $"/emails/{wait.Id}/review?comment={comment}",
            { Kind: WaitKind.SendPaused } => $"/emails/{wait.Id}/hand-offs",
            { Kind: WaitKind.Approve or WaitKind.ApproveAgain or WaitKind.Approved or WaitKind.SameBrowser } => $"/emails/{wait.Id}/review",
            _ => $"/emails/{wait.Id}",
        };
}
