using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>Accept and decline: two links to one page, each with its reply in the address.</summary>
public sealed class ReplyPairBlock : WritableKind
{
    public override string Name => "reply-pair";

    public override string Label => "Accept or decline";

    public override string About => "Two buttons that answer an invitation.";

    public override KindGroup Group => KindGroup.Links;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("accept", "Accept, wording", new FieldValue.Words("I'll come")),
        new("decline", "Decline, wording", new FieldValue.Words("I can't")),
        new("link", "Page that takes the reply", new FieldValue.Link("")),
        new("tag", "Name of the reply in the address", new FieldValue.Words("reply")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } =
    [new("style", "Accept", ["primary", "secondary"]), new("other", "Decline", ["quiet", "secondary"]), Align];

    public override int LeastWidth(BlockView view) => 160;

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var (style, other) = (view.Look("style"), view.Look("other"));
        var replies = Replies(view);
        ButtonWriter.WriteSeveral(html, view, [(style, replies[0].Words, replies[0].Link), (other, replies[1].Words, replies[1].Link)]);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view) =>
        text.Lines(Replies(view).Select(r => PlainTextWriter.Link(r.Words, r.Link)));

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [ButtonWriter.Reading(view, view.Look("style"), dark), ButtonWriter.Reading(view, view.Look("other"), dark)];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Accept", view.Look("style")), Size(view, "Decline", view.Look("other"))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => [("link", view.Block.Href("link"))];

    private static (string Words, string Link)[] Replies(in BlockView view)
    {
        var (link, tag) = (view.Block.Href("link"), view.Block.Words("tag"));
        return
        [
            (view.Block.Words("accept"), TaggedLink.AddTags(link, tag, "accept")),
            (view.Block.Words("decline"), TaggedLink.AddTags(link, tag, "decline")),
        ];
    }
}
