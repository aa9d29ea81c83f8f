using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using System.Threading;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// What word processors, web pages and mail put on the clipboard, read for its meaning: paragraphs, headings, lists,
/// emphasis and links. Fonts, colours, sizes and all other styling stay behind.
/// </summary>
public sealed partial class PastedHtml
{
    /// <summary>Elements within one another; what lies deeper is read as words alone.</summary>
    private const int Deepest = 200;

    private static readonly HashSet<string> Unread =
    [
        .. ("script style head title meta link xml template noscript object iframe svg math select textarea " + "button img o:p").Split(
            ' '
        ),
    ];

    private static readonly HashSet<string> Blocks =
    [
        .. (
            "p div li ul ol dl dt dd table tr td th thead tbody tfoot blockquote pre section article header "
            + "footer main aside figure figcaption address h1 h2 h3 h4 h5 h6 body center hr form nav"
        ).Split(' '),
    ];

    private readonly CancellationToken cancel;
    private readonly ImmutableArray<PastedPart>.Builder parts = ImmutableArray.CreateBuilder<PastedPart>();
    private readonly List<Run> runs = [];
    private ListStyle list;
    private int heading;

    private PastedHtml(CancellationToken cancel) => this.cancel = cancel;

    public static ImmutableArray<PastedPart> Read(string html, CancellationToken cancel = default)
    {
        // The clipboard's own frame: what was selected stands between the two comments.
        var start = html.IndexOf("<!--StartFragment-->", StringComparison.Ordinal);
        var end = html.LastIndexOf("<!--EndFragment-->", StringComparison.Ordinal);
        var fragment = start >= 0 && end > start ? html[start..end] : html;
        // Nobody's markup is so deep or so much: the words are kept all the same.
        if (MarkupBounds.Fault(fragment) is not null)
        {
            return PastedText.Read(MarkupWords.Read(fragment), cancel);
        }

        var reader = new PastedHtml(cancel);
        reader.Read(new HtmlParser().ParseDocument(fragment).Body!, default, null, 0);
        return reader.Finish();
    }

    private ImmutableArray<PastedPart> Finish()
    {
        Break();
        return parts.ToImmutable();
    }

    private void Read(INode node, Emphasis emphasis, IElement? listed, int depth)
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
        var tidied = TidyRuns.Tidy(runs);
        if (tidied.Length > 0)
        {
            parts.Add(new PastedPart(list == ListStyle.None ? heading : 0, new Paragraph { List = list, Runs = tidied }));
        }

        runs.Clear();
        (list, heading) = (ListStyle.None, 0);
    }

    [GeneratedRegex(@"display\s*:\s*none|mso-hide\s*:\s*all", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Hidden();

    [GeneratedRegex(
        @"font-weight\s*:\s*(?<value>[a-z0-9]+)",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Weight();

    [GeneratedRegex(
        @"font-style\s*:\s*(?<value>[a-z]+)",
        RegexOptions.IgnoreCase | RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant
    )]
    private static partial Regex Slant();

    // Soft hyphens, marks without width, what overrides the direction of text, and what stands for a NUL.
    [GeneratedRegex(@"[\u00ad\u200b\ufeff\u202d\u202e\ufffd\x00-\x08\x0b\x0e-\x1f]", RegexOptions.CultureInvariant)]
    private static partial Regex Unseen();

    [GeneratedRegex(@"[ \t\r\n\f]+", RegexOptions.CultureInvariant)]
    private static partial Regex Blank();

    /// <summary>How the words of an element are meant.</summary>
    private readonly record struct Emphasis(bool Bold, bool Italic, string? Href, bool KeepsBlanks);
}
