using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>
/// What the law wants at the end: who sends, from which address, and how to be left alone. Where the way to the web page has words and
/// no link, it leads to the page of the hand-off.
/// </summary>
public sealed class LegalFooterBlock : WritableKind
{
    private static readonly ImmutableArray<(string Words, string Link)> Ways =
    [
        ("unsubscribeText", "unsubscribe"),
        ("preferencesText", "preferences"),
        (ViewWords, "view"),
    ];

    private const string ViewWords = "viewText";

    public override string Name => "legal-footer";

    public override string Label => "Legal footer";

    public override string About => "Who sends, from where, and how to be left alone.";

    public override KindGroup Group => KindGroup.Service;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("text", "Sender and address", new FieldValue.Prose(RichText.Empty)),
        new("unsubscribeText", "Unsubscribe, wording", new FieldValue.Words("Unsubscribe")),
        new("unsubscribe", "Unsubscribe, link", new FieldValue.Link("")),
        new("preferencesText", "Preferences, wording", new FieldValue.Words("Preferences")),
        new("preferences", "Preferences, link", new FieldValue.Link("")),
        new("viewText", "View in browser, wording", new FieldValue.Words("View in browser")),
        new("view", "View in browser, link, empty for the email's page", new FieldValue.Link("")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [Align];

    public override IEnumerable<(string Style, string? Colour)> Styles(Block block) => [("footer", "quiet"), ("link", "link")];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var type = view.Theme.Type("footer");
        ProseWriter.Write(html, view.Block.Prose("text"), type, view.Surface.Quiet, view.Surface.QuietClass, view.Surface, view.Theme);
        html.Write(
            $"""<p class="{view.Surface.QuietClass}{type.Class}" """
                + $"""style="margin:{view.Theme.ParagraphSpace} 0 0;{type.Style}color:{view.Surface.Quiet}">"""
        );
        Parts.Links(html, view, Written(view));
        html.Write("</p>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        text.Prose(view.Block.Prose("text"));
        var ways = Written(view).Select(w => PlainTextWriter.Link(w.Words, w.Href)).ToList();
        if (ways.Count > 0)
        {
            text.Lines(ways);
        }
    }

    private static IEnumerable<(string Words, string Href)> Written(BlockView view) =>
        from way in Ways
        let words = view.Block.Words(way.Words)
        let href = view.Block.Href(way.Link)
        where !Documents.Links.IsPlaceholder(href) || (way.Words == ViewWords && words.Length > 0)
        select (words, way.Words == ViewWords ? view.PageOr(href) : href);

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [Read(view, dark, "Footer text", "footer", "quiet"), Read(view, dark, "Footer link", "footer", "link")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [("Footer", view.Theme.Style.Number("footer", "size"))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [.. Ways.Select(w => (w.Link, view.Block.Href(w.Link))).Where(l => l.Item2.Length > 0)];

    public override string? Unsubscribe(BlockView view) =>
        string.IsNullOrWhiteSpace(view.Block.Words("unsubscribeText")) ? null : view.Block.Href("unsubscribe");
}
