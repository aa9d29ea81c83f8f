using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Paragraphs and lists in body text, or in one of the quieter text styles.</summary>
public sealed class TextBlock : WritableKind
{
    public override string Name => "text";

    public override string Label => "Text";

    public override string About => "Paragraphs and lists.";

    public override KindGroup Group => KindGroup.Words;

    public override ImmutableArray<Field> Fields { get; } =
    [new("text", "Text", new FieldValue.Prose(RichText.Empty)) { IsMessage = true }];

    public override ImmutableArray<LookProperty> Look { get; } =
    [new("style", "Style", ["body", "small", "caption", "preheader", "footer"]), Align];

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) =>
        block.Look["style"] == "body" ? [("body", "text"), ("link", "link"), ("list", null)] : [(block.Look["style"], "quiet")];

    public override void WriteHtml(HtmlWriter html, in BlockView view) =>
        Parts.Prose(html, view, view.Look("style"), view.Block.Prose("text"), IsQuiet(view));

    public override void WriteText(PlainTextWriter text, in BlockView view) => text.Prose(view.Block.Prose("text"));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark)
    {
        var style = view.Look("style");
        yield return Read(
            view,
            dark,
            IsQuiet(view) ? GlobalStyles.Label(view.Look("style")) : "Text",
            style,
            IsQuiet(view) ? "quiet" : "text"
        );
        if (Links(view).Any())
        {
            yield return Read(view, dark, "Link", style, "link");
        }
    }

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [(IsQuiet(view) ? GlobalStyles.Label(view.Look("style")) : "Text", view.Theme.Style.Number(view.Look("style"), "size"))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => InProse(view, "text");

    private static bool IsQuiet(in BlockView view) => view.Look("style") != "body";
}
