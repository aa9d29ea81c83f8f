using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Links in one line, each with room around it for a thumb.</summary>
public sealed class MenuBlock : WritableKind
{
    public override string Name => "menu";

    public override string Label => "Menu of links";

    public override string About => "A line of links, as over or under a newsletter.";

    public override KindGroup Group => KindGroup.Links;

    public override ImmutableArray<Field> Fields { get; } = [new("links", "Links", new FieldValue.LinkList([]))];

    public override ImmutableArray<LookProperty> Look { get; } = [Align, new("style", "Style", ["body", "small"])];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        Parts.OpenLine(html, view, view.Look("style"));
        // At the edges the words, not the room around them, stand in line with what is above and below.
        var (space, left, right) = (view.Theme.BlockSpace, view.Look("align") == "left" ? 0 : 1, view.Look("align") == "right" ? 0 : 1);
        foreach (var link in view.Block.Links("links"))
        {
            html.Write(
                $"""<a href="{HtmlWriter.Href(link.Href)}" class="{view.Surface.LinkClass}" style="display:inline-block;"""
                    + $"padding:{space}px {(2 - left) * right * space}px {space}px {(2 - right) * left * space}px;"
                    + $"""color:{view.Surface.Link}{view.Theme.Link}">{link.Name}</a> """
            );
        }

        html.Write("</p>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) => text.LinkLines(view.Block.Links("links"));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "Menu link", view.Look("style"), "link")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Menu", view.Look("style"))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [.. view.Block.Links("links").Select(l => ("links", l.Href))];
}
