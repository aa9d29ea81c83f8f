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
        Person person,
        LibrarySnapshot library,
        GoldenRuleDb db,
        string? after,
        CancellationToken cancel
    )
    {
        var teams = library.Plan.Teams;
        var groups = (await CountAsync(style, library, db, cancel)).RemoveAll(g => !teams.Sees(person, g.CampaignType));
        var page = await Emails(style, library, db)
            .EmailsSeenBy(person, teams)
            .Newest(after)
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
            groups.Sum(g => g.Follow),
            groups.Sum(g => g.Frozen),
            groups,
            [.. page.Take(PageSize).Select(d => new ReachEntry(d.Id, d.Name, d.State != EmailState.HandedOff))],
            PageKey.Next(page, PageSize, d => new PageKey<Guid>(d.ChangedAt, d.Id)),
            await db.CountUnreadAsync(cancel)
        );
    }

    /// <summary>How many there are of each campaign type, in the order of those.</summary>
    public static async Task<ImmutableArray<ReachGroup>> CountAsync(
        Guid style,
        LibrarySnapshot library,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var (templates, releases) = Templates(style, library);
        var groups = await db
            .Database.SqlQuery<ReachGroup>(
                $"""
                select coalesce(d.campaign_type, '') as campaign_type,
                    count(*) filter (where d.state <> 'HandedOff')::int as follow,
                    count(*) filter (where d.state = 'HandedOff')::int as frozen
                from unnest({templates}, {releases}) as t(key, release)
                join document_references r
                    on r.kind = 'Template' and r.key = t.key and r.target_release = t.release and r.release = 0
                join documents d on d.id = r.document_id and d.kind = 'Email'
                group by 1
                """
            )
            .ToListAsync(cancel);
        return
        [
            .. groups
                .GroupBy(g => library.Plan.Merged.Current(g.CampaignType), StringComparer.Ordinal)
                .Select(g => new ReachGroup(g.Key, g.Sum(one => one.Follow), g.Sum(one => one.Frozen)))
                .OrderBy(g => library.Plan.Find(g.CampaignType)?.Position ?? int.MaxValue),
        ];
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
        var styles = library.Styles.All.Keys.Where(s => StyleLibrary.Chain(s, library.Styles.All).Contains(style)).ToHashSet();
        var dressed = library.Masters.TemplateReleases.Where(t => styles.Contains(t.Value.HouseStyle)).Select(t => t.Key).ToList();
        return ([.. dressed.Select(t => t.Id.ToString())], [.. dressed.Select(t => t.Release)]);
    }
}
