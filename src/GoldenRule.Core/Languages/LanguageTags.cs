using System.Text.RegularExpressions;

namespace GoldenRule.Core.Languages;

/// <summary>Language tags, by their well-formed shape: RFC 5646 (BCP 47), 2.1, without grandfathered and private-use tags.</summary>
public static partial class LanguageTags
{
    public static bool IsTag(string text) => text.Length <= 35 && Tag().IsMatch(text);

    /// <summary>What is known of a language, or else of the one that it is a sort of: of de-AT-1901, de-AT, de.</summary>
    public static T? Find<T>(IReadOnlyDictionary<string, T> known, string tag)
        where T : class
    {
        for (var at = tag; at.Length > 0; at = at[..Math.Max(0, at.LastIndexOf('-'))])
        {
            if (known.TryGetValue(at, out var found))
            {
                return found;
            }
        }

        return null;
    }

    /// <summary>
    /// What there is data of for a language: itself, the one it is a sort of, or "und" (undetermined). One of a few hundred.
    /// </summary>
    public static string Nearest(string tag)
    {
        for (var at = tag; at.Length > 0; at = at[..Math.Max(0, at.LastIndexOf('-'))])
        {
            if (DateWords.Has(at) || Writing.Languages.ContainsKey(at))
            {
                return at;
            }
        }

        return "und";
    }

    // language, script, region, variants; extensions are of no use in an email.
    [GeneratedRegex(
        "^[a-zA-Z]{2,3}(-[a-zA-Z]{4})?(-([a-zA-Z]{2}|[0-9]{3}))?(-([a-zA-Z0-9]{5,8}|[0-9][a-zA-Z0-9]{3}))*$",
        RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Tag();
}
