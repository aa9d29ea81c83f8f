using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Editing;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Emails;

/// <summary>
/// Search by the words inside emails. Words are taken from an email when it is searched for, not when it is typed in:
/// only those edited since the last search are read.
/// </summary>
public sealed class EmailSearch(GoldenRuleDb db)
{
    private const int AtOnce = 200;

    public async Task BringUpAsync(CancellationToken cancel)
    {
        while (
            await db
                .Documents.AsNoTracking()
                .Where(d => d.WordsBehind)
                .OrderBy(d => d.Id)
                .Take(AtOnce)
                .Select(d => new
                {
                    d.Id,
                    d.Revision,
                    d.Head,
                })
                .ToListAsync(cancel)
                is { Count: > 0 } behind
        )
        {
            foreach (var one in behind)
            {
                var words = EmailWords.Collect((Email)StoredForm.Read(DocumentKind.Email, one.Head));
                await db.Database.ExecuteSqlAsync(
                    $"""
                    insert into email_words (document_id, words) values ({one.Id}, {words})
                    on conflict (document_id) do update set words = excluded.words
                    """,
                    cancel
                );
                // Edited meanwhile: it stays behind, and is read again.
                await db
                    .Documents.Where(d => d.Id == one.Id && d.Revision == one.Revision)
                    .ExecuteUpdateAsync(d => d.SetProperty(x => x.WordsBehind, false), cancel);
            }

            if (behind.Count < AtOnce)
            {
                return;
            }
        }
    }
}
