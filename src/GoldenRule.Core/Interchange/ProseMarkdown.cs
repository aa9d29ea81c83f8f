using System.Collections.Immutable;
using System.Text;
using GoldenRule.Core.Documents;
using Markdig;
using Markdig.Syntax;
using Markdig.Syntax.Inlines;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// Rich text as people write it in a table's cell: the part of CommonMark 0.31 that has a meaning here. Paragraphs are
/// parted by an empty line, a line end is a line break, a brand variable stands as {key},
/// a snippet as {snippet:key}, a field as {field:key}.
/// </summary>
public static class ProseMarkdown
{
    private static readonly MarkdownPipeline Pipeline = new MarkdownPipelineBuilder().DisableHtml().DisableHeadings().Build();

    public static string Write(RichText text)
    {
        var written = new StringBuilder();
        var number = 0;
        Paragraph? former = null;
        foreach (var paragraph in text.Paragraphs)
        {
            var goesOn = former is not null && former.List == paragraph.List && paragraph.List != ListStyle.None;
            number = goesOn ? number + 1 : 1;
            written
                .Append(former is null ? "" : "\n")
                .Append(former is null || goesOn ? "" : "\n")
                .Append(
                    paragraph.List switch
                    {
                        ListStyle.Bullet => "* ",
                        ListStyle.Number => $"{number}. ",
                        _ => "",
                    }
                );
            foreach (var (href, runs) in Linked(paragraph.Runs))
            {
                var words = string.Concat(runs.Select(Dressed));
                written.Append(href is null ? words : $"[{words}](<{href.Replace(">", "%3E", StringComparison.Ordinal)}>)");
            }

            former = paragraph;
        }

        return written.ToString();
    }

    /// <param name="isVariable">Whether there is a brand variable of that key.</param>
    public static RichText Read(string markdown, Func<string, bool> isVariable)
    {
        var paragraphs = ImmutableArray.CreateBuilder<Paragraph>();
        try
        {
            Read(Markdown.Parse(markdown.ReplaceLineEndings("\n"), Pipeline), ListStyle.None, paragraphs, isVariable);
        }
        catch (ArgumentException)
        {
            // So the reader says that marks lie too deep within one another.
            return RichText.FromParagraphs(markdown);
        }

        return new RichText { Paragraphs = paragraphs.ToImmutable() };
    }

    private static void Read(
        ContainerBlock container,
        ListStyle list,
        ImmutableArray<Paragraph>.Builder paragraphs,
        Func<string, bool> isVariable
    )
    {
        foreach (var block in container)
        {
            switch (block)
            {
                case ListBlock items:
                    foreach (var item in items.OfType<ListItemBlock>())
                    {
                        Read(item, items.IsOrdered ? ListStyle.Number : ListStyle.Bullet, paragraphs, isVariable);
                    }

                    break;
                case ContainerBlock inner:
                    Read(inner, list, paragraphs, isVariable);
                    break;
                case LeafBlock { Inline: { } inline }:
                    var runs = new List<Run>();
                    Read(inline, new Run(), runs, isVariable);
                    paragraphs.Add(new Paragraph { List = list, Runs = [.. runs] });
                    break;
                case CodeBlock code:
                    // Nothing here is code: it was only written far in.
                    paragraphs.Add(new Paragraph { List = list, Runs = [new Run { Text = code.Lines.ToString().Trim() }] });
                    break;
                default:
                    break;
            }
        }
    }

    private static void Read(ContainerInline inline, Run dress, List<Run> runs, Func<string, bool> isVariable)
    {
        foreach (var part in inline)
        {
            switch (part)
            {
                case LiteralInline literal:
                    Variables(literal.Content.ToString(), dress, runs, isVariable);
                    break;
                case LineBreakInline:
                    Add(runs, dress with { Text = "\n" });
                    break;
                case HtmlEntityInline entity:
                    Add(runs, dress with { Text = entity.Transcoded.ToString() });
                    break;
                case CodeInline code:
                    Add(runs, dress with { Text = code.Content });
                    break;
                case AutolinkInline auto:
                    Add(runs, dress with { Text = auto.Url, Href = auto.IsEmail ? "mailto:" + auto.Url : auto.Url });
                    break;
                case EmphasisInline emphasis:
                    Read(
                        emphasis,
                        emphasis.DelimiterCount >= 2 ? dress with { Bold = true } : dress with { Italic = true },
                        runs,
                        isVariable
                    );
                    break;
                case LinkInline { IsImage: false } link:
                    Read(link, dress with { Href = link.Url }, runs, isVariable);
                    break;
                case DelimiterInline unmatched:
                    Add(runs, dress with { Text = unmatched.ToLiteral() });
                    Read(unmatched, dress, runs, isVariable);
                    break;
                case ContainerInline inner:
                    Read(inner, dress, runs, isVariable);
                    break;
                default:
                    break;
            }
        }
    }

    private static void Variables(string text, Run dress, List<Run> runs, Func<string, bool> isVariable)
    {
        var at = 0;
        for (var open = text.IndexOf('{', StringComparison.Ordinal); open >= 0; open = text.IndexOf('{', open + 1))
        {
            var close = text.IndexOf('}', open);
            if (close > open && text[(open + 1)..close] is var key && isVariable(key))
            {
                Add(runs, dress with { Text = text[at..open] });
                if (InlineNode.FromToken(key) is { } node)
                {
                    Add(runs, dress with { Text = node.ToString() });
                }
                else
                {
                    runs.Add(dress with { Text = "", Variable = key });
                }

                at = close + 1;
            }
        }

        Add(runs, dress with { Text = text[at..] });
    }

    private static void Add(List<Run> runs, Run run)
    {
        if (run.Text.Length == 0)
        {
            return;
        }

        if (runs.Count > 0 && runs[^1] is var last && last.GoesOnWith(run))
        {
            runs[^1] = last with { Text = last.Text + run.Text };
        }
        else
        {
            runs.Add(run);
        }
    }

    private static IEnumerable<(string? Href, List<Run> Runs)> Linked(ImmutableArray<Run> runs)
    {
        var group = new List<Run>();
        foreach (var run in runs)
        {
            if (group.Count > 0 && group[0].Href != run.Href)
            {
                yield return (group[0].Href, group);
                group = [];
            }

            group.Add(run);
        }

        if (group.Count > 0)
        {
            yield return (group[0].Href, group);
        }
    }

    // Marks stand against words, never against blanks: so CommonMark asks.
    private static string Dressed(Run run)
    {
        var words = run.Variable is { } key ? $"{{{key}}}" : Tokens(run.Text);
        var mark = (run.Bold ? "**" : "") + (run.Italic ? "*" : "");
        var inner = words.Trim();
        if (mark.Length == 0 || inner.Length == 0)
        {
            return words;
        }

        var at = words.IndexOf(inner, StringComparison.Ordinal);
        return $"{words[..at]}{mark}{inner}{mark}{words[(at + inner.Length)..]}";
    }

    // What is escaped within a token would not be known as one.
    private static string Tokens(string text)
    {
        if (!InlineNode.AreIn(text))
        {
            return Escaped(text);
        }

        var written = new StringBuilder(text.Length);
        InlineNode.Visit(text, words => written.Append(Escaped(words)), node => written.Append(node.Token));
        return written.ToString();
    }

    private static string Escaped(string text)
    {
        var escaped = new StringBuilder(text.Length + 8);
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            var begins = i == 0 || text[i - 1] == '\n';
            if (
                c is '\\' or '*' or '_' or '[' or ']' or '<' or '`' or '&'
                || (begins && c is '#' or '>' or '+' or '-' or '=' or '~' or '|' or '@')
                || (c is '.' or ')' && IsNumber(text, i))
            )
            {
                escaped.Append('\\');
            }

            escaped.Append(c);
        }

        return escaped.ToString();
    }

    // "1." at the beginning of a line would be a list.
    private static bool IsNumber(string text, int end)
    {
        var at = end;
        while (at > 0 && char.IsAsciiDigit(text[at - 1]))
        {
            at--;
        }

        return at < end && (at == 0 || text[at - 1] == '\n');
    }
}
