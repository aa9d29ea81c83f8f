using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Webhooks;

/// <summary>Tells webhooks, and again for a day where that did not work.</summary>
public sealed class WebhookTelling(
    IServiceScopeFactory scopes,
    OutboundConnections outbound,
    WebhookSecrets secrets,
    TimeProvider clock,
    ILogger<WebhookTelling> log
) : Recurring(TimeSpan.FromSeconds(1), scopes, log)
{
    /// <summary>As Standard Webhooks propose them; together a day.</summary>
    private static readonly RetryPauses Pauses = new(
        TimeSpan.FromSeconds(5),
        TimeSpan.FromMinutes(5),
        TimeSpan.FromMinutes(30),
        TimeSpan.FromHours(2),
        TimeSpan.FromHours(5),
        TimeSpan.FromHours(6),
        TimeSpan.FromHours(10)
    );

    protected override async Task RunAsync(IServiceProvider services, CancellationToken cancel)
    {
        var db = services.GetRequiredService<GoldenRuleDb>();
        while (await TellNextAsync(db, cancel))
        {
            db.ChangeTracker.Clear();
        }
    }

    /// <summary>False: there is none to tell now.</summary>
    private async Task<bool> TellNextAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var now = clock.GetUtcNow();
        var next = await db
            .Deliveries.FromSql(
                $"select * from webhook_deliveries where next_try <= {now.UtcDateTime} order by next_try limit 1 for update skip locked"
            )
            .FirstOrDefaultAsync(cancel);
        if (next is null)
        {
            return false;
        }

        next.Tries++;
        var hook = await db.Webhooks.AsNoTracking().FirstAsync(w => w.Id == next.WebhookId, cancel);
        try
        {
            if (hook.RetiredAt is not null)
            {
                throw new DestinationException("The webhook was retired.", null);
            }

            var signing = secrets.Signing(hook, now.UtcDateTime);
            next.Answer = await WebhookCall.SayAsync(outbound, new(hook.Address), next.Id, now, next.Body, signing, cancel);
            (next.State, next.NextTry) = (DeliveryState.Delivered, null);
        }
        catch (DestinationException fault)
        {
            next.Answer = fault.Message;
            next.NextTry = Pauses.Next(next.Tries, now.UtcDateTime, fault.Again);
            next.State = next.NextTry is null ? DeliveryState.GivenUp : DeliveryState.Waiting;
        }

        await db.SaveChangesAsync(CancellationToken.None);
        await turn.CommitAsync(CancellationToken.None);
        return true;
    }
}
