using GoldenRule.Core.Documents;
using GoldenRule.Core.Releases;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace GoldenRule.Data;

/// <summary>A release of a row or template that something stands on.</summary>
public sealed record UsedRelease(Guid Id, int Release);

/// <summary>Keeps the table of references beside the documents: always in the transaction that changes what they say.</summary>
public static class ReferenceTable
{
    /// <summary>A release with what it refers to.</summary>
    public static void AddRelease(this GoldenRuleDb db, StoredRelease release, Document document)
    {
        db.Releases.Add(release);
        db.References.AddRange(StoredReference.Find(release.DocumentId, release.Number, document));
    }

    /// <summary>Writes what an edit changed of a head's references; nothing where it changed none, as typing does.</summary>
    public static async Task FollowReferencesAsync(
        this GoldenRuleDb db,
        StoredDocument stored,
        IReadOnlySet<Reference> before,
        IReadOnlySet<Reference> after,
        CancellationToken cancel
    )
    {
        // What was not read yet is read with everything that stands there then.
        if (!stored.ReferencesKnown || before.SetEquals(after))
        {
            return;
        }

        var (gone, come) = (before.Except(after).ToList(), after.Except(before).ToList());
        await db.Database.ExecuteSqlAsync(
            $"""
            delete from document_references d
            using unnest({Kinds(gone)}, {Keys(gone)}, {Releases(gone)}, {Places(gone)}) as x(kind, key, target, place)
            where d.document_id = {stored.Id} and d.release = 0
                and d.kind = x.kind and d.key = x.key and d.target_release = x.target and d.place = x.place
            """,
            cancel
        );
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into document_references (document_id, release, kind, key, target_release, place)
            select {stored.Id}, 0, x.kind, x.key, x.target, x.place
            from unnest({Kinds(come)}, {Keys(come)}, {Releases(come)}, {Places(come)}) as x(kind, key, target, place)
            on conflict do nothing
            """,
            cancel
        );
    }

    /// <summary>Takes in what documents from before there was this table refer to, as many as are asked for at once.</summary>
    /// <param name="read">The document as stored; where it cannot be read, null: it then refers to nothing.</param>
    /// <returns>How many were taken in. 0 also where another server is at the last ones.</returns>
    public static async Task<int> TakeInReferencesAsync(
        this GoldenRuleDb db,
        int atOnce,
        Func<DocumentKind, string, Document?> read,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        // Whoever edits one of them waits; another server takes others.
        var behind = await db
            .Database.SqlQuery<Unread>(
                $"""
                select id, kind, head from documents where not references_known
                order by id limit {atOnce} for update skip locked
                """
            )
            .ToListAsync(cancel);
        if (behind.Count == 0)
        {
            return 0;
        }

        var ids = behind.Select(b => b.Id).ToArray();
        var releases = await db.ReleasesOfAsync(ids, cancel);
        await db.References.Where(r => ids.Contains(r.DocumentId)).ExecuteDeleteAsync(cancel);
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await using (
            var copy = await connection.BeginBinaryImportAsync(
                "copy document_references (document_id, release, kind, key, target_release, place) from stdin (format binary)",
                cancel
            )
        )
        {
            foreach (var one in behind)
            {
                await WriteAsync(one.Id, StoredReference.OfHead, read(Enum.Parse<DocumentKind>(one.Kind), one.Head));
            }

            foreach (var release in releases)
            {
                await WriteAsync(release.DocumentId, release.Number, read(release.Kind, release.Body));
            }

            await copy.CompleteAsync(cancel);

            async Task WriteAsync(Guid document, int release, Document? contents)
            {
                IEnumerable<Reference> found = contents is null ? [] : References.Find(contents);
                foreach (var reference in found)
                {
                    await copy.StartRowAsync(cancel);
                    await copy.WriteAsync(document, cancel);
                    await copy.WriteAsync(release, cancel);
                    await copy.WriteAsync(reference.Kind.ToString(), cancel);
                    await copy.WriteAsync(reference.Key, cancel);
                    await copy.WriteAsync(reference.Release, cancel);
                    await copy.WriteAsync(reference.Place, cancel);
                }
            }
        }

        await db.Documents.Where(d => ids.Contains(d.Id)).ExecuteUpdateAsync(d => d.SetProperty(x => x.ReferencesKnown, true), cancel);
        await transaction.CommitAsync(cancel);
        return behind.Count;
    }

    /// <summary>Releases of rows and templates that a document stands on as it is now.</summary>
    public static Task<List<UsedRelease>> ReleasesInUseAsync(this GoldenRuleDb db, CancellationToken cancel) =>
        db
            .Database.SqlQuery<UsedRelease>(
                $"""
                select r.document_id as id, r.number as release from releases r
                where r.kind <> 'HouseStyle' and exists (
                    select 1 from document_references x
                    where x.kind = r.kind and x.key = r.document_id::text and x.target_release = r.number and x.release = 0
                )
                """
            )
            .ToListAsync(cancel);

    /// <summary>Documents whose references are not known yet.</summary>
    public static Task<int> CountUnreadAsync(this GoldenRuleDb db, CancellationToken cancel) =>
        db.Documents.CountAsync(d => !d.ReferencesKnown, cancel);

    internal sealed record ReleaseBody(Guid DocumentId, int Number, DocumentKind Kind, string Body);

    internal static Task<List<ReleaseBody>> ReleasesOfAsync(this GoldenRuleDb db, Guid[] documents, CancellationToken cancel) =>
        db
            .Releases.Where(r => documents.Contains(r.DocumentId))
            .Select(r => new ReleaseBody(r.DocumentId, r.Number, r.Kind, r.Body))
            .ToListAsync(cancel);

    private sealed record Unread(Guid Id, string Kind, string Head);

    private static string[] Kinds(List<Reference> references) => [.. references.Select(r => r.Kind.ToString())];

    private static string[] Keys(List<Reference> references) => [.. references.Select(r => r.Key)];

    private static int[] Releases(List<Reference> references) => [.. references.Select(r => r.Release)];

    private static string[] Places(List<Reference> references) => [.. references.Select(r => r.Place)];
}
