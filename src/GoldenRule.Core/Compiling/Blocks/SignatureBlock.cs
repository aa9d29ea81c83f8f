using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Who writes: a portrait if wanted, a name and what they do.</summary>
public sealed class SignatureBlock : WritableKind
{
    private const int Portrait = 64;

    public override string Name => "signature";

    public override string Label => "Signature";

    public override string About => "Who writes, with a portrait if wanted.";

    public override KindGroup Group => KindGroup.Words;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("closing", "Closing", new FieldValue.Words("With kind regards")),
        new("name", "Name", new FieldValue.Words("")) { Sample = "Ruth Calder" },
        new("role", "What they do", new FieldValue.Words("")) { Sample = "Brand email lead" },
        new("picture", "Portrait", new FieldValue.Image("")),
        new("alt", "Alt text", new FieldValue.Words("")) { Sample = "Ruth Calder" },
    ];

    public override ImmutableArray<LookProperty> Look => [];

    public override int LeastWidth(BlockView view) => Portrait + 120;

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var gap = view.Theme.BlockSpace / 2;
        Parts.Line(html, view, "body", view.Block.Words("closing"), gap * 2);
        var portrait = view.Pictures.Find(view.Block.Picture("picture"));
        html.Write("<table role=\"presentation\" cellpadding=\"0\" cellspacing=\"0\" border=\"0\"><tr>"u8);
        if (portrait is not null)
        {
            html.Write(
                $"""<td width="{Portrait}" style="width:{Portrait}px;vertical-align:top;padding:0 {view.Theme.BlockSpace}px 0 0">"""
            );
            new PictureWriter(portrait, view.Block.Words("alt"), "").Write(html, view, Math.Min(Portrait, portrait.Width), false, true);
            html.Write("</td>"u8);
        }

        html.Write("<td style=\"vertical-align:middle\">"u8);
        Parts.Line(html, view, "body", view.Block.Words("name"), bold: true);
        Parts.Line(html, view, "small", view.Block.Words("role"), quiet: true);
        html.Write("</td></tr></table>"u8);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        if (view.Block.Words("closing").Length > 0)
        {
            text.Line(view.Block.Words("closing"));
        }

        text.Lines(new[] { view.Block.Words("name"), view.Block.Words("role") }.Where(l => l.Length > 0));
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [Read(view, dark, "Name", "body", "text"), Read(view, dark, "What they do", "small", "quiet")];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Name", "body"), Size(view, "What they do", "small")];

    public override ImmutableArray<ShownPicture> Pictures(BlockView view) =>
        view.Block.Picture("picture").Length > 0
            ? [new ShownPicture("picture", view.Block.Picture("picture"), view.Block.Words("alt"), false)]
            : [];
}
