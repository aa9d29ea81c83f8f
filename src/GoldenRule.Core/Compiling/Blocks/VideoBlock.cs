using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>
/// A still of a film over a bar with a play mark, both linked to it: mail clients play no films. The mark is text, so
/// that it is there with pictures off.
/// </summary>
public sealed class VideoBlock : WritableKind
{
    public override string Name => "video";

    public override string Label => "Video";

    public override string About => "A still with a play mark that leads to the film.";

    public override KindGroup Group => KindGroup.Pictures;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("picture", "Still picture", new FieldValue.Image("")),
        new("alt", "Alt text", new FieldValue.Words("")) { Sample = "The engine starts" },
        new("text", "Words beside the play mark", new FieldValue.Words("Watch the film")),
        new("link", "Where the film is", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [new("style", "Bar", ["primary", "secondary", "quiet"])];

    public override bool ReachesEdges => true;

    public override int LeastWidth(BlockView view) => 160;

    public override void WriteHtml(Utf8Writer html, in BlockView view)
    {
        var (button, link) = (view.Theme.Button(view.Look("style")), view.Block.Href("link"));
        if (view.Pictures.Find(view.Block.Picture("picture")) is { } picture)
        {
            new PictureWriter(picture, view.Block.Words("alt"), link).Write(
                html,
                view,
                PictureWriter.Width(view.Width, 100, picture),
                true,
                true
            );
        }

        // The bar is a cell of its own colour rather than a button: it belongs to the still and is as wide as it.
        html.Raw("<table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td class=\""u8)
            .Raw(button.Class)
            .Raw("\" style=\"padding:0;background-color:"u8)
            .Raw(button.Fill)
            .Raw(";border:"u8)
            .Number(button.BorderWidth)
            .Raw("px solid "u8)
            .Raw(button.Border)
            // The Word-based client knows no padding of links.
            .Raw("\"><!--[if mso]><table role=\"presentation\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr><td style=\"padding:"u8)
            .Number(button.PaddingBlock)
            .Raw("px "u8)
            .Number(button.PaddingInline)
            .Raw("px\"><![endif]--><a href=\""u8)
            .Href(link)
            .Raw("\" class=\""u8)
            .Raw(button.Class)
            .Raw("\" style=\"display:block;padding:"u8)
            .Number(button.PaddingBlock)
            .Raw("px "u8)
            .Number(button.PaddingInline)
            .Raw("px;text-decoration:none;font-family:"u8)
            .Raw(button.Font)
            .Raw(";font-size:"u8)
            .Number(button.Size)
            .Raw("px;line-height:"u8)
            .Number(button.Size * 5 / 4)
            .Raw("px;font-weight:bold;color:"u8)
            .Raw(button.Text)
            .Raw("\"><span aria-hidden=\"true\">&#9654;&#65038;&ensp;</span>"u8)
            .Text(view.Block.Words("text"))
            .Raw("</a><!--[if mso]></td></tr></table><![endif]--></td></tr></table>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        if (view.Block.Words("alt").Length > 0)
        {
            text.Line($"[{view.Block.Words("alt")}]");
        }

        text.Line(PlainTextWriter.Link(view.Block.Words("text"), view.Block.Href("link")));
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [ButtonWriter.Reading(view, view.Look("style"), dark)];

    public override IEnumerable<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Bar", view.Look("style"))];

    public override IEnumerable<ShownPicture> Pictures(BlockView view) =>
        [new ShownPicture("picture", view.Block.Picture("picture"), view.Block.Words("alt"), true)];

    public override IEnumerable<(string Field, string Href)> Links(BlockView view) => [("link", view.Block.Href("link"))];
}
