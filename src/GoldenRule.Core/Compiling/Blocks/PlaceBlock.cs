using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Where something is, and how to get there.</summary>
public sealed class PlaceBlock : WritableKind
{
    public override string Name => "place";

    public override string Label => "Place";

    public override string About => "An address with a link to directions.";

    public override KindGroup Group => KindGroup.Dates;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("name", "Place", new FieldValue.Words("")) { IsHeadline = true, Sample = "Larkfell station" },
        new("address", "Address", new FieldValue.Prose(RichText.Empty)),
        new("linkText", "Directions wording", new FieldValue.Words("How to get there")),
        new("link", "Directions link", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [LinkLook, Align];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var gap = view.Theme.BlockSpace / 2;
        Parts.Line(html, view, "body", view.Block.Words("name"), gap, bold: true);
        Parts.Prose(html, view, "body", view.Block.Prose("address"));
        Parts.Gap(html, gap);
        LinkOrButton(html, view, view.Block.Words("linkText"), view.Block.Href("link"));
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        if (view.Block.Words("name").Length > 0)
        {
            text.Line(view.Block.Words("name"));
        }

        text.Prose(view.Block.Prose("address"));
        text.Line(PlainTextWriter.Link(view.Block.Words("linkText"), view.Block.Href("link")));
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [Read(view, dark, "Address", "body", "text"), LinkReading(view, dark)];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Address", "body")];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [.. InProse(view, "address"), ("link", view.Block.Href("link"))];
}
