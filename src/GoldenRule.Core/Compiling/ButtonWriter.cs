using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>A link in a padded box; the Word-based client gets the same as a VML shape.</summary>
internal static class ButtonWriter
{
    /// <param name="style">"primary", "secondary" or "quiet".</param>
    /// <param name="full">True: as wide as there is room.</param>
    /// <param name="width">CSS pixels of room.</param>
    public static void Write(HtmlWriter html, Theme theme, string style, string words, string link, bool full, int width)
    {
        var button = theme.Button(style);
        full |= button.Full;
        html.Write(
            $"<!--[if mso]>"
                + $"""<v:roundrect xmlns:v="urn:schemas-microsoft-com:vml" xmlns:w="urn:schemas-microsoft-com:office:word" """
                + $"""href="{HtmlWriter.Href(link)}" style="height:{button.Height}px;v-text-anchor:middle;"""
                + $"""width:{(full ? width : EstimatedWidth(button, words, width))}px" arcsize="{button.ArcPercent}%" """
                + $"""{(button.BorderWidth > 0 ? [] : "stroked=\"f\" "u8)}strokecolor="{button.Border}" """
                + $"""fillcolor="{button.Fill}"><w:anchorlock/>"""
                + $"""<center style="color:{button.Text};font-family:{button.Font};font-size:{button.Size}px;font-weight:bold">{words}"""
                + $"</center></v:roundrect><![endif]--><!--[if !mso]><!-->"
        );
        html.Write(
            $"""<a href="{HtmlWriter.Href(link)}" class="{button.Class}" """
                + $"""style="{button.Style}{(full ? "width:100%"u8 : [])}">{words}</a><!--<![endif]-->"""
        );
    }

    /// <summary>Several side by side as far as there is room, one below the other where there is not.</summary>
    public static void WriteSeveral(HtmlWriter html, in BlockView view, IReadOnlyList<(string Style, string Words, string Link)> buttons)
    {
        var (gap, width) = (view.Theme.BlockSpace, view.Width / Math.Max(1, buttons.Count));
        html.Write("<!--[if mso]><table role=\"presentation\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td><![endif]-->"u8);
        for (var i = 0; i < buttons.Count; i++)
        {
            if (i > 0)
            {
                html.Write($"""<!--[if mso]></td><td style="padding-left:{gap}px"><![endif]-->""");
            }

            html.Write(
                $"""<span style="display:inline-block;max-width:100%;vertical-align:top;"""
                    + $"""padding:{gap / 2}px {(i < buttons.Count - 1 ? gap : 0)}px {gap / 2}px 0">"""
            );
            Write(html, view.Theme, buttons[i].Style, buttons[i].Words, buttons[i].Link, false, width);
            html.Write("</span>"u8);
        }

        html.Write("<!--[if mso]></td></tr></table><![endif]-->"u8);
    }

    public static Reading Reading(in BlockView view, string style, bool dark) =>
        new(
            "Button",
            view.Theme.Style.Colour(style, "text", dark),
            view.Theme.Style.Colour(style, "fill", dark),
            view.Theme.Style.Number(style, "size"),
            view.Theme.Style.Number(style, "weight") >= 700,
            dark
        );

    /// <summary>VML shapes do not grow with their text; 0.6 em a character is what common sans faces need at most.</summary>
    public static int EstimatedWidth(ButtonDress button, string words, int most) =>
        Math.Min(most, (int)(Measuring.Characters(words) * button.Size * 0.6) + (2 * button.PaddingInline));
}
