using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Two buttons side by side, the second quieter; one below the other where there is no room.</summary>
public sealed class ButtonPairBlock : WritableKind
{
    public override string Name => "button-pair";

    public override string Label => "Button pair";

    public override string About => "Two calls to action, the second quieter.";

    public override KindGroup Group => KindGroup.Links;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("first", "First button", new FieldValue.Words("")) { LinkField = "firstLink", Sample = "Choose your seat" },
        new("firstLink", "First link", new FieldValue.Link("")),
        new("second", "Second button", new FieldValue.Words("")) { LinkField = "secondLink", Sample = "See the timetable" },
        new("secondLink", "Second link", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
    [
        new("firstStyle", "First style", ["primary", "secondary", "quiet"]),
        new("secondStyle", "Second style", ["secondary", "primary", "quiet"]),
        Align,
    ];

    public override int LeastWidth(BlockView view) =>
        Pair(view).Sum(b => ButtonWriter.EstimatedWidth(view.Theme.Button(b.Style), b.Words, 600)) + view.Theme.BlockSpace;

    public override Drawing Drawing => Drawing.Button;

    public override void WriteHtml(HtmlWriter html, in BlockView view) => ButtonWriter.WriteSeveral(html, view, Pair(view));

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Lines(Pair(view).Select(b => PlainTextWriter.Link(b.Words, b.Link)));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        Pair(view).Select(b => ButtonWriter.Reading(view, b.Style, dark));

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [.. Pair(view).Select(b => Size(view, "Button", b.Style))];

    public override IEnumerable<string> Buttons(BlockView view) => Pair(view).Select(b => b.Style);

    public override IEnumerable<(string Field, string Words)> LinkWords(BlockView view) =>
        [("first", view.Block.Words("first")), ("second", view.Block.Words("second"))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [("firstLink", view.Block.Href("firstLink")), ("secondLink", view.Block.Href("secondLink"))];

    private static IReadOnlyList<(string Style, string Words, string Link)> Pair(in BlockView view) =>
        [
            (view.Look("firstStyle"), view.Block.Words("first"), view.Block.Href("firstLink")),
            (view.Look("secondStyle"), view.Block.Words("second"), view.Block.Href("secondLink")),
        ];
}
