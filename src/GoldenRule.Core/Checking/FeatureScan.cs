using System.Collections.Concurrent;
using System.IO.Hashing;
using System.Text;
using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Checking;

/// <summary>
/// Which features of the dataset compiled HTML really uses. It reads what <see cref="Compiler"/> writes, which is well
/// formed: one pass over the bytes, a tag that was met before is known by its hash. What stands in conditional
/// comments is for the Word-based client alone and does not count.
/// </summary>
public static class FeatureScan
{
    /// <summary>Different tags kept; far more than a house style makes.</summary>
    private const int Most = 8192;

    // What comes of a tag depends on nothing else, so that all emails share it.
    private static readonly ConcurrentDictionary<ulong, FeatureSet> Known = [];

    public static FeatureSet Scan(ReadOnlySpan<byte> html)
    {
        var found = default(FeatureSet);
        while (true)
        {
            var open = html.IndexOf((byte)'<');
            if (open < 0 || open + 1 == html.Length)
            {
                return found;
            }

            html = html[(open + 1)..];
            if (html.StartsWith("!--"u8))
            {
                html = After(html, "-->"u8);
                continue;
            }

            if (html[0] == '/')
            {
                continue;
            }

            var end = End(html);
            var tag = html[..end];
            html = html[end..];
            var hash = XxHash3.HashToUInt64(tag);
            if (!Known.TryGetValue(hash, out var one))
            {
                one = Tag(tag);
                Keep(hash, one);
            }

            found.Add(one);
            if (tag.SequenceEqual("style"u8))
            {
                var close = html.IndexOf("</style>"u8);
                var css = close < 0 ? html : html[1..close];
                html = close < 0 ? [] : html[close..];
                hash = XxHash3.HashToUInt64(css);
                if (!Known.TryGetValue(hash, out one))
                {
                    one = CssSigns.OfSheet(Encoding.UTF8.GetString(css));
                    Keep(hash, one);
                }

                found.Add(one);
            }
        }
    }

    private static void Keep(ulong hash, in FeatureSet found)
    {
        if (Known.Count >= Most)
        {
            Known.Clear();
        }

        Known[hash] = found;
    }

    private static ReadOnlySpan<byte> After(ReadOnlySpan<byte> html, ReadOnlySpan<byte> mark)
    {
        var at = html.IndexOf(mark);
        return at < 0 ? [] : html[(at + mark.Length)..];
    }

    // Where the tag ends: a ">" outside quotes.
    private static int End(ReadOnlySpan<byte> html)
    {
        for (var from = 0; ; )
        {
            var close = html[from..].IndexOf((byte)'>');
            if (close < 0)
            {
                return html.Length;
            }

            close += from;
            if ((html[..close].Count((byte)'"') & 1) == 0)
            {
                return close;
            }

            from = close + 1;
        }
    }

    private static FeatureSet Tag(ReadOnlySpan<byte> bytes)
    {
        var found = default(FeatureSet);
        var text = Encoding.UTF8.GetString(bytes);
        var tag = text.AsSpan();
        if (tag.StartsWith("!DOCTYPE", StringComparison.OrdinalIgnoreCase))
        {
            FeatureSigns.Add(ref found, "", "doctype");
            return found;
        }

        var name = tag[..(tag.IndexOfAny(' ', '/') is var blank && blank < 0 ? tag.Length : blank)];
        FeatureSigns.Add(ref found, "tag", name);
        var rest = tag[name.Length..];
        while (true)
        {
            rest = rest.TrimStart(" /\n\t");
            if (rest.IsEmpty)
            {
                return found;
            }

            var end = rest.IndexOfAny('=', ' ');
            var attribute = end < 0 ? rest : rest[..end];
            var value = ReadOnlySpan<char>.Empty;
            rest = rest[attribute.Length..];
            if (rest.StartsWith("=\""))
            {
                rest = rest[2..];
                var quote = rest.IndexOf('"');
                value = quote < 0 ? rest : rest[..quote];
                rest = quote < 0 ? [] : rest[(quote + 1)..];
            }

            Attribute(ref found, name, attribute, value);
        }
    }

    private static void Attribute(ref FeatureSet found, ReadOnlySpan<char> tag, ReadOnlySpan<char> attribute, ReadOnlySpan<char> value)
    {
        FeatureSigns.Add(ref found, "attribute", attribute);
        switch (attribute)
        {
            case "style":
                CssSigns.AddDeclarations(ref found, value);
                break;
            case "href" when value.StartsWith("#") && value.Length > 1:
                FeatureSigns.Add(ref found, "link", "#");
                break;
            case "href" when value.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase):
                FeatureSigns.Add(ref found, "link", "mailto");
                break;
            case "src" or "srcset" when tag is "img" or "source":
                FeatureSigns.Add(ref found, "image", value.StartsWith("data:") ? "data" : value[(value.LastIndexOf('.') + 1)..]);
                break;
            case "name" when tag is "meta" && value is "color-scheme":
                FeatureSigns.Add(ref found, "meta", value);
                break;
            case "type" when tag is "input" or "button":
                FeatureSigns.Add(ref found, "tag", $"{tag} type=\"{value}\"");
                break;
            default:
                break;
        }
    }
}
