using System.Buffers;

namespace GoldenRule.Core.Documents;

/// <summary>What an address in an email may be.</summary>
public static class Links
{
    private static readonly SearchValues<char> OfHost = SearchValues.Create("abcdefghijklmnopqrstuvwxyz0123456789.");

    private static readonly SearchValues<char> Plain = SearchValues.Create(
        "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-._~:/?#=&+"
    );

    private static readonly string[] Schemes = ["https", "http", "mailto", "tel"];

    /// <summary>True for an absolute address with one of the schemes that belong in an email.</summary>
    public static bool IsSafe(string href) => IsPlainlySafe(href) || IsSafeByRule(href);

    /// <summary>The host that an address leads to. Null: it is no absolute address.</summary>
    public static string? HostOf(string href)
    {
        if (!IsPlainlySafe(href))
        {
            return Uri.TryCreate(href, UriKind.Absolute, out var address) ? address.IdnHost : null;
        }

        var end = href.IndexOf('/', "https://".Length);
        return href["https://".Length..(end < 0 ? href.Length : end)];
    }

    /// <summary>Why it is not the name of a host that links may be held to (RFC 1123, 2.1, with a dot). Null: it is one.</summary>
    public static string? HostFault(string host) =>
        Uri.CheckHostName(host) == UriHostNameType.Dns && host.Contains('.', StringComparison.Ordinal)
            ? null
            : $"\"{host}\" is not the name of a host. Write it like larkfell.example.org.";

    // What nearly every address is: https, a host of plain labels, and characters that need no thought (RFC 3986, 2.3).
    private static bool IsPlainlySafe(ReadOnlySpan<char> href)
    {
        if (!href.StartsWith("https://", StringComparison.Ordinal) || href.ContainsAnyExcept(Plain))
        {
            return false;
        }

        var host = href["https://".Length..];
        host = host.IndexOf('/') is >= 0 and var slash ? host[..slash] : host;
        return host.Length is > 0 and < 200
            && !host.ContainsAnyExcept(OfHost)
            && char.IsAsciiLetter(host[0])
            && char.IsAsciiLetter(host[^1])
            && host.IndexOf("..", StringComparison.Ordinal) < 0;
    }

    private static bool IsSafeByRule(string href) =>
        Uri.TryCreate(href, UriKind.Absolute, out var uri)
        && Schemes.Contains(uri.Scheme)
        && !href.Any(c => char.IsControl(c) || char.IsWhiteSpace(c));

    /// <summary>True where nothing was filled in yet: empty, a lone "#", or an address of only a scheme.</summary>
    public static bool IsPlaceholder(string href) => href.Trim() is "" or "#" or "http://" or "https://" or "mailto:" or "tel:";
}
