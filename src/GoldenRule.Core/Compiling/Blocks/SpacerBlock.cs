using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Empty height, in steps of the house style's space between blocks.</summary>
public sealed class SpacerBlock : WritableKind
{
    public override string Name => "spacer";

    public override string Label => "Spacer";

    public override string About => "Empty height.";

    public override KindGroup Group => KindGroup.Space;

    public override ImmutableArray<Field> Fields => [];

    public override ImmutableArray<LookProperty> Look { get; } = [new("size", "Height", ["medium", "small", "large"])];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var height =
            view.Theme.BlockSpace
            * (
                view.Look("size") switch
                {
                    "small" => 1,
                    "medium" => 2,
                    _ => 4,
                }
            );
        Parts.Gap(html, height);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) { }
}
