using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Items each behind a small picture, or behind the brand's mark where they have none.</summary>
public sealed class ListBlock : WritableKind
{
    private const int Mark = 24;

    public override string Name => "icon-list";

    public override string Label => "List with icons";

    public override string About => "Short items, each behind a small picture of its own.";

    public override KindGroup Group => KindGroup.Words;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("items", "Items", new FieldValue.Entries([]))
        {
            Entry = [new("icon", "Icon", new FieldValue.Image("")), new("text", "Text", new FieldValue.Prose(RichText.Empty))],
        },
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [new("size", "Icon size", ["24", "40", "64"])];

    public override int LeastWidth(BlockView view) => view.LookNumber("size") + 140;

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var size = view.LookNumber("size");
        html.Write("<table role=\"presentation\" width=\"100%\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\">"u8);
        foreach (var item in view.Block.Entries("items"))
        {
            html.Write(
                $"""<tr><td width="{size}" style="width:{size}px;"""
                    + $"padding:{view.Theme.BlockSpace / 2}px {view.Theme.BlockSpace}px {view.Theme.BlockSpace / 2}px 0;"
                    + $"""vertical-align:top;text-align:center">"""
            );
            if (view.Pictures.Find(item.Picture("icon")) is { } icon)
            {
                // The words beside it say what it shows.
                new PictureWriter(icon, "", "").Write(html, view, Math.Min(size, icon.Width), false, true);
            }
            else
            {
                Parts.Line(html, view, "body", "•");
            }

            html.Write(
                $"""</td><td style="padding:{view.Theme.BlockSpace / 2}px 0;vertical-align:{(size > Mark ? "middle"u8 : "top"u8)}">"""
            );
            Parts.Prose(html, view, "body", item.Prose("text"));
            html.Write("</td></tr>"u8);
        }

        html.Write("</table>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Prose(
            new RichText
            {
                Paragraphs =
                [
                    .. view
                        .Block.Entries("items")
                        .SelectMany(i => i.Prose("text").Paragraphs.Select(p => p with { List = ListStyle.Bullet })),
                ],
            }
        );

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "List", "body", "text")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "List", "body")];

    public override ImmutableArray<ShownPicture> Pictures(BlockView view) =>
        [
            .. view
                .Block.Entries("items")
                .Select(i => i.Picture("icon"))
                .Where(p => p.Length > 0)
                .Select(p => new ShownPicture("items", p, null, false)),
        ];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [.. view.Block.Entries("items").SelectMany(i => InProse(i.Prose("text"), "items"))];
}
