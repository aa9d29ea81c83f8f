using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>A link in a padded box; the Word-based client gets the same as a VML shape.</summary>
internal static class ButtonWriter
{
    /// <param name="style">"primary", "secondary" or "quiet".</param>
    /// <param name="full">True: as wide as there is room.</param>
    /// <param name="width">CSS pixels of room.</param>
    public static void Write(Utf8Writer html, Theme theme, string style, string words, string link, bool full, int width)
    {
        var button = theme.Button(style);
        full |= button.Full;
        html.Raw(
                "<!--[if mso]><v:roundrect xmlns:v=\"urn:schemas-microsoft-com:vml\" "u8
                    + "xmlns:w=\"urn:schemas-microsoft-com:office:word\" href=\""u8
            )
            .Href(link)
            .Raw("\" style=\"height:"u8)
            .Number(button.Height)
            .Raw("px;v-text-anchor:middle;width:"u8)
            .Number(full ? width : EstimatedWidth(button, words, width))
            .Raw("px\" arcsize=\""u8)
            .Number(button.ArcPercent)
            .Raw(button.BorderWidth > 0 ? "%\" strokecolor=\""u8 : "%\" stroked=\"f\" strokecolor=\""u8)
            .Raw(button.Border)
            .Raw("\" fillcolor=\""u8)
            .Raw(button.Fill)
            .Raw("\"><w:anchorlock/><center style=\"color:"u8)
            .Raw(button.Text)
            .Raw(";font-family:"u8)
            .Raw(button.Font)
            .Raw(";font-size:"u8)
            .Number(button.Size)
            .Raw("px;font-weight:bold\">"u8)
            .Text(words)
            .Raw("</center></v:roundrect><![endif]--><!--[if !mso]><!-->"u8);
        html.Raw("<a href=\""u8)
            .Href(link)
            .Raw("\" class=\""u8)
            .Raw(button.Class)
            .Raw("\" style=\""u8)
            .Raw(button.Style)
            .Raw(full ? "width:100%"u8 : ""u8)
            .Raw("\">"u8)
            .Text(words)
            .Raw("</a><!--<![endif]-->"u8);
    }

    /// <summary>Several side by side as far as there is room, one below the other where there is not.</summary>
    public static void WriteSeveral(Utf8Writer html, in BlockView view, IReadOnlyList<(string Style, string Words, string Link)> buttons)
    {
        var (gap, width) = (view.Theme.BlockSpace, view.Width / Math.Max(1, buttons.Count));
        html.Raw("<!--[if mso]><table role=\"presentation\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td><![endif]-->"u8);
        for (var i = 0; i < buttons.Count; i++)
        {
            html.Raw(i > 0 ? "<!--[if mso]></td><td style=\"padding-left:"u8 : ""u8);
            if (i > 0)
            {
                html.Number(gap).Raw("px\"><![endif]-->"u8);
            }

            html.Raw("<span style=\"display:inline-block;max-width:100%;vertical-align:top;padding:"u8)
                .Number(gap / 2)
                .Raw("px "u8)
                .Number(i < buttons.Count - 1 ? gap : 0)
                .Raw("px "u8)
                .Number(gap / 2)
                .Raw("px 0\">"u8);
            Write(html, view.Theme, buttons[i].Style, buttons[i].Words, buttons[i].Link, false, width);
            html.Raw("</span>"u8);
        }

        html.Raw("<!--[if mso]></td></tr></table><![endif]-->"u8);
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
