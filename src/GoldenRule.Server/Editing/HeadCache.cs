using GoldenRule.Core.Documents;
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

    public Document Get(StoredDocument stored)
    {
        if (cache.TryGetValue(stored.Id, out (long Revision, Document Document) kept) && kept.Revision == stored.Revision)
        {
            return kept.Document;
        }

        var read = StoredForm.Read(stored.Kind, stored.Head);
        Keep(stored, read);
        return read;
    }

    public void Keep(StoredDocument stored, Document document) =>
        cache.Set(stored.Id, (stored.Revision, document), new MemoryCacheEntryOptions { Size = 1, SlidingExpiration = TimeSpan.FromMinutes(30) });

    public void Dispose() => cache.Dispose();
}
