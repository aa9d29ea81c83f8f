using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling;

/// <summary>A picture with heading, words and a link beside or below it: what article cards and offers are made of.</summary>
/// <param name="Price">Stands between heading and text; empty: there is none.</param>
/// <param name="Was">What it cost before; empty: nothing is said.</param>
internal readonly record struct CardWriter(
    string Picture,
    string Alt,
    string Heading,
    RichText Text,
    string LinkText,
    string Link,
    string Price = "",
    string Was = ""
)
{
    /// <summary>Below this width, CSS pixels, a picture does not stand beside its words.</summary>
    public const int LeastBeside = 480;

    /// <param name="placing">Where the picture stands: "above", "left" or "right".</param>
    /// <param name="linkStyle">"link", or a button's style.</param>
    /// <param name="anchor">The id that a contents list leads to; null: none does.</param>
    public void Write(HtmlWriter html, in BlockView view, int width, string placing, int level, string linkStyle, string? anchor)
    {
        if (view.Pictures.Find(Picture) is not { } picture)
        {
            Words(html, view, width, level, linkStyle, anchor);
            return;
        }

        var writer = new PictureWriter(picture, Alt, Link);
        if (placing == "above" || width < LeastBeside)
        {
            writer.Write(html, view, PictureWriter.Width(width, 100, picture), true, true);
            Parts.Gap(html, view.Theme.BlockSpace);
            Words(html, view, width, level, linkStyle, anchor);
            return;
        }

        // The picture is written first and so is on top on a phone; on the right it is the first from the right.
        var reversed = placing == "right";
        var widths = ColumnsWriter.Widths([2, 3], width);
        ColumnsWriter.Open(html, false, reversed);
        var (first, second) = (ColumnsWriter.Inside(reversed ? 1 : 0, 2), ColumnsWriter.Inside(reversed ? 0 : 1, 2));
        ColumnsWriter.OpenColumn(html, 0, widths[0], width, false, reversed, first);
        writer.Write(html, view, PictureWriter.Width(widths[0] - first.Left - first.Right, 100, picture), true, true);
        Parts.Gap(html, view.Theme.BlockSpace);
        ColumnsWriter.CloseColumn(html, false);
        ColumnsWriter.OpenColumn(html, 1, widths[1], width, false, reversed, second);
        Words(html, view, widths[1] - second.Left - second.Right, level, linkStyle, anchor);
        ColumnsWriter.CloseColumn(html, false);
        ColumnsWriter.Close(html, false, reversed);
    }

    public void WriteText(PlainTextWriter text, int level)
    {
        if (Heading.Length > 0)
        {
            text.Heading(Heading, level);
        }

        if (Price.Length > 0)
        {
            text.Line(Was.Length > 0 ? $"{Price} (was {Was})" : Price);
        }

        text.Prose(Text);
        if (!Links.IsPlaceholder(Link) || LinkText.Length > 0)
        {
            text.Line(PlainTextWriter.Link(LinkText, Link));
        }
    }

    /// <summary>Readings of everything that a card can show.</summary>
    public static IEnumerable<Reading> Readings(
        BlockView view,
        bool dark,
        int level,
        string linkStyle,
        Func<BlockView, bool, string, string, string, Reading> read
    ) =>
        [
            read(view, dark, "Heading", Parts.HeadingStyle(level), "heading"),
            read(view, dark, "Text", "body", "text"),
            linkStyle == "link" ? read(view, dark, "Link", "body", "link") : ButtonWriter.Reading(view, linkStyle, dark),
        ];

    private void Words(HtmlWriter html, in BlockView view, int width, int level, string linkStyle, string? anchor)
    {
        var gap = view.Theme.BlockSpace / 2;
        Parts.Heading(html, view, level, Heading, anchor, gap);
        if (Price.Length > 0)
        {
            Parts.OpenLine(html, view, "body", gap, bold: true);
            html.Text(Price);
            if (Was.Length > 0)
            {
                // Struck through for the eye, said in words for the ear.
                html.Write(
                    $""" <span class="{view.Surface.QuietClass}" style="color:{view.Surface.Quiet};font-weight:normal">"""
                        + $"was <s>{Was}</s></span>"
                );
            }

            html.Write("</p>"u8);
        }

        Parts.Prose(html, view, "body", Text);
        if (LinkText.Length == 0)
        {
            return;
        }

        Parts.Gap(html, Text.IsEmpty ? 0 : gap * 2);
        if (linkStyle == "link")
        {
            Parts.LinkLine(html, view, "body", LinkText, Link);
        }
        else
        {
            ButtonWriter.Write(html, view.Theme, linkStyle, LinkText, Link, false, width);
        }
    }
}
