using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// All of a row but what stands in it: a full-width table on the page, the content area inside it, the columns inside
/// that. Rows that look alike share one, and the rows of a house style look alike in few ways.
/// </summary>
/// <param name="Cuts">Where the row's id goes, then where the blocks of each column go, in the order they are written.</param>
/// <param name="Widths">CSS pixels that each column has for what stands in it.</param>
internal sealed record RowFrame(byte[] Html, int[] Cuts, ImmutableArray<int> Widths)
{
    /// <summary>What a frame depends on beside the theme. Parts are at most 12 wide and 4 of them: four bits each.</summary>
    internal readonly record struct Look(
        Surface Surface,
        bool FullWidth,
        bool Across,
        RowSpace Space,
        PhoneColumns Phone,
        Visibility Shown,
        RowPlace Place,
        int Parts
    );

    /// <summary>Up to the row's id.</summary>
    public ReadOnlySpan<byte> Opening => Html.AsSpan(0, Cuts[0]);

    /// <summary>Up to the blocks of a column; for the number of columns: after the last.</summary>
    public ReadOnlySpan<byte> BeforeColumn(int column) =>
        Html.AsSpan(Cuts[column]..(column + 1 < Cuts.Length ? Cuts[column + 1] : Html.Length));

    /// <summary>The frame of a row without a picture behind it.</summary>
    public static RowFrame ForRow(ResolvedRow row, RowPlace place, Theme theme)
    {
        var parts = 0;
        foreach (var column in row.Columns)
        {
            parts = (parts << 4) | column.Parts;
        }

        var look = new Look(row.Surface, row.FullWidth, row.Across, row.Space, row.Phone, row.Shown, place, parts);
        return theme.Frames.TryGetValue(look, out var known) ? known : theme.Frames.GetOrAdd(look, Make(row, place, theme, null, null));
    }

    /// <param name="context">Needed where there is a picture behind the row.</param>
    public static RowFrame Make(ResolvedRow row, RowPlace place, Theme theme, Picture? background, RenderContext? context)
    {
        var (html, cuts) = (new Utf8Writer(), new List<int>());
        var surface = theme[row.Surface];
        var (side, above) = row.FullWidth ? (0, 0) : (theme.Padding, Space(theme.RowSpace, row.Space));
        var width = theme.Width - (2 * theme.EdgeWidth);
        var several = row.Columns.Length > 1;
        var own = several && side >= ColumnsWriter.Gutter ? side - ColumnsWriter.Gutter : side;

        Hidden.Open(html, row.Shown);
        html.Raw("<table role=\"presentation\" class=\""u8)
            .Raw(row.Across ? surface.BackgroundClass : "pg"u8)
            .Raw(Hidden.Class(row.Shown, inTable: false))
            .Raw("\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\""u8);
        cuts.Add(html.Written.Length);
        html.Raw(" style=\"background-color:"u8).Raw(row.Across ? surface.Background : theme.Page);
        if (row.Across && background is not null)
        {
            Picture(html, background, theme, context!);
        }

        html.Raw(Hidden.Style(row.Shown)).Raw("\"><tr><td align=\"center\""u8);
        OuterSpace(html, place, theme);
        html.Raw("><!--[if mso]><table role=\"presentation\" width=\""u8)
            .Number(theme.Width)
            .Raw("\" align=\"center\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td"u8);
        if (theme.EdgeWidth > 0)
        {
            html.Raw(" style=\""u8);
            Edge(html, place, theme);
            html.Raw("\""u8);
        }

        html.Raw(">"u8);
        if (background is not null)
        {
            // That client shows background pictures only as shapes filled with them; the colour is theirs too.
            html.Raw("<v:rect xmlns:v=\"urn:schemas-microsoft-com:vml\" fill=\"true\" stroke=\"false\" style=\"width:"u8)
                .Number(width)
                .Raw("px\"><v:fill type=\"frame\" src=\""u8)
                .Raw(context!.PicturesAtHtml)
                .Text(background.FileFor(theme.Width).Name)
                .Raw("\" color=\""u8)
                .Raw(surface.Background)
                .Raw("\"/><v:textbox style=\"mso-fit-shape-to-text:true\" inset=\"0,0,0,0\">"u8);
        }

        html.Raw("<![endif]--><div"u8)
            .Raw(theme.EdgeWidth > 0 ? " class=\"ed\""u8 : ""u8)
            .Raw(" style=\"max-width:"u8)
            .Number(theme.Width)
            .Raw("px;margin:0 auto"u8);
        Outline(html, place, theme);
        html.Raw("\"><table role=\"presentation\""u8);
        if (row.Across && background is not null)
        {
            html.Raw(" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\""u8);
        }
        else
        {
            html.Raw(" class=\""u8)
                .Raw(surface.BackgroundClass)
                .Raw("\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\" style=\"background-color:"u8)
                .Raw(surface.Background);
            if (background is not null)
            {
                Picture(html, background, theme, context!);
            }

            html.Raw("\""u8);
        }

        html.Raw("><tr><td align=\"left\""u8)
            .Raw(own > 0 ? theme.SideClass : [])
            .Raw(" style=\"padding:"u8)
            .Number(above)
            .Raw("px "u8)
            .Number(own)
            // A word longer than the screen is broken, not the screen.
            .Raw("px;word-break:break-word\">"u8);
        var widths = RowWidths.Measure(row, theme);
        if (several)
        {
            Columns(html, row, widths, cuts);
        }
        else
        {
            cuts.Add(html.Written.Length);
        }

        html.Raw("</td></tr></table></div><!--[if mso]>"u8)
            .Raw(background is not null ? "</v:textbox></v:rect>"u8 : ""u8)
            .Raw("</td></tr></table><![endif]--></td></tr></table>"u8);
        Hidden.Close(html, row.Shown);
        return new RowFrame(html.ToArray(), [.. cuts], widths);
    }

    private static int Space(int usual, RowSpace space) =>
        space switch
        {
            RowSpace.Usual => usual,
            RowSpace.None => 0,
            RowSpace.Tight => usual / 2,
            RowSpace.Roomy => usual * 2,
            _ => throw new ArgumentOutOfRangeException(nameof(space)),
        };

    // The colour stands beneath: whoever gets no background pictures gets the surface.
    private static void Picture(Utf8Writer html, Picture picture, Theme theme, RenderContext context) =>
        html.Raw(";background-image:url('"u8)
            .Raw(context.PicturesAtHtml)
            .Text(picture.FileFor(theme.Width).Name)
            .Raw("');background-size:cover;background-position:center"u8);

    // The content area's own space, border and corners are written by the rows at its two ends.
    private static void OuterSpace(Utf8Writer html, RowPlace place, Theme theme)
    {
        if (theme.HasOuterSpace && place != RowPlace.Between)
        {
            html.Raw(
                place switch
                {
                    RowPlace.First => " class=\"ot\""u8,
                    RowPlace.Last => " class=\"ob\""u8,
                    _ => " class=\"ot ob\""u8,
                }
            );
        }

        html.Raw(" style=\"padding:"u8)
            .Number(place.IsFirst() ? theme.OuterSpace : 0)
            .Raw("px 0 "u8)
            .Number(place.IsLast() ? theme.OuterSpace : 0)
            .Raw("px\""u8);
    }

    private static void Outline(Utf8Writer html, RowPlace place, Theme theme)
    {
        if (theme.EdgeWidth > 0)
        {
            html.Raw(";box-sizing:border-box;"u8);
            Edge(html, place, theme);
        }

        if (theme.Radius > 0 && place != RowPlace.Between)
        {
            var (top, bottom) = (place.IsFirst() ? theme.Radius : 0, place.IsLast() ? theme.Radius : 0);
            html.Raw(";overflow:hidden;border-radius:"u8)
                .Number(top)
                .Raw("px "u8)
                .Number(top)
                .Raw("px "u8)
                .Number(bottom)
                .Raw("px "u8)
                .Number(bottom)
                .Raw("px"u8);
        }
    }

    private static void Edge(Utf8Writer html, RowPlace place, Theme theme)
    {
        html.Raw("border-left:"u8).Raw(theme.Edge).Raw(";border-right:"u8).Raw(theme.Edge);
        if (place.IsFirst())
        {
            html.Raw(";border-top:"u8).Raw(theme.Edge);
        }

        if (place.IsLast())
        {
            html.Raw(";border-bottom:"u8).Raw(theme.Edge);
        }
    }

    private static void Columns(Utf8Writer html, ResolvedRow row, ImmutableArray<int> inside, List<int> cuts)
    {
        var (keeps, reversed) = (row.Phone == PhoneColumns.Keep, row.Phone == PhoneColumns.StackReversed);
        ImmutableArray<int> widths = [.. inside.Select(w => w + (2 * ColumnsWriter.Gutter))];
        ColumnsWriter.Open(html, keeps, reversed);
        for (var i = 0; i < widths.Length; i++)
        {
            ColumnsWriter.OpenColumn(html, i, widths[reversed ? widths.Length - 1 - i : i], widths.Sum(), keeps, reversed);
            cuts.Add(html.Written.Length);
            ColumnsWriter.CloseColumn(html, keeps);
        }

        ColumnsWriter.Close(html, keeps, reversed);
    }
}
