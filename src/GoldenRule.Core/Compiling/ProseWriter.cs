using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>Rich text to HTML: paragraphs, lists, emphasis and links, dressed in one text style.</summary>
internal static class ProseWriter
{
    public static void Write(
        HtmlWriter html,
        RichText text,
        TypeDress type,
        byte[] colour,
        byte[] colourClass,
        SurfaceDress surface,
        Theme theme
    )
    {
        var paragraphs = text.Paragraphs;
        for (var i = 0; i < paragraphs.Length; i++)
        {
            var list = paragraphs[i].List;
            var last = i == paragraphs.Length - 1;
            if (list == ListStyle.None)
            {
                html.Write(
                    $"""<p class="{colourClass}{type.Class}" """
                        + $"""style="margin:0{(last ? [] : " 0 "u8)}{(last ? [] : theme.ParagraphSpace)};{type.Style}color:{colour}">"""
                );
                Runs(html, paragraphs[i], surface, theme);
                html.Write("</p>"u8);
                continue;
            }

            if (i == 0 || paragraphs[i - 1].List != list)
            {
                OpenList(html, list == ListStyle.Bullet, type, colour, colourClass, theme);
            }

            html.Write($"""<li style="{theme.ListItem}">""");
            Runs(html, paragraphs[i], surface, theme);
            html.Write("</li>"u8);
            if (last || paragraphs[i + 1].List != list)
            {
                html.Write(list == ListStyle.Bullet ? "</ul>"u8 : "</ol>"u8);
            }
        }
    }

    public static void OpenList(HtmlWriter html, bool bullets, TypeDress type, byte[] colour, byte[] colourClass, Theme theme) =>
        html.Write(
            $"""<{(bullets ? "ul"u8 : "ol"u8)} class="{colourClass}{type.Class}" """
                + $"""style="{theme.ListStyle}{(bullets ? theme.ListMarker : [])}{type.Style}color:{colour}">"""
        );

    public static void OpenLink(HtmlWriter html, string href, SurfaceDress surface, Theme theme) =>
        html.Write($"""<a href="{HtmlWriter.Href(href)}" class="{surface.LinkClass}" style="color:{surface.Link}{theme.Link}">""");

    private static void Runs(HtmlWriter html, Paragraph paragraph, SurfaceDress surface, Theme theme)
    {
        foreach (var run in paragraph.Runs)
        {
            if (run.Href is not null)
            {
                OpenLink(html, run.Href, surface, theme);
            }

            html.Write($"{(run.Bold ? "<strong>"u8 : [])}{(run.Italic ? "<em>"u8 : [])}");
            Lines(html, run.Text);
            html.Write($"{(run.Italic ? "</em>"u8 : [])}{(run.Bold ? "</strong>"u8 : [])}{(run.Href is not null ? "</a>"u8 : [])}");
        }
    }

    private static void Lines(HtmlWriter html, ReadOnlySpan<char> text)
    {
        for (var feed = text.IndexOf('\n'); feed >= 0; feed = text.IndexOf('\n'))
        {
            html.Write($"{text[..feed]}<br>");
            text = text[(feed + 1)..];
        }

        html.Text(text);
    }
}
