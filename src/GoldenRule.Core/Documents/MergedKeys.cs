using System.Collections.Immutable;

namespace GoldenRule.Core.Documents;

/// <summary>
/// Keys whose place others have taken. Releases never change and go on saying the former key; whoever compares keys asks here.
/// </summary>
/// <param name="Into">The heir by the key that was merged.</param>
public sealed record MergedKeys(ImmutableDictionary<string, string> Into)
{
    public static MergedKeys None { get; } = new(ImmutableDictionary<string, string>.Empty);

    /// <summary>The key that stands in its place now; itself, where none does.</summary>
    public string Current(string key)
    {
        // Merging makes no circle; a wrong entry ends here all the same.
        for (var steps = 0; steps <= Into.Count && Into.TryGetValue(key, out var into); steps++)
        {
            key = into;
        }

        return key;
    }

    /// <summary>Whether two keys come to the same now.</summary>
    public bool Same(string a, string b) => a == b || Current(a) == Current(b);

    /// <summary>A key with all that were merged into it.</summary>
    public ImmutableArray<string> AllOf(string key) => [key, .. Into.Keys.Where(k => k != key && Current(k) == key)];

    public ImmutableArray<string> Current(ImmutableArray<string> keys) =>
        Into.IsEmpty ? keys : [.. keys.Select(Current).Distinct(StringComparer.Ordinal)];
}
