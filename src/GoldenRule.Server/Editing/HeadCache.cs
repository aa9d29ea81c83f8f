using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Validation;
using GoldenRule.Data;
using Microsoft.Extensions.Caching.Memory;

namespace GoldenRule.Server.Editing;

/// <summary>
/// Parsed heads of the documents edited last, by revision. Beyond saving the parsing, it keeps the parts that an edit
/// did not touch the same objects, by which the compiler knows what it need not do again.
/// </summary>
public sealed class HeadCache : IDisposable
{
    private readonly MemoryCache cache = new(new MemoryCacheOptions { SizeLimit = 1000 });

    private readonly MemoryCache histories = new(new MemoryCacheOptions { SizeLimit = 5000 });

    /// <summary>What one person can undo in one document, as far as it was read: only what came since is asked for.</summary>
    public UndoHistory History(Guid document, Guid person) => histories.GetOrCreate((document, person), entry =>
        {
            entry.Size = 1;
            entry.SlidingExpiration = TimeSpan.FromMinutes(30);
            return new UndoHistory();
        })!;

    /// <summary>The head that is kept of a document, of whatever revision. Null: none is.</summary>
    public (long Revision, DocumentHead Head)? Find(Guid id) =>
        cache.TryGetValue(id, out (long Revision, DocumentHead Head) kept) ? kept : null;

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
        cache.Set(
            stored.Id,
            (stored.Revision, head),
            new MemoryCacheEntryOptions { Size = 1, SlidingExpiration = TimeSpan.FromMinutes(30) }
        );

    public void Dispose()
    {
        cache.Dispose();
        histories.Dispose();
    }
}
