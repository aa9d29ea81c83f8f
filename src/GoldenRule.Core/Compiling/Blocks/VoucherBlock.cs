using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>A code to write down or copy, set apart by a dashed line as on paper.</summary>
public sealed class VoucherBlock : WritableKind
{
    public override string Name => "voucher";

    public override string Label => "Voucher code";

    public override string About => "A code to use in the shop, with what it is good for.";

    public override KindGroup Group => KindGroup.Dates;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("label", "Line above the code", new FieldValue.Words("Your code")),
        new("code", "Code", new FieldValue.Words("")) { Sample = "STEAM-2027-OAK" },
        new("until", "Good until", new FieldValue.Moment("", "", CalendarFile.UsualZone)),
        new("note", "Small print", new FieldValue.Prose(RichText.Empty)),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [new("align", "Alignment", ["center", "left"])];

    public override int LeastWidth(BlockView view) => 140;

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var gap = view.Theme.BlockSpace / 2;
        html.Write(
            $"""<table role="presentation" width="100%" cellpadding="0" cellspacing="0" border="0"><tr>"""
                + $"""<td class="{view.Theme.DividerClass}" align="{view.Look("align")}" """
                + $"""style="padding:{view.Theme.BlockSpace}px;border:2px dashed {view.Theme.Style.Value("divider", "colour")};"""
                + $"""text-align:{view.Look("align")}">"""
        );
        Parts.Line(html, view, "small", view.Block.Words("label"), gap);
        Parts.OpenLine(html, view, "heading3", gap, bold: true);
        // Letters apart, so that 0 and O are told apart from their neighbours at least.
        html.Write($"""<span style="letter-spacing:2px;word-break:break-word">{view.Block.Words("code")}</span></p>""");
        Parts.Line(html, view, "small", Until(view), view.Block.Prose("note").IsEmpty ? 0 : gap);
        Parts.Prose(html, view, "small", view.Block.Prose("note"), quiet: true);
        html.Write("</td></tr></table>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        text.Lines(new[] { view.Block.Words("label"), view.Block.Words("code"), Until(view) }.Where(l => l.Length > 0));
        text.Prose(view.Block.Prose("note"));
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [Read(view, dark, "Code", "heading3", "text"), Read(view, dark, "Small print", "small", "quiet")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Code", "heading3"), Size(view, "Small print", "small")];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => InProse(view, "note");

    private static string Until(in BlockView view) =>
        Dates.Words(view.Block.Moment("until"), view.Context.Language) is { Length: > 0 } day ? $"Until {day}" : "";
}
