using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.HouseStyles;
using GoldenRule.Core.Languages;

namespace GoldenRule.Core.Compiling.Blocks;

/// <summary>What happens, when and where, with a file that puts it into the reader's calendar.</summary>
public sealed class EventBlock : WritableKind
{
    public override string Name => "event";

    public override string Label => "Event";

    public override string About => "What, when and where, with a file for the reader's calendar.";

    public override KindGroup Group => KindGroup.Dates;

    public override ImmutableArray<Field> Fields { get; } =
    [
        new("title", "What", new FieldValue.Words("")) { IsHeadline = true, Sample = "Viaduct evening" },
        new("when", "When", new FieldValue.Moment("", "", CalendarFile.UsualZone)),
        new("where", "Where", new FieldValue.Words("")) { Sample = "Larkfell station, platform 2" },
        new("text", "More about it", new FieldValue.Prose(RichText.Empty)),
        new("addText", "Calendar wording", new FieldValue.Words("Add to your calendar")),
    ];

    public override ImmutableArray<LookProperty> Look { get; } = [new("level", "Heading level", ["3", "2", "4"]), LinkLook];

    public override int LeastWidth(BlockView view) => 180;

    public override void WriteHtml(HtmlWriter html, in BlockView view)
    {
        var (block, gap) = (view.Block, view.Theme.BlockSpace / 2);
        Parts.Heading(html, view, view.LookNumber("level"), block.Words("title"), null, gap);
        Parts.Line(html, view, "body", Dates.Words(block.Moment("when"), view.Context.Language), gap, bold: true);
        Parts.Line(html, view, "body", block.Words("where"), block.Prose("text").IsEmpty ? 0 : gap);
        Parts.Prose(html, view, "body", block.Prose("text"));
        if (Calendar(view) is { } calendar && block.Words("addText").Length > 0)
        {
            Parts.Gap(html, gap * 2);
            var address = view.PicturesAt + calendar.Name;
            if (view.Look("linkStyle") == "link")
            {
                Parts.LinkLine(html, view, "body", block.Words("addText"), address);
            }
            else
            {
                ButtonWriter.Write(html, view.Theme, view.Look("linkStyle"), block.Words("addText"), address, false, view.Width);
            }
        }
    }

    public override void WriteText(PlainTextWriter text, in BlockView view)
    {
        var block = view.Block;
        text.Heading(block.Words("title"), view.LookNumber("level"));
        text.Lines(new[] { Dates.Words(block.Moment("when"), view.Context.Language), block.Words("where") }.Where(l => l.Length > 0));
        text.Prose(block.Prose("text"));
        if (Calendar(view) is { } calendar && block.Words("addText").Length > 0)
        {
            text.Line(PlainTextWriter.Link(block.Words("addText"), view.PicturesAt + calendar.Name));
        }
    }

    public override IEnumerable<Reading> Readings(BlockView view, bool dark) =>
        CardWriter.Readings(view, dark, view.LookNumber("level"), view.Look("linkStyle"), Read);

    public override ImmutableArray<(string What, double Size)> Sizes(BlockView view) =>
        [Size(view, "Heading", Parts.HeadingStyle(view.LookNumber("level"))), Size(view, "Event", "body")];

    public override ImmutableArray<(string Field, string Href)> Links(BlockView view) => InProse(view, "text");

    public override int? HeadingLevel(BlockView view) => view.LookNumber("level");

    public override IEnumerable<(string Name, byte[] Content)> Files(BlockView view) => Calendar(view) is { } calendar ? [calendar] : [];

    private static (string Name, byte[] Content)? Calendar(in BlockView view) =>
        CalendarFile.Write(
            view.Block.Words("title"),
            view.Block.Moment("when"),
            view.Block.Words("where"),
            view.Block.Prose("text").PlainText
        );
}
