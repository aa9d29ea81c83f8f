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
    public void Write(Utf8Writer html, in BlockView view, int width, bool whole, bool block)
    {
        var linked = !Links.IsPlaceholder(Link);
        if (linked)
        {
            html.Raw("<a href=\""u8).Href(Link).Raw("\" style=\"text-decoration:none\">"u8);
        }

        if (Phone is not null)
        {
            html.Raw("<picture><source media=\"(max-width:480px)\" srcset=\""u8)
                .Raw(view.Context.PicturesAtHtml)
                .Text(Phone.Name)
                .Raw("\">"u8);
        }

        // A column that stacks on a phone may be wider there than on a desktop.
        var file = Picture.FileFor(Math.Max(width, whole ? Math.Min(480, view.Theme.Width) : 0));
        html.Raw("<img src=\""u8)
            .Raw(view.Context.PicturesAtHtml)
            .Text(file.Name)
            .Raw("\" alt=\""u8)
            .Text(Alt)
            .Raw("\" class=\""u8)
            .Raw(view.Surface.TextClass)
            .Raw("\" width=\""u8)
            .Number(width)
            .Raw("\" style=\"display:"u8)
            .Raw(block ? "block"u8 : "inline-block"u8)
            // A whole-column picture is bounded by its column alone, so that it fills a column that stacks on a phone.
            .Raw(";vertical-align:top;width:100%;max-width:"u8)
            .Number(whole ? Picture.Width : width)
            .Raw("px;height:auto;border:0;border-radius:"u8)
            .Number(view.Theme.PictureRadius)
            .Raw("px;"u8);
        ProseWriter.Declarations(html, view.Theme.Type("body").Style, view.Surface.Text);
        html.Raw("\">"u8).Raw(Phone is not null ? "</picture>"u8 : ""u8).Raw(linked ? "</a>"u8 : ""u8);
    }

    /// <summary>CSS pixels: the share of the column, but never more than the file has.</summary>
    public static int Width(int column, int percent, Picture picture) => Math.Max(1, Math.Min(column * percent / 100, picture.Width));
}
