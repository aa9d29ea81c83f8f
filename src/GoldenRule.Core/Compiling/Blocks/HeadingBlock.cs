using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling.Blocks;

public sealed class HeadingBlock : WritableKind
{
    public override string Name => "heading";

    public override string Label => "Heading";

    public override string About => "A headline of one of four levels.";

    public override KindGroup Group => KindGroup.Words;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("text", "Headline", new FieldValue.Words(""))
        {
            IsHeadline = true,
            IsMessage = true,
            Sample = "The 10:40 runs again",
        },
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [new("level", "Level", ["2", "1", "3", "4"]), Align, NamedLook];

    public override Drawing Drawing => Drawing.Heading;

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) => [("heading" + block.Look["level"], "heading")];

    public override void WriteHtml(HtmlWriter html, in BlockView view) =>
        Parts.Heading(
            html,
            view,
            view.LookNumber("level"),
            view.Block.Words("text"),
            IsNamed(view.Block) ? Contents.Anchor(view.Row, view.Block) : null
        );

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Heading(view.Block.Words("text"), view.LookNumber("level"));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [Read(view, dark, "Heading", Parts.HeadingStyle(view.LookNumber("level")), "heading")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Heading", Parts.HeadingStyle(view.LookNumber("level")))];

    public override int? HeadingLevel(BlockView view) => view.LookNumber("level");

    public override IEnumerable<string> Named(ResolvedBlock block) => IsNamed(block) ? [block.Words("text")] : [];
}
