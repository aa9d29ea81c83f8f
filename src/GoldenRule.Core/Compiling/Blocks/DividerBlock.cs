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

    public override void WriteHtml(Utf8Writer html, in BlockView view) =>
        html.Raw("<div class=\""u8)
            .Raw(view.Theme.DividerClass)
            .Raw("\" style=\"height:1px;line-height:1px;font-size:1px;"u8)
            .Raw(view.Theme.Divider)
            .Raw("\">&#8202;</div>"u8);

    public override void WriteText(PlainTextWriter text, in BlockView view) => text.Rule();
}
