using System.Diagnostics.Metrics;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Editing;

/// <summary>
/// Parsed heads of the documents edited last, by revision. Beyond saving the parsing, it keeps the parts that an edit
/// did not touch the same objects, by which the compiler knows what it need not do again.
/// </summary>
public sealed class HeadCache(IMeterFactory meters) : IDisposable
{
    // Of the JSON it is read from: a tree of small objects with two bytes a character.
    private const int BytesACharacter = 6;

    // Of a history: two lists of ids, half empty.
    private const int BytesOfHistory = 400;

    private const int BytesAStep = 32;

    private static readonly TimeSpan Idle = TimeSpan.FromMinutes(30);

    private readonly BoundedCache<Guid, (long Revision, DocumentHead Head)> cache = new(meters, "heads", 96 << 20, Idle);

    private readonly BoundedCache<Guid, UndoHistories> histories = new(meters, "histories", 32 << 20, Idle);

    /// <summary>What each can undo in one document, as far as it was read: only what came since is asked for.</summary>
    public UndoHistories Histories(Guid document)
    {
        if (!histories.TryGet(document, out var kept))
        {
            kept = new UndoHistories();
            Keep(document, kept);
        }

        return kept;
    }

    /// <summary>Weighs histories anew, once more was read of them.</summary>
    public void Keep(Guid document, UndoHistories kept) =>
        histories.Set(document, kept, (kept.People * BytesOfHistory) + (kept.Steps * BytesAStep));

    /// <summary>The head that is kept of a document, of whatever revision. Null: none is.</summary>
    public (long Revision, DocumentHead Head)? Find(Guid id) => cache.TryGet(id, out var kept) ? kept : null;

    /// <param name="masters">By which what an older version stored is completed.</param>
    public DocumentHead Load(StoredDocument stored, ReleaseCatalog masters)
    {
        if (Find(stored.Id) is { } kept && kept.Revision == stored.Revision)
        {
            return kept.Head;
        }

        var read = new DocumentHead(Complete(StoredForm.Read(stored.Kind, stored.Head), masters));
        Keep(stored, read);
        return read;
    }

    public LoadedDocument Open(StoredDocument stored, LibrarySnapshot snapshot) => new(stored, Load(stored, snapshot.Masters), snapshot);

    // What could be stored once can be opened, though it could not be stored today.
    private static Document Complete(Document document, ReleaseCatalog masters)
    {
        try
        {
            return Structure.Complete(document, masters);
        }
        catch (StructureException)
        {
            return document;
        }
    }

    public void Keep(StoredDocument stored, DocumentHead head) =>
        cache.Set(stored.Id, (stored.Revision, head), (long)stored.Head.Length * BytesACharacter);

    public void Dispose()
    {
        cache.Dispose();
        histories.Dispose();
    }
}
