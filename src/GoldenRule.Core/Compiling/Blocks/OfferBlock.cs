using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Resolving;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>One thing for sale: what it is, what it costs, and what it cost before.</summary>
public sealed class OfferBlock : WritableKind
{
    public override string Name => "offer";

    public override string Label => "Offer";

    public override string About => "One thing with its picture and price, and what it cost before.";

    public override KindGroup Group => KindGroup.Articles;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("picture", "Picture", new FieldValue.Image("")),
        new("alt", "Alt text", new FieldValue.Words("")) { Sample = "A mug" },
        new("name", "Name", new FieldValue.Words("")) { IsHeadline = true, Sample = "Enamel mug" },
        new("price", "Price", new FieldValue.Words("")) { Sample = "£9.50" },
        new("was", "Price before", new FieldValue.Words("")) { Sample = "£12.00" },
        new("text", "Text", new FieldValue.Prose(RichText.Empty)),
        new("linkText", "Button", new FieldValue.Words("")) { LinkField = "link", Sample = "Put one aside" },
        new("link", "Link", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
    [
        new("placing", "Picture", ["above", "left", "right"]),
        new("level", "Heading level", ["3", "2", "4"]),
        new("linkStyle", "Link as", ["primary", "secondary", "quiet", "link"]),
    ];

    public override int LeastWidth(BlockView view) => view.Look("placing") == "above" ? 140 : CardWriter.LeastBeside;

    public override void WriteHtml(HtmlWriter html, in BlockView view) =>
        Card(view.Block).Write(html, view, view.Width, view.Look("placing"), view.LookNumber("level"), view.Look("linkStyle"), null);

    public override void WriteText(PlainTextWriter text, in BlockView view) => Card(view.Block).WriteText(text, view.LookNumber("level"));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        CardWriter
            .Readings(view, dark, view.LookNumber("level"), view.Look("linkStyle"), Read)
            .Concat(view.Block.Words("was").Length > 0 ? [Read(view, dark, "Price before", "body", "quiet")] : []);

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Name", Parts.HeadingStyle(view.LookNumber("level"))), Size(view, "Price", "body")];

    public override ImmutableArray<ShownPicture> Pictures(BlockView view) =>
        [new ShownPicture("picture", view.Block.Picture("picture"), view.Block.Words("alt"), false)];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [
            .. InProse(view, "text"),
            .. view.Block.Words("linkText").Length > 0 ? [("link", view.Block.Href("link"))] : Optional(view, "link"),
        ];

    public override int? HeadingLevel(BlockView view) => view.Block.Words("name").Length > 0 ? view.LookNumber("level") : null;

    private static CardWriter Card(ResolvedBlock block) =>
        new(
            block.Picture("picture"),
            block.Words("alt"),
            block.Words("name"),
            block.Prose("text"),
            block.Words("linkText"),
            block.Href("link"),
            block.Words("price"),
            block.Words("was")
        );
}
