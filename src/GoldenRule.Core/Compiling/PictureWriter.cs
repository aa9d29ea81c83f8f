using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling;

/// <summary>A picture, fluid up to its width, linked or not, with its alt text dressed for readers with pictures off.</summary>
/// <param name="Alt">Empty: decorative.</param>
/// <param name="Link">A placeholder: it is not linked.</param>
/// <param name="Phone">A file that phones get in its place. Null: the same.</param>
internal readonly record struct PictureWriter(Picture Picture, string Alt, string Link, PictureFile? Phone = null)
{
    /// <param name="width">CSS pixels it is shown at.</param>
    /// <param name="whole">True: as wide as its column, also where that stacks on a phone.</param>
    /// <param name="block">True: a block of its own; else it stands in a line.</param>
    public void Write(HtmlWriter html, in BlockView view, int width, bool whole, bool block)
    {
        var linked = !Links.IsPlaceholder(Link);
        if (linked)
        {
            html.Write($"""<a href="{HtmlWriter.Href(Link)}" style="text-decoration:none">""");
        }

        if (Phone is not null)
        {
            html.Write($"""<picture><source media="(max-width:480px)" srcset="{view.Context.PicturesAtHtml}{Phone.Name}">""");
        }

        // A column that stacks on a phone may be wider there than on a desktop.
        var file = Picture.FileFor(Math.Max(width, whole ? Math.Min(480, view.Theme.Width) : 0));
        // Whole, it is bounded by its column alone, so that it fills one that stacks on a phone.
        html.Write(
            $"""<img src="{view.Context.PicturesAtHtml}{file.Name}" alt="{Alt}" class="{view.Surface.TextClass}" """
                + $"""width="{width}" style="display:{(block ? "block"u8 : "inline-block"u8)};vertical-align:top;width:100%;"""
                + $"max-width:{(whole ? Picture.Width : width)}px;height:auto;border:0;border-radius:{view.Theme.PictureRadius}px;"
                + $"""{view.Theme.Type("body").Style}color:{view.Surface.Text}">"""
                + $"{(Phone is not null ? "</picture>"u8 : [])}{(linked ? "</a>"u8 : [])}"
        );
    }

    /// <summary>CSS pixels: the share of the column, but never more than the file has.</summary>
    public static int Width(int column, int percent, Picture picture) => Math.Max(1, Math.Min(column * percent / 100, picture.Width));
}
