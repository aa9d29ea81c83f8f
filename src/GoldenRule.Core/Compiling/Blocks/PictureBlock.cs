using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>A picture as wide as its share of the column, fluid below that, linked or not.</summary>
public sealed class PictureBlock : WritableKind
{
    public override string Name => "picture";

    public override string Label => "Picture";

    public override string About => "A picture, linked or not, with one of its own for phones if wanted.";

    public override KindGroup Group => KindGroup.Pictures;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("picture", "Picture", new FieldValue.Image("")),
        new("alt", "Alt text", new FieldValue.Words("")) { Sample = "A steam engine on a viaduct" },
        new("decorative", "Decorative: readers lose nothing without it", new FieldValue.Flag(false)),
        new("link", "Picture link", new FieldValue.Link("")),
        new("phonePicture", "Picture on the phone, if another", new FieldValue.Image("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
    [
        new("width", "Width, share of the column", ["100", "75", "50", "33", "25"]),
        Align,
        new("phone", "On the phone", ["whole", "cropped"]),
    ];

    public override bool ReachesEdges => true;

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) => [("picture", null)];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        if (view.Pictures.Find(view.Block.Picture("picture")) is not { } picture)
        {
            return;
        }

        var space = view.Theme.PictureSpace;
        if (space > 0)
        {
            html.Write($"""<div style="padding:{space}px 0">""");
        }

        // A picture chosen for phones goes before a crop of this one.
        var phone = view.Pictures.Find(view.Block.Picture("phonePicture"))?.FileFor(480)
            ?? (view.Look("phone") == "cropped" ? picture.PhoneCrop : null);
        new PictureWriter(picture, view.Block.Flag("decorative") ? "" : view.Block.Words("alt"), view.Block.Href("link"), phone).Write(
            html,
            view,
            PictureWriter.Width(view.Width, view.LookNumber("width"), picture),
            view.Look("width") == "100",
            view.Look("align") == "left"
        );
        html.Write(space > 0 ? "</div>"u8 : ""u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        var (alt, link) = (view.Block.Words("alt"), view.Block.Href("link"));
        var linked = !Documents.Links.IsPlaceholder(link);
        if (!view.Block.Flag("decorative") && alt.Length > 0)
        {
            text.Line(PlainTextWriter.Link($"[{alt}]", link));
        }
        else if (linked)
        {
            text.Line(link);
        }
    }

    /// <summary>The alt text is text too, for whoever has pictures off.</summary>
    public override IEnumerable<HouseStyles.Reading> Readings(BlockView view, bool dark) =>
        view.Block.Flag("decorative") || view.Block.Words("alt").Length == 0 ? [] : [Read(view, dark, "Alt text", "body", "text")];

    public override ImmutableArray<ShownPicture> Pictures(BlockView view)
    {
        var shown = new ShownPicture(
            "picture",
            view.Block.Picture("picture"),
            view.Block.Flag("decorative") ? null : view.Block.Words("alt"),
            true,
            "decorative"
        );
        return view.Block.Picture("phonePicture") is { Length: > 0 } onPhones
            ? [shown, new ShownPicture("phonePicture", onPhones, null, false)]
            : [shown];
    }

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => Optional(view, "link");
}
