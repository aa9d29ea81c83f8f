using System.Runtime.CompilerServices;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Releases;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Data;

/// <summary>Where the table of references differs from what is stored.</summary>
/// <param name="Release">Number of the release; <see cref="StoredReference.OfHead"/>: the document as it stands.</param>
/// <param name="Missing">The document says it and the table does not; else the other way round.</param>
public sealed record ReferenceDifference(Guid Document, int Release, Reference Reference, bool Missing);

/// <summary>Holds the table of references against a walk over everything that is stored.</summary>
public static class ReferenceComparison
{
    private const int AtOnce = 500;

    /// <summary>
    /// Every difference of the documents whose references are known. Inside a transaction of its own that sees one moment, so that
    /// edits meanwhile are no differences.
    /// </summary>
    /// <param name="read">The document as stored; where it cannot be read, null: it then refers to nothing.</param>
    /// <param name="told">Hears how many documents were compared so far.</param>
    public static async IAsyncEnumerable<ReferenceDifference> CompareReferencesAsync(
        this GoldenRuleDb db,
        Func<DocumentKind, string, Document?> read,
        Action<int> told,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var moment = await db.Database.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        var (done, last) = (0, Guid.Empty);
        while (true)
        {
            var documents = await db
                .Documents.AsNoTracking()
                .Where(d => d.ReferencesKnown && d.Id > last)
                .OrderBy(d => d.Id)
                .Take(AtOnce)
                .Select(d => new
                {
                    d.Id,
                    d.Kind,
                    d.Head,
                })
                .ToListAsync(cancel);
            if (documents.Count == 0)
            {
                yield break;
            }

            last = documents[^1].Id;
            var ids = documents.Select(d => d.Id).ToArray();
            var releases = await db.ReleasesOfAsync(ids, cancel);
            var stored = (await db.References.AsNoTracking().Where(r => ids.Contains(r.DocumentId)).ToListAsync(cancel))
                .Select(r => (r.DocumentId, r.Release, Reference: new Reference(r.Kind, r.Key, r.TargetRelease, r.Place)))
                .ToHashSet();
            var said = documents
                .SelectMany(d => Find(d.Kind, d.Head).Select(r => (d.Id, StoredReference.OfHead, r)))
                .Concat(releases.SelectMany(r => Find(r.Kind, r.Body).Select(x => (r.DocumentId, r.Number, x))))
                .ToHashSet();
            foreach (var (document, release, reference) in said.Except(stored))
            {
                yield return new ReferenceDifference(document, release, reference, Missing: true);
            }

            foreach (var (document, release, reference) in stored.Except(said))
            {
                yield return new ReferenceDifference(document, release, reference, Missing: false);
            }

            told(done += documents.Count);
        }

        IEnumerable<Reference> Find(DocumentKind kind, string json) => read(kind, json) is { } document ? References.Find(document) : [];
    }
}
