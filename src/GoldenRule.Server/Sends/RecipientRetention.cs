using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Sends;

/// <summary>
/// Deletes who was sent to 30 days after a send has ended; its counts stay. What webhooks were told, and the ids of events that were
/// counted, are kept 90 days.
/// </summary>
public sealed class RecipientRetention(IServiceScopeFactory scopes, ILogger<RecipientRetention> log)
    : Recurring(TimeSpan.FromHours(1), scopes, log)
{
    protected override Task RunAsync(IServiceProvider services, CancellationToken cancel) =>
        DeleteAsync(services.GetRequiredService<GoldenRuleDb>(), cancel);

    public static Task<int> DeleteAsync(GoldenRuleDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            delete from send_recipients r using sends s
            where s.id = r.send_id and s.state in ('Done', 'Stopped') and s.asked_at < now() - interval '30 days'
              and not exists (select 1 from send_batches b where b.send_id = s.id and b.ended_at > now() - interval '30 days');
            delete from counted_events where at < now() - interval '90 days';
            delete from webhook_deliveries where at < now() - interval '90 days' and next_try is null
            """,
            cancel
        );
}
