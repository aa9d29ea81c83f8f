using System.Collections.Immutable;
using GoldenRule.Core.Checking;

namespace GoldenRule.Server.Desks;

/// <summary>How the findings differ from those the asker has: a key changes one of many as a rule.</summary>
/// <param name="Before">So many of the asker's first stand as they were.</param>
/// <param name="After">So many of the asker's last stand as they were.</param>
/// <param name="Now">What stands between these.</param>
public sealed record FindingsChange(int Before, int After, ImmutableArray<Finding> Now)
{
    /// <summary>Null: they are the same.</summary>
    public static FindingsChange? Between(ImmutableArray<Finding> former, ImmutableArray<Finding> now)
    {
        var (most, before, after) = (Math.Min(former.Length, now.Length), 0, 0);
        while (before < most && former[before].IsSameAs(now[before]))
        {
            before++;
        }

        while (after < most - before && former[^(after + 1)].IsSameAs(now[^(after + 1)]))
        {
            after++;
        }

        return before + after == former.Length && former.Length == now.Length
            ? null
            : new FindingsChange(before, after, now[before..^after]);
    }
}
