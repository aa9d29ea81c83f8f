namespace GoldenRule.Core.Documents;

/// <summary>Limits in words.</summary>
public static class LimitWords
{
    /// <summary>"at most 40 characters, 2 lines".</summary>
    public static string Write(Limit limit)
    {
        var (most, other) = (new List<string>(), new List<string>());
        Add(most, limit.Characters, "characters");
        Add(most, limit.Words, "words");
        Add(most, limit.Lines, "lines");
        Add(most, limit.ItemsMost, "items");
        Add(most, limit.PictureKilobytes, "KB");
        Add(other, limit.ItemsLeast, "items at least");
        Add(other, limit.PictureWidth, "px wide at least");
        Add(other, limit.PictureHeight, "px high at least");
        if (limit.PictureRatio is { } ratio)
        {
            other.Add($"shape {ratio}");
        }

        if (!limit.Hosts.IsEmpty)
        {
            other.Add($"leads to {string.Join(" or ", limit.Hosts)}");
        }

        return string.Join(", ", (most.Count > 0 ? [$"at most {string.Join(", ", most)}"] : Array.Empty<string>()).Concat(other));
    }

    private static void Add(List<string> parts, int? bound, string of)
    {
        if (bound is { } number)
        {
            parts.Add($"{number} {of}");
        }
    }
}
