using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Links to where else the company can be followed, by name in one line.</summary>
public sealed class SocialLinksBlock : WritableKind
{
    public override string Name => "social-links";

    public override string Label => "Social links";

    public override string About => "Where else you can be followed.";

    public override KindGroup Group => KindGroup.Links;

    public override ImmutableArray<Field> Fields { get; } = [new("links", "Links", new FieldValue.LinkList([]))];

    public override ImmutableArray<LookProperty> Look { get; } = [Align];

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) => [("social", "quiet"), ("link", "link")];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var type = view.Theme.Type("social");
        html.Write($"""<p class="{view.Surface.QuietClass}{type.Class}" style="margin:0;{type.Style}color:{view.Surface.Quiet}">""");
        var first = true;
        foreach (var link in view.Block.Links("links"))
        {
            if (!first)
            {
                Between(html, view.Theme);
            }

            first = false;
            ProseWriter.OpenLink(html, link.Href, view.Surface, view.Theme);
            html.Write($"{link.Name}</a>");
        }

        html.Write("</p>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) => text.LinkLines(view.Block.Links("links"));

    private static void Between(HtmlWriter html, Theme theme) =>
        html.Write(
            $"""<span style="display:inline-block;padding:0 {theme.SocialGap}px">"""
                + $"{(theme.SocialMark.Length > 0 ? theme.SocialMark : "&#8203;"u8)}</span>"
        );

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "Social link", "social", "link")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [("Social links", view.Theme.Style.Number("social", "size"))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [.. view.Block.Links("links").Select(l => ("links", l.Href))];
}
