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
                    await TakeBouncesAsync(push.HandOffId, kinds.Get(stored.Kind), kinds.Open(stored), db, cancel);
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
            foreach (var some in page.Events.Chunk(ReaderReturns.MostEvents))
            {
                await returns.TakeAsync(push.HandOffId, [.. some], cancel);
            }

            push.EventsUpTo = page.Next;
            if (!page.More)
            {
                return;
            }
        }
    }

    // On the list of a send they stand as refused: what was handed over did not arrive.
    private static async Task TakeBouncesAsync(
        Guid handOff,
        DestinationKind kind,
        OpenDestination to,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var (addresses, reasons) = (new List<string>(), new List<string>());
        await foreach (var bounce in kind.BouncesAsync(handOff, to, cancel))
        {
            addresses.Add(bounce.Address.ToLowerInvariant());
            reasons.Add($"Bounced: {bounce.Reason}");
        }

        if (addresses.Count == 0)
        {
            return;
        }

        var bounced = await db.Database.ExecuteSqlAsync(
            $"""
            update send_recipients r set state = 'Refused', answer = b.reason
            from unnest({addresses.ToArray()}, {reasons.ToArray()}) as b(address, reason), sends s
            where s.id = r.send_id and s.hand_off_id = {handOff} and r.state = 'Sent' and lower(r.address) = b.address
            """,
            cancel
        );
        if (bounced > 0)
        {
            await db.Database.ExecuteSqlAsync(
                $"""
                update send_batches b set
                  sent = counted.sent, refused = counted.refused
                from (
                  select r.send_id, r.batch,
                    count(*) filter (where r.state = 'Sent') as sent, count(*) filter (where r.state = 'Refused') as refused
                  from send_recipients r join sends s on s.id = r.send_id
                  where s.hand_off_id = {handOff} group by r.send_id, r.batch
                ) counted
                where counted.send_id = b.send_id and counted.batch = b.number and b.ended_at is not null
                """,
                cancel
            );
        }
    }

    [LoggerMessage(Level = LogLevel.Information, Message = "{Destination} was not asked what came back: {Why}")]
    private static partial void LogAway(ILogger log, string destination, string why);
}
