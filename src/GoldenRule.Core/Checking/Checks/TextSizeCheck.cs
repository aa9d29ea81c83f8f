using System.Globalization;

namespace GoldenRule.Core.Checking.Checks;

public sealed class TextSizeCheck : Check
{
    public override string Name => "text-size";

    public override string Why => "Most readers read on a phone: body text wants 16 px, and nothing under 14 px (common practice, no source).";

    public override IEnumerable<Finding> Run(Inspection inspection) =>
        from entry in inspection.Blocks
        from text in entry.Kind.Sizes(entry.View)
        where text.Size < 16
        group entry by text into sized
        let first = sized.First()
        select Found(
            sized.Key.Size < 14 ? Severity.Stop : Severity.Advise,
            new Place(first.Row.Id, first.View.Block.Id),
            $"{sized.Key.What}: small on a phone.",
            string.Create(CultureInfo.InvariantCulture, $"{sized.Key.Size} px, {(sized.Key.Size < 14 ? "at least 14" : "16 reads better")}"));
}
