using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// An address with one more name and value in its query. What stands in it already, its fragment included, is kept (RFC 3986,
/// 3.4).
/// </summary>
internal static class TaggedLink
{
    public static string AddTags(string href, string name, string value)
    {
        if (Links.IsPlaceholder(href) || name.Length == 0)
        {
            return href;
        }

        var mark = href.IndexOf('#', StringComparison.Ordinal);
        var (address, fragment) = mark < 0 ? (href, "") : (href[..mark], href[mark..]);
        var join = address switch
        {
            [.., '?' or '&'] => "",
            _ when address.Contains('?', StringComparison.Ordinal) => "&",
            _ => "?",
        };
        return $"{address}{join}{Uri.EscapeDataString(name)}={Uri.EscapeDataString(value)}{fragment}";
    }

    /// <summary>The tags that the address does not have yet.</summary>
    public static string AddTags(string href, ImmutableArray<LinkTag> tags)
    {
        foreach (var tag in tags)
        {
            href = Has(href, tag.Name) ? href : AddTags(href, tag.Name, tag.Value);
        }

        return href;
    }

    private static bool Has(string href, string name)
    {
        var mark = href.IndexOf('#', StringComparison.Ordinal);
        var address = mark < 0 ? href : href[..mark];
        var query = address.IndexOf('?', StringComparison.Ordinal);
        return query >= 0
            && address[(query + 1)..].Split('&').Any(pair => pair.StartsWith(name + "=", StringComparison.Ordinal) || pair == name);
    }
}
