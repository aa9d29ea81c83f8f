using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>
/// Writes a row: a full-width table on the page, the content area inside it, the columns inside that. Columns stack
/// without media queries: each is an inline block at least its share wide whose calculated width turns from far below
/// nothing to far above the whole where 480 px is crossed. The Word-based client knows neither and gets a table.
/// </summary>
internal static class RowWriter
{
    /// <summary>Below this width of the content, columns stand one above the other.</summary>
    private const int StackBelow = 480;

    /// <summary>Half of the space between two columns.</summary>
    private const int Gutter = 8;

    public static void Write(Utf8Writer html, ResolvedRow row, RowPlace place, in Press press)
    {
        var dress = press.DressOf(row);
        var surface = dress[row.Surface];
        var (side, above) = row.FullWidth ? (0, 0) : (dress.Padding, dress.RowSpace);
        var width = dress.Width - (2 * dress.EdgeWidth);
        var several = row.Columns.Length > 1;
        var own = several && side >= Gutter ? side - Gutter : side;

        html.Raw("<table role=\"presentation\" class=\"pg\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\""u8);
        Mark(html, " data-row=\""u8, row.Id, press.Marks);
        html.Raw(" style=\"background-color:"u8).Raw(dress.Page).Raw("\"><tr><td align=\"center\""u8);
        OuterSpace(html, place, dress);
        html.Raw("><!--[if mso]><table role=\"presentation\" width=\""u8).Number(dress.Width).Raw("\" align=\"center\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td"u8);
        if (dress.EdgeWidth > 0)
        {
            html.Raw(" style=\""u8);
            Edge(html, place, dress);
            html.Raw("\""u8);
        }

        html.Raw("><![endif]--><div"u8).Raw(dress.EdgeWidth > 0 ? " class=\"ed\""u8 : ""u8).Raw(" style=\"max-width:"u8).Number(dress.Width).Raw("px;margin:0 auto"u8);
        Outline(html, place, dress);
        html.Raw("\"><table role=\"presentation\" class=\""u8).Raw(surface.BackgroundClass).Raw("\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\" style=\"background-color:"u8)
            .Raw(surface.Background).Raw("\"><tr><td align=\"left\""u8).Raw(own > 0 ? dress.SideClass : []).Raw(" style=\"padding:"u8).Number(above).Raw("px "u8).Number(own).Raw("px\">"u8);

        if (several)
        {
            Columns(html, row, width - (2 * own), press);
        }
        else
        {
            Blocks(html, row, row.Columns[0], width - (2 * side), dress, press);
        }

        html.Raw("</td></tr></table></div><!--[if mso]></td></tr></table><![endif]--></td></tr></table>"u8);
    }

    // The content area's own space, border and corners are written by the rows at its two ends.
    private static void OuterSpace(Utf8Writer html, RowPlace place, Dress dress)
    {
        if (dress.HasOuterSpace && place != RowPlace.Between)
        {
            html.Raw(place switch { RowPlace.First => " class=\"ot\""u8, RowPlace.Last => " class=\"ob\""u8, _ => " class=\"ot ob\""u8 });
        }

        html.Raw(" style=\"padding:"u8).Number(place.IsFirst() ? dress.OuterSpace : 0).Raw("px 0 "u8).Number(place.IsLast() ? dress.OuterSpace : 0).Raw("px\""u8);
    }

    private static void Outline(Utf8Writer html, RowPlace place, Dress dress)
    {
        if (dress.EdgeWidth > 0)
        {
            html.Raw(";box-sizing:border-box;"u8);
            Edge(html, place, dress);
        }

        if (dress.Radius > 0 && place != RowPlace.Between)
        {
            var (top, bottom) = (place.IsFirst() ? dress.Radius : 0, place.IsLast() ? dress.Radius : 0);
            html.Raw(";overflow:hidden;border-radius:"u8).Number(top).Raw("px "u8).Number(top).Raw("px "u8).Number(bottom).Raw("px "u8).Number(bottom).Raw("px"u8);
        }
    }

    private static void Edge(Utf8Writer html, RowPlace place, Dress dress)
    {
        html.Raw("border-left:"u8).Raw(dress.Edge).Raw(";border-right:"u8).Raw(dress.Edge);
        if (place.IsFirst())
        {
            html.Raw(";border-top:"u8).Raw(dress.Edge);
        }

        if (place.IsLast())
        {
            html.Raw(";border-bottom:"u8).Raw(dress.Edge);
        }
    }

    private static void Columns(Utf8Writer html, ResolvedRow row, int width, in Press press)
    {
        var total = row.Columns.Sum(c => c.Parts);
        var left = width;
        for (var i = 0; i < row.Columns.Length; i++)
        {
            var column = row.Columns[i];
            // Whole pixels; the last column takes what rounding leaves.
            var own = i == row.Columns.Length - 1 ? left : width * column.Parts / total;
            left -= own;
            html.Raw(i == 0 ? "<!--[if mso]><table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td valign=\"top\" width=\""u8
                : "<!--[if mso]></td><td valign=\"top\" width=\""u8).Number(own).Raw("\"><![endif]--><div class=\"k\" style=\"display:inline-block;vertical-align:top;width:"u8).Number(own)
                .Raw("px;min-width:"u8);
            Percent(html, own, width);
            html.Raw("%;max-width:100%;width:calc(("u8).Number(StackBelow).Raw("px - 100%) * "u8).Number(StackBelow).Raw(")\"><table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td style=\"padding:0 "u8)
                .Number(Gutter).Raw("px\">"u8);
            Blocks(html, row, column, own - (2 * Gutter), press.DressOf(row), press);
            html.Raw("</td></tr></table></div>"u8);
        }

        html.Raw("<!--[if mso]></td></tr></table><![endif]-->"u8);
    }

    // Rounded down to a ten-thousandth, so that the columns of a row never add up to more than the whole.
    private static void Percent(Utf8Writer html, int own, int width)
    {
        var share = (int)((long)own * 1_000_000 / width);
        html.Number(share / 10_000).Raw("."u8);
        for (var digit = 1000; digit >= 1; digit /= 10)
        {
            html.Number(share / digit % 10);
        }
    }

    private static void Blocks(Utf8Writer html, ResolvedRow row, ResolvedColumn column, int width, Dress dress, in Press press)
    {
        html.Raw("<table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\">"u8);
        foreach (var block in column.Blocks)
        {
            var kind = BlockKinds.Of(block.Master);
            var (above, side) = (dress.BlockSpace / 2, 0);
            if (row.FullWidth)
            {
                (above, side) = kind.ReachesEdges ? (0, 0) : (dress.BlockSpace, dress.Padding);
            }

            var align = block.Look.GetValueOrDefault("align", "left");
            html.Raw("<tr><td"u8).Raw(side > 0 ? dress.SideClass : []);
            Mark(html, " data-piece=\""u8, block.Id, press.Marks);
            html.Raw(" align=\""u8).Text(align).Raw("\" style=\"padding:"u8).Number(above).Raw("px "u8).Number(side).Raw("px;text-align:"u8).Text(align).Raw("\">"u8);
            var view = press.View(row, block, width - (2 * side));
            kind.WriteHtml(html, view);
            html.Raw("</td></tr>"u8);
        }

        html.Raw(column.Blocks.IsEmpty ? "<tr><td></td></tr></table>"u8 : "</table>"u8);
    }

    private static void Mark(Utf8Writer html, ReadOnlySpan<byte> attribute, string id, bool marks)
    {
        if (marks)
        {
            html.Raw(attribute).Text(id).Raw("\""u8);
        }
    }
}
