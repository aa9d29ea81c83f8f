using System.Text;
using System.Text.RegularExpressions;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// Compiled HTML laid out for people: line breaks and indents only where HTML drops white space, between the parts of
/// tables and in the head, so that it is shown as the one that is sent.
/// </summary>
public static partial class Readable
{
    public static string Format(string html)
    {
        var made = new StringBuilder(html.Length + (html.Length / 4));
        var (depth, from) = (0, 0);
        foreach (Match gap in Gaps().Matches(html))
        {
            made.Append(html, from, gap.Index - from);
            from = gap.Index;
            var before = html.AsSpan(0, gap.Index);
            var open = before[(before.LastIndexOf('<') + 1)..];
            depth += open.StartsWith("table") || open.StartsWith("tr") || open.StartsWith("td") ? 1 : 0;
            depth -= html.AsSpan(gap.Index).StartsWith("</") ? 1 : 0;
            made.Append('\n').Append(' ', 2 * Math.Max(0, depth));
        }

        return made.Append(html, from, html.Length - from).ToString();
    }

    // Between two tags of which both are parts of a table, or of the head; never beside text, in a cell or in a comment.
    [GeneratedRegex(
        "(?<=<table[^>]*>)(?=<t[rb])|(?<=<tr[^>]*>)(?=<t[dh])|(?<=</t[dh]>)(?=<(t[dh][ "
            + ">]|/tr>))|(?<=</tr>)(?=<(tr[ >]|/table>))|(?<=<meta[^>]*>)(?=<)|(?<=</title>)(?=<)|(?<=</style>)(?=<)",
        RegexOptions.ExplicitCapture
    )]
    private static partial Regex Gaps();
}
