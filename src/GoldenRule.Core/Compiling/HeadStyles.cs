using System.Globalization;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// The style block of the head: only what cannot be inline. One large webmail drops a block over 8,192 characters
/// (common practice, no source), so it stays well under that.
/// </summary>
internal static class HeadStyles
{
    public static byte[] Write(StyleLayers style)
    {
        var css = new StringBuilder();
        css.Append("body{margin:0;padding:0;-webkit-text-size-adjust:100%}table{border-collapse:collapse}img{border:0;line-height:100%}a:hover{text-decoration:none!important}.bp:hover,.bs:hover,.bq:hover{text-decoration:underline!important}");
        css.Append("@media (max-width:480px){.k{display:block!important;width:100%!important;max-width:100%!important;min-width:0!important}.w{display:block!important;width:auto!important}}");
        css.Append("@media (prefers-color-scheme:dark){");
        Dark(css, style, "");
        css.Append('}');
        // One large webmail marks its dark scheme by attributes instead of the media query.
        Dark(css, style, "[data-ogsc] ");
        return Encoding.UTF8.GetBytes(css.ToString());
    }

    private static void Dark(StringBuilder css, StyleLayers style, string scope)
    {
        var page = style.Colour("page", "background", dark: true);
        css.Append(CultureInfo.InvariantCulture, $"{scope}.pg{{background-color:{page}!important}}");
        foreach (var surface in Enum.GetValues<Surface>())
        {
            var (name, p) = (Dress.StyleName(surface), Dress.Prefix(surface));
            css.Append(CultureInfo.InvariantCulture, $"{scope}.{p}b{{background-color:{style.Colour(name, "background", true)}!important}}");
            foreach (var (property, suffix) in ((string, char)[])[("heading", 'h'), ("text", 't'), ("quiet", 'q'), ("link", 'l')])
            {
                css.Append(CultureInfo.InvariantCulture, $"{scope}.{p}{suffix}{{color:{style.Colour(name, property, true)}!important}}");
            }
        }

        foreach (var button in (string[])["primary", "secondary", "quiet"])
        {
            css.Append(CultureInfo.InvariantCulture, $"{scope}.b{button[0]}{{background-color:{style.Colour(button, "fill", true)}!important;border-color:{style.Colour(button, "border", true)}!important;color:{style.Colour(button, "text", true)}!important}}");
        }

        css.Append(CultureInfo.InvariantCulture, $"{scope}.dv{{border-color:{style.Colour("divider", "colour", true)}!important}}");
    }
}
