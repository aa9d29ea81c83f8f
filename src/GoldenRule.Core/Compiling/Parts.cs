using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>Words that several block kinds are made of, each dressed by the house style.</summary>
internal static class Parts
{
    /// <param name="level">1 to 4.</param>
    /// <param name="anchor">The id that a contents list leads to; null: none does.</param>
    /// <param name="below">CSS pixels of space below.</param>
    public static void Heading(Utf8Writer html, in BlockView view, int level, string words, string? anchor = null, int below = 0)
    {
        if (words.Length == 0)
        {
            return;
        }

        var type = view.Theme.Type(HeadingStyle(level));
        html.Raw("<h"u8).Number(level);
        if (anchor is not null)
        {
            html.Raw(" id=\""u8).Text(anchor).Raw("\""u8);
        }

        html.Raw(" class=\""u8).Raw(view.Surface.HeadingClass).Raw(type.Class).Raw("\" style=\"margin:0"u8);
        Below(html, below);
        ProseWriter.Declarations(html, type.Style, view.Surface.Heading);
        html.Raw("\">"u8).Text(words).Raw("</h"u8).Number(level).Raw(">"u8);
    }

    /// <summary>One paragraph of plain words.</summary>
    public static void Line(
        Utf8Writer html,
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
        html.Text(words).Raw("</p>"u8);
    }

    public static void OpenLine(Utf8Writer html, in BlockView view, string style, int below = 0, bool quiet = false, bool bold = false)
    {
        var type = view.Theme.Type(style);
        html.Raw("<p class=\""u8)
            .Raw(quiet ? view.Surface.QuietClass : view.Surface.TextClass)
            .Raw(type.Class)
            .Raw("\" style=\"margin:0"u8);
        Below(html, below);
        ProseWriter.Declarations(html, type.Style, quiet ? view.Surface.Quiet : view.Surface.Text);
        html.Raw(bold ? ";font-weight:bold\">"u8 : "\">"u8);
    }

    public static void Prose(Utf8Writer html, in BlockView view, string style, RichText text, bool quiet = false)
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
    public static void Link(Utf8Writer html, in BlockView view, string words, string href)
    {
        ProseWriter.Link(html, href, view.Surface, view.Theme);
        html.Text(words).Raw("</a>"u8);
    }

    /// <summary>Links beside one another.</summary>
    public static void Links(Utf8Writer html, in BlockView view, IEnumerable<(string Words, string Href)> links)
    {
        var first = true;
        foreach (var (words, href) in links)
        {
            html.Raw(first ? ""u8 : "&ensp;"u8);
            first = false;
            Link(html, view, words, href);
        }
    }

    public static void LinkLine(Utf8Writer html, in BlockView view, string style, string words, string href, int below = 0)
    {
        if (words.Length == 0)
        {
            return;
        }

        OpenLine(html, view, style, below);
        Link(html, view, words, href);
        html.Raw("</p>"u8);
    }

    public static void Gap(Utf8Writer html, int height)
    {
        if (height > 0)
        {
            html.Raw("<div style=\"height:"u8)
                .Number(height)
                .Raw("px;line-height:"u8)
                .Number(height)
                .Raw("px;font-size:1px\">&#8202;</div>"u8);
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

    private static void Below(Utf8Writer html, int below)
    {
        if (below > 0)
        {
            html.Raw(" 0 "u8).Number(below).Raw("px"u8);
        }

        html.Raw(";"u8);
    }
}
