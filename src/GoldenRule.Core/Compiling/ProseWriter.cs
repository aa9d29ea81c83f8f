using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>Rich text to HTML: paragraphs, lists, emphasis and links, dressed in one text style.</summary>
internal static class ProseWriter
{
    public static void Write(
        Utf8Writer html,
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
                html.Raw("<p class=\""u8).Raw(colourClass).Raw(type.Class).Raw("\" style=\"margin:0"u8);
                if (!last)
                {
                    html.Raw(" 0 "u8).Raw(theme.ParagraphSpace);
                }

                html.Raw(";"u8);
                Declarations(html, type.Style, colour);
                html.Raw("\">"u8);
                Runs(html, paragraphs[i], surface, theme);
                html.Raw("</p>"u8);
                continue;
            }

            if (i == 0 || paragraphs[i - 1].List != list)
            {
                html.Raw(list == ListStyle.Bullet ? "<ul"u8 : "<ol"u8)
                    .Raw(" class=\""u8)
                    .Raw(colourClass)
                    .Raw(type.Class)
                    .Raw("\" style=\""u8)
                    .Raw(theme.ListStyle)
                    .Raw(list == ListStyle.Bullet ? theme.ListMarker : []);
                Declarations(html, type.Style, colour);
                html.Raw("\">"u8);
            }

            html.Raw("<li style=\""u8).Raw(theme.ListItem).Raw("\">"u8);
            Runs(html, paragraphs[i], surface, theme);
            html.Raw("</li>"u8);
            if (last || paragraphs[i + 1].List != list)
            {
                html.Raw(list == ListStyle.Bullet ? "</ul>"u8 : "</ol>"u8);
            }
        }
    }

    public static void Declarations(Utf8Writer html, byte[] type, byte[] colour) => html.Raw(type).Raw("color:"u8).Raw(colour);

    public static void Link(Utf8Writer html, string href, SurfaceDress surface, Theme theme)
    {
        html.Raw("<a href=\""u8)
            .Href(href)
            .Raw("\" class=\""u8)
            .Raw(surface.LinkClass)
            .Raw("\" style=\"color:"u8)
            .Raw(surface.Link)
            .Raw(theme.Link)
            .Raw("\">"u8);
    }

    /// <summary>An address as an attribute's value. What is not safe to follow is written as "#", which the checks report.</summary>
    public static Utf8Writer Href(this Utf8Writer html, string href) => Links.IsSafe(href) ? html.Text(href) : html.Raw("#"u8);

    private static void Runs(Utf8Writer html, Paragraph paragraph, SurfaceDress surface, Theme theme)
    {
        foreach (var run in paragraph.Runs)
        {
            if (run.Href is not null)
            {
                Link(html, run.Href, surface, theme);
            }

            html.Raw(run.Bold ? "<strong>"u8 : ""u8).Raw(run.Italic ? "<em>"u8 : ""u8);
            Lines(html, run.Text);
            html.Raw(run.Italic ? "</em>"u8 : ""u8).Raw(run.Bold ? "</strong>"u8 : ""u8);
            html.Raw(run.Href is not null ? "</a>"u8 : ""u8);
        }
    }

    private static void Lines(Utf8Writer html, ReadOnlySpan<char> text)
    {
        for (var feed = text.IndexOf('\n'); feed >= 0; feed = text.IndexOf('\n'))
        {
            html.Text(text[..feed]).Raw("<br>"u8);
            text = text[(feed + 1)..];
        }

        html.Text(text);
    }
}
