using System.Collections.Immutable;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>A picture as wide as its share of the column, fluid below that, linked or not.</summary>
public sealed class PictureBlock : WritableKind
{
    public override string Name => "picture";

    public override string Label => "Picture";

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("picture", "Picture", new FieldValue.Shown("")),
        new("alt", "Alt text", new FieldValue.Words("")),
        new("decorative", "Decorative: readers lose nothing without it", new FieldValue.Flag(false)),
        new("link", "Picture link", new FieldValue.Target("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
        [new("width", "Width, share of the column", ["100", "75", "50", "33", "25"]), Align, new("phone", "On the phone", ["whole", "cropped"])];

    public override bool ReachesEdges => true;

    public override void WriteHtml(Utf8Writer html, in BlockView view)
    {
        if (view.Pictures.Find(view.Block.Picture("picture")) is not { } picture)
        {
            return;
        }

        var width = ShownWidth(view, picture);
        var link = view.Block.Href("link");
        var linked = !Documents.Links.IsPlaceholder(link);
        var space = view.Dress.PictureSpace;
        if (space > 0)
        {
            html.Raw("<div style=\"padding:"u8).Number(space).Raw("px 0\">"u8);
        }

        if (linked)
        {
            html.Raw("<a href=\""u8).Href(link).Raw("\" style=\"text-decoration:none\">"u8);
        }

        var cropped = view.Look("phone") == "cropped" ? picture.PhoneCrop : null;
        if (cropped is not null)
        {
            html.Raw("<picture><source media=\"(max-width:480px)\" srcset=\""u8).Text(view.PicturesAt).Text(cropped.Name).Raw("\">"u8);
        }

        html.Raw("<img src=\""u8).Text(view.PicturesAt).Text(FileOf(view, picture).Name);
        html.Raw("\" alt=\""u8).Text(view.Block.Flag("decorative") ? "" : view.Block.Words("alt"));
        html.Raw("\" class=\""u8).Raw(view.Surface.TextClass).Raw("\" width=\""u8).Number(width).Raw("\" style=\"display:"u8).Raw(view.Look("align") == "left" ? "block"u8 : "inline-block"u8);
        // A whole-column picture is bounded by its column alone, so that it fills a column that stacks on a phone.
        html.Raw(";vertical-align:top;width:100%;max-width:"u8).Number(view.Look("width") == "100" ? picture.Width : width).Raw("px;height:auto;border:0;border-radius:"u8).Number(view.Dress.PictureRadius).Raw("px;"u8);
        // Dress for the alt text, which is all a reader with pictures off sees.
        ProseWriter.Declarations(html, view.Dress.Type("body").Style, view.Surface.Text);
        html.Raw("\">"u8).Raw(cropped is not null ? "</picture>"u8 : ""u8).Raw(linked ? "</a>"u8 : ""u8).Raw(space > 0 ? "</div>"u8 : ""u8);
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

    public override IEnumerable<(string Field, string Href)> Links(BlockView view)
    {
        var link = view.Block.Href("link");
        return link.Length > 0 ? [("link", link)] : [];
    }

    // A column that stacks on a phone may be wider there than on a desktop.
    private static PictureFile FileOf(in BlockView view, Picture picture) =>
        picture.FileFor(Math.Max(ShownWidth(view, picture), view.Look("width") == "100" ? Math.Min(480, view.Dress.Width) : 0));

    /// <summary>CSS pixels: the share of the column, but never more than the file has.</summary>
    public static int ShownWidth(in BlockView view, Picture picture)
    {
        var share = int.Parse(view.Look("width"), System.Globalization.CultureInfo.InvariantCulture);
        return Math.Max(1, Math.Min(view.Width * share / 100, picture.Width));
    }
}
