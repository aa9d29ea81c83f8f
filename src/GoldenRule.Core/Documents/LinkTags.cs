using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace GoldenRule.Core.Documents;

/// <summary>One name and value that addresses get, as "utm_source" and "newsletter".</summary>
/// <param name="Value">May name {campaign}, {type}, {day} and {row}.</param>
public sealed record LinkTag(string Name, string Value);

/// <summary>
/// What a campaign type adds to the addresses of links, so that visits are counted by campaign without anyone writing
/// it on each link.
/// </summary>
/// <param name="Hosts">Only addresses there and below; none: every one.</param>
public sealed record LinkTags(ImmutableArray<LinkTag> Tags, ImmutableArray<string> Hosts)
{
    private static readonly string[] Words = ["campaign", "type", "day", "row"];

    public static LinkTags None { get; } = new([], []);

    /// <summary>What cannot be, each as a sentence.</summary>
    public IEnumerable<string> Faults()
    {
        foreach (var tag in Tags)
        {
            if (!tag.Name.All(c => char.IsAsciiLetterOrDigit(c) || c is '_' or '-' or '.') || tag.Name.Length is 0 or > 60)
            {
                yield return $"\"{tag.Name}\" is no name for a tag; letters, digits, _ and - make one, as in utm_source.";
            }

            if (tag.Value.Trim().Length is 0 or > 200)
            {
                yield return $"Give \"{tag.Name}\" a value of 1 to 200 characters.";
            }

            foreach (var part in Named(tag.Value).Where(p => !Words.Contains(p)))
            {
                yield return $"\"{tag.Name}\" names {{{part}}}; a value may name {{campaign}}, {{type}}, {{day}} and {{row}}.";
            }
        }

        if (Tags.GroupBy(t => t.Name, StringComparer.Ordinal).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            yield return $"\"{twice.Key}\" stands twice; an address takes a name once.";
        }

        foreach (var host in Hosts.Where(h => Uri.CheckHostName(h) != UriHostNameType.Dns))
        {
            yield return $"\"{host}\" is no host name; write it as in larkfell.example.org.";
        }
    }

    /// <summary>The tags with what they name filled in. One whose value comes out empty is left out.</summary>
    public ImmutableArray<LinkTag> For(Email email, string campaignType, string row)
    {
        var campaign = email.Details.CampaignName.Length > 0 ? email.Details.CampaignName : email.Name;
        return
        [
            .. Tags.Select(tag =>
                    tag with
                    {
                        Value = tag
                            .Value.Replace("{campaign}", Slug(campaign), StringComparison.Ordinal)
                            .Replace("{type}", Slug(campaignType), StringComparison.Ordinal)
                            .Replace("{day}", email.Details.SendDay, StringComparison.Ordinal)
                            .Replace("{row}", Slug(row), StringComparison.Ordinal),
                    }
                )
                .Where(t => t.Value.Trim().Length > 0),
        ];
    }

    public bool AppliesTo(string href) =>
        (href.StartsWith("https://", StringComparison.OrdinalIgnoreCase) || href.StartsWith("http://", StringComparison.OrdinalIgnoreCase))
        && (Hosts.IsEmpty || (Links.HostOf(href) is { Length: > 0 } host && Measuring.IsWithin(host, Hosts)));

    /// <summary>Words as they stand in an address: lower case, letters and digits, hyphens between.</summary>
    public static string Slug(string words)
    {
        var slug = new StringBuilder();
        foreach (var c in words)
        {
            if (char.IsLetterOrDigit(c))
            {
                slug.Append(char.ToLowerInvariant(c));
            }
            // An accent of its own, and an apostrophe inside a word, part nothing.
            else if (
                CharUnicodeInfo.GetUnicodeCategory(c) is not UnicodeCategory.NonSpacingMark
                && c is not ('\'' or '\u2019')
                && slug.Length > 0
                && slug[^1] != '-'
            )
            {
                slug.Append('-');
            }
        }

        return slug.ToString().TrimEnd('-');
    }

    private static IEnumerable<string> Named(string value) =>
        Regex.Matches(value, @"(?<=\{)[^}]*(?=\})", RegexOptions.CultureInvariant, TimeSpan.FromMilliseconds(200)).Select(m => m.Value);
}
