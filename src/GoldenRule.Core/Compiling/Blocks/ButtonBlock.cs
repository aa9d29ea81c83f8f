using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>A link in a padded box; the Word-based client gets the same as a VML shape.</summary>
public sealed class ButtonBlock : WritableKind
{
    public override string Name => "button";

    public override string Label => "Button";

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("text", "Button", new FieldValue.Words("")),
        new("link", "Button link", new FieldValue.Target("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
        [new("style", "Style", ["primary", "secondary", "quiet"]), Align, new("fit", "Width", ["fit", "full"])];

    public override void WriteHtml(Utf8Writer html, in BlockView view)
    {
        var button = view.Dress.Button(view.Look("style"));
        var (words, link) = (view.Block.Words("text"), view.Block.Href("link"));
        var full = button.Full || view.Look("fit") == "full";

        html.Raw("<!--[if mso]><v:roundrect xmlns:v=\"urn:schemas-microsoft-com:vml\" xmlns:w=\"urn:schemas-microsoft-com:office:word\" href=\""u8).Href(link)
            .Raw("\" style=\"height:"u8).Number(button.Height).Raw("px;v-text-anchor:middle;width:"u8).Number(full ? view.Width : EstimatedWidth(button, words, view.Width))
            .Raw("px\" arcsize=\""u8).Number(button.ArcPercent).Raw(button.BorderWidth > 0 ? "%\" strokecolor=\""u8 : "%\" stroked=\"f\" strokecolor=\""u8).Raw(button.Border).Raw("\" fillcolor=\""u8).Raw(button.Fill)
            .Raw("\"><w:anchorlock/><center style=\"color:"u8).Raw(button.Text).Raw(";font-family:"u8).Raw(button.Font).Raw(";font-size:"u8).Number(button.Size)
            .Raw("px;font-weight:bold\">"u8).Text(words).Raw("</center></v:roundrect><![endif]--><!--[if !mso]><!-->"u8);
        html.Raw("<a href=\""u8).Href(link).Raw("\" class=\""u8).Raw(button.Class).Raw("\" style=\""u8).Raw(button.Style)
            .Raw(full ? "width:100%"u8 : ""u8).Raw("\">"u8).Text(words).Raw("</a><!--<![endif]-->"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Line(PlainTextWriter.Link(view.Block.Words("text"), view.Block.Href("link")));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark)
    {
        var (style, name) = (view.Dress.Style, view.Look("style"));
        return
        [
            new Reading(
                "Button",
                style.Colour(name, "text", dark),
                style.Colour(name, "fill", dark),
                style.Number(name, "size"),
                style.Number(name, "weight") >= 700,
                dark),
        ];
    }

    public override IEnumerable<(string What, double Size)> Sizes(BlockView view) => [("Button", view.Dress.Style.Number(view.Look("style"), "size"))];

    public override IEnumerable<(string Field, string Href)> Links(BlockView view) => [("link", view.Block.Href("link"))];

    // VML shapes do not grow with their text; 0.6 em a character is what common sans faces need at most.
    private static int EstimatedWidth(ButtonDress button, string words, int most) =>
        Math.Min(most, (int)(Measuring.Characters(words) * button.Size * 0.6) + (2 * button.PaddingInline));
}
