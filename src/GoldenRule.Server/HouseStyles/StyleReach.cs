using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.HouseStyles;

/// <summary>
/// The emails that a house style reaches: those on a template's release that is dressed in it, or in a sub-brand that lies on
/// it. Answered by the table of references, never by the emails themselves.
/// </summary>
public static class StyleReach
{
    private const int PageSize = 60;

    public static async Task<ReachAnswer> FindAsync(
        Guid style,
        LibrarySnapshot library,
        GoldenRuleDb db,
        string? after,
        CancellationToken cancel
    )
    {
        var (templates, releases) = Templates(style, library);
        var counted = await db
            .Database.SqlQuery<Counted>(
                $"""
                select coalesce(d.campaign_type, '') as campaign_type, d.state = 'HandedOff' as frozen, count(*)::int as emails
                from unnest({templates}, {releases}) as t(key, release)
                join document_references r
                    on r.kind = 'Template' and r.key = t.key and r.target_release = t.release and r.release = 0
                join documents d on d.id = r.document_id and d.kind = 'Email'
                group by 1, 2
                """
            )
            .ToListAsync(cancel);
        var emails = Emails(style, library, db);
        if (PageKey<Guid>.Read(after) is { } key)
        {
            emails = emails.Where(d => d.ChangedAt < key.At || (d.ChangedAt == key.At && d.Id < key.Id));
        }

        var page = await emails
            .OrderByDescending(d => d.ChangedAt)
            .ThenByDescending(d => d.Id)
            .Take(PageSize + 1)
            .Select(d => new
            {
                d.Id,
                d.Name,
                d.State,
                d.ChangedAt,
            })
            .ToListAsync(cancel);
        return new ReachAnswer(
            counted.Where(c => !c.Frozen).Sum(c => c.Emails),
            counted.Where(c => c.Frozen).Sum(c => c.Emails),
            [
                .. counted
                    .GroupBy(c => c.CampaignType, StringComparer.Ordinal)
                    .OrderBy(g => library.CampaignTypes.FirstOrDefault(t => t.Key == g.Key)?.Position ?? int.MaxValue)
                    .Select(g => new ReachGroup(
                        g.Key,
                        g.Where(c => !c.Frozen).Sum(c => c.Emails),
                        g.Where(c => c.Frozen).Sum(c => c.Emails)
                    )),
            ],
            [.. page.Take(PageSize).Select(d => new ReachEntry(d.Id, d.Name, d.State != EmailState.HandedOff))],
            page.Count > PageSize ? new PageKey<Guid>(page[PageSize - 1].ChangedAt, page[PageSize - 1].Id).ToString() : null,
            await db.CountUnreadAsync(cancel)
        );
    }

    /// <summary>The ids of all of them, some at a time: each lot is read from where the one before ended.</summary>
    public static async IAsyncEnumerable<List<Guid>> ChunksAsync(
        Guid style,
        LibrarySnapshot library,
        GoldenRuleDb db,
        int atOnce,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var (templates, releases) = Templates(style, library);
        foreach (var (template, release) in templates.Zip(releases))
        {
            for (var last = Guid.Empty; ; )
            {
                var ids = await db
                    .References.Where(r =>
                        r.Kind == ReferenceKind.Template
                        && r.Key == template
                        && r.TargetRelease == release
                        && r.Release == StoredReference.OfHead
                        && r.DocumentId > last
                    )
                    .OrderBy(r => r.DocumentId)
                    .Take(atOnce)
                    .Select(r => r.DocumentId)
                    .ToListAsync(cancel);
                if (ids.Count == 0)
                {
                    break;
                }

                yield return ids;
                last = ids[^1];
            }
        }
    }

    private static IQueryable<StoredDocument> Emails(Guid style, LibrarySnapshot library, GoldenRuleDb db)
    {
        var (templates, releases) = Templates(style, library);
        var reached = db.Database.SqlQuery<Guid>(
            $"""
            select r.document_id as "Value"
            from unnest({templates}, {releases}) as t(key, release)
            join document_references r on r.kind = 'Template' and r.key = t.key and r.target_release = t.release and r.release = 0
            """
        );
        return db.Documents.AsNoTracking().Where(d => d.Kind == DocumentKind.Email && reached.Contains(d.Id));
    }

    private static (string[] Templates, int[] Releases) Templates(Guid style, LibrarySnapshot library)
    {
        var styles = library.HouseStyles.Keys.Where(s => LibrarySnapshot.Chain(s, library.HouseStyles).Contains(style)).ToHashSet();
        var dressed = library.Masters.TemplateReleases.Where(t => styles.Contains(t.Value.HouseStyle)).Select(t => t.Key).ToList();
        return ([.. dressed.Select(t => t.Id.ToString())], [.. dressed.Select(t => t.Release)]);
    }

    private sealed record Counted(string CampaignType, bool Frozen, int Emails);
}
