using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;
using NpgsqlTypes;

namespace GoldenRule.Server.Search;

/// <summary>An email found by the words inside it.</summary>
public sealed record FoundEmail(Guid Id, string Name, string? CampaignType, ImmutableArray<ExcerptPart> Excerpt);

/// <summary>Emails by the words inside them, those that say most of them first, with some of the words.</summary>
public static class EmailWordsSearch
{
    /// <summary>Of what many emails say the ones changed last are ranked: nobody reads further.</summary>
    private const int MostRanked = 40;

    private const int MostOfFew = 500;

    // Characters for private use (The Unicode Standard, 23.5), which no text has.
    private const char Begin = '\ue000';
    private const char End = '\ue001';

    private static readonly string Marked = $"StartSel={Begin}, StopSel={End}, MaxFragments=1, MaxWords=14, MinWords=6";

    /// <summary>What is typed as full text, in every language that there are emails in. Null: nothing is typed.</summary>
    /// <exception cref="ProblemException">More is looked for than anyone types.</exception>
    public static async Task<NpgsqlTsQuery?> ReadAsync(string? typed, GoldenRuleDb db, CancellationToken cancel) =>
        SearchWords.Lexemes(typed) is { } lexemes
            ? await db.Database.SqlQuery<NpgsqlTsQuery>($"select search_query({lexemes}) as \"Value\"").SingleAsync(cancel)
            : null;

    /// <summary>
    /// Those of some emails that say it. What few say is found by the words, what many say by going through the emails in the order
    /// they are wanted in: which of the two it is, the database only guesses, and so it is asked first.
    /// </summary>
    public static async Task<IQueryable<StoredDocument>> NarrowAsync(
        IQueryable<StoredDocument> emails,
        NpgsqlTsQuery sought,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        // Written into the statement, so that it is worked out once and not for each email.
        var few = await db
            .EmailWords.Where(w => w.Search.Matches(EF.Constant(sought)))
            .Select(w => w.DocumentId)
            .Take(MostOfFew + 1)
            .ToListAsync(cancel);
        return few.Count <= MostOfFew
            ? emails.Where(d => few.Contains(d.Id))
            : emails.Where(d => db.EmailWords.Any(w => w.DocumentId == d.Id && w.Search.Matches(EF.Constant(sought))));
    }

    /// <param name="among">What is there for whoever asks.</param>
    /// <param name="known">What was found already.</param>
    public static async Task<ImmutableArray<FoundEmail>> FindAsync(
        string typed,
        IQueryable<StoredDocument> among,
        Guid[] known,
        int most,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        if (await ReadAsync(typed, db, cancel) is not { } sought)
        {
            return [];
        }

        var all = among.Where(d => d.Kind == DocumentKind.Email && !d.Retired && !known.Contains(d.Id));
        var best = await (await NarrowAsync(all, sought, db, cancel))
            .Newest()
            .Take(MostRanked)
            .Join(
                db.EmailWords,
                d => d.Id,
                w => w.DocumentId,
                (d, w) =>
                    new
                    {
                        d.Id,
                        d.Name,
                        d.CampaignType,
                        d.ChangedAt,
                        Rank = w.Search.Rank(EF.Constant(sought)),
                    }
            )
            .OrderByDescending(d => d.Rank)
            .ThenByDescending(d => d.ChangedAt)
            .ThenByDescending(d => d.Id)
            .Take(most)
            .ToListAsync(cancel);
        if (best.Count == 0)
        {
            return [];
        }

        var ids = best.Select(b => b.Id).ToArray();
        var written = sought.ToString();
        var excerpts = await db
            .Database.SqlQuery<Excerpt>(
                $"""
                select document_id as id, ts_headline(search_config(language), words, {written}::tsquery, {Marked}) as text
                from email_words where document_id = any({ids})
                """
            )
            .ToDictionaryAsync(e => e.Id, e => e.Text, cancel);
        return [.. best.Select(b => new FoundEmail(b.Id, b.Name, b.CampaignType, Parts(excerpts.GetValueOrDefault(b.Id, ""))))];
    }

    private static ImmutableArray<ExcerptPart> Parts(string excerpt) =>
        [
            .. excerpt
                .Split(Begin)
                .SelectMany(
                    (part, i) =>
                        i > 0 && part.Split(End) is [var found, var rest]
                            ? [new ExcerptPart(found, true), new ExcerptPart(rest, false)]
                            : new[] { new ExcerptPart(part, false) }
                )
                .Where(p => p.Text.Length > 0),
        ];

    private sealed record Excerpt(Guid Id, string Text);
}
