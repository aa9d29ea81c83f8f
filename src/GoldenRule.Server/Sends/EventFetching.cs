using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Returns;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Sends;

/// <summary>Asks destinations what came back of hand-offs that are there, for two months after they were taken.</summary>
public sealed partial class EventFetching(
    IServiceScopeFactory scopes,
    DestinationKinds kinds,
    TimeProvider clock,
    ILogger<EventFetching> log
) : Recurring(TimeSpan.FromSeconds(5), scopes, log)
{
    private const int MostAtOnce = 10;
    private const int MostPages = 20;
    private static readonly TimeSpan Watched = TimeSpan.FromDays(60);
    private static readonly TimeSpan Between = TimeSpan.FromSeconds(10);

    protected override async Task RunAsync(IServiceProvider services, CancellationToken cancel)
    {
        var (db, now) = (services.GetRequiredService<GoldenRuleDb>(), clock.GetUtcNow().UtcDateTime);
        var (since, before) = (now - Watched, now - Between);
        var due = await db
            .Pushes.Where(p => p.TakenAt > since && (p.LookedAt == null || p.LookedAt < before))
            .OrderBy(p => p.LookedAt == null ? DateTime.MinValue : p.LookedAt)
            .Take(MostAtOnce)
            .ToListAsync(cancel);
        foreach (var push in due)
        {
            var stored = await db.Destinations.AsNoTracking().FirstAsync(d => d.Id == push.DestinationId, cancel);
            push.LookedAt = now;
            try
            {
                if (stored.RetiredAt is null)
                {
                    await FetchAsync(push, kinds.Get(stored.Kind), kinds.Open(stored), services, cancel);
                }
            }
            catch (Exception fault) when (fault is DestinationException or ProblemException)
            {
                LogAway(log, stored.Name, fault.Message);
            }

            await db.SaveChangesAsync(cancel);
        }
    }

    private static async Task FetchAsync(
        StoredPush push,
        DestinationKind kind,
        OpenDestination to,
        IServiceProvider services,
        CancellationToken cancel
    )
    {
        var returns = services.GetRequiredService<ReaderReturns>();
        for (var pages = 0; pages < MostPages; pages++)
        {
            if (await kind.EventsAsync(push.HandOffId, push.EventsUpTo, to, cancel) is not { } page)
            {
                return;
            }

            // What was counted and not noted here is counted once: each event has an id.
            await returns.TakeAsync(push.HandOffId, page.Events, cancel);
            push.EventsUpTo = page.Next;
            if (!page.More)
            {
                return;
            }
        }
    }

    [LoggerMessage(Level = LogLevel.Information, Message = "{Destination} was not asked what came back: {Why}")]
    private static partial void LogAway(ILogger log, string destination, string why);
}
