using GoldenRule.Core.Documents;
using GoldenRule.Core.Reviews;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.People;
using GoldenRule.Server.Reviews;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>Reviews that are open: what waits for somebody in them, and what they asked of others.</summary>
public sealed class OpenReviews(GoldenRuleDb db, HeadCache heads, CompilationCache compilations)
{
    public async Task<(IReadOnlyList<WaitEntry> Waits, IReadOnlyList<AskedEntry> Asked)> LookAsync(
        Person everywhere,
        LibrarySnapshot snapshot,
        CancellationToken cancel
    )
    {
        var waits = new List<WaitEntry>();
        var asked = new List<AskedEntry>();
        var open = await db
            .ReviewRounds.AsNoTracking()
            .Include(r => r.Decisions)
            .Where(r =>
                r.State == RoundState.Open
                || (
                    r.State == RoundState.ChangesAsked
                    && r.AskedBy == everywhere.Id
                    && !db.ReviewRounds.Any(later => later.DocumentId == r.DocumentId && later.Number > r.Number)
                )
            )
            .OrderByDescending(r => r.AskedAt)
            .Take(WaitSource.Most)
            .ToListAsync(cancel);
        var ids = open.ConvertAll(r => r.DocumentId);
        var emails = await WaitSource.EmailsAsync(db, ids, everywhere, snapshot, cancel);
        var writers = (
            await db
                .Edits.Where(e => ids.Contains(e.DocumentId) && e.AuthorId == everywhere.Id)
                .Select(e => e.DocumentId)
                .Distinct()
                .ToListAsync(cancel)
        ).ToHashSet();
        var people = open.Exists(r => r.AskedBy == everywhere.Id) ? await Everyone.ListAsync(db, cancel) : [];
        var names = people.ToDictionary(p => p.Id, p => p.Name);
        foreach (var stored in open)
        {
            if (!emails.TryGetValue(stored.DocumentId, out var email))
            {
                continue;
            }

            var round = ReviewRounds.Round(stored);
            if (stored.State == RoundState.ChangesAsked)
            {
                if (email.State == EmailState.Draft)
                {
                    waits.Add(await ChangesAsync(email, round, cancel));
                }

                continue;
            }

            var person = snapshot.Plan.Teams.ForEmail(everywhere, email.CampaignType);
            var wrote = writers.Contains(email.Id) || email.CreatedBy == person.Id || stored.AskedBy == person.Id;
            // Only what is theirs to decide is compiled.
            if (
                !wrote
                && round.Needs.Any(n => n.IsMetBy(person))
                && ReviewPermissions.NeedOf(person, round, HashOf(email, snapshot)) is { } need
            )
            {
                var by = await Everyone.NameAsync(db, stored.AskedBy, cancel);
                var text = stored switch
                {
                    { ByItself: true } => "What was approved changed by itself. Your approval is asked for again.",
                    { Note.Length: > 0 } => $"{by}: “{stored.Note}”",
                    _ => $"{by} asks for your approval, as {need.Name}.",
                };
                waits.Add(WaitEntry.For(stored.ByItself ? WaitKind.ApproveAgain : WaitKind.Approve, email, text, stored.AskedAt));
            }

            if (stored.AskedBy == everywhere.Id)
            {
                var standing = round.Standing(HashOf(email, snapshot));
                asked.Add(
                    new AskedEntry(
                        email.Id,
                        email.Name,
                        email.CampaignType ?? "",
                        string.Join(", ", standing.Where(s => !s.Holds).Select(s => s.Need.Name)),
                        string.Join(
                            ", ",
                            standing.Where(s => s.Holds).Select(s => names.GetValueOrDefault(s.Decision!.Person, s.Need.Name))
                        ),
                        stored.AskedAt
                    )
                );
            }
        }

        return (waits, asked);
    }

    private async Task<WaitEntry> ChangesAsync(StoredDocument email, ReviewRound round, CancellationToken cancel)
    {
        var last = round.Decisions[^1];
        return WaitEntry.For(
            WaitKind.Change,
            email,
            $"{await Everyone.NameAsync(db, last.Person, cancel)} asked for changes: “{last.Reason}”",
            last.At
        );
    }

    private string HashOf(StoredDocument stored, LibrarySnapshot snapshot) =>
        ReviewSight.Look(compilations.Compile(heads.Open(stored, snapshot)), snapshot).Hash;
}
