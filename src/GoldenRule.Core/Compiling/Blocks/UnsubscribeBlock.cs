using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Unsubscribe and preferences, apart from a legal footer.</summary>
public sealed class UnsubscribeBlock : WritableKind
{
    public override string Name => "unsubscribe";

    public override string Label => "Unsubscribe and preferences";

    public override string About => "How to be left alone, or get less.";

    public override KindGroup Group => KindGroup.Service;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("unsubscribeText", "Unsubscribe, wording", new FieldValue.Words("Unsubscribe")),
        new("unsubscribe", "Unsubscribe, link", new FieldValue.Link("")),
        new("preferencesText", "Preferences, wording", new FieldValue.Words("Choose what you get")),
        new("preferences", "Preferences, link", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [Align];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        Parts.OpenLine(html, view, "footer", quiet: true);
        Parts.Link(html, view, view.Block.Words("unsubscribeText"), view.Block.Href("unsubscribe"));
        if (!Documents.Links.IsPlaceholder(view.Block.Href("preferences")))
        {
            html.Write("&ensp;"u8);
            Parts.Link(html, view, view.Block.Words("preferencesText"), view.Block.Href("preferences"));
        }

        html.Write("</p>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        var block = view.Block;
        text.Lines(
            new[]
            {
                (block.Words("unsubscribeText"), block.Href("unsubscribe")),
                (block.Words("preferencesText"), block.Href("preferences")),
            }
                .Where(l => !Documents.Links.IsPlaceholder(l.Item2))
                .Select(l => PlainTextWriter.Link(l.Item1, l.Item2))
        );
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "Footer link", "footer", "link")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Footer", "footer")];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [("unsubscribe", view.Block.Href("unsubscribe")), .. Optional(view, "preferences")];

    public override string? Unsubscribe(BlockView view) =>
        string.IsNullOrWhiteSpace(view.Block.Words("unsubscribeText")) ? null : view.Block.Href("unsubscribe");
}
