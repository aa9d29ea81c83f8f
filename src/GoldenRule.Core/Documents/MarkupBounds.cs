namespace GoldenRule.Core.Documents;

/// <summary>
/// Looks at HTML before a parser builds it. Whoever walks a tree calls itself as deep as it is, and a parser asks every
/// element that is open for every one that opens: elements without end inside one another would hold the server for minutes.
/// </summary>
public static class MarkupBounds
{
    public const int Elements = 20_000;

    public const int Depth = 256;

    // They hold nothing, or the next of them ends them (HTML, 13.1.2.4).
    private static readonly HashSet<string> EndedByNext = new(StringComparer.OrdinalIgnoreCase)
    {
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "param",
        "source",
        "track",
        "wbr",
        "p",
        "li",
        "dt",
        "dd",
        "tr",
        "td",
        "th",
        "thead",
        "tbody",
        "tfoot",
        "option",
        "optgroup",
        "colgroup",
        "caption",
        "rp",
        "rt",
        "body",
        "html",
        "head",
    };

    /// <summary>Why it is not read; in one walk over its characters. Null: it is within bounds.</summary>
    public static string? Fault(string html)
    {
        var open = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        var (elements, depth) = (0, 0);
        for (var at = html.IndexOf('<', StringComparison.Ordinal); at >= 0 && at < html.Length - 1; at = html.IndexOf('<', at + 1))
        {
            var ends = html[at + 1] == '/';
            var name = NameAt(html, ends ? at + 2 : at + 1);
            if (name.Length == 0)
            {
                continue;
            }

            if (!ends && ++elements > Elements)
            {
                return $"It has more than {Elements:N0} elements. Take a part of it.";
            }

            if (EndedByNext.Contains(name))
            {
                continue;
            }

            var count = open.GetValueOrDefault(name);
            if (!ends)
            {
                open[name] = count + 1;
                depth++;
            }
            else if (count > 0)
            {
                open[name] = count - 1;
                depth--;
            }

            if (depth > Depth)
            {
                return $"Its elements stand more than {Depth} deep within one another. Write it flatter, or end those that are open.";
            }
        }

        return null;
    }

    private static string NameAt(string html, int from)
    {
        var to = from;
        while (to < html.Length && to - from < 32 && (char.IsAsciiLetterOrDigit(html[to]) || html[to] is ':' or '-'))
        {
            to++;
        }

        return to > from && char.IsAsciiLetter(html[from]) ? html[from..to] : "";
    }
}
