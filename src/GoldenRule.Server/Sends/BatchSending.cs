using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Globalization;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.Webhooks;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Sends;

/// <summary>
/// Sends batches when their time has come. A send is worked on by one server at a time, held by a lock that ends with its connection:
/// where a server is killed, another goes on at once with what nothing is known of.
/// </summary>
public sealed partial class BatchSending(
    IServiceScopeFactory scopes,
    DestinationKinds kinds,
    LibraryCache library,
    BrowserPages pages,
    Unsubscribing ways,
    SendingClock sending,
    TimeProvider clock,
    ILogger<BatchSending> log
) : Recurring(TimeSpan.FromMilliseconds(500), scopes, log)
{
    private const int MostAtOnce = 4;

    /// <summary>So many addresses that unsubscribed elsewhere are stored in one statement.</summary>
    private const int TakenAtOnce = 1_000;

    private const string Waits = "It waits until the destination has taken the email.";

    /// <summary>By the sending clock, before a destination that failed is asked again.</summary>
    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(1);

    private readonly IServiceScopeFactory scopes = scopes;
    private readonly ConcurrentDictionary<Guid, Task> underWay = new();

    protected override async Task RunAsync(IServiceProvider services, CancellationToken cancel)
    {
        var (db, now) = (services.GetRequiredService<GoldenRuleDb>(), sending.Now);
        var due = await db.Sends.Where(s => s.DueAt <= now).OrderBy(s => s.DueAt).Select(s => s.Id).Take(50).ToListAsync(cancel);
        foreach (var id in due.Where(id => !underWay.ContainsKey(id)).Take(MostAtOnce - underWay.Count))
        {
            underWay[id] = Task.Run(() => HoldAsync(id, cancel), CancellationToken.None);
        }
    }

    private async Task HoldAsync(Guid id, CancellationToken cancel)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<GoldenRuleDb>();
            await db.Database.OpenConnectionAsync(cancel);
            var key = id.ToString();
            var held = await db
                .Database.SqlQuery<bool>($"select pg_try_advisory_lock(hashtextextended({key}, 1)) as \"Value\"")
                .SingleAsync(cancel);
            if (held)
            {
                try
                {
                    await StepAsync(id, db, cancel);
                }
                finally
                {
                    db.ChangeTracker.Clear();
                    await db.Database.ExecuteSqlAsync($"select pg_advisory_unlock(hashtextextended({key}, 1))", CancellationToken.None);
                }
            }
        }
        catch (Exception fault) when (fault is not OutOfMemoryException)
        {
            // It is due as before, and done at the next turn.
            LogFailed(log, id, fault);
        }
        finally
        {
            underWay.TryRemove(id, out _);
        }
    }

    private async Task StepAsync(Guid id, GoldenRuleDb db, CancellationToken cancel)
    {
        var send = await db.Sends.Include(s => s.Batches.OrderBy(b => b.Number)).FirstAsync(s => s.Id == id, cancel);
        var of = await db.HandOffs.AsNoTracking().Include(h => h.Withdrawal).FirstAsync(h => h.Id == send.HandOffId, cancel);
        var batch = send.Batches.FirstOrDefault(b => b.EndedAt is null);
        if (send.State is not (SendingState.Running or SendingState.Stopping))
        {
            return;
        }

        if (of.Withdrawal is not null || batch is null || (send.State == SendingState.Stopping && batch.BegunAt is null))
        {
            await EndAsync(send, of, of.Withdrawal is null ? "" : "It was withdrawn.", db);
            return;
        }

        if (batch.BegunAt is null && batch.At > sending.Now)
        {
            await DueAsync(send, batch.At, "", of, db);
            return;
        }

        await SendAsync(send, batch, of, db, cancel);
    }

    private async Task SendAsync(StoredSend send, StoredBatch batch, StoredHandOff of, GoldenRuleDb db, CancellationToken cancel)
    {
        var stored = await db.Destinations.AsNoTracking().FirstAsync(d => d.Id == send.DestinationId, cancel);
        var kind = kinds.Get(stored.Kind);
        try
        {
            if (stored.RetiredAt is not null)
            {
                throw new DestinationException("The destination was retired.", null);
            }

            if (kind.TakesPushes && !await IsTakenAsync(send, of, db, cancel))
            {
                return;
            }

            await BeginAsync(send, batch, kind, db, cancel);
            var to = kinds.Open(stored);
            await LeaveOutAsync(send, batch, db, cancel);
            var plan = (await library.GetAsync(db, cancel)).Audiences;
            var email = await HandedOffEmail.LoadAsync(HandOffRecord.Read(of.Record), to.Profile, plan, db, cancel);
            var left = await LeftAsync(send, batch, db, cancel);
            var work = new StoredBatchWork(send, batch, email, left, db, pages, ways, () => TellAsync(of, db));
            await kind.SendAsync(work, to, cancel);
            batch.OtherId = work.OtherId.Length > 0 ? work.OtherId : batch.OtherId;
        }
        catch (DestinationException fault)
        {
            await FailAsync(send, of, fault, db);
            return;
        }

        // What is not settled was paused or stopped: the batch goes on from there.
        if ((await LeftAsync(send, batch, db, cancel)).IsEmpty)
        {
            await EndBatchAsync(send, batch, of, db, cancel);
        }
    }

    // A destination that takes the email first is not asked to send it before it has: the two go by clocks of their own.
    private async Task<bool> IsTakenAsync(StoredSend send, StoredHandOff of, GoldenRuleDb db, CancellationToken cancel)
    {
        var push = await db
            .Pushes.AsNoTracking()
            .FirstOrDefaultAsync(p => p.HandOffId == send.HandOffId && p.DestinationId == send.DestinationId, cancel);
        var taken = push is { TakenAt: not null };
        if (!taken && push is not { NextTry: not null })
        {
            throw new DestinationException($"The destination has not taken the email: push it again. {push?.Answer}".TrimEnd(), null);
        }

        if (taken == (send.Answer == Waits))
        {
            await DueAsync(send, sending.Now, taken ? "" : Waits, of, db);
        }

        return taken;
    }

    // Who is in a batch stays in it however often it is tried.
    private async Task BeginAsync(StoredSend send, StoredBatch batch, DestinationKind kind, GoldenRuleDb db, CancellationToken cancel)
    {
        if (batch.BegunAt is null)
        {
            await using var turn = await db.Database.BeginTransactionAsync(cancel);
            await db.Database.ExecuteSqlAsync(
                $"""
                update send_recipients set batch = {batch.Number}
                where send_id = {send.Id} and position in (
                  select position from send_recipients where send_id = {send.Id} and state = 'Waiting' and batch = 0
                  order by tries, position limit {batch.Size})
                """,
                cancel
            );
            batch.BegunAt = sending.Now;
            await db.SaveChangesAsync(cancel);
            await turn.CommitAsync(cancel);
        }
        else if (!kind.IsIdempotent)
        {
            await db
                .Recipients.Where(r => r.SendId == send.Id && r.Batch == batch.Number && r.State == SendState.Sending)
                .ExecuteUpdateAsync(
                    r =>
                        r.SetProperty(x => x.State, SendState.Unknown)
                            .SetProperty(x => x.Answer, "Golden Rule ended while it was handed in. It is not sent again."),
                    cancel
                );
        }
    }

    // Whoever unsubscribed since, here or on any platform, is left out.
    private async Task LeaveOutAsync(StoredSend send, StoredBatch batch, GoldenRuleDb db, CancellationToken cancel)
    {
        foreach (var stored in await db.Destinations.AsNoTracking().Where(d => d.RetiredAt == null).ToListAsync(cancel))
        {
            if (kinds.Get(stored.Kind) is not { HasLists: true } platform)
            {
                continue;
            }

            try
            {
                // There may be a million of them: they are taken in as they come.
                await foreach (var some in platform.UnsubscribedAsync(kinds.Open(stored), cancel).Chunk(TakenAtOnce))
                {
                    await ways.AddAsync(some, db, cancel);
                }
            }
            catch (DestinationException fault) when (stored.Id != send.DestinationId)
            {
                // Another platform that is away holds up nobody; what it told before is kept.
                LogAway(log, stored.Name, fault.Message);
            }
        }

        var waiting = await db
            .Recipients.AsNoTracking()
            .Where(r => r.SendId == send.Id && r.Batch == batch.Number && r.State == SendState.Waiting)
            .Select(r => r.Address)
            .ToListAsync(cancel);
        var unsubscribed = await Unsubscribing.AmongAsync(waiting, db, cancel);
        await db
            .Recipients.Where(r =>
                r.SendId == send.Id && r.Batch == batch.Number && r.State == SendState.Waiting && unsubscribed.Contains(r.Address)
            )
            .ExecuteUpdateAsync(r => r.SetProperty(x => x.State, SendState.Unsubscribed), cancel);
    }

    private static async Task<ImmutableArray<StoredRecipient>> LeftAsync(
        StoredSend send,
        StoredBatch batch,
        GoldenRuleDb db,
        CancellationToken cancel
    ) =>
        [
            .. await db
                .Recipients.AsNoTracking()
                .Where(r =>
                    r.SendId == send.Id && r.Batch == batch.Number && (r.State == SendState.Waiting || r.State == SendState.Sending)
                )
                .OrderBy(r => r.Position)
                .ToListAsync(cancel),
        ];

    private async Task FailAsync(StoredSend send, StoredHandOff of, DestinationException fault, GoldenRuleDb db)
    {
        if (fault.Again is not { } least)
        {
            await SetAsync(send, SendingState.Paused, null, fault.Message, of, db);
            return;
        }

        var again = sending.Now + (least > Pause ? least : Pause);
        await SetAsync(send, null, again, $"{fault.Message} It is tried again.", of, db);
    }

    private async Task EndBatchAsync(StoredSend send, StoredBatch batch, StoredHandOff of, GoldenRuleDb db, CancellationToken cancel)
    {
        var counts = await db
            .Recipients.Where(r => r.SendId == send.Id && r.Batch == batch.Number)
            .GroupBy(r => r.State)
            .Select(g => new { g.Key, Count = g.Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        batch.Sent = counts.GetValueOrDefault(SendState.Sent);
        batch.Refused = counts.GetValueOrDefault(SendState.Refused);
        batch.LeftOut = counts.GetValueOrDefault(SendState.Unsubscribed);
        batch.Unknown = counts.GetValueOrDefault(SendState.Unknown);
        batch.EndedAt = sending.Now;
        await db.SaveChangesAsync(CancellationToken.None);
        var waiting = await db.Recipients.CountAsync(r => r.SendId == send.Id && r.State == SendState.Waiting, cancel);
        if (waiting == 0)
        {
            db.Batches.RemoveRange(send.Batches.Where(b => b.BegunAt is null));
            await db.SaveChangesAsync(cancel);
            await EndAsync(send, of, "", db);
            return;
        }

        // Late, or with some who are asked again: the pause between two batches is kept, and everyone has a batch.
        var soonest = batch.BegunAt!.Value.AddMinutes(DocumentJson.Read<BatchRule>(send.Rule).Minutes);
        var next = send.Batches.FirstOrDefault(b => b.BegunAt is null);
        if (next is null || next.At < soonest || send.Batches.Where(b => b.BegunAt is null).Sum(b => b.Size) != waiting)
        {
            await SendDesk.RedrawAsync(send, db, next is null || next.At < soonest ? soonest : next.At, cancel);
        }

        var at = await db.Batches.Where(b => b.SendId == send.Id && b.BegunAt == null).MinAsync(b => (DateTime?)b.At, cancel);
        await DueAsync(send, at, "", of, db);
    }

    private async Task EndAsync(StoredSend send, StoredHandOff of, string why, GoldenRuleDb db)
    {
        await using var turn = await db.Database.BeginTransactionAsync(CancellationToken.None);
        var waiting = await db.Recipients.CountAsync(r => r.SendId == send.Id && r.State == SendState.Waiting);
        if (await SetAsync(send, waiting == 0 ? SendingState.Done : SendingState.Stopped, null, why, of, db) == 0)
        {
            // Paused at this moment: it ends once somebody resumes it.
            return;
        }

        var record = HandOffRecord.Read(of.Record);
        var sent = await db.Batches.Where(b => b.SendId == send.Id).SumAsync(b => b.Sent);
        db.Record(clock, LogKind.SendEnded, send.AskedBy, record.Name, null, new SendEnded(of.Id, record.Number, send.ListName, sent));
        await WebhookEvents.AddAsync(WebhookEvents.Sent, WebhookEvents.About(record), db, clock, CancellationToken.None);
        await db.SaveChangesAsync();
        await turn.CommitAsync();
    }

    // What stops after its batch has no next one to wait for.
    private async Task DueAsync(StoredSend send, DateTime? at, string answer, StoredHandOff of, GoldenRuleDb db)
    {
        await SetAsync(send, null, at, answer, of, db);
        var now = sending.Now;
        await db
            .Sends.Where(s => s.Id == send.Id && s.State == SendingState.Stopping)
            .ExecuteUpdateAsync(s => s.SetProperty(x => x.DueAt, now));
    }

    // What somebody said meanwhile stays said: only a send that still runs is set.
    private static async Task<int> SetAsync(
        StoredSend send,
        SendingState? state,
        DateTime? due,
        string answer,
        StoredHandOff of,
        GoldenRuleDb db
    )
    {
        var set = await db
            .Sends.Where(s => s.Id == send.Id && (s.State == SendingState.Running || s.State == SendingState.Stopping))
            .ExecuteUpdateAsync(s =>
                s.SetProperty(x => x.State, x => state ?? x.State).SetProperty(x => x.DueAt, due).SetProperty(x => x.Answer, answer)
            );
        await TellAsync(of, db);
        return set;
    }

    private static Task TellAsync(StoredHandOff of, GoldenRuleDb db) =>
        LiveNews.TellAsync(db, of.DocumentId, LiveHub.Reviewed, "", "", CancellationToken.None);

    private sealed record SendEnded(Guid HandOff, int Number, string List, int Sent);

    [LoggerMessage(Level = LogLevel.Warning, Message = "The send {Send} failed and is tried again")]
    private static partial void LogFailed(ILogger log, Guid send, Exception fault);

    [LoggerMessage(Level = LogLevel.Information, Message = "{Destination} was not asked who unsubscribed: {Why}")]
    private static partial void LogAway(ILogger log, string destination, string why);
}
