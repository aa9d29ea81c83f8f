using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>Somebody's own emails that are approved; and for leads, approvals that a second account may have given.</summary>
public sealed class ApprovalWaits(GoldenRuleDb db, TimeProvider clock) : WaitSource
{
    /// <summary>So long something is told that only has to be known.</summary>
    private static readonly TimeSpan Lately = TimeSpan.FromDays(14);

    public override async Task<IReadOnlyList<WaitEntry>> FindAsync(Person everywhere, LibrarySnapshot snapshot, CancellationToken cancel)
    {
        var waits = new List<WaitEntry>();
        var since = clock.GetUtcNow().UtcDateTime - Lately;
        var found = await db
            .ReviewRounds.AsNoTracking()
            .Include(r => r.Decisions)
            .Where(r => r.ClosedAt > since || r.State == RoundState.Open)
            .Where(r =>
                (r.State == RoundState.Approved && r.AskedBy == everywhere.Id && r.Decisions.Count > 0)
                || r.Decisions.Any(d => d.SameBrowserAs.Count > 0 && d.Verdict == ReviewVerdict.Approve)
            )
            .OrderByDescending(r => r.AskedAt)
            .Take(Most)
            .ToListAsync(cancel);
        var ids = found.ConvertAll(r => r.DocumentId);
        var emails = await EmailsAsync(db, ids, everywhere, snapshot, cancel);
        foreach (var round in found)
        {
            if (!emails.TryGetValue(round.DocumentId, out var email))
            {
                continue;
            }

            if (round.AskedBy == everywhere.Id && round.State == RoundState.Approved && email.State == EmailState.Approved)
            {
                waits.Add(
                    WaitEntry.For(WaitKind.Approved, email, "All who were asked have approved it.", round.ClosedAt!.Value) with
                    {
                        Notable = true,
                    }
                );
            }

            var leads = snapshot.Plan.Teams.ForEmail(everywhere, email.CampaignType).Is(Role.Lead);
            foreach (var decision in round.Decisions.Where(d => leads && d.SameBrowserAs.Count > 0 && d.Verdict == ReviewVerdict.Approve))
            {
                var text =
                    $"{await Everyone.NameAsync(db, decision.PersonId, cancel)} approved it in a browser that "
                    + $"{await Everyone.NameAsync(db, decision.SameBrowserAs[0], cancel)}, who wrote in it, uses too.";
                waits.Add(WaitEntry.For(WaitKind.SameBrowser, email, text, decision.At) with { Notable = true });
            }
        }

        return waits;
    }
}
