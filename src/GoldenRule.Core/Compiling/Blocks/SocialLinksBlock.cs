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

    public override void WriteHtml(Utf8Writer html, in BlockView view)
    {
        html.Raw("<p class=\""u8).Raw(view.Surface.QuietClass).Raw(view.Theme.Type("social").Class).Raw("\" style=\"margin:0;"u8);
        ProseWriter.Declarations(html, view.Theme.Type("social").Style, view.Surface.Quiet);
        html.Raw("\">"u8);
        var first = true;
        foreach (var link in view.Block.Links("links"))
        {
            if (!first)
            {
                Between(html, view.Theme);
            }

            first = false;
            ProseWriter.Link(html, link.Href, view.Surface, view.Theme);
            html.Text(link.Name).Raw("</a>"u8);
        }

        html.Raw("</p>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) => text.LinkLines(view.Block.Links("links"));

    private static void Between(Utf8Writer html, Theme theme) =>
        html.Raw("<span style=\"display:inline-block;padding:0 "u8)
            .Number(theme.SocialGap)
            .Raw("px\">"u8)
            .Raw(theme.SocialMark.Length > 0 ? theme.SocialMark : "&#8203;"u8)
            .Raw("</span>"u8);

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "Social link", "social", "link")];

    public override IEnumerable<(string What, double Size)> Sizes(BlockView view) =>
        [("Social links", view.Theme.Style.Number("social", "size"))];

    public override IEnumerable<(string Field, string Href)> Links(BlockView view) =>
        view.Block.Links("links").Select(l => ("links", l.Href));
}
