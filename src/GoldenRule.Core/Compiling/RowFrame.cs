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
        var (html, cuts) = (new HtmlWriter(), new List<int>());
        var surface = theme[row.Surface];
        var (side, above) = row.FullWidth ? (0, 0) : (theme.Padding, Space(theme.RowSpace, row.Space));
        var width = theme.Width - (2 * theme.EdgeWidth);
        var several = row.Columns.Length > 1;
        var own = several && side >= ColumnsWriter.Gutter ? side - ColumnsWriter.Gutter : side;

        Hidden.Open(html, row.Shown);
        html.Write(
            $"""<table role="presentation" class="{(row.Across ? surface.BackgroundClass : "pg"u8)}"""
                + $"{Hidden.Class(row.Shown, inTable: false)}\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\""
        );
        cuts.Add(html.Written.Length);
        html.Write($""" style="background-color:{(row.Across ? surface.Background : theme.Page)}""");
        if (row.Across && background is not null)
        {
            Picture(html, background, theme, context!);
        }

        html.Write($"{Hidden.Style(row.Shown)}\"><tr><td align=\"center\"");
        OuterSpace(html, place, theme);
        html.Write(
            $"><!--[if mso]>"
                + $"""<table role="presentation" width="{theme.Width}" align="center" cellpadding="0" cellspacing="0" border="0"><tr><td"""
        );
        if (theme.EdgeWidth > 0)
        {
            html.Write(" style=\""u8);
            Edge(html, place, theme);
            html.Write("\""u8);
        }

        html.Write(">"u8);
        if (background is not null)
        {
            // That client shows background pictures only as shapes filled with them; the colour is theirs too.
            html.Write(
                $"""<v:rect xmlns:v="urn:schemas-microsoft-com:vml" fill="true" stroke="false" style="width:{width}px">"""
                    + $"""<v:fill type="frame" src="{context!.PicturesAtHtml}{background.FileFor(theme.Width).Name}" """
                    + $"""color="{surface.Background}"/><v:textbox style="mso-fit-shape-to-text:true" inset="0,0,0,0">"""
            );
        }

        html.Write($"""<![endif]--><div{(theme.EdgeWidth > 0 ? " class=\"ed\""u8 : [])} style="max-width:{theme.Width}px;margin:0 auto""");
        Outline(html, place, theme);
        html.Write("\"><table role=\"presentation\""u8);
        if (row.Across && background is not null)
        {
            html.Write(" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\""u8);
        }
        else
        {
            html.Write(
                $""" class="{surface.BackgroundClass}" width="100%" cellpadding="0" cellspacing="0" border="0" """
                    + $"""style="background-color:{surface.Background}"""
            );
            if (background is not null)
            {
                Picture(html, background, theme, context!);
            }

            html.Write("\""u8);
        }

        // A word longer than the screen is broken, not the screen.
        html.Write($"""><tr><td align="left"{(own > 0 ? theme.SideClass : [])} style="padding:{above}px {own}px;word-break:break-word">""");
        var widths = RowWidths.Measure(row, theme);
        if (several)
        {
            Columns(html, row, widths, cuts);
        }
        else
        {
            cuts.Add(html.Written.Length);
        }

        html.Write(
            $"""</td></tr></table></div><!--[if mso]>{(background is not null ? "</v:textbox></v:rect>"u8 : [])}"""
                + $"</td></tr></table><![endif]--></td></tr></table>"
        );
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
    private static void Picture(HtmlWriter html, Picture picture, Theme theme, RenderContext context) =>
        html.Write(
            $";background-image:url('{context.PicturesAtHtml}{picture.FileFor(theme.Width).Name}');"
                + $"background-size:cover;background-position:center"
        );

    // The content area's own space, border and corners are written by the rows at its two ends.
    private static void OuterSpace(HtmlWriter html, RowPlace place, Theme theme)
    {
        if (theme.HasOuterSpace && place != RowPlace.Between)
        {
            html.Write(
                place switch
                {
                    RowPlace.First => " class=\"ot\""u8,
                    RowPlace.Last => " class=\"ob\""u8,
                    _ => " class=\"ot ob\""u8,
                }
            );
        }

        html.Write($" style=\"padding:{(place.IsFirst() ? theme.OuterSpace : 0)}px 0 {(place.IsLast() ? theme.OuterSpace : 0)}px\"");
    }

    private static void Outline(HtmlWriter html, RowPlace place, Theme theme)
    {
        if (theme.EdgeWidth > 0)
        {
            html.Write(";box-sizing:border-box;"u8);
            Edge(html, place, theme);
        }

        if (theme.Radius > 0 && place != RowPlace.Between)
        {
            var (top, bottom) = (place.IsFirst() ? theme.Radius : 0, place.IsLast() ? theme.Radius : 0);
            html.Write($";overflow:hidden;border-radius:{top}px {top}px {bottom}px {bottom}px");
        }
    }

    private static void Edge(HtmlWriter html, RowPlace place, Theme theme)
    {
        html.Write($"border-left:{theme.Edge};border-right:{theme.Edge}");
        if (place.IsFirst())
        {
            html.Write($";border-top:{theme.Edge}");
        }

        if (place.IsLast())
        {
            html.Write($";border-bottom:{theme.Edge}");
        }
    }

    private static void Columns(HtmlWriter html, ResolvedRow row, ImmutableArray<int> inside, List<int> cuts)
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
