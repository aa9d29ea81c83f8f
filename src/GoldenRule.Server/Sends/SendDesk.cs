using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using NpgsqlTypes;

namespace GoldenRule.Server.Sends;

/// <summary>Plans sends, pauses, resumes and stops them, and says where a hand-off went; see <see cref="BatchSending"/>.</summary>
public sealed class SendDesk(
    GoldenRuleDb db,
    HandOffAnswers handOffs,
    PushDesk pushes,
    LibraryCache library,
    DestinationKinds kinds,
    SendingClock sending,
    TimeProvider clock
)
{
    private const int MostTold = 500;

    public async Task<SendingAnswer> AnswerAsync(Guid handOff, Person everywhere, CancellationToken cancel)
    {
        var stored = await handOffs.FindAsync(handOff, everywhere, cancel);
        var record = HandOffRecord.Read(stored.Record);
        var snapshot = await library.GetAsync(db, cancel);
        var person = snapshot.Plan.Teams.ForEmail(everywhere, record.CampaignType);
        var destinations = await db.Destinations.AsNoTracking().OrderBy(d => d.Name).ToListAsync(cancel);
        var pushed = await db.Pushes.AsNoTracking().Where(p => p.HandOffId == handOff).OrderBy(p => p.AskedAt).ToListAsync(cancel);
        var sent = await db
            .Sends.AsNoTracking()
            .Include(s => s.Batches.OrderBy(b => b.Number))
            .Where(s => s.HandOffId == handOff)
            .OrderByDescending(s => s.AskedAt)
            .ToListAsync(cancel);
        var people = pushed.Select(p => p.AskedBy).Concat(sent.Select(s => s.AskedBy)).Distinct().ToList();
        var names = await db.Users.Where(u => people.Contains(u.Id)).ToDictionaryAsync(u => u.Id, u => u.Name, cancel);
        var ids = sent.ConvertAll(s => s.Id);
        var counted = await db
            .Recipients.Where(r => ids.Contains(r.SendId))
            .GroupBy(r => new
            {
                r.SendId,
                r.Batch,
                r.State,
            })
            .Select(g => new RecipientCount(g.Key.SendId, g.Key.Batch, g.Key.State, g.Count()))
            .ToListAsync(cancel);
        var byId = destinations.ToDictionary(d => d.Id);
        return new(
            sending.Now,
            sending.Speed,
            [.. destinations.Where(d => d.RetiredAt is null).Select(d => DestinationEndpoints.Entry(d, kinds, shown: false))],
            [.. pushed.Select(p => Entry(p, byId[p.DestinationId], Named(p.AskedBy)))],
            [.. sent.Select(s => Entry(s, byId[s.DestinationId].Name, Named(s.AskedBy), counted))],
            Allowance.From(SendingPermissions.MayPush(person, record.To, stored.Withdrawal is not null))
        );

        PersonEntry Named(Guid id) => new(id, names.GetValueOrDefault(id, ""));
    }

    /// <summary>A send as it would be; nothing is stored.</summary>
    public async Task<DrawnSend> DrawAsync(Guid handOff, SendRequest request, Person everywhere, CancellationToken cancel)
    {
        _ = await pushes.MustPushAsync(handOff, everywhere, cancel);
        return (await PlanAsync(handOff, request, cancel)).Planning.Drawn;
    }

    /// <param name="at">Scheme and host of this server, as readers reach it.</param>
    public async Task<SendingAnswer> SendAsync(Guid handOff, SendRequest request, Person everywhere, string at, CancellationToken cancel)
    {
        var (stored, record) = await pushes.MustPushAsync(handOff, everywhere, cancel);
        if (await db.Sends.Where(s => s.Id == request.Id).Select(s => (Guid?)s.HandOffId).FirstOrDefaultAsync(cancel) is { } known)
        {
            return known == handOff
                ? await AnswerAsync(handOff, everywhere, cancel)
                : throw ProblemException.Invalid("That id belongs to another send.");
        }

        // It is read before the lock: a platform may be slow.
        var (to, first) = await PlanAsync(handOff, request, cancel);
        await MustBeThereAsync(handOff, to, everywhere, at, cancel);
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        // Of two who send the same at once, the second leaves out whom the first sends to.
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtextextended({handOff.ToString()}, 2))", cancel);
        if (await db.Withdrawals.AnyAsync(w => w.HandOffId == handOff, cancel))
        {
            throw new ProblemException(409, "state", "It is not the time for this", "It is withdrawn.");
        }

        var planning = await db.Sends.AnyAsync(s => s.HandOffId == handOff, cancel)
            ? (await PlanAsync(handOff, request, cancel)).Planning
            : first;
        if (planning.Recipients.IsEmpty)
        {
            throw ProblemException.Invalid("Nobody is left to be sent to.", request.File is null ? "list" : "file");
        }

        var send = new StoredSend
        {
            Id = request.Id,
            HandOffId = handOff,
            DestinationId = to.Id,
            AskedBy = everywhere.Id,
            AskedAt = clock.GetUtcNow().UtcDateTime,
            ListName = planning.ListName,
            Rule = DocumentJson.Write(request.Rule),
            Zone = request.Zone,
            Base = at,
            State = SendingState.Running,
            DueAt = planning.Drawn.Batches[0].At,
        };
        send.Batches.AddRange(planning.Drawn.Batches.Select(b => StoredFrom(b, send.Id)));
        db.Sends.Add(send);
        var told = new SendTold(handOff, record.Number, to.Name, planning.ListName, planning.Recipients.Length);
        db.Record(clock, LogKind.SendPlanned, everywhere.Id, record.Name, null, told);
        await db.SaveChangesAsync(cancel);
        await StoreAsync(send.Id, planning.Recipients, cancel);
        await LiveNews.TellAsync(db, stored.DocumentId, LiveHub.Reviewed, "", "", cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await AnswerAsync(handOff, everywhere, cancel);
    }

    public async Task<SendingAnswer> ActAsync(Guid handOff, Guid id, SendAct act, Person everywhere, CancellationToken cancel)
    {
        var (stored, record) = await pushes.MustPushAsync(handOff, everywhere, cancel);
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        var send = await db
            .Sends.FromSql($"select * from sends where id = {id} and hand_off_id = {handOff} for update")
            .Include(s => s.Batches)
            .AsSplitQuery()
            .FirstOrDefaultAsync(cancel)
            ?? throw ProblemException.NotFound("There is no such send.");
        var underWay = send.Batches.Any(b => b.BegunAt is not null && b.EndedAt is null);
        LogKind kind;
        switch (act, send.State)
        {
            case (SendAct.Pause, SendingState.Running):
                (send.State, send.DueAt, send.Answer, kind) = (SendingState.Paused, null, "", LogKind.SendPaused);
                break;
            case (SendAct.Resume, SendingState.Paused):
                await RedrawAsync(send, cancel);
                (send.State, send.DueAt, send.Answer, kind) = (SendingState.Running, sending.Now, "", LogKind.SendResumed);
                break;
            case (SendAct.StopAfterBatch, SendingState.Running or SendingState.Paused):
                var ends = underWay && send.State == SendingState.Running;
                (send.State, send.DueAt) = ends ? (SendingState.Stopping, sending.Now) : (SendingState.Stopped, (DateTime?)null);
                kind = LogKind.SendStopped;
                break;
            default:
                throw new ProblemException(409, "state", "It is not the time for this", Standing(send.State));
        }

        db.Record(clock, kind, everywhere.Id, record.Name, null, new SendTold(handOff, record.Number, "", send.ListName, 0));
        await db.SaveChangesAsync(cancel);
        await LiveNews.TellAsync(db, stored.DocumentId, LiveHub.Reviewed, "", "", cancel);
        await turn.CommitAsync(CancellationToken.None);
        return await AnswerAsync(handOff, everywhere, cancel);
    }

    /// <summary>Whoever did not get it, with what was said.</summary>
    public async Task<ImmutableArray<NotReached>> NotReachedAsync(Guid handOff, Guid id, Person everywhere, CancellationToken cancel)
    {
        _ = await pushes.MustPushAsync(handOff, everywhere, cancel);
        return
        [
            .. await db
                .Recipients.AsNoTracking()
                .Where(r => r.SendId == id && db.Sends.Any(s => s.Id == id && s.HandOffId == handOff))
                .Where(r => r.State == SendState.Refused || r.State == SendState.Unknown || r.State == SendState.Unsubscribed)
                .OrderBy(r => r.Position)
                .Take(MostTold)
                .Select(r => new NotReached(r.Address, r.State, r.Answer))
                .ToListAsync(cancel),
        ];
    }

    /// <summary>The batches that are not begun, drawn anew for everyone who is not sent to yet.</summary>
    /// <param name="earliest">When the first of them may begin at the soonest. Null: now.</param>
    internal static async Task RedrawAsync(StoredSend send, GoldenRuleDb db, DateTime earliest, CancellationToken cancel)
    {
        var waiting = await db.Recipients.CountAsync(r => r.SendId == send.Id && r.Batch == 0 && r.State == SendState.Waiting, cancel);
        var begun = send.Batches.Where(b => b.BegunAt is not null).OrderBy(b => b.Number).ToList();
        var gone = send.Batches.Where(b => b.BegunAt is null).ToList();
        db.Batches.RemoveRange(gone);
        await db.SaveChangesAsync(cancel);
        send.Batches.RemoveAll(gone.Contains);
        var former = begun.Count == 0 ? null : new FormerBatches(begun[^1].Number, begun[0].At);
        var rule = DocumentJson.Read<BatchRule>(send.Rule);
        db.Batches.AddRange(BatchPlan.Draw(rule, waiting, earliest, send.Zone, former).Select(b => StoredFrom(b, send.Id)));
        await db.SaveChangesAsync(cancel);
    }

    private async Task RedrawAsync(StoredSend send, CancellationToken cancel)
    {
        var last = send.Batches.Where(b => b.BegunAt is not null).MaxBy(b => b.Number);
        var rule = DocumentJson.Read<BatchRule>(send.Rule);
        var soonest = last?.BegunAt?.AddMinutes(rule.Minutes) ?? sending.Now;
        await RedrawAsync(send, db, soonest < sending.Now ? sending.Now : soonest, cancel);
    }

    private async Task<(StoredDestination To, SendPlanning Planning)> PlanAsync(Guid handOff, SendRequest request, CancellationToken cancel)
    {
        var to = await DestinationKinds.FindAsync(request.Destination, db, cancel);
        var snapshot = await library.GetAsync(db, cancel);
        try
        {
            return (to, await SendPlanning.DrawAsync(handOff, request, to, kinds, snapshot, sending.Now, db, cancel));
        }
        catch (DestinationException fault)
        {
            throw ProblemException.Invalid($"{to.Name}: {fault.Message}", "destination");
        }
    }

    // What is sent from a template has to be there.
    private async Task MustBeThereAsync(Guid handOff, StoredDestination to, Person everywhere, string at, CancellationToken cancel)
    {
        if (
            kinds.Get(to.Kind).TakesPushes
            && !await db.Pushes.AnyAsync(p => p.HandOffId == handOff && p.DestinationId == to.Id && p.TakenAt != null, cancel)
        )
        {
            await pushes.PushAsync(handOff, to.Id, everywhere, at, cancel);
        }
    }

    private async Task StoreAsync(Guid send, ImmutableArray<PlannedRecipient> recipients, CancellationToken cancel)
    {
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await using var rows = await connection.BeginBinaryImportAsync(
            "copy send_recipients (send_id, position, address, other_id, values, batch, state, tries, answer) from stdin (format binary)",
            cancel
        );
        for (var i = 0; i < recipients.Length; i++)
        {
            await rows.StartRowAsync(cancel);
            await rows.WriteAsync(send, NpgsqlDbType.Uuid, cancel);
            await rows.WriteAsync(i, NpgsqlDbType.Integer, cancel);
            await rows.WriteAsync(recipients[i].Address, NpgsqlDbType.Text, cancel);
            await rows.WriteAsync(recipients[i].OtherId, NpgsqlDbType.Text, cancel);
            await rows.WriteAsync(DocumentJson.Write(recipients[i].Values), NpgsqlDbType.Jsonb, cancel);
            await rows.WriteAsync(0, NpgsqlDbType.Integer, cancel);
            await rows.WriteAsync(nameof(SendState.Waiting), NpgsqlDbType.Text, cancel);
            await rows.WriteAsync(0, NpgsqlDbType.Integer, cancel);
            await rows.WriteAsync("", NpgsqlDbType.Text, cancel);
        }

        await rows.CompleteAsync(cancel);
    }

    private static StoredBatch StoredFrom(PlannedBatch batch, Guid send) =>
        new()
        {
            SendId = send,
            Number = batch.Number,
            At = batch.At,
            Size = batch.Size,
        };

    private PushEntry Entry(StoredPush push, StoredDestination to, PersonEntry by) =>
        new(
            to.Id,
            to.Name,
            kinds.Get(to.Kind).Title,
            to.Kind,
            to.Profile,
            push.State,
            push.Answer,
            push.OtherId,
            by,
            push.AskedAt,
            push.TakenAt,
            push.NextTry
        );

    private static SendEntry Entry(StoredSend send, string destination, PersonEntry by, List<RecipientCount> counted)
    {
        var own = counted.Where(c => c.Send == send.Id).ToList();
        return new(
            send.Id,
            destination,
            send.ListName,
            DocumentJson.Read<BatchRule>(send.Rule),
            send.Zone,
            send.State,
            send.Answer,
            by,
            send.AskedAt,
            own.Where(c => c.State == SendState.Waiting).Sum(c => c.Count),
            [
                .. send.Batches.Select(b =>
                    b.EndedAt is not null || own.Count == 0
                        ? new BatchEntry(b.Number, b.At, b.Size, b.BegunAt, b.EndedAt, b.Sent, b.Refused, b.LeftOut, b.Unknown)
                        : new BatchEntry(
                            b.Number,
                            b.At,
                            b.Size,
                            b.BegunAt,
                            b.EndedAt,
                            Count(b, SendState.Sent),
                            Count(b, SendState.Refused),
                            Count(b, SendState.Unsubscribed),
                            Count(b, SendState.Unknown)
                        )
                ),
            ]
        );

        int Count(StoredBatch batch, SendState state) => own.Where(c => c.Batch == batch.Number && c.State == state).Sum(c => c.Count);
    }

    private static string Standing(SendingState state) =>
        state switch
        {
            SendingState.Running => "It is being sent.",
            SendingState.Paused => "It is paused.",
            SendingState.Stopping => "It stops after the batch that is under way.",
            SendingState.Stopped => "It was stopped. Send it anew: whoever got it is left out.",
            _ => "It is done.",
        };

    private sealed record RecipientCount(Guid Send, int Batch, SendState State, int Count);

    private sealed record SendTold(Guid HandOff, int Number, string Destination, string List, int Recipients);
}
