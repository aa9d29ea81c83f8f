using System.Text.RegularExpressions;

namespace GoldenRule.Core.Documents;

/// <summary>Language tags, by their well-formed shape: RFC 5646 (BCP 47), 2.1, without grandfathered and private-use tags.</summary>
public static partial class Languages
{
    public static bool IsTag(string text) => text.Length <= 35 && Tag().IsMatch(text);

    // language, script, region, variants; extensions are of no use in an email.
    [GeneratedRegex(
        "^[a-zA-Z]{2,3}(-[a-zA-Z]{4})?(-([a-zA-Z]{2}|[0-9]{3}))?(-([a-zA-Z0-9]{5,8}|[0-9][a-zA-Z0-9]{3}))*$",
        RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture,
        200
    )]
    private static partial Regex Tag();
}
