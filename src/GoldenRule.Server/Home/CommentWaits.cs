using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using GoldenRule.Server.People;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>Comments that call somebody by name, and those on their own emails that they have not answered.</summary>
public sealed class CommentWaits(GoldenRuleDb db) : WaitSource
{
    public override async Task<IReadOnlyList<WaitEntry>> FindAsync(Person everywhere, LibrarySnapshot snapshot, CancellationToken cancel)
    {
        var waits = new List<WaitEntry>();
        var me = everywhere.Id;
        var threads = await db
            .Comments.AsNoTracking()
            .Where(c => c.ThreadId == null && c.ResolvedAt == null)
            .Where(c =>
                c.Mentions.Contains(me)
                || db.Comments.Any(a => a.ThreadId == c.Id && a.Mentions.Contains(me))
                || db.Documents.Any(d => d.Id == c.DocumentId && d.CreatedBy == me)
            )
            .OrderByDescending(c => c.At)
            .Take(Most)
            .Select(c => new { Root = c, Answers = db.Comments.Where(a => a.ThreadId == c.Id).OrderBy(a => a.At).ToList() })
            .ToListAsync(cancel);
        var ids = threads.ConvertAll(t => t.Root.DocumentId);
        var emails = await db
            .Documents.AsNoTracking()
            .Where(d => ids.Contains(d.Id) && !d.Retired && d.State != EmailState.HandedOff)
            .EmailsSeenBy(everywhere, snapshot.Plan.Teams)
            .ToDictionaryAsync(d => d.Id, cancel);
        foreach (var thread in threads)
        {
            var all = thread.Answers.Prepend(thread.Root).ToList();
            // Whoever spoke last has answered.
            var since = all.FindLastIndex(c => c.AuthorId == me);
            if (since == all.Count - 1 || !emails.TryGetValue(thread.Root.DocumentId, out var email))
            {
                continue;
            }

            var (last, called) = (all[^1], all.Skip(since + 1).Any(c => c.Mentions.Contains(me)));
            if (!called && email.CreatedBy != me)
            {
                continue;
            }

            var said = last.Text.Length > 120 ? last.Text[..120] + " …" : last.Text;
            waits.Add(
                WaitEntry.For(
                    called ? WaitKind.Mention : WaitKind.Comment,
                    email,
                    $"{await Everyone.NameAsync(db, last.AuthorId, cancel)}, on {thread.Root.PlaceName}: “{said}”",
                    last.At
                ) with
                {
                    Key = WaitEntry.KeyOf(WaitKind.Comment, thread.Root.Id, last.At),
                    Comment = thread.Root.Id,
                }
            );
        }

        return waits;
    }
}
