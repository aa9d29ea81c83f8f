using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Emails;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Home;

/// <summary>Releases that somebody planned and that were not made.</summary>
public sealed class PlannedReleaseWaits(GoldenRuleDb db) : WaitSource
{
    public override async Task<IReadOnlyList<WaitEntry>> FindAsync(Person everywhere, LibrarySnapshot snapshot, CancellationToken cancel)
    {
        var undone = await db
            .PlannedReleases.Where(p => p.PlannedBy == everywhere.Id && p.Problem != "")
            .Join(
                db.Documents,
                p => p.DocumentId,
                d => d.Id,
                (p, d) =>
                    new
                    {
                        Plan = p,
                        d.Name,
                        d.Revision,
                    }
            )
            .ToListAsync(cancel);
        return undone.ConvertAll(u => new WaitEntry(
            WaitKind.ReleaseNotMade,
            WaitEntry.KeyOf(WaitKind.ReleaseNotMade, u.Plan.DocumentId, u.Plan.At),
            u.Plan.Kind,
            u.Plan.DocumentId,
            u.Name,
            "",
            $"The planned release was not made. {u.Plan.Problem}",
            u.Plan.At,
            "",
            null,
            u.Revision
        ));
    }
}
