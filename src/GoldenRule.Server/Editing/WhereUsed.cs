using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>A document that refers to something.</summary>
public sealed record DocumentUse(DocumentKind Kind, Guid Id, string Name, EmailState? State);

/// <summary>Where something is used.</summary>
/// <param name="Emails">How many emails use it, on all pages.</param>
/// <param name="Uses">House styles, rows and templates, which are all on the first page, then emails, the one changed last first.</param>
/// <param name="Next">What to ask for the page after this one; null: this is the last.</param>
/// <param name="Unread">Documents of an older release that are not read yet: unless 0, there may be more.</param>
public sealed record UsesAnswer(int Emails, ImmutableArray<DocumentUse> Uses, string? Next, int Unread);

/// <summary>Asks the table of references: documents as they stand, and the newest releases of rows and templates.</summary>
public static class WhereUsed
{
    private const int PageSize = 60;

    /// <param name="keys">What it is called; of a variable or picture also what it was before.</param>
    /// <param name="after">Where the page before ended; null: the first page.</param>
    public static async Task<UsesAnswer> FindAsync(
        ReferenceKind kind,
        IReadOnlyCollection<string> keys,
        Person person,
        TeamPlan teams,
        GoldenRuleDb db,
        string? after,
        CancellationToken cancel
    )
    {
        var referring = db.References.Where(r => r.Kind == kind && keys.Contains(r.Key) && r.Release == StoredReference.OfHead);
        var masters = Masters(kind, keys, db);
        var heads = await referring.Select(r => r.DocumentId).Distinct().CountAsync(cancel);
        var byHead = await masters.CountAsync(d => referring.Any(r => r.DocumentId == d.Id), cancel);
        var emails = db.Documents.Where(d => d.Kind == DocumentKind.Email && referring.Any(r => r.DocumentId == d.Id));
        // Counting what refers to it looks at no documents; what is hidden from someone is told by these alone.
        var seen = emails.EmailsSeenBy(person, teams);
        var count = ReferenceEquals(seen, emails) ? heads - byHead : await seen.CountAsync(cancel);
        return await AnswerAsync(masters, seen, count, person, teams, db, after, cancel);
    }

    /// <summary>One page of what refers to something.</summary>
    /// <param name="count">How many emails there are.</param>
    public static async Task<UsesAnswer> AnswerAsync(
        IQueryable<StoredDocument> masters,
        IQueryable<StoredDocument> emails,
        int count,
        Person person,
        TeamPlan teams,
        GoldenRuleDb db,
        string? after,
        CancellationToken cancel
    )
    {
        var first = after is not null
            ? []
            : await masters
                .OrderBy(d => d.Kind)
                .ThenBy(d => d.Name)
                .ThenBy(d => d.Id)
                .Select(d => new
                {
                    d.Kind,
                    d.Id,
                    d.Name,
                    d.Private,
                    d.Owner,
                    d.CampaignType,
                    d.Serves,
                })
                .ToListAsync(cancel);
        var page = await emails
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
        return new UsesAnswer(
            count,
            [
                .. first
                    .Where(m =>
                        !LibraryStatus.IsHidden(m.Private, m.Owner, teams.For(person, LibraryStatus.Types(m.CampaignType, m.Serves)))
                    )
                    .Select(m => new DocumentUse(m.Kind, m.Id, m.Name, null)),
                .. page.Take(PageSize).Select(e => new DocumentUse(DocumentKind.Email, e.Id, e.Name, e.State)),
            ],
            PageKey.Next(page, PageSize, d => new PageKey<Guid>(d.ChangedAt, d.Id)),
            await db.CountUnreadAsync(cancel)
        );
    }

    /// <summary>
    /// How many documents that are there for a person each thing of a kind stands in, by its key; what stands nowhere is not there.
    /// </summary>
    public static Task<Dictionary<string, int>> CountAsync(
        ReferenceKind kind,
        Person person,
        TeamPlan teams,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var referring = db.References.Where(r => r.Kind == kind && r.Release == StoredReference.OfHead);
        if (teams.HiddenFrom(person) is { IsEmpty: false })
        {
            var seen = db.Documents.EmailsSeenBy(person, teams);
            referring = referring.Where(r => seen.Any(d => d.Id == r.DocumentId));
        }

        return referring
            .GroupBy(r => r.Key)
            .Select(g => new { g.Key, Count = g.Select(r => r.DocumentId).Distinct().Count() })
            .ToDictionaryAsync(g => g.Key, g => g.Count, StringComparer.Ordinal, cancel);
    }

    /// <summary>House styles, rows, templates and snippets that refer to it, as drawn up or as released last.</summary>
    public static IQueryable<StoredDocument> Masters(ReferenceKind kind, IReadOnlyCollection<string> keys, GoldenRuleDb db) =>
        db
            .Documents.AsNoTracking()
            .Where(d =>
                // Named one by one: an index finds what something is, not what it is not.
                (
                    d.Kind == DocumentKind.HouseStyle
                    || d.Kind == DocumentKind.Row
                    || d.Kind == DocumentKind.Template
                    || d.Kind == DocumentKind.Snippet
                )
                && d.References.Any(r =>
                    r.Kind == kind
                    && keys.Contains(r.Key)
                    && (
                        r.Release == StoredReference.OfHead
                        || r.Release == db.Releases.Where(x => x.DocumentId == d.Id).Max(x => (int?)x.Number)
                    )
                )
            );
}
