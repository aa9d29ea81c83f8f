using GoldenRule.Core.HouseStyles;

namespace GoldenRule.Core.Checking.Checks;

/// <param name="least">True: what the standard asks for; false: what fingers want.</param>
public sealed class TargetSizeCheck(bool least) : RowCheck
{
    public override string Name => least ? "target-size-least" : "target-size";

    public override string Label => least ? "Buttons under 24 px" : "Buttons under 44 px";

    public override CheckGroup Group => CheckGroup.Reading;

    public override Severity Usual => least ? Severity.Warn : Severity.Advise;

    public override string Why => "Fingers need room: 24 px at least (WCAG 2.2, 2.5.8), 44 px to be comfortable (2.5.5).";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        if (row.Blocks.IsEmpty || row.Blocks[0].View.Theme.LeastButton >= (least ? 24 : 44))
        {
            return;
        }

        foreach (var entry in row.Blocks)
        {
            foreach (var style in entry.Kind.Buttons(entry.View))
            {
                var height = entry.View.Theme.Button(style).Height;
                if (least ? height < 24 : height is >= 24 and < 44)
                {
                    found.Add(
                        Found(
                            entry.At(),
                            $"{GlobalStyles.Label(style)}: low for a finger.",
                            $"{height} px, {(least ? "at least 24" : "44 is comfortable")}"
                        )
                    );
                }
            }
        }
    }

    public override IEnumerable<Finding> Gather(IReadOnlyList<Finding> found) => found.DistinctBy(f => (f.Message, f.Evidence));
}
