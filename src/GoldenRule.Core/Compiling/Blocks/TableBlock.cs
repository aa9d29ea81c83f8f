using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Rows of words under a header row or without one. On the phone its cells can stand one below the other.</summary>
public sealed class TableBlock : WritableKind
{
    public override string Name => "table";

    public override string Label => "Table";

    public override string About => "Rows and columns of words or figures.";

    public override KindGroup Group => KindGroup.Words;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new(
            "cells",
            "Cells",
            new FieldValue.Cells([
                ["", ""],
                ["", ""],
            ])
        ),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
    [
        new("header", "Header row", ["yes", "no"]),
        Align,
        new("rest", "Columns after the first", ["same", "right"]),
        new("phone", "On the phone", ["table", "stack"]),
    ];

    public override int LeastWidth(BlockView view) => 70 * view.Block.Cells("cells").Max(r => (int?)r.Length) ?? 70;

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) => [("table", "text")];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var (head, stacks, rows) = (view.Look("header") == "yes", view.Look("phone") == "stack", view.Block.Cells("cells"));
        html.Write($"""<table{(stacks ? " class=\"st\""u8 : [])} width="100%" cellpadding="0" cellspacing="0" border="0">""");
        for (var r = 0; r < rows.Length; r++)
        {
            var isHead = head && r == 0;
            html.Write(isHead && stacks ? "<tr class=\"sh\">"u8 : "<tr>"u8);
            for (var c = 0; c < rows[r].Length; c++)
            {
                Cell(
                    html,
                    view,
                    rows[r][c],
                    isHead,
                    c > 0 && view.Look("rest") == "right" ? "right" : view.Look("align"),
                    head && !isHead && stacks && c < rows[0].Length ? rows[0][c] : ""
                );
            }

            html.Write("</tr>"u8);
        }

        html.Write("</table>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Table(view.Block.Cells("cells"), view.Look("header") == "yes");

    public override IEnumerable<Reading> Readings(BlockView view, bool dark)
    {
        yield return Read(view, dark, "Table text", "table", "text");
        if (view.Look("header") == "yes")
        {
            var style = view.Theme.Style;
            yield return new Reading(
                "Table header",
                style.Colour("table", "headText", dark),
                style.Colour("table", "headFill", dark),
                style.Number("table", "size"),
                true,
                dark
            );
        }
    }

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Table", "table")];

    // What a cell stood under is there before it all the time, hidden until a phone takes the header row away.
    private static void Cell(HtmlWriter html, in BlockView view, string words, bool head, string align, string under)
    {
        var (table, type) = (view.Theme.Table, view.Theme.Type("table"));
        if (head)
        {
            html.Write(
                $"""<th scope="col" class="{table.HeadClass}{type.Class}" align="{align}" style="text-align:{align};vertical-align:top;"""
                    + $"""{table.Head}{type.Style}color:{table.HeadText};font-weight:bold">"""
            );
        }
        else
        {
            html.Write(
                $"""<td class="{view.Surface.TextClass} {table.CellClass}{type.Class}" align="{align}" """
                    + $"""style="text-align:{align};vertical-align:top;{table.Cell}{type.Style}color:{view.Surface.Text}">"""
            );
        }

        if (under.Length > 0)
        {
            html.Write(
                $"<!--[if !mso]><!-->"
                    + $"""<span class="sl" style="display:none;max-height:0;overflow:hidden;font-weight:bold">{under}: </span>"""
                    + $"<!--<![endif]-->"
            );
        }

        html.Write($"{words}{(head ? "</th>"u8 : "</td>"u8)}");
    }
}
