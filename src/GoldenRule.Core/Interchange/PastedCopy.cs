using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using System.Threading;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>A paragraph that was pasted.</summary>
/// <param name="Heading">1 to 6 where it was a heading; 0: it was not.</param>
public sealed record PastedPart(int Heading, Paragraph Paragraph);

/// <summary>
/// What word processors, web pages and mail put on the clipboard, read for its meaning: paragraphs, headings, lists,
/// emphasis and links. Fonts, colours, sizes and all other styling stay behind.
/// </summary>
public static partial class PastedCopy
{
    /// <summary>Characters that are read; what is longer is no copy for an email.</summary>
    public const int Most = 400_000;

    /// <summary>Elements within one another; what lies deeper is read as words alone.</summary>
    private const int Deepest = 200;

    public static ImmutableArray<PastedPart> FromHtml(string html, CancellationToken cancel = default)
    {
        // The clipboard's own frame: what was selected stands between the two comments.
        var start = html.IndexOf("<!--StartFragment-->", StringComparison.Ordinal);
        var end = html.LastIndexOf("<!--EndFragment-->", StringComparison.Ordinal);
        var fragment = start >= 0 && end > start ? html[start..end] : html;
        // Nobody's markup is so deep or so much: the words are kept all the same.
        if (MarkupBounds.Fault(fragment) is not null)
        {
            return FromText(WordsOf(fragment), cancel);
        }

        var reader = new Reader(cancel);
        reader.Read(new HtmlParser().ParseDocument(fragment).Body!, default, null, 0);
        return reader.Finish();
    }

    // In one walk, without building anything: what stands in tags goes, and a tag parts words.
    private static string WordsOf(string html)
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

    /// <summary>Paragraphs parted by empty lines, or where there are none by line ends; lines marked as items are lists.</summary>
    public static ImmutableArray<PastedPart> FromText(string text, CancellationToken cancel = default)
    {
        // Rich text that was taken for plain says nothing to anyone.
        if (text.StartsWith(@"{\rtf", StringComparison.Ordinal))
        {
            return [];
        }

        var lines = text.ReplaceLineEndings("\n").Split('\n').Select(l => l.Trim()).ToList();
        while (lines.Count > 0 && lines[^1].Length == 0)
        {
            lines.RemoveAt(lines.Count - 1);
        }

        var parted = lines.Contains("");
        var parts = ImmutableArray.CreateBuilder<PastedPart>();
        // Lines of a paragraph that goes on.
        var open = new List<string>();
        void Close()
        {
            if (open.Count > 0)
            {
                parts.Add(new PastedPart(0, new Paragraph { Runs = [.. Plain(string.Join('\n', open))] }));
                open.Clear();
            }
        }

        foreach (var line in lines)
        {
            cancel.ThrowIfCancellationRequested();
            if (line.Length == 0)
            {
                Close();
                continue;
            }

            var (heading, list, words) = Mark().Match(line) is { Success: true } mark
                ? (mark.Groups["heading"].Length, ListOf(mark), mark.Groups["words"].Value)
                : (0, ListStyle.None, line);
            if (heading == 0 && list == ListStyle.None && parted)
            {
                open.Add(words);
                continue;
            }

            Close();
            parts.Add(new PastedPart(heading, new Paragraph { List = list, Runs = [.. Plain(words)] }));
        }

        Close();
        return parts.ToImmutable();
    }

    private static ListStyle ListOf(Match mark)
    {
        if (mark.Groups["bullet"].Success)
        {
            return ListStyle.Bullet;
        }

        return mark.Groups["number"].Success ? ListStyle.Number : ListStyle.None;
    }

    /// <summary>As it goes into one text: a heading becomes a paragraph in bold.</summary>
    public static RichText Text(IEnumerable<PastedPart> parts) =>
        new()
        {
            Paragraphs =
            [
                .. parts.Select(p =>
                    p.Heading == 0 ? p.Paragraph : p.Paragraph with { Runs = [.. p.Paragraph.Runs.Select(r => r with { Bold = true })] }
                ),
            ],
        };

    // An address written out is a link.
    private static IEnumerable<Run> Plain(string text)
    {
        var at = 0;
        foreach (Match match in Address().Matches(text))
        {
            if (!Links.IsSafe(match.Value))
            {
                continue;
            }

            if (match.Index > at)
            {
                yield return new Run { Text = text[at..match.Index] };
            }

            yield return new Run { Text = match.Value, Href = match.Value };
            at = match.Index + match.Length;
        }

        if (at < text.Length)
        {
            yield return new Run { Text = text[at..] };
        }
    }

    [GeneratedRegex(
        @"^(?:(?<heading>#{1,6})\s+|(?<bullet>[•·▪◦‣*–-])\s+|(?<number>\d{1,3}[.)])\s+)(?<words>.+)$",
        RegexOptions.CultureInvariant,
        200
    )]
    private static partial Regex Mark();

    [GeneratedRegex(@"https?://[^\s<>""']*[^\s<>""'.,;:!?)\]]", RegexOptions.CultureInvariant, 200)]
    private static partial Regex Address();

    /// <summary>How the words of an element are meant.</summary>
    private readonly record struct Emphasis(bool Bold, bool Italic, string? Href, bool KeepsBlanks);

    private sealed partial class Reader(CancellationToken cancel)
    {
        private static readonly HashSet<string> Unread = new(StringComparer.Ordinal)
        {
            "script",
            "style",
            "head",
            "title",
            "meta",
            "link",
            "xml",
            "template",
            "noscript",
            "object",
            "iframe",
            "svg",
            "math",
            "select",
            "textarea",
            "button",
            "img",
            "o:p",
        };

        private static readonly HashSet<string> Blocks = new(StringComparer.Ordinal)
        {
            "p",
            "div",
            "li",
            "ul",
            "ol",
            "dl",
            "dt",
            "dd",
            "table",
            "tr",
            "td",
            "th",
            "thead",
            "tbody",
            "tfoot",
            "blockquote",
            "pre",
            "section",
            "article",
            "header",
            "footer",
            "main",
            "aside",
            "figure",
            "figcaption",
            "address",
            "h1",
            "h2",
            "h3",
            "h4",
            "h5",
            "h6",
            "body",
            "center",
            "hr",
            "form",
            "nav",
        };

        private readonly ImmutableArray<PastedPart>.Builder parts = ImmutableArray.CreateBuilder<PastedPart>();
        private readonly List<Run> runs = [];
        private ListStyle list;
        private int heading;

        public ImmutableArray<PastedPart> Finish()
        {
            Break();
            return parts.ToImmutable();
        }

        public void Read(INode node, Emphasis emphasis, IElement? listed, int depth)
        {
            if (depth > Deepest)
            {
                AddAll(node, emphasis);
                return;
            }

            foreach (var child in node.ChildNodes)
            {
                cancel.ThrowIfCancellationRequested();
                switch (child)
                {
                    case IText text:
                        Add(text.Data, emphasis);
                        break;
                    case IElement element when !Unread.Contains(element.LocalName):
                        Read(element, emphasis, listed, depth + 1);
                        break;
                    default:
                        break;
                }
            }
        }

        // Without calling itself: nobody's markup is so deep, but for one who wants to bring the server down.
        private void AddAll(INode top, Emphasis emphasis)
        {
            for (var node = top.FirstChild; node is not null; )
            {
                if (node is IText text && text.ParentElement is { } parent && !Unread.Contains(parent.LocalName))
                {
                    Add(text.Data, emphasis);
                }

                var next = node.FirstChild;
                while (next is null && node != top)
                {
                    next = node!.NextSibling;
                    node = next is null ? node.Parent : node;
                    if (node == top)
                    {
                        return;
                    }
                }

                node = next;
            }
        }

        private void Read(IElement element, Emphasis emphasis, IElement? listed, int depth)
        {
            var style = element.GetAttribute("style") ?? "";
            if (Hidden().IsMatch(style))
            {
                return;
            }

            // The word processor's own mark before an item, "1." or a bullet: it says what sort of list it is.
            if (
                style.Contains("mso-list:Ignore", StringComparison.OrdinalIgnoreCase)
                || style.Contains("mso-list: Ignore", StringComparison.OrdinalIgnoreCase)
            )
            {
                list =
                    char.IsLetterOrDigit(element.TextContent.Trim().FirstOrDefault()) && element.TextContent.Trim() is not "o"
                        ? ListStyle.Number
                        : ListStyle.Bullet;
                return;
            }

            switch (element.LocalName)
            {
                case "br":
                    // The last break of a block opens no line.
                    runs.Add(new Run { Text = "\n" });
                    return;
                case "ul" or "ol":
                    Break();
                    Read((INode)element, emphasis, element, depth);
                    Break();
                    return;
            }

            emphasis = Dressed(element, style, emphasis);
            if (!Blocks.Contains(element.LocalName))
            {
                Read((INode)element, emphasis, listed, depth);
                return;
            }

            // A paragraph inside an item is the item itself.
            if (!(element.LocalName is "p" or "div" && listed is not null && runs.Count == 0 && list != ListStyle.None))
            {
                Break();
            }

            if (element.LocalName == "li")
            {
                list = listed?.LocalName == "ol" ? ListStyle.Number : ListStyle.Bullet;
            }
            else if (style.Contains("mso-list:", StringComparison.OrdinalIgnoreCase))
            {
                list = ListStyle.Bullet;
            }
            else if (element.LocalName is ['h', >= '1' and <= '6' and var level])
            {
                heading = level - '0';
            }
            else if ((element.GetAttribute("class") ?? "") is "MsoTitle")
            {
                heading = 1;
            }

            Read((INode)element, emphasis, listed, depth);
            Break();
        }

        private static Emphasis Dressed(IElement element, string style, Emphasis emphasis)
        {
            var bold = element.LocalName is "b" or "strong" or "th" || emphasis.Bold;
            var italic = element.LocalName is "i" or "em" or "cite" || emphasis.Italic;
            // What is written in the style is meant: some wrap everything in a <b> that is not bold.
            if (Weight().Match(style) is { Success: true } weight)
            {
                bold =
                    weight.Groups["value"].Value is "bold" or "bolder"
                    || (int.TryParse(weight.Groups["value"].ValueSpan, CultureInfo.InvariantCulture, out var number) && number >= 600);
            }

            if (Slant().Match(style) is { Success: true } slant)
            {
                italic = slant.Groups["value"].Value is "italic" or "oblique";
            }

            var href =
                element.LocalName == "a"
                && element.GetAttribute("href")?.Trim() is { } address
                && Links.IsSafe(address)
                && !Links.IsPlaceholder(address)
                    ? address
                    : emphasis.Href;
            // A heading is bold by being one.
            return new Emphasis(
                element.LocalName is not ['h', >= '1' and <= '6'] && bold,
                italic,
                href,
                emphasis.KeepsBlanks || element.LocalName == "pre"
            );
        }

        private void Add(string text, Emphasis emphasis)
        {
            var words = Unseen().Replace(text.Replace('\u00a0', ' '), "");
            words = emphasis.KeepsBlanks ? words.ReplaceLineEndings("\n") : Blank().Replace(words, " ");
            if (words.Length > 0)
            {
                runs.Add(
                    new Run
                    {
                        Text = words,
                        Bold = emphasis.Bold && heading == 0,
                        Italic = emphasis.Italic,
                        Href = emphasis.Href,
                    }
                );
            }
        }

        // Ends the paragraph that is open.
        private void Break()
        {
            var tidied = Tidy(runs);
            if (tidied.Length > 0)
            {
                parts.Add(new PastedPart(list == ListStyle.None ? heading : 0, new Paragraph { List = list, Runs = tidied }));
            }

            runs.Clear();
            (list, heading) = (ListStyle.None, 0);
        }

        /// <summary>
        /// Neighbours of one emphasis are one run; blanks are single, and there are none at either end or around a line break.
        /// </summary>
        private static ImmutableArray<Run> Tidy(List<Run> runs)
        {
            var tidy = new List<Run>();
            foreach (var run in runs)
            {
                // A break and a blank have no emphasis of their own.
                var dressed = string.IsNullOrWhiteSpace(run.Text) && tidy.Count > 0 ? tidy[^1] with { Text = run.Text } : run;
                if (tidy.Count > 0 && tidy[^1] is var last && last.GoesOnWith(dressed))
                {
                    tidy[^1] = last with { Text = last.Text + dressed.Text };
                }
                else
                {
                    tidy.Add(dressed);
                }
            }

            for (var i = 0; i < tidy.Count; i++)
            {
                var text = AroundBreak().Replace(Blanks().Replace(tidy[i].Text, " "), "\n");
                tidy[i] = tidy[i] with { Text = i > 0 && tidy[i - 1].Text.EndsWith(' ') ? text.TrimStart(' ') : text };
            }

            tidy.RemoveAll(r => r.Text.Length == 0);
            while (tidy.Count > 0 && tidy[0].Text.TrimStart() is var first && first.Length < tidy[0].Text.Length)
            {
                Put(0, first);
            }

            while (tidy.Count > 0 && tidy[^1].Text.TrimEnd() is var end && end.Length < tidy[^1].Text.Length)
            {
                Put(tidy.Count - 1, end);
            }

            return [.. tidy];

            void Put(int at, string text)
            {
                if (text.Length == 0)
                {
                    tidy.RemoveAt(at);
                }
                else
                {
                    tidy[at] = tidy[at] with { Text = text };
                }
            }
        }

        [GeneratedRegex(@"display\s*:\s*none|mso-hide\s*:\s*all", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant, 2000)]
        private static partial Regex Hidden();

        [GeneratedRegex(
            @"font-weight\s*:\s*(?<value>[a-z0-9]+)",
            RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant,
            2000
        )]
        private static partial Regex Weight();

        [GeneratedRegex(
            @"font-style\s*:\s*(?<value>[a-z]+)",
            RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant,
            2000
        )]
        private static partial Regex Slant();

        // Soft hyphens, marks without width, what overrides the direction of text, and what stands for a NUL.
        [GeneratedRegex(@"[\u00ad\u200b\ufeff\u202d\u202e\ufffd\x00-\x08\x0b\x0e-\x1f]", RegexOptions.CultureInvariant, 2000)]
        private static partial Regex Unseen();

        [GeneratedRegex(@"[ \t\r\n\f]+", RegexOptions.CultureInvariant, 2000)]
        private static partial Regex Blank();

        [GeneratedRegex(" {2,}", RegexOptions.CultureInvariant, 2000)]
        private static partial Regex Blanks();

        [GeneratedRegex(" *\n *", RegexOptions.CultureInvariant, 2000)]
        private static partial Regex AroundBreak();
    }
}
