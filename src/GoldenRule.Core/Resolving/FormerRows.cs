using System.Collections.Immutable;

namespace GoldenRule.Core.Resolving;

/// <summary>
/// The rows of a former result, found again by their ids. An edit within a row leaves every row where it was, so that
/// looking at the same place is nearly always enough; only where rows moved are they looked up.
/// </summary>
/// <param name="rows">Default: there is no former result.</param>
internal sealed class FormerRows<T>(ImmutableArray<T> rows, Func<T, string> id)
    where T : class
{
    private Dictionary<string, T>? byId;

    /// <summary>Null: there was no such row.</summary>
    public T? Find(int index, string row)
    {
        if (rows.IsDefaultOrEmpty)
        {
            return null;
        }

        return index < rows.Length && id(rows[index]) == row ? rows[index] : (byId ??= rows.ToDictionary(id, StringComparer.Ordinal)).GetValueOrDefault(row);
    }
}
