using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.HandOffs;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.HandOffs;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Destinations;

/// <summary>Asks for a hand-off to be pushed to a destination, again or not any more; see <see cref="Pushing"/>.</summary>
public sealed class PushDesk(GoldenRuleDb db, HandOffAnswers answers, LibraryCache library, DestinationKinds kinds, TimeProvider clock)
{
    /// <summary>The hand-off, if this person may send it on.</summary>
    /// <exception cref="ProblemException">They may not, or there is none.</exception>
    public async Task<(StoredHandOff Stored, HandOffRecord Record)> MustPushAsync(Guid handOff, Person everywhere, CancellationToken cancel)
    {
        var stored = await answers.FindAsync(handOff, everywhere, cancel);
        var record = HandOffRecord.Read(stored.Record);
        var teams = (await library.GetAsync(db, cancel)).Plan.Teams;
        var person = teams.ForEmail(everywhere, record.CampaignType);
        ProblemException.ThrowIfRefused(SendingPermissions.MayPush(person, record.To, stored.Withdrawal is not null));
        return (stored, record);
    }

    /// <summary>Asked twice it is there once; what was taken already is brought up to date.</summary>
    /// <param name="at">Scheme and host of this server, as readers reach it.</param>
    public async Task PushAsync(Guid handOff, Guid destination, Person everywhere, string at, CancellationToken cancel)
    {
        var (stored, record) = await MustPushAsync(handOff, everywhere, cancel);
        var to = await DestinationKinds.FindAsync(destination, db, cancel);
        if (!kinds.Get(to.Kind).TakesPushes)
        {
            throw ProblemException.Invalid($"{to.Name} takes no templates: send through it in batches.", "destination");
        }

        var now = clock.GetUtcNow().UtcDateTime;
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        // Two who ask at once ask for the same.
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into pushes
              (id, hand_off_id, destination_id, asked_by, asked_at, base, state, tries, next_try, answer, other_id, events_up_to)
            values ({Guid.CreateVersion7()}, {handOff}, {destination}, {everywhere.Id}, {now}, {at}, 'Waiting', 0, {now}, '', '', '')
            on conflict (hand_off_id, destination_id) do update
            set asked_by = excluded.asked_by, asked_at = excluded.asked_at, state = 'Waiting', tries = 0, next_try = excluded.next_try
            """,
            cancel
        );
        db.Record(clock, LogKind.Pushed, everywhere.Id, record.Name, null, new PushTold(handOff, record.Number, to.Name));
        await db.SaveChangesAsync(cancel);
        await LiveNews.TellAsync(db, stored.DocumentId, LiveHub.Reviewed, "", "", cancel);
        await turn.CommitAsync(CancellationToken.None);
    }

    /// <summary>It is not tried any more. What was taken stays there.</summary>
    public async Task StopAsync(Guid handOff, Guid destination, Person everywhere, CancellationToken cancel)
    {
        var (stored, _) = await MustPushAsync(handOff, everywhere, cancel);
        await using var turn = await db.Database.BeginTransactionAsync(cancel);
        await db
            .Pushes.Where(p => p.HandOffId == handOff && p.DestinationId == destination && p.NextTry != null)
            .ExecuteUpdateAsync(p => p.SetProperty(x => x.State, PushState.Stopped).SetProperty(x => x.NextTry, (DateTime?)null), cancel);
        await LiveNews.TellAsync(db, stored.DocumentId, LiveHub.Reviewed, "", "", cancel);
        await turn.CommitAsync(CancellationToken.None);
    }

    private sealed record PushTold(Guid HandOff, int Number, string Destination);
}
