using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>An article in short: picture, heading, words and where to read on.</summary>
public sealed class CardBlock : WritableKind
{
    public override string Name => "card";

    public override string Label => "Article card";

    public override string About => "Picture, heading, words and a link, the picture above or beside.";

    public override KindGroup Group => KindGroup.Articles;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("picture", "Picture", new FieldValue.Image("")),
        new("alt", "Alt text", new FieldValue.Words("")) { Sample = "An engine on a viaduct" },
        new("heading", "Heading", new FieldValue.Words(""))
        {
            IsHeadline = true,
            IsMessage = true,
            Sample = "Members ride first",
        },
        new("text", "Text", new FieldValue.Prose(RichText.Empty)) { IsMessage = true },
        new("linkText", "Link wording", new FieldValue.Words("")) { LinkField = "link", Sample = "Read on" },
        new("link", "Link", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
    [new("placing", "Picture", ["above", "left", "right"]), new("level", "Heading level", ["3", "2", "4"]), LinkLook, NamedLook];

    public override int LeastWidth(BlockView view) => view.Look("placing") == "above" ? 140 : CardWriter.LeastBeside;

    public override void WriteHtml(HtmlWriter html, in BlockView view) =>
        Card(view.Block)
            .Write(
                html,
                view,
                view.Width,
                view.Look("placing"),
                view.LookNumber("level"),
                view.Look("linkStyle"),
                IsNamed(view.Block) ? Contents.Anchor(view.Row, view.Block) : null
            );

    public override void WriteText(PlainTextWriter text, in BlockView view) => Card(view.Block).WriteText(text, view.LookNumber("level"));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        CardWriter.Readings(view, dark, view.LookNumber("level"), view.Look("linkStyle"), Read);

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Heading", Parts.HeadingStyle(view.LookNumber("level"))), Size(view, "Text", "body")];

    public override ImmutableArray<ShownPicture> Pictures(BlockView view) =>
        [new ShownPicture("picture", view.Block.Picture("picture"), view.Block.Words("alt"), false)];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [
            .. InProse(view, "text"),
            .. view.Block.Words("linkText").Length > 0 ? [("link", view.Block.Href("link"))] : Optional(view, "link"),
        ];

    public override int? HeadingLevel(BlockView view) => view.Block.Words("heading").Length > 0 ? view.LookNumber("level") : null;

    public override IEnumerable<string> Named(ResolvedBlock block) => IsNamed(block) ? [block.Words("heading")] : [];

    private static CardWriter Card(ResolvedBlock block) =>
        new(
            block.Picture("picture"),
            block.Words("alt"),
            block.Words("heading"),
            block.Prose("text"),
            block.Words("linkText"),
            block.Href("link")
        );
}
