namespace GoldenRule.Server.Hosting;

/// <summary>What someone searches for, as patterns that each must be found (SQL LIKE with "\" before its own signs).</summary>
public static class SearchWords
{
    /// <summary>Each is looked for in every text there is.</summary>
    private const int MostWords = 10;

    private const int MostCharacters = 200;

    /// <exception cref="ProblemException">More is looked for than anyone types.</exception>
    public static IEnumerable<string> Patterns(string? typed) => Words(typed, word => $"%{Escaped(word)}%");

    /// <summary>
    /// The same for full text, each word as the beginning of one: "'viaduct':* &amp; 'reopens':*". Null: nothing is typed.
    /// </summary>
    /// <exception cref="ProblemException">More is looked for than anyone types.</exception>
    public static string? Lexemes(string? typed) => Words(typed, Lexeme) is { Count: > 0 } words ? string.Join(" & ", words) : null;

    // Each once, as it is to be looked for. No text of the database holds U+0000.
    private static List<string> Words(string? typed, Func<string, string> sought)
    {
        var words = (typed ?? "")
            .ToLowerInvariant()
            .Replace("\0", " ", StringComparison.Ordinal)
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(sought)
            .Distinct(StringComparer.Ordinal)
            .ToList();
        return typed is not { Length: > MostCharacters } && words.Count <= MostWords
            ? words
            : throw ProblemException.Invalid($"Search for at most {MostWords} words and {MostCharacters} characters.");
    }

    // A single letter begins every other word there is.
    private static string Lexeme(string word)
    {
        var quoted = word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("'", "''", StringComparison.Ordinal);
        return word.Length > 1 ? $"'{quoted}':*" : $"'{quoted}'";
    }

    private static string Escaped(string word) =>
        word.Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal);
}
