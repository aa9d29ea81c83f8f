using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

public sealed class ButtonBlock : WritableKind
{
    public override string Name => "button";

    public override string Label => "Button";

    public override string About => "One call to action.";

    public override KindGroup Group => KindGroup.Links;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("text", "Button", new FieldValue.Words("")) { LinkField = "link", Sample = "Choose your seat" },
        new("link", "Button link", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
    [new("style", "Style", ["primary", "secondary", "quiet"]), Align, new("fit", "Width", ["fit", "full"])];

    public override Drawing Drawing => Drawing.Button;

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) => [(block.Look["style"], null)];

    public override void WriteHtml(HtmlWriter html, in BlockView view) =>
        ButtonWriter.Write(
            html,
            view.Theme,
            view.Look("style"),
            view.Block.Words("text"),
            view.Block.Href("link"),
            view.Look("fit") == "full",
            view.Width
        );

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Line(PlainTextWriter.Link(view.Block.Words("text"), view.Block.Href("link")));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [ButtonWriter.Reading(view, view.Look("style"), dark)];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Button", view.Look("style"))];

    public override IEnumerable<string> Buttons(BlockView view) => [view.Look("style")];

    public override IEnumerable<(string Field, string Words)> LinkWords(BlockView view) => [("text", view.Block.Words("text"))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => [("link", view.Block.Href("link"))];
}
