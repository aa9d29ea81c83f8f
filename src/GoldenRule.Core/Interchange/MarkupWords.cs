using System.Net;
using System.Text;

namespace GoldenRule.Core.Interchange;

/// <summary>The words of markup that nobody should build a tree of.</summary>
internal static class MarkupWords
{
    /// <summary>In one walk, without building anything: what stands in tags goes, and a tag parts words.</summary>
    public static string Read(string html)
    {
        var words = new StringBuilder();
        for (var at = 0; at < html.Length; )
        {
            var tag = html.IndexOf('<', at);
            words.Append(html, at, (tag < 0 ? html.Length : tag) - at);
            var end = tag < 0 ? -1 : html.IndexOf('>', tag);
            if (end < 0)
            {
                break;
            }

            var unread = Array.Find(Unspoken, name =>
                string.Compare(html, tag + 1, name, 0, name.Length, StringComparison.OrdinalIgnoreCase) == 0
            );
            var closed = unread is null ? end + 1 : html.IndexOf($"</{unread}", end, StringComparison.OrdinalIgnoreCase);
            words.Append(
                Array.Exists(Parting, name => string.Compare(html, tag + 1, name, 0, name.Length, StringComparison.OrdinalIgnoreCase) == 0)
                    ? "\n"
                    : ""
            );
            if (closed < 0)
            {
                break;
            }

            at = closed;
        }

        return string.Join(
            '\n',
            WebUtility.HtmlDecode(words.ToString()).Split('\n').Select(line => line.Trim()).Where(line => line.Length > 0)
        );
    }

    private static readonly string[] Unspoken = ["script", "style", "title"];

    private static readonly string[] Parting = ["p", "/p", "div", "br", "li", "tr", "td", "h1", "h2", "h3", "h4", "h5", "h6"];
}
