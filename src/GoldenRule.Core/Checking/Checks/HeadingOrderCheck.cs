namespace GoldenRule.Core.Checking.Checks;

public sealed class HeadingOrderCheck : Check
{
    public override string Name => "heading-order";

    public override string Why => "People who listen find their way by headings: a level must not be skipped on the way down (WCAG 2.2, 1.3.1 and 2.4.6).";

    public override IEnumerable<Finding> Run(Inspection inspection)
    {
        var above = 0;
        foreach (var (row, view, kind) in inspection.Blocks)
        {
            if (kind.HeadingLevel(view) is not { } level)
            {
                continue;
            }

            if (level > above + 1)
            {
                yield return Found(
                    Severity.Warn,
                    new Place(row.Id, view.Block.Id),
                    above == 0 ? $"The first heading is of level {level}; start with level 1." : $"\"{Label(view.Block)}\" skips a level.",
                    above == 0 ? null : $"level {level} after level {above}");
            }

            above = level;
        }
    }
}
