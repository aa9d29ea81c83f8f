namespace GoldenRule.Server.Hosting;

/// <summary>What someone searches for, as patterns that each must be found (SQL LIKE with "\" before its own signs).</summary>
public static class SearchWords
{
    public static IEnumerable<string> Patterns(string? typed) => (typed ?? "").ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries)
        .Select(word => $"%{word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%");
}
