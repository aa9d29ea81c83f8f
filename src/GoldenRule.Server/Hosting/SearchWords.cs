namespace GoldenRule.Server.Hosting;

/// <summary>What someone searches for, as patterns that each must be found (SQL LIKE with "\" before its own signs).</summary>
public static class SearchWords
{
    /// <summary>Each is looked for in every text there is.</summary>
    private const int MostWords = 10;

    private const int MostCharacters = 200;

    /// <exception cref="ProblemException">More is looked for than anyone types.</exception>
    public static IEnumerable<string> Patterns(string? typed)
    {
        var patterns = PatternsOf(typed).Distinct(StringComparer.Ordinal).ToList();
        return typed is not { Length: > MostCharacters } && patterns.Count <= MostWords
            ? patterns
            : throw ProblemException.Invalid($"Search for at most {MostWords} words and {MostCharacters} characters.");
    }

    /// <summary>
    /// The same for full text, each word as the beginning of one: "'viaduct':* &amp; 'reopens':*". Null: nothing is typed.
    /// </summary>
    /// <exception cref="ProblemException">More is looked for than anyone types.</exception>
    public static string? Lexemes(string? typed)
    {
        _ = Patterns(typed);
        var words = (typed ?? "")
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(Lexeme)
            .Distinct(StringComparer.Ordinal)
            .ToList();
        return words.Count == 0 ? null : string.Join(" & ", words);
    }

    // A single letter begins every other word there is.
    private static string Lexeme(string word)
    {
        var quoted = word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("'", "''", StringComparison.Ordinal);
        return word.Length > 1 ? $"'{quoted}':*" : $"'{quoted}'";
    }

    private static IEnumerable<string> PatternsOf(string? typed) => Words(typed).Select(word => $"%{Escaped(word.ToLowerInvariant())}%");

    // No text of the database holds U+0000.
    private static string[] Words(string? typed) =>
        (typed ?? "").Replace("\0", " ", StringComparison.Ordinal).Split(' ', StringSplitOptions.RemoveEmptyEntries);

    private static string Escaped(string word) =>
        word.Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal);
}
