using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>What stands in the email, filled in by itself from the headings and cards that are marked for it.</summary>
public sealed class ContentsBlock : WritableKind
{
    public override string Name => "contents";

    public override string Label => "Contents list";

    public override string About => "Fills itself with every heading and card marked for it, as links to them.";

    public override KindGroup Group => KindGroup.Articles;

    public override ImmutableArray<Field> Fields { get; } = [new("heading", "Line above it", new FieldValue.Words("In this email"))];

    public override ImmutableArray<LookProperty> Look { get; } = [new("order", "Order", ["bullets", "numbers"])];

    public override bool ShowsContents => true;

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var type = view.Theme.Type("body");
        Parts.Line(html, view, "body", view.Block.Words("heading"), view.Theme.BlockSpace / 2, bold: true);
        if (view.Context.Contents.IsEmpty)
        {
            return;
        }

        var bullets = view.Look("order") == "bullets";
        ProseWriter.OpenList(html, bullets, type, view.Surface.Text, view.Surface.TextClass, view.Theme);
        foreach (var entry in view.Context.Contents)
        {
            html.Write(
                $"""<li style="{view.Theme.ListItem}"><a href="#{entry.Anchor}" class="{view.Surface.LinkClass}" """
                    + $"""style="color:{view.Surface.Link}{view.Theme.Link}">{entry.Words}</a></li>"""
            );
        }

        html.Write(bullets ? "</ul>"u8 : "</ol>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        if (view.Block.Words("heading").Length > 0)
        {
            text.Line(view.Block.Words("heading"));
        }

        var list = view.Look("order") == "bullets" ? ListStyle.Bullet : ListStyle.Number;
        text.Prose(
            new RichText
            {
                Paragraphs = [.. view.Context.Contents.Select(e => new Paragraph { List = list, Runs = [new Run { Text = e.Words }] })],
            }
        );
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [Read(view, dark, "Line above", "body", "text"), Read(view, dark, "Link", "body", "link")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Contents list", "body")];
}
