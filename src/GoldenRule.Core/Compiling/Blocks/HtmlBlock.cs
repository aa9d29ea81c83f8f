using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>HTML that someone wrote by hand: brought down to an allow-list and confined to its cell.</summary>
public sealed class HtmlBlock : WritableKind
{
    public override string Name => "html";

    public override string Label => "HTML";

    public override string About => "HTML written by hand, without scripts and confined to its place.";

    public override KindGroup Group => KindGroup.Service;

    public override ImmutableArray<Field> Fields { get; } = [new("html", "HTML", new FieldValue.Code(""))];

    public override ImmutableArray<LookProperty> Look => [];

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var type = view.Theme.Type("body");
        html.Write($"""<div class="{view.Surface.TextClass}{type.Class}" style="overflow:hidden;{type.Style}color:{view.Surface.Text}">""")
            .Html(((FieldValue.Code)view.Block.Content["html"]).Sanitised().Html)
            .Write("</div>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        if (((FieldValue.Code)view.Block.Content["html"]).Sanitised().Text is { Length: > 0 } words)
        {
            text.Lines(words.Split('\n'));
        }
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) => [Read(view, dark, "Text", "body", "text")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) => [Size(view, "Text", "body")];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) =>
        [.. ((FieldValue.Code)view.Block.Content["html"]).Sanitised().Links.Select(l => ("html", l))];
}
