using System.Globalization;

namespace GoldenRule.Core.Checking.Checks;

/// <param name="least">True: text that nobody should have to read; false: text that reads better larger.</param>
public sealed class TextSizeCheck(bool least) : RowCheck
{
    public override string Name => least ? "text-size-least" : "text-size";

    public override string Label => least ? "Text under 14 px" : "Text under 16 px";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => least ? Severity.Stop : Severity.Advise;

    public override string Why =>
        "Most readers read on a phone: body text wants 16 px, and nothing under 14 px (common practice, no source).";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            foreach (var text in entry.Sizes)
            {
                if (least ? text.Size < 14 : text.Size is >= 14 and < 16)
                {
                    found.Add(
                        Found(
                            entry.At(),
                            $"{text.What}: small on a phone.",
                            string.Create(CultureInfo.InvariantCulture, $"{text.Size} px, {(least ? "at least 14" : "16 reads better")}")
                        )
                    );
                }
            }
        }
    }

    public override IEnumerable<Finding> Gather(IReadOnlyList<Finding> found) => found.DistinctBy(f => (f.Message, f.Evidence));
}
