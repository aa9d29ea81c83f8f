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

    public override void WriteHtml(HtmlWriter html, in BlockView view)
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
        // The Word-based client knows no padding of links and gets a table around this one.
        html.Write(
            $"""<table role="presentation" width="100%" cellpadding="0" cellspacing="0" border="0"><tr>"""
                + $"""<td class="{button.Class}" """
                + $"""style="padding:0;background-color:{button.Fill};border:{button.BorderWidth}px solid {button.Border}">"""
                + $"""<!--[if mso]><table role="presentation" cellpadding="0" cellspacing="0" border="0"><tr>"""
                + $"""<td style="padding:{button.PaddingBlock}px {button.PaddingInline}px"><![endif]-->"""
                + $"""<a href="{HtmlWriter.Href(link)}" class="{button.Class}" """
                + $"""style="display:block;padding:{button.PaddingBlock}px {button.PaddingInline}px;text-decoration:none;"""
                + $"font-family:{button.Font};font-size:{button.Size}px;line-height:{button.Size * 5 / 4}px;font-weight:bold;"
                + $"""color:{button.Text}"><span aria-hidden="true">&#9654;&#65038;&ensp;</span>{view.Block.Words("text")}</a>"""
                + $"<!--[if mso]></td></tr></table><![endif]--></td></tr></table>"
        );
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

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Bar", view.Look("style"))];

    public override ImmutableArray<ShownPicture> Pictures(BlockView view) =>
        [new ShownPicture("picture", view.Block.Picture("picture"), view.Block.Words("alt"), true)];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => [("link", view.Block.Href("link"))];
}
