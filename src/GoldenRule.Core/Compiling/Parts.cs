using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>Words that several block kinds are made of, each dressed by the house style.</summary>
internal static class Parts
{
    /// <param name="level">1 to 4.</param>
    /// <param name="anchor">The id that a contents list leads to; null: none does.</param>
    /// <param name="below">CSS pixels of space below.</param>
    public static void Heading(HtmlWriter html, in BlockView view, int level, string words, string? anchor = null, int below = 0)
    {
        if (words.Length == 0)
        {
            return;
        }

        var type = view.Theme.Type(HeadingStyle(level));
        html.Write($"<h{level}");
        if (anchor is not null)
        {
            html.Write($" id=\"{anchor}\"");
        }

        html.Write($""" class="{view.Surface.HeadingClass}{type.Class}" style="margin:0""");
        Below(html, below);
        html.Write($"""{type.Style}color:{view.Surface.Heading}">{words}</h{level}>""");
    }

    /// <summary>One paragraph of plain words.</summary>
    public static void Line(
        HtmlWriter html,
        in BlockView view,
        string style,
        string words,
        int below = 0,
        bool quiet = false,
        bool bold = false
    )
    {
        if (words.Length == 0)
        {
            return;
        }

        OpenLine(html, view, style, below, quiet, bold);
        html.Write($"{words}</p>");
    }

    public static void OpenLine(HtmlWriter html, in BlockView view, string style, int below = 0, bool quiet = false, bool bold = false)
    {
        var type = view.Theme.Type(style);
        html.Write($"""<p class="{(quiet ? view.Surface.QuietClass : view.Surface.TextClass)}{type.Class}" style="margin:0""");
        Below(html, below);
        html.Write($"{type.Style}color:{(quiet ? view.Surface.Quiet : view.Surface.Text)}{(bold ? ";font-weight:bold"u8 : [])}\">");
    }

    public static void Prose(HtmlWriter html, in BlockView view, string style, RichText text, bool quiet = false)
    {
        if (!text.IsEmpty)
        {
            ProseWriter.Write(
                html,
                text,
                view.Theme.Type(style),
                quiet ? view.Surface.Quiet : view.Surface.Text,
                quiet ? view.Surface.QuietClass : view.Surface.TextClass,
                view.Surface,
                view.Theme
            );
        }
    }

    /// <summary>A link in the words' own style.</summary>
    public static void Link(HtmlWriter html, in BlockView view, string words, string href)
    {
        ProseWriter.OpenLink(html, href, view.Surface, view.Theme);
        html.Write($"{words}</a>");
    }

    /// <summary>Links beside one another.</summary>
    public static void Links(HtmlWriter html, in BlockView view, IEnumerable<(string Words, string Href)> links)
    {
        var first = true;
        foreach (var (words, href) in links)
        {
            html.Write(first ? [] : "&ensp;"u8);
            first = false;
            Link(html, view, words, href);
        }
    }

    public static void LinkLine(HtmlWriter html, in BlockView view, string style, string words, string href, int below = 0)
    {
        if (words.Length == 0)
        {
            return;
        }

        OpenLine(html, view, style, below);
        Link(html, view, words, href);
        html.Write("</p>"u8);
    }

    public static void Gap(HtmlWriter html, int height)
    {
        if (height > 0)
        {
            html.Write($"""<div style="height:{height}px;line-height:{height}px;font-size:1px">&#8202;</div>""");
        }
    }

    public static string HeadingStyle(int level) =>
        level switch
        {
            1 => "heading1",
            2 => "heading2",
            3 => "heading3",
            _ => "heading4",
        };

    private static void Below(HtmlWriter html, int below)
    {
        if (below > 0)
        {
            html.Write($" 0 {below}px");
        }

        html.Write(";"u8);
    }
}
