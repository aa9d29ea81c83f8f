namespace GoldenRule.Core.Documents;

/// <summary>What an address in an email may be.</summary>
public static class Links
{
    private static readonly string[] Schemes = ["https", "http", "mailto", "tel"];

    /// <summary>True for an absolute address with one of the schemes that belong in an email.</summary>
    public static bool IsSafe(string href) =>
        Uri.TryCreate(href, UriKind.Absolute, out var uri)
        && Schemes.Contains(uri.Scheme)
        && !href.Any(c => char.IsControl(c) || char.IsWhiteSpace(c));

    /// <summary>True where nothing was filled in yet: empty, a lone "#", or an address of only a scheme.</summary>
    public static bool IsPlaceholder(string href) =>
        href.Trim() is "" or "#" or "http://" or "https://" or "mailto:" or "tel:";
}
