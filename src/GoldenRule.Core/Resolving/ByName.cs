using System.Collections;
using System.Collections.Immutable;
using System.Diagnostics.CodeAnalysis;

namespace GoldenRule.Core.Resolving;

/// <summary>
/// The values that hold in a block, each by the name of its field or look property. A block has a handful of them and is
/// asked for each while it is written and checked: looking along them costs less than a tree or a hash.
/// </summary>
public sealed class ByName<T>(ImmutableArray<KeyValuePair<string, T>> all) : IReadOnlyDictionary<string, T>
{
    public ImmutableArray<KeyValuePair<string, T>> All { get; } = all;

    public int Count => All.Length;

    public IEnumerable<string> Keys => All.Select(v => v.Key);

    public IEnumerable<T> Values => All.Select(v => v.Value);

    public T this[string key] => TryGetValue(key, out var value) ? value : throw new KeyNotFoundException($"There is no \"{key}\".");

    public bool ContainsKey(string key) => TryGetValue(key, out _);

    public bool TryGetValue(string key, [MaybeNullWhen(false)] out T value)
    {
        foreach (ref readonly var entry in All.AsSpan())
        {
            if (entry.Key == key)
            {
                value = entry.Value;
                return true;
            }
        }

        value = default;
        return false;
    }

    public ImmutableArray<KeyValuePair<string, T>>.Enumerator GetEnumerator() => All.GetEnumerator();

    IEnumerator<KeyValuePair<string, T>> IEnumerable<KeyValuePair<string, T>>.GetEnumerator() => All.AsEnumerable().GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => All.AsEnumerable().GetEnumerator();
}
