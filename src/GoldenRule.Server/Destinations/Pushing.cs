using GoldenRule.Core.HandOffs;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Destinations;

/// <summary>
/// Takes hand-offs to their destinations, and again later where that did not work. One push keeps one id however often it is tried,
/// so that what was taken although the answer was lost is not there twice.
/// </summary>
public sealed class Pushing(
    IServiceScopeFactory scopes,
    DestinationKinds kinds,
    LibraryCache library,
    TimeProvider clock,
    ILogger<Pushing> log
) : Recurring(TimeSpan.FromSeconds(1), scopes, log)
{
    /// <summary>After these it is given up.</summary>
    private static readonly RetryPauses Pauses = new(
        TimeSpan.FromSeconds(5),
        TimeSpan.FromMinutes(1),
        TimeSpan.FromMinutes(4),
        TimeSpan.FromMinutes(20),
        TimeSpan.FromHours(1),
        TimeSpan.FromHours(6)
    );

    protected override async Task RunAsync(IServiceProvider services, CancellationToken cancel)
    {
        var db = services.GetRequiredService<GoldenRuleDb>();
        while (await PushNextAsync(db, cancel))
        {
            db.ChangeTracker.Clear();
        }
    }

    /// <summary>False: there is none now.</summary>
    private async Task<bool> PushNextAsync(GoldenRuleDb db, CancellationToken cancel)
    {
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var now = clock.GetUtcNow().UtcDateTime;
        // Another server may be at it too; where this one ends, the row is free again.
        var push = await db
            .Pushes.FromSql($"select * from pushes where next_try <= {now} order by next_try limit 1 for update skip locked")
            .FirstOrDefaultAsync(cancel);
        if (push is null)
        {
            return false;
        }

        push.Tries++;
        var of = await db.HandOffs.AsNoTracking().Include(h => h.Withdrawal).FirstAsync(h => h.Id == push.HandOffId, cancel);
        try
        {
            await PushAsync(push, of, db, cancel);
        }
        catch (DestinationException fault)
        {
            push.Answer = fault.Message;
            push.NextTry = Pauses.Next(push.Tries, now, fault.Again);
            push.State = push.NextTry is null ? PushState.GivenUp : PushState.Waiting;
        }

        await db.SaveChangesAsync(CancellationToken.None);
        await LiveNews.TellAsync(db, of.DocumentId, LiveHub.Reviewed, "", "", CancellationToken.None);
        await turn.CommitAsync(CancellationToken.None);
        return true;
    }

    private async Task PushAsync(StoredPush push, StoredHandOff of, GoldenRuleDb db, CancellationToken cancel)
    {
        var stored = await db.Destinations.AsNoTracking().FirstAsync(d => d.Id == push.DestinationId, cancel);
        var (kind, to) = (kinds.Get(stored.Kind), kinds.Open(stored));
        if (of.Withdrawal is not null)
        {
            await kind.WithdrawAsync(of.Id, to, cancel);
            (push.State, push.NextTry, push.Answer) = (PushState.Stopped, null, "Withdrawn there too.");
            return;
        }

        var plan = (await library.GetAsync(db, cancel)).Audiences;
        var email = await HandedOffEmail.LoadAsync(HandOffRecord.Read(of.Record), to.Profile, plan, db, cancel);
        var (other, answer) = await kind.PushAsync(push.Id, email, to, cancel);
        (push.OtherId, push.Answer, push.State, push.NextTry) = (other, answer, PushState.Taken, null);
        push.TakenAt = clock.GetUtcNow().UtcDateTime;
    }
}
