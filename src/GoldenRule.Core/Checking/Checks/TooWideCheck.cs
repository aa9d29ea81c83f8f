using GoldenRule.Core.Validation;

namespace GoldenRule.Core.Checking.Checks;

public sealed class TooWideCheck : RowCheck
{
    public override string Name => "too-wide";

    public override string Label => "Pieces too wide for their column";

    public override CheckGroup Group => CheckGroup.Structure;

    public override Severity Usual => Severity.Warn;

    public override string Why =>
        "A block in a column narrower than it needs is squeezed until it cannot be read (common practice, no source).";

    public override void Run(InspectedRow row, Inspection inspection, List<Finding> found)
    {
        foreach (var entry in row.Blocks)
        {
            var least = entry.Kind.LeastWidth(entry.View);
            if (least > entry.Width)
            {
                found.Add(
                    Found(entry.At(), $"\"{NameOf(entry.Block)}\" is too wide for its column.", $"needs {least} px, has {entry.Width}")
                );
            }
        }
    }
}
