using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>What someone said, set off by a rule at its side.</summary>
public sealed class QuoteBlock : WritableKind
{
    public override string Name => "quote";

    public override string Label => "Quote";

    public override string About => "What someone said, and who.";

    public override KindGroup Group => KindGroup.Words;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("text", "Quote", new FieldValue.Prose(RichText.Empty)) { IsMessage = true },
        new("by", "Who said it", new FieldValue.Words("")) { Sample = "Ruth Calder, brand lead" },
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [new("size", "Size", ["body", "large"])];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        html.Write(
            $"""<blockquote class="{view.Theme.DividerClass}" """
                + $"""style="margin:0;padding:0 0 0 {view.Theme.BlockSpace * 2}px;border-left:{view.Theme.DividerBorder}">"""
        );
        Parts.Prose(html, view, Style(view), view.Block.Prose("text"));
        Parts.Gap(html, view.Block.Words("by").Length > 0 ? view.Theme.BlockSpace / 2 : 0);
        Parts.Line(html, view, "small", view.Block.Words("by"), quiet: true);
        html.Write("</blockquote>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) => text.Quote(view.Block.Prose("text"), view.Block.Words("by"));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [Read(view, dark, "Quote", Style(view), "text"), Read(view, dark, "Who said it", "small", "quiet")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Quote", Style(view)), Size(view, "Who said it", "small")];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => InProse(view, "text");

    private static string Style(in BlockView view) => view.Look("size") == "large" ? "heading4" : "body";
}
