using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>A question whose answers are links to one page, each with its answer in the address.</summary>
public sealed class QuestionBlock : WritableKind
{
    public override string Name => "question";

    public override string Label => "Question";

    public override string About => "A question with answers to choose among, each a link that says which.";

    public override KindGroup Group => KindGroup.Links;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("question", "Question", new FieldValue.Words("")) { IsHeadline = true, Sample = "Did you ride with us last year?" },
        new("answers", "Answers", new FieldValue.Entries([])) { Entry = [new("text", "Answer", new FieldValue.Words(""))] },
        new("link", "Page that takes the answers", new FieldValue.Link("")),
        new("tag", "Name of the answer in the address", new FieldValue.Words("answer")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [new("style", "Answers", ["secondary", "primary", "quiet"])];

    public override int LeastWidth(BlockView view) => 160;

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        Parts.Line(html, view, "body", view.Block.Words("question"), view.Theme.BlockSpace / 2, bold: true);
        var style = view.Look("style");
        ButtonWriter.WriteSeveral(html, view, [.. Answers(view).Select(a => (style, a.Words, a.Link))]);
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        text.Line(view.Block.Words("question"));
        text.Lines(Answers(view).Select(a => PlainTextWriter.Link(a.Words, a.Link)));
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        [Read(view, dark, "Question", "body", "text"), ButtonWriter.Reading(view, view.Look("style"), dark)];

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Question", "body"), Size(view, "Answers", view.Look("style"))];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => [("link", view.Block.Href("link"))];

    private static IEnumerable<(string Words, string Link)> Answers(BlockView view) =>
        view
            .Block.Entries("answers")
            .Select(a => a.Words("text"))
            .Select(words => (words, TaggedLink.AddTags(view.Block.Href("link"), view.Block.Words("tag"), words)));
}
