using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Governance;
using GoldenRule.Core.Releases;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Snippets;

/// <summary>
/// Where a snippet is shown: in documents that say it themselves, and in emails that stand on a template or row which says it.
/// </summary>
public static class SnippetUses
{
    public static async Task<UsesAnswer> FindAsync(
        string key,
        Person person,
        TeamPlan teams,
        GoldenRuleDb db,
        string? after,
        CancellationToken cancel
    )
    {
        var emails = Emails(key, db).EmailsSeenBy(person, teams);
        return await WhereUsed.AnswerAsync(
            WhereUsed.Masters(ReferenceKind.Snippet, [key], db),
            emails,
            await emails.CountAsync(cancel),
            person,
            teams,
            db,
            after,
            cancel
        );
    }

    /// <summary>Drafts that show it and have a day from then on, the next first.</summary>
    /// <param name="from">"2026-11-30".</param>
    /// <param name="hidden">Campaign types whose emails are not there for whoever asks.</param>
    public static IQueryable<StoredDocument> GoingOut(string key, string from, int most, ImmutableArray<string> hidden, GoldenRuleDb db) =>
        db.Documents.FromSqlRaw(
            Shown
                + """
                 and not d.retired and not coalesce(d.campaign_type = any ({3}), false) and d.state <> 'HandedOff'
                and d.head -> 'details' ->> 'sendDay' >= {1}
                order by d.head -> 'details' ->> 'sendDay', d.id limit {2}
                """,
            key,
            from,
            most,
            hidden.ToArray()
        );

    private static IQueryable<StoredDocument> Emails(string key, GoldenRuleDb db) => db.Documents.FromSqlRaw(Shown, key).AsNoTracking();

    // Emails that say it themselves, and those on a release of a template or row that says it, or on a template's with such a row.
    private const string Shown = """
        with said as (
            select document_id::text as key, release from document_references where kind = 'Snippet' and key = {0} and release > 0
        ), masters as (
            select key, release from said
            union
            select r.document_id::text, r.release from document_references r
            join said on r.kind = 'Row' and r.key = said.key and r.target_release = said.release where r.release > 0
        ), shown as (
            select document_id from document_references where kind = 'Snippet' and key = {0} and release = 0
            union
            select r.document_id from document_references r
            join masters m on r.kind in ('Template', 'Row') and r.key = m.key and r.target_release = m.release where r.release = 0
        )
        select d.* from documents d where d.kind = 'Email' and d.id in (select document_id from shown)
        """;
}
