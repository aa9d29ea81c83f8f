using GoldenRule.Core.Documents;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling;

/// <summary>Writes a row: its frame, and what stands in its columns.</summary>
internal static class RowWriter
{
    public static void Write(HtmlWriter html, ResolvedRow row, RowPlace place, RenderContext context)
    {
        var theme = context.ThemeOf(row);
        var background = context.Pictures.Find(row.Background);
        var frame = background is null ? RowFrame.ForRow(row, place, theme) : RowFrame.Make(row, place, theme, background, context);
        html.Write(frame.Opening);
        Mark(html, " data-row=\""u8, row.Id, context.Marks);
        html.Write(frame.BeforeColumn(0));
        var reversed = row.Phone == PhoneColumns.StackReversed;
        for (var i = 0; i < row.Columns.Length; i++)
        {
            // What is to be on top on the phone is written first.
            var at = reversed ? row.Columns.Length - 1 - i : i;
            Blocks(html, row, row.Columns[at], frame.Widths[at], theme, context);
            html.Write(frame.BeforeColumn(i + 1));
        }
    }

    private static void Blocks(HtmlWriter html, ResolvedRow row, ResolvedColumn column, int width, Theme theme, RenderContext context)
    {
        html.Write("<table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\">"u8);
        foreach (var block in column.Blocks)
        {
            var kind = BlockKinds.For(block.Master);
            var reach = (row.FullWidth, kind.ReachesEdges) switch
            {
                (true, true) => CellReach.ToEdges,
                (true, false) => CellReach.KeepsSides,
                _ => CellReach.Usual,
            };
            var cell = theme.Cell(reach, block.Look.GetValueOrDefault("align", "left"));
            PartedRow.Open(html, block.Condition);
            Hidden.Open(html, block.Shown);
            html.Write("<tr"u8);
            if (block.Shown != Visibility.Everywhere)
            {
                html.Write($" class=\"{Hidden.Class(block.Shown, inTable: true)}\" style=\"{Hidden.Style(block.Shown)}\"");
            }

            html.Write($"><td{(reach == CellReach.KeepsSides && theme.Padding > 0 ? theme.SideClass : [])}");
            Mark(html, " data-piece=\""u8, block.Id, context.Marks);
            html.Write(cell);
            var view = context.View(row, block, reach == CellReach.KeepsSides ? width - (2 * theme.Padding) : width);
            kind.WriteHtml(html, view);
            html.Write("</td></tr>"u8);
            Hidden.Close(html, block.Shown);
            PartedRow.Close(html, block.Condition);
        }

        html.Write(column.Blocks.IsEmpty ? "<tr><td></td></tr></table>"u8 : "</table>"u8);
    }

    private static void Mark(HtmlWriter html, ReadOnlySpan<byte> attribute, string id, bool marks)
    {
        if (marks)
        {
            html.Write($"{attribute}{id}\"");
        }
    }
}
