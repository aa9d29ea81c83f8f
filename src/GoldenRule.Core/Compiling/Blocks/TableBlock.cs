using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Rows of words under a header row or without one.</summary>
public sealed class TableBlock : WritableKind
{
    public override string Name => "table";

    public override string Label => "Table";

    public override ImmutableArray<Field> Fields { get; } = [new("cells", "Cells", new FieldValue.Cells([["", ""], ["", ""]]))];

    public override ImmutableArray<LookProperty> Look { get; } = [new("header", "Header row", ["yes", "no"]), Align];

    public override void WriteHtml(Utf8Writer html, in BlockView view)
    {
        var (table, type, head) = (view.Dress.Table, view.Dress.Type("table"), view.Look("header") == "yes");
        html.Raw("<table width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\">"u8);
        foreach (var row in view.Block.Cells("cells"))
        {
            html.Raw("<tr>"u8);
            foreach (var cell in row)
            {
                html.Raw(head ? "<th scope=\"col\" class=\""u8 : "<td class=\""u8).Raw(head ? table.HeadClass : view.Surface.TextClass).Raw(head ? [] : " "u8).Raw(head ? [] : table.CellClass).Raw(type.Class)
                    .Raw("\" align=\""u8).Text(view.Look("align")).Raw("\" style=\"text-align:"u8).Text(view.Look("align")).Raw(";vertical-align:top;"u8).Raw(head ? table.Head : table.Cell);
                ProseWriter.Declarations(html, type.Style, head ? table.HeadText : view.Surface.Text);
                html.Raw(head ? ";font-weight:bold\">"u8 : "\">"u8).Text(cell).Raw(head ? "</th>"u8 : "</td>"u8);
            }

            html.Raw("</tr>"u8);
            head = false;
        }

        html.Raw("</table>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) => text.Table(view.Block.Cells("cells"), view.Look("header") == "yes");

    public override IEnumerable<Reading> Readings(BlockView view, bool dark)
    {
        yield return Read(view, dark, "Table text", "table", "text");
        if (view.Look("header") == "yes")
        {
            var style = view.Dress.Style;
            yield return new Reading("Table header", style.Colour("table", "headText", dark), style.Colour("table", "headFill", dark), style.Number("table", "size"), true, dark);
        }
    }

    public override IEnumerable<(string What, double Size)> Sizes(BlockView view) => [("Table", view.Dress.Style.Number("table", "size"))];
}
