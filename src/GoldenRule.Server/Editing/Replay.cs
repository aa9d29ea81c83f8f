using System.Runtime.CompilerServices;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Editing;

/// <summary>An edit as it was made.</summary>
/// <param name="Body">Its JSON.</param>
public sealed record MadeEdit(long Sequence, Guid Step, Guid AuthorId, DateTime At, Guid? Undoes, string Body);

/// <summary>An edit as it was made, and the document before it.</summary>
public sealed record ReplayedEdit(MadeEdit Made, Edit Edit, Document Before);

/// <summary>Documents as they once stood: the last snapshot before, and the edits since.</summary>
public static class Replay
{
    /// <summary>Every stored edit on the origin: what snapshots have to agree with.</summary>
    public static async Task<Document> ReplayFromOriginAsync(
        this GoldenRuleDb db,
        StoredDocument stored,
        long until,
        CancellationToken cancel
    ) => await db.ApplyAsync(stored.Id, StoredForm.Read(stored.Kind, stored.Origin), 0, until, cancel);

    /// <summary>The document as it stood after an edit.</summary>
    public static async Task<Document> AtAsync(this GoldenRuleDb db, StoredDocument stored, long revision, CancellationToken cancel)
    {
        var (document, from) = await db.NearestAsync(stored, revision, cancel);
        return await db.ApplyAsync(stored.Id, document, from, revision, cancel);
    }

    /// <summary>
    /// The edits from one to another, both with them, each with the document before it. The connection is taken until the last.
    /// </summary>
    public static async IAsyncEnumerable<ReplayedEdit> ReplayAsync(
        this GoldenRuleDb db,
        StoredDocument stored,
        long first,
        long last,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var document = await db.AtAsync(stored, first - 1, cancel);
        await foreach (var made in db.Made(stored.Id, first, last).WithCancellation(cancel))
        {
            var edit = DocumentJson.ReadEdit<Edit>(made.Body);
            yield return new ReplayedEdit(made, edit, document);
            document = EditApplication.Apply(edit, document);
        }
    }

    /// <summary>Keeps the document as it stands now where the history has grown by enough; stored with what is saved next.</summary>
    /// <param name="former">Its revision before the edits that are saved with it.</param>
    public static void KeepSnapshot(this GoldenRuleDb db, StoredDocument stored, long former)
    {
        if (stored.Revision / StoredSnapshot.Every > former / StoredSnapshot.Every)
        {
            db.Snapshots.Add(
                new StoredSnapshot
                {
                    DocumentId = stored.Id,
                    Sequence = stored.Revision,
                    Body = stored.Head,
                }
            );
        }
    }

    /// <summary>Makes the snapshots that a document lacks since its last. Any number of servers may do so at once.</summary>
    public static async Task MakeSnapshotsAsync(this GoldenRuleDb db, StoredDocument stored, CancellationToken cancel)
    {
        var (document, from) = await db.NearestAsync(stored, stored.Revision, cancel);
        for (var next = from + StoredSnapshot.Every; next <= stored.Revision; next += StoredSnapshot.Every)
        {
            document = await db.ApplyAsync(stored.Id, document, next - StoredSnapshot.Every, next, cancel);
            await db.Database.ExecuteSqlAsync(
                $"""
                insert into document_snapshots (document_id, sequence, body)
                values ({stored.Id}, {next}, {StoredForm.Write(document)}::jsonb) on conflict do nothing
                """,
                cancel
            );
        }
    }

    private static async Task<(Document Document, long Sequence)> NearestAsync(
        this GoldenRuleDb db,
        StoredDocument stored,
        long until,
        CancellationToken cancel
    )
    {
        var snapshot = await db
            .Snapshots.AsNoTracking()
            .Where(s => s.DocumentId == stored.Id && s.Sequence <= until)
            .OrderByDescending(s => s.Sequence)
            .FirstOrDefaultAsync(cancel);
        return (StoredForm.Read(stored.Kind, snapshot?.Body ?? stored.Origin), snapshot?.Sequence ?? 0);
    }

    // The edits after one, up to another and with it.
    private static async Task<Document> ApplyAsync(
        this GoldenRuleDb db,
        Guid id,
        Document document,
        long after,
        long until,
        CancellationToken cancel
    )
    {
        await foreach (var made in db.Made(id, after + 1, until).WithCancellation(cancel))
        {
            document = EditApplication.Apply(DocumentJson.ReadEdit<Edit>(made.Body), document);
        }

        return document;
    }

    private static IAsyncEnumerable<MadeEdit> Made(this GoldenRuleDb db, Guid id, long first, long last) =>
        db
            .Edits.Where(e => e.DocumentId == id && e.Sequence >= first && e.Sequence <= last)
            .OrderBy(e => e.Sequence)
            .Select(e => new MadeEdit(e.Sequence, e.Step, e.AuthorId, e.At, e.Undoes, e.Body))
            .AsAsyncEnumerable();
}
