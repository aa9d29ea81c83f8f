using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling.Blocks;

public sealed class DividerBlock : WritableKind
{
    public override string Name => "divider";

    public override string Label => "Divider";

    public override string About => "A line across the column.";

    public override KindGroup Group => KindGroup.Space;

    public override ImmutableArray<Field> Fields => [];

    public override ImmutableArray<LookProperty> Look => [];

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) => [("divider", null)];

    public override void WriteHtml(HtmlWriter html, in BlockView view) =>
        html.Write(
            $"""<div class="{view.Theme.DividerClass}" """
                + $"""style="height:1px;line-height:1px;font-size:1px;{view.Theme.Divider}">&#8202;</div>"""
        );

    public override void WriteText(PlainTextWriter text, in BlockView view) => text.Rule();
}
