using System.Collections.Concurrent;
using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Audiences;

/// <summary>A snippet as the library has it.</summary>
/// <param name="Retired">It is not offered any more; where it stands it goes on.</param>
public sealed record CataloguedSnippet(Guid Id, Snippet Snippet, bool Retired);

/// <summary>Every snippet of the library, by its key.</summary>
public sealed class SnippetCatalog
{
    public static SnippetCatalog Empty { get; } = new([]);

    private readonly ImmutableSortedDictionary<string, CataloguedSnippet> byKey;

    // Moments at which anything changes, in order: between two of them everything says the same.
    private readonly ImmutableArray<DateTime> changes;
    private readonly ConcurrentDictionary<int, SnippetValues> kept = new();

    public SnippetCatalog(IEnumerable<CataloguedSnippet> all)
    {
        byKey = all.ToImmutableSortedDictionary(s => s.Snippet.Key, s => s, StringComparer.Ordinal);
        changes =
        [
            .. byKey
                .Values.SelectMany(s =>
                    s.Snippet.Values.Select(v => v.From).Append(s.Snippet.Expires).Where(m => m.Length > 0).Select(s.Snippet.ToUtc)
                )
                .Distinct()
                .Order(),
        ];
    }

    public IEnumerable<CataloguedSnippet> All => byKey.Values;

    /// <summary>Null: there is none of that key.</summary>
    public CataloguedSnippet? Find(string key) => byKey.GetValueOrDefault(key);

    /// <summary>What each says at a moment. As long as nothing changes in between, the same object.</summary>
    public SnippetValues At(DateTime utc)
    {
        var passed = changes.BinarySearch(utc);
        passed = passed < 0 ? ~passed : passed + 1;
        return kept.GetOrAdd(passed, _ => new SnippetValues(this, utc));
    }
}

/// <summary>What the snippets of a catalog say at one moment.</summary>
/// <param name="Utc">A moment at which they do.</param>
public sealed record SnippetValues(SnippetCatalog Catalog, DateTime Utc)
{
    private readonly ConcurrentDictionary<string, ShownSnippet?> shown = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<(AudiencePlan Plan, string Language), InlineValues> made = new();

    /// <summary>What stands where a snippet of that key is referred to; another may be used in its place. Null: there is none.</summary>
    public ShownSnippet? Find(string key) => shown.GetOrAdd(key, Look);

    /// <summary>What nodes come to in an email of that language. As long as nothing changes, the same object.</summary>
    public InlineValues For(AudiencePlan plan, string language) =>
        // Kept for each language there is data of: whoever asks for any other makes nothing grow.
        made.GetOrAdd((plan, LanguageTags.Nearest(language)), key => new InlineValues(this, key.Plan, key.Language, null, false));

    private ShownSnippet? Look(string key)
    {
        var found = Catalog.Find(key);
        // One that was replaced leads to the other; a circle ends where it began.
        for (var steps = 0; found?.Snippet.ReplacedBy is { } other && steps < 20 && Catalog.Find(other) is { } next; steps++)
        {
            found = next;
        }

        return found is null
            ? null
            : new ShownSnippet(found, found.Snippet.Values[found.Snippet.IndexAt(Utc)].Value, found.Snippet.HasExpired(Utc));
    }

    public bool Equals(SnippetValues? other) => ReferenceEquals(this, other);

    public override int GetHashCode() => System.Runtime.CompilerServices.RuntimeHelpers.GetHashCode(this);
}

/// <param name="Value">What it says; once it has expired, what it said last.</param>
public sealed record ShownSnippet(CataloguedSnippet Of, FieldValue Value, bool Expired);
