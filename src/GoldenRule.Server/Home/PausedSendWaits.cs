using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>
/// Sends in batches that a fault has paused: some readers have the email, the others wait. For whoever asked for the send; where they
/// work here no longer, for leads.
/// </summary>
public sealed class PausedSendWaits(GoldenRuleDb db) : WaitSource
{
    public override async Task<IReadOnlyList<WaitEntry>> FindAsync(Person everywhere, LibrarySnapshot snapshot, CancellationToken cancel)
    {
        var waits = new List<WaitEntry>();
        var paused = await db
            .Sends.AsNoTracking()
            .Where(s => s.State == SendingState.Paused && s.Answer != "")
            .Join(db.HandOffs, s => s.HandOffId, h => h.Id, (s, h) => new { Send = s, h.DocumentId })
            .Select(s => new
            {
                s.Send.Id,
                s.Send.AskedBy,
                s.Send.AskedAt,
                s.Send.Answer,
                s.DocumentId,
                Begun = s.Send.Batches.Max(b => b.BegunAt),
                Left = db.Users.Any(u => u.Id == s.Send.AskedBy && u.DeactivatedAt != null) || !db.Users.Any(u => u.Id == s.Send.AskedBy),
            })
            .Where(s => s.AskedBy == everywhere.Id || s.Left)
            .ToListAsync(cancel);
        var ids = paused.ConvertAll(s => s.DocumentId);
        var emails = await EmailsAsync(db, ids, everywhere, snapshot, cancel);
        foreach (var send in paused)
        {
            if (
                emails.GetValueOrDefault(send.DocumentId) is { } email
                && (send.AskedBy == everywhere.Id || snapshot.Plan.Teams.ForEmail(everywhere, email.CampaignType).Is(Role.Lead))
            )
            {
                waits.Add(WaitEntry.For(WaitKind.SendPaused, email, $"Sending it is paused. {send.Answer}", send.Begun ?? send.AskedAt));
            }
        }

        return waits;
    }
}
