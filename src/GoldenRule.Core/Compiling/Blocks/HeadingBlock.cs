using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

public sealed class HeadingBlock : WritableKind
{
    public override string Name => "heading";

    public override string Label => "Heading";

    public override ImmutableArray<Field> Fields { get; } = [new("text", "Headline", new FieldValue.Words(""))];

    public override ImmutableArray<LookProperty> Look { get; } = [new("level", "Level", ["2", "1", "3", "4"]), Align];

    public override void WriteHtml(Utf8Writer html, in BlockView view)
    {
        var level = view.Look("level")[0];
        html.Raw("<h"u8).Raw([(byte)level]).Raw(" class=\""u8).Raw(view.Surface.HeadingClass).Raw(view.Dress.Type(StyleOf(view)).Class).Raw("\" style=\"margin:0;"u8);
        ProseWriter.Declarations(html, view.Dress.Type(StyleOf(view)).Style, view.Surface.Heading);
        html.Raw("\">"u8).Text(view.Block.Words("text")).Raw("</h"u8).Raw([(byte)level]).Raw(">"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Heading(view.Block.Words("text"), view.Look("level")[0] - '0');

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "Heading", StyleOf(view), "heading")];

    public override IEnumerable<(string What, double Size)> Sizes(BlockView view) => [("Heading", view.Dress.Style.Number(StyleOf(view), "size"))];

    public override int? HeadingLevel(BlockView view) => view.Look("level")[0] - '0';

    private static string StyleOf(in BlockView view) => view.Look("level") switch
    {
        "1" => "heading1",
        "2" => "heading2",
        "3" => "heading3",
        _ => "heading4",
    };
}
