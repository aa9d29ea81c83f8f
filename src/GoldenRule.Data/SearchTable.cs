using GoldenRule.Core.Documents;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>Keeps the words inside emails up to what they say, a batch at a time.</summary>
public static class SearchTable
{
    /// <summary>Parts that are taken in side by side: stemming is most of the work, and a connection does it on one processor.</summary>
    public const int Parts = 2;

    /// <summary>An email that is being typed in is left alone until it rests.</summary>
    private static readonly TimeSpan Rest = TimeSpan.FromSeconds(2);

    // Whoever holds the one of a part takes its words in; other servers leave it to them.
    private const long Turn = 0x60_1D_E4_42_00;

    /// <summary>Takes in the words of emails edited since theirs were taken, as many as are asked for at once.</summary>
    /// <param name="part">0 to <see cref="Parts"/>: which emails.</param>
    /// <param name="read">An email's words and language by its JSON; null: it cannot be read, and is found by its name alone.</param>
    /// <returns>How many were taken in; 0 also while another server does it.</returns>
    public static async Task<int> TakeInWordsAsync(
        this GoldenRuleDb db,
        int part,
        int atOnce,
        Func<string, (string Words, string Language)?> read,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (!await db.Database.SqlQuery<bool>($"select pg_try_advisory_xact_lock({Turn + part}) as \"Value\"").SingleAsync(cancel))
        {
            return 0;
        }

        var behind = await db
            .Database.SqlQuery<Behind>(
                $"""
                select d.id, d.name, d.revision, d.head from emails_behind b join documents d on d.id = b.document_id
                where b.since < now() - {Rest} and abs(uuid_hash(b.document_id) % {Parts}) = {part}
                order by b.document_id limit {atOnce}
                """
            )
            .ToListAsync(cancel);
        if (behind.Count == 0)
        {
            return 0;
        }

        var taken = behind.AsParallel().AsOrdered().Select(b => (b.Id, b.Revision, Said: read(b.Head) ?? (b.Name, "und"))).ToList();
        var ids = taken.Select(t => t.Id).ToArray();
        var (words, languages) = (taken.Select(t => t.Said.Item1).ToArray(), taken.Select(t => t.Said.Item2).ToArray());
        var revisions = taken.Select(t => t.Revision).ToArray();
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into email_words (document_id, words, language)
            select * from unnest({ids}, {words}, {languages})
            on conflict (document_id) do update set words = excluded.words, language = excluded.language
            where (email_words.words, email_words.language) is distinct from (excluded.words, excluded.language)
            """,
            cancel
        );
        // Edited meanwhile: it stays behind, and is read again.
        await db.Database.ExecuteSqlAsync(
            $"""
            delete from emails_behind b using unnest({ids}, {revisions}) as x(id, revision)
            where b.document_id = x.id and b.revision = x.revision
            """,
            cancel
        );
        await transaction.CommitAsync(cancel);
        return taken.Count;
    }

    /// <summary>Emails whose words are not taken in yet, of at most that many.</summary>
    public static Task<int> CountBehindAsync(this GoldenRuleDb db, int most, CancellationToken cancel) =>
        db.EmailsBehind.Select(b => b.DocumentId).Take(most).CountAsync(cancel);

    private sealed record Behind(Guid Id, string Name, long Revision, string Head);
}
