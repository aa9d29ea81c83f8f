using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
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
    public History History(Guid document, Guid person) => histories.GetOrCreate((document, person), entry =>
    {
        entry.Size = 1;
        entry.SlidingExpiration = TimeSpan.FromMinutes(30);
        return new History();
    })!;

    /// <summary>The head that is kept of a document, of whatever revision. Null: none is.</summary>
    public (long Revision, Document Document)? Find(Guid id) => cache.TryGetValue(id, out (long Revision, Document Document) kept) ? kept : null;

    public Document Get(StoredDocument stored)
    {
        if (Find(stored.Id) is { } kept && kept.Revision == stored.Revision)
        {
            return kept.Document;
        }

        var read = StoredForm.Read(stored.Kind, stored.Head);
        Keep(stored, read);
        return read;
    }

    public void Keep(StoredDocument stored, Document document) =>
        cache.Set(stored.Id, (stored.Revision, document), new MemoryCacheEntryOptions { Size = 1, SlidingExpiration = TimeSpan.FromMinutes(30) });

    public void Dispose()
    {
        cache.Dispose();
        histories.Dispose();
    }
}
