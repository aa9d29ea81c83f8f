using System.Collections.Immutable;
using System.Security.Claims;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Logs;
using GoldenRule.Server.People;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>An address that was linked to lately.</summary>
/// <param name="Emails">In how many of the newest emails.</param>
public sealed record RecentLink(string Href, int Emails);

/// <summary>Whether something can stand as an address.</summary>
/// <param name="Fault">What is wrong with it. Null: nothing.</param>
/// <param name="Better">What was probably meant. Null: it is right, or nobody knows.</param>
public sealed record LinkAnswer(string? Fault, string? Better);

public static class LinkEndpoints
{
    private const int Newest = 40;

    public static void MapLinks(this IEndpointRouteBuilder api)
    {
        var links = api.MapGroup("/links").WithTags("Emails");
        links.MapGet("/recent", RecentAsync).WithName("listRecentLinks");
        links.MapGet("/check", (string href) => Check(href.Trim())).WithName("checkLink");
        api.MapPut("/campaign-types/{key}/link-tags", TagAsync).WithTags("Emails").WithName("setLinkTags");
    }

    // Read from the newest emails as they stand: a list of its own would have to be kept.
    private static async Task<ImmutableArray<RecentLink>> RecentAsync(
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        CancellationToken cancel
    )
    {
        string[] hidden = [.. (await library.GetAsync(db, cancel)).Plan.Teams.HiddenFrom(user.Person())];
        return
        [
            .. await db
                .Database.SqlQuery<RecentLink>(
                    $$"""
                    select href, count(distinct id)::int as emails
                    from (
                        select id, head, changed_at from documents
                        where kind = 'Email' and not retired and not coalesce(campaign_type = any ({{hidden}}), false)
                        order by changed_at desc limit {{Newest}}
                    ) newest,
                         lateral (select jsonb_path_query(head, 'strict $.**.href') #>> '{}' as href) found
                    where href like 'http%'
                    group by href order by emails desc, max(changed_at) desc, href limit 12
                    """
                )
                .ToListAsync(cancel),
        ];
    }

    private static LinkAnswer Check(string href) =>
        href switch
        {
            _ when BrandVariable.Reference(href) is not null || Links.IsPlaceholder(href) => new LinkAnswer(null, null),
            _ when href.Contains('@', StringComparison.Ordinal)
                    && !href.Contains(':', StringComparison.Ordinal)
                    && System.Net.Mail.MailAddress.TryCreate(href, out _) => new LinkAnswer(
                "An address for mail begins with mailto:.",
                "mailto:" + href
            ),
            _ when !href.Contains(':', StringComparison.Ordinal)
                    && href.Contains('.', StringComparison.Ordinal)
                    && Links.IsSafe("https://" + href) => new LinkAnswer("An address begins with https://.", "https://" + href),
            _ when !Links.IsSafe(href) => new LinkAnswer(
                "That is no address that may stand in an email; write it like https://larkfell.example.org/walks, or "
                    + "with mailto: or tel: before it.",
                null
            ),
            _ when href.StartsWith("http://", StringComparison.OrdinalIgnoreCase) => new LinkAnswer(
                "Plain http can be read and changed on its way.",
                "https://" + href["http://".Length..]
            ),
            _ => new LinkAnswer(null, null),
        };

    private static async Task<StoredSetting> TagAsync(
        string key,
        LinkTags tags,
        [FromHeader(Name = "If-Match")] string? seen,
        ClaimsPrincipal user,
        GoldenRuleDb db,
        LibraryCache library,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var teams = (await library.GetAsync(db, cancel)).Plan.Teams;
        teams.For(user.Person(), key).MustBe("Leads say how links are tagged.", Role.Lead);
        await using var turn = await db.TakeTurnAsync("plan", cancel);
        var type = await db.CampaignTypes.FirstOrDefaultAsync(t => t.Key == key, cancel)
            ?? throw ProblemException.NotFound("There is no such campaign type.");
        var faults = tags.Faults().ToList();
        if (faults.Count > 0)
        {
            throw ProblemException.Invalid(string.Join(' ', faults), "linkTags");
        }

        var said = string.Join(", ", type.LinkTags.Tags.Select(t => $"{t.Name}={t.Value}"));
        SetVersion.Require(
            seen,
            SetVersion.Of(type.LinkTags),
            said.Length == 0 ? "Links go out as they are written now." : $"Links go out with {said} now."
        );
        db.Record(clock, LogKind.LinkTrackingSet, user.Person().Id, type.Name, type.LinkTags, tags);
        type.LinkTags = tags;
        await db.SaveChangesAsync(cancel);
        await turn.CommitAsync(CancellationToken.None);
        return new StoredSetting(SetVersion.Of(tags));
    }
}
