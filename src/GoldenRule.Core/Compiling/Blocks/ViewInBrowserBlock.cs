using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>The way to the same email as a web page. Where no link is written it leads to the page of the hand-off.</summary>
public sealed class ViewInBrowserBlock : WritableKind
{
    public override string Name => "view-in-browser";

    public override string Label => "View in browser";

    public override string About => "A link to the same email as a web page.";

    public override KindGroup Group => KindGroup.Service;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("text", "Wording", new FieldValue.Words("View in browser")),
        new("link", "Link, empty for the email's page", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [Align];

    public override void WriteHtml(HtmlWriter html, in BlockView view) =>
        Parts.LinkLine(html, view, "preheader", view.Block.Words("text"), view.PageOr(view.Block.Href("link")));

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Line(PlainTextWriter.Link(view.Block.Words("text"), view.PageOr(view.Block.Href("link"))));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "View in browser", "preheader", "link")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "View in browser", "preheader")];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => Optional(view, "link");
}
